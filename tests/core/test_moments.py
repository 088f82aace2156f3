"""Moments: measured on signals with a known right answer, and the map they make."""

import itertools

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.signal import get_window, hilbert

from latespin.demo import demo_folder, demo_session
from latespin.dsp.arrays import Audio
from latespin.dsp.filters.percussive import are_drums_clear, drums_of
from latespin.dsp.timing.speed_by_time import SpeedByTime, ease_down, knots, slowing
from latespin.model.arranging.arrangement import arrange
from latespin.model.documents.documents import read_session
from latespin.model.effects.effects import Hall
from latespin.model.moments.curves import outline, speeds_of
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.moments import (
    AnyMoment,
    Cover,
    Dip,
    DropIn,
    GainChange,
    Moments,
    PitchGlide,
    Ramp,
    Reverse,
    SpinUp,
    StuckRecord,
    Stutter,
    TapeStop,
    Throw,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Position
from latespin.model.values.note_values import NOTE_VALUES, beats_of
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems
from tests.conftest import level_db, noise, sine, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)  # a beat is half a second
BEAT = RATE // 2
KINDS: tuple[type[AnyMoment], ...] = (TapeStop, SpinUp, Dip, Ramp, PitchGlide, Stutter, Reverse, Cover)
UNTICKED = {StuckRecord: {"tick_db": -60.0}}


def at(kind: type[AnyMoment], start: float, end: float, ident: str = "m", **values: object) -> AnyMoment:
    """A moment between two beats."""
    return kind(id=ident, start=Position(beat=start), end=Position(beat=end), **values)  # type: ignore[arg-type]


def with_moments(*moments: AnyMoment, **stages: object) -> Stages:
    """A version with these moments."""
    return Stages(moments=Moments(placed=moments), **stages)  # type: ignore[arg-type]


def rendered(sound: Audio, stages: Stages) -> Audio:
    """The whole version before Level."""
    return TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9)


def layout(frames: int) -> Layout:
    """A song of this length on the grid."""
    return Layout(frames, RATE, GRID)


EVERY = [
    at(TapeStop, 8, 12), at(TapeStop, 8, 12, time="add", gap_percent=25.0), at(TapeStop, 8, 9, two_stages=False, tension=1.0),
    at(TapeStop, 8, 12, depth_percent=60.0), at(SpinUp, 8, 12), at(SpinUp, 8, 12, time="add", tension=-1.0), at(Dip, 8, 12),
    at(Dip, 8, 12, time="keep", tension=0.7), at(Dip, 8, 12, lowest_percent=80.0, hold_percent=10.0, tension_back=-0.8), at(Ramp, 8, 12), at(Ramp, 8, 12, speed=0.6, time="keep"), at(PitchGlide, 8, 12),
    at(PitchGlide, 8, 12, back=True, semitones=7.0), at(Stutter, 8, 10, values=("1/8", "1/16t", "1/32")),
    at(Stutter, 8, 10, free=True, slice_ms=11.3, turning=True), at(Stutter, 8, 10, time="add"), at(Reverse, 8, 10),
    at(StuckRecord, 8, 13, tick_db=-60.0), at(StuckRecord, 8, 13, tick_db=-60.0, rpm="78", time="add"),
    at(Reverse, 8, 10, time="add"), *(at(Cover, 8, 9, way=way) for way in ("silence", "repeat", "reverse", "tape-stop", "muffle")),
    at(TapeStop, 8, 12, spin_percent=40.0), at(TapeStop, 8, 12, spin_percent=40.0, gap_percent=20.0, time="add"), at(GainChange, 8, 12), at(GainChange, 8, 12, gain_db=-60.0, free=True, fade_in_ms=5.0),
    at(ColourDip, 8, 12), at(ColourDip, 8, 12, colour="phone"), at(ColourDip, 8, 12, attack_percent=0.0, release_percent=0.0),
]  # fmt: skip


@pytest.mark.parametrize("moment", EVERY, ids=lambda m: f"{type(m).__name__}-{EVERY.index(m)}")
@pytest.mark.parametrize("time", [Time(speed=0.85), Time(speed=0.85, pitch="held")], ids=["linked", "held"])
def test_no_moment_clicks(moment: AnyMoment, time: Time) -> None:
    """The largest step between two samples of a rendered tone stays below 1.5 times the tone's own."""
    out = rendered(sine(1000.0, 12.0), with_moments(moment, time=time))
    fastest = 1000.0 * max(1.0, time.speed if time.pitch == "linked" else 1.0)
    if isinstance(moment, Ramp | PitchGlide):
        fastest *= max(1.0, getattr(moment, "speed", 1.0), 2.0 ** (getattr(moment, "semitones", 0.0) / 12.0))
    own = 0.5 * 2.0 * np.sin(np.pi * fastest / RATE)
    inner = out[:, 4096:-4096]
    assert np.max(np.abs(np.diff(inner))) < 1.5 * own


