"""Courses: places, times and speeds while the speed changes, and reading along them."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.stretching.varispeed import read_along, read_at
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.errors import OutOfRange
from tests.conftest import level_db, noise, sine

_SPEEDS = st.floats(0.25, 4.0)
_COURSES = st.lists(st.tuples(st.floats(0.0, 1e6), _SPEEDS), min_size=2, max_size=6).map(
    lambda knots: SpeedByPosition.through(sorted(place for place, _ in knots), [speed for _, speed in knots])
)


@given(course=_COURSES, place=st.floats(-1e5, 2e6), ratio=st.floats(0.1, 8.0), since=st.floats(0.0, 1e6))
def test_a_course_goes_there_and_back_and_its_relatives_agree(
    course: SpeedByPosition, place: float, ratio: float, since: float
) -> None:
    after = float(course.after_at(place))
    close = {"rel": 1e-9, "abs": 1e-3}
    assert float(course.before_at(after)) == pytest.approx(place, **close)
    assert float(course.slower(ratio).before_at(after * ratio)) == pytest.approx(place, **close)
    if all(abs(after - piece.after) > 1e-6 for piece in course.pieces[1:]):  # at a step, either side of it is right
        slower = float(course.slower(ratio).speed_at(after * ratio))
        assert slower == pytest.approx(float(course.speed_at(after)) / ratio)
    assert float(course.magnified(ratio).before_at(after)) == pytest.approx(place * ratio, **close)
    assert float(course.since(since).before_at(1000.0)) == pytest.approx(
        float(course.before_at(since + 1000.0)), **close
    )
    assert 0.25 - 1e-9 <= float(course.speed_at(after)) <= 4.0 + 1e-9


def test_time_along_a_ramp_is_the_integral_of_one_over_speed() -> None:
    course = SpeedByPosition.through([0.0, 100_000.0], [0.5, 1.5])
    places = np.linspace(0.0, 100_000.0, 1_000_001)
    summed = np.trapezoid(1.0 / (0.5 + places / 100_000.0), places)
    assert float(course.after_at(100_000.0)) == pytest.approx(summed, rel=1e-9)
    assert float(course.after_at(100_000.0)) == pytest.approx(100_000.0 * np.log(3.0), rel=1e-12)
    assert float(course.speed_at(course.after_at(50_000.0))) == pytest.approx(1.0)


def test_two_points_at_one_place_make_a_step() -> None:
    course = SpeedByPosition.through([0.0, 1000.0, 1000.0, 2000.0], [1.0, 1.0, 2.0, 2.0])
    assert float(course.before_at(1500.0)) == pytest.approx(2000.0)
    assert float(course.speed_at(999.0)) == 1.0
    assert float(course.speed_at(1001.0)) == 2.0
    assert course.constant_speed is None
    assert SpeedByPosition.steady(0.8).constant_speed == 0.8


def test_a_moving_reading_follows_the_song_and_adds_nothing_above_minus_80_db() -> None:
    rate, hz = 44_100, 5000.0
    t = np.arange(6 * rate)
    song = (0.5 * np.sin(2 * np.pi * hz * t / rate)).astype(np.float32)[None]
    course = SpeedByPosition.through([0.0, 6.0 * rate], [0.7, 3.0])
    times = np.arange(20_000, 130_000)
    places, speeds = course.before_at(times), course.speed_at(times)
    out = read_along(song, places, speeds)[0]
    assert np.abs(out - 0.5 * np.sin(2 * np.pi * hz * places / rate)).max() < 10 ** (-80 / 20)


def test_under_a_moving_speed_nothing_folds_back() -> None:
    rate = 44_100
    song = sine(15_000, 6.0, rate)
    speeds = np.linspace(1.7, 2.3, rate)
    out = read_along(song, 10_000.0 + np.cumsum(speeds), speeds)  # 25 to 35 kHz: beyond the band
    assert level_db(out) < -80


def test_reading_along_a_steady_line_is_reading_at_it() -> None:
    song = noise(0.5)
    places = 100.3 + 0.8 * np.arange(5000)
    along = read_along(song, places, np.full(5000, 0.8))
    assert np.abs(along - read_at(song, 100.3, 0.8, 5000)).max() < 1e-6
    with pytest.raises(OutOfRange, match="speed is 100"):
        read_along(song, places, np.full(5000, 100.0))
    assert read_along(song, places[:0], places[:0]).shape == (2, 0)


@given(course=_COURSES, times=st.lists(st.integers(0, 2_000_000), max_size=6, unique=True).map(sorted))
def test_a_divided_course_is_the_course(course: SpeedByPosition, times: list[int]) -> None:
    parts = course.divided(times)
    assert len(parts) == len(times)
    for part, start, stop in zip(parts, times, [*times[1:], 3_000_000], strict=False):
        inside = np.linspace(start, stop, 9)
        assert np.allclose(part.before_at(inside - start), course.before_at(inside), rtol=1e-9, atol=1e-3)
