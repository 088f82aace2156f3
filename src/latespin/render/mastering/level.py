"""Level: the gain that reaches the target, found on the finished render, and the limiter's ceiling."""

import math
from collections.abc import Generator, Iterator
from contextlib import closing
from dataclasses import dataclass, replace
from itertools import chain

import numpy as np

from latespin.ahead import made_ahead
from latespin.analysis.facts import BLOCK_FRAMES, Facts
from latespin.analysis.tone import Spectrum
from latespin.dsp.arrays import Audio, amplitude, decibels
from latespin.dsp.dynamics.limiter import Limiter, Need
from latespin.dsp.filters.match_filter import Matcher, MatchFilter
from latespin.dsp.metering.loudness import SILENCE_LUFS
from latespin.memory import let_go
from latespin.model.version import Level
from latespin.render.mastering.tone_match import solve_match

GAIN_ROUNDS = 10


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
    yield from levelled_by(LevelProcessor(plan, rate, sound.shape[0]), sound)


def levelled_by(leveller: LevelProcessor, sound: Audio) -> Generator[Audio, None, None]:
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
    gain = gain_to(target, facts) if known and target is not None else 0.0
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp:
        return LevelPlan(gain_db=gain)
    gain = min(gain, level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp)
    excess = facts.true_peak_dbtp + gain - level.ceiling_dbtp
    return LevelPlan(gain, amplitude(level.ceiling_dbtp), max(0.0, excess), link=level.link_percent / 100.0)


def gain_to(target_lufs: float, facts: Facts) -> float:
    """The gain that brings a sound to a loudness, with what passes the absolute gate on the way."""
    gain = target_lufs - facts.loudness.integrated_lufs
    for _ in range(GAIN_ROUNDS):
        missed = target_lufs - facts.loudness.integrated_with_gain(gain)
        if not math.isfinite(missed) or abs(missed) < 1e-3:
            break
        gain += missed
    return gain
