"""Filters, delays and the match filter against their analytic responses."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import butter, freqz_sos

from latespin.dsp.control.delay import Delay, FractionalDelay
from latespin.dsp.filters.cascade import (
    SLOPES,
    FilterCascade,
    bell,
    high_cut,
    high_pass,
    high_shelf,
    low_cut,
    low_pass,
    low_shelf,
    response,
)
from latespin.dsp.filters.fir import correlate
from latespin.dsp.filters.match_filter import TAPS_SECONDS, Matcher, filter_of

RATE = 48_000
HZ = np.geomspace(30.0, 20_000.0, 60)


def measured(sections, channels: int = 1) -> np.ndarray:
    """The response at HZ from the filter's own impulse response."""
    impulse = np.zeros((channels, 1 << 17), np.float32)
    impulse[:, 0] = 1.0
    out = FilterCascade(sections, channels).process(impulse)[0].astype(np.float64)
    return np.array([np.sum(out * np.exp(-2j * np.pi * hz / RATE * np.arange(len(out)))) for hz in HZ])


def decibels(values: np.ndarray) -> np.ndarray:
    """Magnitudes in dB, nothing below −120."""
    return 20.0 * np.log10(np.maximum(np.abs(values), 1e-6))


@pytest.mark.parametrize("slope", SLOPES)
@pytest.mark.parametrize("kind", ["low", "high"])
def test_cuts_are_scipys_butterworths(slope: int, kind: str) -> None:
    made = (low_pass if kind == "low" else high_pass)(900.0, RATE, slope)
    _, wanted = freqz_sos(butter(slope // 6, 900.0, kind, fs=RATE, output="sos"), HZ, fs=RATE)
    assert np.allclose(response(made, HZ, RATE), wanted, atol=1e-9)
    loud = decibels(wanted) > -90.0
    assert np.abs(decibels(measured(made)) - decibels(wanted))[loud].max() < 0.05


@given(
    hz=st.floats(60.0, 12_000.0), gain=st.floats(-18.0, 18.0), q=st.floats(0.3, 8.0),
)  # fmt: skip
def test_a_bell_has_its_gain_at_its_middle_and_none_far_away(hz: float, gain: float, q: float) -> None:
    section = [bell(hz, gain, q, RATE)]
    middle, bottom, top = np.abs(response(section, np.array([hz, 0.01, RATE / 2.0]), RATE))
    assert 20.0 * np.log10(middle) == pytest.approx(gain, abs=1e-6)
    assert 20.0 * np.log10(bottom) == pytest.approx(0.0, abs=1e-3)
    assert 20.0 * np.log10(top) == pytest.approx(0.0, abs=1e-4)
    undone = response([*section, bell(hz, -gain, q, RATE)], HZ, RATE)
    assert np.allclose(np.abs(undone), 1.0, atol=1e-6), "boost and cut of one bell cancel"


@given(hz=st.floats(60.0, 8_000.0), gain=st.floats(-18.0, 18.0))
def test_shelves_have_half_their_gain_at_their_corner(hz: float, gain: float) -> None:
    for shelf, full in ((low_shelf, 1.0), (high_shelf, 0.499 * RATE)):
        corner, level = np.abs(response([shelf(hz, gain, RATE)], np.array([hz, full]), RATE))
        assert 20.0 * np.log10(corner) == pytest.approx(gain / 2.0, abs=1e-6)
        assert 20.0 * np.log10(level) == pytest.approx(gain, abs=0.1)


def test_the_running_filter_has_the_response_that_is_drawn() -> None:
    sections = [bell(700.0, 6.0, 1.2, RATE), high_shelf(5_000.0, -4.0, RATE), low_shelf(120.0, 3.0, RATE)]
    wanted = response(sections, HZ, RATE)
    made = measured(sections)
    assert np.abs(decibels(made) - decibels(wanted)).max() < 0.01
    assert np.abs(np.angle(made / wanted)).max() < 1e-3


@pytest.mark.parametrize(("cut", "hz"), [(low_cut, 20.0), (low_cut, 10.0), (high_cut, 20_000.0)])
def test_an_open_cut_is_the_song_bit_for_bit(cut, hz: float) -> None:
    sound = np.random.default_rng(1).standard_normal((2, 5_000)).astype(np.float32)
    assert np.array_equal(FilterCascade(cut(hz, RATE, 24)).process(sound), sound)


@given(sizes=st.lists(st.integers(1, 999), min_size=1, max_size=6), frames=st.integers(0, 400))
def test_a_delay_gives_back_what_came_in(sizes: list[int], frames: int) -> None:
    sound = np.random.default_rng(2).standard_normal((3, sum(sizes))).astype(np.float32)
    delay, at, parts = Delay(3, frames), 0, []
    for size in sizes:
        parts.append(delay.process(sound[:, at : at + size]))
        at += size
    out = np.concatenate(parts, axis=1)
    assert np.all(out[:, :frames] == 0.0)
    assert np.array_equal(out[:, frames:], sound[:, : max(0, sound.shape[1] - frames)])


@given(frames=st.integers(2, 90), size=st.integers(1, 500))
def test_a_fractional_delay_of_whole_frames_is_exact(frames: int, size: int) -> None:
    sound = np.random.default_rng(3).standard_normal(1_200).astype(np.float32)
    delay = FractionalDelay(100)
    out = np.concatenate([delay.process(sound[at : at + size], float(frames)) for at in range(0, 1_200, size)])
    assert np.array_equal(out[frames:], sound[:-frames])


@pytest.mark.parametrize("hz", [100.0, 1_000.0, 4_000.0])
@given(part=st.floats(0.01, 0.99))
def test_a_fractional_delay_is_within_lagranges_error(hz: float, part: float) -> None:
    """The error of third-order interpolation of a tone is at most ω⁴ · 3/128 (the largest of |x(x−1)(x+1)(x−2)|/24 is 3/128)."""
    frames = 40.0 + part
    at = np.arange(3_000)
    tone = np.sin(2 * np.pi * hz / RATE * at).astype(np.float32)
    out = FractionalDelay(100).process(tone, np.full(len(at), frames))
    wanted = np.sin(2 * np.pi * hz / RATE * (at - frames))
    bound = (2 * np.pi * hz / RATE) ** 4 * 3.0 / 128.0 + 2e-6
    assert np.abs(out - wanted)[200:].max() <= bound


@given(frames=st.integers(1, 300), taps=st.integers(1, 40))
def test_correlation_is_numpys(frames: int, taps: int) -> None:
    rng = np.random.default_rng(4)
    heard, weights = rng.standard_normal((1, frames + taps - 1)), rng.standard_normal(taps)
    made = correlate(heard.astype(np.float32), weights.astype(np.float32))
    assert np.allclose(made[0], np.correlate(heard[0], weights, "valid"), atol=1e-3)


POINTS = np.geomspace(40.0, 16_000.0, 24)
GAINS = 6.0 * np.sin(np.log(POINTS))


@pytest.mark.parametrize("minimum", [False, True])
def test_both_match_filters_have_the_magnitude_asked_for(minimum: bool) -> None:
    made = filter_of(GAINS, 0.0 * GAINS, POINTS, RATE, minimum=minimum)
    mid, side = made.response
    for taps, gains in ((mid, GAINS), (side, 0.0 * GAINS)):
        spectrum = np.abs(np.fft.rfft(taps, 1 << 17))
        at = np.interp(POINTS[2:-1], np.fft.rfftfreq(1 << 17, 1.0 / RATE), spectrum)
        assert np.abs(20.0 * np.log10(at) - gains[2:-1]).max() < 0.3


def test_the_linear_match_filter_is_symmetric_with_its_latency_and_the_minimum_one_early() -> None:
    linear = filter_of(GAINS, GAINS, POINTS, RATE, minimum=False)
    taps = linear.response[0].astype(np.float64)
    assert linear.delay == len(taps) // 2 == (1 << round(np.log2(TAPS_SECONDS * RATE))) // 2
    assert np.allclose(taps[1 : len(taps) // 2], taps[: len(taps) // 2 : -1], atol=1e-6)
    early = filter_of(GAINS, GAINS, POINTS, RATE, minimum=True)
    energy = np.cumsum(early.response[0].astype(np.float64) ** 2)
    assert early.delay == 0
    assert energy[RATE // 100] > 0.99 * energy[-1], "99 % of the energy within 10 ms"


@pytest.mark.parametrize("minimum", [False, True])
def test_a_match_filter_of_no_gains_only_delays(minimum: bool) -> None:
    matcher = Matcher(filter_of(0.0 * GAINS, 0.0 * GAINS, POINTS, RATE, minimum=minimum))
    sound = (0.1 * np.random.default_rng(5).standard_normal((2, RATE))).astype(np.float32)
    out = matcher.process(sound)
    assert np.abs(out[:, matcher.latency :] - sound[:, : -matcher.latency]).max() < 2e-4
