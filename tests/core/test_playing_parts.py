"""The parts that playing along is made of, each by itself: slices, clocks, lanes that grow, marks, medians and drums."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import median_filter

from latespin.dsp.filters.percussive import drums_of
from latespin.dsp.filters.running_median import running_median
from latespin.model.arranging.held_clock import clock_moves, riding, stopping, with_clock
from latespin.model.arranging.held_slices import slice_frames, slice_start, slices_back
from latespin.model.documents.take_edits import thinned
from latespin.model.effects.effects import Echo, Eq, Gain
from latespin.model.effects.parameters import CUT_HIGH
from latespin.model.moments.held import HeldRepeat, HeldSilence, HeldStop, HeldTempo, TempoPoint
from latespin.model.playing.surface_map import nowhere, practice_map
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.live_lane import LiveWay
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.playback_stream import RingMark
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playback.ring_marks import RingMarks
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.legs import AlongClock, Leg, Repeating, Reversed, Rising, Slowing
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.live_tempo import LiveTempo
from latespin.render.playing.time_hand import TimeHand
from tests.conftest import noise, sine, track_of

RATE = 44_100
GRID = Grid(bpm=120.0, first_beat_seconds=0.25)
BEAT = RATE // 2
CLOCK = BeatClock(compile_time_map(Time(), 20 * RATE, RATE, GRID), GRID, RATE)


def repeat(**values: object) -> HeldRepeat:
    """A repeat without a place."""
    return nowhere(HeldRepeat, **values)  # type: ignore[no-any-return]


# -- slices ------------------------------------------------------------------------------------------------------------


@given(st.integers(2 * RATE, 10 * RATE), st.sampled_from(["1/4", "1/8", "1/8t", "1/16", "1/16d"]))
def test_a_slice_is_the_last_whole_cell_of_its_grid_or_the_one_that_sounds(frame: int, value: str) -> None:
    """Up to thirty milliseconds early counts as on the line; the slice's start lies on the grid within a frame or two."""
    move = repeat(value=value)
    length = slice_frames(move, frame, CLOCK)
    for coming in (False, True):
        back = slices_back(move, frame, CLOCK, coming=coming)
        start = slice_start(nowhere(HeldRepeat, value=value, back=back), frame, CLOCK)
        cells = (start / RATE - 0.25) * RATE / length
        early = min(0.25 * length, 0.03 * RATE)
        if back > 0.0:
            assert abs(cells - round(cells)) * length < 40.0
        sounded = frame - start
        assert -1 <= sounded <= (1.0 if coming else 2.0) * length + 2
        assert coming or sounded >= length - early - 2


def test_slices_in_milliseconds_are_exact_and_none_is_longer_than_four_seconds() -> None:
    move = repeat(free=True, slice_ms=60.0)
    assert slice_frames(move, 5 * RATE, CLOCK) == 2646
    assert slices_back(move, 5 * RATE, CLOCK, coming=False) == 1.0
    assert slices_back(move, 5 * RATE, CLOCK, coming=True) == 0.0
    slow = BeatClock(compile_time_map(Time(speed=0.25), 20 * RATE, RATE, GRID), GRID, RATE)
    assert slice_frames(repeat(value="1/1"), 20 * RATE, slow) == 4 * RATE


# -- legs --------------------------------------------------------------------------------------------------------------


@given(st.integers(0, 5000), st.integers(1, 3000))
def test_each_course_goes_on_where_it_was_whenever_it_is_asked(frame: int, later: int) -> None:
    """A leg asked for later is a part of the one asked for before, up to its end."""
    for course in (
        Repeating(100, 480),
        Reversed(0, 4000),
        Slowing(0, 2000),
        Rising(0, 2000),
        AlongClock(0, 0, stopping(2000)),
    ):
        leg = course.leg_at(frame)
        there = frame + later
        if leg.stop is None or there < leg.stop:
            again = course.leg_at(there)
            assert again.silent == leg.silent
            assert leg.silent or again.place == pytest.approx(leg.place_at(there), abs=1e-6)


