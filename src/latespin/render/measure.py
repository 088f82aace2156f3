"""The whole render of a version, measured: what Level, the header and the After ribbon are made from."""

from dataclasses import dataclass

import numpy as np

from latespin.analysis.facts import Facts, FactsGatherer
from latespin.dsp.types import Audio
from latespin.jobs import Share, Work, step
from latespin.media.peaks import PeakGatherer, Peaks
from latespin.memory import let_go, room_for
from latespin.model.version import Stages
from latespin.render.level import LevelPlan, levelled, solve_level
from latespin.render.readers import Readers

BLOCK_FRAMES = 1 << 18


@dataclass(frozen=True, eq=False)
class Measured:
    """A version rendered and measured.

    before_level : facts of the sound Level is given.  facts : of the finished version.
    plan : what Level does.  peaks : of the finished version, for drawing.
    """

    before_level: Facts
    facts: Facts
    plan: LevelPlan
    peaks: Peaks


def render_whole(readers: Readers, stages: Stages, work: Work) -> tuple[Audio, Facts]:
    """All of a version before Level, ``[channels, frames]``, and its facts. Raises Cancelled.

    Renders that would not fit well into memory lie in an unnamed temporary file.
    """
    chain = readers.chain(stages)
    sound = room_for(chain.channels, chain.frames)
    gatherer = FactsGatherer(chain.rate, chain.channels)
    while chain.position < chain.frames:
        step(work, chain.position / chain.frames)
        start = chain.position
        block = chain.read(BLOCK_FRAMES)
        gatherer.push(block)
        sound[:, start : chain.position] = block
        let_go(sound)
        let_go(readers.track.sound)
    return sound, gatherer.result()


def measure(readers: Readers, stages: Stages, work: Work) -> Measured:
    """Render a version, solve its level and measure the result. Raises Cancelled."""
    sound, facts = render_whole(readers, stages, Share(work, 0.0, 0.7))
    plan = solve_level(sound, facts, stages.level, Share(work, 0.7, 0.95))
    peaks = PeakGatherer(facts.rate)
    if plan.ceiling is None:
        for start in range(0, sound.shape[1], BLOCK_FRAMES):
            peaks.push(sound[:, start : start + BLOCK_FRAMES] * np.float32(10.0 ** (plan.gain_db / 20.0)))
            let_go(sound)
        return Measured(facts, facts.with_gain(plan.gain_db), plan, peaks.result())
    finished = FactsGatherer(facts.rate, facts.channels)
    for block in levelled(sound, plan, facts.rate):
        step(work, 0.97)
        finished.push(block)
        peaks.push(block)
    return Measured(facts, finished.result(), plan, peaks.result())
