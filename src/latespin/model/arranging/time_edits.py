"""Bending the music's time: what moments and an ending do to the time map, laid span by span, to the frame."""

import dataclasses
import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_time import SpeedByTime, knots, slowing
from latespin.model.moments.curves import glide_of, speeds_of
from latespin.model.moments.declaration import Moment
from latespin.model.moments.endings import TapeStopEnd
from latespin.model.moments.moments import Cover, Dip, PitchGlide, Ramp, Reverse, SpinUp, Stutter, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import FINEST, Layout
from latespin.model.timing.time_map import ClockSegment, Span, TimeMap, compile_time_map
from latespin.model.values.note_values import beats_of
from latespin.model.version import Time

EDGE_SECONDS, LONG_EDGE_SECONDS = 0.005, 0.012
SHORT_EDGE_SECONDS = 0.0025  # over which the song comes back after silence, before its beat
HUSH_SECONDS = 0.005  # of silence at the end of a stop
LEAST_FRAMES = 1024  # of the music that a moment takes up
BLIND_BEAT_SECONDS = 0.5  # a beat where there is no grid
LEAST_REPEAT_SECONDS = 0.004  # less of a repeat is not begun at the end
COVER_STOP_SECONDS = 0.6  # a tape stop that covers a word takes no longer


@dataclass(frozen=True)
class MusicRange:
    """Frames ``start`` to ``stop`` of the music that a moment takes up."""

    moment: Moment
    start: int
    stop: int


@dataclass(frozen=True, eq=False)
class Music:
    """The map of the Time stage, and where beats lie in it."""

    map: TimeMap
    rate: int
    grid: Grid | None

    @property
    def frames(self) -> int:
        """Its length."""
        return self.map.after_frames

    def frames_of(self, seconds: Floats) -> Floats:
        """The frames of the music at which seconds of the track sound, not rounded."""
        return self.map.after_of_all(np.asarray(seconds, dtype=np.float64) * self.rate)

    def beats_on(self, frame: int, beats: Floats) -> Floats:
        """The frames so many beats after one; half a second each where there is no grid. Beyond the song its last tempo goes on."""
        beats = np.asarray(beats, dtype=np.float64)
        if self.grid is None:
            return frame + beats * BLIND_BEAT_SECONDS * self.rate
        here = self._number_at(frame)
        places = self.grid.seconds_of(here + beats) * self.rate
        inside = self.frames_of(np.clip(places, 0.0, self.map.before_frames) / self.rate)
        speed = max(1e-3, self.map.speed_at(min(frame, self.frames - 1)))
        beyond = np.maximum(0.0, places - self.map.before_frames) / speed
        ahead = np.minimum(0.0, places) / speed
        return inside + beyond + ahead

    def _number_at(self, frame: int) -> float:
        """The number of the beat at a frame; a whole part of one where that rounds to this frame."""
        assert self.grid is not None
        exact = float(self.grid.number_at(self.map.before_at(frame) / self.rate))
        near = round(exact * FINEST) / FINEST
        at = float(self.frames_of(self.grid.seconds_of(np.array([near])))[0])
        return near if abs(at - frame) <= 0.51 else exact


@lru_cache(maxsize=8)
def music_of(time: Time, layout: Layout) -> Music:
    """The music of a Time stage of a song laid out so."""
    return Music(compile_time_map(time, layout.frames, layout.rate, layout.grid), layout.rate, layout.grid)


