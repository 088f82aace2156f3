"""Tags: read from any song, and carried over to written files."""

import io
import os
import zlib
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from latespin.errors import shortened
from latespin.language import tr
from latespin.media.audio.libsndfile_messages import quiet_decoder
from latespin.media.files.regular import open_regular
from latespin.media.tag_names import ID3_FRAMES, MP4_ATOMS, MP4_FREE, MP4_NUMBERS, MP4_OURS, SAME, is_carried

MOST_TAG_BYTES, MOST_COVER_BYTES = 64 << 20, 16 << 20
MOST_CHARACTERS, MOST_VALUES, MOST_NAMES = 20_000, 100, 300  # of one tag; of one file
MOST_SAID = 12  # names in a warning


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


@dataclass(frozen=True)
class TagEdits:
    """What a person wants other than it would be. text : by name; an empty one takes the tag away.  cover : None as it is, without bytes none at all."""

    text: tuple[tuple[str, str], ...] = ()
    cover: tuple[bytes, str] | None = None

    def applied(self, tags: Tags) -> Tags:
        """The tags with these changes."""
        made = tags.having(**dict(self.text))
        return made if self.cover is None else Tags(made.text, *self.cover)


AS_THEY_ARE = TagEdits()


def read_tags(path: Path) -> tuple[Tags, tuple[str, ...]]:
    """The tags of a song, empty where there are none or they are broken; and a warning for each tag that is too large to copy."""
    meter = _Metered(path)
    try:
        with meter:
            return _within_limits(_all_tags(path, meter), path.name)
    except _TooLarge:
        return Tags(), (tr("The tags of {0} are too large, and left out.").format(shortened(path.name)),)


def _within_limits(tags: Tags, name: str) -> tuple[Tags, tuple[str, ...]]:
    """Tags without values too large for any player."""
    long = [
        key for key, values in tags.text.items() if len(values) > MOST_VALUES or sum(map(len, values)) > MOST_CHARACTERS
    ]
    long += list(tags.text)[MOST_NAMES:]
    text = {key: values for key, values in tags.text.items() if key not in long}
    large = len(tags.cover) > MOST_COVER_BYTES
    left = [
        *map(shortened, long[:MOST_SAID]),
        *(["…"] if len(long) > MOST_SAID else []),
        *(["cover picture"] if large else []),
    ]
    kept = Tags(text) if large else Tags(text, tags.cover, tags.cover_type)
    return kept, (
        tr("Tags of {0} are too large, and left out: {1}.").format(shortened(name), ", ".join(left)),
    ) if left else ()


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
    return Tags({name: (value,) for name, value in found.items() if value and is_carried(name)})


def _from_id3(tags: Any) -> Tags:
    text = {name: _texts(tags[frame]) for name, frame in ID3_FRAMES.items() if frame in tags}
    for frame in tags.getall("TXXX"):
        if is_carried(name := frame.desc.lower()):
            text.setdefault(name, _texts(frame))
    for frame in (*tags.getall("TMCL"), *tags.getall("TIPL")):
        for role, person in frame.people:
            if person and is_carried(name := role.lower()):
                text[name] = (*text.get(name, ()), person)
    addresses = [frame.url for frame in tags.values() if frame.FrameID.startswith("W") and frame.url]
    if addresses:
        text.setdefault("website", tuple(addresses))
    for name, kind in (("comment", "COMM"), ("lyrics", "USLT")):
        found = sorted((f for f in tags.getall(kind) if is_carried(f.desc.lower() or name)), key=lambda f: f.desc != "")
        if found:
            text[name] = _texts(found[0])
    pictures = tags.getall("APIC")
    cover = (pictures[0].data, pictures[0].mime) if pictures else (b"", "")
    return Tags({name: values for name, values in text.items() if any(values)}, *cover)


def _texts(frame: Any) -> tuple[str, ...]:
    return (frame.text,) if isinstance(frame.text, str) else tuple(str(text) for text in frame.text)


