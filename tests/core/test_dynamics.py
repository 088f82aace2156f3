"""The compressor, its detector and the shelf against the equations they are built on."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.control.automation import Automation
from latespin.dsp.dynamics.band_splitter import BandSplitter, MidSideSplitter
from latespin.dsp.dynamics.compressor import Compressor, PartSettings
from latespin.dsp.dynamics.dynamic_shelf import DynamicShelf, DynamicShelfSettings
from latespin.dsp.dynamics.gain_follower import POWER_SECONDS, Curve, GainFollower, power_of, reduction_db

RATE = 44_100
QUICK = Curve(threshold_db=-24.0, ratio=4.0, attack_seconds=0.005, release_seconds=0.05)
LEVELS = np.linspace(-60.0, 0.0, 20)


def giannoulis(level: float, threshold: float, ratio: float, knee: float) -> float:
    """The static curve written out by its three branches (Giannoulis, Massberg and Reiss 2012, equation 4), output level in dB."""
    over = level - threshold
    if 2.0 * over < -knee:
        return level
    if 2.0 * abs(over) <= knee and knee > 0.0:
        return level + (1.0 / ratio - 1.0) * (over + knee / 2.0) ** 2 / (2.0 * knee)
    return threshold + over / ratio


@pytest.mark.parametrize("knee", [0.0, 6.0, 18.0])
@pytest.mark.parametrize("ratio", [1.0, 2.0, 4.0, 20.0])
def test_the_static_curve_at_twenty_levels(ratio: float, knee: float) -> None:
    curve = Curve(-24.0, ratio, 0.01, 0.1, knee_db=knee)
    for level in LEVELS.tolist():
        wanted = giannoulis(level, -24.0, ratio, knee)
        assert level - float(reduction_db(np.array(level), curve)) == pytest.approx(wanted, abs=1e-9)


@pytest.mark.parametrize("level", LEVELS[::3].tolist())
def test_a_steady_tone_comes_out_at_the_level_of_the_curve(level: float) -> None:
    power = np.full(RATE, 10.0 ** (level / 10.0))
    gains = GainFollower(RATE, QUICK).gains_db(power, 0)
    assert gains[-1] == pytest.approx(-float(reduction_db(np.array(level), QUICK)), abs=0.01)


@given(
    threshold=st.floats(-40.0, -5.0), ratio=st.floats(1.0, 20.0), most=st.floats(1.0, 30.0),
    levels=st.lists(st.floats(-90.0, 12.0), min_size=2, max_size=8),
)  # fmt: skip
def test_more_level_never_gives_less_output_nor_more_than_the_most_reduction(threshold, ratio, most, levels) -> None:
    curve = Curve(threshold, ratio, 0.01, 0.1, most)
    levels = np.sort(np.array(levels))
    taken = reduction_db(levels, curve)
    assert np.all(np.diff(levels - taken) >= -1e-9)
    assert np.all((taken >= 0.0) & (taken <= most))


@pytest.mark.parametrize(("attack", "release"), [(0.02, 0.2), (0.05, 0.5), (0.1, 0.1)])
def test_it_is_at_63_per_cent_after_its_times(attack: float, release: float) -> None:
    """The power detector's own 6 ms come on top."""
    curve = Curve(-30.0, 10.0, attack, release)
    power = np.concatenate((np.full(RATE, 1e-9), np.full(2 * RATE, 10.0**-0.6), np.full(3 * RATE, 1e-9)))
    gains = GainFollower(RATE, curve).gains_db(power, 0)
    full = gains[3 * RATE - 1]
    share = 1.0 - np.exp(-1.0)
    reached = np.flatnonzero(gains[RATE:] <= share * full)[0] / RATE
    assert attack <= reached <= attack + 2.0 * POWER_SECONDS
    released = np.flatnonzero(gains[3 * RATE :] >= (1.0 - share) * full)[0] / RATE
    fall = POWER_SECONDS * np.log(10.0**-0.6 / 10.0**-3.0)  # until the detector is below the threshold
    assert release <= released <= release + fall + 2.0 * POWER_SECONDS


