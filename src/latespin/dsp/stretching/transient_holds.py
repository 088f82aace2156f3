"""Holding transients: which frame of the song each frame of the result is made from.

It follows the speeds, but around an attack the song goes at its own pace, so that what is struck is copied and not drawn
out; the time that takes or leaves is made up for close by.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.onsets.results import Transients
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.timing.speed_by_position import SpeedByPosition

SHARE = 0.7  # of the room between two attacks which a hold may take
NOTHING = Transients(np.zeros(0, np.int64), np.zeros(0))
LIFT, SOFT_LIFT = 2.0, 1.4
SOFT_RECOVER = 1.3  # times the hold and the length ratio: soon, since only some bins are concerned


@dataclass(frozen=True)
class TransientHold:
    """Something struck at a source ``place`` and heard at ``output_frame``.

    kept : frames before and after it that go at the source's own pace.  room : frames before and after it over
    which that is made up for.  lift : ratio of power by which a bin rises at least if it belongs to the hold.
    """

    place: int
    output_frame: int
    room: tuple[int, int]
    kept: tuple[int, int]
    lift: float

    def reaches(self, times: np.ndarray) -> np.ndarray:
        """Which of these times lie within its room."""
        return np.asarray((times > self.output_frame - self.room[0]) & (times < self.output_frame + self.room[1]))

    def covers(self, times: np.ndarray) -> np.ndarray:
        """Which of these times lie within what is kept."""
        return np.asarray((times >= self.output_frame - self.kept[0]) & (times <= self.output_frame + self.kept[1]))


class TransientAlignment:
    """Speeds with holds.

    transients : None where nothing is held.  hold, recover : frames of the result to each side of an attack.
    """

    def __init__(self, speeds: SpeedByPosition, transients: TransientMap | None, hold: int, recover: int) -> None:
        self._speeds = speeds
        self._attacks = transients if hold > 0 else None
        self._hold, self._recover = hold, recover

    def holds(self, start: int, stop: int) -> list[TransientHold]:
        """The holds that reach into a stretch of the result, each with the room its neighbours leave it."""
        found = self._near(start, stop)
        places, spots = self._heard(found.frames)
        return self._kept(places, spots, spots, np.full(len(spots), self._recover), LIFT, start, stop)

    def soft_holds(self, start: int, stop: int) -> list[TransientHold]:
        """The holds of soft onsets, which move only the bins that rise. Their room ends half-way to the next onset or attack."""
        found = self._near(start, stop)
        places, spots = self._heard(found.soft)
        others = np.union1d(spots, self._heard(found.frames)[1])
        rooms = SOFT_RECOVER * self._hold / np.minimum(1.0, self._speeds.speed_at(spots))
        return self._kept(places, spots, others, rooms.astype(np.int64), SOFT_LIFT, start, stop)

    def _near(self, start: int, stop: int) -> Transients:
        """Attacks and soft onsets near these frames of the result."""
        if self._attacks is None:
            return NOTHING
        margin = 3 * self._recover + 2 * self._hold
        low, high = self._speeds.before_at(np.array([start - margin, stop + margin]))
        return self._attacks.between(float(low), float(high))

    def _heard(self, places: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Places, and the frames of the result at which they are heard; those heard at one frame are one."""
        spots = np.round(self._speeds.after_at(places)).astype(np.int64)
        apart = np.diff(spots, prepend=np.int64(-1) << 40) > 0
        return places[apart], spots[apart]

    def _kept(
        self,
        places: np.ndarray,
        spots: np.ndarray,
        others: np.ndarray,
        rooms: np.ndarray,
        lift: float,
        start: int,
        stop: int,
    ) -> list[TransientHold]:
        """Holds at ``spots``, each with its room, or half the way to its neighbour among ``others``."""
        rates = np.minimum(1.0, self._speeds.speed_at(spots))
        found = []
        for place, spot, rate, room in zip(places, spots, rates, rooms, strict=True):
            i, j = np.searchsorted(others, spot), np.searchsorted(others, spot, side="right")
            left = min(room, (spot - others[i - 1]) // 2) if i > 0 else room
            right = min(room, (others[j] - spot) // 2) if j < len(others) else room
            before, after = (min(self._hold, int(SHARE * free * rate)) for free in (left, right))
            if spot + right > start and spot - left < stop:
                found.append(TransientHold(int(place), int(spot), (int(left), int(right)), (before, after), lift))
        return found

    def places(self, times: np.ndarray, holds: list[TransientHold]) -> np.ndarray:
        """The source frame, int64, for every time."""
        plain = self._speeds.before_at(times)
        if not holds:
            return np.asarray(np.round(plain), dtype=np.int64)
        knots, offsets = [], []
        for h in holds:
            edges = np.array([h.output_frame - h.kept[0], h.output_frame + h.kept[1]])
            kept = h.place + (edges - h.output_frame) - self._speeds.before_at(edges)
            knots += [h.output_frame - h.room[0], *edges, h.output_frame + h.room[1]]
            offsets += [0.0, *kept, 0.0]
        out = plain + np.interp(times, knots, offsets, left=0.0, right=0.0)
        for h in holds:
            held = h.covers(times)
            out[held] = h.place + (times[held] - h.output_frame)
        return np.asarray(np.round(out), dtype=np.int64)
