"""Moving a version's positions to a changed grid, or to another song.

On another song, what lies in a section goes to its counterpart: the first chorus to the first chorus, the last one to the last. Elsewhere, what lies in the second half of the one a recipe was made on is counted from the last strong bar line, whole beats on
whole beats, and what lies in the first half from bar 1; so what leads up to an ending goes on leading up to it.
"""

from collections.abc import Callable
from typing import Annotated, TypeVar

import msgspec
from msgspec.structs import replace

from latespin.analysis.results import SectionKind
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.takes import Ride
from latespin.model.timing.positions import Layout, Position, best_end
from latespin.model.timing.song_sections import counterpart
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.version import Stages

#: A place, and the first of those that belong together, moved.
Change = Callable[[Position, Position], Position]
BeatSections = tuple[tuple[int, SectionKind], ...]
Movable = TypeVar("Movable", bound=msgspec.Struct)


class SourceSongInfo(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The facts a recipe stores of the song it was made on: its length, the beat of its last strong bar line (None without bars), and the beats and kinds of its sections."""

    seconds: Annotated[float, p.SONG_SECONDS]
    last_bar: Annotated[float | None, p.BEAT_NUMBER] = None
    sections: BeatSections = ()


def made_on(layout: Layout) -> SourceSongInfo:
    """Facts about a song that a session keeps for relocation."""
    return SourceSongInfo(seconds=layout.seconds, last_bar=best_end(layout).beat, sections=_sections(layout))


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

    there = _sections(layout)

    def change(place: Position, first: Position) -> Position:
        if place.beat is not None and first.beat is not None:
            by = _to_counterpart(first.beat, before.sections, there)
            if by is not None:
                return Position(beat=p.BEAT_NUMBER.clamp(place.beat + by))
        if place.beat is not None:
            late = before.last_bar is not None and first.beat is not None and first.beat > before.last_bar / 2.0
            return Position(beat=p.BEAT_NUMBER.clamp(place.beat + beats)) if late else place
        late = first.seconds is not None and first.seconds > before.seconds / 2.0
        return Position(seconds=max(0.0, (place.seconds or 0.0) + seconds)) if late else place

    return with_places(stages, change)


def _sections(layout: Layout) -> BeatSections:
    """The beats at which a song's sections start, and their kinds."""
    if layout.grid is None:
        return ()
    return tuple((round(float(layout.grid.number_at(start))), kind) for start, kind in layout.sections)


def _to_counterpart(beat: float, here: BeatSections, there: BeatSections) -> int | None:
    """By how many beats a place moves with its section to the section's counterpart on another song.

    None where it has none that reaches as far. Intros and outros are counted from the song's ends, as what has no section.
    """
    number = max((i for i, (start, _) in enumerate(here) if start <= beat), default=None)
    if number is None or here[number][1] in ("", "intro", "outro"):
        return None
    other = counterpart(number, [kind for _, kind in here], [kind for _, kind in there])
    if other is None:
        return None
    by = there[other][0] - here[number][0]
    return by if other + 1 == len(there) or beat + by < there[other + 1][0] else None
