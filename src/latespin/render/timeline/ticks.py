"""The ticks of a needle that jumps a groove, as something laid over the music.

A click as the stylus hits the wall of the groove, and the thump of the arm beneath it: damped oscillations, as in Godsill and
Rayner, Digital Audio Restoration, 1998, chapter 5.
"""

import numpy as np

from latespin.dsp.arrays import Audio, amplitude
from latespin.model.arranging.arrangement import PlacedMoment
from latespin.model.moments.moments import StuckRecord
from latespin.model.values.parameters import TICK
from latespin.render.timeline.overlays import PrecomputedOverlay

SECONDS, RISE_SECONDS = 0.12, 0.0002
#: Pitch, decay and level of what rings.
PARTS = ((2_100.0, 0.0007, 1.0), (480.0, 0.003, 0.35), (62.0, 0.022, 0.5))


class TickOverlay(PrecomputedOverlay):
    """One tick, whose peak is the one that was asked for."""

    def __init__(self, tick: PlacedMoment, rate: int, last: int) -> None:
        assert isinstance(tick.moment, StuckRecord)
        self._rate, self._level = rate, tick.moment.tick_db
        super().__init__(tick.start, min(round(SECONDS * rate), last - tick.start))

    def _all(self) -> Audio:
        if self._level <= TICK.low:
            return np.zeros((2, self.frames), np.float32)
        t = np.arange(round(SECONDS * self._rate)) / self._rate
        rings = sum(level * np.sin(2.0 * np.pi * hz * t) * np.exp(-t / decay) for hz, decay, level in PARTS)
        wave = np.asarray(rings) * np.minimum(1.0, t / RISE_SECONDS) * np.cos(0.5 * np.pi * t / SECONDS)
        wave *= amplitude(self._level) / np.abs(wave).max()
        return np.tile(wave[: self.frames].astype(np.float32), (2, 1))
