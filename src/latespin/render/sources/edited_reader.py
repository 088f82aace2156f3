"""The music with its time bent by moments and an ending: the same parts as the reader's, read otherwise."""

import threading
from typing import Protocol

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.fades import fade_in, raised_cosine
from latespin.dsp.timing.speed_by_time import audible
from latespin.media.track import Track
from latespin.model.timing.time_map import Span, TimeMap
from latespin.render.sources.music_reader import DraftReader, MusicReader, SpanReader, glide_part


class Source(Protocol):
    """Reader of After's music before the effects."""

    track: Track
    map: TimeMap

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        raise NotImplementedError

    def has(self, start: int, frames: int) -> bool:
        """True once everything that these frames need is stretched."""
        raise NotImplementedError

    def approach(self, start: int, frames: int) -> None:
        """Have a little of what these frames need stretched in the background."""

    def draft(self, start: int, frames: int) -> "Source | DraftReader | DraftEditedReader":
        """The same for one stream that reads in order from about ``start`` and must start at once."""
        raise NotImplementedError


class EditedReader:
    """Reads any stretch of bent After, in any order and from any thread, always the same.

    Between two spans the sound is cross-faded; the gains follow how alike both sides are over the fade, so that neither equal
    sounds swell (equal gain) nor unlike ones sag (equal power).
    """

    def __init__(self, reader: MusicReader, time_map: TimeMap) -> None:
        self.track, self.map = reader.track, time_map
        self._reader = reader
        self._glides = {i: glide_part(reader, span) for i, span in enumerate(time_map.spans) if span.glide}
        self._likeness: dict[int, float] = {}
        self._lock = threading.Lock()

    def part(self, number: int) -> SpanReader:
        """Reader of a span."""
        return self._glides.get(number) or self._reader.parts[self.map.spans[number].music]

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        numbers = self.map.spans_between(start, start + frames)
        if len(numbers) > 1:
            for number in numbers:
                self._begin(number, start, frames)
        return self.read_with(self.part, numbers, start, frames, self.likeness)

    def has(self, start: int, frames: int) -> bool:
        """True once everything that these frames need is stretched."""
        numbers = self.map.spans_between(start, start + frames)
        return all(self.part(n).has(*self._needs(n, start, frames)) for n in numbers if not self.map.spans[n].silent)

    def approach(self, start: int, frames: int) -> None:
        """Have a little of what these frames need stretched in the background."""
        for n in self.map.spans_between(start, start + frames):
            if not self.map.spans[n].silent:
                self.part(n).approach(*self._needs(n, start, frames))

    def draft(self, start: int, frames: int) -> "EditedReader | DraftEditedReader":
        """See :meth:`Source.draft`."""
        return self if self.has(start, frames) else DraftEditedReader(self)

    def likeness(self, number: int) -> float:
        """Correlation of a span with the one before it over its fade: 1 identical, 0 unrelated."""
        with self._lock:
            known = self._likeness.get(number)
        if known is None:
            span = self.map.spans[number]
            edge = span.after_start - span.fade, span.fade
            old, new = (_read_span(self.part(n), self.map.spans[n], *edge) for n in (number - 1, number))
            energy = float(np.sqrt(np.vdot(old, old) * np.vdot(new, new)))
            known = max(0.0, float(np.vdot(old, new)) / energy) if energy > 1e-12 else 1.0
            with self._lock:
                self._likeness[number] = known
        return known

    def read_with(self, part_of, numbers: range, start: int, frames: int, likeness) -> Audio:  # type: ignore[no-untyped-def]
        """The sound of spans at some frames, crossfaded from each to the next; ``part_of`` and ``likeness`` take a span's number."""
        out = np.zeros((self.track.sound.shape[0], frames), np.float32)
        for number in numbers:
            span = self.map.spans[number]
            first, last = max(start, span.after_start - span.fade), min(start + frames, span.after_stop)
            if first >= last:
                continue
            block, there = _read_span(part_of(number), span, first, last - first), slice(first - start, last - start)
            if first >= span.after_start:
                out[:, there] = block
                continue
            up, down = _gains(np.arange(first, last, dtype=np.float64) - span.after_start, span.fade, likeness(number))
            out[:, there] = block * up + out[:, there] * down
        return out

    def _begin(self, number: int, start: int, frames: int) -> None:
        if not self.map.spans[number].silent:
            self.part(number).begin(*self._needs(number, start, frames))

    def _needs(self, number: int, start: int, frames: int) -> tuple[int, int]:
        """The frames of the music that a span needs for some frames of After."""
        span = self.map.spans[number]
        low = max(start, span.after_start - span.fade) - span.after_start
        high = max(low, min(start + frames, span.after_stop) - span.after_start)
        part = self.part(number)
        if span.bend is None or span.glide:
            return part.span.after_start + low, high - low
        ends = span.bend.before_at(np.array([low, high], dtype=np.float64))
        first = int(np.floor(ends.min()))
        return part.span.after_start + first, int(np.ceil(ends.max())) - first


