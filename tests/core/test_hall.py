"""The hall: its decay is the one asked for, and it is a well-behaved stream."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.hall import Hall, HallSettings
from latespin.dsp.types import Audio
from latespin.errors import OutOfRange
from tests.conftest import level_db, noise


def settings(**changes: float) -> HallSettings:
    """A middling hall, wet only."""
    base = {
        "decay_seconds": 2.0,
        "size": 0.6,
        "pre_delay_seconds": 0.02,
        "tone_hz": 6000.0,
        "width": 1.0,
        "amount": 1.0,
    }
    return HallSettings(**{**base, **changes})


def impulse_response(hall: HallSettings, rate: int, seconds: float) -> Audio:
    """What a hall answers to one sample in both channels."""
    click = np.zeros((2, round(seconds * rate)), np.float32)
    click[:, 0] = 1.0
    return Hall(rate, hall).process(click)


def decay_curve_db(response: np.ndarray) -> np.ndarray:
    """Schroeder's reverse integration, 0 dB at the start."""
    energy = np.cumsum(np.square(response, dtype=np.float64)[::-1])[::-1]
    return 10.0 * np.log10(energy / energy[0] + 1e-30)


def t30(response: np.ndarray, rate: int) -> float:
    """Reverberation time from −5 to −35 dB (ISO 3382-1)."""
    level = decay_curve_db(response)
    span = np.flatnonzero((level <= -5.0) & (level >= -35.0))
    return float(-60.0 / np.polyfit(span / rate, level[span], 1)[0])


@pytest.mark.parametrize("rate", [44_100, 48_000, 96_000])
@pytest.mark.parametrize(
    ("decay", "size", "tone"), [(0.5, 0.2, 9000), (1.5, 0.5, 3000), (3.2, 0.65, 5500), (8.0, 1.0, 12000)]
)
def test_the_decay_asked_for_is_the_decay_measured(decay: float, size: float, tone: float, rate: int) -> None:
    response = impulse_response(settings(decay_seconds=decay, size=size, tone_hz=tone), rate, 1.6 * decay + 0.4)
    for channel in response:
        assert t30(channel, rate) == pytest.approx(decay, rel=0.07)


def test_the_highs_decay_sooner() -> None:
    rate = 44_100
    response = impulse_response(settings(), rate, 3.0)[0]
    spectrum = np.fft.rfft(response)
    f = np.fft.rfftfreq(len(response), 1 / rate)
    lows = np.fft.irfft(spectrum * ((f > 500) & (f < 1000)))
    highs = np.fft.irfft(spectrum * ((f > 9000) & (f < 14_000)))
    assert t30(highs, rate) < 0.75 * t30(lows, rate)


def test_the_tail_is_as_long_as_it_is_heard() -> None:
    rate = 44_100
    for hall in (settings(), settings(decay_seconds=6.0, size=1.0)):
        response = impulse_response(hall, rate, 2.5 * hall.decay_seconds)[0]
        left = decay_curve_db(response)[Hall(rate, hall).tail_frames]
        assert -90.0 < left < -69.0


def test_left_and_right_differ_at_full_width_and_not_at_none() -> None:
    wide, narrow = (impulse_response(settings(width=width), 44_100, 2.0) for width in (1.0, 0.0))
    assert abs(np.corrcoef(wide)[0, 1]) < 0.15
    assert np.array_equal(narrow[0], narrow[1])


def test_a_steady_sound_is_as_loud_wet_as_dry() -> None:
    rate = 44_100
    rng = np.random.default_rng(2)
    f = np.fft.rfftfreq(rate * 8, 1 / rate)
    band = (f > 200) & (f < 2000)
    sound = np.stack([np.fft.irfft(np.fft.rfft(rng.standard_normal(rate * 8)) * band) for _ in range(2)]).astype(
        np.float32
    )
    wet = Hall(rate, settings(decay_seconds=1.5)).process(sound)
    assert level_db(wet[:, rate * 3 :]) == pytest.approx(level_db(sound), abs=2.0)


def test_no_amount_is_the_song_bit_for_bit() -> None:
    sound = noise(0.5)
    hall = Hall(44_100, settings(amount=0.0))
    assert np.array_equal(hall.process(sound), sound)
    assert hall.tail_frames == 0


@given(
    cuts=st.lists(st.integers(0, 9000), max_size=6), amount=st.floats(0.05, 1.0), rate=st.sampled_from([8000, 44_100])
)
def test_blocks_may_be_cut_anywhere(cuts: list[int], amount: float, rate: int) -> None:
    sound = noise(0.25, 44_100)
    whole = Hall(rate, settings(amount=amount)).process(sound)
    hall = Hall(rate, settings(amount=amount))
    places = [0, *sorted(c for c in cuts if c < sound.shape[1]), sound.shape[1]]
    pieces = [hall.process(sound[:, a:b]) for a, b in itertools.pairwise(places)]
    assert np.abs(np.concatenate(pieces, axis=1) - whole).max() < 1e-6


def test_it_never_rings_up_and_refuses_nonsense() -> None:
    sound = np.ones((2, 44_100 * 3), np.float32)
    assert np.abs(Hall(44_100, settings(decay_seconds=20.0, size=0.0)).process(sound)).max() < 20.0
    with pytest.raises(OutOfRange, match="decay is 0 s"):
        settings(decay_seconds=0.0)
