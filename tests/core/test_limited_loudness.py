"""The loudness of a limited version with another gain, worked out from one round."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from latespin.analysis.facts import FactsMeter, facts_of
from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.metering.loudness import LoudnessMeter, loudness_of, measure_loudness
from latespin.jobs import Quietly
from latespin.media.track import Track
from latespin.model.version import Level
from latespin.render.mastering import level_solver
from latespin.render.mastering.level import LevelPlan, levelled
from latespin.render.mastering.level_solver import solve_level
from latespin.render.mastering.limited_loudness import LimitedLoudness, _crossing
from tests.conftest import noise

RATE = 44_100


@pytest.fixture(scope="module")
def sound(lantern: Track) -> Audio:
    return np.ascontiguousarray(lantern.sound[:, 30 * RATE : 42 * RATE])


def tried(sound: Audio, plan: LevelPlan) -> tuple[float, np.ndarray]:
    """The loudness that a plan gives, and its energies."""
    meter = FactsMeter(RATE, 2)
    for block in levelled(sound, plan, RATE):
        meter.push(block)
    return meter.result().loudness.integrated_lufs, meter.energies()


@pytest.mark.parametrize("lowered", [False, True])
@pytest.mark.parametrize("link", [1.0, 0.0])
def test_one_round_tells_the_loudness_of_others(sound: Audio, link: float, lowered: bool) -> None:
    """Within 0.04 LU, 4 dB more or less; 0.08 where each channel has a limiter, of which it knows nothing."""
    places = tuple(np.where(np.arange(1200) % 500 < 100, 0.6, 1.0)) if lowered else ()
    plan = LevelPlan(6.0, amplitude(-3.0), link=link, lowered=places)
    _, energies = tried(sound, plan)
    model = LimitedLoudness(sound, RATE)
    for gain in (2.0, 4.0, 8.0, 10.0):
        real, _ = tried(sound, LevelPlan(gain, plan.ceiling, link=link, lowered=places))
        guessed = loudness_of(energies * model._powers(plan, gain) / model._powers(plan, 6.0))
        assert guessed == pytest.approx(real, abs=0.04 if link == 1.0 else 0.08)


@settings(max_examples=8, deadline=None)
@given(gain=st.floats(0.0, 9.0), target=st.floats(-16.0, -6.0), most=st.floats(9.0, 14.0))
def test_the_gain_for_a_loudness_lies_within_its_bounds_and_says_when_it_is_out_of_reach(
    sound: Audio, gain: float, target: float, most: float
) -> None:
    plan = LevelPlan(gain, amplitude(-3.0))
    loudness, energies = tried(sound, plan)
    found, loudest = LimitedLoudness(sound, RATE).gain_for(target, plan, energies, most)
    assert found <= most
    if target < loudness:
        assert found < gain
        assert not loudest
    reached, _ = tried(sound, LevelPlan(found, plan.ceiling))
    if found < most and not loudest:
        assert reached == pytest.approx(target, abs=0.03 + 0.015 * abs(found - gain))
    else:
        assert reached < target + 0.05
        assert tried(sound, LevelPlan(most, plan.ceiling))[0] - reached < 0.15


def test_the_loudness_of_energies_is_that_of_the_meter() -> None:
    sound = noise(7.37) * np.linspace(0.01, 1.0, round(7.37 * RATE), dtype=np.float32)
    meter = LoudnessMeter(RATE, 2)
    meter.push(sound)
    assert loudness_of(meter.energies()) == pytest.approx(measure_loudness(sound, RATE).integrated_lufs, abs=1e-6)


@given(st.floats(-3.0, 3.0), st.floats(1.0, 4.0))
def test_a_crossing_is_found_on_any_rising_curve(target: float, steepness: float) -> None:
    def curve(x: float) -> float:
        return 4.0 * float(np.tanh(x / steepness))

    assert curve(_crossing(curve, target, -8.0, 8.0)) == pytest.approx(target, abs=0.05)


def test_a_hard_target_takes_few_rounds_and_no_more_limiting_than_it_needs(
    sound: Audio, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Where hardly anything more can be had, gain stops: a few hundredths of a LU are not worth decibels of limiting."""
    rounds = []
    real = level_solver._try
    monkeypatch.setattr(level_solver, "_try", lambda *args: rounds.append(args[2].gain_db) or real(*args))
    solved = solve_level(sound, facts_of(sound, RATE), Level(target_lufs=-6.0, allowance_db=12.0), Quietly())
    assert len(rounds) <= 3
    assert solved.plan.loudest
    most, _ = tried(sound, LevelPlan(solved.plan.gain_db + 3.0, solved.plan.ceiling))
    finished = facts_of(np.concatenate(list(levelled(sound, solved.plan, RATE)), axis=1), RATE)
    assert most - finished.loudness.integrated_lufs < 0.1
    assert solved.facts is not None
    assert finished.loudness.integrated_lufs == pytest.approx(solved.facts.loudness.integrated_lufs, abs=1e-9)
    assert finished.true_peak_dbtp == solved.facts.true_peak_dbtp
