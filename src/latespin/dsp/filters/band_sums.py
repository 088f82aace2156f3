"""Summing a spectrum into bands."""

import numpy as np

from latespin.dsp.arrays import Floats


def band_sums(power: Floats, edges: Floats) -> Floats:
    """The sums ``[…, n]`` of a power spectrum ``[…, bins]`` between ``n + 1`` rising edges, in bins; those that straddle an edge are shared."""
    summed = np.cumsum(power, axis=-1)
    places = np.clip(edges - 0.5, 0.0, power.shape[-1] - 1.001)
    whole = places.astype(np.int64)
    at = summed[..., whole] + (places - whole) * (summed[..., whole + 1] - summed[..., whole])
    return np.asarray(np.maximum(0.0, np.diff(at, axis=-1)))
