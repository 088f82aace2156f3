"""Automation drawn on the After waveform, and dragging its points and segments."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_PX, Layer
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.dsp.timing.speed_by_time import ease_down, tension_of

TOP, BOTTOM = 0.16, 0.06  # of the waveform's height, left free above and below
WAY_POINTS = 24
LEAST_WAY_PX = 24.0


@dataclass(frozen=True)
class LaneShape:
    """A lane as it is drawn. points : seconds of After, height 0 to 1, tension of the way on.  words : what each point says."""

    title: str
    points: tuple[tuple[float, float, float], ...]
    words: tuple[str, ...]


class AutomationLayer(Layer):
    """``point`` is the one chosen last. Points are given by number, seconds of Before, height, and whether they snapped."""

    point_moved = Signal(int, float, float, bool)
    point_added = Signal(float, float, bool)
    point_removed = Signal(int)
    point_nudged = Signal(int, int)
    segment_bent = Signal(int, float)
    focus_wanted = Signal()

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.shape: LaneShape | None = None
        self.point = 0
        self._held: tuple[str, int] | None = None

    def show(self, shape: LaneShape | None) -> None:
        """Show a lane, or none."""
        if shape != self.shape:
            self.shape = shape
            self.point = min(self.point, len(shape.points) - 1) if shape else 0
            self.changed.emit()

    # -- places --------------------------------------------------------------------------------------------------

    def _body(self) -> QRectF:
        band = self.geometry.bands.after
        return band.adjusted(0, band.height() * TOP, 0, -band.height() * BOTTOM)

    def spot(self, which: int) -> QPointF:
        """Position of a point in pixels."""
        assert self.shape is not None
        seconds, height, _ = self.shape.points[which]
        body = self._body()
        return QPointF(self.geometry.scale.x(seconds), body.bottom() - height * body.height())

    def way_spot(self, which: int) -> QPointF | None:
        """The handle in the middle of a segment; None if it is level or short."""
        assert self.shape is not None
        if which + 1 >= len(self.shape.points):
            return None
        a, b = self.spot(which), self.spot(which + 1)
        if b.x() - a.x() < LEAST_WAY_PX or abs(b.y() - a.y()) < 4.0:
            return None
        left = float(ease_down(0.5, self.shape.points[which][2]))
        return QPointF((a.x() + b.x()) / 2.0, b.y() + left * (a.y() - b.y()))

    def _under(self, at: QPointF) -> tuple[str, int] | None:
        if self.shape is None:
            return None
        near = [(math.hypot(*(at - self.spot(i)).toTuple()), i) for i in range(len(self.shape.points))]
        if near and min(near)[0] <= GRIP_PX + 4:
            return "point", min(near)[1]
        for i in range(len(self.shape.points)):
            spot = self.way_spot(i)
            if spot is not None and math.hypot(*(at - spot).toTuple()) <= GRIP_PX + 3:
                return "way", i
        return None

    # -- the hand ------------------------------------------------------------------------------------------------

    def press(self, at: QPointF) -> bool:
        self._held = self._under(at)
        if self._held is not None:
            self.point = self._held[1]
            self.focus_wanted.emit()
            self.changed.emit()
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        if self._held is None or self.shape is None:
            return
        part, which = self._held
        if part == "way":
            a, b = self.spot(which), self.spot(which + 1)
            height = (at.y() - b.y()) / (a.y() - b.y()) if abs(a.y() - b.y()) > 1.0 else 0.5
            self.segment_bent.emit(which, round(tension_of(min(0.999, max(0.001, height))), 3))
            return
        self.point_moved.emit(which, *self._place(at, free=free))

    def _place(self, at: QPointF, *, free: bool) -> tuple[float, float, bool]:
        """Seconds of Before, height, and whether the place was snapped."""
        body = self._body()
        seconds = self.geometry.clock_of_after(max(0.0, self.geometry.scale.at(at.x())))
        snapped = self.geometry.snapped(seconds, free=free)
        return max(0.0, snapped), min(1.0, max(0.0, (body.bottom() - at.y()) / body.height())), snapped != seconds

    def release(self) -> None:
        self._held = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        found = self._under(at)
        if found is None:
            return None
        return Qt.CursorShape.SizeAllCursor if found[0] == "point" else Qt.CursorShape.SizeVerCursor

    def add(self, at: QPointF) -> bool:
        """A new point where there is none."""
        if self.shape is None or not self.geometry.bands.after.contains(at):
            return False
        if self._under(at) is None:
            self.point_added.emit(*self._place(at, free=False))
        return True

    def key(self, key: int) -> bool:
        """Keys for the chosen point; False for any other."""
        if self.shape is None:
            return False
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.point_removed.emit(self.point)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.point_nudged.emit(self.point, 1 if key == Qt.Key.Key_Up else -1)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.point = (self.point + (1 if key == Qt.Key.Key_Right else -1)) % len(self.shape.points)
            self.changed.emit()
        else:
            return False
        return True

    # -- looks ---------------------------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """Draw the lane over After."""
        if self.shape is None or not self.shape.points:
            return
        body, line = self._body(), self._line()
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("colour", 0.16))
        painter.drawPolygon(
            QPolygonF([QPointF(line[0].x(), body.bottom()), *line, QPointF(line[-1].x(), body.bottom())])
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("colour"), 2.2))
        painter.drawPolyline(QPolygonF(line))
        for i in range(len(self.shape.points)):
            self._paint_point(painter, i)
        self._paint_chip(painter, QPointF(72.0, self.geometry.bands.after.top() + 4.0), self.shape.title, "colour")

    def _paint_chip(self, painter: QPainter, corner: QPointF, text: str, token: str) -> None:
        """Words on a ground of their own, so that they can be read over the waveform."""
        painter.setFont(font(11, SEMI_BOLD))
        place = QRectF(corner.x(), corner.y(), painter.fontMetrics().horizontalAdvance(text) + 12.0, 17.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.85))
        painter.drawRoundedRect(place, 5, 5)
        painter.setPen(colour(token))
        painter.drawText(place, Qt.AlignmentFlag.AlignCenter, text)

    def _line(self) -> list[QPointF]:
        assert self.shape is not None
        spots = [self.spot(i) for i in range(len(self.shape.points))]
        line = [QPointF(min(0.0, spots[0].x()), spots[0].y())]
        for i, spot in enumerate(spots[:-1]):
            line.append(spot)
            after, tension = spots[i + 1], self.shape.points[i][2]
            for x in np.linspace(0.0, 1.0, WAY_POINTS)[1:-1].tolist():
                left = float(ease_down(x, tension))
                line.append(QPointF(spot.x() + x * (after.x() - spot.x()), after.y() + left * (spot.y() - after.y())))
        return [*line, spots[-1], QPointF(max(self.geometry.scale.width, spots[-1].x()), spots[-1].y())]

    def _paint_point(self, painter: QPainter, which: int) -> None:
        assert self.shape is not None
        spot, way = self.spot(which), self.way_spot(which)
        if way is not None:
            painter.setPen(QPen(colour("colour"), 2))
            painter.setBrush(colour("ground"))
            painter.drawEllipse(way, 4.5, 4.5)
        chosen = which == self.point
        painter.setPen(QPen(colour("focus") if chosen else colour("ground"), 2))
        painter.setBrush(colour("colour"))
        painter.drawRoundedRect(QRectF(spot.x() - 6, spot.y() - 6, 12, 12), 4, 4)
        if chosen:
            words = self.shape.words[which]
            below = spot.y() < self._body().top() + 16
            wide = painter.fontMetrics().horizontalAdvance(words) + 12.0
            left = min(max(0.0, spot.x() - wide / 2.0), self.geometry.scale.width - wide)
            self._paint_chip(painter, QPointF(left, spot.y() + (9 if below else -26)), words, "ink")
