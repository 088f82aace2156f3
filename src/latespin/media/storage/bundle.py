"""Bundles: a session with copies of all its files, to move or pass on."""

import shutil
from pathlib import Path

from msgspec.structs import replace

from latespin.errors import Unwritable
from latespin.jobs import Work, step
from latespin.media.files.atomic import check_target, explain, write_bytes, written_whole
from latespin.model.documents.documents import Session, to_json
from latespin.paths import exists, is_file


def collect(session: Session, target: Path, work: Work, *, overwrite: bool = False) -> tuple[int, list[str]]:
    """Write a session (whose paths are absolute) to ``target`` and its files into a folder beside it.

    Returns how many files were copied, and those that are not there, which keep their paths. Files of the same content are copied once; files
    that are in the folder already are left as they are. Raises Unwritable, Cancelled.
    """
    check_target(target, overwrite=overwrite, sources=session.files())
    wanted = session.files()
    missing = [path for path in wanted if not is_file(path)]
    folder = target.parent / f"{target.stem} files"
    names = _names([path for path in wanted if path not in missing])
    copied = 0
    for number, (path, name) in enumerate(names.items()):
        step(work, number / max(1, len(names)))
        copied += _copy(Path(path), folder / name)

    def beside(path: str) -> str:
        return f"{folder.name}/{names[path]}" if path in names else path

    track = session.track
    moved = replace(session, track=replace(track, path=beside(track.path)) if track else None).with_sounds(beside)
    write_bytes(target, to_json(moved), overwrite=overwrite, sources=wanted)
    work.report(1.0)
    return copied, missing


def _names(paths: list[str]) -> dict[str, str]:
    """A name for each path, no two alike on any system."""
    names: dict[str, str] = {}
    taken: set[str] = set()
    for path in paths:
        stem, suffix = Path(path).stem, Path(path).suffix
        name = next(
            n
            for n in (f"{stem}{suffix}", *(f"{stem} {i}{suffix}" for i in range(2, 10_000)))
            if n.casefold() not in taken
        )
        taken.add(name.casefold())
        names[path] = name
    return names


def _copy(source: Path, target: Path) -> bool:
    """Copy a file unless it is there already; True if it was copied."""
    if exists(target) and (target.samefile(source) or _same(source, target)):
        return False
    try:
        target.parent.mkdir(exist_ok=True)
        with written_whole(target, overwrite=False, sources=()) as temporary:
            shutil.copyfile(source, temporary)
    except OSError as error:
        raise Unwritable(explain(error, target)) from error
    return True


def _same(one: Path, other: Path) -> bool:
    from latespin.media.track import file_hash

    return one.stat().st_size == other.stat().st_size and file_hash(one) == file_hash(other)
