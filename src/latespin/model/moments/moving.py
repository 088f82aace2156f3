"""Moments moved and lengthened, as values."""

from msgspec.structs import replace

from latespin.model.moments.moments import AnyMoment
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Length, Position

BLIND_BEAT_SECONDS = 0.5  # a beat where there is no grid
LEAST_SECONDS = 0.005


def lasting(moment: AnyMoment, length: Length, grid: Grid | None) -> AnyMoment:
    """The moment with another length from the same start. A moment on beats stays on beats."""
    if length.beats is not None and moment.start.beat is not None:
        return replace(moment, end=Position(beat=moment.start.beat + length.beats))
    start = moment.start.at(grid)
    if length.beats is not None and grid is not None:
        return replace(
            moment, end=Position(seconds=float(grid.seconds_of(float(grid.number_at(start)) + length.beats)))
        )
    seconds = length.seconds if length.seconds is not None else (length.beats or 1.0) * BLIND_BEAT_SECONDS
    return replace(moment, end=Position(seconds=start + seconds))


def has_length(moment: AnyMoment, grid: Grid | None) -> bool:
    """False where a moment's ends, one on a beat and one not, have met or crossed on a new grid."""
    return moment.end.at(grid) > moment.start.at(grid)


def begun_at(moment: AnyMoment, start: Position, grid: Grid | None) -> AnyMoment:
    """The moment moved as a whole to another start; one whose ends have crossed on a new grid becomes as short as can be."""
    if start.beat is not None and moment.start.beat is not None and moment.end.beat is not None:
        return replace(moment, start=start, end=Position(beat=start.beat + moment.end.beat - moment.start.beat))
    first, last = (place.at(grid) for place in (moment.start, moment.end))
    return replace(moment, start=start, end=Position(seconds=start.at(grid) + max(LEAST_SECONDS, last - first)))


def nudged(moment: AnyMoment, grid: Grid | None, *, beats: float = 0.0, seconds: float = 0.0) -> AnyMoment:
    """The moment moved by beats, or, finely, by seconds off them; unchanged where it would lose its length."""
    if beats == 0.0:
        places = [
            Position(seconds=round(max(0.0, place.at(grid) + seconds), 4)) for place in (moment.start, moment.end)
        ]
    else:
        step = beats * (grid.beat_seconds if grid else BLIND_BEAT_SECONDS)
        places = [place.later(step, beats, grid) for place in (moment.start, moment.end)]
    if places[1].at(grid) - places[0].at(grid) < LEAST_SECONDS:
        return moment
    return replace(moment, start=places[0], end=places[1])
