"""The time map: from positions in Before to positions in After, and back.

It is a list of spans without gaps. The reader reads the source through it, the waveforms draw their threads
from it, and Before/After switching uses it both ways. Span edges in After are whole frames.

The Time stage alone gives a map of *music*; moments and endings bend that (:mod:`latespin.model.arranging.time_edits`) into the map of After.
"""

import bisect
import dataclasses
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from msgspec.structs import replace

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.tempo_curve import straightened
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
    """After frames ``after_start`` to ``after_stop`` sound Before along ``speeds``, whose time is 0 there.

    fade : frames before ``after_start`` over which it comes in while the span before goes.
    bend : the time of ``speeds`` at a time of the span; None where both run evenly.
    music : number of the span of the music's map it reads.  leave : frames at its end over which it fades to nothing.
    silent : nothing sounds.  glide : how far its pitch has been moved on top, semitones at evenly spaced times, or none.
    """

    after_start: int
    after_stop: int
    speeds: SpeedByPosition
    pitch: Pitch
    fade: int = 0
    bend: SpeedByTime | None = None
    music: int = 0
    leave: int = 0
    silent: bool = False
    glide: tuple[float, ...] = ()

    def before_of(self, after: Floats) -> Floats:
        """The source frames that sound at frames of After."""
        time = after - self.after_start
        return self.speeds.before_at(self.bend.before_at(time) if self.bend else time)

    def after_of(self, before: Floats) -> Floats:
        """The frames of After at which source frames sound."""
        time = self.speeds.after_at(before)
        return self.after_start + (self.bend.after_at(time) if self.bend else time)

    def speed_at(self, after: float) -> float:
        """Source frames for every frame of After; negative where it goes backwards."""
        time = after - self.after_start
        if self.bend is None:
            return float(self.speeds.speed_at(time))
        return float(self.speeds.speed_at(self.bend.before_at(time)) * self.bend.speed_at(time))

    @property
    def backwards(self) -> bool:
        """Whether it is read from its end to its start."""
        return self.bend is not None and self.bend.constant_speed == -1.0

    def place_at(self, after: float) -> float:
        """The source frame that sounds at one frame of After."""
        time = after - self.after_start
        return self.speeds.place_at(self.bend.place_at(time) if self.bend else time)

    @property
    def place(self) -> float:
        """The source frame at its start."""
        return self.place_at(float(self.after_start))

    @property
    def moves_formants(self) -> bool:
        """True if the formants differ from those that the pitch alone would give."""
        pitch = self.pitch
        moved = pitch.transposed != 1.0 or (pitch.follows and self.speeds.constant_speed != 1.0)
        return pitch.formant_ratio != 1.0 or (pitch.formants_kept and moved)

    @property
    def turns_only(self) -> bool:
        """True if reading at that speed gives the pitch, so that no stretching is needed."""
        pitch = self.pitch
        as_turned = pitch.transposed == 1.0 if pitch.follows else self.speeds.constant_speed == pitch.transposed
        return as_turned and not self.moves_formants


@dataclass(frozen=True)
class ClockSegment:
    """From frame ``music`` of the music, the song's clock continues at frame ``after`` of After, along ``bend`` if there is one."""

    music: int
    after: int
    bend: SpeedByTime | None = None


