"""The version list: one card per version."""

import math
from typing import TYPE_CHECKING

from PySide6.QtCore import QCoreApplication, QEvent, QPoint, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QAccessible,
    QAction,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QScrollArea, QVBoxLayout, QWidget

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.canvas.waveform_image import draw_waveform
from latespin.desktop.session.document import Document
from latespin.desktop.shell.recipe_strip import MOST_VERSIONS, RecipeStrip
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import icon, quiet_label
from latespin.desktop.widgets.wrapping import paint_wrapped
from latespin.dsp.arrays import amplitude
from latespin.media.audio.peaks import expected_peaks
from latespin.model.text.describe import say_version
from latespin.model.version import Version

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

CARD = QSize(200, 108)
CHECK_PX = 20
FIRST_CARDS, MORE_CARDS = 12, 4  # made at once for a new list, and in each later turn
WAVEFORMS_MS = 150  # after the last change, until the small waveforms are drawn anew
EXPORTED, CHANGED = "exported", "changed since export"


class VersionCard(QWidget):
    """One version: its name, its sentence, a small waveform, and whether its file is up to date."""

    ACCESS_ROLE = QAccessible.Role.ListItem

    chosen = Signal(str)
    renamed = Signal(str, str)
    menu_wanted = Signal(str, QPoint)
    waveform_wanted = Signal(str)  # its waveform is seen, and not drawn yet
    moved = Signal(int)

    def __init__(self, version: Version, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.version = version
        self.current = False
        self.exported = ""
        self._picture: QPixmap | None = None
        self._drawn = False
        self._shown: tuple[Version, bool, str] | None = None
        self.setFixedHeight(CARD.height())
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._made_line: QLineEdit | None = None

    @property
    def _line(self) -> QLineEdit:
        """Where its name is typed; most cards never need it."""
        if self._made_line is None:
            self._made_line = line = QLineEdit(self)
            line.hide()
            line.setFont(font(14, SEMI_BOLD))
            line.setAccessibleName(tr("Name of the version"))
            line.editingFinished.connect(self._finish_rename)
        return self._made_line

    def show_version(self, version: Version, *, current: bool, exported: str) -> None:
        """Show a version's words."""
        shown = self._shown
        if shown is not None and shown[0] is version and shown[1:] == (current, exported):
            return
        self._shown = version, current, exported
        self.version, self.current, self.exported = version, current, exported
        self.setAccessibleName(tr("Version {0}").format(version.name))
        words = say_version(version.stages)
        self.setAccessibleDescription(words)
        state = tr("\nIts file: {0}.").format(exported) if exported else ""
        state += tr("\nA favourite.") if version.favourite else ""
        state += tr("\nNote: {0}").format(version.note) if version.note else ""
        self.setToolTip(
            tr("{0}: {1}{2}\nClick to work on it, F2 to rename, right-click for more.").format(
                version.name, words, state
            )
        )
        self.update()

    def show_waveform(self, peaks: "Peaks", longest: float, strength: float) -> None:
        """Show its shape, all cards on one time scale."""
        ratio = self.devicePixelRatioF()
        width, height = max(1, int((self.width() - 24) * ratio)), int(28 * ratio)
        image = draw_waveform(peaks, TimeScale.fitted(width, longest), width, height, colour("after"), strength)
        self._picture = QPixmap.fromImage(image)
        self._picture.setDevicePixelRatio(ratio)

    def forget_waveform(self) -> None:
        """Have it drawn anew when it is next seen."""
        self._drawn = False
        self.update()

    def rename(self) -> None:
        """Let the name be typed."""
        self._line.setText(self.version.name)
        self._line.setGeometry(6, 6, self.width() - 12, 28)
        self._line.show()
        self._line.setFocus()
        self._line.selectAll()

    def _finish_rename(self) -> None:
        if not self._line.isHidden():
            self._line.hide()
            self.renamed.emit(self.version.id, self._line.text())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit(self.version.id)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.rename()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.chosen.emit(self.version.id)
        self.menu_wanted.emit(self.version.id, event.globalPos())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.chosen.emit(self.version.id)
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.moved.emit(-1 if event.key() == Qt.Key.Key_Up else 1)
        elif event.key() == Qt.Key.Key_Escape and not self._line.isHidden():
            self._line.setText("")
            self._line.hide()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._drawn:
            self._drawn = True
            self.waveform_wanted.emit(self.version.id)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        focus = self.hasFocus()
        painter.setPen(
            QPen(
                colour("focus") if focus else colour("after") if self.current else colour("line"),
                2 if focus else 1,
            )
        )
        painter.setBrush(colour("raised") if self.current else colour("panel"))
        painter.drawRoundedRect(body, 10, 10)
        inner = body.adjusted(11, 9, -11, -8)
        painter.setFont(font(14, SEMI_BOLD))
        painter.setPen(colour("ink"))
        marks = bool(self.exported) + self.version.favourite + bool(self.version.note)
        room = inner.width() - CHECK_PX * marks
        name = painter.fontMetrics().elidedText(self.version.name, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, name)
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        place = inner.adjusted(0, 20, 0, -28)
        paint_wrapped(painter, place, say_version(self.version.stages))
        if self._picture is not None:
            painter.drawPixmap(int(inner.left()), int(inner.bottom() - 28), self._picture)
        x = inner.right() - 12
        if self.exported:
            self._paint_mark(painter, x, inner.top() + 9)
            x -= CHECK_PX
        if self.version.favourite:
            self._paint_star(painter, QPointF(x + 6, inner.top() + 9))
            x -= CHECK_PX
        if self.version.note:
            self._paint_note(painter, QRectF(x + 1, inner.top() + 4, 10, 10))

    def _paint_mark(self, painter: QPainter, x: float, y: float) -> None:
        """A tick if its file is up to date, a dot if it is out of date."""
        if self.exported == EXPORTED:
            painter.setPen(QPen(colour("ink_soft"), 2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawPolyline([QPointF(x, y), QPointF(x + 4, y + 4), QPointF(x + 11, y - 5)])
        else:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("warning"))
            painter.drawEllipse(QPointF(x + 6, y), 4, 4)

    def _paint_star(self, painter: QPainter, middle: QPointF) -> None:
        """The mark of a favourite."""
        turns = [(2.0 * math.pi * n / 10.0 - math.pi / 2.0, 7.0 if n % 2 == 0 else 3.0) for n in range(10)]
        points = [middle + QPointF(radius * math.cos(turn), radius * math.sin(turn)) for turn, radius in turns]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("level"))
        painter.drawPolygon(QPolygonF(points))

    def _paint_note(self, painter: QPainter, place: QRectF) -> None:
        """The mark of a note: three written lines."""
        painter.setPen(QPen(colour("ink_soft"), 1.5))
        for n, share in enumerate((1.0, 1.0, 0.6)):
            y = place.top() + 1.0 + 4.0 * n
            painter.drawLine(QPointF(place.left(), y), QPointF(place.left() + share * place.width(), y))


class VersionList(QWidget):
    """All cards, and the buttons to make more."""

    new_wanted = Signal(str)
    export_wanted = Signal()

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.cards: dict[str, VersionCard] = {}
        self.exported: dict[str, object] = {}
        self._seconds: dict[str, float] = {}  # how long the versions are whose waveforms were drawn
        self.setFixedWidth(228)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 4, 4, 8)
        column.setSpacing(8)
        column.addWidget(quiet_label(tr("Versions")))
        self._list = QWidget()
        self._rows = QVBoxLayout(self._list)
        self._rows.setContentsMargins(0, 0, 6, 0)
        self._rows.setSpacing(8)
        self._rows.addStretch()
        self._seen = ""
        self._area = area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(self._list)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(area, 3)
        self.strip = RecipeStrip()
        column.addWidget(self.strip, 4)
        self.new_button = QPushButton(tr("New"))
        self.new_button.setToolTip(tr("Add a version that starts from a recipe, or from the track as it is."))
        self.duplicate_button = QPushButton(tr("Duplicate"))
        self.duplicate_button.setToolTip(tr("Add a copy of the chosen version (Ctrl+D)."))
        self.duplicate_button.clicked.connect(document.duplicate_version)
        self.menu = QMenu(self)
        self.new_button.setMenu(self.menu)
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        buttons.addWidget(self.new_button, 3)
        buttons.addWidget(self.duplicate_button, 2)
        column.addLayout(buttons)
        for button in (self.new_button, self.duplicate_button):
            button.setStyleSheet("padding: 6px 6px;")
        self._more = QTimer(self, singleShot=True, interval=0)
        self._more.timeout.connect(lambda: self._show_cards(MORE_CARDS))
        self._later = QTimer(self, singleShot=True, interval=WAVEFORMS_MS)
        self._later.timeout.connect(self.refresh_waveforms)
        for kept in (self.exported, self._seconds):  # of the session before; ids may come again
            document.track_changed.connect(kept.clear)
        document.session_changed.connect(self.refresh)
        document.measured_changed.connect(self.refresh_waveforms)
        self.restyle()
        self.refresh()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        self.new_button.setIcon(icon("add"))

    def offer_recipes(self, recipes: list[tuple[str, str, str]]) -> None:
        """Fill the menu of the new-version button with (name, title, summary)."""
        self.menu.clear()
        for name, title, summary in [*recipes, ("", "The track as it is", "Nothing changed yet.")]:
            action = QAction(tr(title), self.menu)
            action.setToolTip(tr(summary))
            action.triggered.connect(lambda _=False, n=name: self.new_wanted.emit(n))
            self.menu.addAction(action)
        self.menu.setToolTipsVisible(True)
        self.strip.offer(recipes)

    def mark_exported(self, version: Version) -> None:
        """Remember that a version's file is up to date."""
        self.exported[version.id] = version.stages
        self.refresh()

    def refresh(self) -> None:
        """Show the session's versions, making and dropping cards only where needed."""
        session = self._document.session
        self.setEnabled(self._document.loaded is not None)
        self.strip.setVisible(len(session.versions) <= MOST_VERSIONS)
        for ident in self.cards.keys() - {version.id for version in session.versions}:
            card = self.cards.pop(ident)
            self._seconds.pop(ident, None)
            self._rows.removeWidget(card)
            card.hide()
            card.deleteLater()
        self._show_cards(MORE_CARDS if self.cards else FIRST_CARDS)
        self._later.start()

    def _show_cards(self, most: int) -> None:
        """Update the cards. Missing ones are made ``most`` at a time, the rest in later turns of the event loop: a long list never blocks the window."""
        session = self._document.session
        for place, version in enumerate(session.versions):
            card = self.cards.get(version.id)
            if card is None and most == 0:
                self._more.start()
                break
            if card is None:
                card, most = self._make_card(version), most - 1
            if (item := self._rows.itemAt(place)) is None or item.widget() is not card:
                self._rows.insertWidget(place, card)
                card.show()  # Qt would show it later, and until then it has no place
            saved = self.exported.get(version.id)
            state = "" if saved is None else EXPORTED if saved == version.stages else CHANGED
            card.show_version(version, current=version.id == session.chosen, exported=state)
        if session.chosen != self._seen and session.chosen in self.cards:
            self._seen = session.chosen
            QTimer.singleShot(0, self._show_chosen)

    def _show_chosen(self) -> None:
        """Scroll to the chosen card, once its place is known."""
        if self._seen in self.cards:
            QCoreApplication.sendPostedEvents(self._list, QEvent.Type.LayoutRequest.value)
            self._area.ensureWidgetVisible(self.cards[self._seen], 0, 8)

    def refresh_waveforms(self) -> None:
        """Have the small waveforms drawn anew, each when it is next seen."""
        for card in self.cards.values():
            card.forget_waveform()

    def _draw_waveform(self, ident: str) -> None:
        """Draw a card's waveform; where it is longer than any before, the others as well, on the new scale."""
        if self._list.height() < len(self.cards) * CARD.height():  # not laid out yet: new cards lie over one another
            self._later.start()
            return
        document = self._document
        loaded, version = document.loaded, document.session.version(ident)
        if loaded is None or version is None:
            return
        measured, time_map = document.measured(version.stages), document.time_map(version.stages)
        assert time_map is not None
        gain = 0.0 if measured else amplitude(document.plan(version.stages).gain_db)
        peaks = measured.peaks if measured else expected_peaks(loaded.peaks, time_map, gain)
        before = max(self._seconds.values(), default=0.0)
        self._seconds[ident] = peaks.frames / loaded.track.rate
        longest = max(self._seconds.values())
        self.cards[ident].show_waveform(peaks, longest, 1.0 if measured else 0.5)
        if longest != before and len(self._seconds) > 1:
            self._later.start()

    def _make_card(self, version: Version) -> VersionCard:
        card = VersionCard(version)
        card.chosen.connect(self._document.choose)
        card.renamed.connect(self._document.rename_version)
        card.menu_wanted.connect(self._open_menu)
        card.waveform_wanted.connect(self._draw_waveform)
        card.moved.connect(self._focus_next)
        self.cards[version.id] = card
        return card

    def _focus_next(self, by: int) -> None:
        versions = self._document.session.versions
        at = next((i for i, v in enumerate(versions) if v.id == self._document.session.chosen), 0) + by
        if 0 <= at < len(versions):
            self._document.choose(versions[at].id)
            if card := self.cards.get(versions[at].id):
                card.setFocus()

    def _open_menu(self, ident: str, at: QPoint) -> None:
        menu = QMenu(self)
        entries = (
            ("Duplicate", self._document.duplicate_version),
            ("Rename", self.cards[ident].rename),
            ("Move up", lambda: self._document.move_version(ident, -1)),
            ("Move down", lambda: self._document.move_version(ident, 1)),
            ("Export …", self.export_wanted.emit),
            ("Delete", lambda: self._document.delete_version(ident)),
        )
        for title, function in entries:
            menu.addAction(tr(title), function)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)
