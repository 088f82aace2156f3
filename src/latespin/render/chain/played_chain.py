"""A version's chain with its held moves over the finished sound."""

import math
from collections.abc import Callable

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.model.arranging.arrangement import Arrangement, PlacedMoment
from latespin.model.moments.endings import Fade
from latespin.model.moments.held import Held, HeldEffect, HeldRepeat
from latespin.render.chain.chain import Chain
from latespin.render.effects.context import EffectContext
from latespin.render.effects.effect_node import EffectNode
from latespin.render.playback.ring_buffer import RingBuffer
from latespin.render.playing.drum_chunks import CHUNK, DrumChunks
from latespin.render.playing.hand_stage import HandStage, course_of
from latespin.render.playing.held_sound import held_tail
from latespin.render.playing.legs import HISTORY_SECONDS, MARGIN

READ_FRAMES = 1 << 13
DRUMS_WARM_UP = 2  # chunks


class PlayedChain:
    """Like :class:`Chain`, of which it reads the finished sound, the *song*. Its own frames are those of After, which differ where moves move the song's clock.

    arranged : has the held moves, at frames of the song.
    """

    def __init__(self, chain: Chain, arranged: Arrangement, context: EffectContext) -> None:
        self._chain, self._context = chain, context
        self._held = sorted(arranged.held, key=lambda placed: (placed.start, placed.moment.id))
        self._clock_moves = {move.id: move for move in arranged.clock_moves}
        self.rate, self.channels, self.tail_frames = chain.rate, chain.channels, chain.tail_frames
        self.music_frames = self._output_of(chain.music_frames)
        held = [d for d in self._held if isinstance(d.moment, HeldEffect)]
        ends = [] if isinstance(arranged.close.way, Fade) else [self._output_of(d.stop) + self._tail(d) for d in held]
        self.frames = max([self._output_of(chain.frames), *ends])
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
        return self._chain.ready(first, self._song_of(frame) - first + frames)

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``; fewer at the end, none beyond it."""
        frames = max(0, min(frames, self.frames - self.position))
        out = np.empty((self.channels, frames), np.float32)
        done = 0
        while done < frames:
            self._act()
            piece = min(frames - done, self._until_event())
            out[:, done : done + piece] = self._piece(piece)
            self.position += piece
            done += piece
        return out

    def _piece(self, frames: int) -> Audio:
        """A piece in which no move begins or ends."""
        stage, song = self._stage, self._stage.song
        if stage.idle():
            stage.skip(song + frames)
            return self._history.read(song, frames)
        return stage.process(frames)

    # -- events --------------------------------------------------------------------------------------------

    def _restart(self, start: int) -> None:
        """Play from a frame on; moves that are heard there are held already."""
        song, history = self._song_of(start), self._history
        self._drums = DrumChunks(self.rate, history.read)
        self._stage = HandStage(self.rate, history.read, self._drums.read_or_make, song)
        self._coming = [placed for placed in self._held if placed.start >= song]
        self._going: list[PlacedMoment] = []
        self.position = start
        for placed in self._held:
            if placed.start < song < self._end(placed) or self._within(placed, start):
                self._press(placed)
        self._coming = [placed for placed in self._coming if placed not in self._going]

    def _within(self, placed: PlacedMoment, frame: int) -> bool:
        move = self._clock_moves.get(placed.moment.id)
        return move is not None and move.after < frame < move.after + move.frames

    def _act(self) -> None:
        """Let go and press what ends and begins here."""
        for placed in list(self._going):
            move = self._clock_moves.get(placed.moment.id)
            ended = placed.stop <= self._stage.song if move is None else move.after + move.frames <= self.position
            if ended:
                self._stage.release(placed.moment.id)
                self._going.remove(placed)
        while self._coming and self._coming[0].start <= self._stage.song:
            self._press(self._coming.pop(0))

    def _press(self, placed: PlacedMoment) -> None:
        move = self._clock_moves.get(placed.moment.id)
        bend, elapsed = (None, 0) if move is None else (move.bend, self.position - move.after)
        self._stage.press(
            placed.moment.id, _held(placed), placed.start, self._context, began=placed.start, bend=bend, elapsed=elapsed
        )
        self._going.append(placed)

    def _until_event(self) -> int:
        """Frames until the next move begins or ends, at most one piece."""
        clock, song = self._stage.clock, self._stage.song
        moves = [self._clock_moves[d.moment.id] for d in self._going if d.moment.id in self._clock_moves]
        ends = [move.after + move.frames - self.position for move in moves]
        most = min([READ_FRAMES, *ends])
        events = [d.stop for d in self._going if d.moment.id not in self._clock_moves]
        events += [placed.start for placed in self._coming[:1]]
        event = min(events, default=song + READ_FRAMES)
        if clock is None:
            return max(1, min(most, event - song))
        low, high = 1, max(1, most)
        while low < high:  # the song never goes back
            middle = (low + high) // 2
            if int(clock.song_at(self._stage.output + middle) + 1e-6) >= event:
                high = middle
            else:
                low = middle + 1
        return low

    # -- frames of After and of the song ----------------------------------------------------------------------

    def _song_of(self, frame: int) -> int:
        """The frame of the song at a frame of After."""
        before = [move for move in self._clock_moves.values() if move.after <= frame]
        if not before:
            return frame
        last = before[-1]
        passed = frame - last.after
        if passed < last.frames:
            return last.song + int(last.bend.place_at(float(passed)) + 1e-6)
        return last.resumes + passed - last.frames

    def _output_of(self, song: int) -> int:
        """The frame of After at which a frame of the song comes first."""
        before = [move for move in self._clock_moves.values() if move.song <= song]
        if not before:
            return song
        last = before[-1]
        if song < last.resumes:
            return last.after + math.ceil(float(last.bend.after_at(float(song - last.song))))
        return last.after + last.frames + song - last.resumes

    def _tail(self, placed: PlacedMoment) -> int:
        moment = placed.moment
        return held_tail(moment, self._context) if isinstance(moment, HeldEffect) else 0

    def _end(self, placed: PlacedMoment) -> int:
        """The frame of the song from which on a move is not heard any more."""
        move = self._clock_moves.get(placed.moment.id)
        return (placed.stop if move is None else move.resumes) + max(self._tail(placed), MARGIN)

    def _untouched(self, frame: int) -> int:
        """The last frame up to a frame at which nothing is heard of any move."""
        song = self._song_of(frame)
        for placed in reversed(self._held):
            if placed.start < song < self._end(placed) or self._within(placed, frame):
                return self._untouched(self._output_of(placed.start))
        return frame

    def _first_needed(self, frame: int) -> int:
        """The first frame of the song that is read by what is heard from a frame on."""
        start, reach = self._song_of(frame), round(HISTORY_SECONDS * self.rate)
        needed = [start]
        for placed in self._held:
            if placed.start - reach >= start or self._end(placed) <= start:
                continue
            if placed.moment.id in self._clock_moves or isinstance(placed.moment, HeldEffect):
                needed.append(placed.start - MARGIN)
                continue
            early = course_of(_held(placed), placed.start, placed.start, self._context).earliest
            if isinstance(placed.moment, HeldRepeat) and placed.moment.material == "drums":
                early -= DRUMS_WARM_UP * CHUNK + self._drums.context
            needed.append(early - MARGIN)
        return max(0, min(needed))


def _held(placed: PlacedMoment) -> Held:
    assert isinstance(placed.moment, Held)
    return placed.moment


class SoundHistory:
    """The finished sound by frame, of the last seconds; what lies ahead is rendered when it is asked for.

    read_on : gives the next frames, from ``first`` on.
    """

    def __init__(self, read_on: Callable[[int], Audio], rate: int, first: int) -> None:
        self._read_on, self._size = read_on, round((HISTORY_SECONDS + 2.0) * rate) + 2 * CHUNK
        self._ring = RingBuffer(self._size)
        self._first = self._next = first

    def read(self, start: int, frames: int) -> Audio:
        """``[2, frames]`` from a frame on; silent before the first and after the last."""
        while self._next < start + frames and self._render():
            pass
        out = np.zeros((2, frames), np.float32)
        low, high = max(start, self._first, self._next - self._size), min(start + frames, self._next)
        if high > low:
            out[:, low - start : high - start] = self._ring.read(low, high - low)
        return out

    def _render(self) -> bool:
        block = self._read_on(READ_FRAMES)
        self._ring.write(self._next, block)
        self._next += block.shape[1]
        return bool(block.shape[1])
