"""Where held moves read the finished sound: as legs, stretches along which the speed changes evenly."""

import math
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.stretching.varispeed import HALF_WIDTH, read_along
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.moments.held import HeldMaterial

HISTORY_SECONDS = 8.0
MARGIN = HALF_WIDTH + 2  # frames around a place that have a say in what is read there


class Sound(Protocol):
    """The finished sound, by frame."""

    def __call__(self, start: int, frames: int) -> Audio:
        """``[2, frames]`` from a frame on, silent where there is nothing."""
        raise NotImplementedError


@dataclass(frozen=True)
class Leg:
    """From frame ``start`` to ``stop`` (None: without an end), frame ``place`` and those after it are read.

    speed, slope : frames for each frame, at the start, and by how much that grows with each.  drums : only the drums come from there.
    """

    start: int
    place: float
    speed: float = 1.0
    slope: float = 0.0
    stop: int | None = None
    silent: bool = False
    drums: bool = False

    def moved(self, frames: int) -> "Leg":
        """The same leg, later by ``frames``."""
        stop = None if self.stop is None else self.stop + frames
        return replace(self, start=self.start + frames, stop=stop) if frames else self

    def place_at(self, frame: int) -> float:
        """The place that is read at a frame."""
        passed = frame - self.start
        return self.place + passed * (self.speed + 0.5 * self.slope * passed)

    def continues(self, earlier: "Leg") -> bool:
        """Whether it carries on what an earlier leg plays, without a jump."""
        if self.silent or earlier.silent:
            return self.silent and earlier.silent
        speed = earlier.speed + earlier.slope * (self.start - earlier.start)
        same_kind = self.drums == earlier.drums and abs(speed - self.speed) < 1e-6
        return same_kind and abs(earlier.place_at(self.start) - self.place) < 1e-3

    def read(self, sound: Sound, first: int, frames: int) -> Audio:
        """What it plays from frame ``first`` on, ``[2, frames]``."""
        if self.silent:
            return np.zeros((2, frames), np.float32)
        place = self.place_at(first)
        if self.slope == 0.0 and abs(self.speed) == 1.0 and place == int(place):
            if self.speed > 0.0:
                return sound(int(place), frames)
            return np.ascontiguousarray(sound(int(place) - frames + 1, frames)[:, ::-1])
        return self._between(sound, first, frames)

    def _between(self, sound: Sound, first: int, frames: int) -> Audio:
        passed = np.arange(first - self.start, first - self.start + frames, dtype=np.float64)
        places = self.place + passed * (self.speed + 0.5 * self.slope * passed)
        speeds: Floats = np.abs(self.speed + self.slope * passed)
        low = int(np.floor(places.min())) - MARGIN
        span = sound(low, int(np.ceil(places.max())) + MARGIN - low)
        return read_along(span, places - low, speeds)


class Course(Protocol):
    """What a move reads: a leg for each frame, given the frame at which the move began."""

    def leg_at(self, frame: int) -> Leg:
        """The leg that begins at a frame, or goes on there."""
        raise NotImplementedError

    @property
    def earliest(self) -> int:
        """The earliest frame it reads."""
        raise NotImplementedError


@dataclass(frozen=True)
class Straight:
    """The song itself."""

    earliest: int = 0

    def leg_at(self, frame: int) -> Leg:
        """The frame itself."""
        return Leg(frame, float(frame))


@dataclass(frozen=True)
class Repeating:
    """Frames ``first`` to ``first + length`` go round, in step with where they were."""

    first: int
    length: int
    material: HeldMaterial = "song"

    @property
    def earliest(self) -> int:
        """The slice’s first frame."""
        return self.first

    def leg_at(self, frame: int) -> Leg:
        """From there to the end of the slice."""
        within = (frame - self.first) % self.length
        stop = frame + self.length - within
        return Leg(frame, float(self.first + within), stop=stop, drums=self.material == "drums")


@dataclass(frozen=True)
class Reversed:
    """Backwards from frame ``began``, as far as the history goes."""

    began: int
    reach: int

    @property
    def earliest(self) -> int:
        """As far back as it can go."""
        return self.began - self.reach

    def leg_at(self, frame: int) -> Leg:
        """Backwards, then silence."""
        passed = frame - self.began
        if passed >= self.reach:
            return Leg(frame, 0.0, silent=True)
        return Leg(frame, float(self.began - 1 - passed), -1.0, stop=self.began + self.reach)


@dataclass(frozen=True)
class _Begun:
    """Reads nothing before frame ``began``."""

    began: int

    @property
    def earliest(self) -> int:
        """Where it began."""
        return self.began


@dataclass(frozen=True)
class Slowing(_Begun):
    """To a standstill within ``length`` frames of ``began``."""

    length: int

    def leg_at(self, frame: int) -> Leg:
        """Slowing, then silence."""
        if frame >= self.began + self.length:
            return Leg(frame, 0.0, silent=True)
        whole = Leg(self.began, float(self.began), 1.0, -1.0 / self.length)
        speed = 1.0 - (frame - self.began) / self.length
        return Leg(frame, whole.place_at(frame), speed, whole.slope, stop=self.began + self.length)


@dataclass(frozen=True)
class Rising(_Begun):
    """From a standstill to full speed within ``length`` frames of ``began``, and on behind the song."""

    length: int

    def leg_at(self, frame: int) -> Leg:
        """Rising, then full speed."""
        whole = Leg(self.began, float(self.began), 0.0, 1.0 / self.length)
        if frame >= self.began + self.length:
            late = round(0.5 * self.length)
            return Leg(frame, float(frame - late))
        speed = (frame - self.began) / self.length
        return Leg(frame, whole.place_at(frame), speed, whole.slope, stop=self.began + self.length)


@dataclass(frozen=True)
class AlongClock:
    """The song as fast as its clock goes, which a move moves: frame ``song`` and what follows along ``bend``, from output frame ``began`` on."""

    began: int
    song: int
    bend: SpeedByTime

    @property
    def earliest(self) -> int:
        """Where it began."""
        return self.song

    def song_at(self, output: int) -> float:
        """The song's frame at a frame of the output."""
        return self.song + self.bend.place_at(float(output - self.began))

    def leg_at(self, output: int) -> Leg:
        """The piece of the bend there; a standstill is silent. Frames are those of the output."""
        passed = float(output - self.began)
        later = [piece.after for piece in self.bend.pieces if piece.after > passed]
        stop = None if not later else self.began + max(output - self.began + 1, math.ceil(later[0] - 1e-9))
        here = next(piece for piece in reversed(self.bend.pieces) if piece.after <= passed)
        speed = here.speed + here.slope * (passed - here.after)
        if speed <= 0.0 and here.slope <= 0.0:
            return Leg(output, 0.0, silent=True, stop=stop)
        return Leg(output, self.song_at(output), speed, here.slope, stop=stop)


@dataclass(frozen=True)
class Silent(_Begun):
    """Nothing."""

    def leg_at(self, frame: int) -> Leg:
        """Silence."""
        return Leg(frame, 0.0, silent=True)
