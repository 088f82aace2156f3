"""Endings: where they end, how their tails decay, and that no tail starts louder than the song it leaves."""

import itertools

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.signal import hilbert

from latespin.dsp.arrays import Audio, decibels
from latespin.dsp.timing.speed_by_time import ease_down
from latespin.media.track import Track
from latespin.model.arranging.arrangement import arrange
from latespin.model.arranging.placement import ENDING
from latespin.model.arranging.time_map_builder import LONG_EDGE_SECONDS
from latespin.model.effects.effects import Hall
from latespin.model.moments.endings import AnyEnding, CleanStop, EchoEnd, Ending, Fade, RingOut, TapeStopEnd
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Length, Position, end_suggestions
from latespin.model.values.note_values import beats_of
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.timeline.echo_ending import HEARD_DB, repeat_times
from tests.conftest import level_db, noise, sine, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)
BEAT = RATE // 2


def rendered(sound: Audio, way: AnyEnding, grid: Grid | None = GRID, **stages: object) -> Audio:
    """The whole version before Level."""
    return TrackRenderer(track_of(sound), grid).chain(Stages(ending=Ending(way=way), **stages)).read(10**9)  # type: ignore[arg-type]


def loudest(sound: Audio, seconds: float) -> float:
    """The highest level of a window, dB."""
    n = round(seconds * RATE)
    energy = np.concatenate(([0.0], np.cumsum(np.mean(sound.astype(float) ** 2, axis=0))))
    return float(10 * np.log10(np.max(energy[n:] - energy[:-n]) / n + 1e-20))


