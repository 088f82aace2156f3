"""The silent device: takes sound as a loudspeaker would, in real time or faster, and remembers it.

It stands in where there is no sound card, and tests listen to it.
"""

import threading
import time
from collections import deque
from typing import Protocol

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.language import tr

PERIOD_SECONDS = 0.01


class Playable(Protocol):
    """What a device plays. rate : frames per second."""

    rate: int

    def pull(self, frames: int, *, only_ready: bool = False) -> Audio:
        """The next ``[2, frames]``: silence where nothing is ready, or with ``only_ready`` fewer of them."""
        raise NotImplementedError


class SilentDevice:
    """Plays into nothing.

    pace : 1 keeps real time, n goes n times as fast, 0 as fast as sound is ready.
    remember_seconds : how much of what was played can be listened to afterwards.
    """

    def __init__(self, player: Playable, pace: float = 1.0, remember_seconds: float = 30.0) -> None:
        self.description = tr("No sound device: playing silently")
        self._player = player
        self._pace = pace
        self._frames = max(1, round(PERIOD_SECONDS * player.rate))
        self._played: deque[Audio] = deque(maxlen=max(1, round(remember_seconds / PERIOD_SECONDS)))
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._run, name="silent device", daemon=True)
        self._thread.start()

    def played(self) -> Audio:
        """The sound played, ``[2, frames]``, without the silence of pauses."""
        blocks = list(self._played)
        return np.concatenate(blocks, axis=1) if blocks else np.zeros((2, 0), np.float32)

    def forget(self) -> None:
        """Begin remembering anew."""
        self._played.clear()

    def close(self) -> None:
        """Stop taking sound; waits for its thread up to a second."""
        self._stopping.set()
        self._thread.join(1.0)

    def _run(self) -> None:
        due = time.monotonic()
        while not self._stopping.is_set():
            block = self._player.pull(self._frames, only_ready=True)
            if block.shape[1]:
                self._played.append(block)
            if self._pace > 0.0:
                due = max(due + PERIOD_SECONDS / self._pace, time.monotonic() - 0.1)
                self._stopping.wait(max(0.0, due - time.monotonic()))
            elif block.shape[1] == 0:
                self._stopping.wait(0.002)
