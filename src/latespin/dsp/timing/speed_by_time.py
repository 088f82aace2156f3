"""Speed as a function of time: bends of the speed, like a motor that slows down or speeds up.

Between two knots the speed changes linearly *in time*, so positions are a parabola in time with a closed form in both directions.
The curves are one family of our own, chosen because its integral, its ends and its monotony are plain: from 1 down to 0 along
1 − x^p (holds on, then dives) or (1 − x)^p (falls at once, then lingers), p = 8^|tension|.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.piecewise import PiecewiseSpeed, Segment

KNOTS = 256
STEEPEST = 8.0
FIRST_STAGE_LEFT = 0.45  # of the speed, that the first of two stages leaves
SILENT_SPEED, HEARD_SPEED = 0.01, 0.05  # between them what is played too slowly to be heard as sound is faded


@dataclass(frozen=True)
class SpeedByTime(PiecewiseSpeed):
    """Pieces in order of time; places and times in frames of music. The first begins at time 0 or before, the last goes on.

    Speeds are 0 or more; a bend of one piece may go backwards at −1.
    """

    @classmethod
    def straight(cls, place: float, speed: float = 1.0) -> "SpeedByTime":
        """One speed throughout, ``place`` at time 0."""
        return cls((Segment(0.0, place, speed, 0.0),))

    @classmethod
    def through(cls, speeds: Floats, frames: float, place: float = 0.0, *, whole: bool = False) -> "SpeedByTime":
        """Speeds at evenly spaced times from 0 to ``frames``; before and after these the first and last hold.

        whole : scale the speeds, by less than half a frame in all, so that a whole number of frames is read.
        """
        step = frames / (len(speeds) - 1)
        read = float(np.sum(speeds[1:] + speeds[:-1])) * step / 2.0
        if whole and read > 0.5:
            speeds = speeds * (round(read) / read)
        places = place + np.concatenate(([0.0], np.cumsum((speeds[1:] + speeds[:-1]) * (step / 2.0))))
        pieces = []
        for i, (v0, v1) in enumerate(zip(speeds[:-1].tolist(), speeds[1:].tolist(), strict=True)):
            pieces.append(Segment(i * step, float(places[i]), v0, (v1 - v0) / step))
        pieces.append(Segment(frames, float(places[-1]), float(speeds[-1]), 0.0))
        return cls(tuple(pieces))

    def before_at(self, after: ArrayLike) -> Floats:
        """The places read at times."""
        time = np.asarray(after, dtype=np.float64)
        if self._even:
            return np.asarray(self.pieces[0].before + self.pieces[0].speed * (time - self.pieces[0].after))
        start, place, speed, slope = self._pieces_at(time, 0)
        t = time - start
        return np.asarray(place + t * (speed + 0.5 * slope * t))

    def place_at(self, after: float) -> float:
        """As :meth:`before_at` for one time, far quicker."""
        piece, slope = self._piece_at(after)
        t = after - piece.after
        return piece.before + t * (piece.speed + 0.5 * slope * t)

    def speed_at(self, after: ArrayLike) -> Floats:
        """Places for every frame of time, at times; negative where it goes backwards."""
        time = np.asarray(after, dtype=np.float64)
        start, _, speed, slope = self._pieces_at(time, 0)
        return np.asarray(speed + slope * (time - start))

    def after_at(self, before: ArrayLike) -> Floats:
        """The times at which places are read first; where it stands still for ever, places beyond are read when it stops."""
        place = np.asarray(before, dtype=np.float64)
        start, first, speed, slope = self._pieces_at(place, 1)
        way = place - first
        root = np.sqrt(np.maximum(0.0, speed * speed + 2.0 * slope * way))
        down = speed + np.where(speed < 0.0, -root, root)
        safe = np.where(down == 0.0, 1.0, down)
        return np.asarray(start + np.where(down == 0.0, 0.0, 2.0 * way / safe))

    def since(self, after: float) -> "SpeedByTime":
        """The same with its time counted from ``after`` on."""
        place, speed = self.place_at(after), float(self.speed_at(after))
        later = (Segment(p.after - after, p.before, p.speed, p.slope) for p in self.pieces if p.after > after)
        return SpeedByTime((Segment(0.0, place, speed, self._piece_at(after)[1]), *later))

    def moved(self, places: float) -> "SpeedByTime":
        """The same with all places so much further on."""
        return SpeedByTime(tuple(Segment(p.after, p.before + places, p.speed, p.slope) for p in self.pieces))


def ease_down(x: ArrayLike, tension: float) -> Floats:
    """From 1 at 0 to 0 at 1. tension : −1 (falls at once, then lingers) through 0 (straight) to 1 (holds on, then dives)."""
    x = np.clip(np.asarray(x, dtype=np.float64), 0.0, 1.0)
    power = STEEPEST ** abs(tension)
    return np.asarray(1.0 - x**power if tension >= 0.0 else (1.0 - x) ** power)


def ease_down_at(x: float, tension: float) -> float:
    """:func:`ease_down` at one place between 0 and 1."""
    power = float(STEEPEST ** abs(tension))
    return 1.0 - float(x**power) if tension >= 0.0 else float((1.0 - x) ** power)


def tension_of(height: float) -> float:
    """The tension at which :func:`ease_down` has a height, 0 to 1, in its middle; −1 or 1 where none has it."""
    low = 0.5**STEEPEST
    height = min(max(height, low), 1.0 - low)
    steep = math.log(-math.log2(min(height, 1.0 - height))) / math.log(STEEPEST)
    return steep if height >= 0.5 else -steep


def slowing(x: ArrayLike, tension: float, depth: float = 1.0, second_share: float = 0.0) -> Floats:
    """Speeds of something that loses ``depth`` of its speed (0 to 1) as x goes from 0 to 1.

    second_share : 0, or the share of the length at its end over which a second, steeper slowing works besides the first.
    """
    x = np.asarray(x, dtype=np.float64)
    fall = ease_down(x, tension)
    if second_share > 0.0:
        first = FIRST_STAGE_LEFT + (1.0 - FIRST_STAGE_LEFT) * fall
        fall = first * ease_down((x - (1.0 - second_share)) / second_share, tension)
    return np.asarray(1.0 - depth * (1.0 - fall))


def knots() -> Floats:
    """The places, 0 to 1, at which curves are taken."""
    return np.linspace(0.0, 1.0, KNOTS + 1)


def audible(speeds: Floats) -> Floats:
    """The gain, 0 to 1, at speeds: nothing where it stands, all of it once it is fast enough to be heard as sound."""
    x = np.clip((np.abs(speeds) - SILENT_SPEED) / (HEARD_SPEED - SILENT_SPEED), 0.0, 1.0)
    return np.asarray(x * x * (3.0 - 2.0 * x))
