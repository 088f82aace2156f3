"""Dropped-in sounds: decoded once, in stereo, at the rate of the song they are dropped into."""

import threading
from collections import OrderedDict
from pathlib import Path

import numpy as np

from latespin.dsp.types import Audio
from latespin.dsp.varispeed import read_at
from latespin.errors import LateSpinError
from latespin.media.track import open_track
from latespin.model.moments import TITLES, DropIn
from latespin.model.placing import Problem
from latespin.model.version import Stages

KEPT = 8


class Sounds:
    """The sounds used last, each at one rate. Those that cannot be opened are silent; :func:`missing_sounds` says why."""

    def __init__(self, rate: int) -> None:
        self._rate = rate
        self._kept: OrderedDict[str, Audio] = OrderedDict()
        self._lock = threading.Lock()

    def load(self, path: str) -> Audio | None:
        """``[2, frames]``, or None."""
        with self._lock:
            if path not in self._kept:
                try:
                    track = open_track(Path(path))
                except LateSpinError:
                    return None
                ratio = track.rate / self._rate
                sound = track.sound if ratio == 1.0 else read_at(track.sound, 0.0, ratio, int(track.frames / ratio))
                self._kept[path] = np.ascontiguousarray(sound if sound.shape[0] == 2 else np.repeat(sound, 2, axis=0))
                while len(self._kept) > KEPT:
                    self._kept.popitem(last=False)
            self._kept.move_to_end(path)
            return self._kept[path]


def missing_sounds(stages: Stages) -> tuple[Problem, ...]:
    """Drop-ins whose file is not there; the rest of the version is heard all the same."""
    return tuple(
        Problem(
            moment.id,
            f"{TITLES['drop-in']}: {moment.path or 'no file was chosen'} is not there. Choose its file again.",
        )
        for moment in stages.moments.heard
        if isinstance(moment, DropIn) and not Path(moment.path).is_file()
    )