@pytest.mark.parametrize(
    "moment",
    [m for m in EVERY if isinstance(m, TapeStop | Stutter | StuckRecord | Reverse | Cover)],
    ids=lambda m: f"{EVERY.index(m)}",
)
def test_no_moment_clicks_where_it_must_be_heard_at_once(moment: AnyMoment) -> None:
    """As above, of what is stretched while it is being played."""
    chain = TrackRenderer(track_of(sine(1000.0, 12.0)), GRID).chain(
        with_moments(moment, time=Time(speed=0.85, pitch="held"))
    )
    chain.seek(round(7.2 * BEAT / 0.85), 1.0, draft=True)
    out = np.concatenate([chain.read(2048) for _ in range(100)], axis=1)
    assert np.max(np.abs(np.diff(out))) < 1.5 * np.sin(np.pi * 1000.0 / RATE)


@pytest.mark.parametrize(("tension", "two"), [(0.0, False), (0.25, True), (1.0, False), (-0.6, False)])
def test_a_tape_stop_follows_its_curve(tension: float, two: bool) -> None:
    """The frequency heard is that of the asked curve within 1 % down to 60 Hz; then silence, and nothing above the tone's band."""
    moment = at(TapeStop, 8, 12, tension=tension, two_stages=two)
    out = rendered(sine(1000.0, 12.0), with_moments(moment))[0].astype(float)
    start, frames = 8 * BEAT, 4 * BEAT
    stop = out[start : start + frames]
    phase = np.unwrap(np.angle(hilbert(out[start - 8192 : start + frames])))[8192:]
    x = np.arange(frames) / (frames - round(0.005 * RATE) - round(0.0025 * RATE))
    asked = 1000.0 * slowing(x, tension, 1.0, 0.33 if two else 0.0)
    span = 64  # frames over which the turn of the phase is measured
    heard = (phase[span:] - phase[:-span]) * RATE / (2 * np.pi * span)
    middle = asked[span // 2 : -(span // 2)]
    slow = middle > 400.0
    fading = frames - round(0.02 * RATE)  # the very last of it is faded, whatever its speed
    inner = slow & (np.arange(len(middle)) > 2000) & (np.arange(len(middle)) < fading - span)
    assert np.max(np.abs(heard[inner] / middle[inner] - 1.0)) < 0.01
    # Further down the tone has too few periods for that: its phase is compared with the one the curve gives.
    reads = SpeedByTime.through(
        slowing(knots(), tension, 1.0, 0.33 if two else 0.0),
        frames - round(0.005 * RATE) - round(0.0025 * RATE),
        whole=True,
    )
    wanted = 0.5 * np.sin(2 * np.pi * 1000.0 * (start + reads.before_at(np.arange(frames))) / RATE)
    low = np.flatnonzero(asked[:fading] > 60.0)
    assert np.max(np.abs(stop[low] - wanted[low])) < 2e-3
    back = round(0.0025 * RATE)  # the song comes back over these, before its beat
    assert np.all(stop[-back - round(0.005 * RATE) : -back] == 0.0)
    spectrum = np.abs(
        np.fft.rfft(out[start - RATE : start + frames - 600] * get_window("blackmanharris", frames + RATE - 600))
    )
    freq = np.fft.rfftfreq(frames + RATE - 600, 1 / RATE)
    assert 20 * np.log10(spectrum[freq > 1200.0].max() / spectrum.max()) < -80.0


@pytest.mark.parametrize("kind", [*KINDS, StuckRecord])
def test_keeping_time_the_song_goes_on_where_it_would_have_been(kind: type[AnyMoment]) -> None:
    """After the moment every frame is the song's own; before it, too."""
    sound = noise(12.0)
    keeps = {} if kind in (PitchGlide, Cover) else {"time": "keep"}
    out = rendered(sound, with_moments(at(kind, 8, 10, **keeps, **UNTICKED.get(kind, {}))))
    assert out.shape == sound.shape
    edge = round(0.012 * RATE)
    assert np.array_equal(out[:, 10 * BEAT :], sound[:, 10 * BEAT :])
    assert np.array_equal(out[:, : 8 * BEAT - edge], sound[:, : 8 * BEAT - edge])
    assert not np.allclose(out[:, 8 * BEAT : 10 * BEAT], sound[:, 8 * BEAT : 10 * BEAT], atol=0.05)


@pytest.mark.parametrize("kind", [TapeStop, SpinUp, Dip, Ramp, Stutter, StuckRecord, Reverse])
@pytest.mark.parametrize("speed", [1.0, 0.85])
def test_adding_time_the_song_goes_on_where_it_stopped(kind: type[AnyMoment], speed: float) -> None:
    """What follows is the song from the very frame it stopped at, so that nothing of it is lost and nothing comes twice."""
    sound, time = noise(12.0), Time(speed=speed)
    plain = rendered(sound, Stages(time=time))
    stages = with_moments(at(kind, 8, 10, time="add", **UNTICKED.get(kind, {})), time=time)
    spans = arrange(stages, layout(sound.shape[1])).map.spans
    out = rendered(sound, stages)
    resumed = spans[-1]
    rest = plain.shape[1] - (resumed.after_stop - resumed.after_start)
    bent = [span for span in spans[:-1] if not span.silent][-1]
    if kind in (TapeStop, SpinUp, Dip, Ramp):
        left = float(bent.before_of(np.array([float(bent.after_stop)]))[0])
        assert left == pytest.approx(resumed.place, abs=1e-5)
    else:
        assert resumed.place == pytest.approx(8 * BEAT, abs=1.0)
    assert np.max(np.abs(out[:, resumed.after_start + 8 :] - plain[:, rest + 8 :])) < 1e-5
    assert out.shape[1] == resumed.after_start + plain.shape[1] - rest


@pytest.mark.parametrize("time", ["keep", "add"])
@pytest.mark.parametrize("speed", [1.0, 0.85])
def test_a_tape_stop_spins_up_again_within_its_length(time: str, speed: float) -> None:
    """A tone falls to a standstill at 60 % and is back at its pitch at the end; the song goes on as after other moments."""
    sound, stages = noise(16.0), {"time": Time(speed=speed)}
    stop = at(TapeStop, 8, 16, time=time, spin_percent=40.0, two_stages=False, tension=0.0)
    readers = TrackRenderer(track_of(sound), GRID)
    made = readers.arrangement(with_moments(stop, **stages)).map
    start, frames = round(8 * BEAT / speed), round(8 * BEAT / speed)
    shares = np.array([0.15, 0.3, 0.45, 0.7, 0.8, 0.9])
    speeds = [made.speed_at(start + share * frames) / speed for share in shares]
    assert speeds == pytest.approx([0.75, 0.5, 0.25, 0.25, 0.5, 0.75], abs=0.02)
    assert abs(made.speed_at(start + 0.599 * frames)) < 0.02
    out = readers.chain(with_moments(stop, **stages)).read(10**9)
    plain = readers.chain(Stages(**stages)).read(10**9)  # type: ignore[arg-type]
    if time == "keep":
        assert np.abs(out[:, start + frames + 900 :] - plain[:, start + frames + 900 :]).max() < 1e-5
    else:
        read = out.shape[1] - plain.shape[1]
        assert read == pytest.approx(frames - 0.5 * frames, abs=0.02 * frames)
        assert np.abs(out[:, start + frames + 900 :] - plain[:, start + frames + 900 - read :]).max() < 2e-3


def test_stutter_repeats_are_exact_against_the_grid() -> None:
    """Each repeat begins on its note value to the frame, however many there are, and is what was heard before the moment."""
    grid = Grid(bpm=97.3, first_beat_seconds=0.123)
    sound = noise(12.0)
    stages = with_moments(at(Stutter, 4, 8, values=("1/16t",)))
    out = TrackRenderer(track_of(sound), grid).chain(stages).read(10**9)
    beats = beats_of("1/16t")
    start = round(float(grid.seconds_of(4.0)) * RATE)
    place = round(float(grid.seconds_of(4.0 - beats)) * RATE)
    for n in range(24):
        begins = round(float(grid.seconds_of(4.0 + n * beats)) * RATE)
        assert abs(begins - start - n * beats * 60 / 97.3 * RATE) <= 1.0
        assert np.array_equal(out[:, begins : begins + 3000], sound[:, place : place + 3000])


def test_a_buzz_of_four_milliseconds_holds_its_pitch() -> None:
    """About 250 repeats a second are a tone of about 250 Hz; slices are whole frames."""
    out = rendered(noise(12.0), with_moments(at(Stutter, 8, 10, free=True, slice_ms=4.0)))[0, 8 * BEAT : 10 * BEAT]
    spectrum = np.abs(np.fft.rfft(out * np.hanning(len(out))))
    freq = np.fft.rfftfreq(len(out), 1 / RATE)
    hz = RATE / 176
    comb = spectrum[np.abs((freq + hz / 2) % hz - hz / 2) < 3.0]
    assert np.sum(comb**2) > 0.98 * np.sum(spectrum**2)


@pytest.mark.parametrize(("rpm", "turn_seconds"), [("33", 1.8), ("45", 4.0 / 3.0), ("78", 10.0 / 13.0)])
@pytest.mark.parametrize("time", ["keep", "add"])
def test_a_stuck_record_falls_back_by_one_turn_with_a_tick_each_time(rpm: str, turn_seconds: float, time: str) -> None:
    """Each repeat is the turn before the start to the frame; ticks have their peak, one more comes where the needle is free."""
    sound = noise(12.0)
    stuck = at(StuckRecord, 8, 18, rpm=rpm, time=time, tick_db=-60.0)
    out, ticking = (rendered(sound, with_moments(moment)) for moment in (stuck, replace(stuck, tick_db=-16.0)))
    start, frames, turn = 8 * BEAT, 10 * BEAT, round(turn_seconds * RATE)
    begins = list(range(start, start + frames, turn))
    for begin in begins:
        length = min(turn, start + frames - begin) - 600
        assert np.array_equal(out[:, begin : begin + length], sound[:, start - turn : start - turn + length])
    rest = start if time == "add" else start + frames
    assert np.array_equal(out[:, start + frames :], sound[:, rest:])
    ticks = np.abs(ticking - out).max(axis=0)
    for begin in (*begins, start + frames):
        heard = ticks[begin : begin + RATE // 10]
        assert heard.max() == pytest.approx(10 ** (-16 / 20), abs=1e-4)
        assert np.argmax(heard) < 0.002 * RATE
        ticks[begin : begin + round(0.12 * RATE)] = 0.0
    assert not ticks.any()


def test_drums_stutter_while_the_rest_goes_on() -> None:
    """A tone beneath clicks stays what it was; the clicks come as often as the note value says."""
    sound = sine(330.0, 12.0, level=0.3)
    clicks = np.zeros_like(sound)
    burst = (np.random.default_rng(5).standard_normal(300) * np.exp(-np.arange(300) / 60.0)).astype(np.float32)
    for beat in range(24):
        clicks[:, beat * BEAT : beat * BEAT + 300] = burst
    out = rendered(sound + clicks, with_moments(at(Stutter, 8, 10, values=("1/4",), material="drums")))
    quarter = rendered(sound + clicks, with_moments(at(Stutter, 8.5, 10.5, values=("1/8",), material="drums")))
    edge = 600
    assert np.array_equal(out[:, 10 * BEAT :], (sound + clicks)[:, 10 * BEAT :])
    between = slice(8 * BEAT + BEAT // 2 + edge, 9 * BEAT - edge)
    assert np.max(np.abs(out[:, between] - sound[:, between])) < 0.05, "the tone goes on"
    # An eighth before the off-beat begins on a beat: its click now comes on every eighth.
    window = slice(9 * BEAT - 100, 9 * BEAT + 400)
    off = slice(9 * BEAT + BEAT // 2 - 100, 9 * BEAT + BEAT // 2 + 400)
    assert np.sum((quarter - sound)[:, off] ** 2) > 0.25 * np.sum(clicks[:, window] ** 2)


def band_db(sound: Audio, low: float, high: float) -> float:
    """Level of a band, dB."""
    power = np.abs(np.fft.rfft(sound, axis=1)) ** 2
    hz = np.fft.rfftfreq(sound.shape[1], 1.0 / RATE)
    return 10.0 * float(np.log10(np.sum(power[:, (hz >= low) & (hz < high)]) + 1e-12))


def kit(beats: int, brushed: float = 0.0) -> Audio:
    """A kick on every beat, a snare on every second, hats on eighths; or brushes, whose noise lasts."""
    rng, n = np.random.default_rng(9), np.arange(RATE // 3)
    kick = 0.6 * np.sin(2 * np.pi * (50.0 * n / RATE + 2.0 * (1.0 - np.exp(-n / 900.0)))) * np.exp(-n / 3_000.0)
    snare = (0.25 * rng.standard_normal(len(n)) + 0.2 * np.sin(2 * np.pi * 190.0 * n / RATE)) * np.exp(-n / 2_500.0)
    hat = 0.12 * np.diff(rng.standard_normal(len(n) + 1)) * np.exp(-n / (900.0 + 5_000.0 * brushed))
    out = np.zeros(beats * BEAT + len(n))
    for i in range(2 * beats):
        for hit, every, first in ((kick, 2, 0), (snare, 4, 2), (hat, 1, 0)):
            if i % every == first % every and (i - first) % every == 0:
                out[i * BEAT // 2 : i * BEAT // 2 + len(n)] += hit
    return np.tile(out[: beats * BEAT], (2, 1)).astype(np.float32)


def chords(beats: int) -> Audio:
    """Chords that change every two beats over a bass on every beat, with harmonics."""
    out = np.zeros(beats * BEAT)
    for beat in range(beats):
        n = np.arange(BEAT)
        env = np.minimum(1.0, n / 400.0) * np.minimum(1.0, (BEAT - n) / 2_000.0)
        roots = (220.0, 277.2, 329.6) if beat // 2 % 2 else (196.0, 246.9, 293.7)
        notes = [(root, h, 0.1) for root in roots for h in range(1, 9)] + [(roots[0] / 4, h, 0.25) for h in range(1, 5)]
        out[beat * BEAT : (beat + 1) * BEAT] = env * sum(
            a / h * np.sin(2 * np.pi * f * h * n / RATE) for f, h, a in notes
        )
    return np.tile(0.6 * out, (2, 1)).astype(np.float32)


@pytest.mark.parametrize("brushed", [0.0, 1.0])
def test_drums_are_taken_apart_and_the_tones_stay(brushed: float) -> None:
    """The rest keeps the tones’ 300 to 2000 Hz within 1 dB and loses 70 % of what is above 5 kHz; what is taken is the drums."""
    tones, drums = chords(16), kit(16, brushed)
    song = tones + drums
    taken = drums_of(song, RATE)
    rest = song - taken
    assert band_db(rest, 300.0, 2_000.0) == pytest.approx(band_db(tones, 300.0, 2_000.0), abs=1.0)
    assert band_db(rest, 5_000.0, 20_000.0) < band_db(song, 5_000.0, 20_000.0) + 10.0 * np.log10(0.3)
    assert np.corrcoef(taken.ravel(), drums.ravel())[0, 1] > 0.8
    assert are_drums_clear(song, taken, RATE)


def test_a_stutter_of_drums_that_are_not_there_is_said_not_to_be_heard() -> None:
    """From its first render on, however many other versions come between: until then nothing is known, and nothing said."""
    stages = with_moments(at(Stutter, 8, 10, material="drums"))
    for song, said in ((chords(24), ["m"]), (chords(24) + kit(24), [])):
        readers = TrackRenderer(track_of(song), GRID)
        for heard in ([], said):
            problems = version_problems(stages, readers.arrangement(stages), readers.context(stages))
            assert [problem.id for problem in problems] == heard
            readers.chain(stages).read(12 * BEAT)
            for beat in range(12, 24):
                readers.context(with_moments(at(Stutter, beat, beat + 1)))


@pytest.mark.parametrize("way", ["silence", "repeat", "reverse", "tape-stop", "muffle"])
def test_only_the_covered_stretch_changes(way: str) -> None:
    """Frame for frame the rest is the song; what was there is gone."""
    sound = noise(12.0)
    out = rendered(sound, with_moments(at(Cover, 8, 9, way=way)))
    assert np.array_equal(out[:, : 8 * BEAT], sound[:, : 8 * BEAT])
    assert np.array_equal(out[:, 9 * BEAT :], sound[:, 9 * BEAT :])
    inner = slice(8 * BEAT + 500, 9 * BEAT - 500)
    likeness = np.corrcoef(out[0, inner], sound[0, inner])[0, 1] if np.any(out[0, inner]) else 0.0
    assert abs(likeness) < 0.3
    if way == "silence":
        assert not np.any(out[:, inner])


def test_a_pitch_glide_is_smooth_and_keeps_time() -> None:
    """The tone is at the asked pitch at each place, and a click after it where it was."""
    out = rendered(sine(500.0, 12.0), with_moments(at(PitchGlide, 8, 16, semitones=-12.0)))[0].astype(float)
    start, frames = 8 * BEAT, 8 * BEAT
    phase = np.unwrap(np.angle(hilbert(out)))
    span = 2048
    for part in (0.2, 0.4, 0.6, 0.8):
        middle = start + round(part * frames)
        heard = (phase[middle + span] - phase[middle - span]) * RATE / (4 * np.pi * span)
        assert 1200 * np.log2(heard / (500.0 * 2.0 ** (-part))) == pytest.approx(0.0, abs=8.0)


def test_under_water_the_highs_and_the_level_go_and_come_back() -> None:
    """In the middle highs are gone, and the level is some decibels down; outside nothing is touched."""
    sound = noise(12.0)
    out = rendered(
        sound, with_moments(at(ColourDip, 8, 12, amount_percent=100.0, attack_percent=30.0, release_percent=30.0))
    )
    assert np.array_equal(out[:, : 8 * BEAT], sound[:, : 8 * BEAT])
    assert np.array_equal(out[:, 12 * BEAT :], sound[:, 12 * BEAT :])
    middle = slice(10 * BEAT - 4096, 10 * BEAT + 4096)
    before, after = (np.abs(np.fft.rfft(s[0, middle] * np.hanning(8192))) ** 2 for s in (sound, out))
    freq = np.fft.rfftfreq(8192, 1 / RATE)
    assert 10 * np.log10(after[freq > 1500].mean() / before[freq > 1500].mean()) < -40.0
    assert 10 * np.log10(after[freq < 200].mean() / before[freq < 200].mean()) == pytest.approx(-5.0, abs=1.5)
    quarter = slice(8 * BEAT + 5000, 8 * BEAT + 9000)
    assert np.var(out[0, middle]) < np.var(out[0, quarter]) < np.var(sound[0, quarter])


def test_a_dive_has_its_water_and_splashes_at_both_ends() -> None:
    """In silence they are all there is: water beneath the song's level as its depth, and a plunge in and out."""
    sound = np.concatenate((noise(4.0, level=0.1), np.zeros((2, 8 * RATE), np.float32)), axis=1)
    level = TrackRenderer(track_of(sound), GRID).profile.level
    dive = at(ColourDip, 12, 18, amount_percent=100.0, attack_percent=50.0, release_percent=0.0, bed=True, bed_db=-10.0)
    wet = rendered(sound, with_moments(dive))
    start, stop = 12 * BEAT, 18 * BEAT
    assert np.array_equal(wet[:, :start], sound[:, :start])
    assert not wet[:, stop:].any()
    deep = 20.0 * np.log10(np.sqrt(np.mean(wet[:, stop - BEAT : stop] ** 2)) / level)
    assert deep == pytest.approx(-10.0, abs=4.0), "water swells"
    quarter = slice(start + 3 * BEAT // 2 - 6000, start + 3 * BEAT // 2 + 6000)
    assert level_db(wet[:, quarter]) < level_db(wet[:, stop - BEAT : stop]) - 1.0
    splashing = replace(dive, bed=False, splash=True, splash_db=0.0)
    plunges = rendered(sound, with_moments(splashing))
    for begin in (start, stop):
        assert np.abs(plunges[:, begin : begin + BEAT // 2]).max() > 0.3 * level
        assert not plunges[:, begin - 2000 : begin - 10].any() or begin == stop
    assert plunges.shape == wet.shape


def test_the_versions_hall_can_be_opened_over_a_stretch() -> None:
    """Outside it the hall is as the Effects stage says, bit for bit the untouched song where that is off."""
    sound = noise(12.0)
    dip = at(ColourDip, 8, 12, colour="version-hall", amount_percent=90.0)
    off = rendered(sound, with_moments(dip, colour=Colour(effects=(Hall(on=False, decay_seconds=0.3),))))
    assert np.array_equal(off[:, : 8 * BEAT], sound[:, : 8 * BEAT])
    assert not np.allclose(off[:, 10 * BEAT : 11 * BEAT], sound[:, 10 * BEAT : 11 * BEAT], atol=0.05)
    some = Colour(effects=(Hall(on=True, amount_percent=30.0, decay_seconds=0.3),))
    on, plain = rendered(sound, with_moments(dip, colour=some)), rendered(sound, Stages(colour=some))
    assert np.max(np.abs(on[:, : 8 * BEAT] - plain[:, : 8 * BEAT])) < 1e-5


def test_a_throw_echoes_while_the_song_goes_on() -> None:
    """A burst thrown into an echo comes again after its note value, weaker each time."""
    sound = np.zeros((2, 12 * RATE), np.float32)
    sound[:, 8 * BEAT + 4000 : 8 * BEAT + 6000] = sine(1000.0, 1.0)[:, :2000] * np.hanning(2000).astype(np.float32)
    out = rendered(sound, with_moments(at(Throw, 8, 9, value="1/8d", feedback_percent=50.0, wet_db=0.0)))
    delay = round(0.75 * BEAT)
    levels = [np.sqrt(np.mean(out[0, 8 * BEAT + 4000 + n * delay :][:2000] ** 2)) for n in range(4)]
    assert levels[1] / levels[0] == pytest.approx(1.0, abs=0.05)
    assert levels[2] / levels[1] == pytest.approx(0.5, abs=0.03)
    assert levels[3] / levels[2] == pytest.approx(0.5, abs=0.03)
    assert np.array_equal(out[:, : 8 * BEAT + 6000], sound[:, : 8 * BEAT + 6000])


def test_a_dropped_in_sound_is_at_its_place(tmp_path) -> None:  # type: ignore[no-untyped-def]
    """At another sample rate, too, with its gain; a missing file is said and the rest is heard."""
    import soundfile

    from latespin.render.effects.sound_files import missing_sounds

    tone = sine(700.0, 1.0, rate=48_000, level=0.5)
    soundfile.write(tmp_path / "horn.wav", tone.T, 48_000)
    sound = np.zeros((2, 12 * RATE), np.float32)
    moment = at(DropIn, 8, 12, path=str(tmp_path / "horn.wav"), gain_db=-6.02)
    out = rendered(sound, with_moments(moment))
    heard = np.flatnonzero(np.abs(out[0]) > 1e-3)
    assert heard[0] - 8 * BEAT < 200
    assert heard[-1] - 8 * BEAT == pytest.approx(RATE, abs=400)
    middle = out[0, 8 * BEAT + 10_000 : 8 * BEAT + 30_000]
    assert np.max(np.abs(middle)) == pytest.approx(0.25, rel=0.01)
    gone = with_moments(at(DropIn, 8, 12, path=str(tmp_path / "gone.wav")), at(Reverse, 2, 3, "r"))
    assert "gone.wav is not there" in missing_sounds(gone)[0].says
    assert np.array_equal(
        rendered(noise(12.0), gone), rendered(noise(12.0), with_moments(at(Reverse, 2, 3, "r"))).repeat(1, 0)
    )


def test_a_dropped_in_sound_rings_on_in_an_echo_or_a_hall_of_its_own(tmp_path) -> None:  # type: ignore[no-untyped-def]
    """What it is itself stays; the echo repeats it after its note value, the hall decays beyond its end and the song's."""
    import soundfile

    knock = sine(1000.0, 0.1)[:, :2000] * np.hanning(2000).astype(np.float32)
    soundfile.write(tmp_path / "knock.wav", knock.T, RATE, subtype="FLOAT")
    silence, place = np.zeros((2, 12 * RATE), np.float32), 16 * BEAT
    drop = at(DropIn, 16, 17, path=str(tmp_path / "knock.wav"), gain_db=0.0, fade_in_ms=2.0, fade_out_ms=2.0)
    plain, echo, hall = (
        rendered(silence, with_moments(replace(drop, **more)))
        for more in (
            {},
            {"send": "echo", "value": "1/8d", "feedback_percent": 50.0, "wet_db": 0.0},
            {"send": "hall", "wet_db": -6.0},
        )
    )
    assert not plain[:, place + 2000 :].any()
    assert np.array_equal(echo[:, : place + 2000], plain[:, : place + 2000])
    delay = round(0.75 * BEAT)
    levels = [level_db(echo[:, place + n * delay : place + n * delay + 2000]) for n in range(4)]
    assert levels[1] - levels[0] == pytest.approx(0.0, abs=0.6)
    assert np.diff(levels[1:]) == pytest.approx(-6.02, abs=0.5)
    seconds = [level_db(hall[:, place + n * RATE : place + (n + 1) * RATE]) for n in (1, 2, 3)]
    assert np.diff(seconds) == pytest.approx(-60.0 / 2.5, abs=5.0)
    late = replace(drop, start=Position(beat=23.0), end=Position(beat=24.0), send="hall")
    assert rendered(silence, with_moments(late)).shape[1] > silence.shape[1] + RATE, "it rings on beyond the song"


def test_what_cannot_be_placed_is_named_and_left_out() -> None:
    """Each in words; all else is rendered as if it were not there."""
    frames = 12 * RATE
    cases = {
        "beyond": (at(Reverse, 40, 44), "beyond the song’s end"), "empty": (at(Reverse, 4, 4), "has no length"),
        "first": (at(Stutter, 0, 1), "nothing before it"), "turn": (at(StuckRecord, 0, 9), "nothing before it"),
    }  # fmt: skip
    for moment, words in cases.values():
        made = arrange(with_moments(moment), layout(frames))
        assert words in made.problems[0].says
        assert made.map.spans == arrange(Stages(), layout(frames)).map.spans
    two = arrange(
        with_moments(at(TapeStop, 4, 8, "a"), at(Reverse, 7, 9, "b"), at(ColourDip, 6, 9, "c")), layout(frames)
    )
    assert [p.id for p in two.problems] == ["b"]
    assert "Tape stop, bar 2" in two.problems[0].says
    blind = arrange(with_moments(at(Reverse, 4, 5)), Layout(frames, RATE))
    assert "no bars" in blind.problems[0].says
    cut = arrange(with_moments(at(Reverse, 22, 30)), layout(frames))
    assert not cut.problems[0].left_out


_PLACES = st.lists(st.integers(0, 190), min_size=2, max_size=8, unique=True).map(sorted)


@example(
    [0, 5, 6, 7], [Ramp, TapeStop, Ramp, Ramp], [True, False] * 2, 0.5, "off", 0.0
)  # one has read on into the next
@given(
    places=_PLACES,
    kinds=st.lists(st.sampled_from([*KINDS, StuckRecord]), min_size=4, max_size=4),
    adds=st.lists(st.booleans(), min_size=4, max_size=4),
    speed=st.sampled_from([0.5, 0.85, 1.0, 1.3]),
    halftime=st.sampled_from(["off", "bar"]),
    tension=st.floats(-1.0, 1.0),
)
def test_the_map_is_whole(places, kinds, adds, speed, halftime, tension) -> None:  # type: ignore[no-untyped-def]
    """Spans follow each other without a gap; the clock only goes forwards; both ways agree where time is not bent."""
    moments = []
    for i, (start, end) in enumerate(zip(places[::2], places[1::2], strict=False)):
        values: dict[str, object] = {} if kinds[i] in (PitchGlide, Cover) else {"time": "add" if adds[i] else "keep"}
        if kinds[i] not in (Stutter, StuckRecord, Reverse, Cover):
            values["tension"] = tension
        moments.append(at(kinds[i], start / 2.0, end / 2.0, str(i), **values))
    frames = 48 * RATE
    stages = with_moments(*moments, time=Time(speed=speed, halftime=halftime))
    made = arrange(stages, layout(frames))
    spans = made.map.spans
    assert spans[0].after_start == 0
    assert all(a.after_stop == b.after_start and b.after_stop > b.after_start for a, b in itertools.pairwise(spans))
    before = np.linspace(0.0, frames, 500)
    after = made.map.after_of_all(before)
    assert np.all(np.diff(after) >= -1e-6)
    assert after[-1] == pytest.approx(made.map.after_frames, abs=1.0)
    keeps = [m for m in moments if getattr(m, "time", "keep") == "keep"]
    if len(keeps) == len(moments):
        assert made.map.after_frames == made.music.after_frames
        assert np.allclose(after, made.music.after_of_all(before))
    assert np.allclose(
        [made.map.after_at(made.map.clock_at(a)) for a in _clock_places(made)], _clock_places(made), atol=2e-3
    )
    straight = [s for s in spans if s.bend is None or s.bend.constant_speed == 1.0]
    for span in straight:
        inside = np.linspace(span.after_start, span.after_stop, 7)
        assert np.allclose(span.after_of(span.before_of(inside)), inside, atol=1e-4)


def _clock_places(made) -> list[float]:  # type: ignore[no-untyped-def]
    """Frames of After at which the song's clock goes on."""
    found = []
    for leg, following in itertools.pairwise((*made.map.clock, None)) if made.map.clock else ():
        end = following.after if following else made.map.after_frames
        stop = following.music if following else made.music.after_frames
        if leg.bend is None and min(end - leg.after, stop - leg.music) > 10:
            found += np.linspace(leg.after + 2, leg.after + min(end - leg.after, stop - leg.music) - 2, 5).tolist()
    return found


@given(
    kind=st.sampled_from([TapeStop, SpinUp, Dip]),
    start=st.integers(0, 30),
    length=st.integers(1, 12),
    tension=st.floats(-1.0, 1.0),
)
def test_keeping_time_reads_no_frame_twice(kind, start, length, tension) -> None:  # type: ignore[no-untyped-def]
    """Stops, dips and spin-ups that keep time only leave out."""
    stages = with_moments(at(kind, start, start + length, time="keep", tension=tension))
    spans = arrange(stages, layout(30 * RATE)).map.spans
    last = -1.0
    for span in spans:
        if not span.silent:
            first, end = span.before_of(np.array([span.after_start, span.after_stop], float))
            assert first >= last - 1e-6
            last = float(end)


@given(tension=st.floats(-1.0, 1.0), depth=st.floats(0.01, 1.0), share=st.floats(0.05, 0.9), place=st.floats(0.0, 1e6))
def test_a_bend_can_be_had_both_ways(tension: float, depth: float, share: float, place: float) -> None:
    """Speeds fall and stay at 0 or above, and the inverse of the inverse is where one began."""
    speeds = slowing(knots(), tension, depth, share)
    assert speeds[0] == 1.0
    assert np.all(np.diff(speeds) <= 1e-12)
    assert speeds.min() >= -1e-12
    bend = SpeedByTime.through(np.maximum(speeds, 0.0), 50_000.0, place, whole=True)
    times = np.linspace(0.0, 49_000.0, 40)
    places = bend.before_at(times)
    assert float(bend.before_at(50_000.0)) - place == pytest.approx(
        round(float(bend.before_at(50_000.0)) - place), abs=1e-6
    )
    assert np.allclose(bend.before_at(bend.after_at(places)), places, atol=1e-6)
    later = bend.since(12_345.6)
    assert np.allclose(later.before_at(times[:20]), bend.before_at(times[:20] + 12_345.6), atol=1e-6)


@given(
    depth=st.floats(1.0, 95.0), lowest=st.floats(5.0, 95.0), hold=st.floats(0.0, 90.0), tension=st.floats(-1.0, 1.0),
    back=st.floats(-1.0, 1.0),
)  # fmt: skip
def test_a_dip_is_lowest_where_and_for_as_long_as_asked(
    depth: float, lowest: float, hold: float, tension: float, back: float
) -> None:
    """Down along one curve, back along the other, at the version's own speed at both ends; and mirrored as its mirror."""
    dip = at(
        Dip, 0, 4, depth_percent=depth, lowest_percent=lowest, hold_percent=hold, tension=tension, tension_back=back
    )
    down = lowest / 100.0 * (1.0 - hold / 100.0)
    flat = down + np.array([1e-9, 0.5, 1.0 - 1e-9]) * hold / 100.0
    least, steep = 1.0 - depth / 100.0, 1e-9 * 8.0 / min(down, 1.0 - down - hold / 100.0)
    speeds = speeds_of(dip, np.concatenate((flat, [0.0, 1.0, 0.5 * down])))
    assert speeds is not None
    assert speeds[:3] == pytest.approx(least, abs=1e-6 + steep)
    assert speeds[3:5] == pytest.approx(1.0, abs=1e-9)
    assert speeds[5] == pytest.approx(1.0 - depth / 100.0 * (1.0 - float(ease_down(0.5, tension))), abs=1e-9)
    mirror = at(
        Dip,
        0,
        4,
        depth_percent=depth,
        lowest_percent=100.0 - lowest,
        hold_percent=hold,
        tension=back,
        tension_back=tension,
    )
    x = np.linspace(0.013, 0.987, 101)
    assert speeds_of(mirror, 1.0 - x) == pytest.approx(speeds_of(dip, x), abs=1e-6)


def test_the_curves_are_one_family() -> None:
    """Straight in the middle; mirrored ends; a second stage is steeper."""
    x = np.linspace(0.0, 1.0, 101)
    assert np.allclose(ease_down(x, 0.0), 1.0 - x)
    assert np.all(ease_down(x[1:-1], 1.0) > ease_down(x[1:-1], 0.3))
    assert np.allclose(ease_down(x, -0.5), 1.0 - ease_down(1.0 - x, 0.5))
    two = slowing(x, 0.0, 1.0, 1.0 / 3.0)
    assert np.diff(two)[40] > np.diff(two)[80]
    assert two[-1] == pytest.approx(0.0, abs=1e-12)


def test_note_values() -> None:
    """Dotted ones are half as long again, three triplets as long as two."""
    assert beats_of("1/4") == 1.0
    assert beats_of("1/8d") == 0.75
    assert 3 * beats_of("1/8t") == pytest.approx(1.0)
    assert len(NOTE_VALUES) == 18


def test_every_kind_is_heard_in_the_demo(lantern) -> None:  # type: ignore[no-untyped-def]
    """The demo's closing version: all kinds, nothing left out, each heard at its place, and the song as it was between them."""
    session = read_session(demo_session().read_bytes(), "demo").with_sounds(lambda path: str(demo_folder() / path))
    version = session.version("closing")
    assert version is not None
    stages = version.stages
    assert {type(moment) for moment in stages.moments.placed} == {*KINDS, ColourDip, Throw, DropIn}
    readers = TrackRenderer(lantern, session.grid)
    made = readers.arrangement(stages)
    assert made.problems == ()
    out, plain = (
        readers.chain(stages).read(10**9),
        TrackRenderer(lantern, session.grid).chain(Stages(time=stages.time)).read(10**9),
    )
    changed = np.zeros(made.map.after_frames, bool)
    for spot in sorted(made.spots, key=lambda spot: spot.start):
        moment = stages.moments.find(spot.id)
        there = out[:, spot.start : spot.stop]
        was = plain[:, spot.music : spot.music + there.shape[1]]
        away = np.sqrt(np.mean((there - was) ** 2) / np.mean(was**2))
        assert away > 0.05, f"{moment} is not heard"
        tail = 5 * RATE if isinstance(moment, Throw | DropIn) else 600
        changed[max(0, spot.start - 600) : spot.stop + tail] = True
    early = ~changed[: 42 * RATE]
    assert early.mean() > 0.5
    assert np.max(np.abs((out - plain[:, : out.shape[1]])[:, : 42 * RATE][:, early])) < 1e-6


@pytest.mark.parametrize(("seconds", "turns"), [(5.4, 3), (3.6, 2), (1.7, 1)])
def test_the_shape_of_a_stuck_record_has_a_tooth_for_each_turn(seconds: float, turns: int) -> None:
    heights = outline(at(StuckRecord, 8, 12), 4.0, seconds)
    assert np.count_nonzero(np.diff(heights, append=1.0) > 0.1) == turns
    assert 0.2 < heights.min() < heights.max() <= 1.0
