"""Opening files safely: regular files only, without waiting, within size limits."""

import errno
import os
import stat
from collections.abc import Callable
from io import BufferedReader
from pathlib import Path
from typing import TypeVar

from latespin.errors import LateSpinError, Unreadable, shortened
from latespin.language import tr

Read = TypeVar("Read")
MEGABYTE = 1 << 20


def open_regular(path: Path) -> BufferedReader:
    """A file opened for reading. Raises Unreadable for anything else: folders, pipes, devices, missing or forbidden files."""
    shown = shortened(path)
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    except FileNotFoundError:
        raise Unreadable(tr("{0} does not exist. Check the name and the folder.").format(shown)) from None
    except PermissionError:
        raise Unreadable(
            tr("{0} may not be read: you have no permission. Change it, or copy the file.").format(shown)
        ) from None
    except ValueError:
        raise Unreadable(tr("{0} cannot be the name of a file. Choose another.").format(shown)) from None
    except OSError as error:
        raise Unreadable(_explained(error, shown)) from error
    kind = os.fstat(handle).st_mode
    if stat.S_ISREG(kind):
        return open(handle, "rb")  # noqa: PTH123 - it is open already
    os.close(handle)
    if stat.S_ISDIR(kind):
        raise Unreadable(tr("{0} is a folder. Choose a file in it.").format(shown))
    raise Unreadable(tr("{0} is not a file but a device or a pipe. Choose a file.").format(shown))


def read_regular(path: Path, most_bytes: int) -> bytes:
    """All of a file. Raises Unreadable as :func:`open_regular`, and for one of more than ``most_bytes``."""
    with open_regular(path) as file:
        try:
            data = file.read(most_bytes + 1)
        except OSError as error:
            raise Unreadable(_explained(error, shortened(path))) from error
    if len(data) > most_bytes:
        raise Unreadable(
            tr("{0} is larger than such files are ({1} MB at most). Choose another file.").format(
                shortened(path.name), most_bytes // MEGABYTE
            )
        )
    return data


def all_readable(folder: Path, read: Callable[[Path], Read]) -> list[Read]:
    """What ``read`` makes of the JSON files of a folder, in order of their names; those it refuses are passed over."""
    found = []
    for file in sorted(folder.glob("*.json")):
        try:
            found.append(read(file))
        except (OSError, LateSpinError):
            continue
    return found


def _explained(error: OSError, shown: str) -> str:
    if error.errno == errno.ELOOP:
        return tr("{0} is a link that leads round in a circle. Choose another file.").format(shown)
    if error.errno == errno.ENAMETOOLONG:
        return tr("{0} is too long for the name of a file. Choose another.").format(shown)
    if error.errno == errno.ENXIO:
        return tr("{0} is not a file but a device or a pipe. Choose a file.").format(shown)
    return tr("{0} could not be read: {1}.").format(shown, error.strerror)
