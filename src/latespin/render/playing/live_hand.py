"""Moves played while the song plays: on what has been rendered already, between the ring and the device."""

import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from latespin.dsp.arrays import Audio
from latespin.model.moments.held import Held
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.hand_stage import HandStage
from latespin.render.playing.hold_recorder import HoldRecorder, PlayedMove, Whereabouts
from latespin.render.playing.legs import Sound


@dataclass(frozen=True)
class _Press:
    ident: str
    moment: Held | None = None  # None: let go, or with other slices
    coming: bool = False
    value: str = ""  # the note value of the slices of a repeat that is held


class LiveHand:
    """``press`` and ``release`` from any thread, ``process`` from the device's.

    sound : what plays, by frame of the ring.
    """

    def __init__(self, rate: int, sound: Sound) -> None:
        self._rate, self._sound = rate, sound
        self._waiting: deque[_Press] = deque()
        self._recorder = HoldRecorder()
        self._offset = 0  # frame of After less frame of the ring
        self._expected: int | None = None
        self.chunks = DrumChunks(rate, lambda start, frames: sound(start - self._offset, frames))
        self._stage = self._fresh()
        self._lock = threading.Lock()

    def _fresh(self) -> HandStage:
        return HandStage(self._rate, self._sound, self._drums)

    def _drums(self, start: int, frames: int) -> Audio:
        return self.chunks.read(start + self._offset, frames, making=False)

    # -- from any thread ------------------------------------------------------------------------------------

    def press(self, ident: str, moment: Held, *, coming: bool = False) -> None:
        """Hold a move from the next block on. coming : a repeat catches what comes instead of what has just sounded."""
        self._waiting.append(_Press(ident, moment, coming))

    def release(self, ident: str) -> None:
        """Let a move go from the next block on; unknown names are ignored."""
        self._waiting.append(_Press(ident, None))

    def cut(self, ident: str, value: str) -> None:
        """Give the slice of a repeat that is held another note value."""
        self._waiting.append(_Press(ident, value=value))

    def release_all(self) -> None:
        """Let everything go, what still waits included."""
        for ident in {*self.held, *(press.ident for press in list(self._waiting))}:
            self.release(ident)

    @property
    def held(self) -> frozenset[str]:
        """Names of the moves that are held."""
        return self._recorder.held

    def take_played(self) -> list[PlayedMove]:
        """The moves that were let go since the last call."""
        return self._recorder.take()

    def stop(self) -> None:
        """Playback has stopped: what is held ends where the song stands."""
        with self._lock:
            self._recorder.release_all(self._expected)
            self._stage = self._fresh()
            self._waiting.clear()

    def forget(self) -> None:
        """Let nothing ring on; for a programme that has the moves in it."""
        with self._lock:
            if not self.held:
                self._stage = self._fresh()

    # -- from the device's thread ---------------------------------------------------------------------------

    def process(self, block: Audio, first: int, whereabouts: Callable[[], Whereabouts | None]) -> Audio:
        """What is heard instead of a block of the ring that begins at frame ``first``."""
        if not block.shape[1]:
            return block
        if not self._waiting and self._stage.idle(first):
            self._expected = None
            return block
        with self._lock:
            return self._process(block, first, whereabouts())

    def _process(self, block: Audio, first: int, where: Whereabouts | None) -> Audio:
        if where is None:
            return block
        if self._expected is not None and abs(where.at - self._expected) > 1:
            self._recorder.split(self._expected, where)
        self._offset = where.at - first
        self._expected = where.at + block.shape[1]
        while self._waiting:
            self._act(self._waiting.popleft(), first, where)
        if self._stage.idle(first):
            return block
        return self._stage.process(first, block.shape[1], where.at)

    def _act(self, press: _Press, first: int, where: Whereabouts) -> None:
        if press.value:
            moment = self._recorder.cut(press.ident, press.value, where)
        elif press.moment is None:
            self._recorder.release(press.ident, where.at)
            self._stage.release(press.ident, first)
            return
        else:
            moment = self._recorder.press(press.ident, press.moment, where, coming=press.coming)
        if moment is not None:
            self._stage.press(press.ident, moment, first, where.at, where.find_context(), gain=where.gain)

    # -- from the render thread -----------------------------------------------------------------------------

    def drums_due(self, first: int, at: int, written: int) -> int | None:
        """The next chunk of drums that can be made, ring frame ``first`` being frame ``at`` of After and the ring filled up to ``written``."""
        self._offset = at - first
        number = max(0, at) // CHUNK
        while self.chunks.has(number):
            number += 1
        enough = (number + 1) * CHUNK + self.chunks.context <= written + self._offset
        return number if enough else None