def test_a_leg_carries_on_only_without_a_jump_of_place_or_speed() -> None:
    leg = Leg(0, 10.0, 1.0, -0.01, stop=100)
    assert Leg(50, leg.place_at(50), 0.5, -0.01).continues(leg)
    assert not Leg(50, leg.place_at(50) + 1.0, 0.5).continues(leg)
    assert not Leg(50, leg.place_at(50), 1.0).continues(leg)
    assert not Leg(50, 0.0, silent=True).continues(leg)
    assert Leg(9, 0.0, silent=True).continues(Leg(0, 0.0, silent=True))


def test_crossfades_of_many_turns_at_once_never_exceed_what_is_faded() -> None:
    """A hundred presses within a few milliseconds over a constant: it stays that constant."""
    ones = np.ones((2, RATE), np.float32)

    def sound(start: int, frames: int) -> np.ndarray:
        return ones[:, :frames] if start > -RATE else 0.0 * ones[:, :frames]

    hand = TimeHand(RATE, sound, sound)
    out = [hand.process(1000)]
    for i in range(100):
        hand.press(f"{i % 5}", Repeating(500 + i, 300))
        out.append(hand.process(7))
    for i in range(5):
        hand.release(f"{i}")
        out.append(hand.process(3))
    out.append(hand.process(1000))
    assert np.abs(np.concatenate(out, axis=1) - 1.0).max() < 1e-5
    assert hand.idle()


# -- the song's clock --------------------------------------------------------------------------------------------------


@given(st.lists(st.tuples(st.floats(0.05, 2.0), st.floats(-8.0, 8.0)), min_size=1, max_size=8))
def test_a_ridden_tempo_reads_the_integral_of_its_points(points: list[tuple[float, float]]) -> None:
    """By the trapezoid rule, which is exact for straight pieces."""
    times = np.concatenate(([0.0], np.cumsum([step for step, _ in points])))
    values = np.array([0.0, *(percent for _, percent in points)])
    move = nowhere(
        HeldTempo,
        points=tuple(TempoPoint(seconds=t, percent=v) for t, v in zip(times.tolist(), values.tolist(), strict=True)),
    )
    read = float(riding(move, RATE).place_at(times[-1] * RATE)) / RATE
    assert read == pytest.approx(float(np.trapezoid(1.0 + values / 100.0, times)), abs=1e-9)


@given(st.integers(1000, 60_000), st.integers(1000, 60_000), st.integers(200, 30_000))
def test_the_map_with_a_stop_that_adds_time_goes_both_ways(start: int, held: int, slow: int) -> None:
    """Its length, and every frame outside the stop there and back."""
    song = compile_time_map(Time(speed=0.8), 200_000, RATE)
    move = HeldStop(
        id="m", start=Position(seconds=0.0), end=Position(seconds=1.0), time="add", slow_seconds=max(0.05, slow / RATE)
    )
    moves, crossing = clock_moves([(move, start, start + held)], RATE)
    assert not crossing
    made = with_clock(song, moves)
    fall = round(max(0.05, slow / RATE) * RATE)
    passed = held * (1.0 - held / (2.0 * fall)) if held < fall else fall / 2.0
    assert made.after_frames == song.after_frames + held - math.floor(passed + 1e-6)
    for before in np.linspace(10.0, 199_000.0, 40).tolist():
        there = made.after_at(before)
        assert 0.0 <= there <= made.after_frames
        if not start < there < start + held:
            assert made.clock_at(there) == pytest.approx(before, abs=0.01)
    assert [span.after_start for span in made.spans][1:] == [span.after_stop for span in made.spans][:-1], "no gaps"


def test_a_live_tempo_is_the_moment_it_becomes() -> None:
    """Turns that come while a ramp is on its way begin after it; back at zero it is over."""
    tempo = LiveTempo(RATE)
    for percent, at in ((-2.0, 0), (-4.0, 700), (3.0, 30_000), (0.0, 60_000)):
        tempo.turn(percent, at)
    assert not tempo.over(60_500)
    assert tempo.over(70_000)
    moment = tempo.as_moment(nowhere(HeldTempo))
    places = np.linspace(0.0, 80_000.0, 100)
    assert np.allclose(riding(moment, RATE).before_at(places), tempo.bend.before_at(places), atol=1e-6)
    speeds = np.asarray(tempo.bend.speed_at(np.array([1411.0 + 1411.0, 20_000.0, 50_000.0, 79_000.0])))
    assert speeds == pytest.approx([0.96, 0.96, 1.03, 1.0], abs=1e-9)


