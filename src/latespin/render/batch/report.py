"""The report of a set: settings and measurements, as JSON and as CSV."""

import csv
import io
import itertools
import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgspec

from latespin.media.files.atomic import write_bytes
from latespin.model.version import Stages
from latespin.paths import exists, path_to_text
from latespin.render.batch.journal import Outcome
from latespin.render.batch.plan import BatchItem

REPORT_NAME = "set-report"


@dataclass(frozen=True)
class Line:
    """An order and what became of it: done, kept (from before), failed or cancelled. song, title : also of songs that could not be read."""

    state: str
    song: str
    order: BatchItem | None = None
    outcome: Outcome | None = None
    message: str = ""


def report_rows(lines: Sequence[Line]) -> list[dict[str, Any]]:
    """One flat row for each line."""
    return [_row(line) for line in lines]


def _row(line: Line) -> dict[str, Any]:
    order, outcome = line.order, line.outcome
    stages = order.stages if order else None
    notes = list(dict.fromkeys([*(order.warnings if order else ()), *(outcome.notes if outcome else ())]))
    return {
        "state": line.state, "song": path_to_text(line.song), "version": order.choice if order else None, "file": path_to_text(order.target) if order else None,
        **_asked(order, stages), **_measured(outcome), "warnings": notes, "problem": line.message,
    }  # fmt: skip


def _asked(order: BatchItem | None, stages: Stages | None) -> dict[str, Any]:
    on = stages is not None and stages.level.on
    return {
        "asked_lufs": order.target_lufs if order else None, "ceiling_dbtp": stages.level.ceiling_dbtp if stages and on else None,
        "allowance_db": stages.level.allowance_db if stages and on else None, "speed": stages.time.heard.speed if stages else None,
        "semitones": stages.time.heard.semitones if stages else None, "expected_length_s": order.seconds if order else None,
        "bpm": order.bpm if order else None, "key": order.key if order else None, "song_sha256": order.sha256 if order else None,
    }  # fmt: skip


def _measured(outcome: Outcome | None) -> dict[str, Any]:
    return {
        "length_s": outcome.frames / outcome.rate if outcome else None, "frames": outcome.frames if outcome else None,
        "sample_rate": outcome.rate if outcome else None, "channels": outcome.channels if outcome else None,
        "integrated_lufs": outcome.integrated_lufs if outcome else None, "lra_lu": outcome.loudness_range_lu if outcome else None,
        "true_peak_dbtp": outcome.true_peak_dbtp if outcome else None, "gain_db": outcome.gain_db if outcome else None,
        "limiter_max_reduction_db": outcome.limiter_db if outcome else None, "clipped_samples": outcome.clipped_samples if outcome else None,
        "bytes": outcome.bytes if outcome else None, "sha256": outcome.sha256 if outcome else None,
        "seconds_taken": outcome.seconds_taken if outcome else None,
    }  # fmt: skip


def write_report(lines: Sequence[Line], folder: Path) -> tuple[Path, Path]:
    """Write both files, in place of those of an earlier run of the same set in the folder; returns where. Raises Unwritable.

    A report that speaks of other files stays; this one gets a number then.
    """
    rows = report_rows(lines)
    as_json = (
        msgspec.json.format(msgspec.json.encode({"format": "late-spin set report", "files": rows}), indent=2) + b"\n"
    )
    text = io.StringIO()
    writer = csv.DictWriter(text, fieldnames=list(rows[0]) if rows else ["state"])
    writer.writeheader()
    for row in rows:
        writer.writerow({name: _cell(value) for name, value in row.items()})
    places = _places(folder, {_subject(row) for row in rows})
    for place, data in zip(places, (as_json, text.getvalue().encode("utf-8-sig")), strict=True):
        write_bytes(place, data, overwrite=True, sources=())
    return places


def _places(folder: Path, subjects: set[str]) -> tuple[Path, Path]:
    """Path for a report: the first name that is free or belongs to a report of the same files."""
    for number in itertools.count(1):
        stem = REPORT_NAME if number == 1 else f"{REPORT_NAME}-{number}"
        places = folder / f"{stem}.json", folder / f"{stem}.csv"
        if not any(exists(place) for place in places) or _reported(places[0]) <= subjects:
            return places
    raise AssertionError("there is always another number")


def _reported(report: Path) -> set[str]:
    """The files of an earlier report; a set that matches nothing if it cannot be read."""
    try:
        rows = json.loads(report.read_bytes())["files"]
        return {_subject(row) for row in rows}
    except (OSError, ValueError, KeyError, TypeError, RecursionError):
        return {""}


def _subject(row: dict[str, Any]) -> str:
    """The file a row is about, or the song of which there is none."""
    return str(row["file"] or row["song"])


def _cell(value: Any) -> Any:
    return "; ".join(value) if isinstance(value, list) else "" if value is None else value
