"""Curves in closed form, both ways: speed over time, easing, automation lanes, and the spans they make."""

import itertools
from collections.abc import Callable, Sequence

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.dsp.timing.speed_by_time import SpeedByTime, ease_down, ease_down_at, knots, slowing, tension_of
from latespin.model.effects.automation import Way, dipped, opened
from latespin.model.timing.positions import Position
from latespin.model.timing.tempo_curve import (
    CurvePoint,
    added,
    between,
    extremes,
    factor_at,
    removed,
    scaled_between,
    with_end,
)
from latespin.model.timing.time_map import compile_time_map, fitted_speed
from latespin.model.version import HALFTIME_BARS, Time

TENSION = st.floats(-1.0, 1.0)
RATE = 44_100


@given(tension=TENSION, x=st.floats(0.0, 1.0))
def test_easing_falls_from_one_to_nothing_and_is_the_same_one_by_one(tension: float, x: float) -> None:
    assert ease_down(0.0, tension) == 1.0
    assert ease_down(1.0, tension) == 0.0
    assert float(ease_down(x, tension)) == pytest.approx(ease_down_at(x, tension))
    steps = ease_down(np.linspace(0.0, 1.0, 50), tension)
    assert np.all(np.diff(steps) <= 1e-12)
    assert float(ease_down(x, -tension)) == pytest.approx(1.0 - float(ease_down(1.0 - x, tension)), abs=1e-9)


@given(tension=TENSION)
def test_a_tension_is_found_from_the_height_of_its_middle(tension: float) -> None:
    assert tension_of(float(ease_down(0.5, tension))) == pytest.approx(tension, abs=1e-6)


@given(height=st.floats(-1.0, 2.0))
def test_no_height_gives_more_than_the_steepest_curve(height: float) -> None:
    assert -1.0 - 1e-9 <= tension_of(height) <= 1.0 + 1e-9


def integral(function: Callable[[float], object], knots: Sequence[float], to: float) -> float:
    """From the first knot to a place, by Gauss and Legendre's rule on each piece between knots, where the function is smooth."""
    nodes, weights = np.polynomial.legendre.leggauss(48)
    total = 0.0
    for a, b in itertools.pairwise(min(knot, to) for knot in knots):
        at = 0.5 * (a + b) + 0.5 * (b - a) * nodes
        total += 0.5 * (b - a) * float(np.sum(weights * np.array([float(function(x)) for x in at])))
    return total


@given(tension=TENSION, depth=st.floats(0.0, 1.0), share=st.sampled_from([0.0, 0.2, 0.5]))
def test_a_slow_down_begins_at_full_speed_and_loses_its_depth(tension: float, depth: float, share: float) -> None:
    speeds = slowing(knots(), tension, depth, share)
    assert speeds[0] == pytest.approx(1.0)
    assert speeds[-1] == pytest.approx(1.0 - depth)
    assert np.all(np.diff(speeds) <= 1e-9)


@given(
    speeds=st.lists(st.floats(0.05, 3.0), min_size=2, max_size=6), length=st.floats(100.0, 90_000.0), at=st.floats(0.0, 1.0)
)  # fmt: skip
def test_places_are_the_integral_of_speeds_and_times_come_back(speeds: list[float], length: float, at: float) -> None:
    made = SpeedByTime.through(np.array(speeds), length, 500.0)
    time = at * length
    wanted = 500.0 + integral(made.speed_at, [*np.linspace(0.0, length, len(speeds)), length], time)
    assert float(made.before_at(time)) == pytest.approx(wanted, rel=1e-6, abs=1e-4)
    assert made.place_at(time) == pytest.approx(float(made.before_at(time)), abs=1e-6)
    assert float(made.after_at(made.before_at(time))) == pytest.approx(time, abs=1e-3)


@given(
    speeds=st.lists(st.floats(0.1, 3.0), min_size=2, max_size=5), cut=st.floats(0.05, 0.9), by=st.floats(-500.0, 500.0)
)
def test_counting_from_later_or_elsewhere_moves_times_or_places_alone(
    speeds: list[float], cut: float, by: float
) -> None:
    made = SpeedByTime.through(np.array(speeds), 10_000.0, 0.0)
    times = np.linspace(0.0, 9_000.0 * (1.0 - cut), 20)
    assert np.allclose(made.since(cut * 9_000.0).before_at(times), made.before_at(times + cut * 9_000.0), atol=1e-4)
    assert np.allclose(made.moved(by).before_at(times), made.before_at(times) + by, atol=1e-6)


@given(
    places=st.lists(st.floats(0.01, 0.99), min_size=1, max_size=4, unique=True), speeds=st.lists(st.floats(0.3, 3.0), min_size=6, max_size=6),
    before=st.integers(0, 49_998),
)  # fmt: skip
def test_over_the_song_time_is_the_integral_of_one_over_the_speed(
    places: list[float], speeds: list[float], before: int
) -> None:
    """Up to the last frame, which a version of whole frames may end within."""
    ends = [0.0, *sorted(places), 1.0]
    assume(all(b - a > 0.01 for a, b in itertools.pairwise(ends)))
    curve = tuple(CurvePoint(place=p, speed=s) for p, s in zip(ends, speeds, strict=False))
    frames = 50_000
    made = compile_time_map(Time(curve=curve), frames, RATE)
    wanted = integral(lambda x: 1.0 / factor_at(curve, x / frames), [end * frames for end in ends], before)
    assert made.after_at(before) == pytest.approx(wanted, rel=1e-4, abs=1.5)
    assert made.before_at(made.after_at(before)) == pytest.approx(before, abs=0.05)


