"""What is only for the ears and eyes while a song plays: clicks, meters, swept filters."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.filters.state_variable import HighPass, SweptLowPass
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Time
from latespin.render.playback.live_meter import LiveMeter
from latespin.render.playback.metronome import click_places, with_clicks
from tests.conftest import level_db, noise, sine

RATE = 44_100
GRID = Grid(bpm=120.0, first_beat_seconds=0.25, beats_per_bar=4)


@pytest.mark.parametrize("speed", [0.5, 1.0, 1.37])
def test_clicks_lie_where_beats_are_heard_and_bars_are_marked(speed: float) -> None:
    frames = 10 * RATE
    places, bars = click_places(GRID, RATE, frames, compile_time_map(Time(speed=speed), frames, RATE))
    assert np.allclose(places, (0.25 + 0.5 * np.arange(20)) * RATE / speed, atol=1.0)
    assert bars.tolist() == [i % 4 == 0 for i in range(20)]


@given(sizes=st.lists(st.integers(1, 9_000), min_size=1, max_size=12))
def test_clicks_are_the_same_in_blocks_of_any_size(sizes: list[int]) -> None:
    places = click_places(GRID, RATE, 3 * RATE, None)
    song = noise(3.0)
    whole = with_clicks(song, 0, places, RATE)
    edges = np.minimum(np.cumsum([0, *sizes]), song.shape[1])
    parts = [with_clicks(song[:, a:b], int(a), places, RATE) for a, b in itertools.pairwise(edges)]
    assert np.array_equal(np.concatenate(parts, axis=1), whole[:, : edges[-1]])
    silent = round(0.25 * RATE)
    assert np.array_equal(whole[:, :silent], song[:, :silent])
    assert np.abs(whole - song).max() == pytest.approx(0.35, abs=0.05)


def test_the_live_meter_shows_what_the_standard_says_of_a_steady_tone() -> None:
    """EBU Tech 3341, case 1: a stereo sine of 1 kHz at −23 dBFS is −23 LUFS on every scale; its peak is its level."""
    meter = LiveMeter(48_000)
    tone = sine(1_000.0, 20.0, 48_000, 10 ** (-23.0 / 20.0))
    shown = meter.hear(np.array_split(tone, 100, axis=1))
    assert (shown.momentary, shown.short_term, shown.integrated) == pytest.approx((-23.0, -23.0, -23.0), abs=0.1)
    assert shown.true_peak == pytest.approx(-23.0, abs=0.1)


def test_after_a_change_the_live_meter_tells_of_what_is_heard_now() -> None:
    """Integrated loudness and true peak begin anew; the bars go on."""
    meter = LiveMeter(48_000)
    loud, soft = (sine(1_000.0, 8.0, 48_000, 10 ** (level / 20.0)) for level in (-3.0, -23.0))
    meter.hear([loud])
    just_changed = meter.hear([None, soft[:, :4_800]])
    assert just_changed.true_peak == pytest.approx(-23.0, abs=0.3)
    assert just_changed.momentary > -5.0
    assert just_changed.integrated == -np.inf, "not 400 ms yet"
    shown = meter.hear([soft])
    assert (shown.integrated, shown.true_peak) == pytest.approx((-23.0, -23.0), abs=0.1)


@pytest.mark.parametrize("corner", [200.0, 1_000.0, 6_000.0])
@pytest.mark.parametrize("octaves", [-3.0, -1.0, 0.0, 1.0])
def test_the_swept_low_pass_is_a_butterworth_of_fourth_order(corner: float, octaves: float) -> None:
    """Zavalishin: the trapezoidal rule is the bilinear transform, so that tan(πf/rate) stands for the frequency."""
    hz = corner * 2.0**octaves
    tone = sine(hz, 3.0)
    out = SweptLowPass(RATE, 2).process(tone, np.full(tone.shape[1], corner))
    warped = np.tan(np.pi * hz / RATE) / np.tan(np.pi * corner / RATE)
    heard = level_db(out[:, RATE:]) - level_db(tone[:, RATE:])
    assert heard == pytest.approx(-10.0 * np.log10(1.0 + warped**8), abs=0.03)


def test_the_high_pass_is_a_butterworth_of_second_order_and_passes_no_direct_current() -> None:
    for hz in (40.0, 80.0, 160.0, 2_000.0):
        tone = sine(hz, 1.0)
        heard = level_db(HighPass(RATE, 2, 80.0).process(tone)[:, RATE // 2 :]) - level_db(tone[:, RATE // 2 :])
        warped = np.tan(np.pi * 80.0 / RATE) / np.tan(np.pi * hz / RATE)
        assert heard == pytest.approx(-10.0 * np.log10(1.0 + warped**4), abs=0.03)
    still = HighPass(RATE, 1, 80.0).process(np.ones((1, RATE), np.float32))
    assert np.abs(still[:, RATE // 2 :]).max() < 1e-6


@given(start=st.floats(30.0, 15_000.0), stop=st.floats(30.0, 15_000.0), size=st.integers(1, 3_000))
def test_a_sweep_is_the_same_in_blocks_of_any_size(start: float, stop: float, size: int) -> None:
    sound = noise(0.2)
    corners = np.geomspace(start, stop, sound.shape[1])
    whole = SweptLowPass(RATE, 2, 2.0).process(sound, corners)
    filtered = SweptLowPass(RATE, 2, 2.0)
    parts = [filtered.process(sound[:, i : i + size], corners[i : i + size]) for i in range(0, sound.shape[1], size)]
    assert np.array_equal(np.concatenate(parts, axis=1), whole)
