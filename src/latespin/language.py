"""The language of sentences that the core composes: English, unless the window installs its translation.

A sentence goes through :func:`tr` as a whole, with placeholders that are filled afterwards:
``tr("{0} moments").format(3)``.
"""

from collections.abc import Callable

ENGLISH_POINT = "."
_installed: list[Callable[[str], str]] = []
_decimal_point = [ENGLISH_POINT]


def install_translation(translate: Callable[[str], str] | None, decimal_point: str = ENGLISH_POINT) -> None:
    """Translate all sentences from now on, and write numbers with another decimal point; None returns to English."""
    _installed[:] = [translate] if translate is not None else []
    _decimal_point[:] = [decimal_point if translate is not None else ENGLISH_POINT]


def tr(text: str) -> str:
    """The text in the installed language."""
    return _installed[0](text) if _installed else text


def localised(number: str) -> str:
    """An English number with the decimal point and the thousands separator of the installed language."""
    return number if _decimal_point[0] == ENGLISH_POINT else number.translate(str.maketrans(".,", ",."))
