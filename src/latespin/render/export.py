"""Export: a version of a track becomes a finished, tagged file."""

import time
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from msgspec.structs import replace as replace_value

from latespin.analysis.facts import Facts, FactsGatherer, facts_of
from latespin.analysis.found import Reading
from latespin.dsp.types import Audio
from latespin.errors import Unwritable
from latespin.jobs import Quietly, Share, Work, step
from latespin.media.atomic import check_target
from latespin.media.encode import Depth, encode, format_of, is_lossy
from latespin.media.readings import kept_reading
from latespin.media.tags import Tags
from latespin.media.track import Track, open_track
from latespin.model.version import Level, Stages
from latespin.render.level import LevelPlan, solve_level
from latespin.render.measure import Solved, solve
from latespin.render.readers import Readers
from latespin.render.versiontags import version_tags

CODEC_ROUNDS = 5
CODEC_PEAK_DB, CODEC_LOUDNESS_LU = 0.045, 0.08  # beyond which a file is made once more
BELOW_DB = 0.05  # by which the ceiling is lowered beyond what a decoded file was over it


@dataclass(frozen=True)
class ExportResult:
    """A finished file: its facts, and what Level did.

    facts : measured on the sound given to the encoder, or, where the format loses something, on the decoded file.
    """

    target: Path
    facts: Facts
    plan: LevelPlan
    clipped_samples: int
    seconds_taken: float


class _Astray(Exception):
    """The decoded file is not as loud as asked, or its peaks are over the ceiling."""

    def __init__(self, facts: Facts) -> None:
        super().__init__("to be made once more")
        self.facts = facts


def export(
    readers: Readers,
    stages: Stages,
    target: Path,
    work: Work,
    *,
    depth: Depth | None = None,
    overwrite: bool = False,
    reading: Reading | None = None,
    credit: str = "",
) -> ExportResult:
    """Render a version and write it to ``target``, whose ending names the format.

    A format that loses something is decoded again and measured; where its peaks are over the ceiling, it is made anew with a lower one.
    reading : for its tags, the kept one unless given.  credit : a line for them.  Raises Unwritable before any work where the target cannot be written, Cancelled; either leaves no file.
    """
    began = time.monotonic()
    check_export_target(readers.track, target, overwrite=overwrite)
    known = reading or kept_reading(readers.track.sha256)

    def write(solved: Solved, share: Work, *, last: bool) -> ExportResult:
        finished = FactsGatherer(solved.matched.rate, solved.matched.channels)
        found: list[Facts] = []

        def tags(file: Path) -> Tags:
            found.append(_written_facts(file, target, finished))
            if not last and is_lossy(target) and _is_astray(found[0], stages.level, solved.plan, readers):
                raise _Astray(found[0])
            return version_tags(readers, stages, known, found[0], target, credit)

        clipped = encode(
            target, _watched(solved.blocks(), solved.sound.shape[1], finished, share), rate=solved.matched.rate,
            channels=solved.matched.channels, depth=depth, tags=tags, overwrite=overwrite,
        )  # fmt: skip
        share.report(1.0)
        return ExportResult(target, found[0], solved.plan, clipped, time.monotonic() - began)

    solved, level, low = solve(readers, stages, Share(work, 0.0, 0.7)), stages.level, 0.7
    for _ in range(CODEC_ROUNDS - 1):
        try:
            return write(solved, Share(work, low, 1.0), last=False)
        except _Astray as astray:
            level, low = _corrected(level, stages.level, astray.facts, solved.plan, readers), 0.9
            plan = solve_level(solved.sound, solved.matched, level, Share(work, 0.85, 0.9))
            solved = replace(solved, plan=replace(plan, match=solved.plan.match))
    return write(solved, Share(work, low, 1.0), last=True)


def _written_facts(file: Path, target: Path, finished: FactsGatherer) -> Facts:
    """The facts of what was written: of the decoded file, where its format loses something."""
    if not is_lossy(target):
        return finished.result()
    decoded = open_track(file, Quietly(), fold=False)
    return facts_of(decoded.sound, decoded.rate)


def _is_astray(facts: Facts, level: Level, plan: LevelPlan, readers: Readers) -> bool:
    """Whether a decoded file is over the ceiling or off its target, where that is for Level to say."""
    if not level.on:
        return False
    over = facts.true_peak_dbtp - level.ceiling_dbtp
    target = readers.asked_lufs(level)
    off = 0.0 if target is None or plan.note else abs(facts.loudness.integrated_lufs - target)
    return over > CODEC_PEAK_DB or off > CODEC_LOUDNESS_LU


def _corrected(level: Level, asked: Level, facts: Facts, plan: LevelPlan, readers: Readers) -> Level:
    """A Level stage that makes up for what the format did: a lower ceiling, and a target as far off the other way."""
    over = facts.true_peak_dbtp - asked.ceiling_dbtp
    if over > CODEC_PEAK_DB:
        level = replace_value(level, ceiling_dbtp=max(-12.0, level.ceiling_dbtp - over - BELOW_DB))
    target = readers.asked_lufs(asked)
    if target is not None and not plan.note:
        now = readers.asked_lufs(level)
        assert now is not None
        level = replace_value(level, as_before=False, target_lufs=now + target - facts.loudness.integrated_lufs)
    elif level.as_before:
        level = replace_value(level, as_before=False, target_lufs=target)
    return level


def check_export_target(track: Track, target: Path, *, overwrite: bool) -> None:
    """Raise Unwritable where it is clear beforehand that the file cannot be written."""
    format_of(target)
    if target.exists() and track.path.exists() and target.samefile(track.path):
        raise Unwritable(f"{target} is the song itself, which is never changed. Choose another name.")
    check_target(target, overwrite=overwrite)


def _watched(blocks: Iterator[Audio], frames: int, gatherer: FactsGatherer, work: Work) -> Iterator[Audio]:
    done = 0
    for block in blocks:
        step(work, done / max(1, frames))
        gatherer.push(block)
        done += block.shape[1]
        yield block
