"""The stage bar: five cards, each saying what its stage does now."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QFontMetrics, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QWidget

from latespin.desktop.theme.theme import BOLD, SEMI_BOLD, STAGE_TITLES, STAGES, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import Switch
from latespin.desktop.widgets.wrapping import paint_wrapped
from latespin.model.arranging.placement import ENDING, TIME, Problem
from latespin.model.text.describe import say_colour, say_ending, say_level, say_moments, say_time
from latespin.model.timing.positions import Layout
from latespin.model.version import Stages

TIPS = {
    "time": "Speed and pitch.",
    "colour": "Reverb, worn media, underwater, small speakers, 8D spin, EQ and layers.",
    "moments": "What happens at a place in the song: tape stops, stutters, reversed words, a dive under water.",
    "ending": "How the version finishes, and what follows its last beat.",
    "level": "How loud the finished version is.",
}


WARNING = "⚠"
HEIGHT = 76
TITLE_LEFT, SWITCH_ROOM = 12, 56


class StageCard(QWidget):
    """One stage. Click or Return opens its panel; the switch takes it out to hear what it does."""

    ACCESS_ROLE = QAccessible.Role.PageTab

    chosen = Signal(str)

    def __init__(self, name: str, number: int) -> None:
        super().__init__()
        self.name = name
        self.sentence = "\0"  # nothing has been said yet
        self.problems: tuple[str, ...] = ()
        self.current = False
        self.setFixedHeight(HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        keys = tr("Press {0} to open its panel. Shift+{0} switches it off and on.").format(number)
        self._tip = f"{tr(TIPS[name])}\n{keys}"
        self.setToolTip(self._tip)
        title = tr(STAGE_TITLES[name])
        self.switch = Switch(
            tr("{0} on").format(title),
            name,
            tr("Switch {0} off and on to compare at the same loudness.").format(title),
            self,
        )
        self.setMinimumWidth(TITLE_LEFT + QFontMetrics(font(12, BOLD)).horizontalAdvance(title) + SWITCH_ROOM)

    def show_sentence(self, sentence: str, *, on: bool, current: bool, problems: tuple[str, ...] = ()) -> None:
        """Show what the stage does, and why parts of it are not heard."""
        if (sentence, problems, on, current) == (self.sentence, self.problems, self.switch.isChecked(), self.current):
            return
        self.sentence, self.problems, self.current = sentence, problems, current
        self.switch.setChecked(on)
        self.setToolTip("\n".join([sentence, *problems, self._tip]))
        self.setAccessibleName(tr("{0} stage").format(tr(STAGE_TITLES[self.name])))
        self.setAccessibleDescription(". ".join([sentence, *problems]))
        self.update()

    def resizeEvent(self, event: QEvent) -> None:
        self.switch.move(self.width() - 46, 8)
        super().resizeEvent(event)  # type: ignore[arg-type]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit(self.name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.chosen.emit(self.name)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(self.rect()).adjusted(1, 1, -1, 0 if self.current else -5)
        live = self.switch.isChecked()
        accent = colour(self.name)
        painter.setPen(
            QPen(colour("focus"), 2) if self.hasFocus() else QPen(accent if self.current else colour("line"), 1)
        )
        painter.setBrush(colour("raised") if self.current else colour("panel"))
        painter.drawRoundedRect(body, 10, 10)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(accent)
        painter.setOpacity(1.0 if live or self.current else 0.55)
        painter.drawRoundedRect(QRectF(body.left() + 10, body.top(), body.width() - 20, 3), 1.5, 1.5)
        painter.setOpacity(1.0)
        inner = body.adjusted(12, 10, -10, -6)
        painter.setFont(font(12, BOLD))
        painter.setPen(accent)
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, tr(STAGE_TITLES[self.name]))
        painter.setFont(font(12, SEMI_BOLD))
        if self.problems:
            painter.setPen(colour("warning"))
            painter.drawText(
                inner.adjusted(0, 20, 0, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, WARNING
            )
            inner.adjust(painter.fontMetrics().horizontalAdvance(f"{WARNING} "), 0, 0, 0)
        painter.setPen(colour("ink") if live else colour("ink_soft"))
        paint_wrapped(painter, inner.adjusted(0, 20, 0, 0), self.sentence)


class StageBar(QWidget):
    """The five stages in their order."""

    chosen = Signal(str)
    switched = Signal(str, bool)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 0)
        row.setSpacing(8)
        self.cards = {name: StageCard(name, number) for number, name in enumerate(STAGES, 1)}
        for name, card in self.cards.items():
            card.chosen.connect(self.chosen)
            card.switch.clicked.connect(lambda on, n=name: self.switched.emit(n, on))
            row.addWidget(card, 2 if name == "moments" else 3)

    def show_stages(
        self, stages: Stages, current: str, layout: Layout | None = None, problems: Sequence[Problem] = ()
    ) -> None:
        """Describe all stages; ``current`` has the open panel.  problems : requests that are not heard as asked."""
        message = {
            "time": say_time(stages.time, layout.grid if layout else None), "colour": say_colour(stages.colour), "moments": say_moments(stages.moments),
            "ending": say_ending(stages.ending, layout), "level": say_level(stages.level),
        }  # fmt: skip
        for name, card in self.cards.items():
            on = getattr(stages, name).on
            wrong = tuple(problem.says for problem in problems if on and _stage_of(problem, stages) == name)
            card.show_sentence(message[name], on=on, current=name == current, problems=wrong)


def _stage_of(problem: Problem, stages: Stages) -> str:
    """The stage that a problem belongs to."""
    if problem.id in (TIME, ENDING):
        return problem.id
    return "colour" if stages.colour.find(problem.id) is not None else "moments"
