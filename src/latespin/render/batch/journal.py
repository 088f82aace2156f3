"""The journal of a set, written beside its files just before each gets its name, so that an interrupted set resumes."""

import contextlib
import hashlib
import os
from pathlib import Path

import msgspec

from latespin.media.track import file_hash
from latespin.model.documents.documents import plain_json
from latespin.paths import is_file
from latespin.render.batch.plan import BatchItem

NAME = ".late-spin-set.jsonl"


class Outcome(msgspec.Struct, frozen=True, kw_only=True):
    """One file as it was written: what was measured of it, and what Level did.

    integrated_lufs, true_peak_dbtp : None where not defined (silence).  sha256 : of the file.
    """

    frames: int
    rate: int
    channels: int
    integrated_lufs: float | None
    loudness_range_lu: float
    true_peak_dbtp: float | None
    gain_db: float
    limiter_db: float
    clipped_samples: int
    bytes: int
    sha256: str
    seconds_taken: float
    notes: tuple[str, ...] = ()


class Entry(msgspec.Struct, frozen=True):
    """A line of the journal."""

    key: str
    target: str
    outcome: Outcome


def key_of(order: BatchItem) -> str:
    """The same for orders of the same sound in the same kind of file."""
    parts = (
        order.sha256,
        plain_json(order.stages).decode(),
        str(order.encoding),
        str(order.excerpt),
        str(order.edits),
        Path(order.target).suffix,
    )
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()


class Journal:
    """The journal of a folder."""

    def __init__(self, folder: Path) -> None:
        self._path = folder / NAME
        self._entries: dict[tuple[str, str], Entry] = {}
        with contextlib.suppress(OSError):
            for line in self._path.read_bytes().splitlines():
                with contextlib.suppress(msgspec.DecodeError):  # the last line may be half written
                    entry = msgspec.json.decode(line, type=Entry)
                    self._entries[entry.key, entry.target] = entry

    def outcome(self, order: BatchItem) -> Outcome | None:
        """The earlier result of an order, if its file is still unchanged."""
        entry = self._entries.get((key_of(order), Path(order.target).name))
        target = Path(order.target)
        if entry is None or not is_file(target) or target.stat().st_size != entry.outcome.bytes:
            return None
        return entry.outcome if file_hash(target) == entry.outcome.sha256 else None

    def forget(self) -> None:
        """Delete the journal once all files are written."""
        self._path.unlink(missing_ok=True)


def note(folder: Path, order: BatchItem, outcome: Outcome) -> None:
    """Note a whole file in a folder's journal, on the disk before this returns. Where that fails, nothing is lost but the going on.

    A line is written at once, so that several processes may note theirs.
    """
    entry = Entry(key_of(order), Path(order.target).name, outcome)
    with contextlib.suppress(OSError), (folder / NAME).open("ab", buffering=0) as file:
        file.write(msgspec.json.encode(entry) + b"\n")
        os.fsync(file.fileno())
