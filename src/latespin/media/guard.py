"""What no writer may touch: songs, references, layers and responses that a session or a render is made from."""

from collections.abc import Iterable
from pathlib import Path

from latespin.errors import Unwritable

#: The files that something is made from; each writer is given them.
Sources = Iterable[Path | str]


def refuse_sources(target: Path, sources: Sources) -> None:
    """Raise Unwritable where ``target``, under whatever name and through whatever link, is one of the sources."""
    if is_source(target, sources):
        raise Unwritable(f"{target} is a file that this is made from; those are never changed. Choose another name.")


def is_source(target: Path, sources: Sources) -> bool:
    """Whether a file is one of the sources."""
    there = _identity(target)
    return there is not None and any(_identity(Path(source)) == there for source in sources)


def _identity(path: Path) -> tuple[int, int] | None:
    """What tells a file from all others on this machine; None where there is none."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    return found.st_dev, found.st_ino
