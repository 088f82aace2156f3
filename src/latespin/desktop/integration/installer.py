"""Putting the desktop's files into a data folder, and taking away again just those."""

import contextlib
import json
import shutil
import subprocess
from collections.abc import Mapping
from pathlib import Path

import click
from click.shell_completion import get_completion_class

from latespin.desktop.integration.icons import SIZES, rendered, svg
from latespin.errors import Unwritable
from latespin.integration import APP_ID, SESSION_TYPE
from latespin.integration.desktop_files import desktop_entry, metainfo, mime_package
from latespin.integration.man_page import man_page
from latespin.language import tr
from latespin.media.files.atomic import write_bytes

LIST = Path("late-spin") / "desktop-files.json"
COMPLETIONS = {
    "bash": "bash-completion/completions/latespin", "zsh": "zsh/site-functions/_latespin", "fish": "fish/vendor_completions.d/latespin.fish",
}  # fmt: skip
#: What tells the desktop that something has changed, where it is installed.
UPDATES = (
    ("update-desktop-database", "applications"),
    ("update-mime-database", "mime"),
    ("gtk-update-icon-cache", "icons/hicolor"),
)


def install(folder: Path, program: Path, commands: Mapping[str, click.Command], group: click.Group) -> list[Path]:
    """Write all files into a data folder (XDG_DATA_HOME) and return them. Raises Unwritable; files of others are left alone."""
    files = {folder / place: data for place, data in _files(program, commands, group).items()}
    known = {*_written(folder)}
    foreign = [path for path in files if path.exists() and path not in known]
    if foreign:
        raise Unwritable(
            tr("{0} is there already and was not written by Late Spin. Move it away first.").format(foreign[0])
        )
    for path, data in files.items():
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise Unwritable(tr("The folder {0} cannot be made: {1}.").format(path.parent, error.strerror)) from error
        write_bytes(path, data, overwrite=True, sources=())
    listed = folder / LIST
    listed.parent.mkdir(parents=True, exist_ok=True)
    names = [str(path.relative_to(folder)) for path in files]
    write_bytes(listed, json.dumps(names, indent=1).encode(), overwrite=True, sources=())
    _tell(folder)
    return list(files)


def remove(folder: Path) -> list[Path]:
    """Take away what :func:`install` wrote, and folders that are empty then; returns the files."""
    files = _written(folder)
    for path in (*files, folder / LIST):
        with contextlib.suppress(OSError):
            path.unlink()
    _tell(folder)
    for path in (*files, folder / LIST):
        for above in path.parents:
            if above == folder:
                break
            with contextlib.suppress(OSError):
                above.rmdir()
    return files


def _files(program: Path, commands: Mapping[str, click.Command], group: click.Group) -> dict[str, bytes]:
    texts = {
        f"applications/{APP_ID}.desktop": desktop_entry(program),
        f"mime/packages/{APP_ID}.xml": mime_package(),
        f"metainfo/{APP_ID}.metainfo.xml": metainfo(),
        "man/man1/latespin.1": man_page(commands),
    }
    for shell, place in COMPLETIONS.items():
        kind = get_completion_class(shell)
        assert kind is not None
        texts[place] = kind(group, {}, "latespin", "_LATESPIN_COMPLETE").source()
    files = {place: text.encode() for place, text in texts.items()}
    for name, drawing, kind_of_icon in (
        (APP_ID, "latespin", "apps"),
        (SESSION_TYPE.replace("/", "-"), "session", "mimetypes"),
    ):
        files[f"icons/hicolor/scalable/{kind_of_icon}/{name}.svg"] = svg(drawing)
        for size in SIZES:
            files[f"icons/hicolor/{size}x{size}/{kind_of_icon}/{name}.png"] = rendered(drawing, size)
    return files


def _written(folder: Path) -> list[Path]:
    with contextlib.suppress(OSError, ValueError, TypeError):
        inside = folder.resolve()
        names = json.loads((folder / LIST).read_bytes())
        return [folder / name for name in names if (folder / name).resolve().is_relative_to(inside)]
    return []


def _tell(folder: Path) -> None:
    for program, place in UPDATES:
        if shutil.which(program) and (folder / place).is_dir():
            quiet = (
                ["-q", "-t", "-f"] if program.startswith("gtk") else ["-q"] if program.startswith("update-d") else []
            )
            with contextlib.suppress(OSError, subprocess.TimeoutExpired):
                command = [program, *quiet, str(folder / place)]
                subprocess.run(command, capture_output=True, timeout=30, check=False)  # noqa: S603 - one of UPDATES
