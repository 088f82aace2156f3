"""The basis of SpeedByPosition and SpeedByTime: pieces in order of time, each with a time, a position, a speed and its slope."""

import bisect
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from latespin.dsp.arrays import Floats


class Segment(NamedTuple):
    """From time ``after`` on, place ``before`` and what follows sound at ``speed``, which grows by ``slope`` per unit of the subclass."""

    after: float
    before: float
    speed: float
    slope: float


@dataclass(frozen=True)
class PiecewiseSpeed:
    """Pieces in order of time. The last one goes on for ever; before the first one its speed holds."""

    pieces: tuple[Segment, ...]

    @cached_property
    def constant_speed(self) -> float | None:
        """The speed where there is only one."""
        speeds = {piece.speed for piece in self.pieces}
        return speeds.pop() if len(speeds) == 1 and not any(piece.slope for piece in self.pieces) else None

    @cached_property
    def _even(self) -> bool:
        """Whether one speed holds throughout, so that nothing has to be looked up."""
        return len(self.pieces) == 1 and self.pieces[0].slope == 0.0

    def _piece_at(self, after: float) -> tuple[Segment, float]:
        """The piece in which a time lies, and how its speed grows there."""
        which = bisect.bisect_right(self._times, after) - 1
        piece = self.pieces[max(0, which)]
        return piece, piece.slope if which >= 0 else 0.0

    def _pieces_at(self, where: Floats, column: int) -> tuple[Floats, Floats, Floats, Floats]:
        """Start, place, speed and slope of the pieces in which times (column 0) or places (column 1) lie."""
        which = np.searchsorted(self._table[column], where, "right") - 1
        after, before, speed, slope = self._table[:, np.maximum(which, 0)]
        return after, before, speed, np.where(which < 0, 0.0, slope)

    @cached_property
    def _times(self) -> list[float]:
        return [piece.after for piece in self.pieces]

    @cached_property
    def _table(self) -> Floats:
        """The pieces as ``[4, n]``."""
        return np.array(self.pieces, dtype=np.float64).T