class TimeMapBuilder:
    """Spans laid one after the other; ``music`` and ``after`` are where the next one begins."""

    def __init__(self, music: Music) -> None:
        self.song = music
        self.music = self.after = 0
        self.spans: list[Span] = []
        self.clock: list[ClockSegment] = [ClockSegment(0, 0)]
        self._fade = 0

    def edge(self, seconds: float) -> int:
        """Frames of a cross-fade."""
        return round(seconds * self.song.rate)

    def lead_in(self, frames: int) -> None:
        """The next span comes in over the frames before it."""
        self._fade = frames

    def straight(self, stop: int) -> None:
        """The music as it is, up to one of its frames."""
        if stop > self.music:
            self.bent(SpeedByTime.straight(float(self.music)), stop - self.music)
            self.music = stop

    def silence(self, frames: int) -> None:
        """Nothing, standing where the music stopped."""
        if frames > 0:
            self._add(SpeedByTime.straight(float(min(self.music, self.song.frames - 1)), 0.0), frames, silent=True)

    def bent(self, bend: SpeedByTime, frames: int, *, leave: int = 0, glide: Floats | None = None) -> None:
        """Frames of After along a bend, whose places are frames of the music."""
        cuts = self._cuts(bend, frames)
        for start, stop in zip((0, *cuts), (*cuts, frames), strict=True):
            part = bend.since(start) if start else bend
            shape = (
                glide[round(start / frames * (len(glide) - 1)) : round(stop / frames * (len(glide) - 1)) + 1]
                if glide is not None
                else None
            )
            self._add(part, stop - start, leave=leave if stop == frames else 0, glide=shape)

    def resume(self, music: int, *, keeps: bool, since: tuple[int, int], bend: SpeedByTime | None = None) -> None:
        """Go on with a frame of the music, after a moment that began at ``since`` (music, After), and say what the clock does meanwhile."""
        began, laid = since
        if not keeps:
            self.clock.append(
                ClockSegment(began, laid, bend.moved(-float(began)) if bend else SpeedByTime.straight(0.0))
            )
            self.clock.append(ClockSegment(music, self.after))
        self.music = music

    def _cuts(self, bend: SpeedByTime, frames: int) -> list[int]:
        """Where within a bend the music goes from one of its spans to another."""
        spans = self.song.map.spans
        if len(spans) == 1:
            return []
        ends = bend.before_at(np.array([0.0, float(frames)]))
        borders = np.array([span.after_start for span in spans[1:]], dtype=np.float64)
        inside = borders[(borders > ends.min()) & (borders < ends.max())]
        times = np.sort(np.ceil(bend.after_at(inside) - 1e-6)).astype(np.int64)
        return [t for t in times.tolist() if 0 < t < frames]

    def _add(
        self, bend: SpeedByTime, frames: int, *, leave: int = 0, silent: bool = False, glide: Floats | None = None
    ) -> None:
        if frames <= 0:
            return
        middle = bend.place_at(min(0.5, frames / 2.0))
        spans = self.song.map.spans
        number = max(0, min(len(spans) - 1, sum(span.after_start <= middle for span in spans) - 1))
        source = spans[number]
        at_border = bend.constant_speed == 1.0 and int(bend.place_at(0.0)) == source.after_start and number > 0
        fade = max(self._fade, source.fade if at_border and self.spans else 0)
        room = self.spans[-1].after_stop - self.spans[-1].after_start if self.spans else 0
        moved = bend.moved(-float(source.after_start))
        plain = moved == SpeedByTime.straight(0.0) and not silent
        self.spans.append(
            Span(
                self.after, self.after + frames, source.course, source.pitch, min(fade, room),
                None if plain else moved, number, min(leave, frames), silent,
                tuple(np.asarray(glide).tolist()) if glide is not None else (),
            )
        )  # fmt: skip
        self._fade = 0
        self.after += frames


def lay(
    music: Music, stretches: list[MusicRange], stop: int, ending: "TapeStopEnd | None", ending_frames: int
) -> tuple[TimeMap, list[tuple[int, int]]]:
    """The map of After: the music up to ``stop`` with moments that do not overlap, in order, and perhaps a tape stop at its end.

    With it, from which frame of After to which each of the moments lasts: shorter, or not at all, where one before it that speeds up and adds
    time has already read on into it.
    """
    laying = TimeMapBuilder(music)
    lasting = []
    for wanted in stretches:
        laying.straight(wanted.start)
        first = laying.after
        stretch = dataclasses.replace(wanted, start=max(wanted.start, laying.music))
        if (
            wanted.start < laying.music and stretch.stop - stretch.start < LEAST_FRAMES
        ):  # what speeds up before it has read on beyond its end
            lasting.append((first, first))
            continue
        _LAID[type(stretch.moment)](laying, stretch)
        lasting.append((first, laying.after))
    laying.straight(stop)
    if ending is not None:
        share = ending.second_percent / 100.0 if ending.two_stages else 0.0
        began = (laying.music, laying.after)
        bend = _stop(laying, slowing(knots(), ending.tension, 1.0, share), ending_frames, 0)
        laying.resume(laying.music, keeps=False, since=began, bend=bend)
    elif stop < music.frames and laying.spans:
        last = laying.spans[-1]
        leave = min(last.after_stop - last.after_start, laying.edge(2 * EDGE_SECONDS))
        laying.spans[-1] = dataclasses.replace(last, leave=leave)
    return TimeMap(tuple(laying.spans), music.map.before_frames, music.map, tuple(laying.clock)), lasting


