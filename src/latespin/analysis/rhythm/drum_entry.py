"""Where drums come in: the bar at which the onsets of both lows and highs rise most, against how much they differ between bars."""

from itertools import pairwise

import numpy as np

from latespin.analysis.spectra import FPS, Spectra
from latespin.dsp.arrays import Floats

FEWEST_BARS = 8
LEAST_BEFORE = 2  # bars
LATEST = 0.6  # of the song
AHEAD = 8  # bars that are looked at after an entry
FLOOR = 0.02  # of the mean
USUAL_SPREAD = 0.15  # natural logarithm, by which bars differ in any case
WEIGHTS = np.array([1.0, 2.0]) / 3.0  # of lows, in which basses are struck too, and of highs
LEAST_RISE, LEAST_CONTRAST = 0.35, 1.2  # natural logarithm; rise over spread


def find_drum_entry(spectra: Spectra, edges: Floats) -> float | None:
    """Seconds of the bar line (of ``edges``, seconds) at which drums come in; None where they are there from the first bars on, or never."""
    bars = np.array([_by_bar(spectra.onsets[band], edges) for band in (0, 3)])
    count = bars.shape[1]
    if count < FEWEST_BARS:
        return None
    contrasts = np.full(count, -np.inf)
    for bar in range(LEAST_BEFORE, int(LATEST * count)):
        before, after = bars[:, :bar], bars[:, bar : bar + AHEAD]
        rise = after.mean(axis=1) - before.mean(axis=1)
        squares = before.var(axis=1) * bar + after.var(axis=1) * after.shape[1]
        if WEIGHTS @ rise > LEAST_RISE:
            contrasts[bar] = WEIGHTS @ (rise / (np.sqrt(squares / (bar + after.shape[1])) + USUAL_SPREAD))
    found = int(np.argmax(contrasts))
    return round(float(edges[found]), 3) if contrasts[found] > LEAST_CONTRAST else None


def _by_bar(onsets: Floats, edges: Floats) -> Floats:
    """The natural logarithm of a band's mean onset in each bar."""
    at = (edges * FPS).astype(int)
    mean = np.array([onsets[a : max(a + 1, b)].mean() if a < len(onsets) else 0.0 for a, b in pairwise(at)])
    return np.asarray(np.log(mean + FLOOR * onsets.mean() + 1e-9))
