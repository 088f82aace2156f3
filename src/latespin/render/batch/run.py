"""Running a set in worker processes; one failure does not stop the rest."""

import math
import os
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from msgspec.structs import replace

from latespin.errors import Unreadable, Unwritable, shortened
from latespin.jobs import Share, Work
from latespin.language import tr
from latespin.media.audio.decode import is_song
from latespin.media.files.atomic import sweep
from latespin.media.track import Track, file_hash, open_track
from latespin.paths import is_file, resolved
from latespin.render.batch.jobs import Job
from latespin.render.batch.journal import Journal, Outcome, note
from latespin.render.batch.plan import BatchItem, is_there
from latespin.render.batch.report import Line, write_report
from latespin.render.batch.song_summary import SongSummary, survey
from latespin.render.batch.worker_pool import Workforce, run_jobs
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import ExportResult, export


@dataclass(frozen=True)
class BatchJobInput:
    """A worker's order for one file."""

    order: BatchItem
    song: SongSummary
    folder: str
    overwrite: bool
    credit: str


_OPENED: dict[str, tuple[Track, TrackRenderer]] = {}  # of this worker: the song it worked on last


def songs_in(places: Sequence[Path]) -> list[Path]:
    """The songs among files and in folders (and the folders in them), by name, each once. Raises Unreadable."""
    found: dict[Path, Path] = {}
    for place in places:
        if os.path.isdir(place):  # noqa: PTH112 - Path.is_dir raises for names that are too long
            inside = [p for p in place.rglob("*") if is_file(p) and is_song(p) and not p.name.startswith(".")]
        elif is_file(place):
            inside = [place]
        else:
            raise Unreadable(
                tr("{0} is not there. Give songs, or folders with songs in them.").format(shortened(place))
            )
        for path in sorted(inside, key=lambda p: str(p).casefold()):
            found.setdefault(resolved(path), path)
    if not found:
        raise Unreadable(tr("There are no songs there. Give songs, or folders with songs in them."))
    return list(found.values())


def make_folder(folder: Path) -> None:
    """Make the folder of a set, unless it is there. Raises Unwritable."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise Unwritable(
            tr("The folder {0} cannot be made: {1}. Choose another.").format(folder, error.strerror)
        ) from error


def look_at(path: str, work: Work) -> SongSummary:
    """A worker's job: look at a song."""
    track = _opened(path, Share(work, 0.0, 0.3))[0]
    return survey(track, Share(work, 0.3, 1.0))


def make(making: BatchJobInput, work: Work) -> Outcome:
    """A worker's job: write one file. It is noted before it has its name, so that no kill parts the two."""
    order, song = making.order, making.song
    track, readers = _opened(order.song, Share(work, 0.0, 0.1))
    if track.sha256 != order.sha256:
        raise Unreadable(tr("{0} has changed since it was planned. Start the export again.").format(order.song))
    if readers.layout != song.layout:
        readers = readers.laid_out(song.layout)
        _OPENED[order.song] = track, readers
    readers.before_lufs = song.lufs
    target = Path(order.target)
    target.parent.mkdir(parents=True, exist_ok=True)
    made: list[Outcome] = []

    def ready(file: Path, result: ExportResult) -> None:
        made.append(_outcome(file, result))
        note(Path(making.folder), order, made[0])

    export(
        readers, order.stages, target, Share(work, 0.1, 1.0), encoding=order.encoding, excerpt=order.excerpt, edits=order.edits, overwrite=making.overwrite,
        reading=song.reading, credit=making.credit, ready=ready,
    )  # fmt: skip
    return made[0]


def _outcome(file: Path, result: ExportResult) -> Outcome:
    facts = result.facts
    return Outcome(
        frames=facts.frames, rate=facts.rate, channels=facts.channels, integrated_lufs=_finite(facts.loudness.integrated_lufs),
        loudness_range_lu=facts.loudness.range_lu, true_peak_dbtp=_finite(facts.true_peak_dbtp), gain_db=result.plan.gain_db,
        limiter_db=result.plan.reduction_db, clipped_samples=result.clipped_samples, bytes=file.stat().st_size,
        sha256=file_hash(file), seconds_taken=result.seconds_taken, notes=result.notes,
    )  # fmt: skip


