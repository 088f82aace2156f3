"""The beat clock: the beat of the song at a frame of After, for effects in bars."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import BEATLESS_BPM
from latespin.model.timing.time_map import TimeMap

STEP_SECONDS = 0.1


@dataclass(frozen=True, eq=False)
class BeatClock:
    """Of a version, at ``rate``."""

    map: TimeMap
    grid: Grid | None
    rate: int

    @cached_property
    def _knots(self) -> tuple[Floats, Floats]:
        """Frames of After, and the beats there."""
        last = max(2, self.map.after_frames)
        frames = np.linspace(0.0, last, max(2, 1 + int(last / (STEP_SECONDS * self.rate))))
        seconds = np.array([self.map.clock_at(float(frame)) for frame in frames.tolist()]) / self.rate
        if self.grid is None:
            return frames, seconds * BEATLESS_BPM / 60.0
        return frames, np.asarray(self.grid.number_at(seconds), np.float64)

    def beats(self, frames: Floats) -> Floats:
        """The beat, counted from bar 1, at frames; after the music it continues at the last tempo."""
        knots, beats = self._knots
        found = np.interp(frames, knots, beats)
        slope = self._slope(len(knots) - 1)
        return np.asarray(np.where(frames > knots[-1], beats[-1] + (frames - knots[-1]) * slope, found))

    def bars(self, frames: Floats) -> Floats:
        """Bars from bar 1 on."""
        return self.beats(frames) / (self.grid.beats_per_bar if self.grid else 4)

    def beat_frames(self, frames: Floats) -> Floats:
        """The length of a beat in frames of After, around frames."""
        knots, beats = self._knots
        reach = max(1, round(1.0 * self.rate))
        low, high = np.clip(frames - reach, 0.0, knots[-1] - 1.0), np.clip(frames + reach, 1.0, knots[-1])
        passed = np.interp(high, knots, beats) - np.interp(low, knots, beats)
        return np.asarray((high - low) / np.maximum(1e-6, passed))

    def longest_beat(self) -> float:
        """The most frames a beat lasts, at most four seconds."""
        knots, _ = self._knots
        return float(min(4.0 * self.rate, self.beat_frames(knots).max()))

    def _slope(self, at: int) -> float:
        knots, beats = self._knots
        back = max(0, at - 20)
        return float((beats[at] - beats[back]) / max(1.0, knots[at] - knots[back]))
