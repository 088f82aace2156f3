"""Prints facts, warnings, and JSON that is always valid."""

import json
import math
import sys
from typing import Any

import click

from latespin.model.values.units import clock


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


def say_warnings(warnings: tuple[str, ...]) -> None:
    """Print warnings to the error stream, a line each."""
    for warning in warnings:
        click.echo(f"latespin: {warning}", err=True)


def print_facts(facts: dict[str, Any], as_json: bool) -> None:
    """JSON with null for undefined values, or a line for each fact."""
    plain = {name: _finite(value) for name, value in facts.items()}
    if as_json:
        echo_json(plain)
        return
    for name, value in plain.items():
        if value in ([], ""):
            continue
        shown = "–" if value is None else f"{value:.3f}" if isinstance(value, float) else value
        click.echo(f"{name:26} {_in_a_line(shown) if isinstance(shown, list) else shown}")


def _in_a_line(values: list[Any]) -> str:
    """A list in few words: sections by label and time, tempi by BPM, long lists of times by their first and how many there are."""
    if isinstance(values[0], dict):
        return ", ".join(map(_in_few_words, values))
    if isinstance(values[0], float):
        return f"{len(values)}, the first at {values[0]:.3f} s"
    return "; ".join(values)


def _in_few_words(value: dict[str, Any]) -> str:
    """A way to hear the beats, a tempo that holds, or a section."""
    if "confidence" in value:
        return f"{value['bpm']:.1f} BPM ({100 * value['confidence']:.0f} %)"
    if "bpm" in value:
        return f"{value['bpm']:.1f} BPM {clock(value['start'])}"
    return " ".join(word for word in (value["kind"], value["label"], clock(value["start"])) if word)


def _finite(value: Any) -> Any:
    return None if isinstance(value, float) and not math.isfinite(value) else value
