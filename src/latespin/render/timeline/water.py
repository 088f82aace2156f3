"""The sounds of a dive: water while it lasts, and a splash where it begins and ends."""

import numpy as np

from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.effects.ambience import bed, splash
from latespin.model.arranging.arrangement import PlacedMoment
from latespin.model.moments.faded_effects import ColourDip
from latespin.render.timeline.overlays import Overlay
from latespin.render.timeline.timed_filters import amounts

SEED = 7


def has_water(during: PlacedMoment) -> bool:
    """True for a dive with sounds of its own."""
    moment = during.moment
    return isinstance(moment, ColourDip) and moment.colour == "water" and (moment.bed or moment.splash)


class WaterOverlay(Overlay):
    """level : of the song, an amplitude.  last : the frame of After at which its music ends."""

    def __init__(self, during: PlacedMoment, rate: int, level: float, last: int) -> None:
        moment = during.moment
        assert isinstance(moment, ColourDip)
        plunge = splash(rate, SEED) if moment.splash else np.zeros((2, 0), np.float32)
        super().__init__(during.start, min(during.stop + plunge.shape[1], last) - during.start)
        self._during, self._moment, self._level = during, moment, level
        self._plunge = plunge * np.float32(level * amplitude(moment.splash_db))
        self._bed = bed("water", rate, SEED) if moment.bed else None

    def _make(self, at: int, frames: int) -> Audio:
        out = np.zeros((2, frames), np.float32)
        first = self._during.start + at
        if self._bed is not None:
            depth = amounts(self._during, np.arange(first, first + frames, dtype=np.float64))
            gain = self._level * amplitude(self._moment.bed_db) * np.sqrt(depth)
            out += self._bed.read(first, frames) * gain.astype(np.float32)
        for begin in (0, self._during.stop - self._during.start):
            low, high = max(at, begin), min(at + frames, begin + self._plunge.shape[1])
            if low < high:
                out[:, low - at : high - at] += self._plunge[:, low - begin : high - begin]
        return out
