"""The drums of the finished sound, in chunks at fixed frames of the song, so that they are the same live and in an export."""

import threading

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.filters.percussive import CONTEXT_SECONDS, drums_of
from latespin.render.playing.legs import HISTORY_SECONDS, Sound

CHUNK = 16_384


class DrumChunks:
    """Chunks that were made lately, by number. From any thread.

    sound : the finished sound, by frame of the song.
    """

    def __init__(self, rate: int, sound: Sound) -> None:
        self._rate, self._sound = rate, sound
        self.context = round(CONTEXT_SECONDS * rate)
        self._most = 3 + round((HISTORY_SECONDS + 2.0) * rate / CHUNK)
        self._chunks: dict[int, Audio] = {}
        self._lock = threading.Lock()

    def has(self, number: int) -> bool:
        """Whether a chunk has been made and is still there."""
        return number in self._chunks

    def make(self, number: int) -> None:
        """Make a chunk; needs the sound up to ``context`` frames beyond its end."""
        start, early = number * CHUNK, min(number * CHUNK, self.context)
        drums = drums_of(self._sound(start - early, early + CHUNK + self.context), self._rate)
        with self._lock:
            self._chunks[number] = np.ascontiguousarray(drums[:, early : early + CHUNK])
            while len(self._chunks) > self._most:
                self._chunks.pop(next(iter(self._chunks)))

    def read(self, start: int, frames: int, *, making: bool) -> Audio:
        """The drums from frame ``start`` on, ``[2, frames]``. making : missing chunks are made; else they are silent."""
        out = np.zeros((2, frames), np.float32)
        for number in range(max(0, start // CHUNK), (start + frames - 1) // CHUNK + 1):
            if making and number not in self._chunks:
                self.make(number)
            chunk = self._chunks.get(number)
            if chunk is not None:
                first, last = max(start, number * CHUNK), min(start + frames, (number + 1) * CHUNK)
                out[:, first - start : last - start] = chunk[:, first - number * CHUNK : last - number * CHUNK]
        return out

    def read_or_make(self, start: int, frames: int) -> Audio:
        """The drums from a frame on; missing chunks are made."""
        return self.read(start, frames, making=True)

    def clear(self) -> None:
        """Forget all."""
        with self._lock:
            self._chunks.clear()
