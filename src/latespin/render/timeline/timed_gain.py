"""A change of level over a range of After, which fades in and out in straight lines of decibels."""

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.effects.gain import ratios
from latespin.model.arranging.arrangement import PlacedMoment
from latespin.model.moments.curves import gain_shape
from latespin.model.moments.moments import GainChange

SHORTEST_SECONDS = 0.002  # of a fade, so that none is a step


def gains_of(during: PlacedMoment, at: Floats, rate: int) -> Floats:
    """Gain in dB at frames of After."""
    moment = during.moment
    assert isinstance(moment, GainChange)
    least = SHORTEST_SECONDS * rate
    fade_in, fade_out = (max(least, frames) for frames in during.fades)
    return moment.gain_db * gain_shape(at - during.start, during.stop - during.start, fade_in, fade_out)


def apply_gain(during: PlacedMoment, block: Audio, at: int, rate: int) -> None:
    """Change the part of a block within the range, in place. at : the block's first frame."""
    first, last = max(at, during.start), min(at + block.shape[1], during.stop)
    if first < last:
        gains = gains_of(during, np.arange(first, last, dtype=np.float64), rate)
        block[:, first - at : last - at] *= ratios(gains).astype(np.float32)
