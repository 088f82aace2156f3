"""The reader: After's music, read from the track through the time map, before any colour."""

import threading
from collections import OrderedDict

import numpy as np

from latespin.dsp.attacks import AttackMap
from latespin.dsp.characters import CHARACTERS
from latespin.dsp.course import Course
from latespin.dsp.stretch import Stretcher, Warp
from latespin.dsp.types import Audio, Floats
from latespin.dsp.varispeed import reach, read_along, read_at
from latespin.media.track import Track
from latespin.model.grid import Grid
from latespin.model.timemap import Span, TimeMap, compile_time_map
from latespin.model.version import HALFTIME_BARS, Time
from latespin.render.stretched import RushedSound, SegmentStore, StretchedSound

AT_ONCE = 1 << 15  # frames read along a changing speed in one go


class Reader:
    """Reads any stretch of After's music, in any order and from any thread, always the same.

    What was stretched is kept, so that colours can be changed without doing it again; varispeed is quicker than keeping it.
    """

    def __init__(self, track: Track, time: Time, grid: Grid | None = None, attacks: AttackMap | None = None) -> None:
        self.track = track
        self.map: TimeMap = compile_time_map(time, track.frames, track.rate, grid)
        attacks = attacks or AttackMap(track.sound, track.rate)
        store = SegmentStore()
        self.parts = [_part(track, time.heard, span, attacks, store, i) for i, span in enumerate(self.map.spans)]

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        self._begin_spans(start, frames)
        return _read_parts(self._between(start, frames), self.track.sound.shape[0], start, frames)

    def has(self, start: int, frames: int) -> bool:
        """Whether all that these frames need has been stretched."""
        return all(part.has(start, frames) for part in self._between(start, frames))

    def approach(self, start: int, frames: int) -> None:
        """Have a little of what these frames need stretched in the background."""
        for part in self._between(start, frames):
            part.approach(start, frames)

    def hasty(self, start: int, frames: int) -> "Reader | HastyReader":
        """A reader for one stream that reads in order from about ``start`` and has to begin at once.

        This one where what ``frames`` need has been stretched already; else what is stretched sounds as good, but
        is not phase by phase what this reader gives.
        """
        return self if self.has(start, frames) else HastyReader(self)

    def _between(self, start: int, frames: int) -> "list[_Part]":
        return [self.parts[i] for i in self.map.spans_between(start, start + frames)]

    def _begin_spans(self, start: int, frames: int) -> None:
        """Where several spans are needed, or soon will be, have them stretched two at once."""
        numbers = self.map.spans_between(start, start + frames)
        needed = self.parts[numbers.start : numbers.stop + 1]
        if len(needed) > 1:
            for part in needed:
                part.begin(max(start, part.span.after_start), min(frames, part.span.after_stop - part.span.after_start))


class HastyReader:
    """A reader for one stream; see :meth:`Reader.hasty`."""

    def __init__(self, reader: Reader) -> None:
        self._reader = reader
        self._rushed: dict[int, _Part] = {}

    def read(self, start: int, frames: int) -> Audio:
        """As the reader's."""
        numbers = self._reader.map.spans_between(start, start + frames)
        self._rushed = {i: self._rushed.get(i) or self._reader.parts[i].rushed() for i in numbers}
        return _read_parts(list(self._rushed.values()), self._reader.track.sound.shape[0], start, frames)


class _Part:
    """One span: its source, which is the track or a stretch of it, read along a course."""

    def __init__(self, track: Track, span: Span, along: Course, source: StretchedSound | RushedSound | None) -> None:
        self._track, self.span, self._along, self._source = track, span, along, source

    def rushed(self) -> "_Part":
        """The same for one stream that has to begin at once."""
        if isinstance(self._source, StretchedSound):
            return _Part(self._track, self.span, self._along, self._source.rushed())
        return self

    def has(self, start: int, frames: int) -> bool:
        """Whether what these frames need has been stretched."""
        return not isinstance(self._source, StretchedSound) or self._source.has(*self._needs(start, frames))

    def begin(self, start: int, frames: int) -> None:
        """Have what these frames need stretched in the background."""
        if isinstance(self._source, StretchedSound):
            self._source.begin(*self._needs(start, frames))

    def approach(self, start: int, frames: int) -> None:
        """Have a little of it stretched."""
        if isinstance(self._source, StretchedSound):
            self._source.approach(*self._needs(start, frames))

    def read(self, start: int, frames: int) -> Audio:
        """Frames of After."""
        time = start - self.span.after_start
        speed = self._along.constant_speed
        if speed is not None:
            return self._read_steadily(float(self._along.before_at(time)), speed, frames)
        blocks = [
            self._read_along(time + done, min(AT_ONCE, frames - done)) for done in range(0, max(1, frames), AT_ONCE)
        ]
        return np.concatenate(blocks, axis=1)

    def _read_steadily(self, position: float, speed: float, frames: int) -> Audio:
        if self._source is None:
            return read_at(self._track.sound, position, speed, frames)
        if speed == 1.0 and position == int(position):
            return self._source.read(int(position), frames)
        first, length = _around(position, position + frames * speed, speed)
        return read_at(self._source.read(first, length), position - first, speed, frames)

    def _read_along(self, time: int, frames: int) -> Audio:
        times = np.arange(time, time + frames)
        places, speeds = self._along.before_at(times), self._along.speed_at(times)
        if self._source is None or frames == 0:
            return read_along(self._track.sound, places, speeds)
        first, length = _around(float(places[0]), float(places[-1]), float(speeds.max()))
        return read_along(self._source.read(first, length), places - first, speeds)

    def _needs(self, start: int, frames: int) -> tuple[int, int]:
        """First frame and number of frames of the source that these frames of After are read from."""
        low = max(start, self.span.after_start - self.span.fade) - self.span.after_start
        high = min(start + frames, self.span.after_stop) - self.span.after_start
        return _source_range(self._along, low, high)


