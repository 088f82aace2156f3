"""Export: a version of a track becomes a finished, tagged file."""

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from latespin.analysis.facts import Facts, FactsMeter
from latespin.analysis.results import Reading
from latespin.dsp.arrays import Audio
from latespin.jobs import Share, Work, step
from latespin.media.audio.encode import Depth, encode, format_of, is_lossy
from latespin.media.files.atomic import check_target
from latespin.media.files.guard import Sources, Together
from latespin.media.storage.analysis_cache import kept_reading
from latespin.media.tags import Tags
from latespin.model.documents.documents import files_of
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems
from latespin.render.export.codec_headroom import (
    MORE,
    Decoded,
    decode_and_measure,
    is_astray,
    quieter,
    spare_for,
    spared_there,
)
from latespin.render.export.tags import version_tags
from latespin.render.mastering.level import LevelPlan
from latespin.render.mastering.measure import LevelSolution, solve

CODEC_ROUNDS = 7


@dataclass(frozen=True)
class ExportResult:
    """A finished file: its facts, and what Level did.

    facts : measured on the sound given to the encoder, or, where the format loses something, on the decoded file.
    notes : a sentence for everything that was asked for and is not in the file.
    """

    target: Path
    facts: Facts
    plan: LevelPlan
    clipped_samples: int
    seconds_taken: float
    notes: tuple[str, ...] = ()


class CodecMissedTarget(Exception):
    """The decoded file is not as loud as asked, or its peaks are over the ceiling."""

    def __init__(self, decoded: Decoded) -> None:
        super().__init__("to be made once more")
        self.decoded = decoded


def export(
    readers: TrackRenderer,
    stages: Stages,
    target: Path,
    work: Work,
    *,
    depth: Depth | None = None,
    overwrite: bool = False,
    reading: Reading | None = None,
    credit: str = "",
    sources: Sources = (),
    ready: Callable[[Path, ExportResult], None] = lambda *_: None,
) -> ExportResult:
    """Render a version and write it to ``target``, whose ending names the format.

    A format that loses something is decoded again and measured; where its peaks are over the ceiling, it is made anew with a lower one there.
    reading : for its tags, the kept one unless given.  credit : a line for them.  sources : more files that are not to be touched, besides the song and the version's own.  ready : told of the whole file before it has its name.  Raises Unwritable before any work where the target cannot be written, Cancelled; either leaves no file.
    """
    began = time.monotonic()
    sources = Together((readers.track.path,), files_of(stages), sources)
    check_export_target(target, overwrite=overwrite, sources=sources)
    known = reading or kept_reading(readers.track.sha256)

    def write(solved: LevelSolution, share: Work, turn: int) -> ExportResult:
        finished = FactsMeter(solved.matched.rate, solved.matched.channels)
        found: list[Facts] = []

        def tags(file: Path) -> Tags:
            found.append(finished.result())
            if is_lossy(target):
                decoded = decode_and_measure(file, stages.level.ceiling_dbtp)
                found[0] = decoded.facts
                given_up = bool(solved.plan.note) or turn >= len(MORE)  # of the loudness; the ceiling holds
                wanted = None if given_up else solved.target_lufs
                if turn < CODEC_ROUNDS - 1 and is_astray(decoded, stages.level, wanted):
                    raise CodecMissedTarget(decoded)
            return version_tags(readers, stages, known, found[0], target, credit)

        def result(clipped: int) -> ExportResult:
            notes = _notes(readers, stages, solved.plan, target, clipped)
            return ExportResult(target, found[0], solved.plan, clipped, time.monotonic() - began, notes)

        clipped = encode(
            target, _watched(solved.blocks(), solved.sound.shape[1], finished, share), rate=solved.matched.rate,
            channels=solved.matched.channels, depth=depth, tags=tags, overwrite=overwrite, sources=sources,
            ready=lambda file, clipped: ready(file, result(clipped)),
        )  # fmt: skip
        share.report(1.0)
        return result(clipped)

    spare = spare_for(target)
    solved, share = solve(readers, stages, Share(work, 0.0, 0.7), spare), Share(work, 0.7, 1.0)
    for turn in range(CODEC_ROUNDS - 1):
        try:
            return write(solved, share, turn)
        except CodecMissedTarget as astray:
            decoded = astray.decoded
        if turn < len(MORE):
            spare = spared_there(spare, decoded, turn, None if solved.plan.note else solved.target_lufs)
            solved = solved.again(spare, Share(work, 0.85, 0.9))
        else:
            solved = replace(solved, plan=quieter(solved.plan, decoded, stages.level))
        share = Share(work, 0.9, 1.0)
    return write(solved, share, CODEC_ROUNDS - 1)


def _notes(readers: TrackRenderer, stages: Stages, plan: LevelPlan, target: Path, clipped: int) -> tuple[str, ...]:
    """What the version asks for and the file does not have, in sentences."""
    problems = version_problems(stages, readers.arrangement(stages), readers.context(stages))
    notes = [*(problem.says for problem in problems), *([plan.note] if plan.note else [])]
    if clipped:
        notes.append(
            f"{clipped:,} samples were beyond full scale and are clipped in {target.name}. "
            "Ask for a loudness, or write a .wav in floating point."
        )
    return tuple(notes)


def check_export_target(target: Path, *, overwrite: bool, sources: Sources) -> None:
    """Raise Unwritable where it is clear beforehand that the file cannot be written."""
    format_of(target)
    check_target(target, overwrite=overwrite, sources=sources)


def _watched(blocks: Iterator[Audio], frames: int, gatherer: FactsMeter, work: Work) -> Iterator[Audio]:
    done = 0
    for block in blocks:
        step(work, done / max(1, frames))
        gatherer.push(block)
        done += block.shape[1]
        yield block
