"""Bars: how many beats they have and where they begin, from what happens on each beat.

Every metre and every beat of the first bar is a candidate, described by what happens on average on the first, second, middle and last
beat of its bars, by how alike beats a bar apart are, and by how long its bars last. A linear model chooses.
"""

from dataclasses import dataclass

import numpy as np

from latespin.analysis.beats import profile
from latespin.analysis.spectra import FPS
from latespin.dsp.types import Floats

METRES = (2, 3, 4, 6)


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
    between = (between - between.mean(axis=1, keepdims=True)) / (between.std(axis=1, keepdims=True) + 1e-9)
    found = []
    for metre in METRES:
        if on_beats.shape[1] >= 3 * metre:
            shared = _of_metre(happening, metre, float(np.median(np.diff(beats))) / FPS)
            found += [
                BarCandidate(metre, first, np.concatenate((_of_phase(spread, between, metre, first), shared)))
                for first in range(metre)
            ]
    return found


def _of_phase(spread: Floats, between: Floats, metre: int, first: int) -> Floats:
    """The means on the first, second, middle and last beats of the bars."""
    on = [spread[:, (first + place) % metre :: metre].mean(axis=1) for place in range(metre)]
    after = [between[:, (first + place) % metre :: metre].mean(axis=1) for place in range(metre)]
    middle = on[metre // 2] if metre != 3 else 0.0 * on[0]
    by_metre = np.zeros((len(METRES), len(on[0])))
    by_metre[METRES.index(metre)] = on[0]
    return np.concatenate((on[0], on[1], middle, on[-1], after[0], after[-1], by_metre.ravel()))


def _of_metre(happening: Floats, metre: int, beat_seconds: float) -> Floats:
    """How alike beats are one bar, two bars and half a bar apart, and the length of beat and bar."""
    alike = []
    for kinds in (happening[:5], happening[:1], happening[5:]):
        beats = np.swapaxes(kinds, 0, 1).reshape(kinds.shape[1], -1)
        beats = beats - beats.mean(axis=0)
        power = (beats * beats).mean() + 1e-9
        alike += [(beats[lag:] * beats[:-lag]).mean() / power for lag in (1, 2, 3, 4, 6)]
    which = np.zeros((len(METRES), len(alike) + 4))
    bar = np.log2(beat_seconds * metre / 2.0)
    which[METRES.index(metre)] = [*alike, 1.0, bar, bar * bar, np.log2(beat_seconds / 0.5)]
    return which.ravel()
