"""Sockets in the user's runtime folder, over which processes of one user find each other."""

import socket
import warnings
from pathlib import Path

import platformdirs


def place(name: str) -> Path:
    """Where a socket is. Raises OSError where there is no safe folder."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # a session without XDG_RUNTIME_DIR gets a folder of its own
        return Path(platformdirs.user_runtime_dir("late-spin")) / name


def listening(path: Path, clients: int) -> socket.socket:
    """A socket that listens; one that was left by a process that died is taken over. Raises OSError, also where somebody listens already."""
    made = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        if path.exists() and not _answers(path):
            path.unlink()
        made.bind(str(path))
        made.listen(clients)
    except OSError:
        made.close()
        raise
    return made


def connected(path: Path) -> socket.socket:
    """A connection to whoever listens there. Raises OSError where nobody does."""
    made = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
    try:
        made.connect(str(path))
    except OSError:
        made.close()
        raise
    return made


def _answers(path: Path) -> bool:
    try:
        connected(path).close()
    except OSError:
        return False
    return True
