"""Every visible text goes through :func:`tr`, so that the window can speak another language.

Texts that the core declares (parameters, words of fields, effects, moments, endings) pass :func:`translated` where the
window shows them. Sentences that the core composes go through ``latespin.language``, in which the application installs
:func:`tr`.
"""

import dataclasses
from importlib import resources
from typing import Any, TypeVar

import msgspec
from PySide6.QtCore import QCoreApplication, QLibraryInfo, QLocale, QTranslator

from latespin.language import Language, install_translation

CONTEXT = "Late Spin"
ENGLISH = "en"  # what the texts are written in
#: The languages there are, by code, in their own words.
LANGUAGES = {ENGLISH: "English", "de": "Deutsch"}
TEXT_FIELDS = ("label", "title", "sentence", "summary", "begins", "tip", "asked")
Declared = TypeVar("Declared")


def tr(text: str) -> str:
    """The text in the user's language. Placeholders are filled afterwards: ``tr("Saved {0}").format(path)``."""
    return QCoreApplication.translate(CONTEXT, text) if text else text


def translated(declared: Declared) -> Declared:
    """A copy of a declaration (a dataclass or a struct) with its texts, and those of its choices, translated."""
    changes: dict[str, Any] = {
        name: tr(getattr(declared, name)) for name in TEXT_FIELDS if isinstance(getattr(declared, name, None), str)
    }
    choices = getattr(declared, "choices", None)
    if isinstance(choices, dict):
        changes["choices"] = {key: tr(text) for key, text in choices.items()}
    replace: Any = msgspec.structs.replace if isinstance(declared, msgspec.Struct) else dataclasses.replace
    return replace(declared, **changes)  # type: ignore[no-any-return]


def language_for(wanted: str) -> str:
    """The code of the language to speak. wanted : a code, or empty to follow the desktop."""
    codes = [wanted, *(name[:2] for name in QLocale.system().uiLanguages())]
    return next((code for code in codes if code in LANGUAGES), ENGLISH)


def install_language(app: QCoreApplication, wanted: str = "") -> None:
    """Have the window, Qt’s own buttons, the core’s sentences and numbers speak a language. wanted : as of ``language_for``."""
    code = language_for(wanted)
    ours = str(resources.files("latespin.desktop") / "languages" / f"latespin_{code}.qm")
    of_qt = f"{QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)}/qtbase_{code}.qm"
    for path in (of_qt, ours):
        translator = QTranslator(app)
        if code != ENGLISH and translator.load(path):
            app.installTranslator(translator)
    locale = QLocale(code)
    QLocale.setDefault(locale)
    install_translation(tr, Language(code, locale.decimalPoint()))
