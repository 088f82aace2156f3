"""The tempi of a song whose tempo jumps: where each begins, from its beats."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from latespin.analysis.results import SAME_TEMPO
from latespin.dsp.arrays import Floats

FEWEST_BEATS = 12  # for which a tempo holds
EDGE_BEATS = 3  # to each side of a jump that do not count: fitted beats go over gradually
MOST_SPREAD = 0.02  # of the interval, beyond which a tempo does not hold but moves


@dataclass(frozen=True)
class HeldTempo:
    """start : seconds from which it holds.  bpm : the tempo.  beats : how many beats it holds for."""

    start: float
    bpm: float
    beats: int


def held_tempi(times: Floats) -> tuple[HeldTempo, ...]:
    """The tempi that hold one after another, from the seconds of beats; none where the tempo moves freely, one where it does not jump.

    Binary segmentation of the logarithms of the intervals (A. J. Scott and M. Knott, Biometrics 30, 1974).
    """
    if len(times) <= FEWEST_BEATS:
        return ()
    periods = np.log(np.diff(times))
    borders = sorted(_borders(periods, 0, len(periods)))
    edges = [0, *borders, len(periods)]
    found = []
    for first, last in pairwise(edges):
        inner = periods[first + (EDGE_BEATS if first else 0) : last - (EDGE_BEATS if last < len(periods) else 0)]
        if float(np.std(inner)) > MOST_SPREAD:
            return ()
        found.append(HeldTempo(float(times[first]), 60.0 / float(np.exp(np.mean(inner))), last - first))
    return tuple(found)


def main_tempo(times: Floats) -> float:
    """BPM: the tempo that holds longest, or the mean where none holds."""
    held = held_tempi(times)
    if held:
        return max(held, key=lambda tempo: tempo.beats / tempo.bpm).bpm
    return 60.0 / float(np.mean(np.diff(times)))


def _borders(periods: Floats, first: int, last: int) -> list[int]:
    """Where the tempo jumps between two intervals."""
    count = last - first
    if count < 2 * FEWEST_BEATS:
        return []
    part = periods[first:last]
    sums, at = np.cumsum(part), np.arange(FEWEST_BEATS, count - FEWEST_BEATS + 1)
    left, right = sums[at - 1] / at, (sums[-1] - sums[at - 1]) / (count - at)
    gain = (left - right) ** 2 * at * (count - at)
    best = int(np.argmax(gain))
    if abs(left[best] - right[best]) < SAME_TEMPO:
        return []
    border = first + int(at[best])
    return [*_borders(periods, first, border), border, *_borders(periods, border, last)]
