"""Work shown as a bar on a terminal."""

import contextlib
import sys
from collections.abc import Iterator
from typing import Any

import click

from latespin.jobs import Quietly, Work


class _Bar:
    """Work shown as a bar on a terminal."""

    def __init__(self, bar: Any) -> None:
        self._bar, self._shown = bar, 0

    def report(self, fraction: float) -> None:
        percent = int(100 * fraction)
        if percent > self._shown:
            self._bar.update(percent - self._shown)
            self._shown = percent

    def cancelled(self) -> bool:
        return False


@contextlib.contextmanager
def progress(label: str, as_json: bool) -> Iterator[Work]:
    """A bar where there is a terminal to show it on."""
    if as_json or not sys.stderr.isatty():
        yield Quietly()
        return
    with click.progressbar(length=100, label=label, file=sys.stderr) as bar:
        yield _Bar(bar)
