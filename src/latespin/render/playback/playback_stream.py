"""A programme as a stream that loops, with marks of what plays where."""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.render.effects.effect_node import GainHistory
from latespin.render.playback.programme import PlaybackRequest, Stream
from latespin.render.playback.ring_buffer import crossfade

FADE_FRAMES = 1024
LEAD_SECONDS = 0.25  # ahead of what is rendered, where an exact stream begins; doubled where it came too late


@dataclass(frozen=True)
class RingMark:
    """From ring frame ``at`` on, ``programme`` plays from its ``frame``."""

    at: int
    programme: PlaybackRequest
    frame: int


class PlaybackStream:
    """A programme's stream, going round its loop."""

    def __init__(self, programme: PlaybackRequest, frame: int, *, draft: bool) -> None:
        self._programme = programme
        self.draft = draft
        self._stream: Stream = programme.open()
        self._stream.seek(frame, draft=draft)
        self._frame = frame
        self._fresh = True
        self.ended = False
        self.lead_seconds = LEAD_SECONDS

    def read(self, frames: int, ring_frame: int) -> tuple[Audio, list[RingMark]]:
        """The next frames, fewer or none at the end, and the marks of where they belong."""
        marks, parts, have = [], [], 0
        if self._fresh:
            marks.append(RingMark(ring_frame, self._programme, self._frame))
            self._fresh = False
        while have < frames and not self.ended:
            loop = self._programme.loop
            wanted = frames - have if loop is None else min(frames - have, loop[1] - self._frame)
            block = self._stream.read(max(0, wanted))
            if loop is not None and wanted <= block.shape[1]:
                parts.append(block)
                have += block.shape[1]
                self._frame += block.shape[1]
                if self._frame >= loop[1]:
                    block = self._turn(loop)
                    marks.append(RingMark(ring_frame + have, self._programme, loop[0]))
                    self._frame = loop[0] + block.shape[1]
                    parts.append(block)
                    have += block.shape[1]
                continue
            self.ended = block.shape[1] < wanted
            parts.append(block)
            have += block.shape[1]
            self._frame += block.shape[1]
        return (np.concatenate(parts, axis=1) if parts else np.zeros((2, 0), np.float32)), marks

    @property
    def frame(self) -> int:
        """The next frame, on the programme's side."""
        return self._frame

    @property
    def latency(self) -> int:
        """By how many frames its effects read ahead."""
        return self._stream.latency

    def frame_after(self, frames: int) -> int:
        """The frame of the programme's side at an offset from the next one."""
        loop = self._programme.loop
        if loop is None:
            return max(0, self._frame + frames)
        return loop[0] + (self._frame + frames - loop[0]) % (loop[1] - loop[0])

    def gain_history(self, ident: str) -> GainHistory:
        """The gain history of an effect."""
        return self._stream.gain_history(ident)

    def ready(self, frame: int) -> bool:
        """Whether an exact stream could begin at a frame without waiting."""
        return self._stream.ready(frame)

    def _turn(self, loop: tuple[int, int]) -> Audio:
        """The first frames of a new round, with what follows the old one faded out over them."""
        fade = min(FADE_FRAMES, max(1, (loop[1] - loop[0]) // 2))
        after = self._stream.read(fade)
        self.draft = self.draft or not self.ready(loop[0])
        self._stream.seek(loop[0], draft=self.draft)
        head = self._stream.read(fade)
        old = np.zeros_like(head)
        old[:, : after.shape[1]] = after[:, : head.shape[1]]
        return crossfade(old, head)


def entry_frame(
    programme: PlaybackRequest, old: PlaybackRequest | None, mark: RingMark | None, start: int, jump: int | None
) -> int:
    """The frame of a programme's side at which it comes in after an old one, at ring frame ``start`` or after a jump."""
    if jump is not None:
        frame = float(jump)
        if old is not None and old.side != programme.side:
            frame = programme.from_before(old.to_before(frame))
    elif mark is not None:
        frame = programme.from_before(mark.programme.to_before(mark.frame + start - mark.at))
        if mark.programme.side == programme.side and mark.programme.map() == programme.map():
            frame = mark.frame + start - mark.at
    else:
        frame = 0.0
    if programme.loop and not programme.loop[0] <= frame < programme.loop[1]:
        frame = programme.loop[0]
    return round(frame)


def marks_from(marks: list[RingMark], at: int) -> list[RingMark]:
    """The marks that hold from ring frame ``at`` on, the first of them moved there."""
    earlier = [mark for mark in marks if mark.at <= at]
    later = [mark for mark in marks if mark.at > at]
    if earlier:
        last = earlier[-1]
        later.insert(0, RingMark(at, last.programme, last.frame + at - last.at))
    return later
