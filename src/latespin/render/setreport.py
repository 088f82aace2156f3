"""The report of a set: what was asked, what was measured, as JSON and as CSV."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgspec

from latespin.media.atomic import write_bytes
from latespin.model.version import Stages
from latespin.render.setjournal import Outcome
from latespin.render.setplan import Order

JSON_NAME, CSV_NAME = "set-report.json", "set-report.csv"


@dataclass(frozen=True)
class Line:
    """An order and what became of it: done, kept (from before), failed or cancelled. song, title : also of songs that could not be read."""

    state: str
    song: str
    order: Order | None = None
    outcome: Outcome | None = None
    message: str = ""


def report_rows(lines: Sequence[Line]) -> list[dict[str, Any]]:
    """One flat row for each line."""
    return [_row(line) for line in lines]


def _row(line: Line) -> dict[str, Any]:
    order, outcome = line.order, line.outcome
    stages = order.stages if order else None
    notes = [*(order.warnings if order else ()), *(outcome.notes if outcome else ())]
    return {
        "state": line.state, "song": line.song, "version": order.choice if order else None, "file": order.target if order else None,
        **_asked(order, stages), **_measured(outcome), "warnings": notes, "problem": line.message,
    }  # fmt: skip


def _asked(order: Order | None, stages: Stages | None) -> dict[str, Any]:
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
    """Write both files, in place of those of an earlier run in the same folder; returns where. Raises Unwritable."""
    rows = report_rows(lines)
    as_json = (
        msgspec.json.format(msgspec.json.encode({"format": "late-spin set report", "files": rows}), indent=2) + b"\n"
    )
    text = io.StringIO()
    writer = csv.DictWriter(text, fieldnames=list(rows[0]) if rows else ["state"])
    writer.writeheader()
    for row in rows:
        writer.writerow({name: _cell(value) for name, value in row.items()})
    places = folder / JSON_NAME, folder / CSV_NAME
    for place, data in zip(places, (as_json, text.getvalue().encode("utf-8-sig")), strict=True):
        write_bytes(place, data, overwrite=True)
    return places


def _cell(value: Any) -> Any:
    return "; ".join(value) if isinstance(value, list) else "" if value is None else value
