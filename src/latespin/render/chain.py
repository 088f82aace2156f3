"""The chain: a version of a track as a stream of blocks, before Level.

Reader → (one channel becomes two where a stage needs it) → colours → the tail that follows the music.
"""

import math

import numpy as np

from latespin.dsp.hall import TAIL_DB, Hall, HallSettings, fall_frames
from latespin.dsp.types import Audio
from latespin.model import version as v
from latespin.render.reader import HastyReader, Reader

END_FADE_SECONDS = 0.03
WARM_UP_BLOCK = 1 << 15


def hall_settings(colour: v.Colour) -> HallSettings:
    """What the hall of a Colour stage asks of the kernel."""
    hall = colour.hall
    return HallSettings(
        decay_seconds=hall.decay_seconds,
        size=hall.size_percent / 100.0,
        pre_delay_seconds=hall.pre_delay_ms / 1000.0,
        tone_hz=hall.tone_hz,
        width=hall.width_percent / 100.0,
        amount=hall.amount_percent / 100.0,
    )


def tail_frames(colour: v.Colour, rate: int) -> int:
    """How long a version rings on after its music, frames."""
    return fall_frames(rate, hall_settings(colour), TAIL_DB) if colour.hall_heard else 0


class Chain:
    """Gives the frames of After in order, in blocks of any size; the result does not depend on the size.

    ``seek`` goes anywhere: the colours are warmed up by the music before that place, so that what is heard
    equals the whole render within −80 dB.
    """

    def __init__(self, reader: Reader, stages: v.Stages) -> None:
        self._reader = reader
        self._source: Reader | HastyReader = reader
        self._colour = stages.colour
        self.rate = reader.track.rate
        self._hall = self._make_hall(0)
        self.channels = 2 if self._hall else int(reader.track.sound.shape[0])
        self.music_frames = reader.map.after_frames
        self.tail_frames = tail_frames(self._colour, self.rate)
        self.frames = self.music_frames + self.tail_frames
        self.position = 0

    def seek(self, frame: int, at_most_seconds: float = math.inf) -> None:
        """Make ``frame`` the next one to be read, warmed up by ``at_most_seconds`` of the music before it.

        With a limit, what is stretched is read hastily, too.
        """
        self.position = frame
        self._source = self._reader
        if math.isfinite(at_most_seconds):
            early = round((at_most_seconds + 1.0) * self.rate)
            self._source = self._reader.hasty(max(0, frame - early), 2 * early)
        if self._hall is None:
            return
        warm_up = min(self._hall.warm_up_frames, at_most_seconds * self.rate)
        start = max(0, frame - round(warm_up))
        self._hall = self._make_hall(start)
        while start < frame:
            stop = min(frame, start + WARM_UP_BLOCK)
            self._coloured(start, stop - start)
            start = stop

    def ready(self, frame: int, frames: int) -> bool:
        """Whether ``seek`` to a frame without a limit, and ``frames`` to be read from there, would not have to wait.

        Where they would, some of what is missing is made in the background.
        """
        start = max(0, frame - (self._hall.warm_up_frames if self._hall else 0))
        needed = start, frame + frames - start
        if self._reader.has(*needed):
            return True
        self._reader.approach(*needed)
        return False

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``; fewer at the end of After, none beyond it."""
        frames = max(0, min(frames, self.frames - self.position))
        block = self._coloured(self.position, frames)
        self._fade_end(block)
        self.position += frames
        return block

    def _make_hall(self, start: int) -> Hall | None:
        if not self._colour.hall_heard:
            return None
        return Hall(self.rate, hall_settings(self._colour), start)

    def _coloured(self, start: int, frames: int) -> Audio:
        block = self._source.read(start, frames)
        if self._hall is None:
            return block
        if block.shape[0] == 1:
            block = np.repeat(block, 2, axis=0)
        return self._hall.process(block)

    def _fade_end(self, block: Audio) -> None:
        """Bring the very end of a tail, by then 70 dB down, to nothing."""
        fade = min(self.tail_frames, round(END_FADE_SECONDS * self.rate))
        first = self.frames - fade - self.position
        if fade and first < block.shape[1]:
            at = np.arange(max(0, first), block.shape[1])
            block[:, at] *= ((self.frames - self.position - at) / fade).astype(np.float32)
