"""The strain of stretching and shifting along a song, and its audible effects at each place.

Thresholds come from :mod:`latespin.model.text.stretch_warnings`. Hits that follow each other closely soften when they are moved
together (docs/time-and-pitch.md, Strain).
"""

from dataclasses import dataclass

import numpy as np

from latespin.analysis.content import SongContent
from latespin.dsp.arrays import Floats
from latespin.language import tr
from latespin.model.text.stretch_warnings import DRAWN_OUT, NO_SHORTER, RESIZED, THINNED
from latespin.model.timing.tempo_curve import CurvePoint, straightened
from latespin.model.timing.time_map import TimeMap
from latespin.model.version import Time

NATURAL = 0.1  # below this nothing is shown or said
WORSE = 0.6  # of hits: they lose their punch
APART_SECONDS, MELTED_SECONDS = 0.15, 0.08  # between hits in the version: none is harmed; all are
FULL_STRETCH, FULL_SHIFT = 4.0, 8.0  # length ratio and semitones at which noise and voices are harmed in full


@dataclass(frozen=True, eq=False)
class StrainAlong:
    """The strain of ``hits``, ``noise`` and ``voice`` every ``step_seconds`` of the song, 0 to 1."""

    step_seconds: float
    hits: Floats
    noise: Floats
    voice: Floats
    larger: bool  # whether voices sound larger rather than smaller
    thin: bool

    @property
    def amounts(self) -> Floats:
        """The largest strain at each step; 0 where the version is natural."""
        worst = np.maximum(np.maximum(self.hits, self.noise), self.voice)
        return np.where(worst < NATURAL, 0.0, worst)

    @property
    def worst_seconds(self) -> float | None:
        """The place of most strain, seconds of the song; None where all is natural."""
        amounts = self.amounts
        return (int(np.argmax(amounts)) + 0.5) * self.step_seconds if amounts.any() else None

    def words_at(self, seconds: float) -> tuple[str, ...]:
        """What will be heard at a place; nothing where it is natural."""
        at = min(len(self.hits) - 1, max(0, int(seconds / self.step_seconds)))
        words = []
        if self.hits[at] >= NATURAL:
            words.append(tr("drums will lose their punch") if self.hits[at] >= WORSE else tr("drums will soften"))
        if self.noise[at] >= NATURAL:
            words.append(tr("hiss and tails will be drawn out"))
        if self.voice[at] >= NATURAL:
            sound = tr("voices will sound larger") if self.larger else tr("voices will sound smaller")
            words.append(tr("voices will thin") if self.thin else sound)
        return tuple(words)


def strain_along(time: Time, music: TimeMap, content: SongContent, rate: int) -> StrainAlong:
    """The strain of a Time stage on a song's content. music : the time map of that stage."""
    time = time.heard
    stretch, shift = _stretch_and_shift(time, music, content.edges * rate)
    smear = time.character == "smear" and time.pitch == "held"
    gaps = content.gaps * stretch
    hits = content.hits * np.clip((APART_SECONDS - gaps) / (APART_SECONDS - MELTED_SECONDS), 0.0, 1.0)
    hits = np.where(stretch < NO_SHORTER, hits, content.hits if smear else 0.0)
    drawn = np.log(np.maximum(stretch, 1e-3) / DRAWN_OUT) / np.log(FULL_STRETCH / DRAWN_OUT)
    noise = (
        np.zeros_like(hits) if smear else content.noise * np.clip(0.3 + 0.7 * drawn, 0.0, 1.0) * (stretch >= DRAWN_OUT)
    )
    thin = time.formants == "kept" and bool(np.any((shift < THINNED[0]) | (shift > THINNED[1])))
    moved = np.full_like(shift, time.formant_semitones) if time.formants == "kept" else shift + time.formant_semitones
    harm = np.clip((np.abs(moved) - RESIZED) / (FULL_SHIFT - RESIZED), 0.0, 1.0) * 0.7 + 0.3
    harmed = (np.abs(moved) >= RESIZED) | (thin & ((shift < THINNED[0]) | (shift > THINNED[1])))
    voice = content.voice * np.where(harmed, harm, 0.0)
    return StrainAlong(content.step_seconds, hits, noise, voice, bool(np.mean(moved) < 0.0), thin)


def _stretch_and_shift(time: Time, music: TimeMap, edges: Floats) -> tuple[Floats, Floats]:
    """Between frames of the song: length ratio at constant pitch, and the shift of pitch in semitones.

    What halftime leaves out has no length; it counts as natural.
    """
    places = 0.5 * (edges[1:] + edges[:-1]) / max(1, music.before_frames)
    points = straightened(time.curve) or (CurvePoint(place=0.0, speed=1.0),)
    asked = time.speed * np.interp(places, [point.place for point in points], [point.speed for point in points])
    lasts = np.diff(music.after_of_all(edges))
    heard = np.where(lasts > 0.0, np.diff(edges) / np.maximum(lasts, 1e-9), asked)
    lowered = np.clip(np.round(2.0 * heard / asked) / 2.0, 0.5, 1.0) if time.octave_down else 1.0
    pitch = time.transposed * (asked if time.pitch == "linked" else 1.0) * lowered
    return np.where(lasts > 0.0, pitch / heard, 1.0), 12.0 * np.log2(pitch)
