"""Tags: read from any song, and carried over to written files."""

import io
import os
import zlib
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from latespin.errors import shortened
from latespin.media.audio.libsndfile_messages import quiet_decoder
from latespin.media.files.regular import open_regular

MOST_TAG_BYTES, MOST_COVER_BYTES = 64 << 20, 16 << 20
MOST_CHARACTERS, MOST_VALUES = 20_000, 100  # of one tag

# Our names (those of Vorbis comments), and what ID3 (v2.4) and MP4 call the same thing.
_ID3 = {
    "title": "TIT2", "artist": "TPE1", "album": "TALB", "albumartist": "TPE2", "date": "TDRC",
    "genre": "TCON", "tracknumber": "TRCK", "composer": "TCOM", "isrc": "TSRC", "bpm": "TBPM", "initialkey": "TKEY", "copyright": "TCOP",
}  # fmt: skip
_MP4 = {
    "title": "\xa9nam", "artist": "\xa9ART", "album": "\xa9alb", "albumartist": "aART", "date": "\xa9day",
    "genre": "\xa9gen", "composer": "\xa9wrt", "comment": "\xa9cmt", "copyright": "cprt",
}  # fmt: skip
_CARRIED = (*_ID3, "comment")
#: Names without a frame of their own, written as user-defined text.
_OWN = (
    "replaygain_track_gain", "replaygain_track_peak", "replaygain_reference_loudness", "r128_track_gain", "version_of", "credits",
)  # fmt: skip


@dataclass(frozen=True)
class Tags:
    """Text by name (title, artist, album, …), and the cover picture with its MIME type."""

    text: dict[str, tuple[str, ...]] = field(default_factory=dict)
    cover: bytes = b""
    cover_type: str = ""

    def first(self, name: str) -> str:
        """The first value of a name, or empty."""
        return next(iter(self.text.get(name, ())), "")

    def having(self, **values: str) -> "Tags":
        """The same with other values; an empty one takes the name away."""
        text = {name: kept for name, kept in self.text.items() if name not in values}
        text |= {name: (value,) for name, value in values.items() if value}
        return Tags(text, self.cover, self.cover_type)


def read_tags(path: Path) -> tuple[Tags, tuple[str, ...]]:
    """The tags of a song, empty where there are none or they are broken; and a warning for each tag that is too large to copy."""
    meter = _Metered(path)
    try:
        with meter:
            return _within_limits(_all_tags(path, meter), path.name)
    except _TooLarge:
        return Tags(), (f"The tags of {shortened(path.name)} are too large, and left out.",)


def _within_limits(tags: Tags, name: str) -> tuple[Tags, tuple[str, ...]]:
    """Tags without values too large for any player."""
    long = [
        key for key, values in tags.text.items() if len(values) > MOST_VALUES or sum(map(len, values)) > MOST_CHARACTERS
    ]
    text = {key: values for key, values in tags.text.items() if key not in long}
    large = len(tags.cover) > MOST_COVER_BYTES
    left = [*long, *(["cover picture"] if large else [])]
    kept = Tags(text) if large else Tags(text, tags.cover, tags.cover_type)
    return kept, (f"Tags of {shortened(name)} are too large, and left out: {', '.join(left)}.",) if left else ()


class _TooLarge(Exception):
    """The file asks to read or unpack more than any tags need."""


class _Metered(io.RawIOBase):
    """A file of which only so much may be read."""

    def __init__(self, path: Path) -> None:
        self._file = open_regular(path)
        self._left = MOST_TAG_BYTES
        self.name = str(path)

    def read(self, size: int = -1) -> bytes:
        data = self._file.read(min(size if size >= 0 else MOST_TAG_BYTES, self._left + 1))
        self._left -= len(data)
        if self._left < 0:
            raise _TooLarge
        return data

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        return self._file.seek(offset, whence)

    def tell(self) -> int:
        return self._file.tell()

    def seekable(self) -> bool:
        return True

    def readable(self) -> bool:
        return True

    def close(self) -> None:
        self._file.close()
        super().close()


class _BoundedUnpacking:
    """In place of the module zlib."""

    error = zlib.error

    @staticmethod
    def decompress(data: bytes) -> bytes:
        unpacking = zlib.decompressobj()
        unpacked = unpacking.decompress(data, MOST_TAG_BYTES)
        if unpacking.unconsumed_tail:
            raise _TooLarge
        return unpacked


