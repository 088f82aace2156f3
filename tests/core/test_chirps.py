"""Tones that glide: a frame of a slowed song has the spectrum of the slower glide."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.stretching.regions import find_regions

RATE, WINDOW, HOP = 44_100, 2048, 512
BEGIN_HZ = 3000.0


def spectrum(hertz_per_second: float, centre: float, left: float = 1.0, right: float = 1.0) -> np.ndarray:
    """Of a tone that glides through 3 kHz at time 0, through a window around a frame, ``[2, bins]``."""
    t = (np.arange(WINDOW) - WINDOW // 2 + centre) / RATE
    wave = np.cos(2 * np.pi * (BEGIN_HZ * t + 0.5 * hertz_per_second * t * t)) * np.hanning(WINDOW + 1)[:WINDOW]
    return np.stack([np.fft.rfft(wave) * gain for gain in (left, right)]).astype(np.complex64)


def changed(hertz_per_second: float, growth: float, right: float) -> tuple[np.ndarray, np.ndarray]:
    """The middle frame of a glide in a song that becomes ``growth`` times as long, and as it should be; about the peak, as seen from it."""
    frames = np.stack([spectrum(hertz_per_second, n * HOP / growth, right=right) for n in (-1, 0, 1)])
    found = find_regions(frames, np.full(3, growth), HOP)
    made, wanted = (frames[1] * found.gain[1] * found.phase_slopes[1])[0], spectrum(hertz_per_second / growth, 0.0)[0]
    peak = int(np.argmax(np.abs(wanted)))
    near = slice(peak - 4, peak + 5)
    return made[near] / made[peak], wanted[near] / wanted[peak]


@pytest.mark.parametrize("right", [1.0, 0.0, -0.5])
@pytest.mark.parametrize("growth", [0.7, 1.5, 2.0])
@pytest.mark.parametrize("glide", [2e4, 4e4, -2e4, -4e4])
def test_a_glide_becomes_a_glide_as_much_slower_as_the_song(glide: float, growth: float, right: float) -> None:
    """Within 1 %, in magnitude and phase; left as it is, it would be wrong by 10 to 60 %. Channels may differ in level and sign."""
    made, wanted = changed(glide, growth, right)
    assert np.linalg.norm(made - wanted) < 0.01 * np.linalg.norm(wanted)


@given(st.floats(-200.0, 200.0), st.floats(0.5, 2.0))
def test_a_tone_that_hardly_glides_is_hardly_changed(glide: float, growth: float) -> None:
    frames = np.stack([spectrum(glide, n * HOP / growth) for n in (-1, 0, 1)])
    found = find_regions(frames, np.full(3, growth), HOP)
    peak = int(np.argmax(np.abs(frames[1, 0])))
    assert found.peak_of_bin[1, peak] == peak
    assert np.abs(found.gain[1, peak - 1 : peak + 2] - 1.0).max() < 0.05
    assert np.abs(np.angle(found.phase_slopes[1, peak - 1 : peak + 2])).max() < 0.1


@pytest.mark.parametrize("growth", [0.7, 1.5])
def test_the_ends_of_what_is_seen_are_never_redrawn(growth: float) -> None:
    """The first and the last frame have no neighbour to tell a glide by."""
    frames = np.stack([spectrum(2e4, n * HOP / growth) for n in (-1, 0, 1)])
    found = find_regions(frames, np.full(3, growth), HOP)
    assert np.all(found.gain[[0, 2]] == 1.0)
    assert np.any(found.gain[1] != 1.0)
    assert np.array_equal(found.via[[0, 2]], np.tile(np.arange(frames.shape[2]), (2, 1)))
