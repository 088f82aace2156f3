"""Level: the gain that reaches the target, found on the finished render, and the limiter's ceiling."""

import math
from collections.abc import Generator, Iterator
from contextlib import closing
from dataclasses import dataclass, replace
from itertools import chain

import numpy as np

from latespin.ahead import made_ahead
from latespin.analysis.facts import BLOCK_FRAMES, Facts, FactsMeter
from latespin.analysis.tone import Spectrum
from latespin.dsp.arrays import Audio, amplitude, decibels
from latespin.dsp.dynamics.limiter import Limiter, Need
from latespin.dsp.filters.match_filter import Matcher, MatchFilter
from latespin.dsp.metering.loudness import SILENCE_LUFS
from latespin.jobs import Work, step
from latespin.language import tr
from latespin.memory import let_go
from latespin.model.values.units import number
from latespin.model.version import Level
from latespin.render.mastering.tone_match import solve_match

TOLERANCE_LU = 0.03
PEAK_TOLERANCE_DB = 0.005
ROUNDS = 10


@dataclass(frozen=True)
class LevelPlan:
    """Gain and limiting of the Level stage for a version: the same for preview and export.

    ceiling : ratio the limiter holds true peaks to, None where no limiter is needed.  link : of its channels, 0 to 1.
    reduction_db : the most the limiter takes off a peak.  note : a sentence where the target was not met.
    match : the filter the sound passes first, None for none.
    lowered : what the ceiling is multiplied by in every hundredth of a second, for a format that makes peaks of its own there; empty for none.
    loudest : more gain would not make it louder.
    """

    gain_db: float = 0.0
    ceiling: float | None = None
    reduction_db: float = 0.0
    note: str = ""
    link: float = 1.0
    match: MatchFilter | None = None
    lowered: tuple[float, ...] = ()
    loudest: bool = False


@dataclass(frozen=True)
class CodecHeadroom:
    """What a format that makes peaks of its own is left below the ceiling, where the limiter works: everywhere, and as ``LevelPlan.lowered`` besides.

    more_lu : asked for beyond the target, since the format takes it away.
    """

    headroom_db: float = 0.0
    more_lu: float = 0.0
    lowered: tuple[float, ...] = ()


NO_SPARE = CodecHeadroom()


class LevelProcessor:
    """Applies a plan to a stream; returns the same frames, aligned and complete.

    ``process`` holds frames back while the limiter looks ahead; ``finish`` gives the last of them.
    """

    def __init__(self, plan: LevelPlan, rate: int, channels: int) -> None:
        self._gain = np.float32(amplitude(plan.gain_db))
        self._matcher = Matcher(plan.match) if plan.match is not None else None
        lowered = np.array(plan.lowered) if plan.lowered else None
        self._limiter = Limiter(rate, channels, plan.ceiling, plan.link, lowered) if plan.ceiling is not None else None
        self._delay_line = sum(part.latency for part in (self._matcher, self._limiter) if part)
        self._early = self._delay_line
        self._channels = channels

    @property
    def latency(self) -> int:
        """Latency, frames."""
        return self._delay_line

    @property
    def reduction_db(self) -> float:
        """The most that was taken off so far, dB ≥ 0."""
        return max(0.0, -decibels(self._limiter.lowest_gain)) if self._limiter else 0.0

    def process(self, block: Audio) -> Audio:
        """Level a block; may return fewer frames at the start of the stream."""
        return self.limited(self.looked_at(block))

    def looked_at(self, block: Audio) -> Need:
        """The first half of the work; see Limiter."""
        made: Audio = (self._matcher.process(block) if self._matcher else block) * self._gain
        return self._limiter.looked_at(made) if self._limiter else Need(made, [])

    def limited(self, seen: Need) -> Audio:
        """The second half of the work."""
        made = self._limiter.limited(seen) if self._limiter else seen.sound
        dropped = min(self._early, made.shape[1])
        self._early -= dropped
        return made[:, dropped:]

    def finish(self) -> Audio:
        """The frames still held back."""
        return self.process(np.zeros((self._channels, self._delay_line), np.float32))


