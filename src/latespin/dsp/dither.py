"""Dropping bits: TPDF dither and quantising.

Source: S. P. Lipshitz, R. A. Wannamaker and J. Vanderkooy, "Quantization and dither: a theoretical survey",
JAES 40(5), 1992: triangular noise of two steps' width makes the error's mean and power independent of the signal.
The noise is the hash of a sample's number (G. L. Steele, D. Lea and C. H. Flood, "Fast splittable pseudorandom number generators", OOPSLA 2014), so that it is the
same however the sound is cut into blocks.
"""

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio
from latespin.dsp.kernels import kernel

SEED = np.uint64(20_260_815)
_STEP, _FIRST, _SECOND = np.uint64(0x9E3779B97F4A7C15), np.uint64(0xBF58476D1CE4E5B9), np.uint64(0x94D049BB133111EB)
_LOW, _32, _30, _27, _31 = np.uint64(0xFFFFFFFF), np.uint64(32), np.uint64(30), np.uint64(27), np.uint64(31)
_PART = 2.0**-32


class Quantiser:
    """Whole numbers from a stream of float sound. bits : 16 or 24.  clipped : how many samples so far lay beyond full scale."""

    def __init__(self, bits: int) -> None:
        self._bits = bits
        self._frame = 0
        self.clipped = 0

    def process(self, block: Audio) -> NDArray[np.int32]:
        """A block ``[channels, frames]``, full scale ±1, as ``[frames, channels]`` in the upper bits of int32, dithered.

        A sample that already is a whole number of steps, such as digital silence, stays as it is. What lies beyond full scale is clipped.
        """
        out = np.empty(block.shape[::-1], np.int32)
        self.clipped += _quantise(np.ascontiguousarray(block), self._bits, np.uint64(self._frame), out)
        self._frame += block.shape[1]
        return out


@kernel()
def _quantise(block, bits, first, out):  # type: ignore[no-untyped-def]
    channels, frames = block.shape
    full, up = float(2 ** (bits - 1)), 32 - bits
    clipped = 0
    for c in range(channels):
        for n in range(frames):
            x = block[c, n]
            clipped += abs(x) > 1.0
            scaled = x * full
            whole = np.rint(scaled)
            if scaled != whole:
                hashed = SEED + ((first + np.uint64(n)) * np.uint64(channels) + np.uint64(c)) * _STEP
                hashed = (hashed ^ (hashed >> _30)) * _FIRST
                hashed = (hashed ^ (hashed >> _27)) * _SECOND
                hashed ^= hashed >> _31
                whole = np.rint(scaled + (float(hashed & _LOW) - float(hashed >> _32)) * _PART)
            out[n, c] = np.int32(min(max(whole, -full), full - 1.0)) << up
    return clipped