@pytest.mark.parametrize("decay", [1.5, 4.5, 8.0])
@pytest.mark.parametrize("speed", [1.0, 0.8])
def test_a_ring_out_decays_as_asked(decay: float, speed: float) -> None:
    """T30 within 10 %, the tail whole, and never louder than the song."""
    sound = noise(20.0)
    out = rendered(sound, RingOut(at=Position(beat=32.0), decay_seconds=decay), time=Time(speed=speed))
    end = round(32 * BEAT / speed)
    tail = out[:, end:].astype(float)
    energy = np.cumsum(np.sum(tail[:, ::-1] ** 2, axis=0))[::-1]
    level = 10 * np.log10(energy / energy[0] + 1e-30)
    first, last = np.flatnonzero(level <= -5)[0], np.flatnonzero(level <= -35)[0]
    assert 2.0 * (last - first) / RATE == pytest.approx(decay, rel=0.1)
    assert loudest(tail, 0.05) <= loudest(out[:, :end], 0.4)
    assert loudest(tail[:, : RATE // 2], 0.05) > loudest(out[:, :end], 0.4) - 6.0
    assert np.max(np.abs(out[:, -1])) < 10 ** (-70 / 20)
    assert out.shape[1] > end + decay * RATE


def test_a_ring_out_of_a_whole_song_leaves_it_no_louder(lantern: Track) -> None:
    """Of a complete song, at the place found by itself."""
    layout = Layout(lantern.frames, RATE, Grid(bpm=92.0, first_beat_seconds=0.25))
    readers = TrackRenderer(lantern, layout=layout)
    stages = Stages(time=Time(speed=0.85), ending=Ending(way=RingOut()))
    close, out = readers.arrangement(stages).close, readers.chain(stages).read(10**9)
    assert close.at / layout.frames * 0.85 > 7 / 8 - 0.01
    assert loudest(out[:, close.at :], 0.05) <= loudest(out[:, : close.at], 0.4)
    assert np.max(np.abs(out[:, -1])) < 10 ** (-70 / 20)
    jump = np.max(np.abs(np.diff(out[:, close.at - 800 : close.at + 800])))
    assert jump < 1.2 * np.max(np.abs(np.diff(out[:, close.at - 40_000 : close.at - 800]))) + 1e-5, "or below −100 dBFS"


def test_the_room_of_a_ring_out_opens_as_the_song_stops_or_is_blended_in_before() -> None:
    """At no blend the song is itself up to the edge of the stop; at full blend the room is heard while it is fed."""
    sound, end = noise(20.0), 32 * BEAT
    plain, half, full = (
        rendered(sound, RingOut(at=Position(beat=32.0), feed=Length(beats=4.0), wet_db=-6.0, blend_percent=blend))
        for blend in (0.0, 50.0, 100.0)
    )
    edge = round(LONG_EDGE_SECONDS * RATE)
    assert np.array_equal(plain[:, : end - edge], sound[:, : end - edge])
    assert np.array_equal(plain[:, end:], full[:, end:]), "the same tail"
    room = slice(end - BEAT, end - edge)
    added, half_added = (version[:, room] - sound[:, room] for version in (full, half))
    assert half_added == pytest.approx(0.5 * added, abs=1e-6)
    assert level_db(added) > level_db(sound[:, room]) - 15.0
    assert np.array_equal(full[:, : end - 4 * BEAT], sound[:, : end - 4 * BEAT])


@pytest.mark.parametrize("way", [RingOut(decay_seconds=2.0), CleanStop()])
def test_a_one_shot_rings_out_beyond_its_own_end(way: RingOut | CleanStop) -> None:
    """An ending can be at the very end of the file, not beyond; the sound itself stays as it is."""
    hit = noise(1.0) * np.exp(-np.arange(RATE) / 9000.0).astype(np.float32)
    out = rendered(hit, replace(way, at=Position(seconds=1.0)), None)
    assert out[:, : RATE - 900] == pytest.approx(hit[:, : RATE - 900], abs=1e-7)
    if isinstance(way, RingOut):
        assert out.shape[1] > 2 * RATE
        assert level_db(out[:, RATE : RATE + 4000]) > level_db(out[:, 2 * RATE : 2 * RATE + 4000]) + 10.0
    arranged = arrange(Stages(ending=Ending(way=replace(way, at=Position(seconds=1.01)))), Layout(RATE, RATE))
    assert "beyond the song’s end" in arranged.problems[0].says


@pytest.mark.parametrize("tension", [0.0, 0.5])
@pytest.mark.parametrize("seconds", [2.0, 5.5])
def test_a_ring_out_fades_over_its_length_to_the_frame(seconds: float, tension: float) -> None:
    """Against the same room by its decay: the fade’s curve, and silence at the length asked for."""
    sound, end = noise(20.0), 32 * BEAT
    way = RingOut(at=Position(beat=32.0), decay_seconds=6.0)
    whole = rendered(sound, way)
    cut = rendered(sound, replace(way, tail="length", tail_seconds=seconds, tension=tension))
    assert cut.shape[1] == end + round(seconds * RATE)
    for share in (0.25, 0.5, 0.75):
        at = slice(end + round(share * seconds * RATE) - 50, end + round(share * seconds * RATE) + 50)
        heard = np.sqrt(np.sum(cut[:, at] ** 2) / np.sum(whole[:, at] ** 2))
        assert heard == pytest.approx(float(ease_down(np.array([share]), tension)[0]), abs=0.01)
    assert np.abs(cut[:, -3:]).max() < 1e-4


def test_a_tape_stop_ending_stops_once_and_is_silent_at_last() -> None:
    """So many beats, nothing after them; the song before it untouched."""
    sound = noise(20.0)
    out = rendered(sound, TapeStopEnd(at=Position(beat=30.0), length=Length(beats=4.0)))
    assert out.shape[1] == 34 * BEAT
    assert np.array_equal(out[:, : 30 * BEAT], sound[:, : 30 * BEAT])
    assert not np.any(out[:, -round(0.005 * RATE) :])
    levels = [np.sqrt(np.mean(out[0, 30 * BEAT + i * BEAT :][:BEAT] ** 2)) for i in range(4)]
    assert levels[0] > 0.5 * levels[3] > 0.0
    with_room = rendered(
        sound, TapeStopEnd(at=Position(beat=30.0)), colour=Colour(effects=(Hall(on=True, decay_seconds=1.0),))
    )
    assert with_room.shape[1] > 34 * BEAT + RATE // 2, "a room rings on"


def test_an_echo_winds_down_to_a_standstill() -> None:
    """Repeats come ever later, ever lower and ever quieter; then nothing."""
    sound = np.zeros((2, 20 * RATE), np.float32)
    tone = sine(880.0, 0.1)[:, :4000] * np.hanning(4000).astype(np.float32)
    sound[:, 31 * BEAT + 2000 : 31 * BEAT + 6000] = tone
    out = rendered(
        sound, EchoEnd(at=Position(beat=32.0), length=Length(beats=8.0), value="1/4", tension=0.0, fade_db=-40.0)
    )
    assert out.shape[1] == 40 * BEAT
    tail = out[0, 32 * BEAT :].astype(float)
    envelope = np.convolve(np.abs(tail), np.hanning(1500) / 750, "same")
    peaks = [
        i for i in range(1, len(tail) - 1) if envelope[i - 1] < envelope[i] >= envelope[i + 1] and envelope[i] > 3e-3
    ]
    gaps = np.diff(peaks)
    assert len(peaks) >= 3
    assert np.all(np.diff(gaps) > 0)
    heights = envelope[peaks]
    assert np.all(np.diff(heights) < 0)
    first, later = tail[peaks[0] - 1500 : peaks[0] + 1500], tail[peaks[2] - 3000 : peaks[2] + 3000]
    pitches = [np.argmax(np.abs(np.fft.rfft(p * np.hanning(len(p)), 1 << 16))) for p in (first, later)]
    assert pitches[1] < 0.85 * pitches[0]
    assert not np.any(tail[-20:])


STEADY = EchoEnd(at=Position(beat=32.0), length=Length(beats=16.0), value="1/4", tension=1.0, fade_db=-6.0)


def first_repeats(way: EchoEnd, count: int = 3) -> list[Audio]:
    """The first repeats of a beat of noise, while the motor still runs at its speed (the curve holds on)."""
    out = rendered(noise(20.0), way)
    return [out[:, (32 + n) * BEAT + 600 : (33 + n) * BEAT - 600] for n in range(count)]


def test_each_repeat_of_an_echo_ending_is_quieter_and_duller_than_the_one_before() -> None:
    """By the feedback, and by one more pole at the high cut, each against the same without them."""
    plain, fed, dull = (
        first_repeats(replace(STEADY, feedback_percent=feedback, high_cut_hz=cut))
        for feedback, cut in ((100.0, 20_000.0), (50.0, 20_000.0), (100.0, 2_000.0))
    )
    for number in range(3):
        assert level_db(fed[number]) - level_db(plain[number]) == pytest.approx(-6.02 * number, abs=0.05)
        bins = [np.abs(np.fft.rfft(each[number][0])) ** 2 for each in (plain, dull)]
        hz = np.fft.rfftfreq(plain[number].shape[1], 1.0 / RATE)
        for middle in (500.0, 2_000.0, 6_000.0):
            band = (hz > middle / 1.1) & (hz < middle * 1.1)
            pole = np.tan(np.pi * middle / RATE) / np.tan(np.pi * 2_000.0 / RATE)
            taken = 10.0 * np.log10(bins[1][band].sum() / bins[0][band].sum())
            assert taken == pytest.approx(-10.0 * number * np.log10(1.0 + pole**2), abs=0.4 + 0.2 * number)


def test_wow_swings_the_pitch_of_an_echo_ending_by_its_share() -> None:
    """Of a steady tone, in the first two seconds: ±3 % at 0.6 Hz, where without it there is next to none."""
    spread = []
    for wow in (0.0, 3.0):
        way = replace(STEADY, value="1/1", wow_percent=wow, length=Length(beats=32.0))
        heard = rendered(sine(1000.0, 20.0), way)[0, 32 * BEAT + 900 : 36 * BEAT - 900].astype(float)
        phase = np.unwrap(np.angle(hilbert(heard)))[2000:-2000]
        pitch = (phase[4000:] - phase[:-4000]) * RATE / (2.0 * np.pi * 4000)
        spread.append(float(np.ptp(pitch)) / 1000.0)
    assert spread[0] < 0.01
    assert spread[1] == pytest.approx(0.06, abs=0.012)


@pytest.mark.parametrize(
    ("feedback", "length", "value"), [(100.0, 8.0, "1/4"), (40.0, 16.0, "1/4"), (100.0, 4.0, "1/8")]
)
def test_as_many_repeats_are_said_as_are_heard(feedback: float, length: float, value: str) -> None:
    """Of a knock at the beginning of the slice: one envelope peak for each repeat said, at its time."""
    way = EchoEnd(
        at=Position(beat=32.0),
        length=Length(beats=length),
        value=value,
        feedback_percent=feedback,
        tension=0.0,
        fade_db=-6.0,
    )
    slice_ = round(beats_of(value) * BEAT)
    sound = np.zeros((2, 20 * RATE), np.float32)
    knock = 32 * BEAT - slice_ + 300
    sound[:, knock : knock + 400] = sine(2000.0, 0.1)[:, :400] * np.hanning(400).astype(np.float32)
    readers = TrackRenderer(track_of(sound), GRID)
    stages = Stages(ending=Ending(way=way))
    times = repeat_times(readers.arrangement(stages).close)
    tail = np.abs(readers.chain(stages).read(10**9)[0, 32 * BEAT :])
    assert times[0] == 0.0
    borders = [*times, float(len(tail))]
    for start, stop in itertools.pairwise(borders):
        assert tail[round(start) : round(stop)].max() > 1e-4, (start, stop)
    if feedback < 100.0:
        each = -decibels(feedback / 100.0)
        assert 1 + int((-HEARD_DB - 6.0) / each) <= len(times) <= 1 + int(-HEARD_DB / each), "the fade takes up to 6 dB"


@pytest.mark.parametrize("tension", [-0.5, 0.0, 0.5])
def test_a_fade_reaches_nothing_at_its_end(tension: float) -> None:
    """Even over a room; the level halfway is the curve's."""
    sound = sine(500.0, 20.0)
    out = rendered(sound, Fade(at=Position(seconds=10.0), length=Length(seconds=4.0), tension=tension))
    assert out.shape[1] == 14 * RATE
    half = np.max(np.abs(out[0, 12 * RATE - 400 : 12 * RATE + 400]))
    power = 8.0 ** abs(tension)
    assert half / 0.5 == pytest.approx(1 - 0.5**power if tension >= 0 else 0.5**power, abs=0.02)
    assert np.max(np.abs(out[:, -10:])) < 1e-3
    room = rendered(
        sound, Fade(at=Position(seconds=10.0), length=Length(seconds=4.0)), colour=Colour(effects=(Hall(on=True),))
    )
    assert room.shape[1] == 14 * RATE


def test_a_clean_stop_does_not_click() -> None:
    """It is there and then it is not, within a hundredth of a second."""
    out = rendered(sine(1000.0, 20.0), CleanStop(at=Position(beat=20.0)))
    assert out.shape[1] == 20 * BEAT
    assert np.max(np.abs(np.diff(out))) < 1.5 * 2 * 0.5 * np.sin(np.pi * 1000 / RATE)
    assert np.max(np.abs(out[:, -3:])) < 0.01


def test_places_to_end_at() -> None:
    """The strongest bar line of the last eighth; without bars in seconds, which is said."""
    times = np.arange(240) * 0.5
    strong = np.where(np.arange(240) % 4 == 0, 0.6, 0.2)
    strong[228] = 1.0
    layout = Layout(120 * RATE, RATE, GRID, tuple(zip(times.tolist(), strong.tolist(), strict=True)))
    assert end_suggestions(layout)[0] == Position(beat=228.0)
    stages = Stages(ending=Ending(way=CleanStop()))
    assert arrange(stages, layout).close.at == 228 * BEAT
    blind = arrange(stages, Layout(120 * RATE, RATE))
    assert "placed in seconds" in blind.problems[0].says
    assert not blind.problems[0].left_out


@pytest.mark.parametrize(
    ("way", "words"),
    [
        (CleanStop(at=Position(beat=-2.0)), "before the first beat"),
        (CleanStop(at=Position(seconds=500.0)), "beyond the song’s end"),
        (Fade(at=Position(seconds=19.0)), "shortened"),
    ],
)
def test_an_impossible_ending_is_named(way: AnyEnding, words: str) -> None:
    """And the version is still rendered."""
    stages = Stages(ending=Ending(way=way))
    made = arrange(stages, Layout(20 * RATE, RATE, Grid(bpm=120.0, first_beat_seconds=2.0)))
    assert made.problems[0].id == ENDING
    assert words in made.problems[0].says
    assert made.map.after_frames > 15 * RATE
