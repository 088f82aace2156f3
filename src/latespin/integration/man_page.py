"""The man page, made from the declared commands and options."""

import re
from collections.abc import Mapping

import click

from latespin import __version__
from latespin.integration.desktop_files import DESCRIPTION, SUMMARY

EXIT_CODES = (
    ("0", "Done."),
    ("1", "An error of Late Spin's own, or a failed part of an export of many songs."),
    ("2", "Something given is wrong; one line says what."),
    ("130", "Interrupted. No partial file is left behind."),
)
ENVIRONMENT = (
    ("LATESPIN_DEVICE=silent", "Play into nothing, in real time."),
    ("LATESPIN_CONFIG=FOLDER", "Keep the settings in another folder."),
)


def man_page(commands: Mapping[str, click.Command]) -> str:
    """The page latespin(1) in roff, by man-pages(7)."""
    parts = [
        f'.TH LATESPIN 1 "2026-11-28" "Late Spin {__version__}" "User Commands"\n.nh\n.ad l\n',
        f".SH NAME\nlatespin \\- {_roff(SUMMARY[0].lower() + SUMMARY[1:])}\n",
        ".SH SYNOPSIS\n.B latespin\n.I COMMAND\n[\\fIOPTIONS\\fR] [\\fIARGUMENTS\\fR]\n",
        f".SH DESCRIPTION\n{_roff(DESCRIPTION)}\n.SH COMMANDS\n",
    ]
    for name, command in sorted(commands.items()):
        if not command.hidden:
            parts.append(_command(name, command))
    for title, rows in (("EXIT STATUS", EXIT_CODES), ("ENVIRONMENT", ENVIRONMENT)):
        parts.append(f".SH {title}\n" + "".join(f".TP\n.B {_roff(first)}\n{_roff(second)}\n" for first, second in rows))
    return "".join(parts)


def _command(name: str, command: click.Command) -> str:
    context = click.Context(command, info_name=f"latespin {name}")
    usage = " ".join(command.get_usage(context).split()).removeprefix("Usage: ")
    parts = [f".SS {_roff(usage)}\n{_roff(' '.join((command.help or '').split()))}\n"]
    for option in command.params:
        record = option.get_help_record(context) if isinstance(option, click.Option) else None
        if record is not None:
            parts.append(f".TP\n.B {_roff(record[0])}\n{_roff(' '.join(record[1].split()))}\n")
    return "".join(parts)


def _roff(text: str) -> str:
    """Text in which nothing is taken for a request."""
    escaped = text.replace("\\", "\\e").replace("-", "\\-").replace("|", "|\\:")  # a line may end there
    return re.sub(r"^([.'])", r"\\&\1", escaped)
