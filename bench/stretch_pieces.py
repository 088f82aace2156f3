"""Six pieces made note by note, so that every onset is known to the frame at any length.

Each is a list of notes; made longer, its notes begin later and sound longer, as if it were played at another tempo. Players are
not machines: notes that belong together come up to 20 ms apart, but for the first two pieces, which are sequenced.
"""

import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tools"))

import demo_instruments as play
from latespin.dsp.arrays import Audio

RATE = play.RATE
SECONDS = 14.0
Noise = np.random.Generator


@dataclass(frozen=True)
class Instrument:
    """Harmonic partials and how they sound.

    partials, top_hz : how many at most, up to where.  tilt : partial k has the level 1 / k^tilt.  decay, decay_each : nepers a second, of
    all and more for each partial.  attack : seconds; later : more of it for each partial.  vibrato : cents.
    """

    partials: int
    top_hz: float
    tilt: float
    decay: float = 0.0
    decay_each: float = 0.0
    attack: float = 0.004
    later: float = 0.0
    release: float = 0.05
    vibrato: float = 0.0

    def note(self, midi: float, lasts: float, length_ratio: float, noise: Noise) -> play.Wave:
        """A note as an ideal stretch would make it: same pitch, all that takes longer than 10 ms in its own time."""
        t = play.seconds(lasts * length_ratio)
        own = t / length_ratio
        f = play.hertz(midi)
        bend = self.vibrato / 1200 * np.log(2) / (2 * np.pi * 5.1) * length_ratio * np.sin(2 * np.pi * 5.1 * own + midi)
        out = np.zeros(len(t))
        phases = 2 * np.pi * noise.random(self.partials + 1)
        for k in range(1, max(2, min(self.partials, int(self.top_hz / f)) + 1)):
            attack = self.attack + self.later * k
            rise = np.minimum(1.0, (own if attack > 0.01 else t) / attack)
            decay = np.exp(-own * (self.decay + self.decay_each * k))
            out += np.sin(2 * np.pi * k * f * (t + bend) + phases[k]) * rise * decay / k**self.tilt
        return out * np.clip((lasts - own) / self.release, 0.0, 1.0)


PIANO = Instrument(14, 9000, 1.5, 0.7, 0.5, release=0.2)
PLUCK = Instrument(24, 15_000, 1.0, 3.0, 0.9, 0.003)
KEYS = Instrument(8, 7000, 1.2, 1.1, 0.8, 0.003)
BASS = Instrument(9, 3000, 1.0, 1.2, 1.5, 0.006)
ORGAN = Instrument(8, 5000, 0.8, attack=0.005)
HORN = Instrument(18, 8000, 0.9, attack=0.008, later=0.004)
STRINGS = Instrument(20, 9000, 1.3, attack=0.05, release=0.12, vibrato=5)
FIDDLES = Instrument(20, 9000, 1.2, attack=0.02, release=0.1, vibrato=5)
SINGER = Instrument(24, 5000, 0.7, attack=0.03, release=0.08, vibrato=12)


@dataclass(frozen=True)
class Note:
    """Something that begins ``at`` seconds, at the original length, and lasts for ``lasts``."""

    at: float
    lasts: float
    played: "Drum | Tone"
    level: float
    pan: float = 0.0
    seed: int = 0

    def frame(self, length_ratio: float) -> int:
        """Where it begins."""
        return round(self.at * length_ratio * RATE)

    def wave(self, length_ratio: float) -> play.Wave:
        """Its sound, always the same for a length."""
        return self.level * self.played.wave(self.lasts, length_ratio, np.random.default_rng(self.seed))


