"""Plays a song while it is being opened: nothing is computed, so nothing has to be rendered ahead."""

import threading

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.dynamics.output_guard import OutputGuard
from latespin.media.audio.downmix import fold_to_stereo
from latespin.memory import Growing
from latespin.render.playback.programme import as_stereo


class OpeningPlayer:
    """A song as it came, as far as it has been decoded; a device pulls from it, on a thread of its own.

    gain : of the output, a factor.
    """

    def __init__(self, sound: Growing, rate: int) -> None:
        self.rate, self.gain, self.playing = rate, 1.0, False
        self._sound, self._guard = sound, OutputGuard(rate)
        self._lock = threading.Lock()
        self._frame = 0

    @property
    def frame(self) -> int:
        """The next frame to be played."""
        return self._frame

    def seek(self, frame: int) -> None:
        """Go to a frame; to the last one there is, where it has not been decoded yet."""
        with self._lock:
            self._frame = max(0, min(frame, self._sound.frames - 1))
            self._guard.forget()

    def pull(self, frames: int, *, only_ready: bool = False) -> Audio:
        """The next ``[2, frames]``: silence while paused, and where nothing has been decoded yet.

        only_ready : give fewer frames instead of silence.
        """
        with self._lock:
            block = self._sound.read(self._frame, frames) if self.playing else np.zeros((2, 0), np.float32)
            self._frame += block.shape[1]
            heard = self._guard.clean(as_stereo(fold_to_stereo(block)) * np.float32(self.gain))
            heard = self._guard.process(heard) if heard.shape[1] else heard
        return np.pad(heard, ((0, 0), (0, 0 if only_ready else frames - heard.shape[1])))
