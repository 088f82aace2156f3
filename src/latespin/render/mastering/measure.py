"""The whole render of a version, measured: what Level, the header and the After waveform are made from."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace as replace_value

from latespin.ahead import made_ahead
from latespin.analysis.facts import BLOCK_FRAMES, Facts, FactsMeter, facts_of
from latespin.analysis.tone import Spectrum, spectrum_of
from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.filters.match_filter import MatchFilter
from latespin.dsp.metering.loudness import SILENCE_LUFS
from latespin.errors import Unusable
from latespin.jobs import Share, Work, step
from latespin.media.audio.peaks import PeakMeter, Peaks, find_peaks
from latespin.memory import let_go, room_for
from latespin.model.version import Level, Stages
from latespin.render.chain.chain import Chain
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch
from latespin.render.mastering.level import NO_SPARE, CodecHeadroom, LevelPlan, LevelProcessor, levelled
from latespin.render.mastering.level_solver import solve_level
from latespin.render.mastering.tone_match import solve_match

if TYPE_CHECKING:
    from latespin.render.chain.played_chain import PlayedChain


@dataclass(frozen=True, eq=False)
class Measured:
    """A version rendered and measured.

    before_level : facts of the sound Level is given.  facts : of the finished version.
    plan : what Level does.  peaks : of the finished version, for drawing.
    tone : of the sound Level is given, before a match; None where it is too short or silent.
    """

    before_level: Facts
    facts: Facts
    plan: LevelPlan
    peaks: Peaks
    tone: Spectrum | None = None


@dataclass(frozen=True, eq=False)
class LevelSolution:
    """All of a version but for Level's gain and limiter. tone : before a match; None where nothing asked for it.

    sound : matched already, which the plan says too, for playing.  before_level, matched : facts of it before and after that.
    level, before_lufs : what the plan was solved for.  finished : facts of the finished sound where a limiter works and they are known.  excerpt : the part of the version that it is; None for all of it.
    """

    sound: Audio
    before_level: Facts
    matched: Facts
    tone: Spectrum | None
    level: Level
    before_lufs: float
    plan: LevelPlan
    finished: Facts | None = None
    excerpt: Excerpt | None = None

    @property
    def target_lufs(self) -> float | None:
        """The loudness asked for; None where there is none."""
        return self.level.target(self.before_lufs)

    def again(self, spare: CodecHeadroom, work: Work) -> "LevelSolution":
        """The same solved once more for what a format needs."""
        solved = solve_level(self.sound, self.matched, self.level, work, self.before_lufs, spare)
        return replace(self, plan=replace(solved.plan, match=self.plan.match), finished=solved.facts)

    def with_plan(self, plan: LevelPlan) -> "LevelSolution":
        """The same with another plan."""
        return replace(self, plan=plan, finished=None)

    def blocks(self) -> Iterator[Audio]:
        """The finished sound, block by block."""
        return levelled(self.sound, replace(self.plan, match=None), self.matched.rate)


def render_whole(
    readers: TrackRenderer, stages: Stages, work: Work, excerpt: Excerpt | None = None
) -> tuple[Audio, Facts]:
    """All of a version before Level, or an excerpt of it, ``[channels, frames]``, and its facts. Raises Cancelled, Unusable.

    Renders that would not fit well into memory lie in an unnamed temporary file.
    """
    chain = readers.chain(stages)
    first, last = excerpt.frames(chain.rate, chain.frames) if excerpt else (0, chain.frames)
    if first:
        chain.seek(first)
    sound = room_for(chain.channels, last - first)
    meter, done = FactsMeter(chain.rate, chain.channels), 0
    with closing(made_ahead(_read(chain, last))) as blocks:
        for block in blocks:
            step(work, done / (last - first))
            if excerpt:
                excerpt.fade(block, done, last - first, chain.rate)
            meter.push(block)
            sound[:, done : done + block.shape[1]] = block
            done += block.shape[1]
            let_go(sound)
            let_go(readers.track.sound)
    return sound, meter.result()


def _cut_out(sound: Audio, excerpt: Excerpt, rate: int) -> tuple[Audio, Facts]:
    """An excerpt of a whole render, and its facts."""
    first, last = excerpt.frames(rate, sound.shape[1])
    part = np.ascontiguousarray(sound[:, first:last])
    excerpt.fade(part, 0, last - first, rate)
    return part, facts_of(part, rate)


def _read(chain: "Chain | PlayedChain", stop: int) -> Iterator[Audio]:
    with ThreadPoolExecutor(1, "ahead") as pool:
        if isinstance(chain, Chain):
            chain.read_ahead(pool)
        while chain.position < stop:
            yield chain.read(min(BLOCK_FRAMES, stop - chain.position))


def solve(
    readers: TrackRenderer, stages: Stages, work: Work, spare: CodecHeadroom = NO_SPARE, *, with_tone: bool = False,
    excerpt: Excerpt | ExcerptSearch | None = None,
) -> LevelSolution:  # fmt: skip
    """Render a version, or an excerpt of it, and work out what Level does to it. Raises Cancelled, and Unusable for an impossible excerpt.

    spare : for the format it is to be written in.  with_tone : find the tone even where there is no match that needs it.
    """
    part = excerpt if isinstance(excerpt, Excerpt) else None
    sound, facts = render_whole(readers, stages, Share(work, 0.0, 0.7), part)
    if isinstance(excerpt, ExcerptSearch):
        part = excerpt.found(facts.loudness, readers.arrangement(stages), readers.layout)
        sound, facts = _cut_out(sound, part, facts.rate)
    tone = tone_before_match(sound, facts) if with_tone or stages.level.matched is not None else None
    before = readers.before_lufs if stages.level.on and stages.level.as_before else SILENCE_LUFS
    match, matched = stages.level.matched, facts
    made = solve_match(tone, match, facts.rate) if match is not None and tone is not None else None
    if made is not None:
        matched = _filtered(sound, made, facts.rate, Share(work, 0.7, 0.75))
    level = stages.level
    if made is not None and level.target(before) is None:  # a match alone leaves the loudness as it is
        level, before = replace_value(level, as_before=True), facts.loudness.integrated_lufs
    solved = solve_level(sound, matched, level, Share(work, 0.75, 1.0), before, spare)
    plan = replace(solved.plan, match=made)
    return LevelSolution(sound, facts, matched, tone, level, before, plan, solved.facts, part)


def tone_before_match(sound: Audio, facts: Facts) -> Spectrum | None:
    """The tone of a whole render's fullest passages; None where there is too little."""
    try:
        return spectrum_of(sound, facts.rate)
    except Unusable:
        return None


