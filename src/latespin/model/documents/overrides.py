"""Single settings of a version given as text: ``ending.way.feedback_percent=40``, ``effects.hall.decay_seconds=4``."""

from typing import Any

import msgspec

from latespin.errors import Unusable, shortened
from latespin.language import tr
from latespin.model.version import Stages

LISTS = {"effects": ["colour", "effects"], "moments": ["moments", "placed"]}  # by their short names


def overridden(stages: Stages, settings: tuple[str, ...]) -> Stages:
    """Stages with settings replaced, each ``place=value``; a place is the path of names as in files.

    An item of a list is named by its number from 0, its id or its kind. Raises Unusable for a place that there is not, and for values it cannot have.
    """
    for setting in settings:
        place, found, value = setting.partition("=")
        if not found:
            raise Unusable(
                tr("“{0}” sets nothing. Give a place, = and a value: ending.way.feedback_percent=40.").format(
                    shortened(setting)
                )
            )
        plain = _with_lists(msgspec.to_builtins(stages))
        *way, last = _steps(place)
        holder = plain
        for step in way:
            holder = holder[_key(holder, step, place)]
        holder[_key(holder, last, place)] = _value(value)
        try:
            stages = msgspec.convert(plain, type=Stages)
        except msgspec.ValidationError as error:
            raise Unusable(f"{shortened(place)}: {shortened(str(error).partition(' - at ')[0])}.") from None
    return stages


def _with_lists(plain: Any) -> Any:
    """Plain values with lists in place of tuples, whose items can be replaced."""
    if isinstance(plain, dict):
        return {key: _with_lists(value) for key, value in plain.items()}
    return [_with_lists(value) for value in plain] if isinstance(plain, list | tuple) else plain


def _steps(place: str) -> list[str]:
    first, *rest = place.strip().split(".")
    if first in LISTS and not (first == "moments" and rest[:1] == ["placed"]):
        return [*LISTS[first], *rest]
    return [first, *rest]


def _key(holder: Any, step: str, place: str) -> Any:
    """The key of a step in what holds it."""
    if isinstance(holder, dict) and step in holder:
        return step
    if isinstance(holder, list):
        found = [i for i, item in enumerate(holder) if step in (str(i), item.get("id"), item.get("kind"))]
        if found:
            return found[0]
    if isinstance(holder, dict):
        there = sorted(holder)
    elif isinstance(holder, list):
        there = [str(item.get("kind")) for item in holder]
    else:
        there = []
    has = tr("It can be {0}.").format(", ".join(there)) if there else tr("There is nothing to set here.")
    raise Unusable(f"{shortened(place)}: {tr('There is no “{0}”.').format(shortened(step))} {has}")


def _value(text: str) -> Any:
    """A number, true, false or a list as in JSON; anything else as it is written."""
    try:
        return msgspec.json.decode(text.strip())
    except msgspec.DecodeError:
        return text.strip()
