"""Export: a version of a track becomes a finished, tagged file."""

import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from latespin.analysis.facts import Facts, FactsGatherer
from latespin.dsp.types import Audio
from latespin.errors import Unwritable
from latespin.jobs import Share, Work, step
from latespin.media.atomic import check_target
from latespin.media.encode import Depth, encode, format_of
from latespin.media.tags import Tags
from latespin.media.track import Track
from latespin.model.sentence import title_suffix
from latespin.model.version import Stages
from latespin.render.level import LevelPlan, levelled, solve_level
from latespin.render.measure import render_whole
from latespin.render.readers import Readers


@dataclass(frozen=True)
class ExportResult:
    """A finished file: its facts, measured on the sound given to the encoder, and what Level did."""

    target: Path
    facts: Facts
    plan: LevelPlan
    clipped_samples: int
    seconds_taken: float


def export(
    readers: Readers,
    stages: Stages,
    target: Path,
    work: Work,
    *,
    depth: Depth | None = None,
    overwrite: bool = False,
) -> ExportResult:
    """Render a version and write it to ``target``, whose ending names the format.

    Raises Unwritable before any work where the target cannot be written, Cancelled; either leaves no file.
    """
    began = time.monotonic()
    check_export_target(readers.track, target, overwrite=overwrite)
    sound, facts = render_whole(readers, stages, Share(work, 0.0, 0.55))
    plan = solve_level(sound, facts, stages.level, Share(work, 0.55, 0.75))
    finished = FactsGatherer(facts.rate, facts.channels)
    blocks = _watched(levelled(sound, plan, facts.rate), sound.shape[1], finished, Share(work, 0.75, 1.0))
    clipped = encode(
        target, blocks, rate=facts.rate, channels=facts.channels, depth=depth,
        tags=completed_tags(readers.track, stages), overwrite=overwrite,
    )  # fmt: skip
    work.report(1.0)
    return ExportResult(target, finished.result(), plan, clipped, time.monotonic() - began)


def check_export_target(track: Track, target: Path, *, overwrite: bool) -> None:
    """Raise Unwritable where it is clear beforehand that the file cannot be written."""
    format_of(target)
    if target.exists() and track.path.exists() and target.samefile(track.path):
        raise Unwritable(f"{target} is the song itself, which is never changed. Choose another name.")
    check_target(target, overwrite=overwrite)


def completed_tags(track: Track, stages: Stages) -> Tags:
    """The track's tags with what was done added to the title: ``… (slowed + reverb)``."""
    suffix = title_suffix(stages)
    return track.tags.with_title(f"{track.title} ({suffix})" if suffix else track.title)


def _watched(blocks: Iterator[Audio], frames: int, gatherer: FactsGatherer, work: Work) -> Iterator[Audio]:
    done = 0
    for block in blocks:
        step(work, done / max(1, frames))
        gatherer.push(block)
        done += block.shape[1]
        yield block
