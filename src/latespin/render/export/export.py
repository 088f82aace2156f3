"""Export: a version of a track becomes a finished, tagged file."""

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from latespin.ahead import made_ahead
from latespin.analysis.facts import Facts
from latespin.analysis.results import Reading
from latespin.dsp.arrays import Audio
from latespin.jobs import Share, Work, step
from latespin.language import tr
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import BEST, LOSSLESS_RATES, Encoding, Format, changes_samples, format_of
from latespin.media.files.atomic import check_room, check_target
from latespin.media.files.guard import Sources, Together
from latespin.media.storage.analysis_cache import kept_reading
from latespin.media.tags import AS_THEY_ARE, TagEdits, Tags
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
from latespin.render.export.codec_patches import can_be_patched, patched
from latespin.render.export.codec_trial import settled
from latespin.render.export.tags import version_tags
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch
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
    excerpt: Excerpt | None = None


class CodecMissedTarget(Exception):
    """The decoded file is not as loud as asked, or its peaks are over the ceiling."""

    def __init__(self, decoded: Decoded) -> None:
        super().__init__("to be made once more")
        self.decoded = decoded


def export(
    readers: TrackRenderer, stages: Stages, target: Path, work: Work, *, encoding: Encoding = BEST, overwrite: bool = False,
    reading: Reading | None = None, credit: str = "", sources: Sources = (), excerpt: Excerpt | ExcerptSearch | None = None,
    edits: TagEdits = AS_THEY_ARE,
    ready: Callable[[Path, ExportResult], None] = lambda *_: None,
) -> ExportResult:  # fmt: skip
    """Render a version and write it to ``target``, whose suffix is the format.

    A lossy file is decoded and measured; where its peaks are over the ceiling, it is encoded again with a lower ceiling there.

    reading : for the tags; the cached one by default.  credit : a line for the tags.  edits : tags that are to be different.  sources : more files that must not be
    written, besides the song and the version's own.  excerpt : a part of the version, which its level is then worked out for.  ready : called with the finished file before it gets its name.
    Raises Unwritable before any work where the target cannot be written, and Cancelled; either leaves no file.
    """
    sources = Together((readers.track.path,), files_of(stages), sources)
    check_export_target(target, encoding, overwrite=overwrite, sources=sources)
    track = readers.track
    seconds = readers.arrangement(stages).map.after_frames / track.rate if excerpt is None else 0.0
    needed = format_of(target).bytes_for(seconds, track.rate, track.sound.shape[0], encoding)
    check_room(target.absolute().parent, needed, target.name)
    known = reading or kept_reading(readers.track.content_id)
    job = _Job(readers, stages, target, encoding, overwrite, known, credit, edits, sources, ready, time.monotonic())
    headroom = spare_for(target, encoding, track.rate)
    solved, share = solve(readers, stages, Share(work, 0.0, 0.6), headroom, excerpt=excerpt), Share(work, 0.6, 1.0)
    limited = solved.plan.ceiling is not None and changes_samples(target, encoding, solved.matched.rate)
    if limited and not can_be_patched(target):
        solved, share = settled(solved, target, encoding, Share(work, 0.6, 0.75)), Share(work, 0.75, 1.0)
        headroom = replace(headroom, lowered=solved.plan.lowered)
    for turn in range(CODEC_ROUNDS - 1):
        try:
            return job.write(solved, share, turn)
        except CodecMissedTarget as missed:
            decoded = missed.decoded
        if turn < len(MORE):
            headroom = spared_there(headroom, decoded, turn, None if solved.plan.note else solved.target_lufs)
            solved = solved.again(headroom, Share(work, 0.85, 0.9))
        else:
            solved = solved.with_plan(quieter(solved.plan, decoded, stages.level))
        share = Share(work, 0.9, 1.0)
    return job.write(solved, share, CODEC_ROUNDS - 1)


@dataclass(frozen=True)
class _Job:
    """Everything of an export that stays the same from one try to the next. began : by the monotonic clock."""

    readers: TrackRenderer
    stages: Stages
    target: Path
    encoding: Encoding
    overwrite: bool
    reading: Reading | None
    credit: str
    edits: TagEdits
    sources: Sources
    ready: Callable[[Path, ExportResult], None]
    began: float

    def write(self, solved: LevelSolution, share: Work, turn: int) -> ExportResult:
        """Encode once. Raises CodecMissedTarget where a lossy file is off its target and another turn may help."""
        found: list[Facts] = []

        def tags(file: Path) -> Tags:
            found.append(self._measured(file, solved, turn, share))
            made = version_tags(self.readers, self.stages, self.reading, found[0], self.target, self.credit)
            return self.edits.applied(made)

        def result(clipped: int) -> ExportResult:
            notes = _notes(self.readers, self.stages, solved.plan, self.target, clipped)
            return ExportResult(
                self.target, found[0], solved.plan, clipped, time.monotonic() - self.began, notes, solved.excerpt
            )

        clipped = encode(
            self.target, _watched(made_ahead(solved.blocks()), solved.sound.shape[1], share), rate=solved.matched.rate,
            channels=solved.matched.channels, encoding=self.encoding, tags=tags, overwrite=self.overwrite, sources=self.sources,
            ready=lambda file, clipped: self.ready(file, result(clipped)),
        )  # fmt: skip
        share.report(1.0)
        return result(clipped)

    def _measured(self, file: Path, solved: LevelSolution, turn: int, work: Work) -> Facts:
        """The facts of a file: as rendered, or as decoded where the format is lossy."""
        if not changes_samples(self.target, self.encoding, solved.matched.rate):
            return solved.finished or solved.matched.with_gain(solved.plan.gain_db)
        decoded = decode_and_measure(file, self.stages.level.ceiling_dbtp)
        if solved.plan.ceiling is not None and can_be_patched(self.target):
            decoded = patched(
                file, solved, decoded, self.encoding, self.stages.level.ceiling_dbtp, Share(work, 1.0, 1.0)
            )
        gave_up = bool(solved.plan.note) or turn >= len(MORE)  # on the loudness; the ceiling holds
        wanted = None if gave_up else solved.target_lufs
        if turn < CODEC_ROUNDS - 1 and is_astray(decoded, self.stages.level, wanted):
            raise CodecMissedTarget(decoded)
        return decoded.facts


def _notes(readers: TrackRenderer, stages: Stages, plan: LevelPlan, target: Path, clipped: int) -> tuple[str, ...]:
    """Notes on everything the version asks for that the file does not have."""
    problems = version_problems(stages, readers.arrangement(stages), readers.context(stages))
    notes = [*(problem.says for problem in problems), *([plan.note] if plan.note else [])]
    if clipped:
        says = tr(
            "{0:,} samples were beyond full scale and are clipped in {1}. "
            "Set a loudness, or write a .wav in floating point."
        )
        notes.append(says.format(clipped, target.name))
    return tuple(notes)


def check_export_target(target: Path, encoding: Encoding = BEST, *, overwrite: bool, sources: Sources) -> None:
    """Raise Unwritable if the file clearly cannot be written."""
    check_encoding(format_of(target), encoding)
    check_target(target, overwrite=overwrite, sources=sources)


def check_encoding(kind: Format, encoding: Encoding) -> None:
    """Raise Unwritable if a format cannot be written so."""
    kind.subtype(encoding)
    kind.rate_for(LOSSLESS_RATES[0], encoding)


def _watched(blocks: Iterator[Audio], frames: int, work: Work) -> Iterator[Audio]:
    done = 0
    for block in blocks:
        step(work, done / max(1, frames))
        done += block.shape[1]
        yield block
