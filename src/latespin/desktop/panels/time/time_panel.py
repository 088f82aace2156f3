"""The Time panel: four pages, and a meter of audible stretching."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QWidget

from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.panels.time.character_page import CharacterPage
from latespin.desktop.panels.time.curve_page import CurvePage
from latespin.desktop.panels.time.halftime_page import HalftimePage
from latespin.desktop.panels.time.speed_page import SpeedPage
from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, WarningLabel, command_button
from latespin.model.arranging.placement import TIME
from latespin.model.text.stretch_warnings import Strain, strain_of
from latespin.model.version import Stages

PAGES = {
    "speed": ("Speed and pitch", "How fast, how high."),
    "character": ("Character and formants", "What time-stretching preserves best, and the formants of voices."),
    "curve": ("Tempo curve", "A speed that changes over the song, drawn on the Before waveform."),
    "halftime": ("Halftime", "Half speed, of the song or bar by bar."),
}


class TimePanel(StagePanel):
    """Speed and pitch, character and formants, tempo curve, halftime."""

    way_typed = Signal(str, str)
    page_opened = Signal(str)
    wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__("time")
        head = QHBoxLayout()
        head.setSpacing(16)
        self.choices = SegmentedButton("Page of the Time panel", PAGES, "time")
        self.choices.chosen.connect(self.open_page)
        self.strain = StrainMeter()
        self.worst = command_button(
            "worst_strain", "Worst place", "Jump to the place of the most strain (V).", self.wanted, dense=True
        )
        head.addWidget(self.choices)
        head.addWidget(self.strain, 1)
        head.addWidget(self.worst)
        self.show_here(None)
        self.column.addLayout(head)
        self.stack = QStackedWidget()
        self.speed, self.character, self.curve, self.halftime = (
            SpeedPage(),
            CharacterPage(),
            CurvePage(),
            HalftimePage(),
        )
        self.pages = {"speed": self.speed, "character": self.character, "curve": self.curve, "halftime": self.halftime}
        for page in self.pages.values():
            self.stack.addWidget(page)
            page.edited.connect(self.edited)
            page.settled.connect(self.settled)
            page.asked.connect(self.way_typed)
        self.column.addWidget(self.stack, 1)
        self.problem = WarningLabel()
        self.column.addWidget(self.problem)
        self.bars |= {
            bar.objectName(): bar for bar in (self.speed.speed, self.speed.semitones, self.character.formant_shift)
        }
        self.page = "speed"
        self.choices.choose(self.page)

    def open_page(self, name: str) -> None:
        """Show a page."""
        self.page = name
        self.choices.choose(name)
        self.stack.setCurrentWidget(self.pages[name])
        self.page_opened.emit(name)

    def show_here(self, words: tuple[str, ...] | None) -> None:
        """Say what will be heard at the playhead; None while nothing of the song is strained."""
        self.worst.setVisible(words is not None)
        self.strain.show_here(words)

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        for page in self.pages.values():
            page.show_stages(stages, document)
        self.strain.show_strain(strain_of(stages.time))
        problems = [problem.says for problem in document.problems() if problem.id == TIME]
        self.problem.say(" ".join(problems))


class StrainMeter(QWidget):
    """A short line that fills with strain, and what will be heard of it."""

    LINE = 72

    def __init__(self) -> None:
        super().__init__()
        self.strain = Strain(0.0, ())
        self._here: tuple[str, ...] | None = None
        self.setToolTip(
            tr(
                "How far stretch and shift are from natural, and what will be heard of it. It never stops you from anything."
            )
        )
        self.setAccessibleName(tr("Strain"))

    def sizeHint(self) -> QSize:
        return QSize(240, 28)

    def words(self) -> str:
        """The text beside the line."""
        return "; ".join(self.strain.words).capitalize() or (
            tr("Untouched") if self.strain.amount == 0.0 else tr("Natural")
        )

    def text(self) -> str:
        """What is written: what will be heard at the playhead, where that is known, else anywhere."""
        if self._here is None:
            return self.words()
        return tr("At the playhead: {0}").format("; ".join(self._here) or tr("natural"))

    def show_here(self, words: tuple[str, ...] | None) -> None:
        """Say what is strained at the playhead; None where that is not known, or nothing is anywhere."""
        if words != self._here:
            self._here = words
            self.update()

    def show_strain(self, strain: Strain) -> None:
        """Show how strained a version is."""
        self.strain = strain
        self.setAccessibleDescription(f"{round(100 * strain.amount)} %. {self.words()}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(12))
        middle = self.height() / 2
        words = painter.fontMetrics().elidedText(
            self.text(), Qt.TextElideMode.ElideRight, self.width() - self.LINE - 12
        )
        wide = painter.fontMetrics().horizontalAdvance(words)
        left = self.width() - wide - self.LINE - 12.0
        for end, token in (
            (self.LINE, "line"),
            (self.LINE * self.strain.amount, "warning" if self.strain.words else "time"),
        ):
            if end > 0.0:
                painter.setPen(QPen(colour(token), 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawLine(QPointF(left + 2, middle), QPointF(left + max(3.0, end) - 2, middle))
        painter.setPen(colour("ink" if self.strain.words else "ink_soft"))
        painter.drawText(
            QRectF(self.width() - wide - 1.0, 0, wide + 1.0, self.height()), Qt.AlignmentFlag.AlignVCenter, words
        )
