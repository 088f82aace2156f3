"""Opening a version of a saved session without a window: its stages, and what they are placed on."""

from pathlib import Path

from latespin.errors import Unreadable
from latespin.jobs import Share, Work
from latespin.language import tr
from latespin.media.files.regular import read_regular
from latespin.media.storage.analysis_cache import read_track
from latespin.media.track import Track, open_track
from latespin.model.documents.documents import MOST_SESSION_BYTES, Session, read_session
from latespin.model.timing.beat_grid import grid_of
from latespin.model.timing.positions import Layout, layout_of
from latespin.model.timing.song_sections import placed
from latespin.model.version import Stages
from latespin.paths import resolved


def open_version(path: Path, name: str | None, work: Work) -> tuple[Track, Stages, Layout]:
    """The song and a version of a session by its name or id (the chosen one if none is given). Raises Unreadable in words."""
    session = read_session(read_regular(path, MOST_SESSION_BYTES), path.name)
    session = session.with_sounds(lambda sound: str(resolved(path.parent / sound)))
    versions = {key: version for version in session.versions for key in (version.id, version.name)}
    version = versions.get(name or session.chosen) or (
        session.versions[0] if session.versions and name is None else None
    )
    if version is None:
        known = ", ".join(f"“{v.name}”" for v in session.versions)
        raise Unreadable(tr("The session {0} has no version “{1}”. It has {2}.").format(path.name, name, known))
    track, layout = open_song(path, session, work)
    return track, version.stages, layout


def open_song(path: Path, session: Session, work: Work) -> tuple[Track, Layout]:
    """The song of a session that was read from a path, and what its versions are placed on. Raises Unreadable."""
    if session.track is None:
        raise Unreadable(tr("The session {0} has no song. Open it in the window and choose one.").format(path.name))
    song = Path(session.track.path)
    place = song if song.is_absolute() else path.parent / song
    track = open_track(place, Share(work, 0.0, 0.5), sound_track=session.sound_track)
    reading = read_track(track, Share(work, 0.5, 1.0))
    grid = session.grid or grid_of(reading)
    return track, layout_of(track.frames, track.rate, grid, reading, placed(session.sections, grid))