class Score:
    """Notes as they are written down: a tempo, and how far players are apart."""

    def __init__(self, bpm: float, loose_ms: float, seed: int) -> None:
        self.beat = 60.0 / bpm
        self.noise = np.random.default_rng(seed)
        self._loose = loose_ms / 1000.0
        self.notes: list[Note] = []

    def add(self, beat: float, lasts: float, played: "Drum | Tone", level: float, pan: float = 0.0) -> None:
        """A note at a beat that lasts ``lasts`` beats; its player is early or late by up to 20 ms."""
        at = 0.25 + beat * self.beat + float(np.clip(self._loose * self.noise.standard_normal(), -0.02, 0.02))
        level *= 10 ** (0.1 * self.noise.standard_normal())
        if at + 0.3 < SECONDS:
            self.notes.append(Note(max(0.02, at), lasts * self.beat, played, level, pan, len(self.notes)))

    @property
    def beats(self) -> range:
        """All whole beats."""
        return range(int(SECONDS / self.beat) + 1)


@dataclass(frozen=True)
class Drum:
    """A hit, which is as long as it is."""

    hit: Callable[[Noise], play.Wave]

    def wave(self, _lasts: float, _length_ratio: float, noise: Noise) -> play.Wave:
        """The hit."""
        return self.hit(noise)


@dataclass(frozen=True)
class Tone:
    """A pitch of an instrument."""

    instrument: Instrument
    midi: float

    def wave(self, lasts: float, length_ratio: float, noise: Noise) -> play.Wave:
        """The note."""
        return self.instrument.note(self.midi, lasts, length_ratio, noise)


