"""Chunks added to WAV files.

Microsoft and IBM, "Multimedia Programming Interface and Data Specifications 1.0", 1991, chapter 3; the ``smpl`` chunk after "New Multimedia
Data Types and Data Techniques", 1994.
"""

import io
import struct


def chunk(ident: bytes, body: bytes) -> bytes:
    """A chunk with its length, padded to an even one."""
    return ident + struct.pack("<I", len(body)) + body + b"\0" * (len(body) % 2)


def append(file: "io.BufferedRandom", chunks: bytes) -> None:
    """Add chunks at the end of a WAV file, and to the length it says it has."""
    size = file.seek(0, io.SEEK_END)
    if size % 2:
        file.write(b"\0")
        size += 1
    file.write(chunks)
    file.seek(4)
    file.write(struct.pack("<I", size + len(chunks) - 8))


def sample_loop(rate: int, first: int, last: int, note: int = 60) -> bytes:
    """A ``smpl`` chunk with one loop, forwards and for ever, from frame ``first`` to ``last``, both played."""
    head = struct.pack("<9I", 0, 0, round(1e9 / rate), note, 0, 0, 0, 1, 0)
    return chunk(b"smpl", head + struct.pack("<6I", 0, 0, first, last, 0, 0))