def _filtered(sound: Audio, made: MatchFilter, rate: int, work: Work) -> Facts:
    """A whole sound through a match, in place; its facts."""
    leveller = LevelProcessor(LevelPlan(match=made), rate, sound.shape[0])
    gatherer = FactsMeter(rate, sound.shape[0])
    done = 0
    for start in range(0, sound.shape[1] + 1, BLOCK_FRAMES):
        step(work, start / max(1, sound.shape[1]))
        block = leveller.process(sound[:, start : start + BLOCK_FRAMES].copy())
        if start + BLOCK_FRAMES >= sound.shape[1] + 1:
            block = np.concatenate((block, leveller.finish()), axis=1)
        block = block[:, : sound.shape[1] - done]
        sound[:, done : done + block.shape[1]] = block
        gatherer.push(block)
        done += block.shape[1]
        let_go(sound)
    return gatherer.result()


def measure(readers: TrackRenderer, stages: Stages, work: Work) -> Measured:
    """Render a version, solve its level and measure the result. Raises Cancelled."""
    solved = solve(readers, stages, Share(work, 0.0, 0.95), with_tone=True)
    facts, plan = solved.matched, solved.plan
    if plan.ceiling is None:  # what is known of the sound follows the gain
        peaks = find_peaks(solved.sound, facts.rate).with_gain(amplitude(plan.gain_db))
        return Measured(solved.before_level, facts.with_gain(plan.gain_db), plan, peaks, solved.tone)
    drawn = PeakMeter(facts.rate)
    with closing(made_ahead(solved.blocks())) as blocks:
        for block in blocks:
            step(work, 0.97)
            drawn.push(block)
    assert solved.finished is not None, "the limiter's last round is the finished sound"
    return Measured(solved.before_level, solved.finished, plan, drawn.result(), solved.tone)
