"""The inner loop of FIR filters, vectorised along the frames."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.kernels import kernel

PIECE = 1024  # frames whose sums stay in a processor's nearest memory


def correlate(heard: Audio, taps: Audio) -> Audio:
    """``out[c, n] = Σ taps[k] · heard[c, n + k]``: ``[channels, frames]`` gives ``[channels, frames + 1 − taps]``."""
    out = np.zeros((heard.shape[0], heard.shape[1] + 1 - len(taps)), np.float32)
    for row, total in zip(np.ascontiguousarray(heard), out, strict=True):
        add_correlation(row, taps, total)
    return out


@kernel(fastmath=True)
def add_correlation(row, taps, total):  # type: ignore[no-untyped-def]
    """``total[n] += Σ taps[k] · row[n + k]``; all of them contiguous."""
    most = len(taps) - len(taps) % 4
    for start in range(0, len(total), PIECE):
        part = total[start : start + PIECE]
        for k in range(0, most, 4):
            a, b, c, d = taps[k], taps[k + 1], taps[k + 2], taps[k + 3]
            first, second = row[start + k :], row[start + k + 1 :]
            third, fourth = row[start + k + 2 :], row[start + k + 3 :]
            for n in range(len(part)):
                part[n] += a * first[n] + b * second[n] + c * third[n] + d * fourth[n]
        for k in range(most, len(taps)):
            a, first = taps[k], row[start + k :]
            for n in range(len(part)):
                part[n] += a * first[n]
