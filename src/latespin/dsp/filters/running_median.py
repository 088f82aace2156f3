"""Running medians along rows, many times as fast as a general rank filter."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.kernels import kernel


def running_median(rows: Audio, width: int) -> Audio:
    """The median of the ``width`` values around each value of each row; rows are mirrored at their ends.

    rows : float32 ``[rows, values]``, left unchanged.  width : odd.  Returns float32 of the same shape.
    """
    half = width // 2
    padded = np.pad(np.ascontiguousarray(rows), ((0, 0), (half, half)), mode="symmetric")
    out = np.empty(rows.shape, np.float32)
    _medians(padded, width, out)
    return out


@kernel()
def _medians(padded, width, out):  # type: ignore[no-untyped-def]
    """Keep the values around the place in order; with every step one goes and one comes."""
    ordered = np.empty(width, np.float32)
    for r in range(out.shape[0]):
        row = padded[r]
        ordered[:] = np.sort(row[:width])
        out[r, 0] = ordered[width // 2]
        for n in range(1, out.shape[1]):
            gone, come = row[n - 1], row[n - 1 + width]
            at = min(np.searchsorted(ordered, gone), width - 1)
            while at + 1 < width and ordered[at + 1] < come:
                ordered[at] = ordered[at + 1]
                at += 1
            while at > 0 and ordered[at - 1] > come:
                ordered[at] = ordered[at - 1]
                at -= 1
            ordered[at] = come
            out[r, n] = ordered[width // 2]
