"""The handle of the marked range, by which it is dragged out of the window as a file."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen
from PySide6.QtWidgets import QApplication

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_PX, Layer
from latespin.desktop.theme.theme import colour

SIDE, GAP = 22.0, 5.0


class RangeHandleLayer(Layer):
    """A small button in the upper right corner of the range on After, or beside it where the range is narrow.

    marked : seconds of Before, or None.  dragged_out : the pointer moves away from it with the button pressed.
    """

    dragged_out = Signal()

    def __init__(
        self, geometry: Callable[[], CanvasGeometry], marked: Callable[[], tuple[float, float] | None], parent: QObject | None = None
    ) -> None:  # fmt: skip
        super().__init__(geometry, parent)
        self._marked = marked
        self._pressed: QPointF | None = None
        self.held = False

    def rect(self) -> QRectF | None:
        """Where it is; None where nothing is marked in view."""
        marked, geometry = self._marked(), self.geometry
        if marked is None:
            return None
        ends = (geometry.scale.x(geometry.to_after(seconds)) for seconds in marked)
        left, right = sorted(min(max(x, 0.0), geometry.scale.width) for x in ends)
        if left == right:
            return None
        room = right - left >= SIDE + 2 * (GAP + GRIP_PX)
        x = right - SIDE - GAP if room else right + GAP
        return QRectF(min(x, geometry.scale.width - SIDE), geometry.bands.after.top() + GAP, SIDE, SIDE)

    def holds(self, at: QPointF) -> bool:
        """Whether a place is on it."""
        rect = self.rect()
        return rect is not None and rect.contains(at)

    def press(self, at: QPointF) -> bool:
        self.held = self.holds(at)
        self._pressed = at if self.held else None
        return self.held

    def drag(self, at: QPointF, *, free: bool) -> None:
        if self._pressed is None or (at - self._pressed).manhattanLength() < QApplication.startDragDistance():
            return
        self._pressed = None
        self.dragged_out.emit()

    def release(self) -> None:
        self.held, self._pressed = False, None

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        return Qt.CursorShape.OpenHandCursor if self.holds(at) else None

    def paint(self, painter: QPainter) -> None:
        """A sheet with an arrow that leaves it."""
        rect = self.rect()
        if rect is None:
            return
        painter.setPen(QPen(colour("focus"), 1.0))
        painter.setBrush(colour("raised"))
        painter.drawRoundedRect(rect, 5.0, 5.0)
        painter.setPen(QPen(colour("ink"), 1.6, c=Qt.PenCapStyle.RoundCap, j=Qt.PenJoinStyle.RoundJoin))
        x, y = rect.left(), rect.top()
        painter.drawPolyline([QPointF(x + 11, y + 6), QPointF(x + 6, y + 6), QPointF(x + 6, y + 16), QPointF(x + 11, y + 16)])  # fmt: skip
        painter.drawLine(QPointF(x + 9, y + 11), QPointF(x + 17, y + 11))
        painter.drawPolyline([QPointF(x + 14, y + 8), QPointF(x + 17, y + 11), QPointF(x + 14, y + 14)])