def levelled(sound: Audio, plan: LevelPlan, rate: int) -> Iterator[Audio]:
    """A whole sound ``[channels, frames]`` with a plan applied, in blocks."""
    yield from _levelled(LevelProcessor(plan, rate, sound.shape[0]), sound)


def _levelled(leveller: LevelProcessor, sound: Audio) -> Generator[Audio, None, None]:
    """A whole sound through a leveller, in blocks; what limiting needs of one is found out while the one before is limited."""
    parts = (sound[:, start : start + BLOCK_FRAMES] for start in range(0, sound.shape[1], BLOCK_FRAMES))
    if leveller.latency == 0:
        yield from map(leveller.process, parts)
        return
    last = np.zeros((sound.shape[0], leveller.latency), np.float32)
    with closing(made_ahead(map(leveller.looked_at, chain(parts, [last])))) as looked_at:
        for seen in looked_at:
            yield leveller.limited(seen)
            let_go(sound)


def solve_level(
    sound: Audio,
    facts: Facts,
    level: Level,
    work: Work,
    before_lufs: float = SILENCE_LUFS,
    spare: CodecHeadroom = NO_SPARE,
) -> LevelPlan:
    """The plan that brings ``sound``, whose facts are known, to a Level stage's target.

    before_lufs : loudness of the track as it came.  spare : for the format it is to be written in.

    The limiter is tried on the whole sound until the loudness is met within 0.03 LU and the true peak holds;
    where that would ask more of it than its allowance, the gain stays at what the allowance permits.
    """
    if not level.on:
        return LevelPlan()
    target = level.target(before_lufs)
    if target is not None and not (math.isfinite(facts.loudness.integrated_lufs) and math.isfinite(target)):
        return LevelPlan(
            note=tr(
                "The loudness of this sound is undefined (it is silent or too short), so Level leaves it unchanged."
            )
        )
    target = None if target is None else target + spare.more_lu
    gain = 0.0 if target is None else _gain_to(target, facts)
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp and not spare.lowered:
        return LevelPlan(gain_db=gain)
    most = level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp
    return _solve_limited(sound, facts.rate, level, target, min(gain, most), most, spare, work)


def estimate_plan(
    facts: Facts, level: Level, before_lufs: float = SILENCE_LUFS, tone: Spectrum | None = None
) -> LevelPlan:
    """A plan from facts alone, nearly exact where no limiter is needed, used until the render has been measured."""
    match = solve_match(tone, level.matched, facts.rate) if level.matched is not None and tone is not None else None
    return replace(_estimated(facts, level, before_lufs), match=match)


def _estimated(facts: Facts, level: Level, before_lufs: float) -> LevelPlan:
    loudness, target = facts.loudness.integrated_lufs, level.target(before_lufs)
    if not level.on or not math.isfinite(facts.true_peak_dbtp):
        return LevelPlan()
    known = target is not None and math.isfinite(loudness) and math.isfinite(target)
    gain = _gain_to(target, facts) if known and target is not None else 0.0
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp:
        return LevelPlan(gain_db=gain)
    gain = min(gain, level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp)
    excess = facts.true_peak_dbtp + gain - level.ceiling_dbtp
    return LevelPlan(gain, amplitude(level.ceiling_dbtp), max(0.0, excess), link=level.link_percent / 100.0)


def _gain_to(target_lufs: float, facts: Facts) -> float:
    """The gain that brings a sound to a loudness, with what passes the absolute gate on the way."""
    gain = target_lufs - facts.loudness.integrated_lufs
    for _ in range(ROUNDS):
        missed = target_lufs - facts.loudness.integrated_with_gain(gain)
        if not math.isfinite(missed) or abs(missed) < 1e-3:
            break
        gain += missed
    return gain


