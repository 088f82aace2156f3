"""Markers in files: CSV, and the cue points of WAV files.

Cue points: Microsoft and IBM, "Multimedia Programming Interface and Data Specifications 1.0", 1991, chapter 3: a ``cue`` chunk with
a place for each, and in a ``LIST`` of type ``adtl`` their labels (``labl``) and, for ranges, lengths (``ltxt``).
"""

import csv
import io
import struct
from collections.abc import Iterator
from pathlib import Path
from typing import BinaryIO

import soundfile

from latespin.errors import Unreadable, shortened
from latespin.language import localised, tr
from latespin.media.audio.riff import append, chunk
from latespin.media.files.atomic import written_whole
from latespin.media.files.guard import Sources, Together
from latespin.media.files.regular import open_regular, read_regular
from latespin.media.track import Track
from latespin.model.values.parameters import SONG_SECONDS

COLUMNS = ("label", "start_seconds", "end_seconds")
MOST_BYTES, MOST_MARKERS, LONGEST_LABEL = 16 << 20, 10_000, 200

Mark = tuple[str, float, float | None]  # label, start and end in seconds; no end for a place
Marks = list[Mark]


def read_marks(path: Path) -> Marks:
    """The markers in a CSV or WAV file, in order of place. Raises Unreadable with the fault and its place."""
    with open_regular(path) as file:
        is_wav = file.read(4) in (b"RIFF", b"RF64")
        found = _from_wav(file, path.name) if is_wav else _from_csv(read_regular(path, MOST_BYTES), path.name)
    if len(found) > MOST_MARKERS:
        raise Unreadable(
            tr("{0} holds {1} markers; a session can have {2}.").format(
                path.name, localised(f"{len(found):,}"), localised(f"{MOST_MARKERS:,}")
            )
        )
    if not found:
        raise Unreadable(tr("{0} holds no markers. Choose another file.").format(path.name))
    return sorted(found, key=lambda mark: mark[1])


def write_marks(marks: Marks, path: Path, track: Track, *, overwrite: bool, sources: Sources) -> int:
    """Write markers as CSV, or the track as WAV with markers as its cue points, by the file's suffix. Raises Unwritable.

    Beats can be moved under markers. One that begins before the song is written at its start; a range whose end has come
    to lie at or before its start is written as a position. Returns how many were changed in this way.
    """
    ordered = [_in_order(mark) for mark in marks]
    with written_whole(path, overwrite=overwrite, sources=Together((track.path,), sources)) as part:
        if path.suffix.lower() == ".wav":
            soundfile.write(str(part), track.sound.T, track.rate, subtype="FLOAT", format="WAV")
            with part.open("r+b") as file:
                append(file, _chunks(ordered, track.rate))
        else:
            text = io.StringIO()
            lines = csv.writer(text, lineterminator="\n")
            lines.writerow(COLUMNS)
            for label, start, end in ordered:
                lines.writerow((label, f"{start:.6f}", "" if end is None else f"{end:.6f}"))
            part.write_text(text.getvalue(), encoding="utf-8")
    return sum(was != now for was, now in zip(marks, ordered, strict=True))


def _in_order(mark: Mark) -> Mark:
    label, start, end = mark
    start = max(0.0, start)
    return label, start, end if end is not None and end > start else None


def _from_csv(data: bytes, name: str) -> Marks:
    try:
        rows = list(csv.DictReader(io.StringIO(data.decode("utf-8-sig"))))
    except (UnicodeDecodeError, csv.Error) as error:
        raise Unreadable(tr("{0} is not CSV text ({1}). Choose another file.").format(name, shortened(error))) from None
    if not rows or not set(COLUMNS) <= set(rows[0]):
        raise Unreadable(tr("{0} needs the columns {1} in its first line.").format(name, ", ".join(COLUMNS)))
    found: Marks = []
    for line, row in enumerate(rows, 2):
        try:
            start, end = float(row["start_seconds"]), float(row["end_seconds"]) if row["end_seconds"] else None
        except (TypeError, ValueError):
            raise Unreadable(
                tr("{0}, line {1}: start_seconds and end_seconds must be numbers.").format(name, line)
            ) from None
        if not (0.0 <= start < SONG_SECONDS.high and (end is None or start < end < SONG_SECONDS.high)):
            raise Unreadable(
                tr("{0}, line {1}: a marker starts at 0 s or later and ends after it starts.").format(name, line)
            )
        found.append((shortened(row["label"] or "", LONGEST_LABEL), start, end))
    return found


def _from_wav(file: BinaryIO, name: str) -> Marks:
    rate, places, labels, lengths = 0, {}, {}, {}
    try:
        for ident, body in _chunks_of(file, 12):
            if ident == b"fmt ":
                rate = struct.unpack_from("<I", body, 4)[0]
            elif ident == b"cue ":
                for i in range(struct.unpack_from("<I", body)[0]):
                    number, _, _, _, _, frame = struct.unpack_from("<II4sIII", body, 4 + 24 * i)
                    places[number] = frame
            elif ident == b"LIST" and body[:4] == b"adtl":
                for kind, text in _chunks_of(io.BytesIO(body), 4):
                    number = struct.unpack_from("<I", text)[0]
                    if kind == b"labl":
                        words = text[4 : 4 + 4 * LONGEST_LABEL].split(b"\0")[0].decode("utf-8", "replace")
                        labels[number] = shortened(words, LONGEST_LABEL)
                    elif kind == b"ltxt":
                        lengths[number] = struct.unpack_from("<I", text, 4)[0]
    except struct.error:
        raise Unreadable(
            tr("{0} is damaged: one of its chunks is too short. Choose another file.").format(name)
        ) from None
    if places and not rate:
        raise Unreadable(tr("{0} is damaged: it has cue points, but no format. Choose another file.").format(name))
    return [
        (labels.get(n, ""), frame / rate, (frame + lengths[n]) / rate if lengths.get(n) else None)
        for n, frame in places.items()
        if frame + lengths.get(n, 0) < SONG_SECONDS.high * rate
    ]


def _chunks_of(file: BinaryIO, start: int) -> Iterator[tuple[bytes, bytes]]:
    """The names and bodies of chunks from a place on; those that are too large for anything but sound without a body."""
    file.seek(start)
    while len(head := file.read(8)) == 8:
        size = struct.unpack_from("<I", head, 4)[0]
        small = size <= MOST_BYTES and head[:4] != b"data"
        yield head[:4], file.read(size) if small else b""
        file.seek(size % 2 if small else size + size % 2, io.SEEK_CUR)


def _chunks(marks: Marks, rate: int) -> bytes:
    cues, listed = b"", b"adtl"
    for number, (label, start, end) in enumerate(marks, 1):
        frame = round(start * rate)
        cues += struct.pack("<II4sIII", number, frame, b"data", 0, 0, frame)
        listed += chunk(b"labl", struct.pack("<I", number) + label.encode() + b"\0")
        if end is not None:
            listed += chunk(b"ltxt", struct.pack("<II4sHHHH", number, round(end * rate) - frame, b"rgn ", 0, 0, 0, 0))
    return chunk(b"cue ", struct.pack("<I", len(marks)) + cues) + chunk(b"LIST", listed)