# -- lanes that grow ---------------------------------------------------------------------------------------------------


def test_a_live_way_goes_to_its_target_in_segments_and_stays_where_it_is_known() -> None:
    way = LiveWay(lambda _: 1.0, None, (0.0, 4.0), 100, logarithmic=False)
    assert way.at(np.array([0.0, 50.0]))[0] == 1.0
    assert way.advance(1000, 1500) == [(1000.0, 1.0)]
    way.target = 3.0
    added = way.advance(1500, 1600)
    assert added == [(1500.0, 1.0), (1600.0, 3.0)]
    assert way.value(1550.0) == pytest.approx(2.0)
    way.target = 2.0
    assert way.advance(1600, 1650) == [(1700.0, 2.0)], "a segment is not cut short"
    way.advance(1650, 1720)
    way.target = 4.0
    way.advance(1720, 1790)
    assert way.value(1790.0) == 2.0, "a new way begins no sooner than a segment after the last knot"
    way.advance(1790, 1900)
    assert way.value(1900.0) == 4.0
    assert way.value(5000.0) == 4.0, "unknown: as it was last"
    zero = LiveWay(lambda _: 0.0, None, (0.0, 1.0), 100, logarithmic=False)
    zero.advance(0, 100)
    assert 0.0 < zero.value(200.0) < 1e-6, "beyond what is known an amount may come, so nothing may be left out"


def test_a_live_way_follows_the_lane_it_rests_on_and_jumps_with_the_song() -> None:
    way = LiveWay(lambda frame: frame / 1000.0, None, (0.0, 100.0), 100, logarithmic=False)
    way.advance(1000, 3000)
    assert way.value(2500.0) == pytest.approx(2.5, abs=0.11)
    added = way.advance(50_000, 50_100)
    assert added[0] == (50_000.0, 50.0)
    looped = way.advance(100, 200)
    assert looped[0] == (100.0, pytest.approx(0.1))


def test_live_controls_take_the_place_of_values_and_lanes_and_share_a_key() -> None:
    effects = (Gain(id="g", gain_db=-3.0), Eq(id="e"), Echo(id="o"))
    stages = Stages(colour=Colour(effects=effects))
    request = PlaybackRequest(TrackRenderer(track_of(noise(1.0)), GRID), "after", stages, LevelPlan())
    controls = LiveControls(frozenset({("g", "gain_db"), ("e", "no such"), ("gone", "amount_percent")}))
    alive = controls.over(request)
    (lane,) = alive.stages.colour.effects[0].lanes
    assert lane.way.values == (-60.0, 24.0) or lane.way.values[0] < -3.0 < lane.way.values[1]  # type: ignore[attr-defined]
    assert alive.stages.colour.effects[1:] == effects[1:]
    louder = Stages(colour=Colour(effects=(Gain(id="g", gain_db=5.0), *effects[1:])))
    other = PlaybackRequest(request.readers, "after", louder, LevelPlan())
    assert controls.key(request) == controls.key(other)
    assert controls.over(PlaybackRequest(request.readers, "before", stages, LevelPlan())).stages == stages
    assert LiveControls(frozenset()).over(request) is request


@given(st.lists(st.floats(0.0, 1.0), min_size=3, max_size=200))
def test_thinned_points_are_few_and_never_off_by_more_than_they_may(shares: list[float]) -> None:
    frames = 1411.0 * np.arange(len(shares))
    values = np.array([CUT_HIGH.from_share(share) for share in shares])
    kept = thinned(frames, values, CUT_HIGH)
    assert kept[0] == 0
    assert kept[-1] == len(shares) - 1
    exact = np.array([CUT_HIGH.to_fraction(value) for value in values.tolist()])
    straight = np.interp(frames, frames[kept], exact[kept])
    assert np.abs(straight - exact).max() <= 0.0005 + 1e-9
    line = np.linspace(0.0, 1.0, 50)
    assert (
        len(thinned(1411.0 * np.arange(50), np.array([CUT_HIGH.from_share(s) for s in line.tolist()]), CUT_HIGH)) == 2
    )


