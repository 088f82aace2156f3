"""Unfinished WAV files: the header gives a data size of 0, although sound follows.

Read as if it said 0xFFFFFFFF, "to the end of the file", which libsndfile follows.
"""

import io
import struct
from pathlib import Path

TO_THE_END = b"\xff\xff\xff\xff"


def finished(path: Path) -> "io.RawIOBase | None":
    """The file as if its header had been finished; None where there is nothing to mend. Raises OSError."""
    place = _empty_length(path)
    return _Mended(path, place, TO_THE_END) if place is not None else None


def _empty_length(path: Path) -> int | None:
    """Offset of the data length, if it is 0 and no chunk follows in the file."""
    with path.open("rb") as file:
        head = file.read(12)
        if head[:4] != b"RIFF" or head[8:] != b"WAVE":
            return None
        while len(head := file.read(8)) == 8:
            length = struct.unpack("<I", head[4:])[0]
            if head[:4] == b"data":
                here = file.tell()
                return here - 4 if length == 0 and not _only_chunks(file, path.stat().st_size) else None
            file.seek(length + length % 2, io.SEEK_CUR)
    return None


def _only_chunks(file: "io.BufferedReader", size: int) -> bool:
    """Whether well-formed chunks fill the rest of the file, to its very end: then there really is no sound."""
    while file.tell() < size:
        head = file.read(8)
        if len(head) < 8 or not head[:4].isalnum():
            return False
        length = struct.unpack("<I", head[4:])[0]
        file.seek(length + length % 2, io.SEEK_CUR)
    return file.tell() in (size, size + 1)


class _Mended(io.RawIOBase):
    """A file of which a few bytes are read as others."""

    def __init__(self, path: Path, place: int, data: bytes) -> None:
        self._file, self._place, self._data = path.open("rb"), place, data

    def readable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        return self._file.seek(offset, whence)

    def tell(self) -> int:
        return self._file.tell()

    def readinto(self, buffer: "memoryview") -> int:  # type: ignore[override]
        at = self._file.tell()
        count = self._file.readinto(buffer)
        for i, byte in enumerate(self._data, self._place - at):
            if 0 <= i < count:
                memoryview(buffer).cast("B")[i] = byte
        return count

    def close(self) -> None:
        self._file.close()
        super().close()
