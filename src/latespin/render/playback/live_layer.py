"""What is played by hand over a ring: held moves, live controls of effects, and the drums that moves may want.

All but ``hand`` belongs to the render thread.
"""

import threading

from latespin.dsp.arrays import Audio
from latespin.render.playback.near_stream import BEGIN_SECONDS, NearStream
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playback.ring_buffer import RingBuffer
from latespin.render.playback.ring_marks import RingMarks
from latespin.render.playing.hold_recorder import Whereabouts
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.live_hand import LiveHand


class LiveLayer:
    """Over a ring and its marks, which the player locks.

    separates_drums : whether the drums ahead of the playhead are separated, so that a move can have them at once.
    """

    def __init__(self, rate: int, ring: RingBuffer, marks: RingMarks, lock: threading.Condition) -> None:
        self._rate, self._ring, self._marks, self._lock = rate, ring, marks, lock
        self.hand = LiveHand(rate, ring.read)
        self.separates_drums = False
        self._separating: threading.Thread | None = None
        self._near: NearStream | None = None

    def set_controls(self, controls: LiveControls | None) -> None:
        """Let some controls of effects be turned while it plays, or none; the lock is held."""
        if self._near is not None:
            self._near.end()
        self._near = None if controls is None else NearStream(controls, self._rate)

    def whereabouts(self, first: int) -> Whereabouts | None:
        """What plays at a frame of the ring."""
        with self._lock:
            mark, unbroken = self._marks.at(first), first - self._marks.unbroken_from(first)
        if mark is None:
            return None
        return Whereabouts(mark.frame + first - mark.at, unbroken, mark.programme)

    def close(self) -> None:
        """End what is going on; waits for it up to two seconds."""
        if self._near is not None:
            self._near.end()
        for thread in (self._separating, self._near.thread if self._near is not None else None):
            if thread is not None:
                thread.join(2.0)

    # -- live controls --------------------------------------------------------------------------------------

    def near_due(self, read: int, written: int) -> bool:
        """Whether the frames just ahead of the playhead can be made anew now."""
        return self._near is not None and self._near.due(read, written)

    def make_near(self) -> tuple[int, Audio]:
        """The next of them, and the ring frame they belong to."""
        assert self._near is not None
        return self._near.make()

    def write_near(self, at: int, block: Audio, read: int) -> None:
        """Put them in the ring but for what is too late; the lock is held."""
        if self._near is not None:
            self._near.write(self._ring, at, block, read)

    def splice_from(self, read: int, wanted: PlaybackRequest | None, jump: int | None) -> int:
        """From which ring frame on another programme is to replace what lies ahead; the lock is held."""
        near = self._near
        if near is None:
            return read
        if jump is None and near.covers(wanted):
            return max(read, near.at)
        near.leave()
        return read

    def may_begin(self, programme: PlaybackRequest | None) -> bool:
        """Whether live controls of the programme being rendered are not heard yet."""
        return self._near is not None and programme is not None and not self._near.covers(programme)

    def begin(self, read: int, written: int) -> None:
        """Prepare to hear them, a little ahead."""
        near = self._near
        with self._lock:
            at = min(written, read + round(BEGIN_SECONDS * self._rate))
            mark = self._marks.at(at)
        if near is not None and mark is not None:
            near.begin(mark.programme, mark.frame + at - mark.at, at)

    # -- drums ----------------------------------------------------------------------------------------------

    def drums_due(self, read: int, written: int) -> int | None:
        """The next chunk of drums that can be separated, while moves may want them and none is being made."""
        mark = self._marks.at(read) if self.separates_drums and not self.separating else None
        if mark is None:
            return None
        return self.hand.drums_due(read, mark.programme.song_frame(mark.frame + read - mark.at), written)

    @property
    def separating(self) -> bool:
        """Whether a chunk is being made."""
        return self._separating is not None and self._separating.is_alive()

    def separate(self, chunk: int) -> None:
        """Separate a chunk, in a thread of its own."""
        self._separating = threading.Thread(target=self.hand.chunks.make, args=(chunk,), name="drums", daemon=True)
        self._separating.start()
