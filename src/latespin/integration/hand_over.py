"""Handing a file to the window that is open, without loading what a window needs."""

import contextlib
import hashlib
import os
from pathlib import Path

from latespin.media.local_socket import connected, place

WAIT_SECONDS = 2.0
OPEN, TAKEN, END = b"open ", b"taken\n", b"\0"


def socket_place() -> Path:
    """Where the window listens; one with its settings in another folder is another one. Raises OSError."""
    other = os.environ.get("LATESPIN_CONFIG", "")
    return place(f"window{'-' + hashlib.sha256(other.encode()).hexdigest()[:12] if other else ''}.sock")


def hand_over(file: Path | None) -> bool:
    """Have an open window open a file, or come forward. True where one said that it will."""
    with contextlib.suppress(OSError, ValueError), connected(socket_place()) as there:
        there.settimeout(WAIT_SECONDS)
        there.sendall(OPEN + (os.fsencode(file.absolute()) if file is not None else b"") + END)
        return there.recv(len(TAKEN)) == TAKEN
    return False
