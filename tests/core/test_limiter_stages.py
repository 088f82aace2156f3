"""The limiter's stages: the slower ones idle at a peak by itself, ahead of a plain look-ahead limiter where much is taken off."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import minimum_filter1d, uniform_filter1d
from scipy.signal import fftconvolve, firwin

from latespin.dsp.arrays import amplitude
from latespin.dsp.dynamics.busy_stage import BusyStage, StageSettings
from latespin.dsp.dynamics.limiter import MIDDLE, SLOW, Limiter
from latespin.dsp.metering.true_peak import peak_envelope
from latespin.media.track import Track

RATE = 44_100


def struck(seconds: float = 12.0) -> np.ndarray:
    """Hits that die away over a steady chord, 10 to 14 dB above it, ``[2, frames]``."""
    rng = np.random.default_rng(5)
    t = np.arange(round(seconds * RATE)) / RATE
    wave = 0.1 * np.sum([np.sin(2 * np.pi * f * t + f) for f in (110.0, 164.8, 220.0, 277.2, 440.0)], axis=0)
    for at in np.arange(0.3, seconds - 0.5, 0.42):
        start = round((at + 0.02 * rng.standard_normal()) * RATE)
        hit = np.exp(-np.arange(RATE // 3) / RATE * 22) * rng.standard_normal(RATE // 3)
        wave[start : start + len(hit)] += rng.uniform(0.35, 0.7) * hit
    return np.stack((wave, wave)).astype(np.float32)


def modulation_db(sound: np.ndarray, gain: np.ndarray) -> float:
    """What changes of a gain faster than 25 Hz add."""
    slow = fftconvolve(np.pad(gain, 4410, mode="edge"), firwin(8821, 25.0, fs=RATE, window=("kaiser", 8.0)), "valid")
    return float(10 * np.log10(np.sum((sound[0] * (gain - slow)) ** 2) / np.sum((sound[0] * gain) ** 2)))


def plain_gain(needed: np.ndarray) -> np.ndarray:
    """A plain look-ahead limiter: 5 ms of attack and 120 ms of release."""
    held = minimum_filter1d(needed, 221)
    plain, now = np.empty(len(held)), 1.0
    for n, value in enumerate(held):
        now = value if value <= now else now + (1 - np.exp(-1 / (0.12 * RATE))) * (value - now)
        plain[n] = now
    return np.asarray(uniform_filter1d(uniform_filter1d(plain, 111), 111))


def limited(song: np.ndarray, ceiling: float) -> np.ndarray:
    """The song through the limiter, its delay taken off."""
    limiter = Limiter(RATE, 2, ceiling)
    return limiter.process(np.pad(song, ((0, 0), (0, limiter.latency))))[:, limiter.latency :]


def both_gains(song: np.ndarray, over_db: float) -> tuple[np.ndarray, np.ndarray]:
    """The gain of the limiter and of a plain one, for a song whose highest peak is so far over the ceiling."""
    ceiling = float(np.abs(song).max()) * 10 ** (-over_db / 20.0)
    gain = np.abs(limited(song, ceiling)[0]) / np.maximum(np.abs(song[0]), 1e-9)
    heard = np.abs(song[0]) > 1e-3
    gain = np.interp(np.arange(len(gain)), np.flatnonzero(heard), gain[heard])
    return gain, plain_gain(np.minimum(1.0, ceiling / np.maximum(peak_envelope(song, RATE, ceiling), 1e-9)))


def test_fast_changes_of_the_gain_add_far_less_than_those_of_a_plain_look_ahead(lantern: Track) -> None:
    """A tenth where hits stand 8 dB over the ceiling, a third in a song 6 dB over it."""
    excerpt = np.repeat(lantern.sound[:1, 30 * RATE : 46 * RATE], 2, axis=0)
    for song, over_db, less_db in ((struck(), 8.0, 10.0), (excerpt, 6.0, 5.0)):
        gain, plain = both_gains(song, over_db)
        assert modulation_db(song, gain) < modulation_db(song, plain) - less_db


def test_rounding_does_not_grow(lantern: Track) -> None:
    """Whether a stage counts as busy must not hang on the last bit of a gain: export and preview would differ."""
    song = 1.6 * lantern.sound[:, : 8 * RATE]
    noise = 1e-7 * np.random.default_rng(0).standard_normal(song.shape)
    assert np.abs(limited((song + noise).astype(np.float32), 0.89) - limited(song, 0.89)).max() < 5e-6


@pytest.mark.parametrize("hz", [30, 50, 100])
def test_a_steady_bass_over_the_ceiling_keeps_its_shape(hz: int) -> None:
    """3 dB over. A gain that followed its wave would add harmonics."""
    wave = 0.5 * np.sin(2 * np.pi * hz * np.arange(3 * RATE) / RATE).astype(np.float32)
    made = limited(np.stack((wave, wave)), 0.5 * 10 ** (-3.0 / 20.0))[0, RATE : 2 * RATE].astype(np.float64)
    power = np.abs(np.fft.rfft(made * np.blackman(RATE))) ** 2
    tone = power[hz - 3 : hz + 4].sum()
    assert 10 * np.log10((power[5:].sum() - tone) / tone) < -115.0


@pytest.mark.parametrize("settings", [SLOW, MIDDLE])
@given(cuts=st.lists(st.integers(1, 4_000), min_size=1, max_size=6), seed=st.integers(0, 1000))
def test_a_busy_stage_is_the_same_in_any_blocks(settings: StageSettings, cuts: list[int], seed: int) -> None:
    needed = np.minimum(1.0, np.random.default_rng(seed).uniform(0.2, 3.0, 12_000))
    whole, stage, parts, at = BusyStage(RATE, settings).process(needed), BusyStage(RATE, settings), [], 0
    while at < len(needed):
        size = cuts[len(parts) % len(cuts)]
        parts.append(stage.process(needed[at : at + size]))
        at += size
    assert np.array_equal(np.concatenate(parts), whole)


@pytest.mark.parametrize("settings", [SLOW, MIDDLE])
def test_a_busy_stage_leaves_a_peak_by_itself_and_has_arrived_for_one_of_many(settings: StageSettings) -> None:
    needed = np.ones(4 * RATE)
    needed[RATE] = 0.3
    assert np.all(BusyStage(RATE, settings).process(needed) == 1.0)
    needed[::8_000] = 0.3
    needed[3 * RATE :] = 1.0
    stage = BusyStage(RATE, settings)
    gain = stage.process(needed)
    peaks = np.arange(2 * RATE // 8_000 + 1, 3 * RATE // 8_000) * 8_000
    taken = 1.0 - gain[peaks + stage.latency]
    assert taken.min() > 0.98 * (1.0 - 0.3 * amplitude(settings.leaves_db))
    assert np.abs(np.diff(gain)).max() < 2.0 * 0.7 / (settings.attack_seconds * RATE), "in its time, not at once"
