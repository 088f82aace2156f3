"""The true peak is that of all points between samples, though most are never worked out."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.metering.true_peak import (
    HALF_TAPS,
    STRIDE,
    TruePeakMeter,
    interpolator,
    oversampling,
    peak_envelope,
    true_peak,
)


def all_points(wave: np.ndarray, rate: int) -> np.ndarray:
    """Absolute values of a channel and of every point in the gap after each frame, ``[frames + 2·HALF_TAPS, factor]``."""
    taps = interpolator(oversampling(rate)).astype(np.float64)
    padded = np.pad(wave.astype(np.float64), 2 * HALF_TAPS)
    frames = np.lib.stride_tricks.sliding_window_view(padded, 2 * HALF_TAPS)
    return np.abs(np.column_stack((frames[:, HALF_TAPS - 1], frames @ taps.T)))


def uneven(seed: int, frames: int = 6_000) -> np.ndarray:
    """Noise in passages of very different levels, with single samples that stand out."""
    rng = np.random.default_rng(seed)
    levels = np.repeat(10 ** rng.uniform(-2.0, 0.0, frames // 200), 200)
    wave = rng.uniform(-1.0, 1.0, frames) * levels
    wave[rng.integers(0, frames, 5)] = rng.uniform(-1.2, 1.2, 5)
    return wave.astype(np.float32)


@pytest.mark.parametrize("rate", [44_100, 96_000])
@given(seed=st.integers(0, 10_000))
def test_leaving_points_out_changes_no_true_peak(rate: int, seed: int) -> None:
    wave = uneven(seed)
    assert true_peak(wave[None], rate) == pytest.approx(all_points(wave, rate).max(), rel=1e-5)


@given(seed=st.integers(0, 10_000), cuts=st.lists(st.integers(1, 3 * STRIDE), min_size=1, max_size=5))
def test_a_meter_finds_it_in_any_blocks(seed: int, cuts: list[int]) -> None:
    wave, meter, at, turn = uneven(seed), TruePeakMeter(44_100, 1), 0, 0
    while at < len(wave):
        size = cuts[turn % len(cuts)]
        meter.push(wave[None, at : at + size])
        at, turn = at + size, turn + 1
    assert meter.finish() == pytest.approx(true_peak(wave[None], 44_100), rel=1e-6)


@given(seed=st.integers(0, 10_000), interesting=st.floats(0.05, 1.0))
def test_an_envelope_has_every_point_above_what_is_interesting(seed: int, interesting: float) -> None:
    wave = uneven(seed)
    gaps = all_points(wave, 44_100)[:, 1:].max(axis=1)  # gap g is the one after frame g − HALF_TAPS − 1
    around = np.maximum(gaps[HALF_TAPS : HALF_TAPS + len(wave)], gaps[HALF_TAPS + 1 : HALF_TAPS + 1 + len(wave)])
    wanted = np.maximum(np.abs(wave), around)
    found = peak_envelope(wave[None], 44_100, interesting)
    above = wanted > interesting
    assert np.allclose(found[above], wanted[above], rtol=1e-5)
    assert found[~above].max(initial=0.0) <= interesting * (1.0 + 1e-5)