def _stop(laying: TimeMapBuilder, speeds: Floats, frames: int, gap: int, back: int = 0) -> SpeedByTime:
    """A slow-down, the silence at its end, and how it went. back : frames over which something comes in again before its end."""
    hush = max(gap, laying.edge(HUSH_SECONDS) + back)
    length = max(1, frames - hush)
    bend = SpeedByTime.through(speeds, float(length), float(laying.music), whole=True)
    laying.bent(bend, length, leave=laying.edge(2 * EDGE_SECONDS))
    laying.music = round(float(bend.before_at(length)))
    laying.silence(frames - length)
    return bend


def _tape_stop(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, TapeStop)
    frames = stretch.stop - stretch.start
    share = moment.second_percent / 100.0 if moment.two_stages else 0.0
    speeds = slowing(knots(), moment.tension, moment.depth_percent / 100.0, share)
    gap = round(frames * moment.gap_percent / 100.0)
    if moment.depth_percent < 100.0 and gap == 0:
        _bent_and_back(
            laying,
            stretch,
            SpeedByTime.through(speeds, float(frames), float(stretch.start), whole=True),
            moment.time == "keep",
        )
        return
    back = laying.edge(SHORT_EDGE_SECONDS)
    bend = _stop(laying, speeds, frames, gap, back)
    _come_back(laying, stretch, moment.time == "keep", laying.music, began, bend)
    laying.lead_in(back)


def _bent_and_back(laying: TimeMapBuilder, stretch: MusicRange, bend: SpeedByTime, keeps: bool) -> None:
    """All of the stretch along a bend, then the song again."""
    began, frames = (laying.music, laying.after), stretch.stop - stretch.start
    laying.bent(bend, frames)
    _come_back(laying, stretch, keeps, round(float(bend.before_at(frames))), began, bend)


def _come_back(
    laying: TimeMapBuilder,
    stretch: MusicRange,
    keeps: bool,
    stopped: int,
    began: tuple[int, int],
    bend: SpeedByTime | None,
) -> None:
    """Go on where the song would have been, or where it stopped."""
    laying.resume(stretch.stop if keeps else stopped, keeps=keeps, since=began, bend=bend)
    laying.lead_in(
        laying.edge(LONG_EDGE_SECONDS if isinstance(stretch.moment, Dip | Ramp | PitchGlide) else EDGE_SECONDS)
    )