def _part(track: Track, time: Time, span: Span, attacks: AttackMap, store: SegmentStore, number: int) -> _Part:
    """The part for a span: where pitch and speed differ the song is stretched first, then read at the pitch's ratio."""
    if span.turns_only:
        return _Part(track, span, span.course, None)
    ratio = span.pitch.transposed
    if span.pitch.follows:
        along, course = span.course.magnified(ratio), Course.steady(1.0 / ratio)
    else:
        along, course = Course.steady(ratio), span.course.slower(ratio)
    first, length = _source_range(along, -span.fade, span.after_stop - span.after_start)
    stretcher = Stretcher(
        track.sound, track.rate, course, first, first + length, attacks, CHARACTERS[time.character], _warp(span)
    )
    return _Part(track, span, along, StretchedSound(stretcher, store, number))


def _warp(span: Span) -> Warp | None:
    """How the envelope of what is stretched has to be moved before it is read at the pitch's ratio."""
    if not span.moves_formants:
        return None
    pitch = span.pitch

    def warp(places: Floats) -> Floats:
        if not pitch.formants_kept:
            return np.full(len(places), 1.0 / pitch.formant_ratio)
        speeds = span.course.speed_at(span.course.after_at(places)) if pitch.follows else np.ones(len(places))
        return speeds * (pitch.transposed / pitch.formant_ratio)

    return warp


def _source_range(along: Course, low: int, high: int) -> tuple[int, int]:
    places, speeds = along.before_at(np.array([low, high])), along.speed_at(np.array([low, high]))
    return _around(float(places[0]), float(places[1]), float(speeds.max()))


def _around(low: float, high: float, speed: float) -> tuple[int, int]:
    """First frame and number of frames of what is read between two places, with all that has a say in it."""
    margin = reach(speed) + 4
    first = int(np.floor(low)) - margin
    return first, int(np.ceil(high)) + margin - first


def _read_parts(parts: "list[_Part]", channels: int, start: int, frames: int) -> Audio:
    """What all parts give of these frames, each led into the next over its fade."""
    out = np.zeros((channels, frames), np.float32)
    for part in parts:
        span = part.span
        first, last = max(start, span.after_start - span.fade), min(start + frames, span.after_stop)
        if first < last:
            block, there = part.read(first, last - first), slice(first - start, last - start)
            rise = _rise(np.arange(first, last) - span.after_start, span.fade)
            out[:, there] += (block - out[:, there]) * rise
    return out


def _rise(times: np.ndarray, fade: int) -> np.ndarray:
    """From 0 to 1 along a raised cosine over the ``fade`` frames before time 0."""
    if fade == 0:
        return np.ones(len(times), np.float32)
    return (0.5 - 0.5 * np.cos(np.pi * np.clip((times + fade + 0.5) / (fade + 0.5), 0.0, 1.0))).astype(np.float32)


class Readers:
    """The readers of one track and its grid that were used last, one for each Time stage."""

    LIMIT = 3

    def __init__(self, track: Track, grid: Grid | None = None, attacks: AttackMap | None = None) -> None:
        self.track, self.grid = track, grid
        self.attacks = attacks or AttackMap(track.sound, track.rate)
        self._lock = threading.Lock()
        self._readers: OrderedDict[Time, Reader] = OrderedDict()

    def with_grid(self, grid: Grid | None) -> "Readers":
        """The same for another grid; readers that do not go by bars are kept."""
        other = Readers(self.track, grid, self.attacks)
        with self._lock:
            kept = {time: reader for time, reader in self._readers.items() if time.halftime not in HALFTIME_BARS}
        other._readers.update(kept)
        return other

    def reader(self, time: Time) -> Reader:
        """The reader for a Time stage; stages that sound alike share one."""
        key = time.heard
        with self._lock:
            if key not in self._readers:
                self._readers[key] = Reader(self.track, key, self.grid, self.attacks)
            self._readers.move_to_end(key)
            while len(self._readers) > self.LIMIT:
                self._readers.popitem(last=False)
            return self._readers[key]
