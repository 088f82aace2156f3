"""The phase vocoder's kernels against the same thing written out one number at a time."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.stretching import phase_kernels as kernels
from latespin.dsp.stretching.regions import find_regions

SHAPES = st.tuples(st.integers(2, 6), st.integers(1, 2), st.integers(6, 40), st.integers(0, 10_000))


def spectra_of(shape: tuple[int, int, int], seed: int) -> np.ndarray:
    """Spectra ``[frames, channels, bins]`` with clear peaks in noise."""
    rng = np.random.default_rng(seed)
    made = rng.standard_normal(shape) + 1j * rng.standard_normal(shape)
    made *= 1.0 + 8.0 * (rng.random(shape[2]) > 0.8)
    return made.astype(np.complex64)


@given(SHAPES)
def test_powers_are_the_sum_over_channels(case) -> None:
    frames, channels, bins, seed = case
    spectra = spectra_of((frames, channels, bins), seed)
    out = np.empty((frames, bins), np.float32)
    kernels.powers(spectra, out)
    wanted = np.sum(np.abs(spectra.astype(np.complex128)) ** 2, axis=1)
    assert np.allclose(out, wanted, rtol=1e-5)


@given(SHAPES)
def test_each_bin_belongs_to_a_peak_and_regions_end_at_the_lowest_bin_between(case) -> None:
    frames, _, bins, seed = case
    powers = np.random.default_rng(seed).random((frames, bins)).astype(np.float32)
    owners = np.empty((frames, bins), np.int32)
    kernels.find_peaks(powers, owners)
    for power, owner in zip(powers, owners, strict=True):
        peaks = [
            k for k in range(bins)
            if (k == 0 or power[k - 1] < power[k]) and (k == bins - 1 or power[k + 1] <= power[k])
        ]  # fmt: skip
        assert set(owner.tolist()) == set(peaks)
        assert all(owner[k] == k for k in peaks)
        assert np.all(np.diff(owner) >= 0), "regions do not cross"
        for first, second in pairwise(peaks):
            edge = int(np.flatnonzero(owner == second)[0])
            between = power[first + 1 : second]
            if len(between):
                assert power[edge] == between.min()


def propagated(now, advance, peak_of_bin, reset, slopes, via, ahead, turns):
    """Laroche and Dolson's propagation, one bin at a time, in double precision."""
    turns = turns.astype(np.complex128).copy()
    for m in range(1, len(now)):
        found = {}
        for peak in sorted(set(peak_of_bin[m].tolist())):
            b = via[m, peak]
            total = sum(
                complex(now[m - 1, c, b]) * complex(now[m, c, b]).conjugate() * complex(advance[m, c, b])
                for c in range(now.shape[1])
            )
            direction = total / abs(total) if abs(total) > 0.0 else 1.0
            found[peak] = direction * turns[m - 1, b] * complex(slopes[m, b]).conjugate() * np.exp(1j * ahead[m, peak])
        for k in range(now.shape[2]):
            slope = complex(slopes[m, k])
            turns[m, k] = slope if reset[m, k] else found[peak_of_bin[m, k]] * slope
    return turns


@given(SHAPES)
def test_phases_are_propagated_as_written_out(case) -> None:
    frames, channels, bins, seed = case
    rng = np.random.default_rng(seed)
    now, advance = spectra_of((frames, channels, bins), seed), spectra_of((frames, channels, bins), seed + 1)
    powers = np.empty((frames, bins), np.float32)
    kernels.powers(now, powers)
    peak_of_bin = np.empty((frames, bins), np.int32)
    kernels.find_peaks(powers, peak_of_bin)
    reset = (rng.random((frames, bins)) > 0.8) & (peak_of_bin != np.arange(bins))
    slopes = np.exp(1j * rng.uniform(-1.0, 1.0, (frames, bins))).astype(np.complex64)
    for m in range(frames):
        slopes[m, np.unique(peak_of_bin[m])] = 1.0
    via = np.tile(np.arange(bins, dtype=np.int32), (frames, 1))
    ahead = np.where(rng.random((frames, bins)) > 0.5, rng.uniform(-1.0, 1.0, (frames, bins)), 0.0).astype(np.float32)
    turns = slopes.copy()
    turns[0] = np.exp(1j * rng.uniform(-np.pi, np.pi, bins))
    wanted = propagated(now, advance, peak_of_bin, reset, slopes, via, ahead, turns)
    kernels.propagate_phases(now, advance, peak_of_bin, reset, slopes, via, ahead, 0.0, turns)
    assert np.abs(turns - wanted).max() < 2e-4
    assert np.allclose(np.abs(turns), 1.0, atol=1e-4), "bins are only turned, never made louder"


