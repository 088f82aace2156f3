"""Autosave files, so that a crash loses seconds at most.

Each running window has a file of its own in the user's data folder, locked while it runs. A file whose lock is free was left behind.
"""

import contextlib
import fcntl
import logging
import os
import uuid
from dataclasses import dataclass
from pathlib import Path

import msgspec

from latespin.errors import LateSpinError, Unreadable
from latespin.language import tr
from latespin.media.files.atomic import sweep_folder, write_bytes
from latespin.media.files.regular import read_regular
from latespin.model.documents.documents import MOST_SESSION_BYTES, Session, read_session, to_json
from latespin.paths import path_from_text, path_to_text

SUFFIX, LOCK_SUFFIX = ".unsaved", ".lock"
FORMAT = "late-spin unsaved work"
LATEST = 4e9  # seconds since 1970 that a clock can have said
LOG = logging.getLogger(__name__)


class _Kept(msgspec.Struct, kw_only=True):
    """The content of an autosave file. path : where the session was saved, empty if it never was.  saved_at : when this was written, s since 1970."""

    format: str = FORMAT
    path: str
    saved_at: float
    session: msgspec.Raw


@dataclass(frozen=True)
class LeftBehind:
    """Work left by a killed program. file : its path."""

    file: Path
    session: Session
    path: Path | None
    saved_at: float


def data_folder() -> Path:
    """The user's data folder for Late Spin; it may not exist yet."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "late-spin"


class Journal:
    """The file of one window; its folder is made and its lock taken when it is first written."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder or data_folder() / "unsaved"
        self._name = uuid.uuid4().hex
        self._lock: int | None = None

    @property
    def file(self) -> Path:
        """Path of the file."""
        return self._folder / f"{self._name}{SUFFIX}"

    def write(self, session: Session, path: Path | None, now: float) -> None:
        """Keep a session as it is now, whole or not at all. Raises Unwritable."""
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            if self._lock is None:
                self._lock = _locked(self._folder / f"{self._name}{LOCK_SUFFIX}")
        except OSError:
            return
        kept = _Kept(path=path_to_text(str(path or "")), saved_at=now, session=msgspec.Raw(to_json(session)))
        write_bytes(self.file, msgspec.json.encode(kept), overwrite=True, sources=())

    def forget(self) -> None:
        """Nothing is unsaved any more."""
        self.file.unlink(missing_ok=True)

    def close(self) -> None:
        """The program ends by itself."""
        self.forget()
        if self._lock is not None:
            (self._folder / f"{self._name}{LOCK_SUFFIX}").unlink(missing_ok=True)
            os.close(self._lock)
            self._lock = None


def _locked(file: Path) -> int:
    """A lock held on a file that is there: one that another process swept away meanwhile is made anew. Raises OSError."""
    while True:
        handle = os.open(file, os.O_CREAT | os.O_RDWR, 0o600)
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        with contextlib.suppress(OSError):
            if file.stat().st_ino == os.fstat(handle).st_ino:
                return handle
        os.close(handle)


def left_behind(folder: Path | None = None) -> list[LeftBehind]:
    """All unsaved work found, newest first; unreadable files are skipped and left in place."""
    found, folder = [], folder or data_folder() / "unsaved"
    sweep_folder(folder)
    for file in folder.glob(f"*{SUFFIX}"):
        if not file.name.startswith(".") and not _is_in_use(file.with_suffix(LOCK_SUFFIX)):
            try:
                found.append(_read(file))
            except (OSError, LateSpinError) as error:
                LOG.warning("unsaved work cannot be read, and stays where it is: %s", error)
    _sweep_locks(folder)
    return sorted(found, key=lambda left: -left.saved_at)


def _sweep_locks(folder: Path) -> None:
    """Remove the locks of processes that were killed before they had anything to keep, or whose work is gone."""
    for lock in folder.glob(f"*{LOCK_SUFFIX}"):
        if not lock.with_suffix(SUFFIX).exists() and not _is_in_use(lock):
            lock.unlink(missing_ok=True)


def drop(left: LeftBehind) -> None:
    """Throw left work away."""
    left.file.unlink(missing_ok=True)
    left.file.with_suffix(LOCK_SUFFIX).unlink(missing_ok=True)


def _read(file: Path) -> LeftBehind:
    try:
        kept = msgspec.json.decode(read_regular(file, MOST_SESSION_BYTES), type=_Kept)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise Unreadable(tr("{0} is not unsaved work of Late Spin.").format(file)) from error
    session = read_session(bytes(kept.session), file.name)
    path = Path(path_from_text(kept.path)) if kept.path else None
    return LeftBehind(file, session, path, kept.saved_at if 0.0 <= kept.saved_at <= LATEST else 0.0)


def _is_in_use(lock: Path) -> bool:
    """Whether the program that made a file is still running."""
    try:
        handle = os.open(lock, os.O_RDWR)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False
