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
from latespin.language import tr
from latespin.media.audio.formats import BEST, FORMATS, Encoding
from latespin.media.files.atomic import check_room, check_target, written_whole
from latespin.media.files.guard import Sources, Together
from latespin.media.tags import AS_THEY_ARE, TagEdits, Tags, read_tags, write_tags
from latespin.media.video.clip import Clip, clip_of
from latespin.media.video.frames import even, following
from latespin.media.video.movie import CONTAINERS, check_copying, coder_for, copy_pictures, encode_pictures
from latespin.media.video.timing import PictureTimes
from latespin.model.documents.documents import files_of
from latespin.model.timing.time_map import TimeMap
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import ExportResult, check_encoding, export
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
        """PyAV frames in yuv420p for a video ``seconds`` long. Raises Cancelled."""


@dataclass(frozen=True)
class OwnPictures:
    """The pictures of the song's own file. follow : where time jumps or runs backwards, the pictures do so too; otherwise they run on."""

    follow: bool = True


Drawing = Callable[[ExportResult], Pictures]  # given the finished sound


def is_video(target: Path) -> bool:
    """Whether a file's ending is one of videos we write."""
    return target.suffix.lower() in CONTAINERS


def check_video_target(target: Path, encoding: Encoding = BEST, *, overwrite: bool, sources: Sources) -> None:
    """Raise Unwritable if a video clearly cannot be written there, or its sound not so."""
    container = CONTAINERS.get(target.suffix.lower())
    if container is None:
        raise Unwritable(tr("{0} has no ending of a video. Use one of {1}.").format(target.name, ", ".join(CONTAINERS)))
    check_encoding(FORMATS[container.sound], encoding)
    check_target(target, overwrite=overwrite, sources=sources)


def export_video(
    readers: TrackRenderer, stages: Stages, target: Path, work: Work, pictures: OwnPictures | Drawing, *,
    encoding: Encoding = BEST, overwrite: bool = False, credit: str = "", sources: Sources = (),
    excerpt: Excerpt | ExcerptSearch | None = None, edits: TagEdits = AS_THEY_ARE,
) -> ExportResult:  # fmt: skip
    """Render a version and write it as a video; its sound is that of an export as M4A (AAC), or as Opus for WebM.

    Raises Unwritable, Unusable where the song came without pictures, Unreadable and Cancelled; no part of a file is left.
    """
    sources = Together((readers.track.path,), files_of(stages), sources)
    check_video_target(target, encoding, overwrite=overwrite, sources=sources)
    suffix = target.suffix.lower()
    own = _own_pictures(readers, stages, pictures, target, excerpt) if isinstance(pictures, OwnPictures) else None
    with tempfile.TemporaryDirectory(prefix="late-spin-") as folder:
        sound = Path(folder) / f"sound{CONTAINERS[suffix].sound}"
        result = export(
            readers, stages, sound, Share(work, 0.0, SOUND_SHARE), encoding=encoding, credit=credit, excerpt=excerpt, edits=edits
        )  # fmt: skip
        rest, tags = Share(work, SOUND_SHARE, 1.0), read_tags(sound)[0]
        with written_whole(target, overwrite=overwrite, sources=sources) as temporary:
            movie = _Movie(sound, temporary, suffix, tags)
            if own is not None:
                begins = result.excerpt.start if result.excerpt else 0.0
                movie.of_clip(own, PictureTimes(own.map, readers.track.rate, result.facts.seconds, begins), rest)
            elif not isinstance(pictures, OwnPictures):
                movie.of_drawn(pictures(result), result.facts.seconds, rest)
            if suffix in (".mp4", ".mov"):
                write_tags(temporary, tags)
    return replace(result, target=target)


@dataclass(frozen=True)
class _Own:
    """How the song's own pictures are shown: at the times of a map, copied or encoded again."""

    clip: Clip
    map: TimeMap
    copied: bool


def _own_pictures(
    readers: TrackRenderer, stages: Stages, pictures: OwnPictures, target: Path, excerpt: Excerpt | ExcerptSearch | None
) -> _Own:
    """What becomes of the pictures the song came with. Raises Unusable, Unwritable, before any work, where that cannot be."""
    song, made = readers.track, readers.arrangement(stages)
    clip = clip_of(song.path)
    if clip is None:
        raise Unusable(tr("{0} has no moving pictures. Choose a picture for the video.").format(song.path.name))
    runs_on = PictureTimes(made.map, song.rate, song.seconds).runs_on
    shown = made.map if runs_on or pictures.follow else made.music
    copied = (
        excerpt is None and PictureTimes(shown, song.rate, song.seconds).runs_on
    )  # what is copied begins with its first picture
    if copied:
        check_copying(clip.path, target.suffix.lower())
        check_room(target.absolute().parent, clip.path.stat().st_size, target.name)
    return _Own(clip, shown, copied)


@dataclass(frozen=True)
class _Movie:
    """A video file being made. sound : finished."""

    sound: Path
    temporary: Path
    suffix: str
    tags: Tags

    @property
    def _title(self) -> dict[str, str]:
        """Tags of containers that have them in their head."""
        names = ("title", "artist", "album", "date", "comment", "credits")
        return {name: self.tags.first(name) for name in names if self.tags.first(name)}

    def of_clip(self, own: _Own, times: PictureTimes, work: Work) -> None:
        """The song's own pictures, at the times of the version."""
        clip = own.clip
        if own.copied:
            copy_pictures(
                clip.path, self.sound, self.temporary, self.suffix, times, clip.sound_starts, self._title, work
            )
        else:
            self._encode(following(clip, times, work), even(clip.width, clip.height), clip.rate, drawn=False)

    def of_drawn(self, pictures: Pictures, seconds: float, work: Work) -> None:
        """Pictures made for it."""
        self._encode(pictures.frames(seconds, work), pictures.size, pictures.rate, drawn=True)

    def _encode(self, frames: Iterator[Any], size: tuple[int, int], rate: Fraction, *, drawn: bool) -> None:
        coder = coder_for(self.suffix, drawn=drawn)
        with closing(made_ahead(frames)) as ahead:
            encode_pictures(ahead, size, rate, self.sound, self.temporary, self.suffix, self._title, coder)
