"""Pieces with known beats, bars, key and sections, composed and synthesised with the demo songs' instruments.

Each is made from a seed: its tempo, metre, feel, drums, harmony and arrangement are drawn, so that a reading cannot be
fitted to a few of them. Six-eight is beaten in dotted quarters, two to a bar.
"""

import sys
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tools"))

import demo_instruments as play
from latespin.dsp.arrays import Audio

RATE = play.RATE
NAMES = ("C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B")
MAJOR, MINOR = (0, 2, 4, 5, 7, 9, 11), (0, 2, 3, 5, 7, 8, 10)
PROGRESSIONS = {
    "major": ((0, 4, 5, 3), (0, 5, 3, 4), (0, 3, 0, 4), (0, 5, 1, 4), (0, 3, 4, 4), (5, 3, 0, 4), (0, 2, 3, 4)),
    "minor": ((0, 5, 2, 6), (0, 3, 4, 0), (0, 6, 5, 4), (0, 3, 5, 4), (0, 5, 3, 4), (0, 0, 3, 4)),
}
# Drum patterns: for each metre, (kick, snare, hat) as beats of a bar.
QUARTERS, EIGHTHS = (0, 1, 2, 3), tuple(i / 2 for i in range(8))
KITS = {
    "four": (
        ((0, 2), (1, 3), EIGHTHS), ((0, 1, 2, 3), (1, 3), (0.5, 1.5, 2.5, 3.5)), ((0, 2.5), (1, 3), EIGHTHS),
        ((0, 1.5, 2.5), (1, 3), tuple(i / 4 for i in range(16))), ((0, 1.75, 2.5), (2,), EIGHTHS),
        ((0, 0.75, 2.25), (1, 3), EIGHTHS), ((0, 2), (1, 3), QUARTERS), ((0, 1.5, 2, 3.5), (1, 3), (0, 0.5, 1, 1.5, 2, 3)),
    ),
    "three": (((0,), (1, 2), (0, 1, 2)), ((0, 1.5), (2,), tuple(i / 2 for i in range(6))), ((0,), (2,), (0, 1, 2))),
    "two": (((0,), (1,), (0, 0.5, 1, 1.5)), ((0, 1), (0.5, 1.5), (0.5, 1.5))),
    "six": (((0,), (1,), tuple(i / 3 for i in range(6))), ((0, 2 / 3), (1,), tuple(i / 3 for i in range(6)))),
}  # fmt: skip


@dataclass(frozen=True)
class Plan:
    """What a piece is to be. feel : straight, swing.  drift : straying of the tempo.  slowing : ritardando at the end."""

    seed: int
    bpm: float
    metre: str = "four"
    feel: str = "straight"
    drums: bool = True
    drift: float = 0.0
    slowing: float = 0.0
    noise_db: float = -np.inf
    mono: bool = False
    seconds: float = 75.0
    pick_up: int = 0

    @property
    def beats_per_bar(self) -> int:
        """How many beats a bar has."""
        return {"four": 4, "three": 3, "two": 2, "six": 2}[self.metre]


