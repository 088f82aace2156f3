"""Convolution with a long response: uniformly partitioned, in the frequency domain.

T. G. Stockham, "High-speed convolution and correlation", 1966; W. G. Gardner, "Efficient convolution without input-output delay", JAES 43(3), 1995.
What is heard is ``BLOCK`` frames late; whoever reads ahead by as much hears it in time, so that no short partitions are needed.
"""

import numpy as np
from numba import njit
from scipy.fft import irfft, rfft

from latespin.dsp.types import Audio

BLOCK = 4096


class Convolver:
    """Each channel with its own response ``[2, frames]``; ``latency`` frames late."""

    latency = BLOCK

    def __init__(self, response: Audio) -> None:
        parts = max(1, -(-response.shape[1] // BLOCK))
        padded = np.zeros((2, parts * BLOCK), np.float32)
        padded[:, : response.shape[1]] = response
        self._parts = np.ascontiguousarray(rfft(padded.reshape(2, parts, BLOCK), 2 * BLOCK, axis=2).transpose(1, 0, 2))
        self._heard = np.zeros_like(self._parts)
        self._at = 0
        self._last = np.zeros((2, BLOCK), np.float32)
        self._coming = np.zeros((2, 0), np.float32)
        self._ready = np.zeros((2, BLOCK), np.float32)

    def process(self, block: Audio) -> Audio:
        """As many frames as ``block`` has, of what came in ``latency`` frames ago."""
        self._coming = np.concatenate((self._coming, block), axis=1)
        made = [self._ready]
        while self._coming.shape[1] >= BLOCK:
            now, self._coming = self._coming[:, :BLOCK], self._coming[:, BLOCK:]
            self._heard[self._at] = rfft(np.concatenate((self._last, now), axis=1), axis=1)
            total = np.zeros_like(self._heard[0])
            _weigh(self._heard, self._parts, self._at, total)
            made.append(irfft(total, axis=1)[:, BLOCK:])
            self._last = now
            self._at = (self._at + 1) % len(self._parts)
        joined = np.concatenate(made, axis=1)
        self._ready = joined[:, block.shape[1] :]
        return np.ascontiguousarray(joined[:, : block.shape[1]], np.float32)


@njit(cache=True, nogil=True, fastmath=True)
def _weigh(heard, parts, at, total):  # type: ignore[no-untyped-def]
    """The sum over partitions of what was heard then and the response's part for it."""
    count = heard.shape[0]
    for p in range(count):
        row, part = heard[(at - p) % count], parts[p]
        for c in range(2):
            for k in range(total.shape[1]):
                total[c, k] += row[c, k] * part[c, k]
