"""Beats and bars on the waveforms: which are drawn at a zoom level, how bright, and what dragging snaps to."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF
from PySide6.QtGui import QPainter, QPen

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.theme.theme import colour
from latespin.model.timing.beat_grid import Grid

if TYPE_CHECKING:
    from latespin.analysis.results import Reading

BEAT_PX = 7.0  # least distance between beats, from which single beats are drawn and snapped to
SNAP_PX = 12.0
STRONG_PULL = 0.4  # of the reach, by which the strongest beat counts as nearer
LABEL_PX = 44.0
GROUPS = (1, 2, 4, 8, 16, 32, 64, 128)
WEAKEST, TALLEST = 3.0, 13.0  # height of a beat's tick by its strength
UNSURE = 0.25
PART_PX = 22.0  # least distance between quarters of a beat, from which they are snapped to
STRONG = 0.6  # strength from which a beat counts as a strong one
HANDLE, HANDLE_PX = 5.0, 14.0  # its radius, and the least distance between two


@dataclass(frozen=True)
class BarLines:
    """A grid over a song of ``seconds``, and what was read of it."""

    grid: Grid
    seconds: float
    reading: "Reading | None" = None

    def strengths(self, numbers: np.ndarray, times: np.ndarray) -> np.ndarray:
        """0 to 1 for each beat: as read where the reading has a beat there, else by its place in the bar."""
        by_place = np.where(numbers % self.grid.beats_per_bar == 0, 0.8, 0.3)
        read = self.reading.beats if self.reading else None
        if read is None or len(read.times) < 2:
            return by_place
        known = np.array(read.times)
        at = np.clip(np.searchsorted(known, times), 1, len(known) - 1)
        at -= (times - known[at - 1]) < (known[at] - times)
        return np.where(np.abs(known[at] - times) < 0.05, np.array(read.strong)[at], by_place)

    def sure(self, times: np.ndarray) -> np.ndarray:
        """Whether beats were heard at these times, rather than counted on from elsewhere."""
        read = self.reading.beats if self.reading else None
        if read is None:
            return np.ones(len(times), bool)
        first, last = read.times[read.found[0]], read.times[read.found[1] - 1]
        clear = np.interp(times, read.times, read.sure) >= UNSURE
        return np.asarray((times >= first - 0.05) & (times <= last + 0.05) & clear)

    def bars_apart(self, scale: TimeScale, least_px: float) -> int:
        """The smallest bar interval whose lines are at least ``least_px`` apart."""
        bar_px = self.grid.bar_seconds * scale.px_per_second
        return next((group for group in GROUPS if group * bar_px >= least_px), GROUPS[-1])

    def beats_seen(self, scale: TimeScale, start: float, stop: float, least_px: float = BEAT_PX) -> np.ndarray:
        """Numbers of the beats (or bars, or every second bar …) between two times that are at least so far apart."""
        if self.grid.beat_seconds * scale.px_per_second >= least_px:
            return self.grid.numbers_between(start, stop)
        step = self.bars_apart(scale, least_px) * self.grid.beats_per_bar
        numbers = self.grid.numbers_between(start, stop)
        return np.asarray(numbers[numbers % step == 0])

    def snapped(self, seconds: float, scale: TimeScale, to: str = "beats") -> float:
        """The nearest within reach of a time, else the time itself.

        to : beats (zoomed out, bars; zoomed in, quarters of a beat), bars, or strong beats however far away.
        """
        reach = SNAP_PX / scale.px_per_second
        if to == "strong":
            reach = max(reach, self.grid.bar_seconds)
        low, high = max(0.0, seconds - reach), min(self.seconds, seconds + reach)
        numbers = self.grid.numbers_between(low, high) if to == "strong" else self.beats_seen(scale, low, high)
        if to == "bars":
            numbers = numbers[numbers % self.grid.beats_per_bar == 0]
        elif to == "beats" and self.grid.beat_seconds * scale.px_per_second >= 4 * PART_PX:
            first, last = (4.0 * self.grid.number_at(np.array([low, high]))).tolist()
            numbers = np.arange(np.ceil(first), np.floor(last) + 1.0) / 4.0
        if to == "strong" and len(numbers):
            numbers = numbers[self.strengths(numbers, self.grid.seconds_of(numbers)) >= STRONG]
        if len(numbers) == 0:
            return seconds
        times = self.grid.seconds_of(numbers)
        pull = STRONG_PULL * np.where(numbers % 1.0 == 0.0, self.strengths(np.round(numbers), times), 0.0)
        return float(times[np.argmin(np.abs(times - seconds) / reach - pull)])

    def nearest(self, seconds: float, reach: float) -> int | None:
        """The number of the beat within ``reach`` seconds of a time."""
        number = round(float(self.grid.number_at(seconds)))
        return number if abs(float(self.grid.seconds_of(number)) - seconds) <= reach else None


def paint_ticks(
    painter: QPainter, band: QRectF, xs: np.ndarray, strong: np.ndarray, sure: np.ndarray, token: str, *, up: bool
) -> None:
    """Ticks along a waveform's inner edge, taller where a beat is stronger, faint where it was only counted on."""
    base = band.bottom() if up else band.top()
    heights = WEAKEST + (TALLEST - WEAKEST) * strong
    for known in (True, False):
        for tall in (True, False):
            which = np.flatnonzero((sure == known) & ((strong >= STRONG) == tall))
            lines = [
                QLineF(x, base, x, base - h if up else base + h)
                for x, h in zip(xs[which].tolist(), heights[which].tolist(), strict=True)
            ]
            painter.setPen(QPen(colour(token, 0.95 if known else 0.35), 2.0 if tall else 1.2))
            painter.drawLines(lines)


def paint_handles(painter: QPainter, band: QRectF, scale: TimeScale, bars: BarLines) -> None:
    """The handle of a beat while the grid is being edited."""
    numbers = bars.beats_seen(scale, max(0.0, scale.start), min(bars.seconds, scale.start + scale.seconds), HANDLE_PX)
    for seconds, held in zip(bars.grid.seconds_of(numbers).tolist(), np.isin(numbers, bars.grid.pinned), strict=True):
        x = scale.x(seconds)
        place = QPointF(x, band.bottom() - TALLEST - 6.0)
        painter.setPen(QPen(colour("focus" if held else "before"), 1.5))
        painter.setBrush(colour("focus" if held else "ground"))
        painter.drawEllipse(place, HANDLE - 1.0, HANDLE - 1.0)