def rink_groove() -> list[Note]:
    """Four on the floor, claps, off-beat chords, a bass that moves."""
    s = Score(118, 0, 1)
    for b in s.beats:
        s.add(b, 1, Drum(play.kick), 0.8)
        s.add(b + 0.5, 1, Drum(lambda n: play.hat(n, 25.0)), 0.35, 0.3)
        for q in (0.25, 0.75):
            s.add(b + q, 1, Drum(play.hat), 0.2, 0.3)
        if b % 2:
            s.add(b, 1, Drum(play.clap), 0.5, -0.1)
        root = (45, 41, 36, 43)[b // 4 % 4]
        for q, up in ((0, 0), (0.75, 12), (1.5, 7)):
            if b % 2 == 0:
                s.add(b + q, 0.6, Tone(BASS, root + up), 0.4)
        for note in (root + 24, root + 28, root + 31):
            s.add(b + 0.5, 0.4, Tone(KEYS, note), 0.22, -0.3)
    return s.notes


def full_floor() -> list[Note]:
    """Everything at once: sixteenths of plucks, snares, horns, a bass."""
    s = Score(132, 0, 2)
    scale = (0, 3, 7, 10, 12, 15, 19, 22)
    for b in s.beats:
        for q in range(4):
            s.add(b + q / 4, 0.25, Tone(PLUCK, 57 + scale[(3 * b + 5 * q) % 8]), 0.25, 0.4)
            s.add(b + q / 4, 1, Drum(play.hat), 0.18, -0.4)
        s.add(b, 1, Drum(play.kick if b % 2 == 0 else play.snare), 0.7)
        if b % 4 == 2:
            s.add(b + 0.75, 1, Drum(play.kick), 0.6)
        s.add(b, 0.5, Tone(BASS, 33 + (0, 0, 5, 3)[b // 2 % 4]), 0.4)
        s.add(b + 0.5, 0.5, Tone(BASS, 45 + (0, 0, 5, 3)[b // 2 % 4]), 0.35)
        if b % 4 in (1, 3):
            for note in (60, 63, 67):
                s.add(b + 0.5, 0.7, Tone(HORN, note + (0, 5)[b // 8 % 2]), 0.13, -0.2)
    return s.notes


def evening_strings() -> list[Note]:
    """An orchestra: strings that swell, horns, plucked basses, a soft drum."""
    s = Score(84, 7, 3)
    for b in s.beats:
        root = (50, 46, 53, 48)[b // 4 % 4]
        if b % 2 == 0:
            for note in (root, root + 7, root + 12, root + 16, root + 19):
                s.add(b, 2, Tone(STRINGS, note), 0.12, (note - root) / 20 - 0.5)
        for q in (0, 0.5):
            s.add(b + q, 0.5, Tone(FIDDLES, root + 24 + (0, 2, 4, 7, 5, 4, 2, -1)[(2 * b + int(2 * q)) % 8]), 0.14, 0.2)
        s.add(b, 0.8, Tone(PLUCK, root - 12), 0.2, 0.5)
        if b % 4 == 3:
            s.add(b, 1, Tone(HORN, root + 12), 0.1, -0.5)
            s.add(b, 1, Drum(lambda n: play.kick(n, punch=0.4)), 0.3)
    return s.notes


def felt_piano() -> list[Note]:
    """A piano alone: chords, an inner voice, a melody."""
    s = Score(92, 5, 4)
    for b in s.beats:
        root = (43, 40, 36, 38)[b // 4 % 4]
        if b % 2 == 0:
            s.add(b, 2, Tone(PIANO, root), 0.3)
            for note in (root + 12, root + 16, root + 19):
                s.add(b, 2, Tone(PIANO, note), 0.2)
        for q in (0.25, 0.5, 0.75):
            s.add(b + q, 0.5, Tone(PIANO, root + 24 + int(4 * q) * 3), 0.1, 0.2)
        s.add(b, 1, Tone(PIANO, root + 36 + (0, 4, 2, 7)[b % 4]), 0.25, -0.2)
    return s.notes


def last_waltz() -> list[Note]:
    """Brushes, an organ that holds its chords, a walking bass, a voice."""
    s = Score(108, 5, 5)
    for b in s.beats:
        bar, beat = divmod(b, 3)
        root = (41, 46, 43, 36)[bar % 4]
        s.add(b, 1, Drum(play.brush), 0.3, 0.2)
        s.add(b + 0.66, 1, Drum(lambda n: play.hat(n, 40.0)), 0.15, 0.4)
        s.add(b, 1, Tone(BASS, root + (0, 4, 7)[beat]), 0.35)
        if beat == 0:
            for note in (root + 12, root + 19, root + 24, root + 28):
                s.add(b, 2.9, Tone(ORGAN, note), 0.07, -0.4)
            s.add(b + 0.5, 2.2, Tone(SINGER, root + 24 + (0, 4, 7, 5)[bar % 4]), 0.25)
    return s.notes


def two_drummers() -> list[Note]:
    """Drums and plucked strings: strokes close to each other, loud and soft."""
    s = Score(100, 3, 6)
    for b in s.beats:
        for q in range(4):
            s.add(b + q / 4, 1, Drum(play.snare), (0.6, 0.08, 0.2, 0.1)[q] if b % 2 else 0.08, 0.3)
            s.add(b + q / 4 + 0.02, 1, Drum(play.hat), 0.15, -0.3)
        s.add(b, 1, Drum(play.kick), 0.6 if b % 2 == 0 else 0.15)
        for q in (0, 0.33, 0.67):
            note = 52 + (0, 7, 12, 3, 10, 15)[(b + int(3 * q)) % 6]
            s.add(b + q, 0.8, Tone(PLUCK, note), 0.22, -0.1)
    return s.notes


PIECES = (rink_groove, full_floor, evening_strings, felt_piano, last_waltz, two_drummers)


def rendered(notes: list[Note], length_ratio: float) -> Audio:
    """The piece ``[2, frames]``, its loudest frame the same at every length but for what overlaps."""
    out = np.zeros((2, round(SECONDS * length_ratio * RATE)))
    for note in notes:
        start, wave = note.frame(length_ratio), note.wave(length_ratio)
        wave = wave[: out.shape[1] - start]
        angle = (note.pan + 1.0) * np.pi / 4.0
        out[:, start : start + len(wave)] += np.outer((np.cos(angle), np.sin(angle)), wave)
    return (0.4 * out).astype(np.float32)
