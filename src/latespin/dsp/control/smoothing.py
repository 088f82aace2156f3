"""Values that are steered while they sound: each new one is reached in a straight line, so that no change is a step."""

import numpy as np

from latespin.dsp.arrays import Floats

STEP = 128  # frames within which a new value is reached


def straight(values: Floats, at: int, frames: int, step: int) -> Floats:
    """Values at frames ``at`` to ``at + frames`` between those given at every ``step`` frames, the first at the last of these not after ``at``."""
    values = values[: (at % step + frames) // step + 2]
    lines = values[:-1, None] + np.diff(values)[:, None] * (np.arange(step) / step)
    return lines.ravel()[at % step : at % step + frames]


def knots(at: int, frames: int, step: int) -> np.ndarray:
    """The frames, ``step`` apart, at which :func:`straight` wants values."""
    return np.arange(at // step, (at + frames) // step + 2) * step


class SmoothedValue:
    """One number, or some that move together. The first is there at once, each following one ``STEP`` frames after it was given.

    It keeps copies, so that kernels are given arrays of one kind whether or not those it is given may be written to.
    """

    def __init__(self, value: float | Floats) -> None:
        self._given = value
        self._now = self._then = np.array(value, np.float64)
        self._left = 0
        self._heard = False

    def to(self, value: float | Floats) -> None:
        """Go to a value; given again on the way it changes nothing."""
        if value is self._given:
            return
        self._given, wanted = value, np.array(value, np.float64)
        if not self._heard:
            self._now = self._then = wanted
        elif not np.array_equal(wanted, self._then):
            self._then, self._left = wanted, STEP

    @property
    def steady(self) -> bool:
        """Whether the value has been reached."""
        return self._left == 0

    @property
    def left(self) -> int:
        """How many frames until it has."""
        return self._left

    @property
    def now(self) -> Floats:
        """The value at the next frame."""
        return self._now

    def pass_by(self, frames: int) -> tuple[Floats, Floats, int]:
        """The value at the next frame, the value at the end of the segment, and its length: ``frames``, or less where the ramp ends."""
        self._heard = True
        count = min(frames, self._left) if self._left else frames
        now = self._now
        if self._left:
            after = self._then if count == self._left else now + (self._then - now) * (count / self._left)
            self._now, self._left = after, self._left - count
        return now, self._now, count

    def over(self, frames: int) -> float | Floats:
        """The values of the next frames: one number where they do not change, else one for each."""
        if self.steady:
            self._heard = True
            return float(self._now)
        out, done = np.empty(frames), 0
        while done < frames:
            now, then, count = self.pass_by(frames - done)
            out[done : done + count] = now + (then - now) * (np.arange(count) / max(1, count))
            done += count
        return out
