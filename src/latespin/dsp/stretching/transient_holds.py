"""Holding transients: which frame of the song each frame of the result is made from.

It follows the speeds, but around an attack the song goes at its own pace, so that what is struck is copied and not drawn
out; the time that takes or leaves is made up for close by.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.stretching.transients import TransientMap
from latespin.dsp.timing.speed_by_position import SpeedByPosition

SHARE = 0.7  # of the room between two attacks which a hold may take


@dataclass(frozen=True)
class TransientHold:
    """Something struck at a source ``place`` and heard at ``output_frame``.

    kept : frames before and after it that go at the source's own pace.  room : frames before and after it over
    which that is made up for.
    """

    place: int
    output_frame: int
    room: tuple[int, int]
    kept: tuple[int, int]

    def covers(self, times: np.ndarray) -> np.ndarray:
        """Which of these times lie within what is kept."""
        return np.asarray((times >= self.output_frame - self.kept[0]) & (times <= self.output_frame + self.kept[1]))


class TransientAlignment:
    """Speeds with holds.

    transients : None where nothing is held.  hold, recover : frames of the result to each side of an attack.
    """

    def __init__(self, speeds: SpeedByPosition, transients: TransientMap | None, hold: int, recover: int) -> None:
        self._speeds, self._attacks = speeds, transients
        self._hold, self._recover = hold, recover

    def holds(self, start: int, stop: int) -> list[TransientHold]:
        """The holds that reach into a stretch of the result, each with the room its neighbours leave it."""
        if self._attacks is None or self._hold == 0:
            return []
        margin = 3 * self._recover + 2 * self._hold
        low, high = self._speeds.before_at(np.array([start - margin, stop + margin]))
        places = self._attacks.between(float(low), float(high)).frames
        spots = np.round(self._speeds.after_at(places)).astype(np.int64)
        apart = np.diff(spots, prepend=np.int64(-1) << 40) > 0  # those heard at one frame are one
        places, spots = places[apart], spots[apart]
        rates = np.minimum(1.0, self._speeds.speed_at(spots))
        found = []
        for i, (place, output_frame, rate) in enumerate(zip(places, spots, rates, strict=True)):
            left = min(self._recover, (output_frame - spots[i - 1]) // 2) if i > 0 else self._recover
            right = min(self._recover, (spots[i + 1] - output_frame) // 2) if i + 1 < len(places) else self._recover
            before, after = (min(self._hold, int(SHARE * room * rate)) for room in (left, right))
            if output_frame + right > start and output_frame - left < stop:
                found.append(TransientHold(int(place), int(output_frame), (int(left), int(right)), (before, after)))
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
