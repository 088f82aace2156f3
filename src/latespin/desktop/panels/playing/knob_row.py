"""Eight knobs in two rows: what each turns, its value, and the mouse that turns it."""

import math
from dataclasses import dataclass

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QContextMenuEvent,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.model.playing.surface_map import KNOBS

COLUMNS, RADIUS = 4, 17.0
FIRST_DEGREES, SWEEP_DEGREES = 225.0, 270.0
DRAG_PIXELS = 160.0  # from one end to the other
WHEEL_SHARE, KEY_SHARE = 1.0 / 40.0, 1.0 / 40.0


@dataclass(frozen=True)
class Shown:
    """What a knob shows. share : 0 to 1, or None where it turns nothing in this version."""

    title: str
    text: str
    share: float | None


class KnobRow(QWidget):
    """``turned`` carries a knob's number and by which share of its range; ``menu_wanted`` a number and a point on the screen."""

    ACCESS_ROLE = QAccessible.Role.Grouping

    turned = Signal(int, float)
    settled = Signal()
    menu_wanted = Signal(int, QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumWidth(COLUMNS * 74)
        self.setAccessibleName(tr("Knobs"))
        self.setToolTip(
            tr(
                "Drag a knob up or down, or use the wheel; Left and Right choose one, Up and Down turn it. A right click changes what it turns."
            )
        )
        self.shown: list[Shown] = [Shown("", "", None) for _ in range(KNOBS)]
        self.chosen = 0
        self._dragged: int | None = None
        self._last_y = 0.0

    def show_knobs(self, shown: list[Shown]) -> None:
        """Show what the knobs turn."""
        if shown != self.shown:
            self.shown = shown
            self.update()

    def knob_rect(self, number: int) -> QRectF:
        """Where a knob lies, its words included."""
        row, column = divmod(number, COLUMNS)
        wide, tall = self.width() / COLUMNS, self.height() / (KNOBS // COLUMNS)
        return QRectF(column * wide, row * tall, wide, tall)

    def _knob_at(self, at: QPointF) -> int:
        return next((number for number in range(KNOBS) if self.knob_rect(number).contains(at)), 0)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._dragged = self.chosen = self._knob_at(event.position())
            self._last_y = event.position().y()
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragged is not None:
            by = (self._last_y - event.position().y()) / DRAG_PIXELS
            fine = 0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._last_y = event.position().y()
            self.turned.emit(self._dragged, by * fine)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragged is not None:
            self._dragged = None
            self.settled.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.turned.emit(self._knob_at(event.position()), event.angleDelta().y() / 120.0 * WHEEL_SHARE)
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}
        moves = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event.key() in steps:
            self.turned.emit(self.chosen, steps[Qt.Key(event.key())] * KEY_SHARE)
        elif event.key() in moves:
            self.chosen = (self.chosen + moves[Qt.Key(event.key())]) % KNOBS
            self.update()
        else:
            super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.menu_wanted.emit(self._knob_at(QPointF(event.pos())), event.globalPos())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, shown in enumerate(self.shown):
            self._draw(painter, self.knob_rect(number), shown, focused=self.hasFocus() and number == self.chosen)

    def _draw(self, painter: QPainter, rect: QRectF, shown: Shown, *, focused: bool) -> None:
        centre = QPointF(rect.center().x(), rect.top() + RADIUS + 8)
        ring = QRectF(centre.x() - RADIUS, centre.y() - RADIUS, 2 * RADIUS, 2 * RADIUS)
        whole = (round((FIRST_DEGREES - SWEEP_DEGREES) * 16), round(SWEEP_DEGREES * 16))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("line"), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawArc(ring, *whole)
        if shown.share is not None:
            turned = SWEEP_DEGREES * shown.share
            painter.setPen(QPen(colour("after"), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawArc(ring, round((FIRST_DEGREES - turned) * 16), round(turned * 16))
            angle = math.radians(FIRST_DEGREES - turned)
            tip = QPointF(centre.x() + 9 * math.cos(angle), centre.y() - 9 * math.sin(angle))
            painter.setPen(QPen(colour("ink"), 2.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(centre, tip)
        if focused:
            painter.setPen(QPen(colour("focus"), 2))
            painter.drawRoundedRect(rect.adjusted(2, 2, -2, -2), 8, 8)
        self._words(painter, rect, centre.y() + RADIUS, shown)

    def _words(self, painter: QPainter, rect: QRectF, top: float, shown: Shown) -> None:
        painter.setFont(font(12, SEMI_BOLD))
        painter.setPen(colour("ink") if shown.share is not None else colour("ink_soft"))
        centred = int(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        painter.drawText(QRectF(rect.left(), top + 1, rect.width(), 16), centred, shown.text)
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        metrics = QFontMetricsF(painter.font())
        for i, line in enumerate(shown.title.split("\n")[:2]):
            words = metrics.elidedText(line, Qt.TextElideMode.ElideRight, rect.width() - 4)
            painter.drawText(QRectF(rect.left(), top + 18 + 14 * i, rect.width(), 15), centred, words)
