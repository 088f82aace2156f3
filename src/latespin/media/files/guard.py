"""Protected files: songs, references, layers and responses that a session or a render uses."""

import itertools
from collections.abc import Iterable, Iterator
from pathlib import Path

from latespin.errors import Unwritable
from latespin.language import tr

#: The files that something is made from; each writer is given them, and goes through them before it begins and before the file has its name.
Sources = Iterable[Path | str]


class Together:
    """A union of sources; each is asked every time, since the open files may change meanwhile."""

    def __init__(self, *groups: Sources) -> None:
        self._groups = groups

    def __iter__(self) -> Iterator[Path | str]:
        return itertools.chain.from_iterable(self._groups)


def refuse_sources(target: Path, sources: Sources) -> None:
    """Raise Unwritable where ``target``, under whatever name and through whatever link, is one of the sources."""
    if is_source(target, sources):
        raise Unwritable(
            tr("{0} is a file that this is made from; those are never changed. Choose another name.").format(target)
        )


def is_source(target: Path, sources: Sources) -> bool:
    """Whether a file is one of the sources."""
    there = _identity(target)
    return there is not None and any(_identity(Path(source)) == there for source in sources)


def _identity(path: Path) -> tuple[int, int] | None:
    """The identity of a file on this machine; None if it does not exist."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    return found.st_dev, found.st_ino
