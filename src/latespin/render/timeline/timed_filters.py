"""Effects that come and go over a stretch of After: filters with an amount that changes from frame to frame."""

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.fades import fade_in
from latespin.dsp.filters.state_variable import HighPass, SweptLowPass
from latespin.model.arranging.arrangement import PlacedMoment, edge_frames
from latespin.model.moments.curves import dip_of
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.moments import Cover

EARLY_SECONDS = 0.05  # that a filter hears before its stretch begins
WARM_UP_SECONDS = 0.3  # that must be heard before a place within a stretch for it to sound as in the whole
SURFACE_HZ, DEEP_HZ, WATER_RESONANCE, WATER_DROP_DB = 16_000.0, 380.0, 1.15, 5.0
PHONE_LOW_HZ, PHONE_HIGH_HZ, PHONE_LIFT_DB = 380.0, 3_300.0, 2.0
SOON = 0.12  # the amount from which on nothing of the untouched sound is mixed in under water


def amounts(during: PlacedMoment, at: Floats) -> Floats:
    """Weight of an effect dip at frames of After, 0 to its amount: in, full, out."""
    moment = during.moment
    assert isinstance(moment, ColourDip | EffectRange)
    x = (at - during.start) / max(1, during.stop - during.start)
    edge = np.clip(np.minimum(at - during.start, during.stop - at) / EDGE_FRAMES, 0.0, 1.0)
    return np.asarray(dip_of(moment, x) * edge)


EDGE_FRAMES = 128.0  # the shortest way in and out


class TimedFilter:
    """One stretch heard through a filter; outside of it nothing is changed, bit for bit."""

    def __init__(self, during: PlacedMoment, rate: int, channels: int) -> None:
        self._during, self._rate = during, rate
        moment = during.moment
        self._resonance = WATER_RESONANCE if isinstance(moment, ColourDip) and moment.colour == "water" else 1.0
        self._channels = channels
        self._early = round(EARLY_SECONDS * rate)
        self._next = -1

    def process(self, block: Audio, at: int) -> None:
        """Filter the part of a block within the passage, in place. at : the block's first frame."""
        first, last = max(at, self._during.start - self._early), min(at + block.shape[1], self._during.stop)
        if first >= last:
            return
        if first != self._next:
            self._low = SweptLowPass(self._rate, self._channels, self._resonance)
            self._high = HighPass(self._rate, self._channels, PHONE_LOW_HZ)
        self._next = last
        part = block[:, first - at : last - at]
        frames = np.arange(first, last, dtype=np.float64)
        moment = self._during.moment
        if isinstance(moment, Cover):
            wet, mix = self._low.process(part, np.full(len(frames), moment.muffle_hz)), self._edges(frames)
        else:
            assert isinstance(moment, ColourDip)
            wet, mix = self._filtered(moment, part, frames)
        inside = frames >= self._during.start
        part += np.where(inside, mix, 0.0).astype(np.float32) * (wet - part)

    def _filtered(self, moment: ColourDip, part: Audio, frames: Floats) -> tuple[Audio, Floats]:
        amount = amounts(self._during, np.maximum(frames, self._during.start))
        if moment.colour == "water":
            corners = SURFACE_HZ * (DEEP_HZ / SURFACE_HZ) ** amount
            wet = self._low.process(part, corners) * (10.0 ** (-WATER_DROP_DB * amount / 20.0)).astype(np.float32)
            return wet, np.minimum(1.0, amount / SOON)
        narrow = self._low.process(self._high.process(part), np.full(len(frames), PHONE_HIGH_HZ))
        mono = np.broadcast_to(narrow.mean(axis=0), narrow.shape) * np.float32(10.0 ** (PHONE_LIFT_DB / 20.0))
        return mono, amount

    def _edges(self, frames: Floats) -> Floats:
        """In and out over a few milliseconds within the stretch."""
        length = self._during.stop - self._during.start
        fade = max(1, min(edge_frames(self._rate), length // 4))
        way = fade_in(fade)
        near = np.minimum(frames - self._during.start, self._during.stop - 1 - frames)
        return np.where(near < 0, 0.0, np.where(near >= fade, 1.0, way[np.clip(near, 0, fade - 1).astype(np.int64)]))
