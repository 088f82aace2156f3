"""The context of a version's effects: rate, beat clock, song profile and sound files."""

from collections.abc import Callable
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Floats
from latespin.dsp.control.automation import Automation
from latespin.model.effects.automation import GLIDING, Lane, LanePoint, Way
from latespin.model.effects.declaration import Effect
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.moments import Stutter
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.timing.time_map import TimeMap
from latespin.model.values.parameters import parameters_of
from latespin.render.effects.live_lane import LiveLane
from latespin.render.effects.sound_files import SoundLibrary

KEPT_LEVELS = 32
USUAL_PLACES = 64
MOST_PLACES, WAY_PLACES, VALUES = (
    256,
    8,
    64,
)  # where gains are looked at in a song, on each way at most; and values told apart
SUM_STEP = 128.0  # frames between which what is summed up over the song is a straight line
SHORTEST_SECONDS, SHORTEST_GLIDE_SECONDS = (
    0.03,
    0.3,
)  # of a way from one value to another, and of one that bends the pitch


@dataclass(frozen=True, eq=False)
class EffectContext:
    """profile : of the music before any effect, worked out when it is first asked for.  frames : how long the music of After is.

    unclear_drums : stutters of the drums alone that have been rendered, and whose drums hardly stand out from the rest.
    """

    rate: int
    clock: BeatClock
    sounds: SoundLibrary
    frames: int
    find_profile: Callable[[], Profile]
    has_profile: Callable[[], bool]
    unclear_drums: AbstractSet[Stutter] = frozenset()

    @cached_property
    def profile(self) -> Profile:
        """Profile of the music before any effect."""
        return self.find_profile()

    @cached_property
    def kept_levels(self) -> dict[Effect, tuple[Profile, Automation, Profile]]:
        """Level compensation of recent effects: the profile before each, its gain, and the profile after it."""
        return {}

    def keep_level(self, effect: Effect, kept: tuple[Profile, Automation, Profile]) -> None:
        """Keep that for a while."""
        while len(self.kept_levels) >= KEPT_LEVELS:
            self.kept_levels.pop(next(iter(self.kept_levels)), None)
        self.kept_levels[effect] = kept

    @property
    def known_profile(self) -> Profile | None:
        """The profile if it has been worked out; None where it would have to be."""
        return self.profile if self.has_profile() else None


def lane_shape(effect: Effect, lane: Lane, clock: BeatClock) -> tuple[Way, list[LanePoint]]:
    """A lane on the frames of After, and its points that cannot be placed: before the one before them, or past the song's end."""
    if isinstance(lane, LiveLane):
        return lane.way, []
    kept: list[tuple[float, LanePoint]] = []
    left: list[LanePoint] = []
    last = -1.0
    shortest = SHORTEST_GLIDE_SECONDS if lane.field in GLIDING else SHORTEST_SECONDS
    for point in lane.points:
        frame = frame_of(point, clock.map, clock)
        if frame is None or frame < last:
            left.append(point)
            continue
        least = last + shortest * clock.rate if kept else 0.0
        last = frame
        kept.append((max(frame, least), point))
    if not kept:
        kept = [(0.0, lane.points[0])]
    frames, points = zip(*kept, strict=True)
    values, tensions = tuple(p.value for p in points), tuple(p.tension for p in points)
    logarithmic = parameters_of(type(effect))[lane.field].logarithmic
    return Way(frames, values, tensions, logarithmic, (shortest + 0.001) * clock.rate), left


def frame_of(point: LanePoint, made: TimeMap, clock: BeatClock) -> float | None:
    """The frame of After at which a point lies; None past the song's end."""
    seconds = point.at.seconds_or_even(clock.grid)
    if seconds * clock.rate > made.before_frames + 0.001 * clock.rate:
        return None
    return max(0.0, float(made.after_at(max(0.0, seconds) * clock.rate)))


def control_of(effect: Effect, field: str, clock: BeatClock) -> Automation:
    """A number of an effect over the song."""
    lane = next((lane for lane in effect.lanes if lane.field == field), None)
    if lane is None:
        return Automation(float(getattr(effect, field)))
    way = lane_shape(effect, lane, clock)[0]
    return Automation(way.values[0]) if len(set(way.values)) == 1 else Automation(way.at)


def amount_of(effect: Effect, clock: BeatClock) -> Automation:
    """Weight of an effect over the song, 0 to 1."""
    return control_of(effect, "amount_percent", clock).through(lambda percent: percent / 100.0)


def lane_values(effect: Effect, field: str) -> list[float]:
    """A number of an effect over the song: its automation, or its fixed value."""
    found = [point.value for lane in effect.lanes if lane.field == field for point in lane.points]
    return found or [float(getattr(effect, field))]


def gone_through(
    effect: Effect, field: str, context: EffectContext, clock: Callable[[Floats], Floats]
) -> Callable[[Floats], Floats]:
    """Periods elapsed at frames. The period is a number of the effect, in the unit of ``clock``."""
    period = control_of(effect, field, context.clock)
    if period.steady is not None:
        length = period.steady
        return lambda frames: clock(frames) / length
    knots = _knots(context)
    middles = 0.5 * (knots[1:] + knots[:-1])
    return _joined(
        knots, clock(knots[:1]) / period.at_places(knots[:1]), np.diff(clock(knots)) / period.at_places(middles)
    )


