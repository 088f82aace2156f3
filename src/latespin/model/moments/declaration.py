"""How a moment is declared: its settings as a struct, what it is called, and how its form is laid out."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from latespin.model.timing.positions import Position
from latespin.model.values.parameters import ValidatedStruct

Kind = TypeVar("Kind", bound="type[Moment]")


class Moment(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """Something that happens from ``start`` to ``end``, positions in the track. id : tells a version's moments apart."""

    id: str = ""
    on: bool = True
    label: str = ""
    start: Position
    end: Position


@dataclass(frozen=True)
class MomentInfo:
    """title : in the window.  summary : one sentence.  fields : of its form.  beats : its length when it is added."""

    title: str
    summary: str
    fields: tuple[str, ...]
    beats: float


_INFOS: dict[str, MomentInfo] = {}
MOMENTS: dict[str, type[Moment]] = {}


def moment(title: str, summary: str, *, fields: tuple[str, ...], beats: float) -> Callable[[Kind], Kind]:
    """Declare a struct as a moment. Its kind, the word in files, is the struct's tag."""

    def declare(kind: Kind) -> Kind:
        tag = str(kind.__struct_config__.tag)
        if tag in MOMENTS:
            raise ValueError(f"the moment “{tag}” is declared twice")
        MOMENTS[tag], _INFOS[tag] = kind, MomentInfo(title, summary, fields, beats)
        return kind

    return declare


def kind_of(moment: Moment) -> str:
    """``tape-stop``, ``cover`` … as in files."""
    return str(moment.__struct_config__.tag)


def moment_info(kind: str) -> MomentInfo:
    """The declaration of a kind."""
    return _INFOS[kind]


def moment_title(moment: Moment) -> str:
    """The title of a moment in the window."""
    return _INFOS[kind_of(moment)].title
