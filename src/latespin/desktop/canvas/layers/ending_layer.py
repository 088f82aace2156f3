"""The ending on the After waveform, and dragging it."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_TALL, Layer
from latespin.desktop.theme.theme import BOLD, colour, font


class EndingLayer(Layer):
    """The end of the version and what is heard after it.

    moved : seconds of Before, and whether they snapped.  at, until : seconds of After.  place : of Before.
    """

    moved = Signal(float, bool)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.at: float | None = None
        self.until, self.place, self.title = 0.0, 0.0, ""
        self.editing = False
        self._held = False

    def show(self, at: float | None, until: float, place: float, title: str, *, editing: bool) -> None:
        """Show an ending from ``at`` to ``until`` in After, at ``place`` in Before; None where there is none."""
        if (at, until, place, title, editing) != (self.at, self.until, self.place, self.title, self.editing):
            self.at, self.until, self.place, self.title, self.editing = at, until, place, title, editing
            self.changed.emit()

    def grip(self) -> QRectF | None:
        """The handle of the ending."""
        if self.at is None:
            return None
        band = self.geometry.bands.after
        return QRectF(self.geometry.scale.x(self.at) - 5.0, band.center().y() - GRIP_TALL / 2, 10.0, GRIP_TALL)

    def press(self, at: QPointF) -> bool:
        grip = self.grip()
        self._held = grip is not None and self.editing and grip.adjusted(-4, -4, 4, 4).contains(at)
        return self._held

    def drag(self, at: QPointF, *, free: bool) -> None:
        assert self.at is not None
        scale = self.geometry.scale
        seconds = self.geometry.clock_at(self.place, scale.start + at.x() / scale.px_per_second - self.at)
        snapped = self.geometry.snapped(seconds, free=free)
        self.moved.emit(max(0.0, snapped), snapped != seconds)

    def release(self) -> None:
        self._held = False
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        grip = self.grip()
        over = grip is not None and self.editing and grip.adjusted(-4, -4, 4, 4).contains(at)
        return Qt.CursorShape.SizeHorCursor if over else None

    def paint(self, painter: QPainter) -> None:
        """Shade what is heard after the end, and draw where it is."""
        if self.at is None:
            return
        band, scale = self.geometry.bands.after, self.geometry.scale
        a, b = scale.x(self.at), scale.x(self.until)
        painter.fillRect(QRectF(a, band.top(), max(2.0, b - a), band.height()), colour("ending", 0.14))
        painter.setPen(QPen(colour("ending"), 2.0))
        painter.drawLine(QPointF(a, band.top()), QPointF(a, band.bottom()))
        painter.setFont(font(11, BOLD))
        wide = painter.fontMetrics().horizontalAdvance(self.title) + 14.0
        pill = QRectF(min(a + 4, scale.width - wide), band.top() + 6, wide, 20)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.82))
        painter.drawRoundedRect(pill, 10, 10)
        painter.setPen(colour("ending"))
        painter.drawText(pill, Qt.AlignmentFlag.AlignCenter, self.title)
        grip = self.grip()
        if grip is not None and self.editing:
            painter.setPen(QPen(colour("ground"), 1.5))
            painter.setBrush(colour("ending"))
            painter.drawRoundedRect(grip, 4, 4)
