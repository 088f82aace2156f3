"""``latespin desktop-install``: a place on the desktop."""

import os
import shutil
import sys
from pathlib import Path

import click


@click.command("desktop-install")
@click.option(
    "--to", "folder", metavar="FOLDER", type=click.Path(path_type=Path),
    help="The data folder; the user’s own (XDG_DATA_HOME) by default.",
)  # fmt: skip
@click.option("--remove", "removing", is_flag=True, help="Take away what was put there.")
def desktop_install(folder: Path | None, removing: bool) -> None:
    """Put a launcher, icons, the file type of sessions, a man page and completions of the shell into the user’s data folder.

    Sessions and songs can then be opened by double-clicking. Nothing outside that folder is touched.
    """
    from latespin.cli.main import all_commands, commands
    from latespin.desktop.integration.installer import install, remove
    from latespin.desktop.movies.headless import start_drawing

    target = (folder or _data_home()).absolute()
    if removing:
        gone = remove(target)
        click.echo(f"{len(gone)} files were taken away from {target}.")
        return
    start_drawing()
    program = Path(shutil.which(sys.argv[0]) or shutil.which("latespin") or sys.argv[0]).absolute()
    written = install(target, program, all_commands(), commands)
    click.echo(f"{len(written)} files were written to {target}. Take them away with: latespin desktop-install --remove")


def _data_home() -> Path:
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")
