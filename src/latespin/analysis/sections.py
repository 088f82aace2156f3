"""Sections: where a song changes, which parts repeat, and their energy.

Block matching on bars (after A. Marmoret, J. E. Cohen and F. Bimbot, "Barwise music structure analysis with the correlation block-matching
segmentation algorithm", TISMIR 5(1), 2022). A bar is described by the mean and spread of a bank of filters, by its onsets at sixteen places, and by its pitch classes;
of each description the leading directions count. Sections are the partition in which bars differ least from their section's mean, at a price for every
border and a preference for whole phrases, found by dynamic programming. Sections that sound alike, in another key by up to two semitones as well, share a letter
(average linkage).
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.cluster.hierarchy import fcluster, linkage
from scipy.ndimage import gaussian_filter1d
from scipy.spatial.distance import squareform

from latespin.analysis.spectra import FPS, LONG_FPS, Spectra
from latespin.dsp.arrays import Floats

SHORTEST_BARS = 2
DIRECTIONS = 7
WEIGHTS = (1.0, 1.0, 0.5)  # of the bank of filters, onsets and pitch classes
#: Distances from the mean bar, one for each description: differences far below them count as none.
FLOORS = (0.5, 2.0, 0.15)
LEAST_RISES = 3e-3  # mean of onsets, below which nothing begins
PLACES = 16  # in a bar, at which onsets are looked at
BORDER_PRICE, BARELESS_PRICE = 0.2, 2.5  # of bars, and of other parts, at whose edges nothing need begin
#: The price of a section by its length: the first of these numbers of bars that divides it decides.
LENGTH_PRICES = ((8, 0.0), (4, 0.9), (2, 3.0), (1, 4.8))
ALIKE = 1.05  # distance of sections up to which they share a letter; bars are 1 from the mean bar on average
HARMONY = 2.5  # weight of the distance of harmonies, 0 to √2
TRANSPOSED_PRICE = 0.1
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


@dataclass(frozen=True)
class FoundSection:
    """start, end : seconds.  label : a letter, the same for parts that sound alike.  energy : 0 to 1, the song's fullest 1."""

    start: float
    end: float
    label: str
    energy: float


@dataclass(frozen=True)
class _Bars:
    """What bars are compared by.

    points : ``[bars, directions]``, filter bank and onsets.  harmony : ``[bars, 12]``, pitch classes.  both : ``[bars, directions]``, points and harmony.
    """

    points: Floats
    harmony: Floats
    both: Floats


def find_sections(spectra: Spectra, classes: Floats, edges: Floats, *, bars_known: bool = True) -> list[FoundSection]:
    """The sections of a song cut into bars (or other equal parts) at ``edges``, seconds ascending."""
    if len(edges) < 2 * SHORTEST_BARS + 1:
        return [FoundSection(float(edges[0]), float(edges[-1]), "A", 1.0)]
    bars = _described(spectra, classes, edges)
    borders = _borders(bars.both, BORDER_PRICE if bars_known else BARELESS_PRICE)
    energy = np.array([_mean_between(spectra.level, edges[a], edges[b]) for a, b in pairwise(borders)])
    relative = np.sqrt(energy / (energy.max() + 1e-12))
    labels = _labels(bars, borders)
    return [
        FoundSection(float(edges[a]), float(edges[b]), label, float(part))
        for a, b, label, part in zip(borders, borders[1:], labels, relative, strict=False)
    ]


