"""Markers on the Before waveform: a flag for each position or end of a range, and dragging them."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPolygonF

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import Layer
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font

FLAG = 11.0
DOWN = 32.0  # below the waveform's upper edge, clear of names and sections


@dataclass(frozen=True)
class Flag:
    """A marker as it is drawn; seconds of Before."""

    id: str
    label: str
    start: float
    end: float | None


class MarkerLayer(Layer):
    """All flags can be dragged.  moved : the marker's id, ``start`` or ``end``, seconds of Before, whether they snapped."""

    moved = Signal(str, str, float, bool)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.flags: tuple[Flag, ...] = ()
        self._held: tuple[Flag, str] | None = None

    def show(self, flags: tuple[Flag, ...]) -> None:
        """Show the markers of a song."""
        if flags != self.flags:
            self.flags = flags
            self.changed.emit()

    def rect(self, flag: Flag, part: str) -> QRectF:
        """The handle of a flag; a range's flags lie outside of it, so that they never overlap."""
        seconds = flag.end if part == "end" and flag.end is not None else flag.start
        left = self.geometry.scale.x(seconds) - (FLAG if part == "start" and flag.end is not None else 0.0)
        return QRectF(left, self.geometry.bands.before.top() + DOWN, FLAG, FLAG)

    def _under(self, at: QPointF) -> tuple[Flag, str] | None:
        for flag in reversed(self.flags):
            for part in ("start", "end") if flag.end is not None else ("start",):
                if self.rect(flag, part).adjusted(-2, -4, 2, 4).contains(at):
                    return flag, part
        return None

    def press(self, at: QPointF) -> bool:
        self._held = self._under(at)
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        assert self._held is not None
        flag, part = self._held
        seconds = self.geometry.scale.at(at.x())
        snapped = self.geometry.snapped(seconds, free=free)
        self.moved.emit(flag.id, part, snapped, snapped != seconds)

    def release(self) -> None:
        self._held = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        return Qt.CursorShape.SizeHorCursor if self._under(at) is not None else None

    def paint(self, painter: QPainter) -> None:
        """Draw the flags, a line between the two of a range, and their labels."""
        painter.setFont(font(11, SEMI_BOLD))
        for flag in self.flags:
            rect, last = self.rect(flag, "start"), self.rect(flag, "end")
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("ink"))
            painter.drawPolygon(_pointing(rect, right=True))
            if flag.end is not None:
                painter.drawPolygon(_pointing(last, right=False))
                painter.fillRect(
                    QRectF(rect.right(), rect.center().y() - 1.0, last.left() - rect.right(), 2.0), colour("ink")
                )
            self._paint_label(painter, flag, last if flag.end is not None else rect)

    def _paint_label(self, painter: QPainter, flag: Flag, rect: QRectF) -> None:
        if not flag.label:
            return
        wide = painter.fontMetrics().horizontalAdvance(flag.label) + 8.0
        pill = QRectF(rect.right() + 2, rect.top() - 2, wide, 15)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.75))
        painter.drawRoundedRect(pill, 5, 5)
        painter.setPen(colour("ink"))
        painter.drawText(pill, Qt.AlignmentFlag.AlignCenter, flag.label)


def _pointing(rect: QRectF, *, right: bool) -> QPolygonF:
    """A flag that points to one side."""
    flat, tip = (rect.left(), rect.right()) if right else (rect.right(), rect.left())
    return QPolygonF([QPointF(flat, rect.top()), QPointF(tip, rect.center().y()), QPointF(flat, rect.bottom())])
