"""The hall: its decay is the one asked for, and it is a well-behaved stream."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import butter, sosfilt

from latespin.dsp.arrays import Audio
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import OCTAVES, HallSettings, octave_decays
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
    cuts=st.lists(st.integers(0, 9000), max_size=6), amount=st.floats(0.05, 1.0), rate=st.sampled_from([8000, 44_100]),
    duck=st.sampled_from([0.0, 9.0]),
)  # fmt: skip
def test_blocks_may_be_cut_anywhere(cuts: list[int], amount: float, rate: int, duck: float) -> None:
    sound = noise(0.25, 44_100)
    whole = Hall(rate, settings(amount=amount, duck_db=duck)).process(sound)
    hall = Hall(rate, settings(amount=amount, duck_db=duck))
    places = [0, *sorted(c for c in cuts if c < sound.shape[1]), sound.shape[1]]
    pieces = [hall.process(sound[:, a:b]) for a, b in itertools.pairwise(places)]
    assert np.abs(np.concatenate(pieces, axis=1) - whole).max() < 1e-6


def test_it_never_rings_up_and_refuses_nonsense() -> None:
    sound = np.ones((2, 44_100 * 3), np.float32)
    assert np.abs(Hall(44_100, settings(decay_seconds=20.0, size=0.0)).process(sound)).max() < 20.0
    with pytest.raises(OutOfRange, match="decay is 0 s"):
        settings(decay_seconds=0.0)


OCTAVE_CASES = [
    {"decay_seconds": 1.2, "size": 0.3}, {"decay_seconds": 2.0, "size": 0.5}, {"decay_seconds": 6.0, "size": 0.9},
    {"decay_seconds": 2.0, "size": 0.5, "lows": 1.0, "highs": 1.0, "tone_hz": 16_000.0},
    {"decay_seconds": 3.2, "size": 0.6, "lows": 1.3, "highs": 0.4},
]  # fmt: skip


@pytest.mark.parametrize("case", OCTAVE_CASES, ids=str)
def test_every_octave_decays_as_asked(case: dict[str, float]) -> None:
    """From 125 Hz to 8 kHz within 10 %."""
    rate, hall = 44_100, settings(pre_delay_seconds=0.0, **case)
    response = impulse_response(hall, rate, 2.2 * hall.decay_seconds + 0.5)[0]
    for f, asked in zip(OCTAVES, octave_decays(hall, rate), strict=True):
        band = sosfilt(butter(4, [f / 2**0.5, f * 2**0.5], "bandpass", fs=rate, output="sos"), response)
        assert t30(band, rate) == pytest.approx(asked, rel=0.1), f


def echo_density(response: np.ndarray, rate: int, start: float) -> float:
    """Share of samples beyond one standard deviation in a window of 20 ms, over that of noise (Abel and Huang, AES 121, 2006)."""
    window = np.hanning(round(0.02 * rate))
    part = response[round(start * rate) :][: len(window)].astype(float)
    weights = window / window.sum()
    beyond = np.abs(part) > np.sqrt(np.sum(weights * part**2))
    return float(np.sum(weights * beyond)) / 0.3173


def test_it_is_dense_soon_and_stays_so() -> None:
    """0.9 within 50 ms at medium size; from then on as dense as noise is in such windows."""
    rate, densities = 44_100, []
    for size in (0.4, 0.5, 0.6):
        response = impulse_response(settings(size=size, pre_delay_seconds=0.0), rate, 0.5)
        for channel in response:
            curve = [echo_density(channel, rate, start) for start in np.arange(0.0, 0.25, 0.005)]
            first = next(i for i, value in enumerate(curve) if value >= 0.9)
            assert 0.005 * first + 0.01 < 0.05
            densities += curve[first:]
    assert np.mean(densities) > 0.93
    assert np.min(densities) > 0.8


def test_the_late_tail_is_as_colourless_as_noise() -> None:
    """Of the tail with its decay taken out, bin by bin: spectral kurtosis, flatness and whitened autocorrelation."""
    rate = 44_100
    for size in (0.3, 0.6, 0.9):
        response = impulse_response(settings(size=size, decay_seconds=3.0), rate, 2.6)[0][rate // 4 :]
        power = _compensated(response)
        assert np.mean(np.mean(power**2, axis=1) / np.mean(power, axis=1) ** 2) < 2.5
        assert np.mean(10 * np.log10(np.exp(np.mean(np.log(power), axis=1)) / np.mean(power, axis=1))) > -3.5
        assert _whitened_autocorrelation(response) < 0.15
        left, right = impulse_response(settings(size=size, decay_seconds=3.0), rate, 1.4)[:, rate // 5 :]
        assert abs(np.corrcoef(left, right)[0, 1]) < 0.05


def _compensated(response: np.ndarray) -> np.ndarray:
    """Power in frames and bins from 200 Hz to 8 kHz, each bin's decay and its neighbourhood's level taken out."""
    size = 4096
    starts = np.arange(0, len(response) - size, size // 4)
    spectra = np.array([np.fft.rfft(response[s : s + size] * np.hanning(size)) for s in starts])[:, 19:743]
    power = np.abs(spectra) ** 2
    slope = np.polyfit(np.arange(len(power)), np.log(power + 1e-30), 1)[0]
    power = power * np.exp(-np.outer(np.arange(len(power)), slope))
    smooth = np.apply_along_axis(
        lambda p: np.convolve(np.pad(p, 20, "edge"), np.ones(41) / 41, "valid"), 0, power.mean(axis=0)
    )
    return power / smooth


def _whitened_autocorrelation(response: np.ndarray) -> float:
    """The largest value beyond 1 ms of the tail's autocorrelation, its decay and its spectrum's outline taken out."""
    n = 1 << 15
    part = response[:n].astype(float)
    part *= 10.0 ** (3.0 * np.arange(n) / 44_100 / 3.0)
    power = np.abs(np.fft.rfft(part, 2 * n)) ** 2
    outline = np.convolve(np.pad(power, 150, "edge"), np.ones(301) / 301, "valid")
    correlation = np.fft.irfft(power / outline)
    return float(np.max(np.abs(correlation[44 : n // 2])) / correlation[0])


def test_it_gives_way_to_a_loud_song_and_comes_up_in_the_gaps() -> None:
    rate = 44_100
    sound = np.concatenate((noise(2.0, level=0.3), np.zeros((2, rate), np.float32)), axis=1)
    plain, ducked = (Hall(rate, settings(duck_db=duck, decay_seconds=3.0)).process(sound) for duck in (0.0, 12.0))
    loud, gap = slice(rate, 2 * rate), slice(round(2.9 * rate), 3 * rate)
    assert level_db(ducked[:, loud]) - level_db(plain[:, loud]) == pytest.approx(-12.0, abs=1.5)
    assert level_db(ducked[:, gap]) - level_db(plain[:, gap]) > -5.0


def test_a_low_cut_thins_the_room_only() -> None:
    rate, low = 44_100, np.sin(2 * np.pi * 60.0 * np.arange(88_200) / 44_100).astype(np.float32)
    sound = np.stack((low, low))
    full, thin = (level_db(Hall(rate, settings(low_cut_hz=cut)).process(sound)[:, rate:]) for cut in (20.0, 500.0))
    assert thin < full - 12.0
