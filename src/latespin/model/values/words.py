"""Labels of fields that are not numbers: label, sentence and names of the choices.

Numbers are declared as :class:`~latespin.model.values.parameters.Parameter`. Both stand in a field's annotation, and forms,
tooltips and documents are made from them.
"""

from dataclasses import dataclass, field
from functools import cache
from typing import Any, get_type_hints

import msgspec

from latespin.model.values.parameters import parameters_of

#: Fields of several kinds that are set outside of forms.
COMMON = {"on": "On", "keep_level": "Keep level", "path": "File", "label": "Label"}


@dataclass(frozen=True)
class Words:
    """choices : what each value of a choice is called; empty where the field has none, or its values are note values."""

    label: str
    sentence: str
    choices: dict[str, str] = field(default_factory=dict, hash=False)


@cache
def words_of(kind: type[msgspec.Struct]) -> dict[str, Words]:
    """The words declared in the annotations of a struct, by field name."""
    hints = get_type_hints(kind, include_extras=True)
    found: dict[str, Words] = {}
    for name, hint in hints.items():
        for extra in _extras(hint):
            if isinstance(extra, Words):
                found[name] = extra
    return found


def label_of(kind: type[msgspec.Struct], name: str) -> str:
    """The label of a field that a person can set, a number or not. Raises KeyError where the field has none."""
    if name in COMMON:
        return COMMON[name]
    parameters = parameters_of(kind)
    return parameters[name].label if name in parameters else words_of(kind)[name].label


def _extras(hint: Any) -> tuple[Any, ...]:
    return tuple(getattr(hint, "__metadata__", ()))
