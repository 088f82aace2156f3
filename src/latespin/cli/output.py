"""What the command line prints: text of any names, as JSON that is always valid."""

import json
import sys
from typing import Any

import click


def accept_any_names() -> None:
    """Have names that are no text printed readably, instead of failing."""
    for stream in (sys.stdout, sys.stderr):
        if hasattr(stream, "reconfigure"):
            stream.reconfigure(errors="replace")


def echo_json(value: Any, indent: int | None = None) -> None:
    """Print a value as JSON. A name that is no UTF-8 text has its bytes as lone surrogates, escaped, as Python has them."""
    text = json.dumps(value, ensure_ascii=False, indent=indent)
    try:
        text.encode()
    except UnicodeEncodeError:
        text = json.dumps(value, indent=indent)
    click.echo(text)
