"""The limiter's slow stage: idle where little is taken off, ahead of a plain look-ahead limiter where much is."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import minimum_filter1d, uniform_filter1d

from latespin.dsp.dynamics.limiter import Limiter
from latespin.dsp.dynamics.slow_gain import SlowGain
from latespin.dsp.metering.true_peak import peak_envelope

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


def residual_db(sound: np.ndarray, gain: np.ndarray) -> float:
    """What is left after a gain, besides its mean over 0.2 s."""
    size = RATE // 5
    count = sound.shape[1] // size
    before = sound[0, : count * size].astype(np.float64).reshape(count, size)
    after = before * gain[: count * size].reshape(count, size)
    fitted = np.sum(before * after, axis=1) / np.sum(before**2, axis=1)
    return float(10 * np.log10(np.sum((after - fitted[:, None] * before) ** 2) / np.sum(after**2)))


def test_much_limiting_leaves_more_of_the_sound_than_a_plain_look_ahead() -> None:
    """Against 5 ms of attack and 120 ms of release, at peaks up to 8 dB over."""
    song = struck()
    ceiling = float(np.abs(song).max()) * 10 ** (-8.0 / 20.0)
    limiter = Limiter(RATE, 2, ceiling)
    late = limiter.latency
    padded = np.concatenate((song, np.zeros((2, late), np.float32)), axis=1)
    gain = np.abs(limiter.process(padded)[0, late:]) / np.maximum(np.abs(song[0]), 1e-9)
    heard = np.abs(song[0]) > 1e-3
    gain = np.interp(np.arange(len(gain)), np.flatnonzero(heard), gain[heard])
    need = np.minimum(1.0, ceiling / np.maximum(peak_envelope(song, RATE, ceiling), 1e-9))
    held = minimum_filter1d(need, 221)
    plain, now = np.empty(len(held)), 1.0
    for n, value in enumerate(held):
        now = value if value <= now else now + (1 - np.exp(-1 / (0.12 * RATE))) * (value - now)
        plain[n] = now
    plain = uniform_filter1d(uniform_filter1d(plain, 111), 111)
    assert residual_db(song, gain) < residual_db(song, plain)


@given(least=st.floats(0.86, 1.0), seed=st.integers(0, 1000))
def test_a_decibel_is_left_to_the_quick_stage(least: float, seed: int) -> None:
    needed = np.random.default_rng(seed).uniform(least, 1.0, 5_000)
    assert np.all(SlowGain(RATE).process(needed) == 1.0)


@given(cuts=st.lists(st.integers(1, 4_000), min_size=1, max_size=6), seed=st.integers(0, 1000))
def test_the_slow_gain_is_the_same_in_any_blocks(cuts: list[int], seed: int) -> None:
    needed = np.minimum(1.0, np.random.default_rng(seed).uniform(0.2, 3.0, 12_000))
    whole, stage, parts, at = SlowGain(RATE).process(needed), SlowGain(RATE), [], 0
    while at < len(needed):
        size = cuts[len(parts) % len(cuts)]
        parts.append(stage.process(needed[at : at + size]))
        at += size
    assert np.array_equal(np.concatenate(parts), whole)


def test_the_slow_gain_leaves_a_peak_by_itself_and_has_arrived_for_one_of_many() -> None:
    needed = np.ones(4 * RATE)
    needed[RATE] = 0.3
    assert np.all(SlowGain(RATE).process(needed) == 1.0)
    needed[::8_000] = 0.3
    needed[3 * RATE :] = 1.0
    gain, late = SlowGain(RATE).process(needed), SlowGain(RATE).latency
    peaks = np.arange(2 * RATE // 8_000 + 1, 3 * RATE // 8_000) * 8_000
    assert gain[peaks + late].max() < 0.6
    assert np.abs(np.diff(gain)).max() < 0.0012, "in about 40 ms, not at once"
