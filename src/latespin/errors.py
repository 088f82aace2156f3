"""Errors for users: what happened, where, and what to do.

An error carries a sentence for the person at the window or the terminal. Anything that is not a
:class:`LateSpinError` is a fault of our own.
"""

from latespin.language import localised, tr

MOST_REPEATED = 200  # characters of what was given that a message says again


def shortened(text: object, most: int = MOST_REPEATED) -> str:
    """Input as a message may repeat it: one readable line of limited length."""
    plain = "".join(c if c.isprintable() else "\N{REPLACEMENT CHARACTER}" for c in str(text)[: most + 1])
    return plain if len(plain) <= most else plain[: most - 1] + "…"


class LateSpinError(Exception):
    """An error about the user's input or files: one sentence that says what can be done."""


class OutOfRange(LateSpinError, ValueError):
    """A number outside the limits of its parameter.

    value is what came, nearest the closest value that would be accepted.
    """

    def __init__(self, name: str, value: float, low: float, high: float, unit: str = "") -> None:
        self.name = name
        self.value = value
        self.nearest = min(max(value, low), high) if value == value else low
        space = " " if unit else ""
        given, lowest, highest = (localised(f"{number:g}") for number in (value, low, high))
        says = tr("{0} is {1}; it can be {2} to {3}.")
        super().__init__(says.format(name, f"{given}{space}{unit}", lowest, f"{highest}{space}{unit}"))


class Unusable(LateSpinError, ValueError):
    """Values that do not go together."""


class Unreadable(LateSpinError):
    """A file that could not be opened, or is not what it should be."""


class Unwritable(LateSpinError):
    """A file that could not be written; nothing was left behind."""


class InterruptedWork(Exception):
    """Work was interrupted halfway; says which part is done, and how to resume."""


class Cancelled(Exception):
    """The person asked for the work to stop. Nothing half-done is left."""
