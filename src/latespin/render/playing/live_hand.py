"""Moves played while the song plays: on what has been rendered already, between the ring and the device."""

import logging
import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from latespin.dsp.arrays import Audio
from latespin.model.arranging.held_clock import bend_of, moves_clock
from latespin.model.moments.held import Held, HeldTempo
from latespin.model.timing.positions import Position
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.hand_stage import HandStage
from latespin.render.playing.hold_recorder import HoldRecorder, PlayedMove, Whereabouts
from latespin.render.playing.legs import Sound
from latespin.render.playing.live_tempo import LiveTempo

LOG = logging.getLogger(__name__)
TEMPO = "tempo"
RIDE = HeldTempo(start=Position(beat=0.0), end=Position(beat=1.0))


@dataclass(frozen=True)
class _Press:
    ident: str
    moment: Held | None = None  # None: let go, or with other slices
    coming: bool = False
    value: str = ""  # the note value of the slices of a repeat that is held
    percent: float | None = None  # of the tempo


class LiveHand:
    """``press`` and ``release`` from any thread, ``process`` from the device's.

    sound : what plays, by frame of the ring.
    """

    def __init__(self, rate: int, sound: Sound) -> None:
        self._rate, self._sound = rate, sound
        self._waiting: deque[_Press] = deque()
        self._recorder = HoldRecorder()
        self._offset = 0  # frame of the song less frame of the ring
        self._expected: int | None = None
        self.chunks = DrumChunks(rate, lambda start, frames: sound(start - self._offset, frames))
        self._stage = self._fresh()
        self._tempo: tuple[LiveTempo, int] | None = None  # and the output's frame it began at
        self.failure = ""  # why a move was not played; whoever says so empties it
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

    def ride(self, percent: float) -> None:
        """Run faster or slower from the next block on."""
        self._waiting.append(_Press(TEMPO, percent=percent))

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
            self._recorder.release_all(self._expected, self._stage.output)
            self._stage, self._tempo = self._fresh(), None
            self._waiting.clear()

    def forget(self) -> None:
        """Let nothing ring on; for a programme that has the moves in it."""
        with self._lock:
            if not self.held:
                self._stage = self._fresh()

    # -- from the device's thread ---------------------------------------------------------------------------

    @property
    def moves_clock(self) -> bool:
        """Whether the next block may take more or fewer frames of the ring than it has."""
        return bool(self._waiting) or self._stage.clock is not None

    def process(self, block: Audio, first: int, whereabouts: Callable[[], Whereabouts | None]) -> tuple[Audio, int]:
        """What is heard instead of a block of the ring that begins at frame ``first``, and how many frames of the ring it takes."""
        if not block.shape[1]:
            return block, 0
        if not self._waiting and self._stage.idle():
            self._expected = None
            return block, block.shape[1]
        with self._lock:
            return self._process(block, first, whereabouts())

    def _process(self, block: Audio, first: int, where: Whereabouts | None) -> tuple[Audio, int]:
        frames = block.shape[1]
        if where is None:
            return block, frames
        if self._expected is not None and abs(where.at - self._expected) > 1:
            self._recorder.split(self._expected, where)
        if self._stage.idle():
            self._stage.skip(first)
        self._offset = where.song - first
        self._end_ride(where)
        while self._waiting:
            self._act(self._waiting.popleft(), where)
        if self._stage.idle():
            self._expected = where.at + frames
            return block, frames
        heard = self._stage.process(frames)
        taken = self._stage.song - first
        self._expected = where.at + taken
        return heard, taken

    def _act(self, press: _Press, where: Whereabouts) -> None:
        output, ident = self._stage.output, press.ident
        if press.percent is not None:
            self._ride(press.percent, where)
            return
        if press.value:
            moment = self._recorder.cut(ident, press.value, where, output)
        elif press.moment is None:
            self._recorder.release(ident, where.at, output)
            self._stage.release(ident)
            return
        else:
            moment = self._recorder.press(ident, press.moment, where, output, coming=press.coming)
        if moment is not None:
            bend = bend_of(moment, self._rate) if moves_clock(moment) else None
            try:
                self._stage.press(
                    ident, moment, where.song, where.programme.context(), gain=where.programme.gain, bend=bend
                )
            except Exception as error:  # a file that has gone, for one: the song plays on
                LOG.exception("a pad cannot be played")
                self.failure = str(error) or type(error).__name__
                self._recorder.release(ident, where.at, output)

    def _ride(self, percent: float, where: Whereabouts) -> None:
        if self._tempo is None and percent != 0.0:
            self._tempo = LiveTempo(self._rate), self._stage.output
            bend = self._tempo[0].bend
            self._recorder.press(TEMPO, RIDE, where, self._stage.output)
            self._stage.press(TEMPO, RIDE, where.song, where.programme.context(), bend=bend)
        if self._tempo is not None:
            tempo, began = self._tempo
            self._stage.bend_clock(TEMPO, tempo.turn(percent, self._stage.output - began))
            self._recorder.amend(TEMPO, tempo.as_moment(RIDE))

    def _end_ride(self, where: Whereabouts) -> None:
        """Let the tempo go once it is back at the song’s own."""
        if self._tempo is not None and self._tempo[0].over(self._stage.output - self._tempo[1]):
            self._tempo = None
            self._recorder.release(TEMPO, where.at, self._stage.output)
            self._stage.release(TEMPO)

    # -- from the render thread -----------------------------------------------------------------------------

    def drums_due(self, first: int, song: int, written: int) -> int | None:
        """The next chunk of drums that can be made, ring frame ``first`` being that frame of the song and the ring filled up to ``written``."""
        self._offset = song - first
        number = max(0, song) // CHUNK
        while self.chunks.has(number):
            number += 1
        enough = (number + 1) * CHUNK + self.chunks.context <= written + self._offset
        return number if enough else None
