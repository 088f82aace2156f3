"""Random directions of a smear: even, unlike from frame to frame, always the same; given to all that is no tone."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.stretching.noise_phases import MADE_UP, draw_directions, randomise_noise
from latespin.dsp.stretching.phase_kernels import find_peaks, powers

BINS, HALF = 8193, 8192


def directions(frame: int) -> np.ndarray:
    """What is drawn for a frame."""
    drawn = np.empty(BINS, np.complex64)
    draw_directions(frame, np.empty(BINS, np.float32), drawn)
    return drawn.astype(np.complex128)


@given(st.integers(-100_000, 100_000))
def test_directions_are_spread_evenly_and_belong_to_their_frame(frame: int) -> None:
    """Sums of n random directions are about √n long: one in nine million exceeds four times that."""
    drawn, following = directions(frame), directions(frame + 1)
    assert np.abs(np.abs(drawn) - 1.0).max() < 1e-4
    assert np.array_equal(drawn, directions(frame))
    limit = 4.0 * np.sqrt(BINS)
    for power in (1, 2, 3):
        assert abs(np.sum(drawn**power)) < limit
    assert abs(np.vdot(drawn, following)) < limit, "from frame to frame"
    assert abs(np.vdot(drawn[1:], drawn[:-1])) < limit, "from bin to bin"


@pytest.mark.parametrize("kept", [True, False])
def test_only_what_goes_on_for_a_window_is_a_tone(kept: bool) -> None:
    """A tone among noise: it keeps its phase where it goes on as its frequency says, and not where that is half a turn off."""
    rng, size = np.random.default_rng(4), 2 * HALF
    t, window = np.arange(4 * HALF), np.hanning(size + 1)[:size]
    tone = np.cos(2 * np.pi * 440.3 / size * t + (0.0 if kept else np.pi) * (t > 2 * HALF))
    sound = np.stack([tone, 0.5 * tone]) + 0.01 * rng.standard_normal((2, len(t)))
    before, now, after = (
        np.fft.rfft(sound[:, at : at + size] * window).astype(np.complex64)[None] for at in (0, HALF, 2 * HALF)
    )
    power, owner = np.empty((1, HALF + 1), np.float32), np.empty((1, HALF + 1), np.int32)
    powers(now, power)
    find_peaks(power, owner)
    reset, slopes, gain = (
        np.zeros(owner.shape, np.bool_),
        np.ones(owner.shape, np.complex64),
        np.ones(owner.shape, np.float32),
    )
    randomise_noise(power, before, after, owner, 7, reset, slopes, gain)
    assert reset[0, 440] == (not kept)
    assert np.mean(reset) > 0.8, "the noise, of which some goes on by chance"
    assert np.array_equal(slopes[0, reset[0]], directions(7)[reset[0]].astype(np.complex64))
    assert np.all(slopes[~reset] == 1.0)
    assert np.array_equal(gain, np.where(reset, MADE_UP, np.float32(1.0)))
