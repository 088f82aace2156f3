"""The command line: the same work without a window."""

import contextlib
import gc
import os
import sys
from importlib import import_module
from pathlib import Path
from typing import NoReturn

import click

from latespin import __version__
from latespin.cli.output import accept_any_names
from latespin.errors import MOST_REPEATED, Cancelled, InterruptedWork, LateSpinError, shortened
from latespin.interruption import listen

GIVEN_WRONG, OWN_FAULT, INTERRUPTED = 2, 1, 130


def main() -> NoReturn:
    """Run the command line. Exit codes: 0 done, 2 something given is wrong, 1 our fault or a part of a set failed, 130 interrupted."""
    listen()
    accept_any_names()
    try:
        code = commands.main(standalone_mode=False)
        sys.stdout.flush()
    except click.ClickException as error:
        _fail(error.format_message(), GIVEN_WRONG)
    except (LateSpinError, UnicodeError) as error:
        _fail(str(error), GIVEN_WRONG)
    except (click.Abort, KeyboardInterrupt, Cancelled):
        _fail("Interrupted; nothing unfinished is left behind.", INTERRUPTED)
    except InterruptedWork as stop:
        _fail(str(stop), INTERRUPTED)
    except BrokenPipeError:
        _give_up_printing()
        sys.exit(OWN_FAULT)
    except OSError as error:
        if error.filename is not None:
            raise
        _give_up_printing()
        _fail(
            f"What there is to say could not be written: {error.strerror}. Make room, or send it elsewhere.",
            GIVEN_WRONG,
        )
    except MemoryError:
        _fail("There is not enough memory for this song. Close other programs, or cut the song.", GIVEN_WRONG)
    sys.exit(code if isinstance(code, int) else 0)


def _fail(sentence: str, code: int) -> NoReturn:
    for word in sys.argv:
        if len(word) > MOST_REPEATED:
            sentence = sentence.replace(word, shortened(word))
    with contextlib.suppress(OSError):
        click.echo(f"latespin: {' '.join(sentence.split())}", err=True)
    sys.exit(code)


def _give_up_printing() -> None:
    """Drop output that could not be printed, so that Python does not retry at exit."""
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


#: Where commands are that are loaded when they are used: each needs other parts of the program.
ELSEWHERE = {
    "inspect": "inspect", "render": "render", "perform": "perform", "map": "time_map", "recipes": "recipes", "pad": "pad",
    "set": "batch:make_set", "desktop-install": "desktop_install:desktop_install",
}  # fmt: skip


class Commands(click.Group):
    """Loads a command when it is used."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted((*super().list_commands(ctx), *ELSEWHERE))

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in ELSEWHERE:
            return super().get_command(ctx, cmd_name)
        module, _, function = ELSEWHERE[cmd_name].partition(":")
        found: click.Command = getattr(import_module(f"latespin.cli.{module}"), function or module)
        return found


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Late Spin")
def commands() -> None:
    """Late Spin: altered versions of whole songs, at a level you can trust."""


def all_commands() -> dict[str, click.Command]:
    """Every command by its name, loaded."""
    context = click.Context(commands)
    found = {name: commands.get_command(context, name) for name in (*ELSEWHERE, *commands.commands)}
    return {name: command for name, command in found.items() if command is not None}


@commands.command("open")
@click.argument("file", type=click.Path(path_type=Path), required=False)
@click.option("--demo", is_flag=True, help="Open the demo session.")
@click.option("--new-window", is_flag=True, help="Open a window of its own, though one is open.")
def open_window(file: Path | None, demo: bool, new_window: bool) -> None:
    """Open the window, with a song or a session in it; where one is open already, in that one."""
    gc.disable()  # until the window is there: nothing of what is loaded is thrown away
    from latespin.integration.hand_over import hand_over

    if not (demo or new_window) and hand_over(file):
        return
    from latespin.desktop.app import run

    code = run(file, demo=demo)
    if code:
        sys.exit(code)


@commands.command("surface")
def open_surface() -> None:
    """Open the practice surface: pads and knobs on the screen, which play Late Spin by MIDI."""
    from latespin.desktop.app import run_surface

    code = run_surface()
    if code:
        sys.exit(code)


@commands.command("warm-up", hidden=True)
def warm_up() -> None:
    """Compile all kernels into their cache, so that nobody waits for it later."""
    from latespin.render.compile_kernels import compile_kernels

    compile_kernels()
