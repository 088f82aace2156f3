"""Moving a version's positions to a changed grid, or to another song.

On another song, what lies in the second half of the one a recipe was made on is counted from the last strong bar line, whole beats on
whole beats, and what lies in the first half from bar 1; so what leads up to an ending goes on leading up to it.
"""

from collections.abc import Callable
from typing import Annotated, TypeVar

import msgspec
from msgspec.structs import replace

from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.takes import Ride
from latespin.model.timing.positions import Layout, Position, best_end
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.version import Stages

#: A place, and the first of those that belong together, moved.
Change = Callable[[Position, Position], Position]
Movable = TypeVar("Movable", bound=msgspec.Struct)


class SourceSongInfo(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The facts a recipe stores of the song it was made on: its length, and the beat of its last strong bar line (None without bars)."""

    seconds: Annotated[float, p.SONG_SECONDS]
    last_bar: Annotated[float | None, p.BEAT_NUMBER] = None


def made_on(layout: Layout) -> SourceSongInfo:
    """Facts about a song that a session keeps for relocation."""
    return SourceSongInfo(seconds=layout.seconds, last_bar=best_end(layout).beat)


def moved(thing: Movable, change: Change) -> Movable:
    """A moment, an ending or a marker with its places changed."""
    places = {name: place for name in ("start", "end", "at") if (place := getattr(thing, name, None))}
    if not places:
        return thing
    first = next(iter(places.values()))
    return replace(thing, **{name: change(place, first) for name, place in places.items()})


def with_places(stages: Stages, change: Change) -> Stages:
    """A version's stages with all places of its moments, its takes, its ending and its effects' points changed."""
    takes = tuple(
        replace(take, rides=tuple(_ride(ride, change) for ride in take.rides)) for take in stages.moments.takes
    )
    placed = tuple(moved(moment, change) for moment in stages.moments.placed)
    moments = replace(stages.moments, placed=placed, takes=takes)
    ending = replace(stages.ending, way=moved(stages.ending.way, change))
    effects = tuple(_with_points(effect, change) for effect in stages.colour.effects)
    return replace(stages, moments=moments, ending=ending, colour=replace(stages.colour, effects=effects))


def _ride(ride: Ride, change: Change) -> Ride:
    points = tuple(replace(point, at=change(point.at, point.at)) for point in ride.points)
    return replace(ride, start=change(ride.start, ride.start), end=change(ride.end, ride.end), points=points)


def _with_points(effect: AnyEffect, change: Change) -> AnyEffect:
    if not effect.lanes:
        return effect
    return replace(effect, lanes=tuple(
        replace(lane, points=tuple(replace(point, at=change(point.at, point.at)) for point in lane.points)) for lane in effect.lanes
    ))  # fmt: skip


def is_placed(stages: Stages) -> bool:
    """True if a version has anything at places of its song, apart from the ending."""
    return bool(stages.moments.placed) or any(effect.lanes for effect in stages.colour.effects)


def relocated(stages: Stages, before: SourceSongInfo | None, layout: Layout) -> Stages:
    """A recipe's stages on a song; as they are where it is not known what song they were made on, or there is nothing placed.

    before : of the song the recipe was made on.  layout : the song it comes to.
    """
    if before is None or not is_placed(stages):
        return stages
    last = best_end(layout).beat
    beats = 0.0 if before.last_bar is None or last is None else last - before.last_bar
    seconds = layout.seconds - before.seconds

    def change(place: Position, first: Position) -> Position:
        if place.beat is not None:
            late = before.last_bar is not None and first.beat is not None and first.beat > before.last_bar / 2.0
            return Position(beat=p.BEAT_NUMBER.clamp(place.beat + beats)) if late else place
        late = first.seconds is not None and first.seconds > before.seconds / 2.0
        return Position(seconds=max(0.0, (place.seconds or 0.0) + seconds)) if late else place

    return with_places(stages, change)
