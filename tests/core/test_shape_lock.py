"""Pitch pulses keep their shape when a voice is stretched; chords are left alone."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.stretching.shape_lock import lock_shape
from latespin.model.version import Time
from latespin.render.sources.music_reader import MusicReader
from tests.conftest import track_of

RATE = 44_100
BINS = 2561
HERTZ = RATE / (2 * (BINS - 1))


def pulses(hertz: float, vibrato_percent: float, seconds: float = 4.0) -> np.ndarray:
    """A pulse train of up to 60 partials through three formants, ``[1, frames]``."""
    t = np.arange(round(seconds * RATE)) / RATE
    phase = 2 * np.pi * np.cumsum(hertz * (1 + vibrato_percent / 100 * np.sin(2 * np.pi * 5.5 * t))) / RATE
    wave = np.zeros(len(t))
    for k in range(1, min(60, int(15_000 / hertz)) + 1):
        formants = sum(
            g / (1 + ((k * hertz - f) / w) ** 2) for f, w, g in ((620, 80, 1), (1180, 110, 0.6), (2600, 160, 0.35))
        )
        wave += (formants + 0.03) * np.cos(k * phase)
    return (0.5 * wave / np.abs(wave).max()).astype(np.float32)[None]


def crest_db(sound: np.ndarray) -> float:
    """Median crest factor of blocks of 46 ms, away from both ends."""
    inside = sound[0, RATE // 2 : -RATE // 2].astype(np.float64)
    blocks = inside[: len(inside) // 2028 * 2028].reshape(-1, 2028)
    return float(np.median(20 * np.log10(np.abs(blocks).max(axis=1) / np.sqrt(np.mean(blocks**2, axis=1)))))


@pytest.mark.parametrize(("vibrato", "most"), [(0.0, 0.5), (0.4, 1.0), (1.5, 3.0)])
@pytest.mark.parametrize(("hertz", "speed"), [(110.0, 0.667), (330.0, 1.5)])
def test_a_voice_keeps_its_pulses(hertz: float, speed: float, vibrato: float, most: float) -> None:
    voice = pulses(hertz, vibrato)
    for character, allowed in (("full-mix", most), ("voice", min(most, 1.0))):
        reader = MusicReader(track_of(voice), Time(speed=speed, pitch="held", character=character))  # type: ignore[arg-type]
        out = reader.read(0, reader.map.after_frames)
        assert crest_db(voice) - crest_db(out) <= allowed, character


def frame_of(places: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Power and peak of every bin of a frame with partials at places between bins, under a Hann window."""
    bins = np.arange(BINS)
    power = np.full(BINS, 1e-9, np.float32)
    for place in places:
        x = bins - place
        lobe = np.sinc(x) / np.where(np.abs(np.abs(x) - 1) < 1e-6, 1.0, 1 - x**2)
        power += np.where(np.abs(x) < 2, lobe**2, 0).astype(np.float32)
    peaks = np.round(places).astype(np.int64)
    return power, peaks[np.argmin(np.abs(bins[:, None] - peaks), axis=1)].astype(np.int32)


@given(
    hertz=st.floats(100.0, 400.0),
    seconds=st.floats(-0.005, 0.005),
    stray=st.floats(0.3, 0.6),
    seed=st.integers(0, 1000),
)
def test_partials_that_have_come_apart_are_led_towards_one_delay(
    hertz: float, seconds: float, stray: float, seed: int
) -> None:
    places = np.arange(1, int(6000 / hertz)) * hertz / HERTZ
    power, peak_of_bin = frame_of(places[places > 5])
    peaks = np.unique(peak_of_bin)
    strays = stray * np.random.default_rng(seed).choice((-1.0, 1.0), len(peaks))
    delay = 2 * np.pi * HERTZ * peaks * seconds
    turns = np.ones(BINS, np.complex64)
    turns[peaks] = np.exp(1j * (delay + strays))
    before = turns.copy()
    assert lock_shape(power, peak_of_bin, turns, float(RATE), False)
    assert np.allclose(np.abs(turns), 1.0, atol=1e-4)
    shared = spread(before, peaks), spread(turns, peaks)
    assert shared[1] < shared[0], "they are nearer to a common delay than they were"


def spread(turns: np.ndarray, peaks: np.ndarray) -> float:
    """How far turns are from those of the delay that fits them best: 0 at it."""
    delays = np.arange(-0.0065, 0.0065, 2e-6)
    near = (turns[peaks] * np.exp(-2j * np.pi * HERTZ * peaks * delays[:, None])).real.mean(axis=1)
    return 1.0 - float(near.max())


@given(seed=st.integers(0, 10_000))
def test_partials_without_a_common_period_are_left_alone(seed: int) -> None:
    rng = np.random.default_rng(seed)
    power, peak_of_bin = frame_of(100 / HERTZ * 1.31 ** np.arange(13) * rng.uniform(0.98, 1.02, 13))
    turns = np.exp(2j * np.pi * rng.random(BINS)).astype(np.complex64)
    before = turns.copy()
    assert not lock_shape(power, peak_of_bin, turns, float(RATE), True)
    assert np.array_equal(turns, before)
