"""Opening songs and sessions in a worker thread: reading, decoding and measuring."""

import hashlib
import threading
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from latespin.desktop.session.tasks import Task
from latespin.media.audio.decode import SONG_SUFFIXES
from latespin.media.files.regular import read_regular
from latespin.model.documents.documents import MOST_SESSION_BYTES, Session, TrackReference, read_session
from latespin.paths import is_file, resolved

if TYPE_CHECKING:  # imported where they are used: the first window does not wait for them
    from latespin.analysis.facts import Facts
    from latespin.media.audio.peaks import Peaks
    from latespin.media.track import Track
    from latespin.render.chain.renderer import TrackRenderer

DECODING_SHARE = 0.9  # of opening a song
FIRST_RECIPE = "slowed-reverb"  # which the first version of a song is made from
NOISE_SECONDS = 12  # less is not read
OPEN_FILTER = (
    f"Songs and sessions ({' '.join('*' + suffix for suffix in (*SONG_SUFFIXES, '.latespin'))});;All files (*)"
)


@dataclass(frozen=True)
class LoadedTrack:
    """An opened song with everything that its pictures and facts need."""

    track: "Track"
    facts: "Facts"
    peaks: "Peaks"
    readers: "TrackRenderer"


@dataclass(frozen=True)
class FoundSession:
    """A session read from its file, with its song, or None if the song is missing.  digest : of the file."""

    session: Session
    path: Path
    song: Path | None
    loaded: LoadedTrack | None = None
    digest: str | None = None


def song_path(reference: TrackReference, folder: Path) -> Path:
    """Expected path of a session's song."""
    return resolved(folder / reference.path)


def digest_of(data: bytes) -> str:
    """A fingerprint of a file's content."""
    return hashlib.sha256(data).hexdigest()


_LOADING = threading.Lock()
_LOADED: list[bool] = []
_PLAYED: list[bool] = []


def load_kernels() -> None:
    """Load what opening a song needs, in a worker's thread, before anybody waits for it."""
    with _LOADING:
        if _LOADED:
            return
        import numpy as np

        import latespin.desktop.session.playback
        import latespin.render.recipes  # noqa: F401 - loading them is the point
        from latespin.analysis.facts import facts_of

        facts_of(np.zeros((2, 1 << 15), np.float32), 44_100)
        _LOADED.append(True)


def prepare_kernels(work: Task) -> None:
    """Compile what is compiled once on each machine, which loads it too; else load what a song needs (in a worker's thread).

    Were the player to load it, it would do so while the window paints the song for the first time, and both need Python's lock.
    """
    from latespin.render.compiled_stamp import are_compiled

    if not are_compiled():
        from latespin.render.compile_kernels import compile_kernels

        work.shown = True
        compile_kernels(work)
    elif not _PLAYED:
        _PLAYED.append(True)
        load_kernels()
        _play_and_read_noise(work)


def _play_and_read_noise(work: Task) -> None:
    """Do with a little noise what is done with a song: play and measure the first recipe, and read beats. Raises Cancelled."""
    import numpy as np

    from latespin.analysis.reading import read_song
    from latespin.media.track import Track
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.mastering.level import LevelPlan
    from latespin.render.mastering.measure import measure
    from latespin.render.playback.programme import PlaybackRequest
    from latespin.render.recipes import find_recipe

    rate = 44_100
    noise = np.random.default_rng(0).standard_normal((2, NOISE_SECONDS * rate)).astype(np.float32)
    readers = TrackRenderer(Track(Path("noise"), noise[:, :rate].copy(), rate, 2, ""))
    stages = find_recipe(FIRST_RECIPE).stages
    PlaybackRequest(readers, "after", stages, LevelPlan()).open().read(1 << 12)
    measure(readers, stages, work)
    read_song(noise, rate, work)


def load_track(path: Path, work: Task, sound_track: int = 1) -> LoadedTrack:
    """Open, measure and reduce a song, or a sound track of a video (in a worker's thread)."""
    from latespin.jobs import Share, step
    from latespin.media.track import open_track

    load_kernels()
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.hearing import Hearing

    with Hearing() as hearing:
        work.so_far = hearing.so_far
        track = open_track(path, Share(work, 0.0, DECODING_SHARE), listener=hearing, sound_track=sound_track)
        readers = TrackRenderer(track)
        step(work, DECODING_SHARE)
        facts, peaks = hearing.result(track)
    readers.before_lufs = facts.loudness.integrated_lufs
    return LoadedTrack(track, facts, peaks, readers)


def find_session(path: Path, work: Task) -> FoundSession:
    """Read a session and open its song if that is where it should be (in a worker's thread)."""
    data = read_regular(path, MOST_SESSION_BYTES)
    session = read_session(data, path.name)
    song = song_path(session.track, path.parent) if session.track else None
    if song is None or not is_file(song):
        return FoundSession(session, path, None, None, digest_of(data))
    return FoundSession(session, path, song, load_track(song, work, session.sound_track), digest_of(data))
