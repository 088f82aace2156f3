"""``latespin set``: versions of many songs in one go."""

import contextlib
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from latespin.cli.excerpts import excerpt_of, excerpt_options
from latespin.cli.options import encoding_of, encoding_options, tag_option
from latespin.cli.output import echo_json
from latespin.cli.progress import progress
from latespin.errors import Cancelled, InterruptedWork, LateSpinError
from latespin.interruption import interrupted
from latespin.model.values.file_names import DEFAULT_PATTERN, FIELDS, check_pattern
from latespin.model.values.units import clock
from latespin.paths import resolved

if TYPE_CHECKING:
    from latespin.model.arranging.relocation import SourceSongInfo
    from latespin.model.documents.documents import Session
    from latespin.render.batch.jobs import Job
    from latespin.render.batch.plan import BatchItem, Choice
    from latespin.render.batch.report import Line
    from latespin.render.batch.run import BatchRun
    from latespin.render.batch.song_summary import SongSummary
    from latespin.render.batch.worker_pool import Workforce

FORMAT_NAMES = ("wav", "flac", "m4a", "ogg", "opus", "mp3")
FAILED = 1


@click.command("set")
@click.argument("places", metavar="FOLDER…", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option(
    "--recipe", "recipes", metavar="NAME|FILE.json", multiple=True, help="A recipe to make of every song; give several."
)
@click.option(
    "--session",
    "sessions",
    metavar="FILE",
    multiple=True,
    type=click.Path(path_type=Path),
    help="Make every version of a saved session of every song.",
)
@click.option(
    "--out",
    required=True,
    type=click.Path(path_type=Path),
    help="The folder that is written to; it is made if it is not there.",
)
@click.option(
    "--format",
    "kind",
    type=click.Choice(FORMAT_NAMES),
    default="flac",
    show_default=True,
    help="The format of all files.",
)
@encoding_options
@excerpt_options
@tag_option(" Values can have the fields of --pattern: title={title}, {version}.")
@click.option(
    "--pattern",
    default=DEFAULT_PATTERN,
    show_default=True,
    help=f"How files are named: {', '.join('{' + name + '}' for name in FIELDS)}.",
)
@click.option(
    "--jobs",
    type=click.IntRange(1, 64),
    help="Files to make at a time; one per core, or per worker of a scheduler, by default.",
)
@click.option(
    "--scheduler",
    metavar="ADDRESS",
    help="Have the workers of a dask.distributed scheduler make the files: tcp://HOST:PORT.",
)
@click.option("--credit", default="", help="A line of credits or permission for the tags of all files.")
@click.option("--overwrite", is_flag=True, help="Replace files that are there.")
@click.option("--dry-run", is_flag=True, help="Only say what would be written.")
@click.option("--json", "as_json", is_flag=True, help="Print the report as JSON.")
def make_set(
    places: tuple[Path, ...],
    recipes: tuple[str, ...],
    sessions: tuple[Path, ...],
    out: Path,
    kind: str,
    pattern: str,
    jobs: int | None,
    scheduler: str | None,
    credit: str,
    overwrite: bool,
    dry_run: bool,
    as_json: bool,
    **options: Any,
) -> None:
    """Make every RECIPE of every song in FOLDER… (folders and songs), named and tagged, several at a time, with a report.

    An interrupted set resumes when you give the same command again.
    """
    from latespin.render.batch.plan import plan_set, refuse_conflicts
    from latespin.render.batch.run import BatchRun, going_on, make_folder, songs_in

    check_pattern(pattern)
    how = {"encoding": encoding_of(options), "excerpt": excerpt_of(options), "tags": options["tags"]}
    if scheduler is not None:  # its workers have folders of their own to start from
        places, out = tuple(place.absolute() for place in places), out.absolute()
    choices = _choices(recipes, sessions)
    with _workforce(jobs, scheduler) as workforce:
        songs, unread = _looked_at(songs_in(places), workforce, as_json)
        make_folder(out)
        plan = plan_set(songs, choices, out, pattern, f".{kind}", **how, overwrite=overwrite)
        orders = going_on(plan, out)
        if dry_run:
            _say_plan(orders, as_json)
            return
        refuse_conflicts(orders)
        run = BatchRun(orders, songs, out, overwrite=overwrite, credit=credit)
        with contextlib.suppress(KeyboardInterrupt), _shown("Making", as_json, lambda: run.fraction) as changed:
            run.run(workforce, changed, interrupted)
    if interrupted():
        raise InterruptedWork(_say_interrupted(run, unread))
    _finish(run, unread, as_json)


@contextlib.contextmanager
def _workforce(jobs: int | None, scheduler: str | None) -> "Iterator[Workforce]":
    """Processes of this machine, or the workers of a scheduler."""
    if scheduler is None:
        from latespin.render.batch.local_workers import LocalWorkers

        yield LocalWorkers(jobs)
        return
    from latespin.render.batch.cluster import connected

    with connected(scheduler, jobs) as workforce:
        yield workforce


def _say_interrupted(run: "BatchRun", unread: "list[Line]") -> str:
    """Print the state of an interrupted set, after writing its report."""
    finished = sum(line.state in ("done", "kept") for line in run.lines())
    if not finished:
        return "Interrupted; nothing is written."
    report, _ = run.report(unread)
    return (
        f"Interrupted: {finished} of {len(run.jobs)} files are written and listed in {report}. "
        "Give the same command again to go on."
    )


def _choices(recipes: tuple[str, ...], sessions: tuple[Path, ...]) -> "list[Choice]":
    from latespin.media.files.regular import read_regular
    from latespin.model.documents.documents import MOST_SESSION_BYTES, read_session
    from latespin.render.batch.plan import Choice, choices_of
    from latespin.render.recipes import load_recipe

    found = list(choices_of([load_recipe(name) for name in recipes]))
    for path in sessions:
        session = read_session(read_regular(path, MOST_SESSION_BYTES), path.name)
        session = session.with_sounds(lambda sound, beside=path.parent: str(resolved(beside / sound)))  # type: ignore[misc]
        known = _made_on(path, session)
        found += [Choice(version.name, version.stages, made_on=known) for version in session.versions]
    if not found:
        raise click.UsageError("Nothing to make: give --recipe (once or more) or --session.")
    names = [choice.name for choice in found]
    if twice := next((name for name in names if names.count(name) > 1), None):
        raise click.UsageError(f"“{twice}” is asked for twice; give it once.")
    return found


def _made_on(path: Path, session: "Session") -> "SourceSongInfo | None":
    """Analysis of a session's song, if the file exists and the version needs a grid."""
    from latespin.jobs import Quietly
    from latespin.model.arranging.relocation import is_placed, made_on
    from latespin.render.loading import open_song

    if not any(is_placed(version.stages) for version in session.versions):
        return None
    try:
        return made_on(open_song(path, session, Quietly())[1])
    except LateSpinError:
        return None


def _looked_at(paths: list[Path], workforce: "Workforce", as_json: bool) -> "tuple[list[SongSummary], list[Line]]":
    """All songs looked at, and a line for each that could not be."""
    from latespin.render.batch.report import Line
    from latespin.render.batch.run import survey_jobs
    from latespin.render.batch.worker_pool import run_jobs

    jobs = survey_jobs(paths)
    with _shown("Looking at songs", as_json, lambda: sum(job.fraction for job in jobs) / len(jobs)) as changed:
        run_jobs(jobs, workforce, changed, interrupted)
    if interrupted():
        raise Cancelled
    unread = [Line("failed", job.argument, message=job.message) for job in jobs if job.state != "done"]
    for line in unread:
        click.echo(f"latespin: {line.message}", err=True)
    songs = [job.result for job in jobs if job.state == "done"]
    if not songs:
        raise LateSpinError("None of the songs could be read; nothing was written.")
    return songs, unread


@contextlib.contextmanager
def _shown(label: str, as_json: bool, fraction: Callable[[], float]) -> "Iterator[Callable[[Job], None]]":
    """Progress of many jobs as one bar."""
    with progress(label, as_json) as work:
        yield lambda _: work.report(fraction())


def _say_plan(orders: "list[BatchItem]", as_json: bool) -> None:
    if as_json:
        rows = [
            {"file": o.target, "song": o.song, "version": o.choice, "length_s": o.seconds, "bpm": o.bpm, "key": o.key,
             "target_lufs": o.target_lufs, "bytes": o.bytes, "conflict": o.conflict, "warnings": list(o.warnings)} for o in orders
        ]  # fmt: skip
        echo_json({"files": rows}, 2)
        return
    for o in orders:
        loud = "as it is" if o.target_lufs is None else f"{o.target_lufs:.1f} LUFS"
        said = [o.target, clock(o.seconds), f"{o.bpm} BPM", o.key, loud, f"{o.bytes / 1e6:.0f} MB", o.conflict]
        click.echo("  ".join(said).rstrip())


def _finish(run: "BatchRun", unread: "list[Line]", as_json: bool) -> None:
    from latespin.render.batch.report import report_rows

    places, lines = run.report(unread), [*unread, *run.lines()]
    rows = report_rows(lines)
    if as_json:
        echo_json({"report": [str(place) for place in places], "files": rows}, 2)
    else:
        for row in rows:
            click.echo(_in_words(row))
        click.echo(f"Report: {places[0]} and {places[1].name}")
    for row in rows:
        for warning in row["warnings"]:
            click.echo(f"latespin: {Path(row['file']).name if row['file'] else row['song']}: {warning}", err=True)
    if any(line.state not in ("done", "kept") for line in lines):
        click.get_current_context().exit(FAILED)


def _in_words(row: dict[str, Any]) -> str:
    if row["state"] in ("done", "kept"):
        level = (
            "–"
            if row["integrated_lufs"] is None
            else f"{row['integrated_lufs']:.2f} LUFS, {row['true_peak_dbtp']:.2f} dBTP"
        )
        again = ", as written before" if row["state"] == "kept" else ""
        return f"{row['file']}: {clock(row['length_s'])}, {level}{again}"
    return f"{row['file'] or row['song']}: {row['state']}. {row['problem']}"
