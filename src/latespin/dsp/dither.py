"""Dropping bits: TPDF dither and quantising.

Source: S. P. Lipshitz, R. A. Wannamaker and J. Vanderkooy, "Quantization and dither: a theoretical survey",
JAES 40(5), 1992: triangular noise of two steps' width makes the error's mean and power independent of the signal.
"""

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio


def quantise(block: Audio, bits: int, noise: np.random.Generator) -> NDArray[np.int32]:
    """Float ``[channels, frames]``, full scale ±1, to whole numbers of ``bits`` bits (16 or 24), dithered.

    A sample that already is a whole number of steps, such as digital silence, stays as it is. What lies beyond full scale is clipped.
    Returns int32 of the same shape, −2^(bits−1) to 2^(bits−1) − 1.
    """
    full = 2 ** (bits - 1)
    scaled = block.astype(np.float64) * full
    dither = noise.random(block.shape) - noise.random(block.shape)
    dither[scaled == np.round(scaled)] = 0.0
    return np.asarray(np.clip(np.round(scaled + dither), -full, full - 1), dtype=np.int32)
