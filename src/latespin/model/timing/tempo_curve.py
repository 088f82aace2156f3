"""Tempo curves: factors of the speed along the song."""

import itertools
from typing import Annotated, Literal

import numpy as np
from msgspec.structs import replace

from latespin.errors import Unusable
from latespin.language import localised, tr
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct

Shape = Literal["straight", "smooth"]
SMOOTH_PIECES = 16


class CurvePoint(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """At a place (0 the song's start, 1 its end) the speed is multiplied by ``speed``; ``shape`` is the way to the next."""

    place: Annotated[float, p.PLACE]
    speed: Annotated[float, p.SPEED]
    shape: Shape = "straight"


#: Points in order of place; level outside them; two at one place make a step; none leave the speed alone.
Curve = tuple[CurvePoint, ...]


LEVEL: Curve = (CurvePoint(place=0.0, speed=1.0), CurvePoint(place=1.0, speed=1.0))


def check_curve(curve: Curve) -> None:
    """Raise Unusable unless the points are in order, at most two to a place."""
    for earlier, later in itertools.pairwise(curve):
        if later.place < earlier.place:
            raise Unusable(
                tr("The speed curve goes back from {0} to {1}; put its points in order of place.").format(
                    localised(f"{earlier.place:g}"), localised(f"{later.place:g}")
                )
            )
    for first, _, third in zip(curve, curve[1:], curve[2:], strict=False):
        if first.place == third.place:
            raise Unusable(
                tr("The speed curve has three points at {0}; it can have two, which make a step.").format(
                    localised(f"{first.place:g}")
                )
            )


def extremes(curve: Curve) -> tuple[float, float]:
    """Lowest and highest factor."""
    speeds = [point.speed for point in curve] or [1.0]
    return min(speeds), max(speeds)


def straightened(curve: Curve) -> Curve:
    """The same with its smooth ways made of short straight ones."""
    points: list[CurvePoint] = []
    for point, following in itertools.zip_longest(curve, curve[1:]):
        points.append(CurvePoint(place=point.place, speed=point.speed))
        if following is not None and point.shape == "smooth" and following.place > point.place:
            points += _smooth_way(point, following)
    return tuple(points)


def _smooth_way(a: CurvePoint, b: CurvePoint) -> list[CurvePoint]:
    """Points between two along a smooth step."""
    x = np.arange(1, SMOOTH_PIECES) / SMOOTH_PIECES
    places = a.place + x * (b.place - a.place)
    speeds = a.speed + x * x * (3.0 - 2.0 * x) * (b.speed - a.speed)
    return [CurvePoint(place=at, speed=v) for at, v in zip(places.tolist(), speeds.tolist(), strict=True)]


def factor_at(curve: Curve, place: float) -> float:
    """The factor at a place, after the step where there is one."""
    if not curve:
        return 1.0
    points = straightened(curve)
    if place < points[0].place:
        return points[0].speed
    at = max(i for i, point in enumerate(points) if point.place <= place)
    if at + 1 == len(points):
        return points[at].speed
    a, b = points[at], points[at + 1]
    return a.speed + (b.speed - a.speed) * (place - a.place) / (b.place - a.place)


def between(curve: Curve, start: float, stop: float) -> Curve:
    """The part of the curve between two places, with points at both."""
    points = straightened(curve or LEVEL)
    inside = [point for point in points if start < point.place < stop]
    first, last = factor_at(points, start), _factor_before(points, stop)
    return (CurvePoint(place=start, speed=first), *inside, CurvePoint(place=stop, speed=last))


def scaled_between(curve: Curve, start: float, stop: float, factor: float) -> Curve:
    """The curve multiplied by a factor between two places and left alone elsewhere. Raises OutOfRange for speeds."""
    points = straightened(curve or LEVEL)
    before = [point for point in points if point.place < start]
    after = [point for point in points if point.place > stop]
    if start > 0.0:
        before.append(CurvePoint(place=start, speed=_factor_before(points, start)))
    if stop < 1.0:
        after.insert(0, CurvePoint(place=stop, speed=factor_at(points, stop)))
    changed = (replace(point, speed=point.speed * factor) for point in between(points, start, stop))
    return (*before, *changed, *after)


def _factor_before(curve: Curve, place: float) -> float:
    """The factor at a place, before the step where there is one."""
    earlier = [point for point in curve if point.place < place]
    here = [point for point in curve if point.place == place]
    return here[0].speed if here else factor_at(tuple(earlier) + curve[len(earlier) :], place)


def added(curve: Curve, place: float, speed: float | None = None) -> Curve:
    """The curve with one more point, on it unless a factor is given; a first one brings both ends along."""
    points = curve or LEVEL
    if any(abs(point.place - place) < 1e-6 for point in points):
        return points
    shape: Shape = next((point.shape for point in reversed(points) if point.place < place), "straight")
    point = CurvePoint(place=place, speed=speed or factor_at(points, place), shape=shape)
    return tuple(sorted([*points, point], key=lambda p: p.place))


def removed(curve: Curve, which: int) -> Curve:
    """The curve without a point; None if the rest leaves the speed unchanged."""
    left = tuple(point for i, point in enumerate(curve) if i != which)
    return left if any(point.speed != 1.0 for point in left) or len(left) > 2 else ()


def with_end(curve: Curve, which: Literal["start", "end"], factor: float) -> Curve:
    """The curve with another factor at the song's start or end."""
    points = list(curve or LEVEL)
    if which == "start" and points[0].place > 0.0:
        points.insert(0, replace(points[0], place=0.0))
    if which == "end" and points[-1].place < 1.0:
        points.append(replace(points[-1], place=1.0))
    at = 0 if which == "start" else -1
    points[at] = replace(points[at], speed=factor)
    return tuple(points)