@pytest.mark.parametrize(("kind", "crest_power"), [("tone", 2.0), ("clicks", 100.0), ("square", 1.0)])
def test_an_adaptive_release_follows_the_crest_factor(kind: str, crest_power: float) -> None:
    """63 % back after twice the release over the crest factor squared, never later than the release (Giannoulis et al. 2013)."""
    n = np.arange(4 * RATE)
    wave = {
        "tone": 0.5 * np.sin(2 * np.pi * 1000.0 * n / RATE), "square": 0.5 * np.sign(np.sin(2 * np.pi * 1000.0 * n / RATE + 1e-9)),
        "clicks": np.where(n % 100 == 0, 5.0, 0.0),
    }[kind]  # fmt: skip
    release = 0.4
    curve = Curve(-40.0, 4.0, 0.005, release, adaptive=True)
    sound = np.concatenate((np.stack((wave, wave)), np.full((2, 2 * RATE), 1e-6)), axis=1)
    gains = GainFollower(RATE, curve).gains_db(power_of(sound.astype(np.float32)), 0)
    back = gains[4 * RATE :]
    fall = POWER_SECONDS * np.log(
        10.0 ** (-10.0 * back[0] / 75.0)
    )  # until the detector is below the threshold, at the most
    reached = np.flatnonzero(back >= np.exp(-1.0) * back[0])[0] / RATE
    expected = release * min(1.0, 2.0 / crest_power)
    assert 0.75 * expected <= reached <= expected + fall + 3.0 * POWER_SECONDS


@given(sizes=st.lists(st.integers(1, 700), min_size=1, max_size=8), seed=st.integers(0, 99), adaptive=st.booleans())
def test_blocks_may_be_cut_anywhere(sizes: list[int], seed: int, *, adaptive: bool) -> None:
    power, curve = np.random.default_rng(seed).random(sum(sizes)) * 0.2, replace(QUICK, adaptive=adaptive)
    whole = GainFollower(RATE, curve).gains_db(power, 0)
    follower, at, parts = GainFollower(RATE, curve), 0, []
    for size in sizes:
        parts.append(follower.gains_db(power[at : at + size], at))
        at += size
    assert np.allclose(np.concatenate(parts), whole, atol=1e-12)


def test_the_amount_is_a_share_of_the_gain_in_decibels() -> None:
    sound = (0.4 * np.random.default_rng(1).standard_normal((2, RATE))).astype(np.float32)
    histories = []
    for amount in (1.0, 0.5):
        compressor = Compressor(RATE, [PartSettings(QUICK)])
        out = compressor.process(sound, 0, Automation(amount))
        histories.append(compressor.gain_history[0])
        assert np.allclose(out, sound * 10.0 ** (histories[-1] / 20.0), atol=1e-6)
    assert np.allclose(histories[1], 0.5 * histories[0])


def test_mid_and_side_have_a_gain_each_and_none_of_the_other() -> None:
    mid = 0.5 * np.sin(2 * np.pi * 200.0 * np.arange(RATE) / RATE)
    sound = np.stack((mid, mid)).astype(np.float32)
    compressor = Compressor(RATE, [PartSettings(QUICK)] * 2, MidSideSplitter())
    out = compressor.process(sound, 0, Automation(1.0))
    assert compressor.gain_history[0, -1] < -6.0
    assert compressor.gain_history[1, -1] == 0.0, "there is nothing at the sides"
    assert np.allclose(out[0], out[1], atol=1e-6)


def test_three_bands_add_up_to_the_song_and_lie_where_they_should() -> None:
    sound = (0.1 * np.random.default_rng(2).standard_normal((2, RATE))).astype(np.float32)
    splitter = BandSplitter(RATE, (150.0, 2_500.0))
    bands = splitter.process(sound)
    late = splitter.latency
    assert np.abs(sum(bands)[:, late:] - sound[:, :-late]).max() < 1e-5
    hz = np.fft.rfftfreq(RATE - late, 1.0 / RATE)
    shares = [np.abs(np.fft.rfft(band[0, late:])) ** 2 for band in bands]
    total = np.abs(np.fft.rfft(sound[0, :-late])) ** 2
    for share, (low, high) in zip(shares, ((20.0, 80.0), (400.0, 1_200.0), (5_000.0, 18_000.0)), strict=True):
        inside = (hz > low) & (hz < high)
        assert np.sum(share[inside]) > 0.9 * np.sum(total[inside])


