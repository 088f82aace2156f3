"""Takes of a version as values: added, muted, deleted, merged and quantised; and rides on lanes."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from latespin.dsp.arrays import Floats
from latespin.model.effects.automation import MOST_POINTS, Lane
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.held import Held, HeldRepeat
from latespin.model.moments.takes import Ride, Take
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import Parameter
from latespin.model.version import Stages

FINEST, COARSEST = 0.0005, 0.005  # of a control's range, by which thinned points may be off


def with_take(stages: Stages, take: Take, moves: Sequence[Held], rides: Sequence[tuple[str, Lane]]) -> Stages:
    """The version with what was played added to a take; rides : lanes to be laid over those of effects, by id."""
    kept_rides = list(take.rides)
    for ident, lane in rides:
        effect = stages.colour.find(ident)
        if effect is not None and lane.points:
            effect, ride = _ridden(effect, lane)
            stages = replace(stages, colour=stages.colour.with_changed(effect))
            kept_rides.append(ride)
    moments = stages.moments
    takes = [other for other in moments.takes if other.id != take.id]
    placed = (*moments.placed, *moves)
    changed = replace(moments, placed=placed, takes=(*takes, replace(take, rides=tuple(kept_rides))))
    return replace(stages, moments=changed)


def _ridden(effect: AnyEffect, lane: Lane) -> tuple[AnyEffect, Ride]:
    """An effect with a ride over the lane of that field, and the ride with the points it replaced."""
    old = next((each for each in effect.lanes if each.field == lane.field), None)
    start, end = lane.points[0].at, lane.points[-1].at
    ride = Ride(effect=effect.id, field=lane.field, start=start, end=end, points=lane.points)
    if old is not None:
        return _swapped(effect, ride)
    others = tuple(each for each in effect.lanes if each.field != lane.field)
    return replace(effect, lanes=(*others, lane)), replace(ride, points=())


def _swapped(effect: AnyEffect, ride: Ride) -> tuple[AnyEffect, Ride]:
    """An effect with the points of a ride in place of those in its range, and the ride with those."""
    old = next((each for each in effect.lanes if each.field == ride.field), None)
    points = old.points if old else ()
    within = [point for point in points if _order(ride.start) <= _order(point.at) <= _order(ride.end)]
    outside = [point for point in points if point not in within]
    both = sorted((*outside, *ride.points), key=lambda point: _order(point.at))[:MOST_POINTS]
    others = tuple(each for each in effect.lanes if each.field != ride.field)
    lanes = (*others, Lane(field=ride.field, points=tuple(both), played=True)) if both else others
    return replace(effect, lanes=lanes), replace(ride, points=tuple(within))


def _order(at: Position) -> float:
    """Positions of one lane are all in beats or all in seconds."""
    return at.beat if at.beat is not None else (at.seconds or 0.0)


def thinned(frames: Floats, values: Floats, parameter: Parameter) -> list[int]:
    """Which points of a curve are enough for it, 0.05 % of the parameter's range off; up to 0.5 % if there are too many.

    Ramer 1972; Douglas and Peucker 1973.
    """
    shares = np.array([parameter.to_fraction(value) for value in values.tolist()])
    tolerance = FINEST
    while True:
        kept = _enough(frames, shares, tolerance)
        if len(kept) <= MOST_POINTS // 4 or tolerance >= COARSEST:
            return kept
        tolerance = min(COARSEST, 2.0 * tolerance)


def _enough(frames: Floats, shares: Floats, tolerance: float) -> list[int]:
    kept, spans = {0, len(frames) - 1}, [(0, len(frames) - 1)]
    while spans:
        first, last = spans.pop()
        if last - first < 2:
            continue
        inner = slice(first + 1, last)
        straight = np.interp(frames[inner], frames[[first, last]], shares[[first, last]])
        off = np.abs(shares[inner] - straight)
        worst = first + 1 + int(np.argmax(off))
        if off.max() > tolerance:
            kept.add(worst)
            spans += [(first, worst), (worst, last)]
    return sorted(kept)


def muted(stages: Stages, ident: str, on: bool) -> Stages:
    """A take switched off or on, its rides with it."""
    take = _find(stages, ident)
    if take is None or take.on == on:
        return stages
    stages, rides = _with_rides_swapped(stages, take)
    return _with_takes(
        stages, [replace(take, on=on, rides=rides) if t.id == ident else t for t in stages.moments.takes]
    )


def deleted(stages: Stages, ident: str) -> Stages:
    """Without a take, its moves and its rides."""
    take = _find(stages, ident)
    if take is None:
        return stages
    if take.on:
        stages, _ = _with_rides_swapped(stages, take)
    placed = tuple(m for m in stages.moments.placed if not (isinstance(m, Held) and m.take == ident))
    stages = replace(stages, moments=replace(stages.moments, placed=placed))
    return _with_takes(stages, [take for take in stages.moments.takes if take.id != ident])


def merged(stages: Stages, idents: Sequence[str]) -> Stages:
    """Several takes as the first of them; all are switched on."""
    for ident in idents:
        stages = muted(stages, ident, True)
    takes = [take for take in stages.moments.takes if take.id in idents]
    if len(takes) < 2:
        return stages
    first = replace(takes[0], rides=tuple(ride for take in takes for ride in take.rides))
    placed = tuple(
        replace(m, take=first.id) if isinstance(m, Held) and m.take in idents else m for m in stages.moments.placed
    )
    stages = replace(stages, moments=replace(stages.moments, placed=placed))
    kept = [first if take.id == first.id else take for take in stages.moments.takes]
    return _with_takes(stages, [take for take in kept if take.id == first.id or take.id not in idents])


def quantised(move: Held, value: str, strength: float, grid: Grid | None) -> Held:
    """A move whose start lies nearer to the grid of a note value, by a strength of 0 to 1; its length stays, and so does a repeat's slice."""
    if grid is None:
        return move
    start, end = (float(grid.number_at(place.at(grid))) for place in (move.start, move.end))
    step = beats_of(value)
    moved = strength * (round(start / step) * step - start)
    if start + moved < float(grid.number_at(0.0)):
        return move
    changed = replace(move, start=Position(beat=start + moved), end=Position(beat=end + moved))
    if isinstance(changed, HeldRepeat):
        length = changed.slice_ms / 1000.0 / grid.beat_seconds if changed.free else beats_of(changed.value)
        changed = replace(changed, back=max(0.0, changed.back + moved / length))
    return changed


def _find(stages: Stages, ident: str) -> Take | None:
    return next((take for take in stages.moments.takes if take.id == ident), None)


def _with_takes(stages: Stages, takes: list[Take]) -> Stages:
    return replace(stages, moments=replace(stages.moments, takes=tuple(takes)))


def _with_rides_swapped(stages: Stages, take: Take) -> tuple[Stages, tuple[Ride, ...]]:
    """The lanes as they are with a take's rides the other way; the last ride first, as they may lie over each other."""
    rides: list[Ride] = []
    for ride in reversed(take.rides) if take.on else take.rides:
        effect = stages.colour.find(ride.effect)
        if effect is not None:
            effect, ride = _swapped(effect, ride)
            stages = replace(stages, colour=stages.colour.with_changed(effect))
        rides.append(ride)
    return stages, tuple(reversed(rides) if take.on else rides)
