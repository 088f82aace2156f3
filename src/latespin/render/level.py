"""Level: the gain that reaches the target, found on the finished render, and the limiter's ceiling."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from latespin.analysis.facts import BLOCK_FRAMES, Facts, FactsGatherer
from latespin.dsp.limiter import Limiter
from latespin.dsp.types import Audio, amplitude, decibels
from latespin.jobs import Work, step
from latespin.memory import let_go
from latespin.model.units import number
from latespin.model.version import Level

TOLERANCE_LU = 0.03
PEAK_TOLERANCE_DB = 0.005
ROUNDS = 10


@dataclass(frozen=True)
class LevelPlan:
    """What Level does to a version: the same for preview and export.

    ceiling : ratio the limiter holds true peaks to, None where no limiter is needed.
    reduction_db : the most the limiter takes off a peak.  note : a sentence where the target was not met.
    """

    gain_db: float = 0.0
    ceiling: float | None = None
    reduction_db: float = 0.0
    note: str = ""


class Leveller:
    """Applies a plan to a stream; gives the same frames back, none late and none missing.

    ``process`` holds frames back while the limiter looks ahead; ``finish`` gives the last of them.
    """

    def __init__(self, plan: LevelPlan, rate: int, channels: int) -> None:
        self._gain = np.float32(amplitude(plan.gain_db))
        self._limiter = Limiter(rate, channels, plan.ceiling) if plan.ceiling is not None else None
        self._late = self._limiter.latency if self._limiter else 0
        self._early = self._late
        self._channels = channels

    @property
    def latency(self) -> int:
        """How many frames must go in before the first comes out."""
        return self._late

    @property
    def reduction_db(self) -> float:
        """The most that was taken off so far, dB ≥ 0."""
        return max(0.0, -decibels(self._limiter.lowest_gain)) if self._limiter else 0.0

    def process(self, block: Audio) -> Audio:
        """Level a block; may return fewer frames at the start of the stream."""
        louder: Audio = block * self._gain
        if self._limiter is None:
            return louder
        limited = self._limiter.process(louder)
        dropped = min(self._early, limited.shape[1])
        self._early -= dropped
        return limited[:, dropped:]

    def finish(self) -> Audio:
        """The frames still held back."""
        if self._limiter is None:
            return np.zeros((self._channels, 0), np.float32)
        return self.process(np.zeros((self._channels, self._late), np.float32))


def levelled(sound: Audio, plan: LevelPlan, rate: int) -> Iterator[Audio]:
    """A whole sound ``[channels, frames]`` with a plan applied, in blocks."""
    leveller = Leveller(plan, rate, sound.shape[0])
    for start in range(0, sound.shape[1], BLOCK_FRAMES):
        yield leveller.process(sound[:, start : start + BLOCK_FRAMES])
        let_go(sound)
    yield leveller.finish()


def solve_level(sound: Audio, facts: Facts, level: Level, work: Work) -> LevelPlan:
    """The plan that brings ``sound``, whose facts are known, to a Level stage's target.

    The limiter is tried on the whole sound until the loudness is met within 0.03 LU and the true peak holds;
    where that would ask more of it than its allowance, the gain stays at what the allowance permits.
    """
    if not level.on:
        return LevelPlan()
    loudness = facts.loudness.integrated_lufs
    silent = not math.isfinite(loudness)
    if level.target_lufs is not None and silent:
        return LevelPlan(note="The loudness of this sound is not defined (silence, or too short); Level left it alone.")
    gain = 0.0 if level.target_lufs is None else _gain_to(level.target_lufs, facts)
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp:
        return LevelPlan(gain_db=gain)
    most = level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp
    return _solve_limited(sound, facts.rate, level, min(gain, most), most, work)


def estimate_plan(facts: Facts, level: Level) -> LevelPlan:
    """A plan from facts alone, exact where no limiter is needed, used until the render has been measured."""
    loudness = facts.loudness.integrated_lufs
    if not level.on or not math.isfinite(facts.true_peak_dbtp):
        return LevelPlan()
    gain = 0.0 if level.target_lufs is None or not math.isfinite(loudness) else _gain_to(level.target_lufs, facts)
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp:
        return LevelPlan(gain_db=gain)
    gain = min(gain, level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp)
    excess = facts.true_peak_dbtp + gain - level.ceiling_dbtp
    return LevelPlan(gain, amplitude(level.ceiling_dbtp), max(0.0, excess))


def _gain_to(target_lufs: float, facts: Facts) -> float:
    """The gain that brings a sound to a loudness, with what passes the absolute gate on the way."""
    gain = target_lufs - facts.loudness.integrated_lufs
    for _ in range(ROUNDS):
        missed = target_lufs - facts.loudness.integrated_with_gain(gain)
        if not math.isfinite(missed) or abs(missed) < 1e-3:
            break
        gain += missed
    return gain


def _solve_limited(sound: Audio, rate: int, level: Level, gain: float, most: float, work: Work) -> LevelPlan:
    ceiling_db = level.ceiling_dbtp
    plan = LevelPlan()
    missed, slope = 0.0, 1.0
    tried: list[tuple[float, float]] = []
    for round_number in range(ROUNDS):
        step(work, round_number / ROUNDS)
        plan, reached, peak = _try(sound, rate, gain, ceiling_db, work)
        missed = 0.0 if level.target_lufs is None else level.target_lufs - reached
        excess = peak - level.ceiling_dbtp
        bound = gain >= most - 1e-9 and missed > 0.0
        if excess <= PEAK_TOLERANCE_DB and (abs(missed) <= TOLERANCE_LU or bound):
            break
        if excess > PEAK_TOLERANCE_DB:
            ceiling_db -= excess
        tried.append((gain, reached))
        slope = _slope(tried, slope)
        gain = min(most, gain + missed / slope)
    note = ""
    if missed > 0.1 and level.target_lufs is not None:
        note = (
            f"The limiter would have to take off more than {number(level.allowance_db, 1)} dB to reach "
            f"{number(level.target_lufs, 1)} LUFS; the version is at {number(level.target_lufs - missed, 1)} LUFS. "
            "Allow the limiter more, or ask for less."
        )
    elif level.target_lufs is None and plan.reduction_db > level.allowance_db + 0.05:
        note = f"The limiter takes off {number(plan.reduction_db, 1)} dB to hold the ceiling."
    return LevelPlan(plan.gain_db, plan.ceiling, plan.reduction_db, note)


def _slope(tried: list[tuple[float, float]], otherwise: float) -> float:
    """How much louder the result gets for a decibel of gain: less than one where the limiter works."""
    if len(tried) < 2 or abs(tried[-1][0] - tried[-2][0]) < 1e-6:
        return otherwise
    (g0, l0), (g1, l1) = tried[-2:]
    return min(1.0, max(0.2, (l1 - l0) / (g1 - g0)))


def _try(sound: Audio, rate: int, gain: float, ceiling_db: float, work: Work) -> tuple[LevelPlan, float, float]:
    """One round: the plan with what its limiter did, the loudness reached, the true peak reached."""
    leveller = Leveller(LevelPlan(gain, amplitude(ceiling_db)), rate, sound.shape[0])
    gatherer = FactsGatherer(rate, sound.shape[0])
    for start in range(0, sound.shape[1], BLOCK_FRAMES):
        step(work, start / sound.shape[1])
        gatherer.push(leveller.process(sound[:, start : start + BLOCK_FRAMES]))
        let_go(sound)
    gatherer.push(leveller.finish())
    facts = gatherer.result()
    plan = LevelPlan(gain, amplitude(ceiling_db), leveller.reduction_db)
    return plan, facts.loudness.integrated_lufs, facts.true_peak_dbtp
