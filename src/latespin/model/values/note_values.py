"""Note values: ``1/8``, dotted ``1/8d``, triplet ``1/8t``, and how many beats they last (a beat being a quarter)."""

from latespin.errors import Unusable
from latespin.language import tr

NOTE_VALUES = tuple(f"1/{n}{kind}" for n in (1, 2, 4, 8, 16, 32) for kind in ("", "d", "t"))
_FACTORS = {"": 1.0, "d": 1.5, "t": 2.0 / 3.0}
KIND_WORDS = {"": "", "d": " dotted", "t": " triplet"}


def beats_of(value: str) -> float:
    """The length of a note value in beats. Raises Unusable, naming the valid ones."""
    if value not in NOTE_VALUES:
        raise Unusable(
            tr("“{0}” is not a note value; use 1/1 to 1/32, with d for dotted or t for triplet, such as 1/8t.").format(
                value
            )
        )
    number, kind = (value[:-1], value[-1]) if value[-1] in "dt" else (value, "")
    return 4.0 / int(number[2:]) * _FACTORS[kind]


def say_value(value: str) -> str:
    """``1/8 triplet``."""
    kind = value[-1] if value[-1] in "dt" else ""
    return f"{value.removesuffix(kind) if kind else value}{tr(KIND_WORDS[kind])}"