class DraftEditedReader:
    """An edited reader for one stream. Unstretched passages sound as good, but their phases differ from the cached ones."""

    def __init__(self, reader: EditedReader) -> None:
        self._reader = reader
        self._forward: dict[int, SpanReader] = {}
        self._held: dict[int, SpanReader] = {}

    def read(self, start: int, frames: int) -> Audio:
        """Like the reader's."""
        numbers = self._reader.map.spans_between(start, start + frames)
        return self._reader.read_with(self._part, numbers, start, frames, self._likeness)

    def _likeness(self, number: int) -> float:
        """Correlation without measuring: 1 where a span continues the one before, else 0."""
        return 1.0 if self._reader.map.goes_on(number) else 0.0

    def _part(self, number: int) -> SpanReader:
        span, part = self._reader.map.spans[number], self._reader.part(number)
        if span.backwards and part.stretched:
            if number not in self._held:
                self._held = {number: _held(part, span)}  # of one span at a time
            return self._held[number]
        if id(part) not in self._forward:
            self._forward[id(part)] = part.forward()
        return self._forward[id(part)]


def _held(part: SpanReader, span: Span) -> SpanReader:
    """A forward stretch that holds all a span needs which plays backwards."""
    assert span.bend is not None
    frames = span.after_stop - span.after_start
    held = part.forward(forgets=False)
    held.read(part.span.after_start + round(span.bend.place_at(0.0)) - frames, frames + span.fade)
    return held


def _read_span(part: SpanReader, span: Span, start: int, frames: int) -> Audio:
    """Frames of After as one span has them."""
    time = start - span.after_start
    if span.silent:
        return np.zeros((part.channels, frames), np.float32)
    if span.glide or span.bend is None:
        block = part.read(part.span.after_start + time, frames)
    else:
        block = _read_bent(part, span, time, frames)
    if span.leave and start + frames > span.after_stop - span.leave:
        at = np.arange(start, start + frames) - (span.after_stop - span.leave)
        block = block * np.where(at < 0, 1.0, 1.0 - fade_in(span.leave)[np.clip(at, 0, span.leave - 1)]).astype(
            np.float32
        )
    return block


def _read_bent(part: SpanReader, span: Span, time: int, frames: int) -> Audio:
    bend = span.bend
    assert bend is not None
    first = part.span.after_start + float(bend.before_at(time))
    if bend.constant_speed == 1.0 and first == round(first):
        return part.read(round(first), frames)
    if span.backwards and first == round(first):
        return np.ascontiguousarray(part.read(round(first) - frames, frames)[:, ::-1])
    times = np.arange(time, time + frames, dtype=np.float64)
    speeds = np.abs(bend.speed_at(times))
    return part.read_bent(bend.before_at(times), speeds) * audible(speeds).astype(np.float32)


def _gains(times: Floats, fade: int, likeness: float) -> tuple[Audio, Audio]:
    """Gains of the new and the old sound at times before the new one is alone, so that their sum keeps its power."""
    up = np.ones(len(times))
    if fade:
        up = raised_cosine(np.clip((times + fade + 0.5) / (fade + 0.5), 0.0, 1.0))
    down = 1.0 - up
    power = np.sqrt(up * up + down * down + 2.0 * likeness * up * down)
    return (up / power).astype(np.float32), (down / power).astype(np.float32)
