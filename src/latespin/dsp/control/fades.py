"""Raised cosines: fades without a corner, whose gains and those of the fade the other way add up to 1; and windows of spectra."""

import numpy as np

from latespin.dsp.arrays import Audio, Floats


def raised_cosine(share: Floats) -> Floats:
    """From 0 to 1 as ``share`` goes from 0 to 1."""
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * share))


def hann(size: int) -> Audio:
    """A Hann window that begins at 0 and would begin again after ``size`` frames, ``[size]``."""
    return np.asarray(np.hanning(size + 1)[:size], np.float32)


def fade_in(frames: int) -> Floats:
    """Gains from 0 to 1 over ``frames``, neither end included."""
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * (np.arange(frames) + 0.5) / max(1, frames)))
