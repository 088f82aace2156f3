"""Writes docs/keys.md and docs/command-line.md from the declared commands and options: ``python -m tools.make_reference``."""

import sys
from pathlib import Path

import click

from latespin.cli.main import all_commands
from latespin.desktop.controllers.batch import BatchController
from latespin.desktop.controllers.compare import CompareController
from latespin.desktop.controllers.moments import MomentController
from latespin.desktop.controllers.recipes import RecipeController
from latespin.desktop.controllers.song.beats import BeatsController
from latespin.desktop.controllers.song.markers import MarkerController
from latespin.desktop.controllers.song.sections import SectionController
from latespin.desktop.controllers.tempo import TempoController
from latespin.desktop.session.commands import Command, declared
from latespin.desktop.shell.commands.clipboard_commands import ClipboardCommands
from latespin.desktop.shell.commands.file_commands import FileCommands
from latespin.desktop.shell.commands.menus import MENUS
from latespin.desktop.shell.commands.panel_commands import PanelCommands
from latespin.desktop.shell.commands.play_commands import PlayCommands
from latespin.desktop.shell.commands.version_commands import VersionCommands
from latespin.desktop.shell.commands.view_commands import ViewCommands
from latespin.desktop.shell.finder.finder_commands import FinderCommands
from latespin.desktop.shell.finder.keys import OTHER_KEYS

DOCS = Path(__file__).parents[1] / "docs"
SOURCES = (
    FileCommands, ClipboardCommands, VersionCommands, PlayCommands, PanelCommands, FinderCommands, ViewCommands, TempoController, BeatsController, SectionController, MomentController,
    MarkerController, RecipeController, CompareController, BatchController,
)  # fmt: skip
PAGE_OF_KEYS = "# Keys\n\nMade from the declared commands by `tools/make_reference.py`.\n"
PAGE_OF_COMMANDS = """# Command line

Made from the declared options by `tools/make_reference.py`. Every command is also run by `./late-spin`, which sets Late Spin
up first where that is needed.

Exit codes: 0 done; 2 wrong input, with one line that says what; 1 an error of Late Spin's own, or a failed part of an
export of many songs; 130 interrupted. No partial file is left behind. Whatever a version asks for and does not get is a note.

Environment: `LATESPIN_DEVICE=silent` plays into nothing, in real time. `LATESPIN_CONFIG=FOLDER` keeps the settings in another
folder. `LATESPIN_LOG=debug` logs how much is kept in memory.
"""


def declared_commands() -> list[Command]:
    """All commands with a menu, in the order of the menus."""
    found = [made for source in SOURCES for made, _ in declared(source) if made.menu]
    return sorted(found, key=lambda made: (MENUS.index(made.menu), made.group))


def keys_page() -> str:
    """The page of all menu commands and keys."""
    parts = [PAGE_OF_KEYS]
    for menu in MENUS:
        rows = [made for made in declared_commands() if made.menu == menu]
        if rows:
            parts.append(f"\n## {_plain(menu)}\n\n| command | key |\n|---|---|\n")
            parts += [f"| {_plain(made.title)} | {' or '.join(made.shortcuts)} |\n" for made in rows]
    parts.append("\n## Everywhere else\n\n| key | does |\n|---|---|\n")
    parts += [f"| {key} | {does} |\n" for key, does, _ in OTHER_KEYS]
    return "".join(parts)


def command_line_page() -> str:
    """The page of all commands and options of the command line."""
    parts = [PAGE_OF_COMMANDS]
    for name, command in all_commands().items():
        if command.hidden:
            continue
        context = click.Context(command, info_name=f"latespin {name}")
        parts.append(
            f"\n## {name}\n\n    {' '.join(command.get_usage(context).split())[7:]}\n\n{_joined(command.help)}\n"
        )
        options = [option for option in command.params if isinstance(option, click.Option)]
        if options:
            parts.append("\n| option | |\n|---|---|\n")
            parts += [_option_row(option, context) for option in options]
    return "".join(parts)


def _option_row(option: click.Option, context: click.Context) -> str:
    names, text = option.get_help_record(context) or ("", "")
    return f"| `{names.replace('|', chr(92) + '|')}` | {_joined(text).replace('|', chr(92) + '|')} |\n"


def _plain(title: str) -> str:
    return title.replace("&", "").removesuffix(" …")


def _joined(text: str | None) -> str:
    return " ".join((text or "").split())


PAGES = {"keys.md": keys_page, "command-line.md": command_line_page}


def main() -> None:
    """Write both pages."""
    for name, page in PAGES.items():
        (DOCS / name).write_text(page(), encoding="utf-8")


if __name__ == "__main__":
    sys.exit(main())
