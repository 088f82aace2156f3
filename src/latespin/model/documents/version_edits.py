"""Edits of a session's list of versions, as values."""

import uuid

from msgspec.structs import replace

from latespin.model.documents.documents import Session
from latespin.model.version import Version

MOST_NAMES = 10_000


def new_id() -> str:
    """An id for a version, an effect, a moment or a marker, unique within a session."""
    return uuid.uuid4().hex[:8]


def free_name(session: Session, name: str) -> str:
    """The name, with a number behind it where a version has it already."""
    taken = {version.name for version in session.versions}
    if name not in taken:
        return name
    stem = name.rsplit(" ", 1)[0] if name.rsplit(" ", 1)[-1].isdigit() else name
    return next(f"{stem} {n}" for n in range(2, MOST_NAMES) if f"{stem} {n}" not in taken)


def with_version(session: Session, version: Version) -> Session:
    """The session with a version added after the chosen one, and chosen; its id and name are made unique."""
    added = replace(version, id=new_id(), name=free_name(session, version.name))
    versions = list(session.versions)
    at = next((i + 1 for i, v in enumerate(versions) if v.id == session.chosen), len(versions))
    versions.insert(at, added)
    return replace(session, versions=tuple(versions), chosen=added.id)


def with_changed(session: Session, version: Version) -> Session:
    """The session with the version of that id replaced."""
    return replace(session, versions=tuple(version if v.id == version.id else v for v in session.versions))


def without_version(session: Session, ident: str) -> Session:
    """The session without a version. If it was the chosen one, its successor is chosen, or the last one."""
    at = next((i for i, v in enumerate(session.versions) if v.id == ident), None)
    if at is None:
        return session
    versions = tuple(v for v in session.versions if v.id != ident)
    chosen = session.chosen
    if chosen == ident:
        chosen = versions[min(at, len(versions) - 1)].id if versions else ""
    return replace(session, versions=versions, chosen=chosen)


def with_version_moved(session: Session, ident: str, by: int) -> Session:
    """The session with a version moved up (−1) or down (+1) the list; unchanged at its ends."""
    versions = list(session.versions)
    at = next((i for i, v in enumerate(versions) if v.id == ident), -1)
    if at < 0 or not 0 <= at + by < len(versions):
        return session
    versions.insert(at + by, versions.pop(at))
    return replace(session, versions=tuple(versions))


def with_valid_choice(session: Session) -> Session:
    """The session with its first version chosen where the chosen one does not exist."""
    if session.versions and not session.version(session.chosen):
        return replace(session, chosen=session.versions[0].id)
    return session
