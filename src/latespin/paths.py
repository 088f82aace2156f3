"""Paths of any bytes and length, and their form as text."""

import os
from pathlib import Path
from urllib.parse import quote, unquote_to_bytes

URI = "file:"


def resolved(path: Path | str) -> Path:
    """A path with links resolved as far as possible; never raises, even for an invalid path."""
    try:
        return Path(os.path.realpath(path))
    except (OSError, ValueError):
        return Path(path)


def is_file(path: Path | str) -> bool:
    """True for a regular file; never raises, even for an invalid path."""
    return os.path.isfile(path)  # noqa: PTH113 - Path.is_file raises for names that are too long


def exists(path: Path | str) -> bool:
    """True for an existing path; never raises, even for an invalid path."""
    return os.path.exists(path)  # noqa: PTH110 - Path.exists raises for names that are too long


def path_to_text(path: str) -> str:
    """A path as JSON can hold it: itself, or, where its bytes are no UTF-8 text, as a URI (RFC 8089) with them escaped."""
    try:
        path.encode()
    except UnicodeEncodeError:
        return URI + quote(os.fsencode(path))
    return URI + quote(path) if path.startswith(URI) else path


def path_from_text(text: str) -> str:
    """The inverse of :func:`path_to_text`."""
    return os.fsdecode(unquote_to_bytes(text.removeprefix(URI))) if text.startswith(URI) else text
