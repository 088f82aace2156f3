"""Detecting truncated files, for formats whose decoders do not report them."""

import struct
from pathlib import Path

OGG_LAST_PAGE = 4  # header_type flag, RFC 3533 section 6
LONGEST_OGG_PAGE = 65_307


def bytes_missing(path: Path) -> bool:
    """True where a RIFF, AIFF or Ogg file ends before its own end."""
    size = path.stat().st_size
    with path.open("rb") as file:
        head = file.read(12)
        if head[:4] in (b"RIFF", b"FORM") and len(head) == 12:
            return _chunk_cut(file, head[:4] == b"RIFF", size)
        if head[:4] == b"OggS":
            file.seek(max(0, size - LONGEST_OGG_PAGE))
            tail = file.read()
            last = tail.rfind(b"OggS")
            return last < 0 or len(tail) < last + 6 or not tail[last + 5] & OGG_LAST_PAGE
    return False


def _chunk_cut(file, little_endian: bool, size: int) -> bool:  # type: ignore[no-untyped-def]
    """Walk the chunks up to the one with the sound; True if it extends beyond the file."""
    order = "<I" if little_endian else ">I"
    while len(head := file.read(8)) == 8:
        length = int(struct.unpack(order, head[4:])[0])
        start = file.tell()
        if head[:4] in (b"data", b"SSND"):
            unknown = length in (0, 0xFFFFFFFF)  # written by a stream that never came back to fill it in
            return not unknown and start + length > size + 1
        file.seek(start + length + (length & 1))
    return False