# -- marks, medians, drums -----------------------------------------------------------------------------------------------


def test_marks_know_how_far_back_the_song_runs_without_a_jump() -> None:
    readers = TrackRenderer(track_of(noise(1.0)), GRID)
    one = PlaybackRequest(readers, "after", Stages(), LevelPlan())
    two = PlaybackRequest(readers, "after", Stages(time=Time(speed=0.9)), LevelPlan())
    marks = RingMarks(kept=1000)
    assert marks.at(5) is None
    assert marks.last is None
    marks.add([RingMark(0, one, 500), RingMark(100, one, 600), RingMark(200, two, 700)])
    assert marks.unbroken_from(250) == 0, "the same place on, in another version"
    marks.replace_from(300, [RingMark(300, two, 5000)])
    assert marks.unbroken_from(350) == 300, "a jump"
    marks.replace_from(400, [RingMark(400, PlaybackRequest(readers, "before", Stages(), LevelPlan()), 5100)])
    assert marks.unbroken_from(450) == 400, "the other side"
    assert marks.at(250) == RingMark(200, two, 700)
    marks.forget_before(1150)
    assert marks.at(50) == RingMark(100, one, 600), "nothing earlier is kept"


@given(st.integers(1, 60), st.integers(0, 20), st.integers(0, 2**32 - 1))
def test_running_medians_are_those_of_a_rank_filter(values: int, half: int, seed: int) -> None:
    rows = np.random.default_rng(seed).standard_normal((3, values)).astype(np.float32)
    rows[1] = np.round(rows[1])
    expected = np.stack([median_filter(row, 2 * half + 1) for row in rows])
    assert np.array_equal(running_median(rows, 2 * half + 1), expected)


def test_drums_in_chunks_are_the_drums_of_the_whole_in_whatever_order_they_are_read() -> None:
    """Within −30 dB of what a long passage gives; bit for bit whichever way they are reached."""
    sound = 0.5 * sine(330.0, 4.0) + noise(4.0) * (np.arange(4 * RATE) % BEAT < 800)

    def finished(start: int, frames: int) -> np.ndarray:
        out = np.zeros((2, frames), np.float32)
        low, high = max(0, start), min(4 * RATE, start + frames)
        if high > low:
            out[:, low - start : high - start] = sound[:, low:high]
        return out

    forwards, backwards = DrumChunks(RATE, finished), DrumChunks(RATE, finished)
    one = forwards.read_or_make(RATE, 2 * RATE)
    for start in range(3 * RATE - 1000, RATE - 1, -1000):
        backwards.read_or_make(start, 1000)
    assert np.array_equal(backwards.read(RATE, 2 * RATE, making=False), one)
    whole = drums_of(sound.astype(np.float32), RATE)[:, RATE : 3 * RATE]
    assert 10.0 * np.log10(np.mean((one - whole) ** 2) / np.mean(whole**2)) < -30.0
    assert not DrumChunks(RATE, finished).read(0, CHUNK, making=False).any()
    forwards.clear()
    assert not forwards.has(RATE // CHUNK)


def test_every_pad_of_the_practice_map_is_a_held_moment_that_goes_into_a_version() -> None:
    """Placed on a song, each gives sound of the promised length, and silence only where it is meant."""
    readers = TrackRenderer(track_of(noise(4.0)), GRID)
    for pad in practice_map().pads:
        moment = type(pad.move)(**{
            name: getattr(pad.move, name) for name in pad.move.__struct_fields__ if name not in ("id", "start", "end")
        }, id="m", start=Position(beat=3.0), end=Position(beat=4.0))  # fmt: skip
        stages = Stages()
        stages = type(stages)(moments=type(stages.moments)(placed=(moment,)))
        out = readers.chain(stages).read(10**9)
        assert out.shape[1] >= 4 * RATE
        inside = out[:, round(0.25 * RATE) + 3 * BEAT + 500 : round(0.25 * RATE) + 4 * BEAT - 500]
        assert bool(inside.any()) != isinstance(pad.move, HeldSilence), pad.name