@given(SHAPES)
def test_a_song_that_is_not_stretched_keeps_its_slopes(case) -> None:
    frames, channels, bins, seed = case
    spectra = spectra_of((frames, channels, bins), seed)
    powers, peaks = np.empty((frames, bins), np.float32), np.empty((frames, bins), np.int32)
    kernels.powers(spectra, powers)
    kernels.find_peaks(powers, peaks)
    found = find_regions(spectra, np.ones(frames), 8)
    assert np.all(found.phase_slopes == 1.0)
    assert np.all(found.gain == 1.0)
    assert np.array_equal(found.peak_of_bin, peaks)


@pytest.mark.parametrize("ratio", [0.5, 1.5, 2.0])
def test_the_slope_of_a_late_click_is_scaled_with_the_stretch(ratio: float) -> None:
    """A click ``d`` frames after the window's middle has the phase −ω d; stretched by r it has to lie r·d after it."""
    size, d = 256, 5
    bins = size // 2 + 1
    spectrum = np.exp(-2j * np.pi * np.arange(bins) * d / size) * (-1.0) ** np.arange(bins)
    spectrum *= np.exp(-0.5 * ((np.arange(bins) - 40) / 12.0) ** 2)  # one peak, so that all bins are turned about it
    spectra = spectrum.astype(np.complex64)[None, None]
    near = slice(25, 56)
    turned = np.unwrap(np.angle(find_regions(spectra, np.array([ratio]), 64).phase_slopes[0, near]))
    assert np.diff(turned) == pytest.approx(np.full(30, -2 * np.pi * d / size * (ratio - 1.0)), abs=2e-3)


@given(st.integers(0, 60), st.lists(st.integers(-50, 80), min_size=1, max_size=5), st.integers(1, 2))
def test_grains_are_parts_of_a_song_that_is_silent_outside(frames: int, starts: list[int], channels: int) -> None:
    song = np.random.default_rng(frames).standard_normal((channels, frames)).astype(np.float32)
    shape = np.linspace(0.5, 1.0, 24, dtype=np.float32)
    out = np.full((len(starts), channels, 24), np.nan, np.float32)
    kernels.cut_grains(song, np.array(starts), shape, out)
    wide = np.pad(song, ((0, 0), (100, 200)))
    for start, grain in zip(starts, out, strict=True):
        assert np.array_equal(grain, wide[:, 100 + start : 124 + start] * shape)


@given(frames=st.integers(1, 6), window=st.sampled_from([16, 32]), seed=st.integers(0, 99))
def test_overlap_add_is_a_sum_of_windowed_frames(frames: int, window: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    hop = window // 4
    grains = rng.standard_normal((frames, 2, window)).astype(np.float32)
    shape = rng.random(window).astype(np.float32)
    out = np.zeros((2, (frames - 1) * hop + window), np.float32)
    kernels.overlap_add(grains, shape, hop, out)
    wanted = np.zeros(out.shape)
    for m in range(frames):
        wanted[:, m * hop : m * hop + window] += grains[m] * shape
    assert np.allclose(out, wanted, atol=1e-5)


@given(SHAPES)
def test_rotation_multiplies_all_channels_alike(case) -> None:
    frames, channels, bins, seed = case
    spectra = spectra_of((frames, channels, bins), seed)
    turns = np.exp(1j * np.random.default_rng(seed).uniform(-np.pi, np.pi, (frames, bins))).astype(np.complex64)
    wanted = spectra * turns[:, None, :]
    kernels.rotate(spectra, turns)
    assert np.allclose(spectra, wanted, atol=1e-4)
