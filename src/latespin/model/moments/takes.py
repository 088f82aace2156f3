"""Takes: what was played in one go, as held moments and as automation of effects."""

from latespin.model.effects.automation import LanePoint
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import ValidatedStruct


class Ride(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A knob's part in a take: a range of a lane, and its points there while the take is the other way, off or on.

    effect, field : whose lane it is.
    """

    effect: str
    field: str
    start: Position
    end: Position
    points: tuple[LanePoint, ...] = ()


class Take(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A take by its id, which its held moments carry. on : whether it is heard."""

    id: str
    name: str
    on: bool = True
    rides: tuple[Ride, ...] = ()