@pytest.mark.parametrize(("hz", "loud"), [(9_000.0, True), (9_000.0, False), (300.0, True)])
def test_the_dynamic_shelf_takes_loud_highs_alone(hz: float, loud: bool) -> None:
    settings = DynamicShelfSettings(4_000.0, Curve(-30.0, 8.0, 0.005, 0.05, 12.0))
    shelf = DynamicShelf(RATE, settings)
    level = 0.5 if loud else 0.005
    tone = (level * np.sin(2 * np.pi * hz * np.arange(RATE) / RATE)).astype(np.float32)
    out = shelf.process(np.stack((tone, tone)), 0, Automation(1.0))
    change = 20.0 * np.log10(np.std(out[0, RATE // 2 :]) / np.std(tone[RATE // 2 :]))
    if hz > 4_000.0 and loud:
        assert -12.0 <= change < -8.0
    else:
        assert abs(change) < 0.4


@given(
    seed=st.integers(0, 99),
    sizes=st.lists(st.integers(1, 3_000), min_size=1, max_size=5),
    low=st.floats(60.0, 800.0),
    high=st.floats(1_000.0, 12_000.0),
)
def test_parts_add_up_to_the_song_however_it_is_cut(seed: int, sizes: list[int], low: float, high: float) -> None:
    """Mid and side at once, bands after their latency."""
    sound = (0.2 * np.random.default_rng(seed).standard_normal((2, sum(sizes)))).astype(np.float32)
    for splitter in (MidSideSplitter(), BandSplitter(RATE, (low, high))):
        at, heard = 0, []
        for size in sizes:
            heard.append(sum(splitter.process(sound[:, at : at + size])))
            at += size
        whole = np.concatenate(heard, axis=1)
        late = splitter.latency
        assert np.allclose(whole[:, late:], sound[:, : max(0, sound.shape[1] - late)], atol=2e-6)


@pytest.mark.parametrize(("makeup", "share"), [(0.0, 1.0), (6.0, 1.0), (6.0, 0.5), (-3.0, 0.25), (9.0, 0.0)])
def test_make_up_is_added_to_the_reduction_and_the_amount_is_a_share_of_both(makeup: float, share: float) -> None:
    """Of the part that has them; what the history keeps is the reduction without the make-up."""
    mid = 0.5 * np.sin(2 * np.pi * 300.0 * np.arange(2 * RATE) / RATE)
    sound = np.stack((mid, mid)).astype(np.float32)
    compressor = Compressor(RATE, [PartSettings(QUICK, makeup, share), PartSettings(QUICK)], MidSideSplitter())
    out = compressor.process(sound, 0, Automation(0.8))
    reduction = compressor.gain_history[0]
    assert reduction[-1] <= 0.0
    gains = 10.0 ** ((reduction + 0.8 * share * makeup) / 20.0)
    assert np.allclose(out, sound * gains, atol=1e-5)
    full = Compressor(RATE, [PartSettings(QUICK), PartSettings(QUICK)], MidSideSplitter())
    full.process(sound, 0, Automation(1.0))
    assert reduction[-1] == pytest.approx(0.8 * share * full.gain_history[0, -1], abs=1e-6)


def test_only_the_soloed_part_is_heard_with_its_gain() -> None:
    rng = np.random.default_rng(4)
    sound = (0.3 * rng.standard_normal((2, RATE))).astype(np.float32)
    settings = [PartSettings(QUICK), PartSettings(replace(QUICK, threshold_db=-40.0))]
    heard = []
    for solo in (None, 0, 1):
        compressor = Compressor(RATE, settings, MidSideSplitter())
        compressor.solo = solo
        heard.append(compressor.process(sound, 0, Automation(1.0)))
    whole, mid, side = heard
    assert np.allclose(mid + side, whole, atol=1e-6)
    assert np.array_equal(mid[0], mid[1])
    assert np.array_equal(side[0], -side[1])
