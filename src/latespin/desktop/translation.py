"""Every visible text goes through :func:`tr`, so that the window can speak another language.

Texts that the core declares (parameters, words of fields, effects, moments, endings) pass :func:`translated` where the
window shows them. Sentences that the core composes go through ``latespin.language``, in which the application installs
:func:`tr`.
"""

import dataclasses
from typing import Any, TypeVar

import msgspec
from PySide6.QtCore import QCoreApplication

CONTEXT = "Late Spin"
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
