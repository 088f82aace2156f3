"""The connectors between the waveforms: from a bar in Before to its position in After."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QLinearGradient, QPainter, QPainterPath, QPen

from latespin.desktop.canvas.beat_lines import BarLines
from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.theme.theme import colour
from latespin.model.timing.time_map import TimeMap

THREAD_PX = 14.0  # least distance between two threads in Before
JUMP_PX = 4.0  # least distance between the threads of two jumps in After


def thread(before_x: float, after_x: float, band: QRectF) -> QPainterPath:
    """A thread across the band between both waveforms."""
    path = QPainterPath(QPointF(before_x, band.top() + 1))
    middle = band.height() * 0.5
    path.cubicTo(before_x, band.top() + middle, after_x, band.bottom() - middle, after_x, band.bottom() - 1)
    return path


def paint_threads(
    painter: QPainter, band: QRectF, scale: TimeScale, time_map: TimeMap, rate: int, places: list[tuple[float, bool]]
) -> None:
    """Threads from places of Before (seconds, and whether they stand out) to where they sound first; none where they never do."""
    gradient = QLinearGradient(0, band.top(), 0, band.bottom())
    gradient.setColorAt(0.0, colour("before"))
    gradient.setColorAt(1.0, colour("after"))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    seen = [(scale.start + way * scale.seconds) * rate for way in (-1.0, 2.0)]
    heard = time_map.first_heard(np.array([seconds for seconds, _ in places]) * rate, *seen) / rate
    together = {False: QPainterPath(), True: QPainterPath()}
    for (seconds, strong), after in zip(places, heard.tolist(), strict=True):
        if not np.isnan(after):
            together[strong].addPath(thread(scale.x(seconds), scale.x(after), band))
    for strong, path in together.items():
        painter.setOpacity(0.9 if strong else 0.42)
        painter.setPen(QPen(gradient, 1.5 if strong else 1.0))
        painter.drawPath(path)
    painter.setOpacity(1.0)


def paint_jumps(painter: QPainter, band: QRectF, scale: TimeScale, time_map: TimeMap, rate: int) -> None:
    """Jumps of the time map: from where to when."""
    last, path = -100.0, QPainterPath()
    low, high = (scale.at(x) * rate for x in (-2.0, scale.width + 2.0))
    for before, after in time_map.jumps(low, high):
        x = scale.x(after / rate)
        if x - last >= JUMP_PX:
            last = x
            path.addPath(thread(scale.x(before / rate), x, band))
    painter.setPen(QPen(colour("moments", 0.85), 1.0))  # wider ones take Qt ten times as long
    painter.drawPath(path)


def thread_places(scale: TimeScale, bars: BarLines | None, start: float, end: float) -> list[tuple[float, bool]]:
    """Seconds of Before from which threads lead to After, and which of them stand out: bar lines where they are known."""
    if bars is None:
        step = scale.step(THREAD_PX)
        return [(n * step, n % 5 == 0) for n in range(max(0, int(start / step) - 1), int(end / step) + 1)]
    apart = bars.bars_apart(scale, THREAD_PX) * bars.grid.beats_per_bar
    numbers = bars.grid.numbers_between(start, end)
    numbers = numbers[numbers % apart == 0]
    return [
        (t, int(n) % (4 * apart) == 0) for t, n in zip(bars.grid.seconds_of(numbers).tolist(), numbers, strict=True)
    ]
