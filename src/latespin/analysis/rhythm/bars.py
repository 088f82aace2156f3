"""Metre and downbeats, from the onsets and harmony on each beat.

Every metre and every beat of the first bar is a candidate, described by what happens on average on the first, second, middle and last
beat of its bars, by how alike beats a bar apart are, and by how long its bars last. A linear model chooses (``choice.py``).
"""

from dataclasses import dataclass

import numpy as np

from latespin.analysis.rhythm.beats import profile
from latespin.analysis.spectra import FPS
from latespin.dsp.arrays import Floats

METRES = (2, 3, 4, 5, 6, 7, 9, 12)
LAGS = 24  # beats apart, up to which their likeness is looked at
SPANS = (4, 8)  # beats compared before and after a turn
TURNS = 8  # of which is asked how many fall on the first beat of a bar


@dataclass(frozen=True)
class BarCandidate:
    """Bars of ``metre`` beats; the first of them begins with beat ``first`` (from 0)."""

    metre: int
    first: int
    described: Floats


def find_bar_candidates(evidence: Floats, beats: Floats) -> list[BarCandidate]:
    """All bars that could be meant by beats (frames of the onsets)."""
    happening = profile(evidence, beats)
    on_beats = happening[:, :, 0]
    standard = (on_beats - on_beats.mean(axis=1, keepdims=True)) / (on_beats.std(axis=1, keepdims=True) + 1e-9)
    spread = np.clip(standard, -2.0, 4.0)
    between = happening[:, :, 1:].mean(axis=2)
    turning = _turning(happening)
    between = (between - between.mean(axis=1, keepdims=True)) / (between.std(axis=1, keepdims=True) + 1e-9)
    found = []
    alike = _likeness(happening)
    for metre in METRES:
        if on_beats.shape[1] >= 3 * metre or metre == METRES[0]:
            shared = _of_metre(alike, metre, float(np.median(np.diff(beats))) / FPS)
            found += [
                BarCandidate(metre, first, np.concatenate((_of_phase(spread, between, turning, metre, first), shared)))
                for first in range(metre)
            ]
    return found


def _of_phase(spread: Floats, between: Floats, turning: Floats, metre: int, first: int) -> Floats:
    """The means on the first, second, middle and last beats of the bars, and how much of what turns a song turns on the first."""
    on = [spread[:, (first + place) % metre :: metre].mean(axis=1) for place in range(metre)]
    after = [between[:, (first + place) % metre :: metre].mean(axis=1) for place in range(metre)]
    middle = on[metre // 2] if metre != 3 else 0.0 * on[0]
    by_metre = np.zeros((len(METRES), len(on[0])))
    by_metre[METRES.index(metre)] = on[0]
    turns = [line[first % metre :: metre].mean() for line in turning]
    largest = [np.sort(line)[-TURNS:] for line in turning]
    caught = [
        np.isin(line[first % metre :: metre], most).sum() / TURNS for line, most in zip(turning, largest, strict=True)
    ]
    return np.concatenate((on[0], on[1], middle, on[-1], after[0], after[-1], turns, caught, by_metre.ravel()))


def _turning(happening: Floats) -> Floats:
    """Novelty at each beat over one bar and two: ``[2, beats]``, standardised to mean 0 and deviation 1."""
    level = np.swapaxes(happening, 0, 1).reshape(happening.shape[1], -1)
    level = np.sqrt(np.maximum(level, 0.0))
    total = np.concatenate((np.zeros((1, level.shape[1])), np.cumsum(level, axis=0)))
    count, at = len(level), np.arange(len(level))
    out = np.zeros((len(SPANS), count))
    for row, span in zip(out, SPANS, strict=True):
        first, last = np.maximum(0, at - span), np.minimum(count, at + span)
        after = (total[last] - total[at]) / np.maximum(1, last - at)[:, None]
        before = (total[at] - total[first]) / np.maximum(1, at - first)[:, None]
        row[:] = np.where(at > 0, np.linalg.norm(after - before, axis=1), 0.0)
        peak = row >= np.maximum(np.roll(row, 1), np.roll(row, -1))
        row[:] = np.clip((row * peak - row.mean()) / (row.std() + 1e-9), -2.0, 4.0)
    return out


def _of_metre(alike: Floats, metre: int, beat_seconds: float) -> Floats:
    """How alike beats are a bar, two bars and half a bar apart, against others; and the lengths of beat and bar.

    alike : ``[3, LAGS]``, how alike beats are that lie 1, 2, … beats apart.
    """
    others = [lag for lag in range(1, 13) if lag % metre]
    elsewhere = alike[:, np.array(others) - 1]
    half = alike[:, metre // 2 - 1] if metre % 2 == 0 and metre > 2 else elsewhere.mean(axis=1)
    bar, two = alike[:, metre - 1], alike[:, 2 * metre - 1]
    shared = (bar, two, bar - elsewhere.mean(axis=1), bar - elsewhere.max(axis=1), bar - half)
    which = np.zeros((len(METRES), 4))
    length = np.log2(beat_seconds * metre / 2.0)
    which[METRES.index(metre)] = (1.0, length, length * length, np.log2(beat_seconds / 0.5))
    return np.concatenate((*shared, which.ravel()))


def _likeness(happening: Floats) -> Floats:
    """How alike beats are that lie 1 to LAGS beats apart: onsets, lows, harmony; ``[3, LAGS]``."""
    out = np.zeros((3, LAGS))
    for row, kinds in zip(out, (happening[:5], happening[:1], happening[5:]), strict=True):
        beats = np.swapaxes(kinds, 0, 1).reshape(kinds.shape[1], -1)
        beats = beats - beats.mean(axis=0)
        power = (beats * beats).mean() + 1e-9
        for lag in range(1, min(LAGS, len(beats) - 1) + 1):
            row[lag - 1] = (beats[lag:] * beats[:-lag]).mean() / power
    return out
