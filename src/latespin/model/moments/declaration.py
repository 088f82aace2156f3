"""Declares a moment: its settings as a struct, its name, and the layout of its form."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from latespin.model.timing.positions import Position
from latespin.model.values.kinds import Kind, Kinds, kind_of
from latespin.model.values.parameters import ValidatedStruct


class Moment(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """Something that happens from ``start`` to ``end``, positions in the track. id : tells a version's moments apart."""

    id: str = ""
    on: bool = True
    label: str = ""
    start: Position
    end: Position

    @property
    def own_title(self) -> str:
        """What this one is called rather than its kind; empty where that is the same."""
        return ""

    def active_fields(self) -> dict[str, bool]:
        """Whether a field does something now; fields that are not named always do."""
        return {}


@dataclass(frozen=True)
class MomentInfo:
    """title : in the window.  summary : one sentence.  fields : of its form.  beats : its length when it is added."""

    title: str
    summary: str
    fields: tuple[str, ...]
    beats: float


_KINDS = Kinds[MomentInfo]("moment")
MOMENTS: dict[str, type[Moment]] = _KINDS.by_tag


def moment(title: str, summary: str, *, fields: tuple[str, ...], beats: float) -> Callable[[Kind], Kind]:
    """Declare a struct as a moment. Its kind, the word in files, is the struct's tag."""
    return _KINDS.declare(MomentInfo(title, summary, fields, beats))


def order_moments(kinds: Iterable[type[Moment]]) -> None:
    """List the kinds of moments in this order."""
    _KINDS.order(kinds)


def moment_info(kind: str) -> MomentInfo:
    """The declaration of a kind."""
    return _KINDS.info(kind)


def moment_title(moment: Moment) -> str:
    """The title of a moment in the window."""
    return moment.own_title or moment_info(kind_of(moment)).title
