"""Sections: where a song changes, which parts repeat, and their energy.

Bars are described by their pitch classes, onsets and level. Sections are the partition in which bars differ least from their section's
mean, at a cost for every border (B. Jackson et al., "An algorithm for optimal partitioning of data on an interval", IEEE
Signal Processing Letters 12, 2005). Parts that sound alike get the same letter.
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.ndimage import uniform_filter1d

from latespin.analysis.spectra import FPS, LONG_FPS, Spectra
from latespin.dsp.arrays import Floats

SHORTEST_BARS, PHRASE_BARS = 2, 4
HARMONY_SHARE = 8.0  # of pitch classes against energies
LEAST_STEP_DB, USUAL_STEPS = 0.6, 1.5  # of energy, and usual steps from bar to bar on top, that count as one
DEEPEST = 0.03  # of the fullest bars' energy, below which nothing is told apart
BORDER_COST = 3.0
ODD_COST = 1.0  # of a section that is not a whole number of phrases
ALIKE = 0.80
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


@dataclass(frozen=True)
class FoundSection:
    """start, end : seconds.  label : a letter, the same for parts that sound alike.  energy : 0 to 1, the song's fullest 1."""

    start: float
    end: float
    label: str
    energy: float


def find_sections(spectra: Spectra, classes: Floats, edges: Floats) -> list[FoundSection]:
    """The sections of a song cut into bars (or other equal parts) at ``edges``, seconds ascending."""
    if len(edges) < 2 * SHORTEST_BARS + 1:
        return [FoundSection(float(edges[0]), float(edges[-1]), "A", 1.0)]
    looks = _looks(spectra, classes, edges)
    borders = _borders(looks)
    energy = np.array([_mean_between(spectra.level, edges[a], edges[b]) for a, b in pairwise(borders)])
    relative = np.sqrt(energy / (energy.max() + 1e-12))
    labels = _labels(looks, borders)
    return [
        FoundSection(float(edges[a]), float(edges[b]), label, float(part))
        for a, b, label, part in zip(borders, borders[1:], labels, relative, strict=False)
    ]


def _mean_between(values: Floats, start: float, end: float) -> float:
    first = round(start * FPS)
    return float(np.mean(values[first : max(first + 1, round(end * FPS))])) if first < len(values) else 0.0


def _looks(spectra: Spectra, classes: Floats, edges: Floats) -> tuple[Floats, Floats]:
    """For each bar: harmony ``[bars, 12]`` of length 1, and energies ``[bars, 6]`` over the steps usual from bar to bar."""
    count = len(edges) - 1
    harmony, energies = np.zeros((count, 12)), np.zeros((count, 6))
    for bar, (start, end) in enumerate(pairwise(edges)):
        long = slice(int(start * LONG_FPS), max(int(start * LONG_FPS) + 1, int(end * LONG_FPS)))
        short = slice(int(start * FPS), max(int(start * FPS) + 1, int(end * FPS)))
        if classes[long].size:
            harmony[bar] = classes[long].mean(axis=0)
        if spectra.level[short].size:
            energies[bar] = [
                spectra.level[short].mean(),
                *spectra.onsets[:, short].mean(axis=1),
                spectra.notes[short].mean(),
            ]
    harmony /= np.linalg.norm(harmony, axis=1, keepdims=True) + 1e-9
    quietest = DEEPEST * np.quantile(energies, 0.9, axis=0)
    decibels = 10.0 * np.log10(energies + quietest + 1e-12)
    usual = np.median(np.abs(np.diff(decibels, axis=0)), axis=0)
    return harmony, decibels / (LEAST_STEP_DB + USUAL_STEPS * usual)


def _borders(looks: tuple[Floats, Floats]) -> list[int]:
    """Numbers of the bars at which a section begins, and one past the last bar: the partition with the least total cost."""
    harmony, energies = looks
    chords = uniform_filter1d(harmony, PHRASE_BARS, axis=0, mode="nearest")
    points = np.concatenate((HARMONY_SHARE * chords, energies / np.sqrt(energies.shape[1])), axis=1)
    count = len(points)
    total = np.concatenate((np.zeros((1, points.shape[1])), np.cumsum(points, axis=0)))
    squares = np.concatenate(([0.0], np.cumsum((points**2).sum(axis=1))))
    best, came = np.full(count + 1, np.inf), np.zeros(count + 1, int)
    best[0] = 0.0
    for stop in range(SHORTEST_BARS, count + 1):
        starts = np.arange(0, stop - SHORTEST_BARS + 1)
        bars = stop - starts
        spread = squares[stop] - squares[starts] - ((total[stop] - total[starts]) ** 2).sum(axis=1) / bars
        costs = best[starts] + spread + BORDER_COST + ODD_COST * (bars % PHRASE_BARS != 0)
        came[stop] = int(np.argmin(costs))
        best[stop] = costs[came[stop]]
    borders = [count]
    while borders[0] > 0:
        borders.insert(0, int(came[borders[0]]))
    return borders


def _labels(looks: tuple[Floats, Floats], borders: list[int]) -> list[str]:
    """A letter for each section, by how alike the means of its bars are to those of earlier ones."""
    harmony, energies = looks
    kinds: list[tuple[Floats, Floats]] = []
    labels = []
    for start, stop in pairwise(borders):
        chords = harmony[start:stop].mean(axis=0)
        chords = chords / (np.linalg.norm(chords) + 1e-9)
        force = energies[start:stop].mean(axis=0)
        alike = [
            float(chords @ other) * np.exp(-0.5 * float(np.mean((force - strength) ** 2))) for other, strength in kinds
        ]
        if alike and max(alike) > ALIKE:
            labels.append(LETTERS[int(np.argmax(alike)) % len(LETTERS)])
        else:
            kinds.append((chords, force))
            labels.append(LETTERS[(len(kinds) - 1) % len(LETTERS)])
    return labels
