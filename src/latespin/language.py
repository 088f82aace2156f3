"""The language of sentences that the core composes: English, unless the window installs its translation.

A sentence goes through :func:`tr` as a whole, with placeholders that are filled afterwards:
``tr("{0} moments").format(3)``.
"""

from collections.abc import Callable

_installed: list[Callable[[str], str]] = []


def install_translation(translate: Callable[[str], str] | None) -> None:
    """Translate all sentences from now on; None returns to English."""
    _installed[:] = [translate] if translate is not None else []


def tr(text: str) -> str:
    """The text in the installed language."""
    return _installed[0](text) if _installed else text