def summed(effect: Effect, field: str, context: EffectContext) -> Callable[[Floats], Floats]:
    """The phase in cycles at frames, of a rate in Hz that is a field of the effect."""
    often = control_of(effect, field, context.clock)
    if often.steady is not None:
        each = often.steady / context.rate
        return lambda frames: frames * each
    knots = _knots(context)
    middles = 0.5 * (knots[1:] + knots[:-1])
    return _joined(knots, np.zeros(1), np.diff(knots) / context.rate * often.at_places(middles))


def _knots(context: EffectContext) -> Floats:
    """Places over the whole song close enough for a sum over what changes between its bars."""
    return np.arange(0.0, context.frames + 2.0 * SUM_STEP, SUM_STEP)


def _joined(knots: Floats, first: Floats, steps: Floats) -> Callable[[Floats], Floats]:
    """Cumulative sum of steps from knot to knot, extrapolated linearly at both ends."""
    values = np.concatenate((first, first + np.cumsum(steps)))
    before, after = steps[0] / SUM_STEP, steps[-1] / SUM_STEP

    def at(frames: Floats) -> Floats:
        found = np.interp(frames, knots, values)
        return np.asarray(found + np.minimum(0.0, frames) * before + np.maximum(0.0, frames - knots[-1]) * after)

    return at


class AutomatedEffect:
    """An effect whose controls change over the song: what it is at a frame."""

    def __init__(self, effect: AnyEffect, clock: BeatClock) -> None:
        self._effect = effect
        self._played = {lane.field for lane in effect.lanes if lane.played}
        self._last: tuple[tuple[float, ...], AnyEffect] | None = None
        self._ways = {
            lane.field: lane_shape(effect, lane, clock)[0] for lane in effect.lanes if lane.field != "amount_percent"
        }

    @property
    def steady(self) -> bool:
        """Whether none of them does."""
        return not self._ways

    def at(self, frame: int) -> AnyEffect:
        """The effect as it is there; the same object as long as it stays the same."""
        values = tuple(way.value(float(frame)) for way in self._ways.values())
        if self._last is None or self._last[0] != values:
            self._last = values, self._with(dict(zip(self._ways, values, strict=True)))
        return self._last[1]

    def usual(self, frames: int) -> AnyEffect:
        """The effect with each moving control at its average over the song; one that was played at its own value."""
        places = np.linspace(0.0, float(max(1, frames)), USUAL_PLACES)
        means = {name: float(np.mean(w.at(places))) for name, w in self._ways.items() if name not in self._played}
        return replace(self._with(means), lanes=self._effect.lanes) if means else self._effect

    def along(self, frames: int) -> tuple[Floats, list[AnyEffect]]:
        """The effect at places of the song between which it may be taken to change evenly; at the ends of ways, and in their middles where those are few."""
        ends = np.unique([frame for way in self._ways.values() for frame in way.frames] + [0.0, float(max(1, frames))])
        places = np.sort(np.concatenate((ends, 0.5 * (ends[1:] + ends[:-1])))) if len(ends) < MOST_PLACES else ends
        columns = [way.at(places).tolist() for way in self._ways.values()]
        made: dict[tuple[float, ...], AnyEffect] = {}
        for values in zip(*columns, strict=True):
            rounded = tuple(float(f"{value:.3g}") for value in values)
            made.setdefault(rounded, self._with(dict(zip(self._ways, values, strict=True))))
        return places, [made[tuple(float(f"{value:.3g}") for value in values)] for values in zip(*columns, strict=True)]

    def sole(self) -> "SoleControl | None":
        """The control that changes, if it is the only one."""
        if len(self._ways) != 1:
            return None
        name, way = next(iter(self._ways.items()))
        parameter = parameters_of(type(self._effect))[name]
        limits = (parameter.low, parameter.high) if name in self._played else (min(way.values), max(way.values))
        return SoleControl(way, parameter.logarithmic, lambda value: self._with({name: value}), limits)

    @property
    def played(self) -> bool:
        """Whether any control but the amount was recorded from a knob."""
        return bool(self._played & self._ways.keys())

    def largest(self) -> AnyEffect:
        """The effect with each moving control at its highest."""
        return replace(
            self._with({name: max(way.values) for name, way in self._ways.items()}), lanes=self._effect.lanes
        )

    def _with(self, values: dict[str, float]) -> AnyEffect:
        declared = parameters_of(type(self._effect))
        kept = {name: declared[name].clamp(value) for name, value in values.items()}
        return replace(self._effect, lanes=(), **kept)


@dataclass(frozen=True)
class SoleControl:
    """The only control of an effect that changes over the song.  at_value : the effect with a value of it.  limits : of its values."""

    way: Way
    logarithmic: bool
    at_value: Callable[[float], AnyEffect]
    limits: tuple[float, float]

    def between_extremes(self, count: int) -> tuple[Floats, list[AnyEffect]]:
        """``count`` values from the lowest to the highest, on the scale of :meth:`scaled`, and the effect with each."""
        low, high = self._scaled(np.array(self.limits)).tolist()
        scale = np.linspace(low, high, count)
        values = np.exp(scale) if self.logarithmic else scale
        values[0], values[-1] = self.limits
        return scale, [self.at_value(value) for value in values.tolist()]

    def scaled(self, frames: Floats) -> Floats:
        """Its values at frames, on a scale on which it may be taken to change evenly."""
        return self._scaled(self.way.at(frames))

    def _scaled(self, values: Floats) -> Floats:
        return np.asarray(np.log(values) if self.logarithmic else values)