def _from_mp4(tags: Any) -> Tags:
    text = {name: tuple(str(t) for t in tags[atom]) for name, atom in MP4_ATOMS.items() if atom in tags}
    for atom, names in MP4_NUMBERS.items():
        if tags.get(atom):
            text |= {name: (str(number),) for name, number in zip(names, tags[atom][0], strict=False) if number}
    if tags.get("tmpo"):
        text["bpm"] = (str(tags["tmpo"][0]),)
    for atom in tags:
        if atom.startswith(MP4_FREE) and is_carried(name := atom.rsplit(":", 1)[1].lower()):
            text.setdefault(name, tuple(bytes(value).decode("utf-8", "replace") for value in tags[atom]))
    if not tags.get("covr"):
        return Tags(text)
    cover = tags["covr"][0]
    return Tags(text, bytes(cover), "image/png" if cover.imageformat == cover.FORMAT_PNG else "image/jpeg")


def _from_vorbis(file: Any) -> Tags:
    import base64
    import binascii

    from mutagen.flac import Picture

    names = dict.fromkeys(name.lower() for name, _ in file.tags)
    text = {name: tuple(file.tags[name]) for name in names if is_carried(name)}
    pictures = list(getattr(file, "pictures", []))
    if not pictures and "metadata_block_picture" in file.tags:
        try:
            pictures = [Picture(base64.b64decode(file.tags["metadata_block_picture"][0]))]
        except (binascii.Error, ValueError, EOFError):
            pictures = []
    return Tags(text, pictures[0].data, pictures[0].mime) if pictures else Tags(text)


def write_tags(path: Path, tags: Tags) -> None:
    """Write tags into a finished FLAC, Ogg, Opus, MP3, M4A or WAV file."""
    import mutagen
    from mutagen.mp3 import MP3
    from mutagen.mp4 import MP4
    from mutagen.wave import WAVE

    if not tags.text and not tags.cover:
        return
    file = mutagen.File(path)
    if isinstance(file, MP3 | WAVE):
        _to_id3(file, tags)
    elif isinstance(file, MP4):
        _to_mp4(file, tags)
    else:
        _to_vorbis(file, tags)
    file.save()


def _to_id3(file: Any, tags: Tags) -> None:
    from mutagen import id3

    if file.tags is None:
        file.add_tags()
    text = dict(tags.text)
    for name, frame in ID3_FRAMES.items():
        if values := _taken(text, name):
            file.tags.add(getattr(id3, frame)(encoding=3, text=list(values)))
    if comment := _taken(text, "comment"):
        file.tags.add(id3.COMM(encoding=3, lang="XXX", desc="", text=list(comment)))
    if lyrics := _taken(text, "lyrics"):
        file.tags.add(id3.USLT(encoding=3, lang="XXX", desc="", text="\n".join(lyrics)))
    for name, values in text.items():
        file.tags.add(id3.TXXX(encoding=3, desc=name.upper(), text=list(values)))
    if tags.cover:
        file.tags.add(id3.APIC(encoding=3, mime=tags.cover_type, type=3, desc="", data=tags.cover))


def _taken(text: dict[str, tuple[str, ...]], name: str) -> tuple[str, ...]:
    """The values of a name, or of another name of the same thing, taken out of ``text``; empty if there are none."""
    return next((text.pop(same) for same in SAME.get(name, (name,)) if same in text), ())


def _to_mp4(file: Any, tags: Tags) -> None:
    from mutagen.mp4 import MP4Cover

    if file.tags is None:
        file.add_tags()
    text = dict(tags.text)
    for name, atom in MP4_ATOMS.items():
        if values := _taken(text, name):
            file.tags[atom] = list(values)
    for atom, (name, total) in MP4_NUMBERS.items():
        if number := _whole(text, name):
            file.tags[atom] = [(number, _whole(text, total))]
    if bpm := _whole(text, "bpm"):
        file.tags["tmpo"] = [bpm]
    for name, values in text.items():
        file.tags[f"{MP4_OURS}{name.upper()}"] = [value.encode() for value in values]
    if tags.cover:
        kind = MP4Cover.FORMAT_PNG if tags.cover_type == "image/png" else MP4Cover.FORMAT_JPEG
        file.tags["covr"] = [MP4Cover(tags.cover, kind)]


def _whole(text: dict[str, tuple[str, ...]], name: str) -> int:
    """A whole number, taken out of ``text``: 3 of ``3`` and ``3/12``; 0 and left there where it is none that an atom can hold."""
    first = next(iter(text.get(name, ())), "").partition("/")[0]
    if not (first.isascii() and first.isdigit() and int(first) < 1 << 16):
        return 0
    del text[name]
    return int(first)


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
