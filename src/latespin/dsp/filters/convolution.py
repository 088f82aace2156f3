"""Convolution with a long response: uniformly partitioned, in the frequency domain.

T. G. Stockham, "High-speed convolution and correlation", 1966; W. G. Gardner, "Efficient convolution without input-output delay", JAES 43(3), 1995.
What is heard is ``BLOCK`` frames late; whoever reads ahead by as much hears it in time, so that no short partitions are needed.
"""

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio
from latespin.dsp.kernels import kernel

BLOCK = 4096


class Convolver:
    """Each channel with its own response ``[2, frames]``, or true stereo; ``latency`` frames late.

    response : with four channels, from left to left, left to right, right to left, right to right.

    longest : of a response it may be given later, where that is longer.  begin : the frame of the song with which it begins; what it works
    on at once begins at multiples of ``BLOCK``, wherever it is entered.
    """

    latency = BLOCK

    def __init__(self, response: Audio, longest: int = 0, begin: int = 0) -> None:
        self._parts = _partitioned(response)
        self._following: NDArray[np.complex64] | None = None
        count = max(len(self._parts), -(-longest // BLOCK))
        self._heard = np.zeros((count, 2, BLOCK + 1), np.complex64)
        self._at, inside = 0, begin % BLOCK
        self._last = np.zeros((2, BLOCK), np.float32)
        self._coming = np.zeros((2, inside), np.float32)
        self._ready = np.zeros((2, BLOCK - inside), np.float32)

    def exchange(self, response: Audio) -> None:
        """Go to another response, no longer than ``longest``, over the next piece."""
        self._following = _partitioned(response)[: len(self._heard)]

    def process(self, block: Audio) -> Audio:
        """As many frames as ``block`` has, of what came in ``latency`` frames ago."""
        self._coming = np.concatenate((self._coming, block), axis=1)
        made = [self._ready]
        while self._coming.shape[1] >= BLOCK:
            now, self._coming = self._coming[:, :BLOCK], self._coming[:, BLOCK:]
            self._heard[self._at] = np.fft.rfft(np.concatenate((self._last, now), axis=1), axis=1)
            made.append(self._made())
            self._last = now
            self._at = (self._at + 1) % len(self._heard)
        joined = np.concatenate(made, axis=1)
        self._ready = joined[:, block.shape[1] :]
        return np.ascontiguousarray(joined[:, : block.shape[1]], np.float32)

    def _made(self) -> Audio:
        """What has been heard, through the response; or from one to the next."""
        made = self._through(self._parts)
        if self._following is not None:
            share = np.linspace(0.0, 1.0, BLOCK, endpoint=False, dtype=np.float32)
            made = made + share * (self._through(self._following) - made)
            self._parts, self._following = self._following, None
        return made

    def _through(self, parts: NDArray[np.complex64]) -> Audio:
        total = np.zeros_like(self._heard[0])
        _weigh(self._heard, parts, self._at, total)
        return np.asarray(np.fft.irfft(total, axis=1)[:, BLOCK:], np.float32)


def _partitioned(response: Audio) -> NDArray[np.complex64]:
    """The spectra ``[parts, 2 or 4, BLOCK + 1]`` of a response's parts."""
    count = max(1, -(-response.shape[1] // BLOCK))
    padded = np.zeros((len(response), count * BLOCK), np.float32)
    padded[:, : response.shape[1]] = response
    return np.ascontiguousarray(
        np.fft.rfft(padded.reshape(len(response), count, BLOCK), 2 * BLOCK, axis=2).transpose(1, 0, 2)
    )


@kernel(fastmath=True)
def _weigh(heard, parts, at, total):  # type: ignore[no-untyped-def]
    """The sum over partitions of what was heard then and the response's part for it; with four responses, from both channels to both."""
    count = heard.shape[0]
    for p in range(parts.shape[0]):
        row, part = heard[(at - p) % count], parts[p]
        if part.shape[0] == 2:
            for c in range(2):
                for k in range(total.shape[1]):
                    total[c, k] += row[c, k] * part[c, k]
        else:
            for c in range(2):
                for k in range(total.shape[1]):
                    total[c, k] += row[0, k] * part[c, k] + row[1, k] * part[2 + c, k]