def _solve_limited(
    sound: Audio,
    rate: int,
    level: Level,
    target: float | None,
    gain: float,
    most: float,
    spare: CodecHeadroom,
    work: Work,
) -> LevelPlan:
    wanted_db, link = level.ceiling_dbtp - spare.headroom_db, level.link_percent / 100.0
    ceiling_db = wanted_db
    plan = LevelPlan()
    missed, slope, loudest = 0.0, 1.0, False
    tried: list[tuple[LevelPlan, float]] = []
    for round_number in range(ROUNDS):
        step(work, round_number / ROUNDS)
        tried_plan = LevelPlan(gain, amplitude(ceiling_db), link=link, lowered=spare.lowered)
        plan, reached, peak = _try(sound, rate, tried_plan, work)
        missed = 0.0 if target is None else target - reached
        excess = peak - wanted_db
        if missed > 0.0 and tried and _no_louder(tried[-1], tried_plan, reached):
            most, loudest = tried[-1][0].gain_db, True
        bound = abs(gain - most) < 1e-9 and missed > 0.0
        if excess <= PEAK_TOLERANCE_DB and (abs(missed) <= TOLERANCE_LU or bound):
            break
        if excess > PEAK_TOLERANCE_DB:
            ceiling_db -= excess
        tried.append((tried_plan, reached))
        slope = _slope(tried, slope)
        gain = min(most, gain + missed / slope)
    wanted = None if target is None else target - spare.more_lu
    plan = replace(plan, loudest=loudest and missed > TOLERANCE_LU)
    return replace(plan, note=_note(plan, level, wanted, missed))


def _note(plan: LevelPlan, level: Level, wanted: float | None, missed: float) -> str:
    """What the user should know of a plan; empty where it does what was asked.

    missed : LU short of what was wanted.
    """
    if wanted is None:
        if plan.reduction_db <= level.allowance_db + 0.05:
            return ""
        return tr("Holding the ceiling takes {0} dB of limiting.").format(number(plan.reduction_db, 1))
    if missed <= 0.1:
        return ""
    lufs, reached = number(wanted, 1), number(wanted - missed, 1)
    if plan.loudest:
        return tr(
            "The limiter makes this no louder than {1} LUFS, with {2} dB of limiting; {0} LUFS is out of its reach. "
            "Compress it, or lower the loudness."
        ).format(lufs, reached, number(plan.reduction_db, 1))
    return tr(
        "Reaching {0} LUFS takes more than {1} dB of limiting; the version is at {2} LUFS. "
        "Raise the maximum limiting, or lower the loudness."
    ).format(lufs, number(level.allowance_db, 1), reached)


def _no_louder(before: tuple[LevelPlan, float], plan: LevelPlan, reached: float) -> bool:
    """Whether more gain below the same ceiling has not made it louder."""
    earlier, loudness = before
    return plan.gain_db > earlier.gain_db and plan.ceiling == earlier.ceiling and reached <= loudness


def _slope(tried: list[tuple[LevelPlan, float]], otherwise: float) -> float:
    """Change of the result's loudness per decibel of gain: below 1 while the limiter works."""
    if len(tried) < 2:
        return otherwise
    (before, quieter), (after, louder) = tried[-2:]
    more = after.gain_db - before.gain_db
    return otherwise if abs(more) < 1e-6 else min(1.0, max(0.2, (louder - quieter) / more))


def _try(sound: Audio, rate: int, plan: LevelPlan, work: Work) -> tuple[LevelPlan, float, float]:
    """One round: the plan with what its limiter did, the loudness reached, the true peak reached."""
    leveller = LevelProcessor(plan, rate, sound.shape[0])
    gatherer = FactsMeter(rate, sound.shape[0])
    done = 0
    with closing(made_ahead(_levelled(leveller, sound))) as blocks:
        for block in blocks:
            step(work, done / sound.shape[1])
            gatherer.push(block)
            done += block.shape[1]
    facts = gatherer.result()
    return replace(plan, reduction_db=leveller.reduction_db), facts.loudness.integrated_lufs, facts.true_peak_dbtp
