"""Where things lie on the canvas, and what snaps: plain values, without a window."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPointF

from latespin.desktop.canvas.beat_lines import SNAP_PX, BarLines
from latespin.desktop.canvas.canvas_geometry import RULER, Bands, CanvasGeometry
from latespin.desktop.canvas.layers.ending_layer import EndingLayer
from latespin.desktop.canvas.layers.marker_layer import Flag, MarkerLayer
from latespin.desktop.canvas.layers.range_handle_layer import SIDE, RangeHandleLayer
from latespin.desktop.canvas.marked_range import (
    SHORTEST_DRAGGED,
    SHORTEST_MARKED,
    end_at,
    range_between,
    with_end_at,
)
from latespin.desktop.canvas.ruler_painter import HIDDEN, bar_marks, ruler_marks
from latespin.desktop.canvas.time_axis import TimeScale
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Time

RATE, SECONDS = 44_100, 120.0
GRID = Grid(bpm=120.0, first_beat_seconds=0.25)


def geometry(
    speed: float = 1.0, start: float = 0.0, seconds: float = SECONDS, snap_to: str = "beats"
) -> CanvasGeometry:
    """A song of two minutes and a version of it at a speed, in a view 1200 pixels wide."""
    time_map = compile_time_map(Time(speed=speed), round(SECONDS * RATE), RATE)
    total = max(SECONDS, SECONDS / speed)
    scale = TimeScale(1_200.0, total, 0.0, min(total, seconds)).starting(start)
    return CanvasGeometry(scale, Bands.of(1_224.0, 320.0), RATE, time_map, SECONDS, BarLines(GRID, SECONDS), snap_to)


@given(width=st.floats(200.0, 4_000.0), height=st.floats(120.0, 2_000.0))
def test_bands_fill_the_height_between_the_rulers_without_overlap(width: float, height: float) -> None:
    bands = Bands.of(width, height)
    assert bands.before.top() == RULER
    assert bands.before.bottom() == pytest.approx(bands.threads.top())
    assert bands.threads.bottom() == pytest.approx(bands.after.top())
    assert bands.after.bottom() == pytest.approx(height - RULER)
    assert bands.before.height() == pytest.approx(bands.after.height())
    assert {band.width() for band in (bands.before, bands.threads, bands.after)} == {width}


@given(
    start=st.floats(0.0, 100.0), seconds=st.floats(1.0, 120.0), x=st.floats(0.0, 1_200.0), factor=st.floats(0.2, 5.0)
)  # fmt: skip
def test_a_scale_goes_both_ways_and_zooming_holds_its_place(
    start: float, seconds: float, x: float, factor: float
) -> None:
    scale = TimeScale(1_200.0, SECONDS, 0.0, seconds).starting(start)
    assert scale.x(scale.at(x)) == pytest.approx(x, abs=1e-6)
    zoomed = scale.zoomed(factor, x)
    assert 0.0 <= zoomed.start <= zoomed.total - zoomed.seconds + 1e-9
    inside = 0.0 < zoomed.start < zoomed.total - zoomed.seconds
    if inside:
        assert zoomed.x(scale.at(x)) == pytest.approx(x, abs=1e-6)


@given(speed=st.floats(0.3, 3.0), seconds=st.floats(0.0, SECONDS))
def test_before_and_after_are_each_others_inverse(speed: float, seconds: float) -> None:
    made = geometry(speed)
    after = made.to_after(seconds)
    assert after == pytest.approx(seconds / speed, abs=2.0 / RATE)
    assert made.to_before("after", after) == pytest.approx(seconds, abs=3.0 / RATE)
    assert made.to_before("before", seconds) == seconds
    assert made.clock_of_after(after) == pytest.approx(seconds, abs=3.0 / RATE)
    assert made.to_after_all(np.array([seconds])) == pytest.approx([after], abs=2.0 / RATE)


@given(speed=st.floats(0.3, 3.0), before=st.floats(0.0, 60.0), later=st.floats(0.0, 5.0))
def test_the_beat_clock_runs_at_the_speed_of_the_version(speed: float, before: float, later: float) -> None:
    assert geometry(speed).clock_at(before, later) == pytest.approx(
        min(SECONDS, before + speed * later), abs=3.0 / RATE
    )


def test_without_a_version_both_sides_are_the_song() -> None:
    bare = CanvasGeometry(TimeScale.fitted(800.0, SECONDS), Bands.of(800.0, 300.0))
    assert (bare.to_after(12.0), bare.to_before("after", 12.0), bare.clock_of_after(3.0)) == (12.0, 12.0, 3.0)
    assert bare.snapped(1.01) == 1.01
    assert bare.music_seconds == 0.0


def test_a_height_belongs_to_the_nearer_side() -> None:
    made = geometry()
    middle = made.bands.threads.center().y()
    assert made.side_at(middle - 1.0) == "before"
    assert made.side_at(middle + 1.0) == "after"


@given(beat=st.integers(2, 200), off_px=st.floats(-SNAP_PX + 0.5, SNAP_PX - 0.5))
def test_near_a_beat_it_snaps_to_the_beat(beat: int, off_px: float) -> None:
    made = geometry(start=0.25 + 0.5 * (beat - 2), seconds=10.0)
    seconds = 0.25 + 0.5 * beat + off_px / made.scale.px_per_second
    assert made.snapped(seconds) == pytest.approx(0.25 + 0.5 * beat, abs=1e-6)
    assert made.snapped(seconds, free=True) == seconds


def test_snapping_to_bars_skips_beats_and_off_snaps_to_nothing() -> None:
    near_a_beat = 0.25 + 0.5 + 0.02
    assert geometry(seconds=10.0, snap_to="beats").snapped(near_a_beat) == pytest.approx(0.75)
    assert geometry(seconds=10.0, snap_to="bars").snapped(near_a_beat) == near_a_beat
    assert geometry(seconds=10.0, snap_to="bars").snapped(2.25 + 0.02) == pytest.approx(2.25)
    assert geometry(seconds=10.0, snap_to="").snapped(near_a_beat) == near_a_beat


def test_rulers_count_bars_seconds_or_video_frames() -> None:
    made = geometry(speed=0.8, seconds=20.0)
    bars = ruler_marks(made, in_bars=True, frames_per_second=25.0)
    assert bars == bar_marks(made)
    before, after, words = zip(*bars, strict=True)
    assert list(before) == sorted(before)
    assert all(a == HIDDEN or a == pytest.approx(b / 0.8, abs=1e-3) for b, a in zip(before, after, strict=True))
    assert words[0] == "1" or words[0].startswith("1")
    frames = ruler_marks(made, in_bars=False, frames_per_second=25.0)
    assert all(round(25.0 * seconds, 6).is_integer() for seconds, _, _ in frames)
    assert all(len(words.split(":")) >= 3 for _, _, words in frames)
    seconds = ruler_marks(made, in_bars=False, frames_per_second=None)
    assert [mark[0] for mark in seconds] == [mark[1] for mark in seconds]


def test_a_flag_is_dragged_by_a_layer_that_knows_no_window(qapp) -> None:
    made = geometry(seconds=10.0)
    layer = MarkerLayer(lambda: made)
    moves: list[tuple[str, str, float, bool]] = []
    finished: list[bool] = []
    layer.moved.connect(lambda *move: moves.append(move))
    layer.drag_finished.connect(lambda: finished.append(True))
    layer.show((Flag("m", "Bell", 2.0, None),))
    at = layer.rect(layer.flags[0], "start").center()
    assert not layer.press(QPointF(at.x() + 60.0, at.y()))
    assert layer.press(at)
    layer.drag(QPointF(made.scale.x(3.26), at.y()), free=False)
    layer.drag(QPointF(made.scale.x(3.4), at.y()), free=True)
    layer.release()
    (first, second) = moves
    assert first[:2] == ("m", "start")
    assert (first[2], first[3]) == (pytest.approx(3.25), True)
    assert (second[2], second[3]) == (pytest.approx(3.4, abs=0.01), False)
    assert finished == [True]


PLACES = st.floats(0.0, SECONDS)


@given(a=PLACES, b=PLACES, to=PLACES, which=st.integers(0, 1))
def test_a_range_has_its_ends_in_order_however_they_are_moved(a: float, b: float, to: float, which: int) -> None:
    marked = range_between(a, b)
    assert marked == range_between(b, a)
    assert (marked is None) == (abs(a - b) <= SHORTEST_MARKED)
    if marked is not None:
        start, end = with_end_at(marked, which, to)
        assert end - start >= SHORTEST_DRAGGED - 1e-9 or (start, end) == marked
        assert (end, start)[which] == marked[1 - which], "the other end stays"


@given(speed=st.floats(0.5, 2.0), start=st.floats(1.0, 60.0), lasts=st.floats(5.0, 50.0), which=st.integers(0, 1))
def test_both_ends_of_a_range_are_taken_hold_of_on_both_sides(
    speed: float, start: float, lasts: float, which: int
) -> None:
    made, marked = geometry(speed), (start, start + lasts)
    for band, seconds in ((made.bands.before, marked[which]), (made.bands.after, made.to_after(marked[which]))):
        at = QPointF(made.scale.x(seconds) + 2.0, band.center().y())
        assert end_at(marked, made, at) == which
        assert end_at(marked, made, QPointF(at.x() + 20.0, at.y())) is None
        assert end_at(None, made, at) is None


@given(speed=st.floats(0.5, 2.0), start=st.floats(0.0, 100.0), lasts=st.floats(0.1, 20.0))
def test_the_handle_of_a_range_is_inside_of_it_or_beside_it_and_in_view(
    speed: float, start: float, lasts: float
) -> None:
    made, marked = geometry(speed), (start, start + lasts)
    layer = RangeHandleLayer(lambda: made, lambda: marked)
    rect = layer.rect()
    left, right = (min(made.scale.x(made.to_after(seconds)), made.scale.width) for seconds in marked)
    if left == right:
        assert rect is None, "the range is out of view"
        return
    assert rect is not None
    assert rect.right() <= made.scale.width + 1e-6
    assert made.bands.after.contains(rect.center())
    if right - left > 3 * SIDE:
        assert left < rect.left() < rect.right() < right
    else:
        assert rect.left() > left or rect.right() == pytest.approx(made.scale.width)
    assert RangeHandleLayer(lambda: made, lambda: None).rect() is None


def test_a_handle_that_is_only_pressed_writes_nothing(qapp) -> None:
    made = geometry()
    layer = RangeHandleLayer(lambda: made, lambda: (20.0, 60.0))
    out: list[bool] = []
    layer.dragged_out.connect(lambda: out.append(True))
    rect = layer.rect()
    assert rect is not None
    assert not layer.press(rect.bottomRight() + QPointF(5.0, 5.0))
    assert layer.press(rect.center())
    layer.drag(rect.center() + QPointF(1.0, 1.0), free=False)
    layer.release()
    layer.drag(rect.center() + QPointF(90.0, 0.0), free=False)
    assert not out
    assert layer.press(rect.center())
    for step in range(4):
        layer.drag(rect.center() + QPointF(30.0 + step, 0.0), free=False)
    assert out == [True], "once, however far it is dragged"
    assert layer.held
    layer.release()
    assert not layer.held


def test_an_ending_is_dragged_only_while_it_is_edited(qapp) -> None:
    made = geometry(speed=0.5, seconds=240.0)
    layer = EndingLayer(lambda: made)
    layer.show(100.0, 104.0, 50.0, "Fade", editing=False)
    grip = layer.grip()
    assert grip is not None
    assert not layer.press(grip.center())
    layer.show(100.0, 104.0, 50.0, "Fade", editing=True)
    moves: list[float] = []
    layer.moved.connect(lambda seconds, snapped: moves.append(seconds))
    assert layer.press(grip.center())
    layer.drag(QPointF(made.scale.x(120.0), grip.center().y()), free=True)
    assert moves == [pytest.approx(60.0, abs=0.2)], "at half speed 20 s of After are 10 s of Before"
