"""Contribution of each stage to a version's loudness."""

from msgspec.structs import replace

from latespin.analysis.facts import BLOCK_FRAMES
from latespin.dsp.metering.loudness import LoudnessMeter
from latespin.jobs import Share, Work, step
from latespin.memory import let_go
from latespin.model.version import UNTOUCHED, Stages
from latespin.render.chain.renderer import TrackRenderer

BEFORE_LEVEL = ("time", "colour", "moments", "ending")


def added_by_stages(readers: TrackRenderer, stages: Stages, before_level_lufs: float, work: Work) -> dict[str, float]:
    """LU that each stage but Level adds to the integrated loudness, each with all that come before it. Raises Cancelled.

    before_level_lufs : of the version before Level, which has been measured already.
    """
    made, steps = UNTOUCHED, [(name, getattr(stages, name)) for name in BEFORE_LEVEL]
    tried: list[tuple[str, Stages]] = []
    for name, stage in steps:
        following = replace(made, **{name: stage})
        if following != made and _is_heard(following, made):
            tried.append((name, following))
        made = following
    added, last = dict.fromkeys(BEFORE_LEVEL, 0.0), readers.before_lufs
    for number, (name, partial) in enumerate(tried):
        whole = number == len(tried) - 1
        share = Share(work, number / len(tried), (number + 1) / len(tried))
        lufs = before_level_lufs if whole else _loudness(readers, partial, share)
        added[name], last = lufs - last, lufs
    return added


def _is_heard(following: Stages, made: Stages) -> bool:
    """Whether a stage changes anything."""
    return (
        following.time.heard != made.time.heard
        or following.colour.heard != made.colour.heard
        or following.moments.heard != made.moments.heard
        or following.ending.heard != made.ending.heard
    )


def _loudness(readers: TrackRenderer, stages: Stages, work: Work) -> float:
    chain = readers.chain(stages)
    meter = LoudnessMeter(chain.rate, chain.channels)
    while chain.position < chain.frames:
        step(work, chain.position / chain.frames)
        meter.push(chain.read(BLOCK_FRAMES))
        let_go(readers.track.sound)
    return meter.result().integrated_lufs
