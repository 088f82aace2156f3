"""Raised cosines: fades without a corner, whose gains and those of the fade the other way add up to 1."""

import numpy as np

from latespin.dsp.arrays import Floats


def raised_cosine(share: Floats) -> Floats:
    """From 0 to 1 as ``share`` goes from 0 to 1."""
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * share))


def fade_in(frames: int) -> Floats:
    """Gains from 0 to 1 over ``frames``, neither end included."""
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * (np.arange(frames) + 0.5) / max(1, frames)))
