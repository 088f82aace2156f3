"""A modulated delay: reads the song earlier or later from frame to frame, like an uneven turntable.

Band-limited interpolation with a Kaiser-windowed sinc of 32 taps (J. O. Smith, "Digital Audio Resampling"; T. I. Laakso et al.,
"Splitting the unit delay", IEEE SP Magazine 13(1), 1996): flat within 0.1 dB to 17 kHz at 44.1 kHz, images below −80 dB.
"""

from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.kernels import kernel

TAPS, PHASES = 32, 512


class ModulatedDelay:
    """Stereo, read at ``at + offset`` where ``process`` is given the offset, in frames, of every frame; ``latency`` frames late.

    most : the largest offset, either way, that will be asked for; larger ones are clipped to it.
    """

    def __init__(self, most: float) -> None:
        self._most = float(np.ceil(most))
        self.latency = int(self._most) + TAPS // 2
        self._kept = np.zeros((2, 2 * self.latency), np.float32)

    def process(self, block: Audio, offsets: Floats) -> Audio:
        """The input ``latency`` frames ago, each frame moved by its offset; the same number as ``block``."""
        heard = np.concatenate((self._kept, block), axis=1)
        self._kept = heard[:, block.shape[1] :].copy()
        out = np.empty(block.shape, np.float32)
        _read(heard, np.clip(offsets, -self._most, self._most) + self.latency, _table(), out)
        return out

    def dry(self, block: Audio) -> Audio:
        """What ``process`` would give for offsets of nothing, bit for bit; to be asked before it."""
        return np.concatenate((self._kept[:, self.latency :], block), axis=1)[:, : block.shape[1]]


@lru_cache(maxsize=1)
def _table() -> Audio:
    """Taps ``[phases + 1, taps]``; row p serves a place p/phases beyond a frame."""
    frames = np.arange(TAPS) - (TAPS // 2 - 1)
    t = np.arange(PHASES + 1)[:, None] / PHASES - frames
    window = np.i0(8.0 * np.sqrt(np.maximum(0.0, 1.0 - (t / (TAPS // 2)) ** 2))) / np.i0(8.0)
    taps = np.sinc(t) * window
    return np.ascontiguousarray(taps / taps.sum(axis=1, keepdims=True), dtype=np.float32)


@kernel(fastmath=True)
def _read(heard, offsets, table, out):  # type: ignore[no-untyped-def]
    for n in range(out.shape[1]):
        place = n + offsets[n]
        whole = int(place)
        row = (place - whole) * PHASES
        at = int(row)
        weight = np.float32(row - at)
        here, following = table[at], table[at + 1]
        start = whole - TAPS // 2 + 1
        left, right = heard[0, start : start + TAPS], heard[1, start : start + TAPS]
        sum_left, sum_right = np.float32(0.0), np.float32(0.0)
        for k in range(TAPS):
            tap = here[k] + weight * (following[k] - here[k])
            sum_left += tap * left[k]
            sum_right += tap * right[k]
        out[0, n], out[1, n] = sum_left, sum_right
