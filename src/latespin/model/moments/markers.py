"""Markers: labelled places and ranges of a track, and moments made of them."""

from msgspec.structs import replace

from latespin.model.moments.moments import AnyMoment
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import ValidatedStruct


class Marker(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A labelled place, or a range where it has an ``end``."""

    id: str = ""
    label: str = ""
    start: Position
    end: Position | None = None


def moment_over(marker: Marker, moment: AnyMoment, ident: str) -> AnyMoment:
    """A moment like ``moment`` over a marker's range, with its label. ident : the new one's."""
    assert marker.end is not None
    return replace(moment, id=ident, label=marker.label, start=marker.start, end=marker.end)
