"""Where the pictures of a song go in a version: the song's time map, as seconds."""

import itertools
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.model.timing.time_map import TimeMap

LEAP_SECONDS = 0.02  # that pictures may leap without anyone seeing it
LOOK_SECONDS = 0.01


@dataclass(frozen=True)
class PictureTimes:
    """Seconds of a song and of a version of it, or of an excerpt of one, both ways.

    end : seconds of it, with its tail.  begins : second of the version at which it begins.
    """

    map: TimeMap
    rate: int
    end: float
    begins: float = 0.0

    @property
    def music_end(self) -> float:
        """The seconds of the version at which its music ends and its tail begins."""
        return self.map.after_frames / self.rate - self.begins

    @property
    def runs_on(self) -> bool:
        """Whether time only goes forwards and leaves nothing out, so that pictures can keep their order. It may stand still."""
        spans = self.map.spans
        if any(span.backwards for span in spans):
            return False
        edges = [
            abs(float(b.before_of(np.array([b.after_start]))[0] - a.before_of(np.array([a.after_stop]))[0]))
            for a, b in itertools.pairwise(spans)
        ]
        if max(edges, default=0.0) > LEAP_SECONDS * self.rate:
            return False
        places = self.map.before_of_all(np.arange(0.0, self.map.after_frames, LOOK_SECONDS * self.rate))
        return bool(np.all(np.diff(places) > -1.0))

    def after(self, song: Floats) -> Floats:
        """The seconds of the version at which seconds of the song are, those before and behind it at the speed of its ends."""
        first, last = self.before(np.array([0.0, self.end]))
        inside = np.clip(song, first, last)
        there = self.map.after_of_all(inside * self.rate) / self.rate
        return there - self.begins + (song - inside)

    def before(self, version: Floats) -> Floats:
        """The seconds of the song that sound at seconds of the version; the last one goes on during the tail."""
        last = (self.map.after_frames - 1) / self.rate
        return self.map.before_of_all(np.clip(version + self.begins, 0.0, max(0.0, last)) * self.rate) / self.rate