@dataclass(frozen=True)
class TimeMap:
    """Spans in order of After, the first from frame 0. Both lengths in frames at the track's rate.

    music : the map of the Time stage alone, where moments or an ending bend it, and ``clock`` how the song's time goes on in After then:
    a moment that keeps time leaves the clock alone, one that adds time holds it up.
    """

    spans: tuple[Span, ...]
    before_frames: int
    music: "TimeMap | None" = None
    clock: tuple[ClockSegment, ...] = ()

    @property
    def after_frames(self) -> int:
        """The length of the music in After, without reverb tails."""
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
        return min(max(self._span_at(after).place_at(after), 0.0), float(self.before_frames))

    def after_at(self, before: float) -> float:
        """Like :meth:`after_of_all`, for one frame."""
        return float(self.after_of_all(np.array([before]))[0])

    def before_of_all(self, after: Floats) -> Floats:
        """The source frames that sound at frames of After, in ascending order; the nearest there are outside the music."""
        out = np.zeros(len(after))
        edges = np.searchsorted(after, [*self._starts, np.inf])
        edges[0] = 0
        for span, first, last in zip(self.spans, edges[:-1], edges[1:], strict=True):
            if last > first:
                out[first:last] = span.before_of(after[first:last])
        return np.clip(out, 0.0, float(self.before_frames))

    def after_of_all(self, before: Floats) -> Floats:
        """The frames of After at which the song's clock is at source frames: where they sound, wherever time is not bent.

        Within a moment that keeps time it is where they would have sounded; where they never do, where they are passed over.
        """
        if self.music is not None:
            return self.after_of_music(self.music.after_of_all(before))
        if len(self.spans) == 1:
            return np.clip(self.spans[0].after_of(before), self.spans[0].after_start, self.spans[0].after_stop)
        out = np.zeros(len(before))
        which = np.maximum(np.searchsorted(self._places, before, "right") - 1, 0)
        for number in np.unique(which).tolist():
            span, there = self.spans[number], which == number
            out[there] = np.clip(span.after_of(before[there]), span.after_start, span.after_stop)
        return out

    def clock_at(self, after: float) -> float:
        """The source frame at which the song's clock is at a frame of After: the inverse of :meth:`after_at` while the clock runs.

        Unlike :meth:`before_at` it does not go back with a stutter, nor stand still in the silence after a stop that keeps time.
        """
        if self.music is None:
            return self.before_at(after)
        return self.music.clock_at(self.song_frame_at(after))

    def song_frame_at(self, after: float) -> float:
        """The frame of ``music`` at which the song's clock is at a frame of After."""
        if self.music is None:
            return after
        number = max(0, bisect.bisect_right([leg.after for leg in self.clock], after) - 1)
        leg, way = self.clock[number], after - self.clock[number].after
        music = leg.music + (leg.bend.place_at(way) if leg.bend else way)
        last = self.clock[number + 1].music if number + 1 < len(self.clock) else self.music.after_frames
        return min(music, float(last))

    def first_heard(self, before: Floats, start: float, stop: float) -> Floats:
        """Of what sounds between two frames of After: when source frames, in ascending order, do first, going forwards; NaN where they never do."""
        out = np.full(len(before), np.nan)
        for number in self._spans_within(start, stop) if len(before) else ():
            span = self.spans[number]
            first, last = span.place, span.place_at(float(span.after_stop))
            if span.silent or last <= before[0] or first > before[-1] + 1e-6 or span.backwards:
                continue
            low, high = np.searchsorted(before, [first - 1e-6, last - 1e-6])
            part = out[low:high]
            if high > low and np.isnan(part).any():
                part[:] = np.where(np.isnan(part), span.after_of(before[low:high]), part)
        return out

    def jumps(self, start: float, stop: float) -> list[tuple[float, int]]:
        """Jumps between two frames of After: the source frame that begins to sound, and when."""
        found = []
        for number in self._spans_within(start, stop):
            later = self.spans[number]
            if number > 0 and not later.silent and not self.goes_on(number):
                found.append((later.place, later.after_start))
        return found

    def goes_on(self, number: int) -> bool:
        """Whether a span begins where the one before it ends, in the same direction."""
        later, earlier = self.spans[number], self.spans[number - 1]
        same = abs(later.place - earlier.place_at(float(later.after_start))) <= 2.0
        return same and later.backwards == earlier.backwards

    def _spans_within(self, start: float, stop: float) -> range:
        """The numbers of the spans between two frames of After."""
        return range(max(0, bisect.bisect_right(self._starts, start) - 1), bisect.bisect_left(self._starts, stop))

    def speed_at(self, after: float) -> float:
        """Source frames for every frame of After, at a frame of it."""
        return self._span_at(after).speed_at(after)

    def after_of_music(self, music: Floats) -> Floats:
        """The frames of After at which the song's clock is at frames of the music, which is After itself where nothing bends it."""
        if self.music is None:
            return music
        starts = [leg.music for leg in self.clock]
        which = np.maximum(np.searchsorted(starts, music, "right") - 1, 0)
        out = np.zeros(len(music))
        for number in np.unique(which).tolist():
            leg, there = self.clock[number], which == number
            way = music[there] - leg.music
            out[there] = leg.after + (leg.bend.after_at(way) if leg.bend else way)
            if number + 1 < len(self.clock):
                out[there] = np.minimum(out[there], self.clock[number + 1].after)
        return np.minimum(out, float(self.after_frames))

    @cached_property
    def _starts(self) -> list[int]:
        return [span.after_start for span in self.spans]

    @cached_property
    def _places(self) -> list[float]:
        return [span.speeds.pieces[0].before for span in self.spans]


