"""Composes and synthesises the demo songs of the Lanternwheel, a made-up roller rink.

Run ``.venv/bin/python tools/make_demo.py`` to make ``demo/*.ogg``, ``demo/truth.json`` and the demo session
anew. The notes are the same every time.
"""

import json
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import soundfile

import demo_instruments as play
from demo_instruments import RATE, Wave
from demo_moves import MOVES, with_moves, write_moves
from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import Audio
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import HallSettings
from latespin.jobs import Quietly
from latespin.media.tags import Tags, write_tags
from latespin.media.track import file_hash
from latespin.model.documents.documents import Session, TrackReference, to_json
from latespin.model.effects.automation import Lane, LanePoint, dipped
from latespin.model.effects.effects import Eq, Layer, SmallSpeaker, Spin, Underwater, Vinyl
from latespin.model.effects.effects import Hall as HallStage
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.moments import (
    AnyMoment,
    Cover,
    Dip,
    DropIn,
    Moments,
    PitchGlide,
    Ramp,
    Reverse,
    SpinUp,
    Stutter,
    TapeStop,
    Throw,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Level, Stages, Time, Version
from latespin.render.mastering.level import levelled
from latespin.render.mastering.level_solver import solve_level

BELL = "rink-bell.ogg"
DEMO = Path(__file__).resolve().parent.parent / "demo"
MASTERED = Level(target_lufs=-10.0, ceiling_dbtp=-1.0, allowance_db=12.0)


@dataclass
class Song:
    """A tempo, a metre, sections, and a stereo mix that notes are added to."""

    file: str
    title: str
    artist: str
    bpm: float
    metre: int
    key: str
    sections: tuple[tuple[str, int], ...]
    seed: int
    dry: Wave = field(init=False)
    wet: Wave = field(init=False)

    def __post_init__(self) -> None:
        self.noise = np.random.default_rng(self.seed)
        self.beat = 60.0 / self.bpm
        self.bars = sum(bars for _, bars in self.sections)
        self.lead_in = 0.25
        frames = round((self.lead_in + self.bars * self.metre * self.beat + 4.0) * RATE)
        self.dry = np.zeros((2, frames))
        self.wet = np.zeros((2, frames))

    def time(self, bar: int, beat: float = 0.0) -> float:
        """Seconds at which a beat (from 0) of a bar (from 0) falls."""
        return self.lead_in + (bar * self.metre + beat) * self.beat

    def add(self, sound: Wave, at: float, level: float, pan: float = 0.0, send: float = 0.0) -> None:
        """Mix a sound in at a time; pan −1 to 1, equal power; send to the room."""
        start = max(0, round(at * RATE))
        stop = min(start + len(sound), self.dry.shape[1])
        angle = (pan + 1.0) * np.pi / 4.0
        for channel, gain in enumerate((np.cos(angle), np.sin(angle))):
            part = sound[: stop - start] * (level * gain)
            self.dry[channel, start:stop] += part
            self.wet[channel, start:stop] += send * part

    def span(self, name: str) -> list[range]:
        """The bars of all sections with a name."""
        found, first = [], 0
        for section, bars in self.sections:
            if section == name:
                found.append(range(first, first + bars))
            first += bars
        return found

    def sung(self, bars: list[range], words: list[tuple[float, float, float, str, str]], level: float) -> None:
        """A phrase of (beat, length in beats, MIDI note, vowel, consonant), again at every eighth bar's start."""
        length = max(beat for beat, *_ in words)
        period = int(np.ceil((length + 1) / self.metre / 2)) * 2
        for span in bars:
            for first in range(span.start, span.stop - period + 1, period):
                last = words[0][2]
                for beat, duration, midi, vowel, consonant in words:
                    late = 0.012 * self.noise.standard_normal()
                    syllable = play.sung(midi, last, duration * self.beat, vowel, consonant, self.noise)
                    self.add(syllable, self.time(first, beat) + late, level, 0.04, 0.3)
                    last = midi

    def truth(self) -> dict[str, object]:
        """What is known to be right about the song."""
        beats = [round(self.time(0, b), 6) for b in range(self.bars * self.metre)]
        starts = np.cumsum([0, *(bars for _, bars in self.sections)])
        return {
            "file": self.file, "title": self.title, "bpm": self.bpm, "metre": self.metre, "key": self.key,
            "beats": beats, "downbeats": beats[:: self.metre],
            "sections": [
                {"label": name, "start": round(self.time(int(starts[i])), 6), "end": round(self.time(int(starts[i + 1])), 6)}
                for i, (name, _) in enumerate(self.sections)
            ],
        }  # fmt: skip


def chord_notes(root: int, kind: str) -> list[int]:
    """Four notes of a seventh chord over a MIDI root."""
    steps = {"m7": (0, 3, 7, 10), "7": (0, 4, 7, 10), "maj7": (0, 4, 7, 11), "add9": (0, 4, 7, 14)}
    return [root + step for step in steps[kind]]


def lantern_light() -> Song:
    """92 BPM, A minor: laid-back drums, bass, electric piano and a voice."""
    song = Song(
        "lantern-light.ogg", "Lantern Light", "The Paper Moths", 92.0, 4, "A minor",
        (("intro", 4), ("verse", 8), ("chorus", 8), ("verse", 4), ("chorus", 8), ("outro", 4)), 92,
    )  # fmt: skip
    chords = [chord_notes(57, "m7"), chord_notes(53, "maj7"), chord_notes(60, "maj7"), chord_notes(55, "7")]
    beat = song.beat
    choruses = {bar for span in song.span("chorus") for bar in span}
    outro = song.span("outro")[0]
    for bar in range(song.bars):
        notes = chords[bar % 4] if bar < song.bars - 1 else chords[0]
        for i, note in enumerate(notes):
            for at, length, strength in ((0.0, 1.9, 0.9), (2.5, 1.3, 0.6)):
                late = 0.004 * i
                tone = play.electric_piano(note, length * beat, strength)
                wobble = 1.0 + 0.25 * np.sin(2 * np.pi * 4.6 * np.arange(len(tone)) / RATE + bar)
                song.add(tone * wobble, song.time(bar, at) + late, 0.13, -0.45 + 0.3 * i, 0.25)
        if bar in choruses:
            for i, note in enumerate(notes):
                song.add(play.pad(note + 12, 4 * beat, 9.0), song.time(bar), 0.06, 0.6 - 0.4 * i, 0.4)
        if bar < 2 or bar == song.bars - 1:
            continue
        root = notes[0] - 24
        for at, length, step in ((0.0, 0.9, 0), (1.5, 0.45, 0), (2.0, 0.8, 7), (3.5, 0.45, 12)):
            song.add(play.bass(root + step, length * beat), song.time(bar, at), 0.30)
        if bar in outro and bar > outro.start + 1:
            continue
        for at in (0.0, 1.75, 2.5):
            song.add(play.kick(song.noise), song.time(bar, at), 0.62 if at != 1.75 else 0.4)
        for at in (1.0, 3.0):
            song.add(play.snare(song.noise), song.time(bar, at) + 0.011, 0.42, 0.08, 0.12)
        for step in range(8):
            swing = 0.08 * (step % 2)
            song.add(
                play.hat(song.noise, 60 if step != 7 else 14),
                song.time(bar, step / 2 + swing),
                0.10 + 0.05 * (step % 2 == 0),
                0.35,
            )
    verse = [(0.5, 0.5, 64, "u", "t"), (1.0, 0.5, 67, "i", ""), (1.5, 1.0, 69, "a", "s"), (3.0, 0.8, 67, "o", "t"),
             (4.5, 0.5, 64, "e", ""), (5.0, 0.5, 65, "a", "t"), (5.5, 1.8, 64, "o", "")]  # fmt: skip
    chorus = [(0.0, 1.0, 72, "a", "s"), (1.0, 0.5, 71, "e", "t"), (1.5, 0.5, 69, "i", ""), (2.0, 1.8, 72, "o", "t"),
              (4.0, 1.0, 76, "a", ""), (5.0, 0.5, 74, "i", "t"), (5.5, 0.5, 72, "u", ""), (6.0, 1.8, 69, "a", "s")]  # fmt: skip
    song.sung(song.span("verse"), verse, 0.30)
    song.sung(song.span("chorus"), chorus, 0.34)
    return song


def eight_wheels() -> Song:
    """124 BPM, F major: four to the floor, off-beat bass, plucks and hands."""
    song = Song(
        "eight-wheels-turning.ogg", "Eight Wheels Turning", "Marquee Comet", 124.0, 4, "F major",
        (("intro", 8), ("verse", 12), ("chorus", 12), ("break", 4), ("chorus", 12), ("outro", 4)), 124,
    )  # fmt: skip
    chords = [
        chord_notes(53, "add9"),
        chord_notes(60, "add9"),
        chord_notes(50, "m7"),
        chord_notes(58, "maj7"),
    ]
    beat = song.beat
    quiet = {bar for span in song.span("break") for bar in span}
    choruses = {bar for span in song.span("chorus") for bar in span}
    for bar in range(song.bars):
        notes = chords[bar % 4] if bar < song.bars - 1 else chords[0]
        last = bar == song.bars - 1
        for step in range(1 if last else 8):
            note = notes[(step * 3) % 4] + 12 * (step % 3 == 1)
            song.add(
                play.pluck(note + 12, 0.9 * beat, 0.8),
                song.time(bar, step / 2),
                0.11,
                0.5 * (-1) ** step,
                0.25,
            )
            song.add(
                play.pluck(note + 12, 0.7 * beat, 0.5),
                song.time(bar, step / 2 + 0.75),
                0.06,
                -0.5 * (-1) ** step,
                0.3,
            )
        if bar in choruses or bar in quiet or last:
            for i, note in enumerate(notes):
                song.add(play.pad(note + 12, 4 * beat, 13.0, 2_600), song.time(bar), 0.08, 0.7 - 0.45 * i, 0.35)
        if bar in quiet or last:
            continue
        for at in range(4):
            song.add(play.kick(song.noise, punch=1.4), song.time(bar, at), 0.66)
            song.add(play.hat(song.noise, 22), song.time(bar, at + 0.5), 0.17, -0.3)
        if bar < 4:
            continue
        for step in range(4):
            song.add(
                play.bass(notes[0] - 24 + 12 * (step == 3), 0.42 * beat, bright=0.7),
                song.time(bar, step + 0.5),
                0.34,
            )
        for at in (1, 3):
            song.add(play.clap(song.noise), song.time(bar, at), 0.36, 0.1, 0.2)
        for step in range(16):
            song.add(play.hat(song.noise, 90), song.time(bar, step / 4), 0.05 + 0.03 * (step % 4 == 2), 0.4)
    verse = [(0.0, 0.5, 65, "a", "t"), (0.5, 0.5, 67, "i", ""), (1.0, 1.0, 69, "e", "s"), (2.5, 0.5, 69, "a", "t"),
             (3.0, 1.0, 67, "o", ""), (4.5, 0.5, 65, "u", "t"), (5.0, 0.5, 67, "a", ""), (5.5, 1.5, 65, "i", "s")]  # fmt: skip
    chorus = [(0.0, 1.5, 72, "a", ""), (1.5, 0.5, 74, "e", "t"), (2.0, 1.5, 76, "a", "s"), (4.0, 1.0, 74, "o", "t"),
              (5.0, 0.5, 72, "i", ""), (5.5, 2.0, 69, "a", "t")]  # fmt: skip
    song.sung(song.span("verse"), verse, 0.24)
    song.sung(song.span("chorus"), chorus, 0.26)
    return song


def blue_floor() -> Song:
    """68 BPM in three, D major: a ballad that opens without drums."""
    song = Song(
        "slow-door-blue-floor.ogg", "Slow Door, Blue Floor", "Odile Harrow", 68.0, 3, "D major",
        (("intro", 6), ("verse", 8), ("chorus", 8), ("verse", 4), ("chorus", 8), ("outro", 2)), 68,
    )  # fmt: skip
    chords = [chord_notes(50, "maj7"), chord_notes(47, "m7"), chord_notes(55, "maj7"), chord_notes(57, "7")]
    beat = song.beat
    intro = song.span("intro")[0]
    choruses = {bar for span in song.span("chorus") for bar in span}
    for bar in range(song.bars):
        notes = chords[(bar // 2) % 4] if bar < song.bars - 2 else chords[0]
        if bar == song.bars - 1:
            break
        song.add(play.piano(notes[0] - 12, 2.8 * beat, 0.9), song.time(bar), 0.30, -0.2, 0.3)
        for i in range(6):
            note = notes[(0, 1, 2, 3, 2, 1)[i]] + 12
            late = 0.008 * song.noise.standard_normal()
            song.add(
                play.piano(note, 1.4 * beat, 0.5 + 0.2 * (i == 0)),
                song.time(bar, i / 2) + abs(late),
                0.24,
                -0.3 + 0.15 * i,
                0.35,
            )
        for i, note in enumerate(notes if bar >= intro.stop - 2 else notes[:2]):
            swell = 0.05 if bar not in choruses else 0.10
            song.add(play.pad(note, 3 * beat, 7.0, 1_000), song.time(bar), swell, 0.75 - 0.5 * i, 0.5)
        if bar < intro.stop:
            continue
        song.add(play.bass(notes[0] - 12, 2.4 * beat, bright=0.1), song.time(bar), 0.26)
        if bar >= song.bars - 2:
            continue
        song.add(play.kick(song.noise, punch=0.6), song.time(bar), 0.45)
        for at in (1, 2):
            song.add(play.brush(song.noise), song.time(bar, at), 0.10 if bar not in choruses else 0.18, 0.2, 0.2)
        if bar in choruses:
            song.add(play.snare(song.noise), song.time(bar, 2), 0.22, 0.05, 0.3)
    verse = [(0.0, 1.5, 62, "o", ""), (1.5, 0.5, 64, "a", "t"), (2.0, 1.0, 66, "i", ""), (3.0, 2.0, 69, "a", "s"),
             (6.0, 1.0, 67, "e", "t"), (7.0, 1.0, 66, "o", ""), (8.0, 1.0, 64, "u", "t"), (9.0, 2.4, 62, "a", "")]  # fmt: skip
    chorus = [(0.0, 2.0, 74, "a", ""), (2.0, 1.0, 73, "i", "t"), (3.0, 2.0, 71, "o", "s"), (5.0, 1.0, 69, "a", "t"),
              (6.0, 2.0, 71, "e", ""), (8.0, 1.0, 69, "u", "t"), (9.0, 2.6, 66, "a", "")]  # fmt: skip
    song.sung(song.span("verse"), verse, 0.34)
    song.sung(song.span("chorus"), chorus, 0.36)
    return song


def master(song: Song) -> Audio:
    """Put the sends in a room, press the mix together a little and bring it to about −10 LUFS."""
    room = Hall(RATE, HallSettings(1.5, 0.4, 0.012, 7_000.0, 1.0, 1.0))
    mix = song.dry + 1.1 * room.process(song.wet.astype(np.float32))
    mix = np.tanh(1.5 * mix / np.quantile(np.abs(mix), 0.999)).astype(np.float32)
    fade = np.clip((mix.shape[1] - np.arange(mix.shape[1])) / (1.5 * RATE), 0.0, 1.0)
    mix *= fade.astype(np.float32)
    plan = solve_level(mix, facts_of(mix, RATE), MASTERED, Quietly()).plan
    return np.concatenate(list(levelled(mix, plan, RATE)), axis=1)


def write(song: Song) -> None:
    """Encode a song with its tags."""
    sound = master(song)
    tags = Tags({
        "title": (song.title,), "artist": (song.artist,), "album": ("Late Session at the Lanternwheel",),
        "date": ("2026",), "genre": ("Demo",),
    })  # fmt: skip
    target = DEMO / song.file
    with soundfile.SoundFile(target, "w", RATE, 2, "VORBIS", format="OGG", compression_level=0.55) as file:
        for start in range(0, sound.shape[1], 1 << 15):
            file.write(sound[:, start : start + (1 << 15)].T)
    write_tags(target, tags)
    facts = facts_of(sound, RATE)
    print(f"{song.title:24} {facts.seconds:6.1f} s {facts.loudness.integrated_lufs:6.1f} LUFS "
          f"{facts.loudness.range_lu:4.1f} LU {target.stat().st_size / 1e6:.2f} MB")  # fmt: skip


def demo_session(song: Song) -> Session:
    """What the Lanternwheel plays on its late session."""
    hall = HallStage(
        id="hall", decay_seconds=3.2, amount_percent=28.0, size_percent=65.0, pre_delay_ms=25.0, tone_hz=5500.0
    )
    vast = HallStage(
        id="hall", decay_seconds=6.5, amount_percent=42.0, size_percent=90.0, pre_delay_ms=40.0, tone_hz=3800.0
    )
    grid = Grid(bpm=song.bpm, first_beat_seconds=song.lead_in, beats_per_bar=song.metre)
    versions = (
        Version(id="couples", name="Last couples’ skate", stages=Stages(time=Time(speed=0.85), colour=Colour(effects=(hall,)))),
        Version(id="relay", name="Relay race", stages=relay_race(song, grid)),
        Version(
            id="quiet", name="Quiet hour",
            stages=Stages(time=Time(speed=0.92, pitch="held", semitones=-1.0), colour=Colour(effects=(vast,)), level=Level(target_lufs=-18.0)),
        ),
        Version(id="closing", name="Closing time", stages=Stages(time=Time(speed=0.92), moments=closing_time(), ending=Ending(way=RingOut(at=Position(beat=132.0))))),
        Version(id="overhead", name="Wheels overhead", stages=Stages(colour=overhead(), level=Level(target_lufs=-15.0))),
    )  # fmt: skip
    reference = TrackReference(path=song.file, sha256=file_hash(DEMO / song.file))
    return Session(track=reference, grid=grid, versions=versions, chosen="couples")


def relay_race(song: Song, grid: Grid) -> Stages:
    """Quick and loud, with a take played along to it."""
    filtered = Colour(effects=(Eq(id="filter", high_cut_hz=20_000.0, high_slope="24"),))
    plain = Stages(time=Time(speed=1.22), colour=filtered, level=Level(target_lufs=-12.0))
    write_moves(DEMO / MOVES, grid, plain.time.speed)
    return with_moves(plain, DEMO / song.file, grid, DEMO / MOVES)


def overhead() -> Colour:
    """Opens from the counter's radio into the song going round, on a worn record, with a dive under water in between."""
    opens = Lane(
        field="amount_percent",
        points=(
            LanePoint(at=Position(beat=0.0), value=85.0),
            LanePoint(at=Position(beat=12.0), value=75.0),
            LanePoint(at=Position(beat=16.0), value=0.0),
        ),
    )
    dives = dipped(Position(beat=72.0), Position(beat=88.0), 60.0, Position(beat=75.0), Position(beat=86.0))
    return Colour(
        effects=(
            SmallSpeaker(id="radio", lanes=(opens,)),
            Vinyl(id="vinyl", amount_percent=45.0, wear_percent=30.0),
            Underwater(id="water", splash=True, lanes=(dives,)),
            Spin(id="orbit", amount_percent=80.0, period_bars=4.0),
            HallStage(id="hall", amount_percent=12.0, decay_seconds=1.6, duck_db=3.0),
            Layer(id="rink", sound="rink", gain_db=-32.0),
        )
    )  # fmt: skip


def closing_time() -> Moments:
    """Every kind of moment once, each where the song gives it a place."""

    def at(kind: type, start: float, end: float, ident: str, **values: object) -> AnyMoment:
        return kind(id=ident, start=Position(beat=start), end=Position(beat=end), **values)  # type: ignore[no-any-return]

    return Moments(
        placed=(
            at(SpinUp, 4.0, 8.0, "spin", label="Drums spin up"),
            at(Cover, 17.5, 18.5, "word", way="reverse", label="A word"),
            at(Stutter, 46.0, 48.0, "stutter", values=("1/8", "1/16")),
            at(DropIn, 48.0, 54.0, "bell", path=BELL, gain_db=-5.0, label="Rink bell"),
            at(Dip, 60.0, 64.0, "sag", depth_percent=35.0),
            at(Ramp, 76.0, 80.0, "push", speed=1.15, time="keep"),
            at(ColourDip, 80.0, 88.0, "dive", label="Under water"),
            at(TapeStop, 92.0, 96.0, "stop", gap_percent=25.0),
            at(Reverse, 110.0, 112.0, "turn"),
            at(PitchGlide, 116.0, 120.0, "bend", semitones=-2.0, back=True),
            at(Throw, 127.0, 128.0, "throw", into="hall"),
        )
    )  # fmt: skip


def write_bell() -> None:
    """The bell of the rink's steward: struck bars, their partials after N. H. Fletcher and T. D. Rossing, chapter 19."""
    t = np.arange(2 * RATE) / RATE
    ring = sum(
        np.sin(2 * np.pi * 740.0 * ratio * t) * np.exp(-t * (1.6 + 0.9 * ratio)) / (1.0 + i)
        for i, ratio in enumerate((1.0, 2.756, 5.404, 8.933))
    )
    ring *= np.minimum(1.0, t * 400.0)
    soundfile.write(DEMO / BELL, 0.5 * np.stack((ring, np.roll(ring, 18))).T / np.max(np.abs(ring)), RATE)


def write_session(song: Song) -> None:
    """The demo session and what is dropped into it."""
    write_bell()
    (DEMO / "late-session.latespin").write_bytes(to_json(demo_session(song)))


def main() -> None:
    """Make everything in ``demo/``."""
    DEMO.mkdir(exist_ok=True)
    songs = [lantern_light(), eight_wheels(), blue_floor()]
    for song in songs:
        write(song)
    truth = json.dumps([song.truth() for song in songs], indent=1)
    (DEMO / "truth.json").write_text(truth + "\n", encoding="utf-8")
    write_session(songs[0])


if __name__ == "__main__":
    main()
