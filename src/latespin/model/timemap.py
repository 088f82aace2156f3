"""The time map: which place of Before sounds at which place of After.

It is a list of spans without gaps. The reader reads the source through it, the ribbons draw their threads
from it, and Before/After switching uses it both ways. Span edges in After are whole frames.
"""

import bisect
import dataclasses
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from msgspec.structs import replace

from latespin.dsp.course import Course
from latespin.dsp.types import Floats
from latespin.model.curve import straightened
from latespin.model.grid import Grid
from latespin.model.version import HALFTIME_BARS, Time

EDGE_SECONDS = 0.01


@dataclass(frozen=True)
class Pitch:
    """The ratio of frequencies is ``transposed``, times the speed where it ``follows`` it.

    Formants move with it unless they are kept; ``formant_ratio`` moves them on top of that.
    """

    follows: bool
    transposed: float = 1.0
    formants_kept: bool = False
    formant_ratio: float = 1.0


@dataclass(frozen=True)
class Span:
    """After frames ``after_start`` to ``after_stop`` sound Before along ``course``, which begins there at time 0.

    fade : frames before ``after_start`` over which it comes in while the span before goes.
    """

    after_start: int
    after_stop: int
    course: Course
    pitch: Pitch
    fade: int = 0

    def before_at(self, after: float) -> float:
        """The source frame that sounds at a frame of After."""
        return float(self.course.before_at(after - self.after_start))

    def after_at(self, before: float) -> float:
        """The frame of After at which a source frame sounds."""
        return self.after_start + float(self.course.after_at(before))

    @property
    def moves_formants(self) -> bool:
        """Whether formants lie elsewhere than where the pitch alone takes them."""
        pitch = self.pitch
        moved = pitch.transposed != 1.0 or (pitch.follows and self.course.constant_speed != 1.0)
        return pitch.formant_ratio != 1.0 or (pitch.formants_kept and moved)

    @property
    def turns_only(self) -> bool:
        """Whether reading at the course's speed gives the pitch, so that nothing has to be stretched."""
        pitch = self.pitch
        as_turned = pitch.transposed == 1.0 if pitch.follows else self.course.constant_speed == pitch.transposed
        return as_turned and not self.moves_formants


@dataclass(frozen=True)
class TimeMap:
    """Spans in order of After, the first from frame 0. Both lengths in frames at the track's rate."""

    spans: tuple[Span, ...]
    before_frames: int

    @property
    def after_frames(self) -> int:
        """How long the music lasts in After; a room may ring on beyond."""
        return self.spans[-1].after_stop

    def spans_between(self, start: int, stop: int) -> range:
        """The numbers of the spans of which anything sounds between two frames of After, fades counted."""
        first = max(0, bisect.bisect_right(self._starts, start) - 1)
        last = bisect.bisect_left(self._starts, stop)
        if last < len(self.spans) and self.spans[last].after_start - self.spans[last].fade < stop:
            last += 1
        return range(first, last)

    def _span_at(self, after: float) -> Span:
        """The span in which a frame of After lies; the nearest outside the music."""
        return self.spans[max(0, bisect.bisect_right(self._starts, after) - 1)]

    def before_at(self, after: float) -> float:
        """The source frame that sounds at a frame of After; the nearest there is outside the music."""
        return min(max(self._span_at(after).before_at(after), 0.0), float(self.before_frames))

    def after_at(self, before: float) -> float:
        """The first frame of After at which a source frame sounds; where it never does, where it is passed over."""
        span = self.spans[max(0, bisect.bisect_right(self._places, before) - 1)]
        return min(max(span.after_at(before), float(span.after_start)), float(span.after_stop))

    def before_of_all(self, after: Floats) -> Floats:
        """As :meth:`before_at`, for many frames in ascending order."""
        out = np.zeros(len(after))
        edges = np.searchsorted(after, [*self._starts, np.inf])
        for span, first, last in zip(self.spans, edges[:-1], edges[1:], strict=True):
            out[first:last] = span.course.before_at(after[first:last] - span.after_start)
        return np.clip(out, 0.0, float(self.before_frames))

    def speed_at(self, after: float) -> float:
        """Source frames for every frame of After, at a frame of it."""
        span = self._span_at(after)
        return float(span.course.speed_at(after - span.after_start))

    @cached_property
    def _starts(self) -> list[int]:
        return [span.after_start for span in self.spans]

    @cached_property
    def _places(self) -> list[float]:
        return [span.course.pieces[0].before for span in self.spans]


@lru_cache(maxsize=32)
def compile_time_map(time: Time, before_frames: int, rate: int, grid: Grid | None = None) -> TimeMap:
    """The time map of a version of a track of ``before_frames`` frames.

    Its length is that along the course, rounded to the nearest frame, and at least 1. grid : of the track; without one
    halftime in bars changes nothing.
    """
    time = time.heard
    course = _course(time, before_frames)
    frames = max(1, round(float(course.after_at(before_frames))))
    pitch = Pitch(
        time.pitch == "linked", time.transposed, time.formants == "kept", 2.0 ** (time.formant_semitones / 12.0)
    )
    if time.halftime == "song":
        return TimeMap((Span(0, frames, course, _at_half_speed(pitch, time)),), before_frames)
    if time.halftime == "off" or grid is None:
        return TimeMap((Span(0, frames, course, pitch),), before_frames)
    edges = _cell_edges(grid, HALFTIME_BARS[time.halftime], before_frames, rate)
    starts = sorted({at for at in map(round, course.after_at(edges).tolist()) if at < frames})
    fade = round(EDGE_SECONDS * rate)
    spans = [Span(0, stop, course, pitch) for stop in [*starts, frames][:1] if stop > 0]
    halved = _at_half_speed(pitch, time)
    for start, stop, cell in zip(starts, [*starts, frames][1:], course.divided(starts), strict=True):
        spans.append(Span(start, stop, cell.magnified(0.5, cell.pieces[0].before), halved, min(fade, start)))
    return TimeMap(tuple(spans), before_frames)


def _at_half_speed(pitch: Pitch, time: Time) -> Pitch:
    """The pitch of what goes at half its speed: the same, or an octave down."""
    ratio = (0.5 if time.octave_down else 1.0) * (2.0 if pitch.follows else 1.0)
    return dataclasses.replace(pitch, transposed=pitch.transposed * ratio)


def fitted_speed(time: Time, before_frames: int, after_frames: float) -> float:
    """The ``speed`` at which the music of a version lasts exactly ``after_frames``; it may be out of range."""
    plain = replace(time, on=True, speed=1.0)
    return float(_course(plain, before_frames).after_at(before_frames)) / after_frames


def _course(time: Time, before_frames: int) -> Course:
    speed = time.speed * (0.5 if time.halftime == "song" else 1.0)
    if not time.curve:
        return Course.steady(speed)
    points = straightened(time.curve)
    places = [0.0, *(point.place * before_frames for point in points)]
    return Course.through(places, [speed * points[0].speed, *(speed * point.speed for point in points)])


def _cell_edges(grid: Grid, bars: int, before_frames: int, rate: int) -> Floats:
    """Where the cells begin in Before, frames."""
    edges = grid.bars_between(grid.first_beat_seconds, before_frames / rate, bars) * rate
    return edges if len(edges) else np.array([grid.first_beat_seconds * rate])
