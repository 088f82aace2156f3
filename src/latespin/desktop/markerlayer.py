"""Markers on the Before ribbon: a flag for each place or end of a range, and the hand on them."""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.layers import Layer
from latespin.desktop.theme import SEMI_BOLD, colour, font

if TYPE_CHECKING:
    from latespin.desktop.ribbons import Ribbons

FLAG = 11.0
DOWN = 32.0  # below the ribbon's upper edge, clear of names and sections


@dataclass(frozen=True)
class Flag:
    """A marker as it is drawn; seconds of Before."""

    id: str
    label: str
    start: float
    end: float | None


@dataclass
class MarkerLayer(Layer):
    """All flags can be dragged."""

    ribbons: "Ribbons"
    flags: tuple[Flag, ...] = ()
    _held: tuple[Flag, str] | None = field(default=None, repr=False)

    def show(self, flags: tuple[Flag, ...]) -> None:
        """Show the markers of a song."""
        if flags != self.flags:
            self.flags = flags
            self.ribbons.update()

    def _rect(self, seconds: float) -> QRectF:
        return QRectF(self.ribbons.scale.x(seconds), self.ribbons.bands().before.top() + DOWN, FLAG, FLAG)

    def _under(self, at: QPointF) -> tuple[Flag, str] | None:
        for flag in reversed(self.flags):
            if flag.end is not None and self._rect(flag.end).translated(-FLAG, 0).adjusted(-3, -3, 3, 3).contains(at):
                return flag, "end"
            if self._rect(flag.start).adjusted(-3, -3, 3, 3).contains(at):
                return flag, "start"
        return None

    def take(self, at: QPointF) -> bool:
        self._held = self._under(at)
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        assert self._held is not None
        flag, part = self._held
        seconds = self.ribbons.scale.at(at.x())
        snapped = seconds if free else self.ribbons.snapped(seconds)
        self.ribbons.marker_moved.emit(flag.id, part, snapped, snapped != seconds)

    def drop(self) -> None:
        self._held = None
        self.ribbons.curve_settled.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        return Qt.CursorShape.SizeHorCursor if self._under(at) is not None else None

    def paint(self, painter: QPainter) -> None:
        """Draw the flags, a line between the two of a range, and their labels."""
        painter.setFont(font(11, SEMI_BOLD))
        for flag in self.flags:
            rect = self._rect(flag.start)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("ink"))
            painter.drawPolygon(
                QPolygonF([rect.topLeft(), QPointF(rect.right(), rect.center().y()), rect.bottomLeft()])
            )
            if flag.end is not None:
                end = self._rect(flag.end)
                painter.drawPolygon(
                    QPolygonF([end.topLeft(), QPointF(end.left() - FLAG, end.center().y()), end.bottomLeft()])
                )
                painter.setPen(QPen(colour("ink"), 1.5))
                painter.drawLine(rect.topLeft(), end.topLeft())
            self._paint_label(painter, flag, rect)

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
