"""Choosing the beat: all pulses at every metrical level and phase, described by what happens on and between their beats.

Every pulse, every second to sixth of its moments, and each way to begin counting is a candidate. It is described by its metrical profile
(the strengths of onsets and of harmonic change at twelfths of its beat, and how they repeat over 2, 3 and 4 beats) and by
its tempo; a small network chooses (``choice.py``).
"""

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter1d

from latespin.analysis.results import SAME_TEMPO
from latespin.analysis.rhythm.pulse import Pulse, levelled
from latespin.analysis.spectra import FPS, LONG_FPS, Spectra
from latespin.dsp.arrays import Floats

#: Of a pulse: moments from beat to beat, and moments from the pulse's first to the first beat. Beats between the moments are offered too: a pulse
#: that is half a beat off, or sits on a swung off-beat; and beats of two or four thirds, where a shuffle or six-eight was taken for the beat.
WAYS = (
    *((group, phase) for group in (1, 2, 3, 4, 6) for phase in sorted({*range(group), group / 3, group / 2, group * 2 / 3})),
    (2 / 3, 0.0), (2 / 3, 1 / 3), (4 / 3, 0.0), (4 / 3, 1 / 3), (4 / 3, 2 / 3), (4 / 3, 1.0),
)  # fmt: skip
SAME_PERIOD, SAME_PLACE = 0.004, 0.04  # ratio, and part of a beat, within which even beats are the same
ALIKE_PLACE = 0.15  # of a beat, within which beats are heard alike
BEAT_SECONDS = (0.29, 1.9)
PARTS = 12
METRES = (2, 3, 4)
# Twelfths of a beat; 16, 32 and 64 are two, four and eight beats that are two thirds as long.
LAGS = (3, 4, 6, 8, 9, 12, 16, 18, 24, 32, 36, 48, 64, 72, 96)
HARMONY_SECONDS = 0.35


@dataclass(frozen=True)
class Candidate:
    """Beats in frames of the onsets, whether evenly spaced, and their description for the choice."""

    beats: Floats
    even: bool
    described: Floats


def evidence(spectra: Spectra) -> Floats:
    """Evidence for beats, ``[7, n]``: onsets in four bands, new notes, change of harmony, change of the bass note."""
    bands = [gaussian_filter1d(levelled(band), 1.5) for band in (*spectra.onsets, spectra.notes)]
    count = spectra.onsets.shape[1]
    at = np.arange(count) / FPS * LONG_FPS
    changes = [_change(spectra.pitches.reshape(len(spectra.pitches), 12, -1).sum(axis=2)), _change(spectra.bass)]
    bands += [np.interp(at, np.arange(len(change)), change) for change in changes]
    return np.stack(bands).astype(np.float32)


def _change(pitches: Floats) -> Floats:
    """Change of pitch classes at a frame, relative to its local mean."""
    reach = round(HARMONY_SECONDS * LONG_FPS)
    total = np.concatenate((np.zeros((1, pitches.shape[1])), np.cumsum(pitches, axis=0)))
    count = len(pitches)
    at = np.arange(count)
    after = total[np.minimum(count, at + reach)] - total[at]
    before = total[at] - total[np.maximum(0, at - reach)]
    after, before = (part / (np.linalg.norm(part, axis=1, keepdims=True) + 1e-6) for part in (after, before))
    change = 1.0 - (after * before).sum(axis=1)
    return np.asarray(change / (np.mean(change) + 1e-9))


def find_candidates(evidence: Floats, pulses: list[Pulse]) -> list[Candidate]:
    """All beats that could be meant."""
    found: list[Candidate] = []
    for pulse in pulses:
        moments = np.arange(len(pulse.places))
        for group, phase in WAYS:
            if not BEAT_SECONDS[0] <= pulse.period_seconds * group <= BEAT_SECONDS[1]:
                continue
            beats = np.interp(np.arange(phase, len(moments) - 1 + 1e-6, group), moments, pulse.places)
            if len(beats) >= 8 and not (pulse.even and any(_same(beats, other) for other in found)):
                found.append(Candidate(beats, pulse.even, _describe(evidence, beats)))
    return found


def _same(beats: Floats, other: Candidate) -> bool:
    """Whether even beats are those of a candidate."""
    if not other.even:
        return False
    period, its = (float(each[-1] - each[0]) / (len(each) - 1) for each in (beats, other.beats))
    if abs(period / its - 1.0) > SAME_PERIOD:
        return False
    away = float(beats[len(beats) // 2] - other.beats[0]) / its % 1.0
    return min(away, 1.0 - away) < SAME_PLACE


def are_alike(one: Candidate, other: Candidate) -> bool:
    """Whether two candidates have the same tempo and, nearly, the same beats."""
    period, its = (float(np.median(np.diff(candidate.beats))) for candidate in (one, other))
    if abs(np.log(period / its)) > SAME_TEMPO:
        return False
    at = np.searchsorted(one.beats, other.beats).clip(1, len(one.beats) - 1)
    away = np.minimum(np.abs(other.beats - one.beats[at]), np.abs(other.beats - one.beats[at - 1]))
    return bool(np.median(away) < ALIKE_PLACE * period)


def profile(evidence: Floats, beats: Floats) -> Floats:
    """Evidence at each twelfth of each beat: ``[7, beats − 1, 12]``."""
    places = beats[:-1, None] + np.diff(beats)[:, None] * np.arange(PARTS) / PARTS
    at = np.clip(np.round(places).astype(int), 0, evidence.shape[1] - 1)
    return evidence[:, at]


def _describe(evidence: Floats, beats: Floats) -> Floats:
    """The numbers that the choice is made by."""
    happening = profile(evidence, beats)
    mean = happening.mean(axis=1)
    shape = mean / (mean.mean(axis=1, keepdims=True) + 1e-9)
    period = np.log2(np.median(np.diff(beats)) / FPS / 0.5)
    tempo = [np.exp(-0.5 * ((period - centre) / 0.25) ** 2) for centre in np.arange(-0.75, 2.0, 0.25)]
    repeats = [_repeats(happening[:, :, 0], metre) for metre in METRES]
    return np.concatenate((np.log(shape + 0.1).ravel(), tempo, *repeats, _returns(happening)))


def _returns(happening: Floats) -> Floats:
    """Self-similarity at lags in twelfths of a beat: all onsets, lows, harmony."""
    kinds = (happening[:5].sum(axis=0), happening[0], happening[5] + happening[6])
    out = np.zeros((len(kinds), len(LAGS)))
    for row, kind in zip(out, kinds, strict=True):
        line = kind.ravel() - kind.mean()
        power = float(line @ line) + 1e-9
        for i, lag in enumerate(LAGS):
            if lag < len(line):
                row[i] = float(line[lag:] @ line[:-lag]) / power * len(line) / (len(line) - lag)
    return out.ravel()


def _repeats(on_beats: Floats, metre: int) -> Floats:
    """Contrast of one beat in ``metre`` against the others, for each kind of evidence."""
    spread = on_beats.std(axis=1) + 1e-9
    by_phase = np.stack([on_beats[:, phase::metre].mean(axis=1) for phase in range(metre)])
    contrast = (by_phase.max(axis=0) - by_phase.mean(axis=0)) / spread
    return np.asarray(contrast * np.sqrt(on_beats.shape[1] / metre) / 10.0)
