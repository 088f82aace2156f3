"""The whole reading of a song: beats, bars, key, tuning and sections."""

import msgspec
import numpy as np

from latespin.analysis.key import KeyGuess, find_tuning, guess_keys, pitch_classes, weighed
from latespin.analysis.results import (
    SAME_TEMPO,
    SECTION_REACH,
    SECTION_STRENGTH,
    Beats,
    Key,
    Reading,
    Section,
    SectionKind,
)
from latespin.analysis.rhythm.bars import find_bar_candidates
from latespin.analysis.rhythm.beats import Candidate, are_alike, evidence, find_candidates
from latespin.analysis.rhythm.candidate_scorer import NO_BEAT, chances, shipped
from latespin.analysis.rhythm.drum_entry import find_drum_entry
from latespin.analysis.rhythm.grid_fit import FittedBeats, fit_beats
from latespin.analysis.rhythm.held_tempi import main_tempo
from latespin.analysis.rhythm.pulse import find_pulses, levelled, onset_strength
from latespin.analysis.rhythm.swing import find_swing
from latespin.analysis.section_kinds import section_kinds
from latespin.analysis.sections import FoundSection, find_sections
from latespin.analysis.spectra import FPS, Spectra, find_spectra
from latespin.dsp.arrays import Audio, Floats
from latespin.jobs import Share, Work, step

LEAST_SECONDS = 8.0
LEAST_RISES = 0.003  # of notes on average, below which nothing begins: a tone, a drone
SILENCE = 1e-6  # mean square of what is not heard, and below a ten-thousandth of the song's mean
WAYS_TO_HEAR = 3
MOST_LIKELY_NONE = 0.5  # chance of there being no beat, above which none is told
LEAST_CHANCE = 0.02  # of another way to hear the beats
FOUR_PRIOR = 0.7  # by which four beats to a bar are likelier beforehand: natural logarithm
KEYS_KEPT = 4
PART_SECONDS = 2.0  # of a song without beats, in place of bars


def read_song(sound: Audio, rate: int, work: Work) -> Reading:
    """Read a song ``[channels, frames]``. Raises Cancelled."""
    spectra = find_spectra(sound, rate, Share(work, 0.0, 0.7))
    if spectra.seconds <= 0.0 or not np.any(spectra.level > SILENCE):
        return Reading(seconds=spectra.seconds)
    step(work, 0.7)
    seen = evidence(spectra)
    ways = _find_beats(spectra, seen, Share(work, 0.7, 0.95))
    beats = ways[0] if ways else None
    step(work, 0.95)
    tuning = find_tuning(spectra.pitches)
    classes = pitch_classes(spectra.pitches, tuning)
    heard = _heard(spectra.level)
    keys = guess_keys(pitch_classes(weighed(spectra.tones), tuning), heard[1] - heard[0])[:KEYS_KEPT]
    edges = _part_edges(beats, spectra.seconds, heard)
    found = find_sections(spectra, classes, edges, bars_known=beats is not None)
    sections = [_rounded(part, kind) for part, kind in zip(found, section_kinds(found), strict=True)]
    ways = [msgspec.structs.replace(way, strong=_strengths(seen, way, sections)) for way in ways]
    return Reading(
        seconds=spectra.seconds, beats=ways[0] if ways else None, other_beats=tuple(ways[1:]), keys=tuple(_key(guess) for guess in keys),
        tuning_cents=round(tuning, 1), sections=tuple(sections), drums_enter=find_drum_entry(spectra, edges),
    )  # fmt: skip


def _find_beats(spectra: Spectra, seen: Floats, work: Work) -> list[Beats]:
    """The likeliest beats and bars, and up to two other ways to hear them; none where there is no steady beat."""
    if spectra.seconds < LEAST_SECONDS or float(spectra.notes.mean()) < LEAST_RISES:
        return []
    pulses = find_pulses(onset_strength(spectra.onsets, spectra.notes))
    step(work, 0.5)
    found = find_candidates(seen, pulses)
    if not found:
        return []
    described = np.array([candidate.described for candidate in found])
    if chances(np.append(shipped("presence").scores(described), NO_BEAT))[-1] > MOST_LIKELY_NONE:
        return []
    scores = shipped("beats").scores(described)
    likely = chances(scores)
    struck, heard = _struck(spectra), _heard(spectra.level)
    read: list[Beats] = []
    left = np.argsort(-scores)
    while len(left) and len(read) < WAYS_TO_HEAR:
        best = found[int(left[0])]
        alike = np.array([are_alike(best, found[i]) for i in left])
        chance = float(likely[left[alike]].sum())
        fitted = fit_beats(best.beats, struck, spectra.seconds, steady=best.even, heard=heard)
        if read and chance < LEAST_CHANCE:
            break
        beats = _with_bars(fitted, seen)
        swing = find_swing(struck, np.array(beats.times))
        tempo = round(_tempo_chance(found, likely, best), 3)
        read.append(msgspec.structs.replace(beats, bpm_confidence=tempo, confidence=round(chance, 3), swing=swing))
        left = left[~alike]
    return read


