"""Moves played while the song plays: on what has been rendered already, between the ring and the device."""

import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from latespin.dsp.arrays import Audio
from latespin.model.arranging.held_slices import slice_frames, slices_back
from latespin.model.moments.held import Held, HeldRepeat
from latespin.render.effects.context import EffectContext
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.hand_stage import HandStage
from latespin.render.playing.legs import Sound


@dataclass(frozen=True)
class Whereabouts:
    """What plays at a frame of the ring: frame ``at`` of a version.

    unbroken : frames before it that lead there without a jump.  token : tells programmes apart.  gain : by which the version's level was changed.
    """

    at: int
    unbroken: int
    find_context: Callable[[], EffectContext]
    token: object
    gain: float = 1.0


@dataclass(frozen=True)
class PlayedMove:
    """A move as it was played, over frames of After of the programme that is told by ``token``."""

    ident: str
    moment: Held
    start: int
    stop: int
    token: object


@dataclass
class _Hold:
    moment: Held
    start: int
    where: Whereabouts


@dataclass(frozen=True)
class _Press:
    ident: str
    moment: Held | None  # None: let go
    coming: bool = False


class LiveHand:
    """``press`` and ``release`` from any thread, ``process`` from the device's.

    sound : what plays, by frame of the ring.
    """

    def __init__(self, rate: int, sound: Sound) -> None:
        self._rate, self._sound = rate, sound
        self._waiting: deque[_Press] = deque()
        self._holds: dict[str, _Hold] = {}
        self._offset = 0  # frame of After less frame of the ring
        self._expected: int | None = None
        self.chunks = DrumChunks(rate, lambda start, frames: sound(start - self._offset, frames))
        self._stage = self._fresh()
        self.played: deque[PlayedMove] = deque(maxlen=10_000)
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

    def release_all(self) -> None:
        """Let everything go, what still waits included."""
        for ident in {*self._holds, *(press.ident for press in list(self._waiting))}:
            self.release(ident)

    @property
    def held(self) -> frozenset[str]:
        """Names of the moves that are held."""
        return frozenset(self._holds)

    def take_played(self) -> list[PlayedMove]:
        """The moves that were let go since the last call."""
        found = []
        while self.played:
            found.append(self.played.popleft())
        return found

    def stop(self) -> None:
        """Playback has stopped: what is held ends where the song stands."""
        with self._lock:
            self._let_all_go()
            self._stage = self._fresh()
            self._waiting.clear()

    def forget(self) -> None:
        """Let nothing ring on; for a programme that has the moves in it."""
        with self._lock:
            if not self._holds:
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
            self._split(where)
        self._offset = where.at - first
        self._expected = where.at + block.shape[1]
        while self._waiting:
            self._act(self._waiting.popleft(), first, where)
        if self._stage.idle(first):
            return block
        return self._stage.process(first, block.shape[1], where.at)

    def _act(self, press: _Press, first: int, where: Whereabouts) -> None:
        self._end(press.ident, where.at)
        if press.moment is None:
            self._stage.release(press.ident, first)
            return
        moment = caught(press.moment, where, coming=press.coming)
        self._holds[press.ident] = _Hold(moment, where.at, where)
        self._stage.press(press.ident, moment, first, where.at, where.find_context(), gain=where.gain)

    def _end(self, ident: str, at: int) -> None:
        hold = self._holds.pop(ident, None)
        if hold is not None and at > hold.start:
            self.played.append(PlayedMove(ident, hold.moment, hold.start, at, hold.where.token))

    def _split(self, where: Whereabouts) -> None:
        """The song has jumped, as loops do: what is held is two moves, before the jump and after it."""
        assert self._expected is not None
        for ident, hold in list(self._holds.items()):
            self._end(ident, self._expected)
            self._holds[ident] = _Hold(hold.moment, where.at, where)

    def _let_all_go(self) -> None:
        for ident, hold in list(self._holds.items()):
            self._end(ident, self._expected if self._expected is not None else hold.start)

    # -- from the render thread -----------------------------------------------------------------------------

    def drums_due(self, first: int, at: int, written: int) -> int | None:
        """The next chunk of drums that can be made, ring frame ``first`` being frame ``at`` of After and the ring filled up to ``written``."""
        self._offset = at - first
        number = max(0, at) // CHUNK
        while self.chunks.has(number):
            number += 1
        enough = (number + 1) * CHUNK + self.chunks.context <= written + self._offset
        return number if enough else None


def caught(moment: Held, where: Whereabouts, *, coming: bool) -> Held:
    """A move as it is when it is pressed there: a repeat with its slice. Where too little has sounded, it takes what comes."""
    if not isinstance(moment, HeldRepeat):
        return moment
    clock = where.find_context().clock
    back = slices_back(moment, where.at, clock, coming=coming)
    if back * slice_frames(moment, where.at, clock) > where.unbroken:
        back = 0.0
    return replace(moment, back=back)
