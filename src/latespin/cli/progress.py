"""Progress bars on a terminal, and stopping on signals."""

import contextlib
import sys
from collections.abc import Iterator
from typing import Any

import click

from latespin.interruption import interrupted
from latespin.jobs import Work


class _Interruptible:
    """Work nobody watches, which a signal stops."""

    def report(self, fraction: float) -> None:
        """Say nothing."""

    def cancelled(self) -> bool:
        """Whether a signal came."""
        return interrupted()


class _Bar(_Interruptible):
    """Work shown as a bar on a terminal."""

    def __init__(self, bar: Any) -> None:
        self._bar, self._shown = bar, 0

    def report(self, fraction: float) -> None:
        """Move the bar on."""
        percent = int(100 * fraction)
        if percent > self._shown:
            self._bar.update(percent - self._shown)
            self._shown = percent


@contextlib.contextmanager
def progress(label: str, as_json: bool) -> Iterator[Work]:
    """A bar where there is a terminal to show it on."""
    if as_json or not sys.stderr.isatty():
        yield _Interruptible()
        return
    with click.progressbar(length=100, label=label, file=sys.stderr) as bar:
        yield _Bar(bar)
