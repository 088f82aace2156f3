"""The tempo curve as a line over the Before waveform: its shape, and edits by dragging."""

import math
from dataclasses import dataclass

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.theme.theme import BOLD, colour, font
from latespin.model.text.describe import speed_text
from latespin.model.timing.tempo_curve import Curve, CurvePoint, straightened
from latespin.model.values.parameters import SPEED

REACH_PX = 9.0
PADDING_PX = 12.0
LEAST_OCTAVES = 1.0  # from the middle line, 1×, to the band's edge
NEAREST = 0.002  # of the song, between two points


@dataclass(frozen=True)
class CurveLine:
    """A curve of a song of ``seconds`` in a band; ``speed`` is what its factors are multiplied by."""

    curve: Curve
    speed: float
    seconds: float
    band: QRectF
    scale: TimeScale
    held_octaves: float | None = None  # while a point is dragged, so that the line does not run away from the hand

    @property
    def octaves(self) -> float:
        """From the middle line to the band's edge."""
        if self.held_octaves is not None:
            return self.held_octaves
        farthest = max((abs(math.log2(self.speed * point.speed)) for point in self.curve), default=0.0)
        return max(LEAST_OCTAVES, 1.15 * max(farthest, abs(math.log2(self.speed))))

    def y(self, speed: float) -> float:
        """The height of a speed."""
        half = self.band.height() / 2 - PADDING_PX
        return self.band.center().y() - half * math.log2(speed) / self.octaves

    def at(self, point: CurvePoint) -> QPointF:
        """Position of a point in pixels."""
        return QPointF(self.scale.x(point.place * self.seconds), self.y(self.speed * point.speed))

    def place_of(self, x: float) -> float:
        """The place in the song, 0 to 1, of a pixel."""
        return min(max(self.scale.at(x) / self.seconds, 0.0), 1.0)

    def factor_of(self, y: float) -> float:
        """The factor at a height, such that factor and speed heard stay within their limits."""
        half = max(1.0, self.band.height() / 2 - PADDING_PX)
        heard = SPEED.clamp(2.0 ** ((self.band.center().y() - y) / half * self.octaves))
        return SPEED.clamp(round(heard, 3) / self.speed)

    def under(self, place: QPointF) -> int | None:
        """The point under the pointer."""
        near = [(math.hypot(*(self.at(p) - place).toTuple()), i) for i, p in enumerate(self.curve)]
        distance, which = min(near, default=(math.inf, 0))
        return which if distance <= REACH_PX else None

    def dragged(self, which: int, to: QPointF) -> Curve:
        """The curve with a point moved, staying between its neighbours."""
        low = self.curve[which - 1].place + NEAREST if which > 0 else 0.0
        high = self.curve[which + 1].place - NEAREST if which + 1 < len(self.curve) else 1.0
        place = min(max(self.place_of(to.x()), low), max(low, high))
        moved = replace(self.curve[which], place=place, speed=self.factor_of(to.y()))
        return (*self.curve[:which], moved, *self.curve[which + 1 :])

    def nudged(self, which: int, factor: float) -> Curve:
        """The curve with a point's speed multiplied."""
        point = self.curve[which]
        moved = replace(point, speed=SPEED.clamp(SPEED.clamp(self.speed * point.speed * factor) / self.speed))
        return (*self.curve[:which], moved, *self.curve[which + 1 :])

    def paint(self, painter: QPainter, chosen: int | None, *, editable: bool) -> None:
        """Draw the line, and its points where it can be edited."""
        if not self.curve and not editable:
            return
        right = self.scale.x(self.seconds)
        points = [self.at(point) for point in straightened(self.curve)]
        level = self.y(self.speed)
        line = [QPointF(self.scale.x(0.0), points[0].y() if points else level), *points]
        line.append(QPointF(right, points[-1].y() if points else level))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("ink_soft", 0.5), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(line[0].x(), self.y(1.0)), QPointF(right, self.y(1.0)))
        for token, width in (("ground", 5.0), ("time", 2.0)):
            painter.setPen(QPen(colour(token), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawPolyline(QPolygonF(line))
        if editable:
            for i, point in enumerate(self.curve):
                self._paint_point(painter, self.at(point), point, chosen=i == chosen)

    def _paint_point(self, painter: QPainter, at: QPointF, point: CurvePoint, *, chosen: bool) -> None:
        painter.setPen(QPen(colour("time"), 2))
        painter.setBrush(colour("time") if chosen else colour("ground"))
        painter.drawEllipse(at, 6.0, 6.0)
        text = speed_text(self.speed * point.speed)
        painter.setFont(font(11, BOLD))
        wide = painter.fontMetrics().horizontalAdvance(text) + 10.0
        above = at.y() - self.band.top() > 30
        left = min(max(0.0, at.x() - wide / 2), self.scale.width - wide)
        place = QRectF(left, at.y() + (-26.0 if above else 10.0), wide, 16.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.82))
        painter.drawRoundedRect(place, 6, 6)
        painter.setPen(colour("ink" if chosen else "time"))
        painter.drawText(place, Qt.AlignmentFlag.AlignCenter, text)
