"""An exact stream prepared in its own thread, so that playback never waits for it."""

import logging
import threading

from latespin.render.playback.playback_stream import FADE_FRAMES, PlaybackStream
from latespin.render.playback.programme import PlaybackRequest

LOG = logging.getLogger(__name__)
BLOCK_FRAMES = 4096


class Refinement:
    """Prepares an exact stream from a frame on.  replaces : the draft.  at : the ring frame where it takes over."""

    def __init__(
        self, replaces: PlaybackStream, programme: PlaybackRequest, frame: int, at: int, lock: threading.Condition
    ) -> None:
        self.replaces, self.at = replaces, at
        self._programme, self._frame, self._lock = programme, frame, lock
        self.done = self.failed = False
        threading.Thread(target=self._prepare, name="refinement", daemon=True).start()

    def _prepare(self) -> None:
        try:
            self.stream = PlaybackStream(self._programme, self._frame, draft=False)
            self.block, self.marks = self.stream.read(FADE_FRAMES + BLOCK_FRAMES, self.at)
        except Exception:
            LOG.exception("preparing an exact stream failed")
            self.failed = True
        with self._lock:
            self.done = True
            self._lock.notify_all()
