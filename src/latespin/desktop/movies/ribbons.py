"""Before and After as two ribbons that scroll under a line, with threads from each beat to where it went."""

from collections import OrderedDict
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QLinearGradient, QPainter, QPainterPath, QPen

from latespin.desktop.canvas.connectors import thread
from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.canvas.waveform_image import draw_waveform
from latespin.desktop.movies.palette import Palette
from latespin.dsp.arrays import Floats
from latespin.media.audio.peaks import Peaks
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import TimeMap

SECONDS_SEEN = {True: 9.0, False: 5.0}  # by whether the picture is wider than high
TILE = 1024
TILES_KEPT = 12
COMING = 0.45  # how much of the ground lies over what has not sounded yet
EVEN_THREADS = 1.0  # seconds between threads where there are no beats


@dataclass(frozen=True, eq=False)
class RibbonSource:
    """What the ribbons show: peaks of the song, peaks of the version or of an excerpt that ``begins`` at a second of it, the map between, its beats."""

    before: Peaks
    after: Peaks
    map: TimeMap
    grid: Grid | None
    begins: float = 0.0

    def threads(self) -> tuple[Floats, Floats, Floats]:
        """Seconds of the song, of the version, and 1 for bars and 0 for other beats; only those that sound."""
        rate, length = self.before.rate, self.before.frames / self.before.rate
        if self.grid is None:
            song = np.arange(0.0, length, EVEN_THREADS)
            strong = np.zeros(len(song))
        else:
            numbers = self.grid.numbers_between(0.0, length)
            song = np.clip(self.grid.seconds_of(numbers), 0.0, length)
            strong = (numbers % self.grid.beats_per_bar == 0).astype(float)
        heard = self.map.first_heard(song * rate, 0.0, float(self.map.after_frames)) / rate
        there = ~np.isnan(heard)
        return song[there], heard[there] - self.begins, strong[there]

    def place(self, seconds: float) -> float:
        """The second of the song that sounds at a second of the version."""
        last = float(self.map.after_frames - 1)
        return self.map.before_at(min(max(0.0, (seconds + self.begins) * self.before.rate), last)) / self.before.rate


class Ribbons:
    """Draws a moment of the ribbons into a band."""

    def __init__(self, source: RibbonSource, palette: Palette, band: QRectF) -> None:
        self._source, self._palette, self._band = source, palette, band
        self._px = band.width() / SECONDS_SEEN[band.width() > 2.4 * band.height()]
        gap = 0.20 * band.height()
        tall = (band.height() - gap) / 2
        self._above = QRectF(band.left(), band.top(), band.width(), tall)
        self._between = QRectF(band.left(), band.top() + tall, band.width(), gap)
        self._below = QRectF(band.left(), band.bottom() - tall, band.width(), tall)
        self._song, self._heard, self._strong = source.threads()
        self._before = _Strip(source.before, palette.before, self._px, round(tall))
        self._after = _Strip(source.after, palette.after, self._px, round(tall))
        self._line = max(1.5, band.height() / 110.0)

    def paint(self, painter: QPainter, seconds: float) -> None:
        """Draw what sounds at a second of the version."""
        now, middle = self._source.place(seconds), self._band.center().x()
        self._before.paint(painter, self._above, now - middle / self._px)
        self._after.paint(painter, self._below, seconds - middle / self._px)
        coming = QColor(self._palette.ground)
        coming.setAlphaF(COMING)
        painter.fillRect(QRectF(middle, self._band.top(), self._band.width() - middle, self._band.height()), coming)
        self._paint_threads(painter, seconds, now, middle)
        painter.setPen(QPen(self._palette.ink, self._line))
        for ribbon in (self._above, self._below):
            painter.drawLine(QPointF(middle, ribbon.top()), QPointF(middle, ribbon.bottom()))

    def _paint_threads(self, painter: QPainter, seconds: float, now: float, middle: float) -> None:
        reach = middle / self._px + 1.0
        near = np.abs(self._heard - seconds) < reach
        shade = QLinearGradient(0, self._between.top(), 0, self._between.bottom())
        shade.setColorAt(0.0, self._palette.before)
        shade.setColorAt(1.0, self._palette.after)
        paths = {0.0: QPainterPath(), 1.0: QPainterPath()}
        for song, heard, strong in zip(self._song[near], self._heard[near], self._strong[near], strict=True):
            ends = middle + (song - now) * self._px, middle + (heard - seconds) * self._px
            paths[float(strong)].addPath(thread(*ends, self._between))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for strong, path in paths.items():
            painter.setOpacity(0.95 if strong else 0.65)
            painter.setPen(QPen(shade, self._line * (1.0 if strong else 0.6)))
            painter.drawPath(path)
        painter.setOpacity(1.0)


class _Strip:
    """A waveform of any length, drawn tile by tile as it comes into view."""

    def __init__(self, peaks: Peaks, colour: QColor, px: float, height: int) -> None:
        self._peaks, self._colour, self._px, self._height = peaks, colour, px, height
        self._tiles: OrderedDict[int, QImage] = OrderedDict()

    def paint(self, painter: QPainter, band: QRectF, start: float) -> None:
        """Draw it so that its second ``start`` is at the left edge."""
        left = start * self._px
        first, last = int(np.floor(left / TILE)), int(np.floor((left + band.width()) / TILE))
        for number in range(first, last + 1):
            if number >= 0 and number * TILE / self._px < self._peaks.frames / self._peaks.rate:
                painter.drawImage(QPointF(number * TILE - left + band.left(), band.top()), self._tile(number))

    def _tile(self, number: int) -> QImage:
        if number not in self._tiles:
            seconds = TILE / self._px
            scale = TimeScale(TILE, self._peaks.frames / self._peaks.rate, number * seconds, seconds)
            self._tiles[number] = draw_waveform(self._peaks, scale, TILE, self._height, self._colour)
            while len(self._tiles) > TILES_KEPT:
                self._tiles.popitem(last=False)
        self._tiles.move_to_end(number)
        return self._tiles[number]
