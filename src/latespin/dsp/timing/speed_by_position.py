"""Speed as a function of position: which position of a song sounds when.

Between two knots the speed changes evenly *from place to place*. Time is then the integral of 1/speed over places, which
has a closed form: with slope k = dv/dp, places grow as p(t) = p₀ + v₀ (e^{kt} − 1)/k and times as t(p) = ln(1 + k(p − p₀)/v₀)/k.
"""

import bisect
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.piecewise import PiecewiseSpeed, Segment

LEAST_FRAMES = 1e-3  # less than that is no way to go: its slope would be lost in rounding


@dataclass(frozen=True)
class SpeedByPosition(PiecewiseSpeed):
    """Pieces in order of time, which is also the order of places. Times and places in frames, speeds above 0.

    The last piece goes on for ever; before the first one its speed holds.
    """

    @classmethod
    def steady(cls, speed: float) -> "SpeedByPosition":
        """One speed throughout, place 0 at time 0."""
        return cls((Segment(0.0, 0.0, speed, 0.0),))

    @classmethod
    def through(cls, places: Sequence[float], speeds: Sequence[float]) -> "SpeedByPosition":
        """Speeds at places, straight between them and level outside; place 0 at time 0.

        places : ascending; two that are less than ``LEAST_FRAMES`` apart make a step.
        """
        pieces = [Segment(0.0, 0.0, speeds[0], 0.0)]
        for (p0, v0), (p1, v1) in zip(
            zip(places, speeds, strict=True), zip(places[1:], speeds[1:], strict=True), strict=False
        ):
            if p1 - p0 >= LEAST_FRAMES:
                pieces.append(Segment(_time_at(pieces[-1], p0), p0, v0, (v1 - v0) / (p1 - p0)))
        pieces.append(Segment(_time_at(pieces[-1], places[-1]), places[-1], speeds[-1], 0.0))
        return cls(tuple(pieces))

    def before_at(self, after: ArrayLike) -> Floats:
        """The places that sound at times."""
        after = np.asarray(after, dtype=np.float64)
        if self._even:
            return np.asarray(self.pieces[0].before + self.pieces[0].speed * (after - self.pieces[0].after))
        start, place, speed, slope = self._pieces_at(after, 0)
        t = after - start
        return np.asarray(place + speed * t * _over(np.expm1, slope * t))

    def place_at(self, after: float) -> float:
        """As :meth:`before_at` for one time, far quicker."""
        piece, slope = self._piece_at(after)
        t = after - piece.after
        x = slope * t
        return piece.before + piece.speed * t * (math.expm1(x) / x if abs(x) >= 1e-12 else 1.0)

    def speed_at(self, after: ArrayLike) -> Floats:
        """The speeds at times: places for every frame of time."""
        after = np.asarray(after, dtype=np.float64)
        start, _, speed, slope = self._pieces_at(after, 0)
        return np.asarray(speed * np.exp(slope * (after - start)))

    def after_at(self, before: ArrayLike) -> Floats:
        """The times at which places sound."""
        before = np.asarray(before, dtype=np.float64)
        if self._even:
            return np.asarray(self.pieces[0].after + (before - self.pieces[0].before) / self.pieces[0].speed)
        start, place, speed, slope = self._pieces_at(before, 1)
        way = (before - place) / speed
        return np.asarray(start + way * _over(np.log1p, slope * way))

    def slower(self, ratio: float) -> "SpeedByPosition":
        """The same taking ``ratio`` times as long."""
        return SpeedByPosition(
            tuple(Segment(p.after * ratio, p.before, p.speed / ratio, p.slope / ratio) for p in self.pieces)
        )

    def magnified(self, ratio: float, about: float = 0.0) -> "SpeedByPosition":
        """The same with all distances from a place multiplied by ``ratio``."""
        return SpeedByPosition(
            tuple(Segment(p.after, about + (p.before - about) * ratio, p.speed * ratio, p.slope) for p in self.pieces)
        )

    def since(self, after: float) -> "SpeedByPosition":
        """The same with its time counted from ``after`` on."""
        return self.divided([after])[0]

    def divided(self, times: Sequence[float]) -> list["SpeedByPosition"]:
        """The course from each of some ascending times to the next, its time counted from there; the last one goes on."""
        at = np.asarray(times, dtype=np.float64)
        places, speeds, slopes = self.before_at(at), self.speed_at(at), self._pieces_at(at, 0)[3]
        starts = [piece.after for piece in self.pieces]
        stops = [*times[1:], np.inf][: len(times)]
        courses = []
        for start, stop, *first in zip(times, stops, places.tolist(), speeds.tolist(), slopes.tolist(), strict=True):
            later = self.pieces[bisect.bisect_right(starts, start) : bisect.bisect_left(starts, stop)]
            courses.append(
                SpeedByPosition(
                    (Segment(0.0, *first), *(Segment(p.after - start, p.before, p.speed, p.slope) for p in later))
                )
            )
        return courses


def _time_at(piece: Segment, place: float) -> float:
    way = (place - piece.before) / piece.speed
    return piece.after + way * float(_over(np.log1p, np.asarray(piece.slope * way)))


def _over(function: "np.ufunc", x: Floats) -> Floats:
    """``function(x) / x``, 1 where x is 0."""
    small = np.abs(x) < 1e-12
    safe = np.where(small, 1.0, x)
    return np.asarray(np.where(small, 1.0, function(safe) / safe))
