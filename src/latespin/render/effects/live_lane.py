"""A lane whose values come while it is played, from a knob that is turned."""

import threading
from collections.abc import Callable
from typing import Any

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.model.effects.automation import Lane

KEPT = 1000  # knots
UNKNOWN = 1e-9  # beyond what is known, an amount may come any time


class LiveWay:
    """Values at frames of After, straight between knots that are added as playback goes on.

    begin : where it was before, or None.  rest : the values while nobody has turned the knob.  target : where it was turned to, or None.  segment : frames from one value to the next.
    values : the least and the greatest there can be.  logarithmic : whether equal ratios take equal times.
    """

    def __init__(
        self, rest: Callable[[float], float], target: float | None, limits: tuple[float, float], segment: int, *, logarithmic: bool,
        begin: float | None = None,
    ) -> None:  # fmt: skip
        self._rest, self.target, self._segment = rest, target, segment
        self.values, self.logarithmic = limits, logarithmic
        self._begin = begin
        self._knots: list[tuple[float, float]] = []
        self._end = 0.0  # the frame up to which it is known; from the last knot on, it stays
        self._known: tuple[Floats, Floats] = (np.zeros(1), np.full(1, rest(0.0) if target is None else target))
        self._lock = threading.Lock()

    @property
    def frames(self) -> tuple[float, ...]:
        """Frames of the knots."""
        return tuple(self._known[0].tolist())

    def advance(self, first: int, upto: int) -> list[tuple[float, float]]:
        """Make the values up to a frame known, from ``first`` on, which is read next. Returns the knots that were added."""
        with self._lock:
            added: list[tuple[float, float]] = []
            if not self._knots or not first - 2 * self._segment <= self._end <= upto + 2 * self._segment:
                value = self._rest(float(first)) if self.target is None else self.target
                self._knots = [(float(first), value if self._begin is None else self._begin)]
                self._end, self._begin = float(first), None
                added += self._knots
            while self._end < upto:
                added += self._move(float(upto))
            self._knots = self._knots[-KEPT:]
            frames, values = zip(*self._knots, (self._end, self._knots[-1][1]), strict=True)
            self._known = np.array(frames), np.array(values)
            return added

    def _move(self, upto: float) -> list[tuple[float, float]]:
        """The next segment: on the way to where the knob is, or staying. A new way begins no sooner than a segment after the last knot."""
        at, value = self._knots[-1]
        target = self._rest(self._end + self._segment) if self.target is None else self.target
        if target == value:
            self._end = max(upto, self._end)
            return []
        stayed = self._end - at
        if 0.0 < stayed < self._segment:
            self._end = min(upto, at + self._segment)
            return []
        start = [(self._end, value)] if stayed else []
        self._end += self._segment
        added = [*start, (self._end, target)]
        self._knots += added
        return added

    @property
    def last(self) -> float:
        """The value up to which it is known."""
        return float(self._known[1][-1])

    def value(self, frame: float) -> float:
        """The value at a frame."""
        return float(self.at(np.array([frame]))[0])

    def at(self, frames: Floats) -> Floats:
        """The values at frames; before what is known, the last value."""
        places, values = self._known
        scale = np.log(values) if self.logarithmic else values
        found = np.interp(frames, places, scale)
        found = np.exp(found) if self.logarithmic else found
        last = self.last
        return np.where(frames < places[0], last, np.where(frames > places[-1], max(last, UNKNOWN), found))


class LiveLane(Lane, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A lane with a way of its own; never in a document."""

    way: Any