def _opened(path: str, work: Work) -> tuple[Track, TrackRenderer]:
    known = _OPENED.get(path)
    if known is None:
        _OPENED.clear()
        track = open_track(Path(path), work)
        known = _OPENED[path] = track, TrackRenderer(track)
    return known


def _finite(value: float) -> float | None:
    return value if math.isfinite(value) else None


def survey_jobs(paths: Sequence[Path]) -> list[Job]:
    """One job for each song to look at."""
    return [Job(look_at, str(path), group=str(path)) for path in paths]


def going_on(orders: Sequence[BatchItem], folder: Path) -> list[BatchItem]:
    """Orders without the conflict of those whose file an earlier run of the set has written."""
    journal = Journal(folder)
    return [
        replace(order, conflict="") if order.conflict == is_there() and journal.outcome(order) is not None else order
        for order in orders
    ]


class BatchRun:
    """A set being made in a folder. jobs : one for each order, in order; those already done before are so from the start."""

    def __init__(
        self,
        orders: Sequence[BatchItem],
        songs: Sequence[SongSummary],
        folder: Path,
        *,
        overwrite: bool = False,
        credit: str = "",
    ) -> None:
        by_path = {str(song.path): song for song in songs}
        self.orders, self._folder, self._journal = tuple(orders), folder, Journal(folder)
        self.kept = {order.number: self._journal.outcome(order) for order in orders}
        self.jobs = [
            Job(make, BatchJobInput(order, by_path[order.song], str(folder), overwrite, credit), group=order.song)
            for order in orders
        ]
        for order, job in zip(self.orders, self.jobs, strict=True):
            if self.kept[order.number] is not None:
                job.state, job.result, job.fraction = "done", self.kept[order.number], 1.0

    @property
    def fraction(self) -> float:
        """Progress over all files."""
        lengths = [order.seconds for order in self.orders]
        done = sum(
            length * (1.0 if job.state in ("done", "failed") else job.fraction)
            for length, job in zip(lengths, self.jobs, strict=True)
        )
        return done / max(1e-9, sum(lengths))

    def run(
        self,
        workforce: Workforce,
        on_change: Callable[[Job], None] = lambda _: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> None:
        """Do what has not been done; returns when each job has ended. May be called again for those that failed."""
        try:
            run_jobs([job for job in self.jobs if not job.ended], workforce, on_change, cancelled)
        finally:
            self._settle(Journal(self._folder))
            for order in self.orders:
                sweep(Path(order.target))

    def _settle(self, journal: Journal) -> None:
        """Jobs that have not ended are cancelled, but for those whose file got its name before their worker could say so."""
        for order, job in zip(self.orders, self.jobs, strict=True):
            if job.state not in ("done", "failed"):
                job.result = journal.outcome(order)
                job.state = "done" if job.result is not None else "cancelled"

    def report(self, unread: Sequence[Line] = ()) -> tuple[Path, Path]:
        """Write what became of each order, and of songs that could not be read; there is nothing to go on with once all are done. Raises Unwritable."""
        places = write_report([*unread, *self.lines()], self._folder)
        if all(job.state == "done" for job in self.jobs):
            self._journal.forget()
        return places

    def retry(self, job: Job) -> None:
        """Have a job that failed or was cancelled done by the next run."""
        if job.state in ("failed", "cancelled"):
            job.state, job.message, job.fraction, job.tries, job.wanted = "waiting", "", 0.0, 0, True

    def lines(self) -> list[Line]:
        """Result of each order."""
        found = []
        for order, job in zip(self.orders, self.jobs, strict=True):
            state = "kept" if self.kept[order.number] is not None else job.state
            found.append(Line(state, order.song, order, job.result if job.state == "done" else None, job.message))
        return found