@dataclass
class Segment:
    """A plan come to sound. beats, downbeats : seconds.  sections : (label, start, end)."""

    plan: Plan
    sound: Audio = field(init=False)
    beats: np.ndarray = field(init=False)
    downbeats: np.ndarray = field(init=False)
    key: str = field(init=False)
    sections: list[tuple[str, float, float]] = field(init=False, default_factory=list)

    def __post_init__(self) -> None:
        plan = self.plan
        self.draw = np.random.default_rng(plan.seed)
        self.bars = max(12, round(plan.seconds * plan.bpm / 60 / plan.beats_per_bar / 4) * 4)
        self._set_times()
        self.tonic = int(self.draw.integers(12))
        self.mode = "major" if self.draw.random() < 0.6 else "minor"
        self.key = f"{NAMES[self.tonic]} {self.mode}"
        self.scale = MAJOR if self.mode == "major" else MINOR
        self.mix = np.zeros((2, round((self.times[-1] + 3.0) * RATE)))
        self._compose()
        self._master()

    def _set_times(self) -> None:
        """Seconds of every beat, pick-up counted, and between them."""
        plan, draw = self.plan, self.draw
        count = self.bars * plan.beats_per_bar + plan.pick_up
        stray = np.cumsum(draw.standard_normal(count + 1)) * plan.drift / np.sqrt(8.0)
        stray = np.clip(stray - np.linspace(0, stray[-1], count + 1), -0.25, 0.25)
        slow = np.clip((np.arange(count + 1) - count * 0.85) / (count * 0.15), 0.0, 1.0) * plan.slowing
        period = 60.0 / plan.bpm * np.exp(stray) * (1.0 + slow)
        first = 0.2 + float(draw.random()) * 1.5
        self.times = first + np.concatenate(([0.0], np.cumsum(period)))
        self.beats = self.times[:count]
        self.downbeats = self.beats[plan.pick_up :: plan.beats_per_bar]

    def at(self, bar: int, beat: float) -> float:
        """Seconds of a place in a bar; off-beats late where it swings."""
        whole, part = int(np.floor(beat)), beat % 1.0
        if self.plan.feel == "swing":
            part = part * 4 / 3 if part <= 0.5 else 2 / 3 + (part - 0.5) * 2 / 3
        where = bar * self.plan.beats_per_bar + whole + part + self.plan.pick_up
        return float(np.interp(where, np.arange(len(self.times)), self.times))

    def add(self, sound: np.ndarray, at: float, level: float, pan: float = 0.0) -> None:
        """Mix a sound in at a time, struck a little early or late as hands do."""
        start = max(0, round((at + 0.004 * self.draw.standard_normal()) * RATE))
        stop = min(start + len(sound), self.mix.shape[1])
        angle = (pan + 1.0) * np.pi / 4.0
        struck = level * 10 ** (self.draw.normal(0.0, 1.2) / 20) * sound[: max(0, stop - start)]
        self.mix[0, start:stop] += np.cos(angle) * struck
        self.mix[1, start:stop] += np.sin(angle) * struck

    def degree(self, step: int) -> int:
        """MIDI note of a step of the scale, 0 the tonic around middle C."""
        octave, place = divmod(step, 7)
        return 48 + self.tonic + 12 * octave + self.scale[place]

    def _compose(self) -> None:
        draw, plan = self.draw, self.plan
        parts = {name: PROGRESSIONS[self.mode][draw.integers(len(PROGRESSIONS[self.mode]))] for name in "AB"}
        order = ("A", "A", "B", "A", "B", "B")[: max(3, self.bars // 8)]
        edges = [4 * round(self.bars * i / len(order) / 4) for i in range(len(order) + 1)]
        style = {name: (int(draw.integers(5)), int(draw.integers(4)), draw.random() < 0.7) for name in "AB"}
        kit = KITS[plan.metre][draw.integers(len(KITS[plan.metre]))]
        tunes = {name: self._tune() for name in "AB"}
        drums_from = int(draw.choice([0, 0, 4, edges[1]]))
        for part, first, last in zip(order, edges[:-1], edges[1:], strict=True):
            self.sections.append((part, self.at(first, 0), self.at(last, 0)))
            for bar in range(first, last):
                chord = parts[part][bar % 4] if bar < self.bars - 1 else 0
                comp, bass, sings = style[part]
                self._comp(bar, chord, comp, 1.0 if part == "B" else 0.8)
                self._bass(bar, chord, bass)
                if (sings or not plan.drums) and bar >= first + 0 and bar < self.bars - 1:
                    self._sing(bar, chord, tunes[part][bar % 2])
                if plan.drums and bar >= drums_from and bar < self.bars - 1:
                    self._drum(bar, kit, fill=bar == last - 1)
        for beat in range(plan.pick_up):
            note = self.degree(7 + 4 + beat)
            self.add(piano(note, 0.5), self.at(0, beat - plan.pick_up), 0.3)

    def _chord(self, degree: int) -> list[int]:
        return [self.degree(degree + step) for step in (0, 2, 4)]

    def _comp(self, bar: int, degree: int, style: int, level: float) -> None:
        """Chords: held, on the beats, between them, broken, or a pad."""
        beats, beat = self.plan.beats_per_bar, 60.0 / self.plan.bpm
        third = self.plan.metre == "six"
        notes = [note + 12 for note in self._chord(degree)]
        if style == 0:
            places = [(0.0, beats)]
        elif style == 1:
            places = [(float(i), 0.8) for i in range(beats)]
        elif style == 2:
            places = [(i + (2 / 3 if third else 0.5), 0.4) for i in range(beats)] + [(0.0, 0.4)]
        elif style == 3:
            per = 3 if third else 2
            order = (0, 1, 2, 1, 0, 2)
            for i in range(per * beats):
                self.add(pluck(notes[order[i % 6]] + 12 * (i % 4 == 3), 0.6), self.at(bar, i / per), 0.2 * level, 0.3)
            return
        else:
            for i, note in enumerate(notes):
                self.add(pad(note, round(beats * beat, 2)), self.at(bar, 0), 0.12 * level, 0.5 - 0.5 * i)
            return
        for at, length in places:
            for i, note in enumerate(notes):
                self.add(keys(note, round(length * beat, 2)), self.at(bar, at) + 0.003 * i, 0.13 * level, 0.3 * i - 0.3)

    def _bass(self, bar: int, degree: int, style: int) -> None:
        """Root notes: long, on the beats, syncopated, or walking."""
        beats, beat = self.plan.beats_per_bar, 60.0 / self.plan.bpm
        root, fifth = self.degree(degree) - 12, self.degree(degree + 4) - 12
        root, fifth = (note - 12 * (note > 47) for note in (root, fifth))
        if style == 0:
            places = [(0.0, root, beats * 0.9)]
        elif style == 1:
            places = [(0.0, root, 0.9), (beats // 2 if beats != 3 else 2.0, fifth, 0.9)]
        elif style == 2 and beats == 4:
            places = [(0.0, root, 1.2), (1.5, root, 0.5), (2.5, fifth, 0.8), (3.5, root, 0.4)]
        else:
            places = [(float(i), (root, fifth, root + 12, fifth)[i % 4], 0.9) for i in range(beats)]
        for at, note, length in places:
            self.add(bass(note, round(length * beat, 2)), self.at(bar, at), 0.33)

    def _tune(self) -> list[list[tuple[float, float, int]]]:
        """Two bars of (beat, length, scale step above the chord's root)."""
        grid = 1 / 3 if self.plan.metre == "six" else 0.5
        bars = []
        for _ in range(2):
            at, notes = 0.0, []
            while at < self.plan.beats_per_bar - 0.01:
                length = grid * int(self.draw.choice([1, 1, 2, 2, 3, 4]))
                length = min(length, self.plan.beats_per_bar - at)
                if self.draw.random() < 0.85:
                    step = int(self.draw.choice([0, 2, 4, 7])) if at % 1 == 0 else int(self.draw.integers(-1, 8))
                    notes.append((at, length, step))
                at += length
            bars.append(notes)
        return bars

    def _sing(self, bar: int, degree: int, tune: list[tuple[float, float, int]]) -> None:
        beat = 60.0 / self.plan.bpm
        for at, length, step in tune:
            note = self.degree(degree + step) + 12
            late = self.at(bar, at) + 0.01 * self.draw.standard_normal()
            self.add(voice(note, round(length * beat, 2), "aeiou"[step % 5], self.plan.seed), late, 0.26)

    def _drum(self, bar: int, kit: tuple[tuple[float, ...], ...], *, fill: bool) -> None:
        kicks, snares, hats = kit
        for at in kicks:
            self.add(drum("kick"), self.at(bar, at), 0.55)
        for at in snares:
            self.add(drum("snare"), self.at(bar, at), 0.33)
        for at in hats:
            self.add(drum("hat"), self.at(bar, at), 0.11 if at % 1 == 0 else 0.09, 0.3)
        if fill:
            for i in range(4):
                self.add(drum("snare"), self.at(bar, self.plan.beats_per_bar - 1 + i / 4), 0.2 + 0.03 * i)

    def _master(self) -> None:
        mix = self.mix / np.quantile(np.abs(self.mix), 0.999)
        if self.plan.noise_db > -np.inf:
            mix += self.draw.standard_normal(mix.shape) * np.sqrt(np.mean(mix**2)) * 10 ** (self.plan.noise_db / 20)
        mix = np.tanh(1.2 * mix) * 0.7
        self.sound = (mix.mean(axis=0, keepdims=True) if self.plan.mono else mix).astype(np.float32)
        del self.mix


@cache
def drum(kind: str) -> np.ndarray:
    """One hit."""
    noise = np.random.default_rng(7)
    return {"kick": play.kick, "snare": play.snare, "hat": play.hat}[kind](noise)


@cache
def bass(midi: int, duration: float) -> np.ndarray:
    return play.bass(midi, duration)


@cache
def keys(midi: int, duration: float) -> np.ndarray:
    return play.electric_piano(midi, duration, 0.8)


@cache
def piano(midi: int, duration: float) -> np.ndarray:
    return play.piano(midi, duration, 0.8)


@cache
def pluck(midi: int, duration: float) -> np.ndarray:
    return play.pluck(midi, duration, 0.8)


@cache
def pad(midi: int, duration: float) -> np.ndarray:
    return play.pad(midi, duration, 9.0)


@cache
def voice(midi: int, duration: float, vowel: str, seed: int) -> np.ndarray:
    return play.sung(midi, midi, max(0.15, duration), vowel, "t" if seed % 2 else "", np.random.default_rng(midi))


def drawn_plan(seed: int) -> Plan:
    """Any piece: everything about it is drawn."""
    draw = np.random.default_rng(seed)
    metre = str(draw.choice(["four"] * 6 + ["three"] * 2 + ["six", "two"]))
    bpm = float(np.clip(np.exp(draw.normal(np.log(105.0), 0.3)), 55.0, 190.0))
    if metre == "six":
        bpm = float(np.clip(0.7 * bpm, 42.0, 115.0))
    return Plan(
        seed, round(bpm, 2), metre,
        feel="swing" if metre == "four" and draw.random() < 0.2 else "straight",
        drums=draw.random() < 0.7, drift=float(draw.choice([0.0, 0.0, 0.008, 0.015])),
        slowing=float(draw.choice([0.0, 0.0, 0.4])), noise_db=float(draw.choice([-np.inf, -np.inf, -10.0])),
        mono=draw.random() < 0.2, pick_up=int(draw.choice([0, 0, 1, 2])),
    )  # fmt: skip


def plans() -> list[Plan]:
    """All pieces of the bench."""
    draw = np.random.default_rng(2026)
    steady = [Plan(seed, bpm) for seed, bpm in enumerate(np.round(np.geomspace(57, 188, 16), 2).tolist())]
    waltz = [Plan(100 + i, bpm, "three") for i, bpm in enumerate((72.0, 96.0, 126.0, 150.0))]
    six = [Plan(120 + i, bpm, "six") for i, bpm in enumerate((52.0, 66.0, 84.0, 104.0))]
    two = [Plan(140 + i, bpm, "two") for i, bpm in enumerate((90.0, 120.0))]
    swing = [Plan(160 + i, bpm, feel="swing") for i, bpm in enumerate((78.0, 102.0, 128.0, 152.0))]
    moving = [Plan(180 + i, float(draw.uniform(65, 165)), drift=0.012, slowing=0.4 * (i % 2)) for i in range(6)]
    still = [
        Plan(200 + i, float(draw.uniform(60, 160)), metre, drums=False, drift=0.008 * (i % 2))
        for i, metre in enumerate(("four", "four", "four", "four", "four", "three", "three", "six"))
    ]
    hard = [Plan(220 + i, float(draw.uniform(65, 165)), noise_db=-8.0, mono=True, pick_up=i % 3) for i in range(4)]
    return [*steady, *waltz, *six, *two, *swing, *moving, *still, *hard]
