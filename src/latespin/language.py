"""The language of sentences that the core composes: English, unless the window installs its translation.

A sentence goes through :func:`tr` as a whole, with placeholders that are filled afterwards:
``tr("{0} moments").format(3)``. Processes without a window speak the language of the one that gives them work (:func:`speak`).
"""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Language:
    """code : as of its catalogue.  decimal_point : in numbers."""

    code: str = "en"
    decimal_point: str = "."


ENGLISH = Language()
_installed: list[Callable[[str], str]] = []
_spoken = [ENGLISH]


def install_translation(translate: Callable[[str], str] | None, language: Language = ENGLISH) -> None:
    """Translate all sentences from now on, and write numbers as the language does; None returns to English."""
    _installed[:] = [translate] if translate is not None else []
    _spoken[:] = [language if translate is not None else ENGLISH]


def spoken() -> Language:
    """What is spoken now."""
    return _spoken[0]


def speak(language: Language) -> None:
    """Speak a language by its catalogue, without a window."""
    if language == spoken():
        return
    if language.code == ENGLISH.code:
        install_translation(None)
    else:
        words = catalogue(language.code)
        install_translation(lambda text: words.get(text, text), language)


def catalogue(code: str) -> dict[str, str]:
    """The translations of all texts, from the file of Qt Linguist (TS 2.1) that ships; what has none stays English."""
    import xml.etree.ElementTree as ET  # of no use to whoever speaks English
    from importlib import resources

    file = resources.files("latespin.desktop") / "languages" / f"latespin_{code}.ts"
    messages = ET.fromstring(file.read_text(encoding="utf-8")).iter("message")  # noqa: S314 - a file of ours
    return {m.findtext("source", ""): m.findtext("translation", "") or m.findtext("source", "") for m in messages}


def tr(text: str) -> str:
    """The text in the installed language."""
    return _installed[0](text) if _installed else text


def localised(number: str) -> str:
    """An English number with the decimal point and the thousands separator of the installed language."""
    point = spoken().decimal_point
    return number if point == ENGLISH.decimal_point else number.translate(str.maketrans(".,", ",."))
