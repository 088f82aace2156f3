"""Amounts: constant, or changing from frame to frame."""

from collections.abc import Callable

import numpy as np

from latespin.dsp.arrays import Audio, Floats

SOON = 0.12  # the amount from which on nothing of the untouched song is mixed in


class Automation:
    """A value at each frame of a song. steady : the value where it never changes, else None."""

    def __init__(self, value: float | Callable[[Floats], Floats]) -> None:
        self.steady = float(value) if isinstance(value, int | float) else None
        self._value = value

    def at(self, first: int, frames: int) -> Floats:
        """Values at ``frames`` frames from ``first`` on."""
        if self.steady is not None:
            return np.full(frames, self.steady)
        assert callable(self._value)
        return self._value(np.arange(first, first + frames, dtype=np.float64))

    def point(self, frame: float) -> float:
        """The value at one place, which may lie between frames."""
        return self.steady if self.steady is not None else float(self.at_places(np.array([frame]))[0])

    def through(self, curve: Callable[[Floats], Floats]) -> "Automation":
        """The same with every value changed by a function."""
        if self.steady is not None:
            return Automation(float(curve(np.array([self.steady]))[0]))
        return Automation(lambda frames: curve(self._value(frames)))  # type: ignore[operator]

    def at_places(self, frames: Floats) -> Floats:
        """Values at any frames."""
        if self.steady is not None:
            return np.full(len(frames), self.steady)
        assert callable(self._value)
        return self._value(frames)


def crossfade_in(dry: Audio, wet: Audio, amounts: Floats, soon: float = SOON) -> Audio:
    """The wet sound in place of the dry one as amounts leave nothing: all of it from ``soon`` on, frame on frame."""
    return np.asarray(dry + np.minimum(1.0, amounts / soon).astype(np.float32) * (wet - dry))
