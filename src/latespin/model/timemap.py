"""The time map: which place of Before sounds at which place of After.

It is a list of spans without gaps. The reader reads the source through it, the ribbons draw their threads
from it, and Before/After switching uses it both ways. Span edges in After are whole frames.
"""

import bisect
from dataclasses import dataclass

from latespin.model.version import Time


@dataclass(frozen=True)
class Span:
    """After frames ``after_start`` to ``after_stop`` sound Before from ``before_start`` at ``speed``.

    pitch_ratio is frequency heard over frequency of the source; equal to ``speed`` it is varispeed.
    """

    after_start: int
    after_stop: int
    before_start: float
    speed: float
    pitch_ratio: float

    def before_at(self, after: float) -> float:
        """The source frame that sounds at a frame of After."""
        return self.before_start + (after - self.after_start) * self.speed

    def after_at(self, before: float) -> float:
        """The frame of After at which a source frame sounds."""
        return self.after_start + (before - self.before_start) / self.speed


@dataclass(frozen=True)
class TimeMap:
    """Spans in order of After, the first from frame 0. Both lengths in frames at the track's rate."""

    spans: tuple[Span, ...]
    before_frames: int

    @property
    def after_frames(self) -> int:
        """How long the music lasts in After; a room may ring on beyond."""
        return self.spans[-1].after_stop

    def before_at(self, after: float) -> float:
        """The source frame that sounds at a frame of After; the nearest there is outside the music."""
        starts = [span.after_start for span in self.spans]
        span = self.spans[max(0, bisect.bisect_right(starts, after) - 1)]
        return min(max(span.before_at(after), 0.0), float(self.before_frames))

    def after_at(self, before: float) -> float:
        """The first frame of After at which a source frame sounds; the end where it never does."""
        for span in self.spans:
            after = span.after_at(before)
            if span.after_start <= after <= span.after_stop:
                return after
        return float(self.after_frames)


def compile_time_map(time: Time, before_frames: int) -> TimeMap:
    """The time map of a version of a track of ``before_frames`` frames.

    The length in After is ``before_frames / speed`` rounded to the nearest frame, and at least 1.
    """
    speed = time.speed_heard
    frames = max(1, round(before_frames / speed))
    return TimeMap((Span(0, frames, 0.0, speed, time.pitch_ratio),), before_frames)
