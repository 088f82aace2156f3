"""A version's chain with its held moves over the finished sound."""

import math
from collections.abc import Callable

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.model.arranging.arrangement import PlacedMoment
from latespin.model.moments.held import Held, HeldEffect, HeldRepeat
from latespin.render.chain.chain import Chain
from latespin.render.effects.context import EffectContext
from latespin.render.effects.effect_node import EffectNode
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.hand_stage import HandStage, course_of
from latespin.render.playing.held_sound import held_tail
from latespin.render.playing.legs import HISTORY_SECONDS, MARGIN

READ_FRAMES = 1 << 13
DRUMS_WARM_UP = 2  # chunks


class PlayedChain:
    """Like :class:`Chain`, of which it reads the finished sound. held : moves at frames of After, in order of their starts."""

    def __init__(
        self, chain: Chain, held: tuple[PlacedMoment, ...], context: EffectContext, *, fades_out: bool
    ) -> None:
        self._chain, self._context = chain, context
        self._held = sorted(held, key=lambda placed: (placed.start, placed.moment.id))
        self.rate, self.channels = chain.rate, chain.channels
        self.music_frames, self.tail_frames = chain.music_frames, chain.tail_frames
        ends = [] if fades_out else [self._end(d) for d in self._held if isinstance(d.moment, HeldEffect)]
        self.frames = max([chain.frames, *ends])
        self._history = SoundHistory(chain.read, self.rate, 0)
        self._restart(0)
        self.position = 0

    @property
    def nodes(self) -> list[EffectNode]:
        """Those of the chain."""
        return self._chain.nodes

    def seek(self, frame: int, at_most_seconds: float = math.inf, *, draft: bool = False) -> None:
        """Like :meth:`Chain.seek`; moves that are heard at the frame are played from their starts."""
        start = max(self._untouched(frame), round(frame - at_most_seconds * self.rate) if draft else 0)
        first = self._first_needed(start)
        self._chain.seek(first, at_most_seconds, draft=draft)
        self._history = SoundHistory(self._chain.read, self.rate, first)
        self._restart(start)
        while self.position < frame:
            self.read(min(READ_FRAMES, frame - self.position))

    def ready(self, frame: int, frames: int) -> bool:
        """Like :meth:`Chain.ready`."""
        start = self._untouched(frame)
        first = self._first_needed(start)
        return self._chain.ready(first, frame - first + frames)

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``; fewer at the end, none beyond it."""
        frames = max(0, min(frames, self.frames - self.position))
        out = np.empty((self.channels, frames), np.float32)
        done = 0
        while done < frames:
            self._act()
            piece = min(frames - done, self._next_event() - self.position, READ_FRAMES)
            out[:, done : done + piece] = self._piece(piece)
            self.position += piece
            done += piece
        return out

    def read_stereo(self, frames: int) -> Audio:
        """Like :meth:`read`, in two channels, with silence beyond the end."""
        block = self.read(frames)
        out = np.zeros((2, frames), np.float32)
        out[:, : block.shape[1]] = block
        return out

    def _piece(self, frames: int) -> Audio:
        """A piece in which no move begins or ends."""
        if self._stage.idle(self.position):
            return self._history.read(self.position, frames)
        return self._stage.process(self.position, frames, self.position)

    def _restart(self, start: int) -> None:
        """Play from a frame on; moves that are heard there are held already."""
        history = self._history
        self._drums = DrumChunks(self.rate, history.read)
        self._stage = HandStage(
            self.rate, history.read, lambda first, count: self._drums.read(first, count, making=True)
        )
        self._coming = [placed for placed in self._held if placed.start >= start]
        self._going: list[PlacedMoment] = []
        self.position = start
        for placed in self._held:
            if placed.start < start < self._end(placed):
                self._press(placed)

    def _act(self) -> None:
        """Let go and press what ends and begins here."""
        at = self.position
        for placed in [placed for placed in self._going if placed.stop <= at]:
            self._stage.release(placed.moment.id, at)
            self._going.remove(placed)
        while self._coming and self._coming[0].start <= at:
            self._press(self._coming.pop(0))

    def _press(self, placed: PlacedMoment) -> None:
        self._stage.press(placed.moment.id, _held(placed), placed.start, placed.start, self._context, self.position)
        self._going.append(placed)

    def _next_event(self) -> int:
        events = [placed.stop for placed in self._going] + [placed.start for placed in self._coming[:1]]
        return min(events, default=self.frames)

    def _end(self, placed: PlacedMoment) -> int:
        """The frame from which on a move is not heard any more."""
        moment = placed.moment
        tail = held_tail(moment, self._context) if isinstance(moment, HeldEffect) else 0
        return placed.stop + max(tail, MARGIN)

    def _untouched(self, frame: int) -> int:
        """The last frame up to a frame at which nothing is heard of any move."""
        for placed in reversed(self._held):
            if placed.start < frame < self._end(placed):
                return self._untouched(placed.start)
        return frame

    def _first_needed(self, start: int) -> int:
        """The first frame of the finished sound that is read by what is heard from a frame on."""
        reach = round(HISTORY_SECONDS * self.rate)
        needed = [start]
        for placed in self._held:
            if placed.start - reach >= start or self._end(placed) <= start:
                continue
            early = course_of(_held(placed), placed.start, placed.start, self._context).earliest
            if isinstance(placed.moment, HeldRepeat) and placed.moment.material == "drums":
                early -= DRUMS_WARM_UP * CHUNK + self._drums.context
            needed.append(early)
        return max(0, min(needed))


def _held(placed: PlacedMoment) -> Held:
    assert isinstance(placed.moment, Held)
    return placed.moment


class SoundHistory:
    """The finished sound by frame, of the last seconds; what lies ahead is rendered when it is asked for.

    read_on : gives the next frames, from ``first`` on.
    """

    def __init__(self, read_on: Callable[[int], Audio], rate: int, first: int) -> None:
        size = round((HISTORY_SECONDS + 2.0) * rate)
        self._read_on, self._first, self._size = read_on, first, size
        self._kept: Audio | None = None
        self._kept_from = self._next = first

    def read(self, start: int, frames: int) -> Audio:
        """``[channels, frames]`` from a frame on; silent before the first and after the last."""
        while self._next < start + frames and self._render(start + frames - self._next):
            pass
        kept = self._kept
        if kept is None:
            return np.zeros((2, frames), np.float32)
        out = np.zeros((kept.shape[0], frames), np.float32)
        low, high = max(start, self._kept_from), min(start + frames, self._next)
        if high > low:
            out[:, low - start : high - start] = kept[:, low - self._kept_from : high - self._kept_from]
        return out

    def _render(self, frames: int) -> bool:
        block = self._read_on(max(frames, READ_FRAMES))
        if block.shape[1] == 0:
            return False
        kept = block if self._kept is None else np.concatenate((self._kept, block), axis=1)
        self._next += block.shape[1]
        if kept.shape[1] > 2 * self._size:
            kept = np.ascontiguousarray(kept[:, -self._size :])
        self._kept, self._kept_from = kept, self._next - kept.shape[1]
        return True
