"""Seconds to pixels and back, for both waveforms."""

from dataclasses import dataclass, replace

from latespin.model.values.units import clock

CLOSEST_PX_PER_SECOND = 2_000.0
STEPS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0)


@dataclass(frozen=True)
class TimeScale:
    """The visible part of a time line: ``start`` seconds at the left edge, ``seconds`` over ``width`` pixels.

    total : length of the whole in seconds; nothing beyond it is shown.
    """

    width: float
    total: float
    start: float
    seconds: float

    @classmethod
    def fitted(cls, width: float, total: float) -> "TimeScale":
        """Everything at once."""
        return cls(max(1.0, width), max(0.001, total), 0.0, max(0.001, total))

    @property
    def px_per_second(self) -> float:
        """Pixels to a second."""
        return self.width / self.seconds

    @property
    def fits(self) -> bool:
        """Whether all of it is seen."""
        return self.seconds >= self.total - 1e-9

    def x(self, seconds: float) -> float:
        """The pixel of a time."""
        return (seconds - self.start) * self.px_per_second

    def at(self, x: float) -> float:
        """The time of a pixel, within the whole."""
        return min(max(self.start + x / self.px_per_second, 0.0), self.total)

    def zoomed(self, factor: float, x: float) -> "TimeScale":
        """Zoom in (factor > 1) or out around pixel ``x``."""
        shortest = self.width / CLOSEST_PX_PER_SECOND
        seconds = min(self.total, max(min(shortest, self.total), self.seconds / factor))
        held = self.start + x / self.px_per_second
        return replace(self, seconds=seconds).starting(held - x * seconds / self.width)

    def scrolled(self, seconds: float) -> "TimeScale":
        """Moved along by some seconds."""
        return self.starting(self.start + seconds)

    def resized(self, width: float, total: float) -> "TimeScale":
        """For another width or length; all stays in view where all was."""
        if self.fits:
            return TimeScale.fitted(width, total)
        kept = min(total, self.seconds * max(1.0, width) / self.width)
        return TimeScale(max(1.0, width), max(0.001, total), 0.0, max(0.001, kept)).starting(self.start)

    def step(self, least_px: float) -> float:
        """The finest round step of time that is at least ``least_px`` wide."""
        return next((step for step in STEPS if step * self.px_per_second >= least_px), STEPS[-1])

    def ticks(self, least_px: float) -> list[float]:
        """Times of round steps in view."""
        step = self.step(least_px)
        first = int(self.start / step)
        last = int(min(self.total, self.start + self.seconds) / step) + 1
        return [n * step for n in range(first, last + 1) if self.start - step <= n * step <= self.total]

    def video_frames(self, least_px: float, fps: float) -> list[int]:
        """Numbers of the video frames in view that are at least so far apart, on round steps."""
        whole = round(fps)
        steps = [1, 2, 5, 10, *(round(second * whole) for second in STEPS if second >= 1.0)]
        step = next((n for n in steps if n / fps * self.px_per_second >= least_px), steps[-1])
        first, last = int(self.start * fps / step), int(min(self.total, self.start + self.seconds) * fps / step) + 1
        return [n * step for n in range(first, last + 1) if n * step / fps <= self.total]

    def starting(self, seconds: float) -> "TimeScale":
        """With this time at the left edge, as far as there is something to show."""
        return replace(self, start=min(max(0.0, seconds), max(0.0, self.total - self.seconds)))


def tick_text(seconds: float, step: float) -> str:
    """A time under a ruler's tick: tenths only where steps are finer than a second."""
    return clock(seconds, 1 if step < 1.0 else 0)


def timecode(number: int, fps: float) -> str:
    """``1:02:11`` (minutes, seconds, frames) of a video frame's number, counted without dropping any (SMPTE ST 12-1, non-drop)."""
    seconds, frame = divmod(number, round(fps))
    return f"{clock(float(seconds))}:{frame:02d}"