@given(speed=st.floats(0.3, 3.0), frames=st.integers(1_000, 200_000))
def test_a_steady_speed_is_a_straight_line(speed: float, frames: int) -> None:
    made = (
        SpeedByPosition.steady(speed)
        if hasattr(SpeedByPosition, "steady")
        else compile_time_map(Time(speed=speed), frames, RATE)
    )
    if hasattr(made, "after_frames"):
        assert made.after_frames == round(frames / speed)
    assert made.before_at(100.0) == pytest.approx(100.0 * speed)


@given(
    speed=st.floats(0.3, 2.0), low=st.floats(0.6, 0.95), high=st.floats(1.05, 1.6), seconds=st.floats(4.0, 20.0),
    halftime=st.sampled_from(["off", "song", *HALFTIME_BARS]),
)  # fmt: skip
def test_a_fitted_speed_gives_the_length(speed: float, low: float, high: float, seconds: float, halftime: str) -> None:
    curve = (CurvePoint(place=0.0, speed=low), CurvePoint(place=1.0, speed=high))
    time, frames = Time(speed=speed, curve=curve, halftime=halftime), 10 * RATE
    fitted = fitted_speed(time, frames, seconds * RATE)
    assume(0.25 <= fitted <= 4.0)
    made = compile_time_map(Time(speed=fitted, curve=curve, halftime=halftime), frames, RATE)
    assert made.after_frames == pytest.approx(seconds * RATE, abs=1.0)


CURVE = (CurvePoint(place=0.0, speed=0.9), CurvePoint(place=0.5, speed=1.2), CurvePoint(place=1.0, speed=1.0))


@given(place=st.floats(0.02, 0.98), speed=st.floats(0.5, 2.0))
def test_a_point_is_added_where_it_is_put_and_removed_again(place: float, speed: float) -> None:
    assume(abs(place - 0.5) > 0.02)
    more = added(CURVE, place, speed)
    assert factor_at(more, place) == pytest.approx(speed)
    at = next(i for i, point in enumerate(more) if point.place == place)
    assert removed(more, at) == CURVE
    low, high = extremes(more)
    assert low == min(p.speed for p in more)
    assert high == max(p.speed for p in more)


@given(start=st.floats(0.05, 0.4), length=st.floats(0.1, 0.5), factor=st.floats(0.6, 1.6))
def test_scaling_a_range_changes_the_range_alone(start: float, length: float, factor: float) -> None:
    stop = start + length
    made = scaled_between(CURVE, start, stop, factor)
    for x in np.linspace(start + 0.01, stop - 0.01, 9).tolist():
        assert factor_at(made, x) == pytest.approx(factor * factor_at(CURVE, x), rel=1e-6)
    for x in (0.5 * start, 0.5 * (stop + 1.0)):
        assert factor_at(made, x) == pytest.approx(factor_at(CURVE, x), rel=1e-6)
    inside = between(CURVE, start, stop)
    assert extremes(inside)[0] <= extremes(inside)[1]


@pytest.mark.parametrize(("end", "place"), [("start", 0.0), ("end", 1.0)])
@given(speed=st.floats(0.5, 2.0))
def test_an_end_is_set_and_the_other_stays(end: str, place: float, speed: float) -> None:
    made = with_end(CURVE, end, speed)
    assert factor_at(made, place) == pytest.approx(speed)
    assert factor_at(made, 1.0 - place) == pytest.approx(factor_at(CURVE, 1.0 - place))


# -- automation ---------------------------------------------------------------------------------------------------------


@given(values=st.lists(st.floats(20.0, 20_000.0), min_size=2, max_size=5), tension=TENSION, logarithmic=st.booleans())
def test_a_lane_stays_between_its_points_and_holds_its_ends(
    values: list[float], tension: float, logarithmic: bool
) -> None:
    frames = tuple(1_000.0 * i for i in range(len(values)))
    way = Way(frames, tuple(values), (tension,) * len(values), logarithmic)
    for i, (a, b) in enumerate(itertools.pairwise(values)):
        inside = way.at(np.linspace(frames[i], frames[i + 1], 25))
        assert np.all(inside >= min(a, b) * (1 - 1e-9))
        assert np.all(inside <= max(a, b) * (1 + 1e-9))
    assert way.value(-500.0) == values[0]
    assert way.value(1e9) == values[-1]
    assert np.allclose(way.at(np.array(frames)), values)


def test_in_ratios_the_middle_is_the_geometric_mean() -> None:
    even, ratios = (Way((0.0, 100.0), (100.0, 1_600.0), (0.0, 0.0), logarithmic) for logarithmic in (False, True))
    assert even.value(50.0) == 850.0
    assert ratios.value(50.0) == pytest.approx(400.0)


def test_opening_and_dipping_lanes_are_whole_where_they_say() -> None:
    start, full, fade, end = (Position(seconds=s) for s in (1.0, 2.0, 5.0, 6.0))
    opening = opened(start, end, 80.0)
    assert [point.value for point in opening.points] == [80.0, 0.0]
    dip = dipped(start, end, 60.0, full, fade)
    assert [point.value for point in dip.points] == [0.0, 60.0, 60.0, 0.0]
    assert [point.at.seconds for point in dip.points] == [1.0, 2.0, 5.0, 6.0]