def _all_tags(path: Path, source: Any) -> Tags:
    import mutagen
    from mutagen.id3 import ID3, _frames
    from mutagen.mp4 import MP4Tags

    _frames.zlib = (
        _BoundedUnpacking  # WORKAROUND: mutagen unpacks frames however large they become; it has no limit to set
    )
    try:
        file = mutagen.File(source)
    except (_TooLarge, MemoryError):
        raise _TooLarge from None
    except Exception:
        return _info_tags(path)
    tags = getattr(file, "tags", None)
    if tags is None:
        return _info_tags(path)
    if isinstance(tags, ID3):
        return _from_id3(tags)
    if isinstance(tags, MP4Tags):
        return _from_mp4(tags)
    return _from_vorbis(file)


def _info_tags(path: Path) -> Tags:
    """Tags found by libsndfile (the INFO list of WAV, the name chunks of AIFF)."""
    import soundfile

    try:
        with quiet_decoder(path), soundfile.SoundFile(os.fsencode(path)) as file:
            found = file.copy_metadata()
    except (soundfile.SoundFileError, OSError):
        return Tags()
    return Tags({name: (found[name],) for name in _CARRIED if found.get(name)})


def _from_id3(tags: Any) -> Tags:
    text = {name: tuple(str(t) for t in tags[frame].text) for name, frame in _ID3.items() if frame in tags}
    comments = tags.getall("COMM")
    if comments:
        text["comment"] = tuple(str(t) for t in comments[0].text)
    pictures = tags.getall("APIC")
    cover = (pictures[0].data, pictures[0].mime) if pictures else (b"", "")
    return Tags(text, *cover)


def _from_mp4(tags: Any) -> Tags:
    text = {name: tuple(str(t) for t in tags[atom]) for name, atom in _MP4.items() if atom in tags}
    if "trkn" in tags:
        text["tracknumber"] = (str(tags["trkn"][0][0]),)
    if not tags.get("covr"):
        return Tags(text)
    cover = tags["covr"][0]
    return Tags(text, bytes(cover), "image/png" if cover.imageformat == cover.FORMAT_PNG else "image/jpeg")


def _from_vorbis(file: Any) -> Tags:
    import base64
    import binascii

    from mutagen.flac import Picture

    text = {name: tuple(file.tags[name]) for name in _CARRIED if name in file.tags}
    pictures = list(getattr(file, "pictures", []))
    if not pictures and "metadata_block_picture" in file.tags:
        try:
            pictures = [Picture(base64.b64decode(file.tags["metadata_block_picture"][0]))]
        except (binascii.Error, ValueError, EOFError):
            pictures = []
    return Tags(text, pictures[0].data, pictures[0].mime) if pictures else Tags(text)


def write_tags(path: Path, tags: Tags) -> None:
    """Write tags into a finished FLAC, Ogg, Opus, MP3 or WAV file."""
    import mutagen
    from mutagen.mp3 import MP3
    from mutagen.wave import WAVE

    if not tags.text and not tags.cover:
        return
    file = mutagen.File(path)
    if isinstance(file, MP3 | WAVE):
        _to_id3(file, tags)
    else:
        _to_vorbis(file, tags)
    file.save()


def _to_id3(file: Any, tags: Tags) -> None:
    from mutagen import id3

    if file.tags is None:
        file.add_tags()
    for name, frame in _ID3.items():
        if name in tags.text:
            file.tags.add(getattr(id3, frame)(encoding=3, text=list(tags.text[name])))
    for name in _OWN:
        if name in tags.text:
            file.tags.add(id3.TXXX(encoding=3, desc=name.upper(), text=list(tags.text[name])))
    if "comment" in tags.text:
        file.tags.add(id3.COMM(encoding=3, lang="XXX", desc="", text=list(tags.text["comment"])))
    if tags.cover:
        file.tags.add(id3.APIC(encoding=3, mime=tags.cover_type, type=3, desc="", data=tags.cover))


def _to_vorbis(file: Any, tags: Tags) -> None:
    import base64

    from mutagen.flac import FLAC, Picture

    if file.tags is None:
        file.add_tags()
    for name, values in tags.text.items():
        file.tags[name] = list(values)
    if not tags.cover:
        return
    picture = Picture()
    picture.type, picture.mime, picture.data = 3, tags.cover_type, tags.cover
    if isinstance(file, FLAC):
        file.add_picture(picture)
    else:
        file.tags["metadata_block_picture"] = [base64.b64encode(picture.write()).decode("ascii")]
