"""The grid: beats by number, hands that put it right, taps, files, and the click that lets it be heard."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.errors import LateSpinError, Unreadable
from latespin.media.exchange.grid_files import read_grid, write_grid
from latespin.model.timing.beat_grid import Grid, last_series, tapped
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.programme import PlaybackRequest
from tests.conftest import track_of

RATE = 44_100
SONG = 120.0


def drifting(seed: int, metre: int = 4, before: int = 3) -> Grid:
    """Beats that stray around 100 BPM, some of them before bar 1."""
    draw = np.random.default_rng(seed)
    times = np.cumsum(0.6 * np.exp(0.05 * np.cumsum(draw.standard_normal(120)) / 10)) - 0.3
    kept = tuple(np.round(times, 6).tolist())
    return Grid(bpm=100.0, first_beat_seconds=kept[before], beats_per_bar=metre, beats=kept, beats_from=-before)


GRIDS = st.one_of(
    st.builds(Grid, bpm=st.floats(40, 220), first_beat_seconds=st.floats(0, 20), beats_per_bar=st.integers(1, 12)),
    st.builds(drifting, st.integers(0, 50), st.sampled_from([2, 3, 4, 6])),
)


@given(GRIDS, st.floats(-30, 150))
def test_beats_and_seconds_are_each_others_inverse(grid: Grid, number: float) -> None:
    seconds = float(grid.seconds_of(number))
    assert float(grid.number_at(seconds)) == pytest.approx(number, abs=1e-6)
    assert float(grid.seconds_of(0)) == pytest.approx(grid.first_beat_seconds, abs=1e-6)


@given(GRIDS)
def test_bars_are_every_so_manieth_beat_of_the_song(grid: Grid) -> None:
    numbers = grid.numbers_between(0.0, SONG)
    times = grid.seconds_of(numbers)
    assert np.all(np.diff(times) > 0.0)
    assert times[0] >= -1e-5
    assert times[-1] <= SONG + 1e-5
    bars = grid.bars_between(0.0, SONG)
    assert set(np.round(bars, 6)) == set(np.round(times[numbers % grid.beats_per_bar == 0], 6))


@given(GRIDS.filter(lambda grid: 50 < grid.bpm < 190))
def test_half_and_double_undo_each_other_and_keep_bar_one(grid: Grid) -> None:
    double = grid.doubled()
    assert double.first_beat_seconds == grid.first_beat_seconds
    numbers = np.arange(0.0, 60.0)
    assert double.seconds_of(2 * numbers) == pytest.approx(grid.seconds_of(numbers), abs=1e-5)
    back = double.halved()
    assert back.seconds_of(numbers) == pytest.approx(grid.seconds_of(numbers), abs=1e-5)


@given(GRIDS, st.integers(-9, 9))
def test_counting_from_another_beat_moves_no_beat(grid: Grid, by: int) -> None:
    moved = grid.counted_from(by)
    assert moved.first_beat_seconds == pytest.approx(float(grid.seconds_of(by)), abs=2e-6)
    away = float(grid.number_at(moved.first_beat_seconds)) - by
    assert away == pytest.approx(round(away / grid.beats_per_bar) * grid.beats_per_bar, abs=1e-4)


@given(GRIDS, st.floats(0.0, 100.0))
def test_bar_one_is_here(grid: Grid, here: float) -> None:
    moved = grid.begun_at(here)
    number = float(moved.number_at(here)) / moved.beats_per_bar
    assert abs(number - round(number)) * moved.beats_per_bar <= 0.251
    assert moved.first_beat_seconds == pytest.approx(here, abs=0.251 * moved.beat_seconds + 0.1)


def test_a_beat_put_elsewhere_bends_the_grid_up_to_the_next_pins() -> None:
    grid = Grid(bpm=120.0, first_beat_seconds=1.0)
    moved = grid.with_beat_at(40, 21.4, SONG)
    assert float(moved.seconds_of(40)) == pytest.approx(21.4)
    assert float(moved.seconds_of(0)) == pytest.approx(1.0)
    assert float(moved.seconds_of(20)) == pytest.approx(11.2), "what lies between gives way evenly"
    assert float(moved.seconds_of(60)) == pytest.approx(31.4), "what comes after moves along"
    again = moved.with_beat_at(20, 11.0, SONG)
    assert float(again.seconds_of(40)) == pytest.approx(21.4), "a pinned beat stays"
    assert again.pinned == (20, 40)
    assert np.all(np.diff(again.beats) > 0.0)
    far = again.with_beat_at(30, 500.0, SONG)
    assert np.all(np.diff(far.beats) > 0.0), "beats never pass a pinned one"


@given(st.floats(50, 200), st.floats(0.0, 30.0), st.integers(8, 24), st.integers(0, 100))
def test_taps_give_tempo_and_place(bpm: float, start: float, count: int, seed: int) -> None:
    draw = np.random.default_rng(seed)
    exact = start + 60.0 / bpm * np.arange(count)
    taps = (exact + 0.01 * draw.standard_normal(count)).tolist()
    grid = tapped(taps, 4)
    assert grid is not None
    assert grid.bpm == pytest.approx(bpm, rel=0.06)
    away = np.asarray(grid.number_at(exact))
    assert np.abs(away - np.round(away)).max() < 0.1
    assert grid.first_beat_seconds < grid.bar_seconds
    known = Grid(bpm=bpm, beats_per_bar=3)
    placed = tapped(taps, 3, known)
    assert placed is not None
    if abs(np.log(grid.bpm / bpm)) < 0.019:
        assert placed.bpm == bpm, "a known tempo is kept; only the place is taken from the taps"


def test_a_pause_begins_a_new_series_of_taps() -> None:
    assert last_series([1.0, 1.5, 2.0, 9.0, 9.5, 10.0]) == [9.0, 9.5, 10.0]
    assert tapped([1.0, 1.5, 2.0, 9.0, 9.5, 10.0], 4) is None


@pytest.mark.parametrize("suffix", [".mid", ".csv"])
@given(grid=GRIDS.filter(lambda grid: 45 < grid.bpm < 200))
def test_grids_come_back_from_their_files(tmp_path_factory: pytest.TempPathFactory, suffix: str, grid: Grid) -> None:
    path = tmp_path_factory.mktemp("grid") / f"grid{suffix}"
    write_grid(grid, SONG, path, overwrite=False, sources=())
    back = read_grid(path)
    numbers = grid.numbers_between(0.0, SONG)
    kept = numbers[numbers >= 0]
    assert back.seconds_of(kept) == pytest.approx(grid.seconds_of(kept), abs=2e-4)
    assert back.beats_per_bar == grid.beats_per_bar or suffix == ".csv"
    with pytest.raises(LateSpinError, match="already exists"):
        write_grid(grid, SONG, path, overwrite=False, sources=())


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("a.csv", b"seconds,bar\n1,1\n", "needs the columns"),
        ("a.csv", b"seconds,bar,beat\n1,1,1\nx,1,2\n", "line 3"),
        ("a.csv", b"seconds,bar,beat\n1,1,1\n1,1,2\n2,1,3\n", "does not come after"),
        ("a.csv", b"seconds,bar,beat\n1,1,1\n", "fewer than two beats"),
        ("a.csv", b"seconds,bar,beat\n1,1,1\n1.5,1,99\n", "counted from 1"),
        ("a.csv", b"\xff\xfe\x00", "not CSV text|needs the columns"),
        ("a.mid", b"MThd nothing", "not a Standard MIDI File"),
        ("a.mid", b"", "not a Standard MIDI File"),
    ],
)
def test_broken_grid_files_are_refused_in_words(tmp_path: Path, name: str, data: bytes, said: str) -> None:
    path = tmp_path / name
    path.write_bytes(data)
    with pytest.raises(Unreadable, match=said):
        read_grid(path)


def test_halftime_cells_follow_a_moving_grid() -> None:
    grid = drifting(1)
    frames = round(60.0 * RATE)
    time_map = compile_time_map(Time(halftime="bar"), frames, RATE, grid)
    starts = {span.after_start for span in time_map.spans}
    bars = grid.bars_between(grid.first_beat_seconds, 60.0)
    for bar in bars[bars < 59.5]:
        assert min(abs(start - bar * RATE) for start in starts) <= 1


@pytest.mark.parametrize("side", ["before", "after"])
def test_a_click_sounds_on_every_beat_of_both_sides(side: str) -> None:
    track = track_of(np.zeros((2, 20 * RATE), np.float32))
    grid = Grid(bpm=100.0, first_beat_seconds=0.5, beats_per_bar=3)
    stages = Stages(time=Time(speed=0.8))
    plain = PlaybackRequest(TrackRenderer(track), side, stages, LevelPlan())
    clicking = PlaybackRequest(TrackRenderer(track), side, stages, LevelPlan(), click=grid)
    assert plain != clicking
    stream = clicking.open()
    stream.seek(3 * RATE)
    blocks = [stream.read(size) for size in (1000, 5, 777, 4096, *[3000] * 150)]
    heard = np.concatenate(blocks, axis=1)[0]
    stretch = 1.0 if side == "before" else 1.25
    expected = [t * stretch - 3.0 for t in grid.seconds_of(grid.numbers_between(3.0 / stretch, 10.0))]
    for at in expected:
        if 0.0 <= at < len(heard) / RATE - 0.1:
            onset = round(at * RATE)
            assert np.abs(heard[onset : onset + 400]).max() > 0.1
            assert not np.any(heard[max(0, onset - 2000) : max(0, onset - 2)])


def test_a_grid_refuses_beats_out_of_order() -> None:
    with pytest.raises(ValueError, match="later than the one before"):
        Grid(bpm=100.0, beats=(1.0, 0.5))
    assert replace(Grid(bpm=100.0), locked=True).locked


@given(
    first=st.integers(-8, 8),
    count=st.integers(9, 60),
    ratio=st.sampled_from([(2, 1), (1, 2), (2, 3), (3, 2)]),
    seed=st.integers(0, 99),
)
def test_beats_are_recounted_from_bar_one_and_back(first: int, count: int, ratio: tuple[int, int], seed: int) -> None:
    """Shared beats keep their places, the tempo changes by the ratio, and the inverse ratio restores it."""
    periods = 0.5 + 0.1 * np.random.default_rng(seed).random(count)
    times = tuple(np.round(10.0 + np.cumsum(periods), 6).tolist())
    grid = Grid(bpm=100.0, first_beat_seconds=10.0, beats=times, beats_from=first)
    beats, instead_of = ratio
    made = grid.recounted(beats, instead_of)
    assert made.bpm == pytest.approx(100.0 * beats / instead_of)
    shared = [n for n in range(first, first + count) if n % instead_of == 0]
    for number in shared:
        at = number * beats // instead_of - made.beats_from
        if 0 <= at < len(made.beats):
            assert made.beats[at] == pytest.approx(times[number - first], abs=1e-6)
    steady = Grid(bpm=100.0, first_beat_seconds=1.0).recounted(beats, instead_of)
    assert steady.recounted(instead_of, beats).bpm == pytest.approx(100.0)
    assert steady.first_beat_seconds == 1.0
