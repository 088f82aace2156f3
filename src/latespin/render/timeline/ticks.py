"""The ticks of a needle that jumps a groove, as something laid over the music.

A click as the stylus hits the wall of the groove, and the thump of the arm beneath it; each rings as the other events of a record do.
"""

import numpy as np

from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.effects.random_sources import ring
from latespin.model.arranging.arrangement import PlacedMoment
from latespin.model.moments.moments import StuckRecord
from latespin.model.values.parameters import TICK
from latespin.render.timeline.overlays import PrecomputedOverlay

SECONDS = 0.12
#: Pitch, decay and level of what rings.
PARTS = ((2_100.0, 0.0007, 1.0), (480.0, 0.003, 0.35), (62.0, 0.017, 0.5))


class TickOverlay(PrecomputedOverlay):
    """One tick, whose peak is the one that was asked for."""

    def __init__(self, tick: PlacedMoment, rate: int, last: int) -> None:
        assert isinstance(tick.moment, StuckRecord)
        self._rate, self._level = rate, tick.moment.tick_db
        super().__init__(tick.start, min(round(SECONDS * rate), last - tick.start))

    def _all(self) -> Audio:
        if self._level <= TICK.low:
            return np.zeros((2, self.frames), np.float32)
        sound = np.zeros((2, round(SECONDS * self._rate)), np.float32)
        values = [(level, level, 2.0 * np.pi * hz / self._rate, decay * self._rate, 0.0) for hz, decay, level in PARTS]
        ring(sound, np.zeros(len(PARTS), np.int64), np.array(values), self._rate)
        return sound[:, : self.frames] * np.float32(amplitude(self._level) / np.abs(sound).max())
