"""Writing a file whole or not at all."""

import contextlib
import errno
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from latespin.errors import Unwritable


@contextlib.contextmanager
def written_whole(target: Path, *, overwrite: bool) -> Iterator[Path]:
    """A temporary path beside ``target``, renamed to it when the block ends well, else removed.

    What a process that was killed left of an earlier try is removed too.  Raises Unwritable where the target exists and may not be overwritten, the folder is missing or
    read-only, or the disk is full.
    """
    check_target(target, overwrite=overwrite)
    sweep(target)
    temporary = _temporary_beside(target)
    try:
        yield temporary
        _publish(temporary, target, overwrite=overwrite)
    except OSError as error:
        raise Unwritable(explain(error, target)) from error
    finally:
        temporary.unlink(missing_ok=True)


def check_target(target: Path, *, overwrite: bool) -> None:
    """Raise Unwritable where it is clear from the start that ``target`` cannot be written."""
    if not target.parent.is_dir():
        raise Unwritable(f"The folder {target.parent} does not exist. Make it, or choose another.")
    if target.is_dir():
        raise Unwritable(f"{target} is a folder. Add a file name to it.")
    if target.exists() and not overwrite:
        raise Unwritable(f"{target} already exists and was left as it is. Choose another name, or allow overwriting.")


def write_bytes(target: Path, data: bytes, *, overwrite: bool) -> None:
    """Write ``data`` whole or not at all. Raises Unwritable."""
    with written_whole(target, overwrite=overwrite) as temporary:
        temporary.write_bytes(data)


def explain(error: OSError, target: Path) -> str:
    """One sentence for a failed write."""
    if error.errno == errno.ENOSPC:
        return f"There is no room left on the disk for {target}. Free some space, or choose another disk."
    if error.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        return f"The folder {target.parent} may not be written to. Choose another folder."
    return f"{target} could not be written: {error.strerror or error}."


def sweep(target: Path) -> None:
    """Remove what processes that were killed left of tries to write ``target``."""
    start = _start_of_names(target)
    with contextlib.suppress(OSError):
        for left in target.parent.iterdir():
            process, _, rest = left.name.removeprefix(start).partition(".")
            is_ours = left.name.startswith(start) and left.suffix == target.suffix and process.isdecimal() and rest
            if is_ours and not Path(f"/proc/{process}").exists():
                left.unlink(missing_ok=True)


def _start_of_names(target: Path) -> str:
    """How the names of temporary files of ``target`` made on this machine begin; the number of the process follows."""
    return f".{target.stem[:80]}.{os.uname().nodename[:40]}."


def _temporary_beside(target: Path) -> Path:
    prefix = f"{_start_of_names(target)}{os.getpid()}."
    try:
        handle, name = tempfile.mkstemp(suffix=target.suffix, prefix=prefix, dir=target.parent)
    except OSError as error:
        raise Unwritable(explain(error, target)) from error
    os.close(handle)
    umask = os.umask(0)
    os.umask(umask)
    temporary = Path(name)
    temporary.chmod(0o666 & ~umask)
    return temporary


def _publish(temporary: Path, target: Path, *, overwrite: bool) -> None:
    if overwrite:
        temporary.replace(target)
        return
    try:
        os.link(temporary, target)  # fails, where a rename would overwrite, if the target has appeared meanwhile
    except FileExistsError:
        raise Unwritable(f"{target} has appeared meanwhile and was left as it is. Choose another name.") from None
    except OSError:
        check_target(target, overwrite=False)
        temporary.rename(target)