def _spin_up(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, frames = stretch.moment, stretch.stop - stretch.start
    assert isinstance(moment, SpinUp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    read = round(float(SpeedByTime.through(speeds, float(frames), whole=True).before_at(frames)))
    keeps = moment.time == "keep"
    bend = SpeedByTime.through(
        speeds, float(frames), float(stretch.stop - read if keeps else stretch.start), whole=True
    )
    began = (laying.music, laying.after)
    laying.lead_in(laying.edge(EDGE_SECONDS))
    laying.bent(bend, frames)
    laying.resume(stretch.stop if keeps else stretch.start + read, keeps=keeps, since=began, bend=bend)


def _dip(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment = stretch.moment
    assert isinstance(moment, Dip)
    sag = speeds_of(moment, knots())
    assert sag is not None
    bend = SpeedByTime.through(sag, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    _bent_and_back(laying, stretch, bend, moment.time == "keep")


def _ramp(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment = stretch.moment
    assert isinstance(moment, Ramp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    bend = SpeedByTime.through(speeds, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    read = float(bend.before_at(stretch.stop - stretch.start))
    if read > laying.song.frames:  # the song ends under it
        speeds = speeds * ((laying.song.frames - stretch.start) / (read - stretch.start))
        bend = SpeedByTime.through(speeds, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    _bent_and_back(laying, stretch, bend, moment.time == "keep")


def _pitch_glide(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, frames = stretch.moment, stretch.stop - stretch.start
    assert isinstance(moment, PitchGlide)
    laying.lead_in(laying.edge(LONG_EDGE_SECONDS))
    laying.bent(SpeedByTime.straight(float(stretch.start)), frames, glide=glide_of(moment, knots()))
    _come_back(laying, stretch, True, stretch.stop, (0, 0), None)


def _stutter(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, Stutter)
    for start, stop, place, backwards in repeats(moment, laying.song, stretch):
        _repeat(laying, start, stop, place, backwards=backwards)
    _come_back(laying, stretch, moment.time == "keep", stretch.start, began, None)


def _repeat(laying: TimeMapBuilder, start: int, stop: int, place: int, *, backwards: bool) -> None:
    """One repeat: frames ``start`` to ``stop`` of the moment's stretch play a slice that begins at ``place``."""
    frames = stop - start
    laying.lead_in(min(laying.edge(EDGE_SECONDS), frames // 3))
    bend = SpeedByTime.straight(float(place + frames), -1.0) if backwards else SpeedByTime.straight(float(place))
    laying.bent(bend, frames)


Repeats = tuple[tuple[int, int, int, bool], ...]


@lru_cache(maxsize=64)
def repeats(moment: Stutter | Cover, music: Music, stretch: MusicRange) -> Repeats:
    """Start and stop, frames of the music, of every repeat, where its slice begins, and whether it is played backwards."""
    turning = isinstance(moment, Stutter) and moment.turning
    if isinstance(moment, Stutter) and moment.free:
        length = round(moment.slice_ms * music.rate / 1000.0)  # whole: a slice now longer, now shorter hisses
        edges = stretch.start + length * np.arange(math.ceil((stretch.stop - stretch.start) / length - 1e-6) + 1.0)
        return _between(edges, stretch.stop, max(0, stretch.start - length), music.rate, turning)
    values = moment.values if isinstance(moment, Stutter) else (moment.value,)
    total = _beats_between(music, stretch)
    found: list[tuple[int, int, int, bool]] = []
    for i, value in enumerate(values):
        beats = beats_of(value)
        first, last = total * i / len(values), total * (i + 1) / len(values)
        counts = first + beats * np.arange(math.ceil((last - first) / beats - 1e-6) + 1.0)
        *edges_of, place, end = music.beats_on(stretch.start, np.array([*counts, -beats, last])).tolist()
        stop = stretch.stop if i == len(values) - 1 else min(stretch.stop, round(end))
        found += _between(np.array(edges_of), stop, max(0, round(place)), music.rate, turning, len(found))
    return tuple(found)


def _between(edges: Floats, stop: int, place: int, rate: int, turning: bool, before: int = 0) -> Repeats:
    """Repeats between edges, the last one to ``stop``; ``before`` is how many there were already."""
    at = [min(stop, round(edge)) for edge in edges.tolist()]
    at[-1] = stop
    if len(at) > 2 and at[-1] - at[-2] < LEAST_REPEAT_SECONDS * rate:
        del at[-2]
    pairs = [(start, end) for start, end in itertools.pairwise(at) if end > start]
    return tuple((start, end, place, turning and (before + i) % 2 == 1) for i, (start, end) in enumerate(pairs))


def _beats_between(music: Music, stretch: MusicRange) -> float:
    """How many beats a stretch of the music lasts."""
    if music.grid is None:
        return (stretch.stop - stretch.start) / (BLIND_BEAT_SECONDS * music.rate)
    numbers = music.grid.number_at(music.map.before_of_all(np.array([stretch.start, stretch.stop], float)) / music.rate)
    return float(numbers[1] - numbers[0])


def _reverse(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began, frames = stretch.moment, (laying.music, laying.after), stretch.stop - stretch.start
    assert isinstance(moment, Reverse)
    keeps = moment.time == "keep"
    frames = frames if keeps else min(frames, stretch.start)
    laying.lead_in(laying.edge(EDGE_SECONDS))
    laying.bent(SpeedByTime.straight(float(stretch.stop if keeps else stretch.start), -1.0), frames)
    _come_back(laying, stretch, keeps, stretch.start, began, None)


def _cover(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    """Nothing outside the stretch changes: it is come into within it, and left within it."""
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, Cover)
    edge = min(laying.edge(EDGE_SECONDS), (stretch.stop - stretch.start) // 4)
    laying.straight(stretch.start + edge)
    inner = MusicRange(moment, stretch.start + edge, stretch.stop)
    frames = inner.stop - inner.start
    laying.lead_in(edge)
    if moment.way == "silence":
        laying.silence(frames)
    elif moment.way == "reverse":
        laying.bent(SpeedByTime.straight(float(stretch.stop), -1.0), frames)
    elif moment.way == "tape-stop":
        stop = min(frames, round(COVER_STOP_SECONDS * laying.song.rate))
        _stop(laying, slowing(knots(), 0.0, 1.0, 0.33), stop, 0)
        laying.silence(frames - stop)
    else:
        for i, (start, end, place, _) in enumerate(repeats(moment, laying.song, stretch)):
            first = max(start, inner.start)
            if end > first:
                _repeat(laying, first, end, place + first - start, backwards=False)
                if i == 0:
                    laying.spans[-1] = dataclasses.replace(laying.spans[-1], fade=edge)
    _come_back(laying, stretch, True, stretch.stop, began, None)
    laying.lead_in(edge)


_LAID: dict[type[Moment], Callable[[TimeMapBuilder, MusicRange], None]] = {
    TapeStop: _tape_stop, SpinUp: _spin_up, Dip: _dip, Ramp: _ramp, PitchGlide: _pitch_glide, Stutter: _stutter,
    Reverse: _reverse, Cover: _cover,
}  # fmt: skip
