"""What the colours of a version are made in: its rate, its clock, what the song is like, the files they may need."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import Profile
from latespin.dsp.amounts import Amount
from latespin.model.clock import Clock
from latespin.model.effects import AnyEffect, Effect
from latespin.model.lanes import Lane, LanePoint, Way
from latespin.model.parameters import parameters_of
from latespin.model.timemap import TimeMap
from latespin.render.sounds import Sounds

KEPT_LEVELS = 32
SHORTEST_SECONDS = 0.012  # of a way from one value to another


@dataclass(frozen=True, eq=False)
class Setting:
    """profile : of the music before any colour, worked out when it is first asked for.  frames : how long the music of After is."""

    rate: int
    clock: Clock
    sounds: Sounds
    frames: int
    find_profile: Callable[[], Profile]
    has_profile: Callable[[], bool]

    @cached_property
    def profile(self) -> Profile:
        """What the music is like before any colour."""
        return self.find_profile()

    @cached_property
    def kept_levels(self) -> dict[Effect, tuple[Profile, Amount, Profile]]:
        """What keeps the level of colours lately made: the profile before each, its gain, the profile after it."""
        return {}

    def keep_level(self, effect: Effect, kept: tuple[Profile, Amount, Profile]) -> None:
        """Keep that for a while."""
        while len(self.kept_levels) >= KEPT_LEVELS:
            self.kept_levels.pop(next(iter(self.kept_levels)), None)
        self.kept_levels[effect] = kept

    @property
    def known_profile(self) -> Profile | None:
        """The profile if it has been worked out; None where it would have to be."""
        return self.profile if self.has_profile() else None


def laid(lane: Lane, clock: Clock) -> tuple[Way, list[LanePoint]]:
    """A lane on the frames of After, and its points that cannot be placed: before the one before them, or past the song's end."""
    kept: list[tuple[float, LanePoint]] = []
    left: list[LanePoint] = []
    last = -1.0
    for point in lane.points:
        frame = frame_of(point, clock.map, clock)
        if frame is None or frame < last:
            left.append(point)
            continue
        least = last + SHORTEST_SECONDS * clock.rate if kept else 0.0
        last = frame
        kept.append((max(frame, least), point))
    if not kept:
        kept = [(0.0, lane.points[0])]
    frames, points = zip(*kept, strict=True)
    return Way(frames, tuple(p.value for p in points), tuple(p.tension for p in points)), left


def frame_of(point: LanePoint, made: TimeMap, clock: Clock) -> float | None:
    """The frame of After at which a point lies; None past the song's end or where it has no bars."""
    seconds = point.at.seconds_in(clock.grid)
    if seconds is None or seconds * clock.rate > made.before_frames + 0.001 * clock.rate:
        return None
    return max(0.0, float(made.after_at(max(0.0, seconds) * clock.rate)))


def amount_of(effect: Effect, clock: Clock) -> Amount:
    """How much of a colour is heard, 0 to 1."""
    lane = next((lane for lane in effect.lanes if lane.field == "amount_percent"), None)
    if lane is None:
        return Amount(effect.amount_percent / 100.0)  # type: ignore[attr-defined]
    way = laid(lane, clock)[0]
    if len(set(way.values)) == 1:
        return Amount(way.values[0] / 100.0)
    return Amount(lambda frames: way.at(frames) / 100.0)


class Moving:
    """A colour whose controls change over the song: what it is at a frame."""

    def __init__(self, effect: AnyEffect, clock: Clock) -> None:
        self._effect = effect
        self._ways = {lane.field: laid(lane, clock)[0] for lane in effect.lanes if lane.field != "amount_percent"}

    @property
    def steady(self) -> bool:
        """Whether none of them does."""
        return not self._ways

    def at(self, frame: int) -> AnyEffect:
        """The colour as it is there."""
        here = np.array([float(frame)])
        return self._with({name: float(way.at(here)[0]) for name, way in self._ways.items()})

    def largest(self) -> AnyEffect:
        """The colour with each moving control at its highest."""
        return replace(
            self._with({name: max(way.values) for name, way in self._ways.items()}), lanes=self._effect.lanes
        )

    def _with(self, values: dict[str, float]) -> AnyEffect:
        declared = parameters_of(type(self._effect))
        kept = {name: declared[name].clamp(value) for name, value in values.items()}
        return replace(self._effect, lanes=(), **kept)
