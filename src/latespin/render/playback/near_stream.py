"""A stream just ahead of the playhead, over the one that is rendered far ahead, so that knobs are heard soon.

If it falls behind, what was rendered ahead is heard, without the latest turn of a knob, but without a gap.
"""

import logging
import threading
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.render.playback.playback_stream import PlaybackStream
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playback.ring_buffer import RingBuffer, crossfade
from latespin.render.playing.live_controls import LiveControls

LOG = logging.getLogger(__name__)
BLOCK = 384
LEAD_SECONDS = 0.016
BEGIN_SECONDS = 0.3  # ahead of the playhead, where it is prepared to begin
LATE_FRAMES = 128  # ahead of the playhead, where nothing is replaced any more


@dataclass
class _Prepared:
    stream: PlaybackStream
    programme: PlaybackRequest
    at: int  # the next ring frame it gives
    latency: int


class NearStream:
    """Overwrites what lies ahead in a ring. ``begin`` and ``step`` are called from the render thread.

    controls : what is live.
    """

    def __init__(self, controls: LiveControls, rate: int) -> None:
        self.controls, self._rate = controls, rate
        self._of: PlaybackRequest | None = None  # the key of the programme it was made for
        self._asked: PlaybackRequest | None = None  # the last programme that was asked about, and its key
        self._asked_key: PlaybackRequest | None = None
        self._made: _Prepared | None = None
        self._fresh = True
        self._stopped = False
        self.thread: threading.Thread | None = None

    def end(self) -> None:
        """It is not wanted any more."""
        self._stopped = True

    def covers(self, programme: PlaybackRequest | None) -> bool:
        """Whether it plays a programme, or is about to."""
        if programme is None or self._of is None:
            return False
        if programme is not self._asked:
            self._asked, self._asked_key = programme, self.controls.key(programme)
        return self._asked_key == self._of

    def leave(self) -> None:
        """Begin anew: the song has jumped, or another programme plays."""
        self._of = self._made = None

    @property
    def running(self) -> bool:
        """Whether it gives sound."""
        return self._made is not None

    @property
    def at(self) -> int:
        """The next ring frame it gives; −1 where it gives none."""
        made = self._made
        return -1 if made is None else made.at

    def begin(self, programme: PlaybackRequest, frame: int, at: int) -> None:
        """Prepare for a programme from its frame on, which is ring frame ``at``; in a thread of its own."""
        self._made, self._of = None, self.controls.key(programme)
        whole = (programme, self._of, frame, at)
        self.thread = threading.Thread(target=self._prepare, args=whole, name="near stream", daemon=True)
        self.thread.start()

    def _prepare(self, programme: PlaybackRequest, key: PlaybackRequest, frame: int, at: int) -> None:
        try:
            alive = self.controls.over(programme)
            if alive is not programme:
                self.controls.advance(programme, frame, frame + round(LEAD_SECONDS * self._rate))
                stream = PlaybackStream(alive, frame, draft=False)
                if self._of is key:
                    self._fresh, self._made = True, _Prepared(stream, programme, at, stream.latency)
        except Exception:
            LOG.exception("preparing live controls failed")

    def due(self, read: int, written: int) -> bool:
        """Whether a block can be made: where the playhead comes soon, and there is something to be replaced."""
        made = self._made
        if made is None or self._stopped:
            return False
        return made.at - read < round(LEAD_SECONDS * self._rate) + BLOCK and made.at + BLOCK <= written

    def make(self) -> tuple[int, Audio]:
        """The next block, and the ring frame it belongs to."""
        made = self._made
        assert made is not None
        first = made.stream.frame
        self.controls.advance(made.programme, first, first + BLOCK + made.latency)
        block, _ = made.stream.read(BLOCK, made.at)
        at, made.at = made.at, made.at + block.shape[1]
        if block.shape[1] < BLOCK:
            self._made = None
        return at, block

    def write(self, ring: RingBuffer, at: int, block: Audio, read: int) -> None:
        """Put a block in the ring where it is not too late; the ring's lock is held."""
        skip = max(0, read + LATE_FRAMES - at)
        if skip >= block.shape[1]:
            self._fresh = True
            return
        new = np.ascontiguousarray(block[:, skip:])
        if self._fresh or skip:
            fade = min(new.shape[1], BLOCK)
            new[:, :fade] = crossfade(ring.read(at + skip, fade), new[:, :fade])
            self._fresh = False
        ring.write(at + skip, new)
