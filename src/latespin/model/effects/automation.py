"""Automation of an effect: points on the song's bars with curved segments between them."""

import math
from bisect import bisect_right
from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_time import ease_down, ease_down_at
from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.timing.positions import Position
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct, parameters_of

MOST_POINTS = 2000
#: What is not a value at a moment: which noise it is, how a layer begins, ends and comes round, and where bands meet.
FIXED = frozenset(
    {"seed", "fade_in_seconds", "fade_out_seconds", "crossfade_seconds", "low_crossover_hz", "high_crossover_hz"}
)
#: What bends the pitch as it moves, and takes its time, so that a jump is not a chirp.
GLIDING = frozenset(
    {"size_percent", "pre_delay_ms", "start_degrees", "delay_ms", "rate_hz", "depth_cents", "drift_cents", "wow_percent",
     "flutter_percent", "wear_percent", "rate_percent", "sway_percent"}
)  # fmt: skip


class LanePoint(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """At a place of the song a field has a value; ``tension`` bends the way to the next point, as that of a tape stop."""

    at: Position
    value: float
    tension: Annotated[float, p.TENSION] = 0.0


class Lane(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The values of one field, by its name, over the song. Before the first point and after the last it stays as there.

    played : recorded from a knob, so that the level is kept as it was kept then, when nobody knew what was to come.
    """

    field: str
    points: tuple[LanePoint, ...]
    played: bool = False


def check_lanes(lanes: tuple[Lane, ...], kind: type[Any]) -> None:
    """Raise Unusable or OutOfRange unless each lane's field is a number of its kind that can move, its values within the limits."""
    fields = [lane.field for lane in lanes]
    for lane in lanes:
        if not can_move(kind, lane.field):
            can = ", ".join(name for name in parameters_of(kind) if can_move(kind, name))
            raise Unusable(tr("“{0}” cannot change over the song here; these can: {1}.").format(lane.field, can))
        if fields.count(lane.field) > 1:
            raise Unusable(tr("“{0}” has two lanes; give it one.").format(lane.field))
        if not 1 <= len(lane.points) <= MOST_POINTS:
            raise Unusable(
                tr("The lane of “{0}” has {1} points; it can have 1 to {2}.").format(
                    lane.field, len(lane.points), MOST_POINTS
                )
            )
        for point in lane.points:
            parameters_of(kind)[lane.field].check(lane.field, point.value)


def can_move(kind: type[Any], field: str) -> bool:
    """Whether a number of a kind of effect can change over the song."""
    return field in parameters_of(kind) and field not in FIXED


@dataclass(frozen=True)
class Way:
    """A lane laid on a version: values at frames of After, in order.

    logarithmic : whether equal ratios take equal times.  short : segments up to this many frames begin and end level, as a smoothed jump.
    """

    frames: tuple[float, ...]
    values: tuple[float, ...]
    tensions: tuple[float, ...]
    logarithmic: bool = False
    short: float = 0.0

    def value(self, frame: float) -> float:
        """The value at a frame."""
        if frame <= self.frames[0]:
            return self.values[0]
        if frame >= self.frames[-1]:
            return self.values[-1]
        after = bisect_right(self.frames, frame)
        start, stop, first, last = (
            self.frames[after - 1],
            self.frames[after],
            self.values[after - 1],
            self.values[after],
        )
        x = (frame - start) / max(1e-9, stop - start)
        left = (
            0.5 + 0.5 * math.cos(math.pi * x)
            if stop - start <= self.short
            else ease_down_at(x, self.tensions[after - 1])
        )
        if self.logarithmic:
            return float(last * (first / last) ** left)
        return last + left * (first - last)

    def at(self, frames: Floats) -> Floats:
        """The values at frames."""
        knots, values = np.array(self.frames), np.array(self.values)
        if len(knots) == 1:
            return np.full(len(frames), values[0])
        if self.logarithmic:
            values = np.log(values)
        segment = np.clip(np.searchsorted(knots, frames, side="right") - 1, 0, len(knots) - 2)
        span = np.maximum(1e-9, knots[segment + 1] - knots[segment])
        x = np.clip((frames - knots[segment]) / span, 0.0, 1.0)
        left = np.empty(len(frames))
        for number in np.unique(segment).tolist():
            there = segment == number
            brief = knots[number + 1] - knots[number] <= self.short
            left[there] = 0.5 + 0.5 * np.cos(np.pi * x[there]) if brief else ease_down(x[there], self.tensions[number])
        found = values[segment + 1] + left * (values[segment] - values[segment + 1])
        return np.asarray(np.exp(found) if self.logarithmic else found)


def opened(start: Position, end: Position, amount: float, *_: Position) -> Lane:
    """All of an amount up to ``start``, less and less, and none from ``end`` on."""
    points = (LanePoint(at=start, value=amount, tension=0.1), LanePoint(at=end, value=0.0))
    return Lane(field="amount_percent", points=points)


def dipped(start: Position, end: Position, amount: float, full: Position, fade: Position) -> Lane:
    """None of an amount before ``start`` and after ``end``, all of it from ``full`` to ``fade``."""
    values = ((start, 0.0), (full, amount), (fade, amount), (end, 0.0))
    return Lane(field="amount_percent", points=tuple(LanePoint(at=at, value=value) for at, value in values))
