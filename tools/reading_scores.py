"""Pieces in many styles, as notes for General MIDI instruments, with beats, bars, key and sections that are known.

Development only: ``tools/make_reading_corpus.py`` renders them to fit and to test the reading. Every style draws its tempo, feel, drums, chords, instruments and
form from a seed. Styles are in two halves, so that what is fitted on one can be tested on the other.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

MAJOR, MINOR = (0, 2, 4, 5, 7, 9, 11), (0, 2, 3, 5, 7, 8, 10)
KICK, SIDE, SNARE, CLAP, LOW_TOM, CLOSED, PEDAL, MID_TOM, OPEN, CRASH, HIGH_TOM, RIDE, BELL, TAMB, COWBELL, HIGH_CONGA, CONGA, SHAKER, CLAVES = (
    36, 37, 38, 39, 45, 42, 44, 47, 46, 49, 50, 51, 53, 54, 56, 62, 64, 70, 75,
)  # fmt: skip
PIANOS, GUITARS, PADS, STRINGS, BRASS, ORGANS = (0, 1, 4, 5, 7), (24, 25, 26, 27, 28), (88, 89, 91, 94, 95), (48, 49, 50, 51), (61, 62, 56, 60), (16, 17, 19)  # fmt: skip
BASSES, SYNTH_BASSES, LEADS, WINDS, PLUCKS = (32, 33, 34, 35), (38, 39, 36), (80, 81, 52, 53, 65), (71, 73, 68, 40, 72, 75), (45, 46, 11, 12, 13)  # fmt: skip
Pattern = dict[int, tuple[float, ...]]  # a drum's places in a bar or two, beats
# Start and length in beats; which note of the chord (−1: all), or the step above its root.
Place = tuple[float, float, int]


def every(step: float, beats: float, first: float = 0.0) -> tuple[float, ...]:
    """Places ``step`` beats apart in a bar of ``beats`` beats."""
    return tuple(np.arange(first, beats - 1e-6, step).round(4).tolist())


@dataclass(frozen=True)
class Style:
    """What pieces of a kind have in common.

    beats : to a bar.  bpm : lowest and highest.  parts : of a beat, 2 or 3.  swing : place of the off-beat, lowest and highest.  drums : patterns, none
    for a piece without.  comp, bass : names of ways to play, or what is played in a bar or two.  loose : seconds that players stray.  drift : of the tempo.
    voicing : steps of a chord above its root.  around : MIDI number of the chords' lowest notes.
    """

    beats: int
    bpm: tuple[float, float]
    drums: tuple[Pattern, ...] = ()
    comp: tuple[str | tuple[Place, ...], ...] = ("held", "beats", "broken")
    bass: tuple[str | tuple[Place, ...], ...] = ("root", "fifths")
    parts: int = 2
    swing: tuple[float, float] = (0.5, 0.5)
    chords: tuple[int, ...] = PIANOS + GUITARS
    basses: tuple[int, ...] = BASSES
    leads: tuple[int, ...] = LEADS + WINDS
    loose: float = 0.004
    drift: float = 0.0
    rubato: float = 0.0
    jump: bool = False
    soft: bool = False
    bars_a_chord: tuple[float, ...] = (1.0, 1.0, 2.0, 0.5)
    voicing: tuple[int, ...] = (0, 2, 4)
    around: int = 55


B4, E4, S4 = every(1, 4), every(0.5, 4), every(0.25, 4)
FIRST_HALF = {
    "ballad": Style(4, (58, 84), ({KICK: (0, 2.5), SIDE: (2,), CLOSED: E4}, {KICK: (0, 1.5), SNARE: (2,), CLOSED: B4}, {KICK: (0, 2), SIDE: (1, 3), CLOSED: E4}), ("broken", "held"), soft=True),
    "rock": Style(4, (96, 168), ({KICK: (0, 2, 2.5), SNARE: (1, 3), CLOSED: E4}, {KICK: (0, 0.5, 2.5), SNARE: (1, 3), RIDE: E4}, {KICK: (0, 1.5, 2), SNARE: (1, 3), OPEN: B4}), ("eighths", "held", "beats"), ("eighths", "root"), chords=(27, 29, 30, 28, 16)),
    "funk": Style(4, (88, 120), ({KICK: (0, 0.75, 2.5), SNARE: (1, 1.75, 2.25, 3), CLOSED: S4}, {KICK: (0, 1.5, 1.75, 2.75), SNARE: (1, 3), CLOSED: E4}), ("stabs", "sixteenths"), ("syncopated",), swing=(0.5, 0.56), chords=(28, 27, 4, 7, 16)),
    "swing": Style(4, (100, 220), ({RIDE: (0, 1, 1.5, 2, 3, 3.5), PEDAL: (1, 3)}, {RIDE: (0, 1, 1.5, 2, 3, 3.5), PEDAL: (1, 3), KICK: (0, 2), SNARE: (3.5,)}), ("stabs", "charleston"), ("walking",), swing=(0.6, 0.67), chords=(0, 1, 26), basses=(32,), leads=(56, 65, 66, 71, 11), loose=0.01),
    "house": Style(4, (116, 132), ({KICK: B4, CLAP: (1, 3), OPEN: every(1, 4, 0.5)}, {KICK: B4, CLOSED: S4, CLAP: (1, 3), OPEN: every(1, 4, 0.5)}), ("offbeats", "stabs", "held"), ("offbeats", "eighths"), chords=(4, 5, 81, 90, 62), basses=SYNTH_BASSES, loose=0.0),
    "disco": Style(4, (108, 128), ({KICK: B4, SNARE: (1, 3), CLOSED: S4, OPEN: every(1, 4, 0.5)},), ("sixteenths", "held"), ("octaves",), chords=(27, 28, 48, 4)),
    "waltz": Style(3, (84, 190), ({KICK: (0,), SNARE: (1, 2), CLOSED: every(1, 3)}, {KICK: (0,), SIDE: (2,), RIDE: every(1, 3)}), ("oompah", "held", "broken"), ("root",), chords=(0, 21, 24, 48)),
    "six-eight": Style(2, (50, 80), ({KICK: (0,), SNARE: (1,), CLOSED: every(1 / 3, 2)}, {KICK: (0, 2 / 3), SNARE: (1,), CLOSED: every(1 / 3, 2)}), ("broken", "held"), ("root", "fifths"), parts=3),
    "reggae": Style(4, (68, 90), ({KICK: (2,), SIDE: (2,), CLOSED: E4}, {KICK: B4, SIDE: (1, 3), CLOSED: E4}), ("offbeats",), ("syncopated", "fifths"), swing=(0.5, 0.62), chords=(16, 27, 17)),
    "hip-hop": Style(4, (80, 102), ({KICK: (0, 0.75, 2.5), SNARE: (1, 3), CLOSED: E4}, {KICK: (0, 1.75, 2.25), SNARE: (1, 3), CLOSED: S4}), ("held", "stabs", "broken"), ("root", "syncopated"), swing=(0.5, 0.62), chords=(4, 0, 46, 89, 11), basses=SYNTH_BASSES),
    "march": Style(2, (96, 132), ({KICK: (0,), SNARE: (0.5, 1, 1.5)}, {KICK: (0, 1), SNARE: (0.5, 0.75, 1.5), CRASH: (0,)}), ("oompah",), ("fifths",), chords=(61, 60, 48), basses=(58, 32), leads=(56, 72, 73)),
    "strings": Style(4, (60, 120), (), ("beats", "held", "tremolo"), ("root", "fifths", "walking"), chords=STRINGS, basses=(43, 42), leads=(40, 68, 73, 71, 60), loose=0.012, drift=0.05),
    "piano": Style(4, (60, 110), (), ("broken", "beats"), ("root", "fifths"), chords=(0, 1), basses=(0, 1), leads=(0, 1), loose=0.01, drift=0.06, rubato=0.15),
    "choir": Style(3, (70, 110), (), ("held", "beats"), ("root",), chords=(52, 19, 48), basses=(19, 43), leads=(52, 73), loose=0.012, drift=0.03),
    "take-five": Style(5, (110, 180), ({RIDE: every(1, 5), KICK: (0, 3), SNARE: (2, 4)}, {KICK: (0, 3), SNARE: (1, 4), CLOSED: every(0.5, 5)}), ("held", "beats"), ("root",), swing=(0.5, 0.66)),
    "seven": Style(7, (130, 200), ({KICK: (0, 2, 4), SNARE: (1, 3, 6), CLOSED: every(1, 7)}, {KICK: (0, 3), SNARE: (2, 5), CLOSED: every(1, 7)}), ("held", "beats"), ("root",)),
    "pop-jump": Style(4, (84, 128), ({KICK: (0, 2), SNARE: (1, 3), CLOSED: E4},), ("held", "eighths"), ("root", "eighths"), jump=True),
}  # fmt: skip
SECOND_HALF = {
    "reggaeton": Style(4, (86, 104), ({KICK: B4, SNARE: (0.75, 1.5, 2.75, 3.5), CLOSED: E4},), ("stabs", "held"), ("root", "syncopated"), chords=(24, 4, 46, 88), basses=SYNTH_BASSES),
    "trap": Style(4, (64, 80), ({KICK: (0, 1.25, 1.75), SNARE: (2,), CLOSED: every(0.25, 4)}, {KICK: (0, 0.75, 2.75), CLAP: (2,), CLOSED: every(1 / 8, 4)}), ("held", "broken"), ("root",), chords=(4, 11, 89, 91, 0), basses=SYNTH_BASSES),
    "drum-and-bass": Style(4, (160, 178), ({KICK: (0, 2.5), SNARE: (1, 3), CLOSED: E4}, {KICK: (0, 2.75), SNARE: (1, 1.75, 3), RIDE: E4}), ("held", "stabs"), ("root", "syncopated"), chords=(89, 4, 90), basses=SYNTH_BASSES),
    "bossa": Style(4, (110, 150), ({KICK: (0, 1.5, 2, 3.5), SIDE: (0, 1.5, 3), CLOSED: E4}, {SIDE: (1, 2.5), SHAKER: E4, KICK: (0, 2)}), ("charleston", "stabs"), ("fifths",), chords=(24, 0, 26), basses=(32, 33), leads=(73, 65, 24, 71)),
    "twelve-eight": Style(4, (50, 76), ({KICK: (0, 2), SNARE: (1, 3), CLOSED: every(1 / 3, 4)}, {KICK: (0, 5 / 3, 2), SNARE: (1, 3), RIDE: every(1 / 3, 4)}), ("broken", "held", "beats"), ("root", "walking"), parts=3),
    "country": Style(4, (140, 210), ({KICK: (0, 2), SNARE: (1, 3), CLOSED: E4}, {KICK: (0, 2), SNARE: (0.5, 1, 1.5, 2.5, 3, 3.5)}), ("oompah", "eighths"), ("fifths",), chords=(24, 25, 27), basses=(32, 33), leads=(40, 22, 25, 15)),
    "shuffle": Style(4, (96, 150), ({KICK: (0, 2), SNARE: (1, 3), CLOSED: E4}, {KICK: (0, 1.5, 2), SNARE: (1, 3), RIDE: E4}), ("eighths", "stabs"), ("walking", "eighths"), swing=(0.62, 0.67), chords=(27, 16, 0, 29)),
    "jazz-waltz": Style(3, (120, 190), ({RIDE: (0, 1, 1.5, 2), PEDAL: (1,)}, {RIDE: (0, 1, 2, 2.5), PEDAL: (1, 2), KICK: (0,)}), ("stabs", "held"), ("root", "walking"), swing=(0.58, 0.66), chords=(0, 26, 4), basses=(32,), loose=0.01),
    "slip-jig": Style(3, (90, 130), (), ("beats", "broken"), ("root",), parts=3, chords=(24, 25, 21), leads=(73, 40, 75, 109)),
    "techno": Style(4, (124, 142), ({KICK: B4, CLOSED: every(1, 4, 0.5)}, {KICK: B4, RIDE: E4, CLAP: (1, 3), LOW_TOM: (0.75, 2.25)}), ("sixteenths", "stabs"), ("sixteenths", "offbeats"), chords=(81, 87, 90, 38), basses=SYNTH_BASSES, loose=0.0),
    "salsa": Style(4, (160, 210), ({CLAVES: (0, 1.5, 3), HIGH_CONGA: (1, 3), CONGA: (1.5, 3.5), COWBELL: B4}, {COWBELL: (0, 1, 2, 2.5, 3), CONGA: (1, 3, 3.5), SIDE: (0.5, 1, 2, 3)}), ("montuno",), ("tumbao",), chords=(0, 1), leads=(56, 57, 73)),
    "hymn": Style(4, (66, 100), (), ("beats",), ("walking", "root"), chords=(19, 20, 52, 61), basses=(19, 43, 58), leads=(19, 52, 56), loose=0.012, drift=0.03),
    "guitar": Style(4, (70, 130), (), ("broken", "sixteenths"), ("root", "fifths"), chords=(24, 25, 46), basses=(24, 25, 32), leads=(73, 40, 24), loose=0.01, drift=0.05),
    "nocturne": Style(2, (48, 74), (), ("broken",), ("root",), parts=3, chords=(0, 46), basses=(0, 42), leads=(0, 40, 73), loose=0.012, drift=0.06, rubato=0.15),
    "five-four": Style(5, (96, 150), ({KICK: (0, 1.5, 3), SNARE: (2, 4), CLOSED: every(0.5, 5)}, {KICK: (0, 2.5), SNARE: (1, 3, 4), SHAKER: every(0.5, 5)}), ("eighths", "held"), ("root", "eighths")),
    "seven-four": Style(7, (120, 180), ({KICK: (0, 4), SNARE: (2, 6), CLOSED: every(0.5, 7)}, {KICK: (0, 2.5, 4), SNARE: (1, 3, 5.5), RIDE: every(1, 7)}), ("eighths", "held"), ("root", "eighths")),
    "gear-change": Style(4, (90, 130), ({KICK: (0, 1.5, 2), SNARE: (1, 3), CLOSED: E4},), ("stabs", "held"), ("root", "syncopated"), jump=True, chords=(4, 27, 16)),
}  # fmt: skip


@dataclass(frozen=True)
class Event:
    """A note: start and length in beats, MIDI channel (9 is the drums), number and velocity."""

    at: float
    lasts: float
    channel: int
    number: int
    velocity: int


@dataclass
class Score:
    """A piece. times : seconds of every beat, one more at the end.  sections : letter and first beat.  programs : of each channel."""

    style: str
    beats_per_bar: int
    times: np.ndarray = field(default_factory=lambda: np.zeros(0))
    first_downbeat: int = 0
    key: str = ""
    swing: float = 0.5
    events: list[Event] = field(default_factory=list)
    sections: list[tuple[str, int]] = field(default_factory=list)
    programs: dict[int, int] = field(default_factory=dict)

    @property
    def beats(self) -> np.ndarray:
        """Seconds of all beats."""
        return self.times[:-1]

    @property
    def downbeats(self) -> np.ndarray:
        """Seconds at which bars begin."""
        return self.beats[self.first_downbeat :: self.beats_per_bar]

    def seconds_at(self, beat: float) -> float:
        """When a place is heard; off-beats late where it swings."""
        whole, part = divmod(beat, 1.0)
        part = part * 2 * self.swing if part <= 0.5 else self.swing + (part - 0.5) * 2 * (1.0 - self.swing)
        return float(np.interp(whole + part, np.arange(len(self.times)), self.times))


def composed(name: str, style: Style, seed: int, seconds: float = 70.0) -> Score:
    """A piece of a style."""
    return _Composer(name, style, seed, seconds).score


class _Composer:
    """Draws a piece, section by section."""

    def __init__(self, name: str, style: Style, seed: int, seconds: float) -> None:
        self.draw = np.random.default_rng([seed, sum(map(ord, name))])
        draw, self.style = self.draw, style
        self.bpm = float(draw.uniform(*style.bpm))
        self.score = Score(name, style.beats, swing=float(draw.uniform(*style.swing)))
        self.pick_up = int(draw.integers(1, style.beats)) if draw.random() < 0.25 else 0
        self.score.first_downbeat = self.pick_up
        bars = max(12, round(seconds * self.bpm / 60 / style.beats))
        self._plan(bars)
        self._set_times()
        self.tonic, self.mode = int(draw.integers(12)), "major" if draw.random() < 0.55 else "minor"
        self.score.key = f"{self.tonic} {self.mode}"
        self.score.programs = {
            0: self._of(style.chords),
            1: self._of(style.basses),
            2: self._of(style.leads),
            3: self._of(PADS + STRINGS),
        }
        self._compose()

    def _of(self, choices: tuple) -> int:  # type: ignore[type-arg]
        return choices[int(self.draw.integers(len(choices)))]

    def _plan(self, bars: int) -> None:
        """Letters and lengths of sections, most of them whole phrases; at least three."""
        order = self._of(("AABA", "ABAB", "IABABC", "ABABCB", "IAABAO", "ABCAB"))
        letters = list(order)
        phrase = 8 if bars >= 8 * len(letters) * 0.75 else 4
        lengths = [phrase if x not in "IO" else 4 for x in letters]
        while sum(lengths) < bars - 4:
            letters.append(letters[len(letters) % max(2, len(order) - 1)])
            lengths.append(phrase)
        if self.draw.random() < 0.2:
            lengths[int(self.draw.integers(len(lengths)))] += int(self.draw.integers(1, 3))
        self.letters, self.starts = letters, np.concatenate(([0], np.cumsum(lengths))).astype(int)
        self.bars = int(self.starts[-1])

    def _set_times(self) -> None:
        style, draw = self.style, self.draw
        count = self.bars * style.beats + self.pick_up
        period = np.full(count + 1, 60.0 / self.bpm)
        if style.drift:
            stray = np.cumsum(draw.standard_normal(count + 1)) * style.drift / np.sqrt(8.0)
            period *= np.exp(np.clip(stray - np.linspace(0, stray[-1], count + 1), -0.3, 0.3))
        if style.rubato:
            phrase = 2 * style.beats
            period *= 1.0 + style.rubato * np.clip(np.arange(count + 1) % phrase - phrase + 2, 0, None)
        if style.jump:
            at = self.starts[len(self.letters) // 2] * style.beats + self.pick_up
            period[at:] /= self._of((1.15, 0.8, 1.33, 1.25))
        first = 0.1 + 1.5 * float(draw.random())
        self.score.times = first + np.concatenate(([0.0], np.cumsum(period[:count])))

    def _compose(self) -> None:
        style = self.style
        looks = {letter: self._look() for letter in sorted(set(self.letters))}
        raised = self._of((0, 0, 0, 2)) if len(self.letters) > 4 else 0
        fade_in = self._of(("all", "all", "no drums", "chords"))
        for i, letter in enumerate(self.letters):
            first, last = int(self.starts[i]), int(self.starts[i + 1])
            self.score.sections.append((letter, first * style.beats + self.pick_up))
            up = raised if i == len(self.letters) - 1 else 0
            for bar in range(first, last):
                self._bar(bar, looks[letter], up, quiet=fade_in if i == 0 else "all", last=bar == last - 1)
        for beat in range(self.pick_up):
            self._note(beat - self.pick_up, 0.9, 2, self._pitch(4 + beat, 67), 80)

    def _look(self) -> dict:  # type: ignore[type-arg]
        """How a section is played."""
        draw, style = self.draw, self.style
        progression = self._of(
            (
                (0, 4, 5, 3),
                (0, 5, 3, 4),
                (0, 3, 0, 4),
                (5, 3, 0, 4),
                (0, 3, 4, 4),
                (0, 6, 3, 0),
                (1, 4, 0, 0),
                (0, 2, 3, 4),
                (0, 0, 3, 4),
            )
        )
        motif = []
        step = 1.0 / style.parts
        at, pitch = 0.0, int(draw.integers(0, 5))
        while at < 2 * style.beats:
            length = step * int(self._of((1, 1, 2, 2, 3, 4)))
            if draw.random() < 0.75:
                motif.append((at, length, pitch))
            pitch = int(np.clip(pitch + draw.integers(-2, 3), -3, 8))
            at += length
        return {
            "chords": progression, "bars": self._of(style.bars_a_chord), "comp": self._of(style.comp), "bass": self._of(style.bass),
            "drums": self._of(style.drums) if style.drums else {}, "motif": motif, "sings": draw.random() < 0.75, "pad": draw.random() < 0.3,
            "loud": float(draw.uniform(0.75, 1.0)), "crash": draw.random() < 0.5,
        }  # fmt: skip

    def _pitch(self, step: int, around: int) -> int:
        """The note of a step of the scale nearest above ``around``."""
        scale = MAJOR if self.mode == "major" else MINOR
        octave, place = divmod(step, 7)
        low = around + (self.tonic - around) % 12 - 12
        return low + 12 * octave + scale[place]

    def _chord(self, look: dict, bar: int, beat: float) -> int:  # type: ignore[type-arg]
        return look["chords"][int((bar + beat / self.style.beats) / look["bars"]) % len(look["chords"])]

    def _bar(self, bar: int, look: dict, up: int, *, quiet: str, last: bool) -> None:  # type: ignore[type-arg]
        style, beats = self.style, self.style.beats
        base = bar * beats
        loud = look["loud"] * (0.8 if style.soft else 1.0)
        for at, length, kind in in_bar(comp_places(look["comp"], beats, style.parts), bar, beats):
            root = self._chord(look, bar, at)
            notes = [self._pitch(root + step, style.around) + up for step in style.voicing]
            chosen = notes if kind < 0 else [notes[kind % 3] + 12 * (kind // 3)]
            for note in chosen:
                self._note(base + at, length, 0, note, 78 * loud)
        if quiet != "chords":
            for at, length, step in in_bar(bass_places(look["bass"], beats, style.parts), bar, beats):
                self._note(base + at, length, 1, self._pitch(self._chord(look, bar, at) + step, 40) + up, 92 * loud)
            if look["sings"]:
                half = bar % 2
                for at, length, step in look["motif"]:
                    if half * beats <= at < (half + 1) * beats:
                        self._note(base + at - half * beats, length * 0.95, 2, self._pitch(step, 67) + up, 88 * loud)
        if look["pad"]:
            for step in (0, 2, 4):
                self._note(base, beats, 3, self._pitch(self._chord(look, bar, 0) + step, 60) + up, 60 * loud)
        if quiet == "all":
            self._drums(base, look, last)

    def _drums(self, base: float, look: dict, last: bool) -> None:  # type: ignore[type-arg]
        beats, draw = self.style.beats, self.draw
        long = max((at for places in look["drums"].values() for at in places), default=0.0)
        half = int(base // beats % (long // beats + 1)) * beats
        for drum, places in look["drums"].items():
            for at in (place - half for place in places if half <= place < half + beats):
                if last and at >= beats - 1 and draw.random() < 0.5:
                    continue
                accent = 1.0 if at % 1.0 == 0.0 else 0.8
                self._note(base + at, 0.2, 9, drum, (62 if self.style.soft else 92) * accent * draw.uniform(0.85, 1.1))
        if last and look["drums"] and draw.random() < 0.6:
            for k in range(4):
                self._note(base + beats - 1 + k / 4, 0.2, 9, self._of((SNARE, HIGH_TOM, LOW_TOM)), 70 + 8 * k)
        if look["crash"] and look["drums"] and base / beats in self.starts:
            self._note(base, 1.0, 9, CRASH, 90)

    def _note(self, beat: float, lasts: float, channel: int, number: int, velocity: float) -> None:
        late = self.style.loose * self.draw.standard_normal() / (60.0 / self.bpm)
        at = max(0.0, beat + self.pick_up)
        self.score.events.append(
            Event(
                at + late if self.style.loose else at,
                lasts,
                channel,
                int(np.clip(number, 20, 108)),
                int(np.clip(velocity + self.draw.normal(0, 4), 20, 127)),
            )
        )


def in_bar(places: Sequence[Place], bar: int, beats: int) -> list[Place]:
    """The notes of one bar, taken from a pattern one or two bars long."""
    first = int(bar % (max(at for at, *_ in places) // beats + 1)) * beats
    return [(at - first, length, kind) for at, length, kind in places if first <= at < first + beats]


def comp_places(way: str | tuple[Place, ...], beats: int, parts: int) -> Sequence[Place]:
    """Start, length and which note of the chord, −1 for all."""
    if not isinstance(way, str):
        return way
    step = 1.0 / parts
    fast = every(step, beats)
    ways: dict[str, Callable[[], list[tuple[float, float, int]]]] = {
        "held": lambda: [(0.0, float(beats), -1)],
        "beats": lambda: [(float(b), 0.8, -1) for b in range(beats)],
        "eighths": lambda: [(at, 0.4, -1) for at in fast],
        "sixteenths": lambda: [(at, 0.2, int(i * 5) % 4) for i, at in enumerate(every(step / 2, beats))],
        "broken": lambda: [(at, 0.9, (0, 1, 2, 3, 2, 1)[i % 6]) for i, at in enumerate(fast)],
        "offbeats": lambda: [(b + 0.5, 0.3, -1) for b in range(beats)],
        "oompah": lambda: (
            [(float(b), 0.4, -1) for b in range(1, beats)] if beats == 3 else [(b + 0.5, 0.3, -1) for b in range(beats)]
        ),
        "stabs": lambda: [(at, 0.25, -1) for at in (0.0, 1.5, 2.75, 3.5) if at < beats],
        "charleston": lambda: [(at, 0.3, -1) for at in (0.0, 1.5) if at < beats],
        "tremolo": lambda: [(at, 0.24, -1) for at in every(0.25, beats)],
        "montuno": lambda: [(at, 0.4, k) for at, k in ((0.0, 0), (1.0, 3), (1.5, 1), (2.5, 2), (3.5, 3)) if at < beats],
    }
    return ways[way]()


def bass_places(way: str | tuple[Place, ...], beats: int, parts: int) -> Sequence[Place]:
    """Start, length and step above the root."""
    if not isinstance(way, str):
        return way
    ways: dict[str, Callable[[], list[tuple[float, float, int]]]] = {
        "root": lambda: [(0.0, beats * 0.9, 0)],
        "fifths": lambda: [(0.0, 0.9, 0), *([(beats / 2, 0.9, 4)] if beats % 2 == 0 else [(beats - 1.0, 0.9, 4)])],
        "eighths": lambda: [(at, 0.4, 0) for at in every(1.0 / parts, beats)],
        "sixteenths": lambda: [(at, 0.2, 0) for at in every(0.25, beats) if at % 1.0],
        "octaves": lambda: [(at, 0.4, 0 if at % 1.0 == 0.0 else 7) for at in every(0.5, beats)],
        "offbeats": lambda: [(b + 0.5, 0.4, 0) for b in range(beats)],
        "syncopated": lambda: [
            (at, 0.5, k) for at, k in ((0.0, 0), (0.75, 0), (1.5, 4), (2.5, 0), (3.25, 4)) if at < beats
        ],
        "walking": lambda: [(float(b), 0.9, (0, 2, 4, 5)[b % 4]) for b in range(beats)],
        "tumbao": lambda: [(at, 0.9, k) for at, k in ((1.5, 4), (3.0, 0)) if at < beats],
    }
    return ways[way]()