def _with_bars(fitted: FittedBeats, seen: Floats) -> Beats:
    """Beats with the likeliest bars; ``confidence`` and ``bpm_confidence`` are set by the caller."""
    inside = fitted.times[slice(*fitted.found)] * FPS
    bars = find_bar_candidates(seen, inside)
    bar_scores = shipped("bars").scores(np.array([bar.described for bar in bars]))
    bar_scores += np.array([FOUR_PRIOR * (bar.metre == 4) for bar in bars])
    bar = bars[int(np.argmax(bar_scores))]
    likely = chances(bar_scores)
    return Beats(
        times=tuple(np.round(fitted.times, 6).tolist()),
        beats_per_bar=bar.metre,
        bar_one=fitted.found[0] + bar.first,
        steady=fitted.steady,
        bpm=round(main_tempo(inside / FPS), 4),
        bpm_confidence=1.0,
        metre_confidence=round(float(sum(likely[i] for i, other in enumerate(bars) if other.metre == bar.metre)), 3),
        found=fitted.found,
        sure=tuple(np.round(fitted.sure, 3).tolist()),
        strong=(),
    )


def _struck(spectra: Spectra) -> Floats:
    """The strength of onsets that are sharp in time."""
    return levelled(np.sum([levelled(band) for band in spectra.onsets], axis=0))


def _heard(level: Floats) -> tuple[float, float]:
    """Seconds between which there is sound."""
    at = np.flatnonzero(level > max(SILENCE, 1e-4 * float(np.mean(level))))
    return float(at[0]) / FPS, float(at[-1]) / FPS


def _tempo_chance(found: list[Candidate], likely: Floats, best: Candidate) -> float:
    """The chance of all candidates with the tempo of the chosen one."""
    periods = np.array([np.median(np.diff(candidate.beats)) for candidate in found])
    return float(likely[np.abs(np.log(periods / np.median(np.diff(best.beats)))) < SAME_TEMPO].sum())


def _part_edges(beats: Beats | None, seconds: float, heard: tuple[float, float]) -> Floats:
    """Bar lines from the first sound to the last, or even parts where there are none; the outermost are the song's ends."""
    if beats is None:
        edges = np.linspace(*heard, max(1, round((heard[1] - heard[0]) / PART_SECONDS)) + 1)
    else:
        down = np.array(beats.downbeats)
        bar = float(np.median(np.diff(down))) if len(down) > 1 else seconds
        edges = down[(down > heard[0] - 0.5 * bar) & (down < heard[1] - 0.25 * bar)]
    if len(edges) < 3:
        return np.array([0.0, seconds])
    return np.concatenate(([0.0], edges[1:-1], [seconds]))


def _strengths(seen: Floats, beats: Beats, sections: list[Section]) -> tuple[float, ...]:
    """How strong every beat is: the first of a bar, of four bars, of a section; struck low; with a change of harmony."""
    times = np.array(beats.times)
    at = np.clip(np.round(times * FPS).astype(int), 0, seen.shape[1] - 1)
    low, harmony = (_rank(seen[row][at]) for row in (0, 5))
    place = (np.arange(len(times)) - beats.bar_one) % (4 * beats.beats_per_bar)
    strong = 0.3 * (place % beats.beats_per_bar == 0) + 0.1 * (place == 0) + 0.2 * low + 0.2 * harmony
    for section in sections:
        strong[np.abs(times - section.start) < SECTION_REACH] += SECTION_STRENGTH
    return tuple(np.round(np.clip(strong, 0.0, 1.0), 3).tolist())


def _rank(values: Floats) -> Floats:
    """Each value's place among all, 0 to 1."""
    return np.argsort(np.argsort(values)) / max(1, len(values) - 1)


def _key(guess: KeyGuess) -> Key:
    return Key(tonic=guess.tonic, mode=guess.mode, confidence=round(guess.confidence, 3))


def _rounded(part: FoundSection, kind: SectionKind) -> Section:
    return Section(
        start=round(part.start, 3), end=round(part.end, 3), label=part.label, energy=round(part.energy, 3), kind=kind
    )
