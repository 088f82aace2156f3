"""Writing a file whole or not at all."""

import contextlib
import errno
import os
import secrets
import shutil
import stat
from collections.abc import Iterator
from pathlib import Path

from latespin.errors import Unwritable, shortened
from latespin.language import localised, tr
from latespin.media.files.guard import Sources, refuse_sources


@contextlib.contextmanager
def written_whole(target: Path, *, overwrite: bool, sources: Sources) -> Iterator[Path]:
    """A temporary path beside ``target``, renamed to it when the block ends well, else removed.

    A link is followed: what it leads to is written, and it stays a link. What a process that was killed left of an earlier try is removed too.
    sources : the files that must not be touched, whatever ``overwrite`` says.  Raises Unwritable where the target is one of them, exists and may not be
    overwritten, the folder is missing or read-only, or the disk is full.
    """
    check_target(target, overwrite=overwrite, sources=sources)
    target = followed(target)
    sweep(target)
    temporary = _temporary_beside(target)
    try:  # around its making, too: an interruption may come at any instruction
        os.close(os.open(temporary, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o666))
        yield temporary
        refuse_sources(target, sources)
        _publish(temporary, target, overwrite=overwrite)
    except OSError as error:
        raise Unwritable(explain(error, target)) from error
    finally:
        with contextlib.suppress(OSError):  # there may be none, and the disk may be read-only
            temporary.unlink()


def check_target(target: Path, *, overwrite: bool, sources: Sources) -> None:
    """Raise Unwritable if ``target`` clearly cannot be written. See :func:`written_whole`."""
    try:
        refuse_sources(target, sources)
        target = followed(target)
        kind = _kind_of(target)
        if not stat.S_ISDIR(_kind_of(target.parent) or 0):
            raise Unwritable(tr("The folder {0} does not exist. Make it, or choose another.").format(target.parent))
    except OSError as error:
        raise Unwritable(explain(error, target)) from error
    except ValueError:
        raise Unwritable(
            tr("{0} cannot be the name of a file. Choose another name.").format(repr(str(target)))
        ) from None
    if kind is None:
        return
    if stat.S_ISDIR(kind):
        raise Unwritable(tr("{0} is a folder. Add a file name to it.").format(target))
    if not stat.S_ISREG(kind):
        raise Unwritable(tr("{0} is not a file but a device or a pipe. Choose another name.").format(target))
    if not overwrite:
        raise Unwritable(
            tr("{0} already exists and was left as it is. Choose another name, or allow overwriting.").format(target)
        )


def check_room(folder: Path, needed: int, named: str) -> None:
    """Raise Unwritable if a disk has less room than ``named`` will need, in bytes, so that nobody waits in vain."""
    there = next((place for place in (folder, *folder.parents) if place.is_dir()), None)
    if there is None:
        return
    room = shutil.disk_usage(there)
    free = room.free
    if room.total and free < needed:  # some file systems do not say
        raise Unwritable(
            tr(
                "There is not enough room in {0}: {1} would take about {2} MB, and {3} MB are free. "
                "Make room, or choose another folder."
            ).format(shortened(folder), named, localised(f"{needed / 1e6:,.0f}"), localised(f"{free / 1e6:,.0f}"))
        )


def followed(target: Path) -> Path:
    """The target of a link, or the path itself. Raises OSError for circular links."""
    return Path(os.path.realpath(target)) if target.is_symlink() else target


def _kind_of(path: Path) -> int | None:
    """The ``st_mode`` at a path; None if nothing is there. Raises OSError."""
    try:
        return path.stat().st_mode
    except FileNotFoundError:
        return None
    except NotADirectoryError:
        return None


def write_bytes(target: Path, data: bytes, *, overwrite: bool, sources: Sources) -> None:
    """Write ``data`` whole or not at all; see :func:`written_whole`. Raises Unwritable."""
    with written_whole(target, overwrite=overwrite, sources=sources) as temporary:
        temporary.write_bytes(data)


def explain(error: OSError, target: Path) -> str:
    """One sentence for a failed write."""
    if error.errno == errno.ENOSPC:
        return tr("There is no room left on the disk for {0}. Free some space, or choose another disk.").format(target)
    if error.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        return tr("The folder {0} may not be written to. Choose another folder.").format(target.parent)
    if error.errno == errno.ENAMETOOLONG:
        return tr("The name {0} is too long for this disk. Choose a shorter one.").format(shortened(target.name))
    if error.errno in (errno.EINVAL, errno.EILSEQ):
        return tr("This disk does not take the name {0}. Choose a plainer one.").format(shortened(target.name))
    if error.errno == errno.EFBIG:
        return tr(
            "{0} would be larger than files may be here. Choose another disk or format, or raise the limit (ulimit -f)."
        ).format(target)
    if error.errno == errno.ELOOP:
        return tr("{0} is a link that leads round in a circle. Choose another name.").format(target)
    return tr("{0} could not be written: {1}.").format(target, error.strerror or error)


def sweep(target: Path) -> None:
    """Remove what processes that were killed left of tries to write ``target``."""
    start = _start_of_names(target)
    with contextlib.suppress(OSError):
        for left in target.parent.iterdir():
            process, _, rest = left.name.removeprefix(start).partition(".")
            is_ours = left.name.startswith(start) and left.suffix == target.suffix and process.isdecimal() and rest
            if is_ours and not Path(f"/proc/{process}").exists():
                left.unlink(missing_ok=True)


def sweep_folder(folder: Path) -> None:
    """Remove what processes of this machine that were killed left of any file in a folder that only Late Spin writes to."""
    machine = f".{os.uname().nodename[:40]}."
    with contextlib.suppress(OSError):
        for left in folder.glob(".*"):
            process = left.name.partition(machine)[2].partition(".")[0]
            if process.isdecimal() and not Path(f"/proc/{process}").exists():
                left.unlink(missing_ok=True)


def _start_of_names(target: Path) -> str:
    """The prefix of temporary names for ``target`` on this machine; the process number follows."""
    stem = os.fsdecode(os.fsencode(target.stem)[:80])  # a character may be cut in two: any bytes are a name
    return f".{stem}.{os.uname().nodename[:40]}."


def _temporary_beside(target: Path) -> Path:
    """A name that nothing has yet."""
    return target.with_name(f"{_start_of_names(target)}{os.getpid()}.{secrets.token_hex(6)}{target.suffix}")


def _publish(temporary: Path, target: Path, *, overwrite: bool) -> None:
    """Give a file its name once all of it is on the disk, so that no power cut leaves an empty one in place of another."""
    with temporary.open("rb") as file:
        os.fsync(file.fileno())
    if overwrite:
        temporary.replace(target)
        return
    try:
        os.link(temporary, target)  # fails, where a rename would overwrite, if the target has appeared meanwhile
    except FileExistsError:
        raise Unwritable(
            tr("{0} has appeared meanwhile and was left as it is. Choose another name.").format(target)
        ) from None
    except OSError:
        check_target(target, overwrite=False, sources=())
        temporary.rename(target)
