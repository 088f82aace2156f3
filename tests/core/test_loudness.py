"""The meters against the signals and tolerances of EBU Tech 3341 and 3342, made from their description."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import Audio
from latespin.dsp.metering.k_weighting import WeightedEnergy, channel_weights
from latespin.dsp.metering.loudness import LoudnessMeter, measure_loudness
from latespin.dsp.metering.true_peak import true_peak_dbtp
from tests.conftest import noise, sine

RATES = (44_100, 48_000, 96_000)


def steps(levels_and_seconds: list[tuple[float, float]], rate: int, hz: float = 1000.0) -> Audio:
    """Stereo tones of given peak levels (dBFS) one after the other, the phase going on."""
    gains = np.concatenate([np.full(round(s * rate), 10 ** (db / 20)) for db, s in levels_and_seconds])
    wave = gains * np.sin(2 * np.pi * hz * np.arange(len(gains)) / rate)
    return np.stack((wave, wave)).astype(np.float32)


# EBU Tech 3341 (2023), table 1, cases 1 to 5: integrated loudness within ±0.1 LU.
INTEGRATED = {
    1: ([(-23, 20)], -23.0),
    2: ([(-33, 20)], -33.0),
    3: ([(-36, 10), (-23, 60), (-36, 10)], -23.0),
    4: ([(-72, 10), (-36, 10), (-23, 60), (-36, 10), (-72, 10)], -23.0),
    5: ([(-26, 20), (-20, 20.1), (-26, 20)], -23.0),
}


@pytest.mark.parametrize("rate", RATES)
@pytest.mark.parametrize("case", INTEGRATED)
def test_integrated_loudness_of_the_ebu_cases(case: int, rate: int) -> None:
    parts, wanted = INTEGRATED[case]
    assert measure_loudness(steps(parts, rate), rate).integrated_lufs == pytest.approx(wanted, abs=0.1)


def test_ebu_case_6_weighs_five_channels_as_the_standard_says() -> None:
    rate = 48_000
    wave = np.sin(2 * np.pi * 1000 * np.arange(20 * rate) / rate)
    levels = (-28, -28, -24, -np.inf, -30, -30)  # L R C LFE Ls Rs
    sound = np.stack([wave * 10 ** (level / 20) for level in levels]).astype(np.float32)
    assert measure_loudness(sound, rate).integrated_lufs == pytest.approx(-23.0, abs=0.1)


@pytest.mark.parametrize("rate", RATES)
def test_ebu_case_9_short_term_is_constant(rate: int) -> None:
    sound = steps([(-20, 1.34), (-30, 1.66)] * 5, rate)
    meter = LoudnessMeter(rate, 2)
    meter.push(sound)
    assert meter.short_term_curve(1)[1:] == pytest.approx(-23.0, abs=0.1)


@pytest.mark.parametrize("offset", range(0, 20, 3))
def test_ebu_cases_10_and_13_find_a_short_tone_wherever_it_lies(offset: int) -> None:
    rate = 48_000
    lead = [(-np.inf, 0.15 * offset)] if offset else []
    short = measure_loudness(steps([*lead, (-23, 3.0), (-np.inf, 1)], rate), rate)
    assert short.max_short_term_lufs == pytest.approx(-23.0, abs=0.1)
    lead = [(-np.inf, 0.02 * offset)] if offset else []
    brief = measure_loudness(steps([*lead, (-23, 0.4), (-np.inf, 1)], rate), rate)
    assert brief.max_momentary_lufs == pytest.approx(-23.0, abs=0.1)


def test_ebu_case_12_momentary_is_constant() -> None:
    rate = 48_000
    meter = LoudnessMeter(rate, 2)
    meter.push(steps([(-20, 0.18), (-30, 0.22)] * 25, rate))
    assert meter.momentary_lufs() == pytest.approx(-23.0, abs=0.1)
    assert meter.result().max_momentary_lufs == pytest.approx(-23.0, abs=0.1)


# EBU Tech 3341, cases 15 to 19: tones at a quarter of the rate and their true peaks, +0.2/−0.4 dB.
TRUE_PEAKS = {
    15: (4, 0, 0.5, -6.0),
    16: (4, 45, 0.5, -6.0),
    17: (6, 60, 0.5, -6.0),
    18: (8, 67.5, 0.5, -6.0),
    19: (4, 45, 1.41, 3.0),
}


@pytest.mark.parametrize("rate", RATES)
@pytest.mark.parametrize("case", TRUE_PEAKS)
def test_true_peak_of_the_ebu_cases(case: int, rate: int) -> None:
    part, degrees, level, wanted = TRUE_PEAKS[case]
    n = np.arange(rate)
    fade = np.clip(np.minimum(n, rate - 1 - n) / (0.01 * rate), 0, 1)
    wave = level * fade * np.sin(2 * np.pi * n / part + np.radians(degrees))
    peak = true_peak_dbtp(np.stack((wave, wave)).astype(np.float32), rate)
    assert wanted - 0.4 <= peak <= wanted + 0.2


# EBU Tech 3342, table 1, cases 1 to 4: loudness range within ±1 LU.
RANGES = {1: ([(-20, 20), (-30, 20)], 10), 2: ([(-20, 20), (-15, 20)], 5), 3: ([(-40, 20), (-20, 20)], 20),
          4: ([(-50, 20), (-35, 20), (-20, 20), (-35, 20), (-50, 20)], 15)}  # fmt: skip


@pytest.mark.parametrize("case", RANGES)
def test_loudness_range_of_the_ebu_cases(case: int) -> None:
    parts, wanted = RANGES[case]
    assert measure_loudness(steps(parts, 48_000), 48_000).range_lu == pytest.approx(wanted, abs=1.0)


def test_a_full_scale_tone_of_997_hz_in_one_channel_is_at_minus_3_01() -> None:
    assert measure_loudness(sine(997, 5, 48_000, 1.0, channels=1), 48_000).integrated_lufs == pytest.approx(
        -3.01, abs=0.01
    )


def test_silence_and_a_single_sample_have_no_loudness() -> None:
    for frames in (1, 44_100 * 4):
        facts = facts_of(np.zeros((2, frames), np.float32), 44_100)
        assert facts.loudness.integrated_lufs == -np.inf
        assert facts.true_peak_dbtp == -np.inf
        assert facts.loudness.range_lu == 0.0


@pytest.mark.parametrize("size", [1, 441, 1000, 50_001])
def test_a_meter_does_not_care_how_blocks_are_cut(size: int) -> None:
    sound = noise(1.5, 22_050) if size == 1 else noise(6, 22_050)
    whole, pieces = LoudnessMeter(22_050, 2), LoudnessMeter(22_050, 2)
    whole.push(sound)
    for start in range(0, sound.shape[1], size):
        pieces.push(sound[:, start : start + size])
    for name in ("integrated_lufs", "max_momentary_lufs", "max_short_term_lufs", "range_lu"):
        assert getattr(pieces.result(), name) == pytest.approx(getattr(whole.result(), name), abs=1e-6)


@given(
    channels=st.integers(1, 7),
    cuts=st.lists(st.integers(1, 9000), min_size=1, max_size=6),
    rate=st.sampled_from([44_100, 48_000, 96_000]),
)
def test_channels_are_weighed_as_if_each_were_alone(channels: int, cuts: list[int], rate: int) -> None:
    """The sum is that of each channel by itself, with its weight of table 4."""
    sound = np.random.default_rng(channels).standard_normal((channels, sum(cuts))).astype(np.float32)
    together = WeightedEnergy(rate, channels, 100)
    for block in np.split(sound, np.cumsum(cuts)[:-1], axis=1):
        together.push(np.ascontiguousarray(block))
    alone = np.zeros(len(together.totals()))
    for channel, weight in enumerate(channel_weights(channels)):
        single = WeightedEnergy(rate, 1, 100)
        single.push(sound[channel : channel + 1].copy())
        alone += weight * single.totals()
    assert together.totals() == pytest.approx(alone, rel=1e-9, abs=1e-15)


@given(
    before=st.integers(50, 300), after=st.integers(100, 300), level=st.floats(-40.0, -9.0), drop=st.floats(-20.0, 3.0)
)
def test_loudness_can_be_told_from_any_step_on(before: int, after: int, level: float, drop: float) -> None:
    """Of what comes later alone, whatever was before: as a meter that only heard that, but for what rings on in its filters."""
    rate = 48_000
    loud = sine(1_000.0, before / 100, rate, 10 ** ((level + drop) / 20))
    later = sine(1_000.0, after / 100, rate, 10 ** (level / 20))
    meter, fresh = LoudnessMeter(rate, 2), LoudnessMeter(rate, 2)
    meter.push(np.concatenate((loud, later), axis=1))
    fresh.push(later)
    assert meter.steps == before + after
    assert meter.integrated_lufs(before) == pytest.approx(fresh.result().integrated_lufs, abs=0.15)
    assert meter.integrated_lufs() == meter.result().integrated_lufs


def test_the_demo_songs_are_mastered_as_they_should_be(lantern) -> None:
    facts = facts_of(lantern.sound, lantern.rate)
    assert facts.loudness.integrated_lufs == pytest.approx(-10.0, abs=0.5)
    assert 75 <= facts.seconds <= 120