@lru_cache(maxsize=32)
def compile_time_map(time: Time, before_frames: int, rate: int, grid: Grid | None = None) -> TimeMap:
    """The time map of a version of a track of ``before_frames`` frames.

    Its length is rounded to the nearest frame, and at least 1. grid : of the track; without one
    halftime in bars changes nothing.
    """
    time = time.heard
    speeds = _speeds(time, before_frames)
    frames = max(1, round(float(speeds.after_at(before_frames))))
    pitch = Pitch(
        time.pitch == "linked", time.transposed, time.formants == "kept", 2.0 ** (time.formant_semitones / 12.0)
    )
    if time.halftime == "song":
        return TimeMap((Span(0, frames, speeds, _at_half_speed(pitch, time)),), before_frames)
    if time.halftime == "off" or grid is None:
        return TimeMap((Span(0, frames, speeds, pitch),), before_frames)
    edges = _cell_edges(grid, HALFTIME_BARS[time.halftime], before_frames, rate)
    starts = sorted({at for at in map(round, speeds.after_at(edges).tolist()) if at < frames})
    fade = round(EDGE_SECONDS * rate)
    spans = [Span(0, stop, speeds, pitch) for stop in [*starts, frames][:1] if stop > 0]
    halved = _at_half_speed(pitch, time)
    for start, stop, cell in zip(starts, [*starts, frames][1:], speeds.divided(starts), strict=True):
        spans.append(Span(start, stop, cell.magnified(0.5, cell.pieces[0].before), halved, min(fade, start)))
    return TimeMap(tuple(spans), before_frames)


def _at_half_speed(pitch: Pitch, time: Time) -> Pitch:
    """The pitch of what goes at half its speed: the same, or an octave down."""
    ratio = (0.5 if time.octave_down else 1.0) * (2.0 if pitch.follows else 1.0)
    return dataclasses.replace(pitch, transposed=pitch.transposed * ratio)


def fitted_speed(time: Time, before_frames: int, after_frames: float) -> float:
    """The ``speed`` at which the music of a version lasts exactly ``after_frames``; it may be out of range."""
    plain = replace(time, on=True, speed=1.0)
    return float(_speeds(plain, before_frames).after_at(before_frames)) / after_frames


def _speeds(time: Time, before_frames: int) -> SpeedByPosition:
    speed = time.speed * (0.5 if time.halftime == "song" else 1.0)
    if not time.curve:
        return SpeedByPosition.steady(speed)
    points = straightened(time.curve)
    places = [0.0, *(point.place * before_frames for point in points)]
    return SpeedByPosition.through(places, [speed * points[0].speed, *(speed * point.speed for point in points)])


def _cell_edges(grid: Grid, bars: int, before_frames: int, rate: int) -> Floats:
    """Starts of the cells in Before, frames; a cell that begins before the song starts with it."""
    edges = grid.bars_between(grid.first_beat_seconds, before_frames / rate, bars) * rate
    if not len(edges):
        edges = np.array([grid.first_beat_seconds * rate])
    begun = int(np.searchsorted(edges, 0.0, "right")) - 1
    return np.maximum(edges[max(0, begun) :], 0.0)
