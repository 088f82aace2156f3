"""The playhead on both waveforms, and the position under the pointer."""

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.connectors import thread
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.model.text.describe import speed_text
from latespin.model.values.units import clock, number


@dataclass(frozen=True)
class Playhead:
    """seconds : on the ``side`` that is heard."""

    side: str = "after"
    seconds: float = 0.0

    def places(self, geometry: CanvasGeometry) -> tuple[float, float]:
        """Its pixels on Before and After."""
        before = geometry.to_before(self.side, self.seconds)
        after = self.seconds if self.side == "after" else geometry.to_after(before)
        return geometry.scale.x(before), geometry.scale.x(after)

    def paint(self, painter: QPainter, geometry: CanvasGeometry) -> None:
        """Draw it, stronger on the side that is heard; in the tail of After it is nowhere in Before."""
        xs, bands = self.places(geometry), geometry.bands
        time_map = geometry.time_map
        in_tail = time_map is not None and self.side == "after" and self.seconds * geometry.rate > time_map.after_frames
        for x, band, side in ((xs[0], bands.before, "before"), (xs[1], bands.after, "after")):
            heard = side == self.side
            if in_tail and not heard:
                continue
            painter.setPen(QPen(colour("ink") if heard else colour("ink_soft"), 2.0 if heard else 1.0))
            painter.drawLine(QPointF(x, band.top()), QPointF(x, band.bottom()))
        if not in_tail:
            painter.setPen(QPen(colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(thread(*xs, bands.threads))


def paint_loop(painter: QPainter, geometry: CanvasGeometry, loop: tuple[float, float]) -> None:
    """Shade the marked range, seconds of Before, on both sides."""
    after = [geometry.to_after(seconds) for seconds in loop]
    for (start, end), band in ((loop, geometry.bands.before), (after, geometry.bands.after)):
        a, b = geometry.scale.x(start), geometry.scale.x(end)
        painter.fillRect(QRectF(a, band.top() - 4, b - a, band.height() + 8), QColor(colour("focus", 0.16)))
        painter.setPen(QPen(colour("focus"), 2))
        for x in (a, b):
            painter.drawLine(QPointF(x, band.top() - 4), QPointF(x, band.bottom() + 4))


def paint_hover(
    painter: QPainter, geometry: CanvasGeometry, at: QPointF, after_seconds: float, *, curved: bool
) -> None:
    """Say both times of the place under the pointer. curved : a tempo curve changes the speed."""
    side, seconds = geometry.side_at(at.y()), geometry.scale.at(at.x())
    if seconds > (geometry.before_seconds if side == "before" else after_seconds):
        return
    before = geometry.to_before(side, seconds)
    after = seconds if side == "after" else geometry.to_after(before)
    time_map, threads = geometry.time_map, geometry.bands.threads
    painter.setPen(QPen(colour("focus"), 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if time_map is not None and after * geometry.rate > time_map.after_frames + 1:
        text = tr("After {0} · the reverb rings on").format(clock(after, 2))
    else:
        painter.drawPath(thread(geometry.scale.x(before), geometry.scale.x(after), threads))
        bar = tr("Bar {0}   ·   ").format(geometry.bars.grid.words_at(before)) if geometry.bars else ""
        tempo = _tempo_text(geometry, before, after) if curved else ""
        text = tr("{0}Before {1}   →   After {2}{3}").format(bar, clock(before, 2), clock(after, 2), tempo)
    painter.setFont(font(12, SEMI_BOLD))
    width = painter.fontMetrics().horizontalAdvance(text) + 20
    x = min(max(0.0, at.x() - width / 2), geometry.scale.width - width)
    bubble = QRectF(x, threads.center().y() - 13, width, 26)
    painter.setBrush(colour("raised"))
    painter.setPen(QPen(colour("line"), 1))
    painter.drawRoundedRect(bubble, 8, 8)
    painter.setPen(colour("ink"))
    painter.drawText(bubble, Qt.AlignmentFlag.AlignCenter, text)


def _tempo_text(geometry: CanvasGeometry, before: float, after: float) -> str:
    """Speed and tempo at a place."""
    if geometry.time_map is None:
        return ""
    speed = geometry.time_map.speed_at(after * geometry.rate)
    if geometry.bars is None:
        return f"   ·   {speed_text(speed)}"
    return tr("   ·   {0}, {1} BPM").format(speed_text(speed), number(geometry.bars.grid.bpm_at(before) * speed, 1))
