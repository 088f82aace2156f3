"""Swing: how late in the beat its second half falls, measured from what is struck between beats."""

import numpy as np
from scipy.ndimage import gaussian_filter1d

from latespin.analysis.spectra import FPS
from latespin.dsp.arrays import Floats

PLACES = 120  # in a beat
LOWEST, HIGHEST = 0.46, 0.71  # place of the off-beat that is looked for
LEAST = 0.54  # below which eighths count as straight: hits that sound on one another move places by up to 0.03
NEAR = 0.03
ON_BEAT = 0.06
WINDOW = (0.4, 0.745)
#: Of off-beats against hits on beats; against all hits around the middle of the beat; and what triplets have at a third, against them.
LEAST_SHARE, LEAST_ALONE, MOST_THIRDS = 0.15, 0.6, 0.3
MOST_SPREAD = 0.014  # of a beat
FAINTEST = 0.15  # of strong hits
FEWEST_BEATS = 8


def find_swing(struck: Floats, times: Floats) -> float | None:
    """Where in the beat off-beats fall, 0.54 to 0.71 of it, 2⁄3 being triplet swing; None for straight eighths, triplets, and where it is not clear.

    struck : strength of onsets ``[frames]``.  times : seconds of the beats, ascending.
    """
    place, strength = _hits(struck, times)
    if not len(place):
        return None
    round_beat = np.where(place > 0.5, place - 1.0, place)
    on = np.abs(round_beat) < ON_BEAT
    if not strength[on].sum() > 0.0:
        return None
    place = (place - np.average(round_beat[on], weights=strength[on])) % 1.0
    counts = np.bincount((place * PLACES + 0.5).astype(int) % PLACES, strength, PLACES)
    smooth = gaussian_filter1d(counts, 1.5, mode="wrap")
    low, high = round(LOWEST * PLACES), round(HIGHEST * PLACES)
    top = low + int(np.argmax(smooth[low : high + 1]))
    near = np.abs(place - top / PLACES) < NEAR
    off = strength[near].sum()
    if top in (low, high) or not off > 0.0:
        return None
    found = float(np.average(place[near], weights=strength[near]))
    spread = float(np.sqrt(np.average((place[near] - found) ** 2, weights=strength[near])))
    around = strength[(place > WINDOW[0]) & (place < WINDOW[1])].sum()
    thirds = strength[np.abs(place - (1.0 - found)) < NEAR].sum()
    clear = off > LEAST_SHARE * strength[on].sum() and off > LEAST_ALONE * around and spread < MOST_SPREAD
    return round(found, 3) if found >= LEAST and clear and thirds < MOST_THIRDS * off else None


def _hits(struck: Floats, times: Floats) -> tuple[Floats, Floats]:
    """Places in their beats, 0 to 1, and strengths of what is struck."""
    if len(times) < FEWEST_BEATS:
        return np.zeros(0), np.zeros(0)
    smooth = gaussian_filter1d(struck, 1.0)
    tops = np.flatnonzero((smooth[1:-1] > smooth[:-2]) & (smooth[1:-1] >= smooth[2:])) + 1
    if not len(tops):
        return np.zeros(0), np.zeros(0)
    left, here, right = smooth[tops - 1], smooth[tops], smooth[tops + 1]
    at = (tops + 0.5 * (left - right) / np.minimum(-1e-9, left - 2.0 * here + right)) / FPS
    strong = np.quantile(here, 0.95)
    beat = np.searchsorted(times, at, side="right") - 1
    counted = (beat >= 0) & (beat < len(times) - 1) & (here > FAINTEST * strong)
    at, beat = at[counted], beat[counted]
    return (at - times[beat]) / (times[beat + 1] - times[beat]), np.minimum(here[counted], strong)
