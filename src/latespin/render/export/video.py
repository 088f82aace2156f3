"""Export of a version as a video: of the pictures the song came with, or of pictures made for it."""

import tempfile
from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path
from typing import Any, Protocol

from latespin.ahead import made_ahead
from latespin.errors import Unusable, Unwritable
from latespin.jobs import Share, Work
from latespin.media.audio.formats import BEST, Encoding
from latespin.media.files.atomic import check_target, written_whole
from latespin.media.files.guard import Sources, Together
from latespin.media.tags import AS_THEY_ARE, TagEdits, Tags, read_tags, write_tags
from latespin.media.video.clip import VIDEO_SUFFIXES, Clip, clip_of
from latespin.media.video.frames import even, following
from latespin.media.video.movie import SOUND_OF, coder_for, copy_pictures, encode_pictures
from latespin.media.video.timing import PictureTimes
from latespin.model.documents.documents import files_of
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import ExportResult, export
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

SOUND_SHARE = 0.4


class Pictures(Protocol):
    """Pictures made for a version."""

    @property
    def size(self) -> tuple[int, int]:
        """Pixels wide and high, both even."""

    @property
    def rate(self) -> Fraction:
        """Pictures per second."""

    def frames(self, seconds: float, work: Work) -> Iterator[Any]:
        """PyAV frames in yuv420p for so many seconds. Raises Cancelled."""


@dataclass(frozen=True)
class OwnPictures:
    """The pictures of the song's own file. follow : where time jumps or runs backwards, the pictures do so too; otherwise they run on."""

    follow: bool = True


Prepared = Callable[[ExportResult, float], Pictures]  # of the finished sound and its seconds


def is_video(target: Path) -> bool:
    """Whether a file's ending is one of videos we write."""
    return target.suffix.lower() in VIDEO_SUFFIXES


def export_video(
    readers: TrackRenderer, stages: Stages, target: Path, work: Work, pictures: OwnPictures | Prepared, *,
    encoding: Encoding = BEST, overwrite: bool = False, credit: str = "", sources: Sources = (),
    excerpt: Excerpt | ExcerptSearch | None = None, edits: TagEdits = AS_THEY_ARE,
) -> ExportResult:  # fmt: skip
    """Render a version and write it as a video; its sound is that of an export as M4A (AAC), or as Opus for WebM.

    Raises Unwritable, Unusable where the song came without pictures, Unreadable and Cancelled; no part of a file is left.
    """
    suffix = target.suffix.lower()
    if suffix not in SOUND_OF:
        raise Unwritable(f"{target.name} has no ending of a video. Use one of {', '.join(SOUND_OF)}.")
    sources = Together((readers.track.path,), files_of(stages), sources)
    check_target(target, overwrite=overwrite, sources=sources)
    clip = clip_of(readers.track.path) if isinstance(pictures, OwnPictures) else None
    if isinstance(pictures, OwnPictures) and clip is None:
        raise Unusable(f"{readers.track.path.name} has no moving pictures. Choose a picture for the video.")
    with tempfile.TemporaryDirectory(prefix="late-spin-") as folder:
        sound = Path(folder) / f"sound{SOUND_OF[suffix]}"
        result = export(
            readers,
            stages,
            sound,
            Share(work, 0.0, SOUND_SHARE),
            encoding=encoding,
            credit=credit,
            excerpt=excerpt,
            edits=edits,
        )
        rest, tags = Share(work, SOUND_SHARE, 1.0), read_tags(sound)[0]
        with written_whole(target, overwrite=overwrite, sources=sources) as temporary:
            job = _Movie(sound, temporary, suffix, tags, result.facts.seconds, result.excerpt)
            if clip is not None and isinstance(pictures, OwnPictures):
                job.of_clip(clip, readers, stages, pictures, rest)
            elif not isinstance(pictures, OwnPictures):
                job.of(pictures(result, job.seconds), rest)
            if suffix in (".mp4", ".mov"):
                write_tags(temporary, tags)
    return replace(result, target=target)


@dataclass(frozen=True)
class _Movie:
    """A video file being made. sound : finished.  seconds : its length."""

    sound: Path
    temporary: Path
    suffix: str
    tags: Tags
    seconds: float
    excerpt: Excerpt | None

    @property
    def _title(self) -> dict[str, str]:
        """Tags of containers that have them in their head."""
        names = ("title", "artist", "album", "date", "comment", "credits")
        return {name: self.tags.first(name) for name in names if self.tags.first(name)}

    def of_clip(self, clip: Clip, readers: TrackRenderer, stages: Stages, pictures: OwnPictures, work: Work) -> None:
        """The song's own pictures, at the times of the version."""
        made, track = readers.arrangement(stages), readers.track
        begins = self.excerpt.start if self.excerpt else 0.0
        times = PictureTimes(made.map, track.rate, self.seconds, begins)
        if not times.runs_on and not pictures.follow:
            times = replace(times, map=made.music)
        if times.runs_on and self.excerpt is None:  # what is copied begins with its first picture
            copy_pictures(
                clip.path, self.sound, self.temporary, self.suffix, times, clip.sound_starts, self._title, work
            )
        else:
            self._encode(following(clip, times, work), even(clip.width, clip.height), clip.rate, drawn=False)

    def of(self, pictures: Pictures, work: Work) -> None:
        """Pictures made for it."""
        self._encode(pictures.frames(self.seconds, work), pictures.size, pictures.rate, drawn=True)

    def _encode(self, frames: Iterator[Any], size: tuple[int, int], rate: Fraction, *, drawn: bool) -> None:
        coder = coder_for(self.suffix, drawn=drawn)
        with closing(made_ahead(frames)) as ahead:
            encode_pictures(ahead, size, rate, self.sound, self.temporary, self.suffix, self._title, coder)
