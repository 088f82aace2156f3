"""Declares an effect: its settings as a struct, its name, its place in menus, and the layout of its form."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar

from latespin.model.effects.automation import Lane, check_lanes
from latespin.model.values.kinds import Kind, Kinds, kind_of
from latespin.model.values.parameters import ValidatedStruct

GROUPS = ("Space", "Wear", "Places", "Tone", "Layers")


class Effect(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """One effect of a version.

    id : tells a version's effects apart.  keep_level : the loudness stays as it is without the effect.
    lanes : the fields that change over the song.
    """

    id: str = ""
    on: bool = True
    keep_level: bool = True
    sets_level: ClassVar[bool] = False  # the level is what it is for, so that it is never kept
    lanes: tuple[Lane, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        check_lanes(self.lanes, type(self))

    @property
    def heard(self) -> bool:
        """Whether it changes anything anywhere."""
        return self.on and (self.amount_percent > 0.0 or any(lane.field == "amount_percent" for lane in self.lanes))  # type: ignore[attr-defined]

    @property
    def keeps_level(self) -> bool:
        """Whether the loudness stays as it is without the effect."""
        return self.keep_level and not self.sets_level

    def active_fields(self) -> dict[str, bool]:
        """Whether a field does something now; fields that are not named always do."""
        return {}

    @property
    def parts(self) -> tuple[str, ...]:
        """What it treats each by itself and can be heard alone, such as *Mid* and *Side*; none where it treats the whole."""
        return ()

    @property
    def file(self) -> str | None:
        """The file it is made from, empty while none is chosen; None where it needs none."""
        return None


@dataclass(frozen=True)
class EffectInfo:
    """title : in the window.  group : one of GROUPS.  summary : one sentence.

    main, more : the fields at hand after the amount, and those folded away, in ``columns``; each field is in one of them.
    """

    title: str
    group: str
    summary: str
    main: tuple[str, ...]
    more: tuple[str, ...] = ()
    columns: int = 3


_KINDS = Kinds[EffectInfo]("effect")
EFFECTS: dict[str, type[Effect]] = _KINDS.by_tag


def effect(
    title: str, group: str, summary: str, *, main: tuple[str, ...], more: tuple[str, ...] = (), columns: int = 3
) -> Callable[[Kind], Kind]:
    """Declare a struct as an effect. Its kind, the word in files, is the struct's tag."""
    if group not in GROUPS:
        raise ValueError(f"“{title}” is in the unknown group “{group}”")
    return _KINDS.declare(EffectInfo(title, group, summary, main, more, columns))


def effect_info(kind: str) -> EffectInfo:
    """The declaration of a kind."""
    return _KINDS.info(kind)


def effect_title(effect: Effect) -> str:
    """The title of an effect in the window."""
    return effect_info(kind_of(effect)).title
