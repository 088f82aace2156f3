"""Loading and saving sessions: paths are absolute in memory, and relative in files where possible."""

import functools
from collections.abc import Callable, Iterator
from pathlib import Path

from msgspec.structs import replace

from latespin.desktop.session.loading import LoadedTrack, digest_of, song_path
from latespin.errors import LateSpinError
from latespin.media.files.regular import read_regular
from latespin.model.documents.documents import MOST_SESSION_BYTES, Session, TrackReference, to_json
from latespin.model.timing.beat_grid import Grid
from latespin.paths import resolved


def reference_to(loaded: LoadedTrack) -> TrackReference:
    """A track as a session refers to it in memory."""
    track = loaded.track
    return TrackReference(path=str(resolved(track.path)), sha256=track.sha256, sound_track=track.sound_track)


def opened(session: Session, loaded: LoadedTrack, folder: Path) -> Session:
    """A session in memory: on its track, all paths absolute. folder : of the file it was read from."""
    place_of = functools.cache(lambda sound: str(resolved(folder / sound)))  # hundreds of versions share a few files
    return replace(session, track=reference_to(loaded)).with_sounds(place_of)


def is_as_saved(session: Session, path: Path | None, loaded: LoadedTrack) -> bool:
    """True where a session's file names the track as it is: at the same path, with the same content and sound track."""
    if path is None:
        return True
    reference, saved = reference_to(loaded), session.track
    if saved is None:
        return False
    same = replace(saved, path=reference.path) == reference
    return same and song_path(saved, path.parent) == Path(reference.path)


def write_session(session: Session, grid: Grid | None, path: Path) -> str:
    """Write a session's file; returns its digest. Raises LateSpinError."""
    from latespin.media.files.atomic import write_bytes

    folder = resolved(path.absolute().parent)
    written = replace(session, grid=grid)
    if written.track:
        beside = _beside(Path(written.track.path), folder)
        written = replace(written, track=replace(written.track, path=beside))
        written = written.with_sounds(lambda sound: _beside(Path(sound), folder))
    data = to_json(written)
    write_bytes(path, data, overwrite=True, sources=session.files())
    return digest_of(data)


def is_changed(path: Path, digest: str) -> bool:
    """True where a session's file no longer has the content with that digest."""
    try:
        return digest_of(read_regular(path, MOST_SESSION_BYTES)) != digest
    except LateSpinError:
        return False  # it is gone, so that nothing is lost by writing it


class SessionFiles:
    """The files that a session is made from at the time of asking. Usable from any thread, since sessions are values."""

    def __init__(self, session: Callable[[], Session]) -> None:
        self._session = session

    def __iter__(self) -> Iterator[str]:
        return iter(self._session().files())


def _beside(file: Path, folder: Path) -> str:
    """A path as stored by a session in ``folder``: relative for files beside or below it."""
    return str(file.relative_to(folder)) if file.is_relative_to(folder) else str(file)
