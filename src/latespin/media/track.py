"""A track: a decoded song file. Never modified."""

import hashlib
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

from latespin.dsp.arrays import Audio
from latespin.errors import Unreadable, shortened
from latespin.jobs import Quietly, Work
from latespin.language import tr
from latespin.media.audio.decode import Listener, decode
from latespin.media.audio.downmix import fold_to_stereo
from latespin.media.files.regular import open_regular
from latespin.media.tags import Tags, read_tags


@dataclass(frozen=True, eq=False)
class Track:
    """Sound ``[1 or 2, frames]`` float32 at ``rate``, with the facts of its file.

    file_channels : how many the file has; more than two were folded. warnings : sentences for the person.
    sound_track, sound_tracks : which one of the file's this is, counted from 1, and how many it has.
    """

    path: Path
    sound: Audio
    rate: int
    file_channels: int
    sha256: str
    tags: Tags = field(default_factory=Tags)
    warnings: tuple[str, ...] = ()
    sound_track: int = 1
    sound_tracks: int = 1

    @property
    def content_id(self) -> str:
        """The file’s hash, with the number of any sound track but the first."""
        return self.sha256 if self.sound_track == 1 else f"{self.sha256}-{self.sound_track}"

    @property
    def frames(self) -> int:
        """Length in frames."""
        return int(self.sound.shape[1])

    @property
    def seconds(self) -> float:
        """Length in seconds."""
        return self.frames / self.rate

    @property
    def title(self) -> str:
        """The title in its tags, or the file's name."""
        return self.tags.first("title") or shortened(self.path.stem)


def open_track(
    path: Path, work: Work | None = None, *, fold: bool = True, listener: Listener | None = None, sound_track: int = 1
) -> Track:
    """Open any song file. Raises Unreadable with the fault and a remedy; Cancelled.

    fold=False keeps all channels, for measuring a file as it is.  listener, sound_track : as of ``decode``.
    """
    work = work or Quietly()
    with ThreadPoolExecutor(1, "hash") as pool:
        hashed = pool.submit(file_hash, path)
        decoded = decode(path, work, listener, sound_track)
    if decoded.sound.shape[1] == 0:
        raise Unreadable(
            tr("{0} holds no sound: it is 0 frames long. Choose another file.").format(shortened(path.name))
        )
    tags, warnings = read_tags(path)
    channels = decoded.sound.shape[0]
    return Track(
        path=path,
        sound=fold_to_stereo(decoded.sound) if fold else decoded.sound,
        rate=decoded.rate,
        file_channels=channels,
        sha256=hashed.result(),
        tags=tags,
        warnings=(*decoded.warnings, *warnings),
        sound_track=sound_track,
        sound_tracks=decoded.sound_tracks,
    )


def file_hash(path: Path) -> str:
    """SHA-256 of a file's bytes, in hexadecimal. Raises Unreadable."""
    with open_regular(path) as file:
        try:
            return hashlib.file_digest(file, "sha256").hexdigest()
        except OSError as error:
            raise Unreadable(tr("{0} could not be read: {1}.").format(shortened(path), error.strerror)) from error
