"""A ring buffer of stereo frames, and crossfades within it."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.control.fades import fade_in


class RingBuffer:
    """Stereo frames by number; the latest ``size`` of them are there. Not locked: whoever shares it locks.

    size : frames.
    """

    def __init__(self, size: int) -> None:
        self._frames = np.zeros((2, size), np.float32)

    def read(self, start: int, frames: int) -> Audio:
        """A copy of the frames from ``start`` on, ``[2, frames]``."""
        at = np.arange(start, start + frames) % self._frames.shape[1]
        return np.take(self._frames, at, axis=1)

    def write(self, start: int, block: Audio) -> None:
        """Put frames in from ``start`` on."""
        size = self._frames.shape[1]
        first = start % size
        head = min(size - first, block.shape[1])
        self._frames[:, first : first + head] = block[:, :head]
        self._frames[:, : block.shape[1] - head] = block[:, head:]


def crossfade(old: Audio, new: Audio) -> Audio:
    """Crossfade two blocks of the same length along a raised cosine."""
    rise = fade_in(new.shape[1]).astype(np.float32)
    mixed: Audio = new * rise + old * (1.0 - rise)
    return mixed
