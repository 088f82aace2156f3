"""Progress and cancellation for the core."""

from typing import Protocol

from latespin.errors import Cancelled


class Work(Protocol):
    """Long work reports its progress here, and asks whether to continue."""

    def report(self, fraction: float) -> None:
        """Say how much is done, 0 to 1."""

    def cancelled(self) -> bool:
        """Whether the work should stop; it then raises Cancelled."""
        return False


class Quietly:
    """Work nobody watches."""

    def report(self, fraction: float) -> None:
        """Say nothing."""

    def cancelled(self) -> bool:
        """Go on to the end."""
        return False


class Share:
    """A part of larger work: its 0 to 1 is ``low`` to ``high`` of the whole."""

    def __init__(self, whole: Work, low: float, high: float) -> None:
        self._whole, self._low, self._high = whole, low, high

    def report(self, fraction: float) -> None:
        """Report to the whole."""
        self._whole.report(self._low + (self._high - self._low) * fraction)

    def cancelled(self) -> bool:
        """True once the whole job has been cancelled."""
        return self._whole.cancelled()


def step(work: Work, fraction: float) -> None:
    """Report progress; raise Cancelled if the work should stop."""
    if work.cancelled():
        raise Cancelled
    work.report(min(1.0, max(0.0, fraction)))