def letter(number: int) -> str:
    """A to Z, then AA, AB and on."""
    return letter(number // 26 - 1) + LETTERS[number % 26] if number >= 26 else LETTERS[number]


def _mean_between(values: Floats, start: float, end: float) -> float:
    first = round(start * FPS)
    return float(np.mean(values[first : max(first + 1, round(end * FPS))])) if first < len(values) else 0.0


def _described(spectra: Spectra, classes: Floats, edges: Floats) -> _Bars:
    count = len(edges) - 1
    bank = np.zeros((count, 2 * spectra.bank.shape[1]))
    harmony, onsets = np.zeros((count, 12)), np.zeros((count, len(spectra.onsets) * PLACES))
    smooth = gaussian_filter1d(spectra.onsets, 2.0, axis=1)
    smooth = np.sqrt(smooth / (smooth.mean(axis=1, keepdims=True) + LEAST_RISES))
    for bar, (start, end) in enumerate(pairwise(edges)):
        long = slice(int(start * LONG_FPS), max(int(start * LONG_FPS) + 1, int(end * LONG_FPS)))
        if len(spectra.bank[long]):
            part = spectra.bank[long].astype(np.float64)
            bank[bar] = np.concatenate((part.mean(axis=0), part.std(axis=0)))
        if len(classes[long]):
            harmony[bar] = classes[long].mean(axis=0)
        at = np.round((start + (end - start) * np.arange(PLACES) / PLACES) * FPS).astype(int)
        onsets[bar] = smooth[:, np.clip(at, 0, smooth.shape[1] - 1)].ravel()
    harmony = np.sqrt(harmony)
    harmony /= np.linalg.norm(harmony, axis=1, keepdims=True) + 1e-9
    parts = [w * _leading(part, floor) for w, part, floor in zip(WEIGHTS, (bank, onsets, harmony), FLOORS, strict=True)]
    return _Bars(np.concatenate(parts[:2], axis=1), harmony, np.concatenate(parts, axis=1))


def _leading(points: Floats, floor: float) -> Floats:
    """The leading directions of bars ``[bars, values]``, the mean square of their distance from the mean bar made 1 where it is far above ``floor``."""
    left, size, _ = np.linalg.svd(points - points.mean(axis=0), full_matrices=False)
    led = left[:, :DIRECTIONS] * size[:DIRECTIONS]
    return np.asarray(led / np.sqrt(np.mean(np.sum(led**2, axis=1)) + floor**2))


def _borders(points: Floats, price: float) -> list[int]:
    """Numbers of the bars at which a section begins, and one past the last bar: the partition with the least total cost."""
    count = len(points)
    total = np.concatenate((np.zeros((1, points.shape[1])), np.cumsum(points, axis=0)))
    squares = np.concatenate(([0.0], np.cumsum((points**2).sum(axis=1))))
    prices = np.array([next(price for bars, price in LENGTH_PRICES if n % bars == 0) for n in range(count + 1)])
    best, came = np.full(count + 1, np.inf), np.zeros(count + 1, int)
    best[0] = 0.0
    for stop in range(SHORTEST_BARS, count + 1):
        starts = np.arange(0, stop - SHORTEST_BARS + 1)
        bars = stop - starts
        spread = squares[stop] - squares[starts] - ((total[stop] - total[starts]) ** 2).sum(axis=1) / bars
        costs = best[starts] + spread + price + prices[bars]
        came[stop] = int(np.argmin(costs))
        best[stop] = costs[came[stop]]
    borders = [count]
    while borders[0] > 0:
        borders.insert(0, int(came[borders[0]]))
    return borders


def _labels(bars: _Bars, borders: list[int]) -> list[str]:
    """A letter for each section, in the order in which they come."""
    means = np.array([bars.points[a:b].mean(axis=0) for a, b in pairwise(borders)])
    chords = [bars.harmony[a:b] for a, b in pairwise(borders)]
    if len(means) == 1:
        return ["A"]
    apart = np.zeros((len(means), len(means)))
    for i in range(len(means)):
        for j in range(i):
            sound = float(np.linalg.norm(means[i] - means[j]))
            apart[i, j] = apart[j, i] = np.hypot(sound, HARMONY * _harmony_apart(chords[i], chords[j]))
    groups = fcluster(linkage(squareform(apart), "average"), ALIKE, "distance")
    order = {group: number for number, group in enumerate(dict.fromkeys(groups))}
    return [letter(order[group]) for group in groups]


def _harmony_apart(first: Floats, second: Floats) -> float:
    """The mean distance of the chords of two sections, bar for bar from the beginning, in the key in which they are nearest."""
    count = min(len(first), len(second))
    a, b = first[:count], second[:count]
    return float(
        min(
            np.sqrt(np.mean(np.sum((a - np.roll(b, by, axis=1)) ** 2, axis=1))) + TRANSPOSED_PRICE * (by != 0)
            for by in range(-2, 3)
        )
    )
