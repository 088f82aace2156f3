"""The lows of a stretch: close partials in the bass stay apart, nothing is lost around the crossover, attacks stay short."""

import numpy as np
import pytest
from scipy.signal import fftconvolve, firwin

from latespin.dsp.stretching.low_band import low_band_for
from latespin.dsp.stretching.phase_vocoder import Stretcher
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.model.version import Time
from latespin.render.sources.music_reader import MusicReader
from tests.conftest import cents, track_of

CLOSE = 60.0 + 17.0 * np.arange(14)


def stretched(wave: np.ndarray, rate: int, speed: float) -> np.ndarray:
    """A mono sound at another speed, pitch held, as float64."""
    reader = MusicReader(track_of(wave.astype(np.float32)[None], rate), Time(speed=speed, pitch="held"))
    return reader.read(0, reader.map.after_frames)[0].astype(np.float64)


@pytest.mark.parametrize(("speed", "rate"), [(0.667, 44_100), (1.5, 48_000)])
def test_partials_17_hz_apart_keep_pitch_and_level(speed: float, rate: int) -> None:
    """From 60 Hz up: within a cent, and wavering by less than a decibel."""
    t = np.arange(7 * rate) / rate
    chord = 0.04 * np.sum([np.sin(2 * np.pi * f * t + i * i) for i, f in enumerate(CLOSE)], axis=0)
    out = stretched(chord, rate, speed)[rate:-rate]
    low_pass = firwin(int(0.6 * rate) | 1, 8.0, fs=rate, window=("kaiser", 7.0))
    for f in CLOSE:
        turned = out * np.exp(-2j * np.pi * f * np.arange(len(out)) / rate)
        partial = fftconvolve(turned, low_pass, "valid")[::100]
        drift = np.polyfit(np.arange(len(partial)), np.unwrap(np.angle(partial)), 1)[0] * rate / (200 * np.pi)
        assert abs(cents(f + drift, f)) < 1.0
        assert np.std(20 * np.log10(np.abs(partial))) < 1.0


@pytest.mark.parametrize("hz", [90.0, 250.0, 330.0, 380.0, 410.0, 450.0, 600.0])
def test_nothing_is_lost_around_the_crossover(hz: float) -> None:
    tone = 0.5 * np.sin(2 * np.pi * hz * np.arange(4 * 44_100) / 44_100)
    out = stretched(tone, 44_100, 0.8)[44_100:-44_100]
    assert 20 * np.log10(np.sqrt(2 * np.mean(out**2)) / 0.5) == pytest.approx(0.0, abs=0.05)


@pytest.mark.parametrize("speed", [0.667, 1.5])
def test_a_drum_in_the_lows_does_not_sound_before_it_is_struck(speed: float) -> None:
    """Over a bass note that goes on: the bass before the drum is as loud as long before."""
    rate = 44_100
    t = np.arange(3 * rate) / rate
    drum = np.where(t > 1.5, np.exp(-(t - 1.5) * 25) * np.sin(2 * np.pi * 80 * (t - 1.5)), 0.0)
    out = stretched(0.05 * np.sin(2 * np.pi * 130 * t) + 0.8 * drum, rate, speed)
    struck = round(1.5 * rate / speed)
    long_before, before = out[struck - rate // 2 : struck - rate // 4], out[struck - 4_000 : struck - 150]
    assert 10 * np.log10(np.mean(before**2) / np.mean(long_before**2)) < 0.5


def test_lows_are_made_apart_where_the_frames_fit() -> None:
    for rate, hop in ((44_100, 1280), (48_000, 1280), (96_000, 2560), (44_100, 640), (44_100, 512)):
        band = low_band_for(rate, hop, 4 * hop)
        assert band is not None
        assert band.reach >= 2 * hop
    assert low_band_for(8_000, 224, 896) is None


@pytest.mark.parametrize(("first", "silent"), [(-900, True), (-2, False), (400, True)])
def test_frames_beyond_the_song_are_silent(first: int, silent: bool) -> None:
    song = (0.3 * np.random.default_rng(1).standard_normal((2, 6_000))).astype(np.float32)
    stretcher = Stretcher(song, 44_100, SpeedByPosition.steady(0.7), 0, 8_000)
    grains = stretcher.grains(first, first + 20)
    sound = stretcher.finish(grains, stretcher.turns(grains, stretcher.entry())).sound
    assert (np.abs(sound).max() < 1e-6) == silent


@pytest.mark.parametrize("frames", [3, 1000, 1023, 1024, 1025, 3000])
def test_lows_are_raised_through_the_filter(frames: int) -> None:
    """Zeros between the frames, then the low-pass times the step (the interpolator of multirate theory), whatever the number of frames."""
    band = low_band_for(44_100, 640, 2560)
    assert band is not None
    low = np.random.default_rng(frames).standard_normal((2, frames)).astype(np.float32)
    between = np.zeros((2, frames * band.step))
    between[:, :: band.step] = low
    wanted = fftconvolve(between, band.step * band._filter[None].astype(np.float64), axes=1)
    raised = band._raised(low)
    assert np.abs(raised[:, : wanted.shape[1]] - wanted[:, : raised.shape[1]]).max() < 1e-5
