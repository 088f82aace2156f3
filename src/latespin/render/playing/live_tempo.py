"""A tempo that is ridden while the song plays: the bend of its clock grows with every turn of a knob."""

from itertools import pairwise

from latespin.dsp.timing.piecewise import Segment
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.moments.held import HeldTempo, TempoPoint

RAMP_SECONDS = 0.032  # from one tempo to the next


class LiveTempo:
    """From output frame 0 on, at the song's own tempo.  percent : what it goes to."""

    def __init__(self, rate: int) -> None:
        self._rate, self._ramp = rate, round(RAMP_SECONDS * rate)
        self._knots: list[tuple[int, float]] = [(0, 0.0)]
        self.percent = 0.0

    def turn(self, percent: float, passed: int) -> SpeedByTime:
        """Go to a tempo from an output frame on; a way that has been begun ends first. Returns the whole bend."""
        self.percent = percent
        begins = max(passed, self._knots[-1][0])
        if begins > self._knots[-1][0]:
            self._knots.append((begins, self._knots[-1][1]))
        self._knots.append((begins + self._ramp, percent))
        return self.bend

    def over(self, passed: int) -> bool:
        """Whether it is back at the song's own tempo."""
        return self.percent == 0.0 and passed >= self._knots[-1][0]

    @property
    def bend(self) -> SpeedByTime:
        """The song's frames along it."""
        pieces, place = [], 0.0
        for (at, percent), (later, following) in pairwise(self._knots):
            speed, last = 1.0 + percent / 100.0, 1.0 + following / 100.0
            pieces.append(Segment(float(at), place, speed, (last - speed) / (later - at)))
            place += 0.5 * (speed + last) * (later - at)
        at, percent = self._knots[-1]
        pieces.append(Segment(float(at), place, 1.0 + percent / 100.0, 0.0))
        return SpeedByTime(tuple(pieces))

    def as_moment(self, pattern: HeldTempo) -> HeldTempo:
        """The moment that does the same."""
        points = tuple(TempoPoint(seconds=at / self._rate, percent=percent) for at, percent in self._knots)
        if len(points) < 2:
            points = (*points, TempoPoint(seconds=1.0, percent=points[-1].percent))
        return HeldTempo(
            id=pattern.id, on=pattern.on, label=pattern.label, start=pattern.start, end=pattern.end, take=pattern.take, points=points
        )  # fmt: skip
