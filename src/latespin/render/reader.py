"""The reader: After's music, read from the track through the time map, before any colour."""

import threading
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor

import numpy as np

from latespin.dsp.attacks import AttackMap
from latespin.dsp.stretch import Rush, Segment, Stretcher
from latespin.dsp.types import Audio
from latespin.dsp.varispeed import reach, read_at
from latespin.media.track import Track
from latespin.model.timemap import Span, TimeMap, compile_time_map
from latespin.model.version import Time

CACHE_BYTES = 320 << 20
_WORKERS = 2


class Reader:
    """Reads any stretch of After's music, in any order and from any thread, always the same.

    What was stretched is kept (up to 320 MB, the oldest goes first), so that colours can be changed
    without doing it again; varispeed is quicker than keeping it.
    """

    def __init__(
        self,
        track: Track,
        time: Time,
        attacks: AttackMap | None = None,
        stretched: "dict[Span, _StretchedSpan | _RushedSpan] | None" = None,
    ) -> None:
        self.track = track
        self.map: TimeMap = compile_time_map(time, track.frames)
        self._time = time
        self._stretched: dict[Span, _StretchedSpan | _RushedSpan] = stretched or {}
        if stretched is None:
            attacks = attacks or AttackMap(track.sound, track.rate)
            held = [span for span in self.map.spans if span.pitch_ratio != span.speed]
            self._stretched = {span: _StretchedSpan(track, span, attacks) for span in held}

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        out = np.zeros((self.track.sound.shape[0], frames), np.float32)
        for span in self.map.spans:
            first, last = max(start, span.after_start), min(start + frames, span.after_stop)
            if first < last:
                out[:, first - start : last - start] = self._read_span(span, first, last - first)
        return out

    def hasty(self, start: int, frames: int) -> "Reader":
        """A reader for one stream that reads in order from about ``start`` and has to begin at once.

        This one where what ``frames`` need has been stretched already; else what is stretched sounds as good, but
        is not phase by phase what this reader gives.
        """
        if all(span.has(start, frames) for span in self._stretched.values()):
            return self
        return Reader(self.track, self._time, stretched={s: span.rushed() for s, span in self._stretched.items()})

    def _read_span(self, span: Span, start: int, frames: int) -> Audio:
        if span in self._stretched:
            return self._stretched[span].read(start, frames)
        return read_at(self.track.sound, span.before_at(start), span.speed, frames)


class _StretchedSpan:
    """A span whose pitch does not follow its speed: stretched first, then read at the pitch's ratio."""

    def __init__(self, track: Track, span: Span, attacks: AttackMap) -> None:
        self._span = span
        self._stretcher = Stretcher(track.sound, track.rate, span.speed / span.pitch_ratio, attacks)
        self._origin = round(span.before_start / self._stretcher.rate)
        self._kept: OrderedDict[int, Segment] = OrderedDict()
        self._coming: dict[int, Future[Segment]] = {}
        self._bytes = 0
        self._lock = threading.Lock()

    def rushed(self) -> "_RushedSpan":
        """The same for one stream that has to begin at once."""
        return _RushedSpan(self._span, self._stretcher, self._origin)

    def has(self, start: int, frames: int) -> bool:
        """Whether all of a stretch of After is kept."""
        first, last = (
            self._origin + (n - self._span.after_start) * self._span.pitch_ratio for n in (start, start + frames)
        )
        return all(number in self._kept for number in self._stretcher.segments(int(first), int(last)))

    def read(self, start: int, frames: int) -> Audio:
        return _at_pitch(self._span, self._origin, start, frames, self._assemble)

    def _assemble(self, start: int, frames: int) -> Audio:
        """The stretched sound from ``start`` on, added up from its segments."""
        out = np.zeros((self._stretcher.channels, frames), np.float32)
        for segment in self._segments(self._stretcher.segments(start, start + frames)):
            first = max(start, segment.start)
            last = min(start + frames, segment.start + segment.sound.shape[1])
            if first < last:
                out[:, first - start : last - start] += segment.sound[:, first - segment.start : last - segment.start]
        return out

    def _segments(self, numbers: range) -> list[Segment]:
        """Segments, made where they are missing, two at once; the one after them is begun already."""
        with self._lock:
            made = {number: self._kept.get(number) or self._begin(number) for number in numbers}
            if numbers.stop not in self._kept:
                self._begin(numbers.stop)
        return [segment if isinstance(segment, Segment) else segment.result() for segment in made.values()]

    def _begin(self, number: int) -> "Future[Segment]":
        """Have a segment made in the background, once (with the lock held)."""
        if number not in self._coming:
            self._coming[number] = _pool().submit(self._make, number)
        return self._coming[number]

    def _make(self, number: int) -> Segment:
        try:
            segment = self._stretcher.segment(number)
        finally:
            with self._lock:
                self._coming.pop(number, None)
        with self._lock:
            self._kept[number] = segment
            self._bytes += segment.sound.nbytes
            while self._bytes > CACHE_BYTES and len(self._kept) > 1:
                _, oldest = self._kept.popitem(last=False)
                self._bytes -= oldest.sound.nbytes
        return segment


class _RushedSpan:
    """The same span read in order by one stream, from wherever it begins."""

    def __init__(self, span: Span, stretcher: Stretcher, origin: int) -> None:
        self._span, self._stretcher, self._origin = span, stretcher, origin
        self._rush: Rush | None = None
        self._kept = np.zeros((stretcher.channels, 0), np.float32)
        self._start = 0

    def rushed(self) -> "_RushedSpan":
        """Another one."""
        return _RushedSpan(self._span, self._stretcher, self._origin)

    def has(self, start: int, frames: int) -> bool:  # noqa: ARG002 - its stream has only begun
        """Nothing is kept."""
        return False

    def read(self, start: int, frames: int) -> Audio:
        return _at_pitch(self._span, self._origin, start, frames, self._assemble)

    def _assemble(self, start: int, frames: int) -> Audio:
        """The stretched sound from ``start`` on; what was read before ``start`` is forgotten."""
        end = self._start + self._kept.shape[1]
        if self._rush is None or not self._start <= start <= end:
            self._rush = self._stretcher.rush(start)
            self._kept, self._start, end = self._kept[:, :0], start, start
        if start + frames > end:
            self._kept = np.concatenate((self._kept, self._rush.read(start + frames - end)), axis=1)
        self._kept = self._kept[:, start - self._start :]
        self._start = start
        return self._kept[:, :frames]


def _at_pitch(span: Span, origin: int, start: int, frames: int, assemble: Callable[[int, int], Audio]) -> Audio:
    """After frames of a span from the sound that ``assemble`` gives, read at the span's pitch ratio."""
    position = origin + (start - span.after_start) * span.pitch_ratio
    if span.pitch_ratio == 1.0:
        return assemble(int(position), frames)
    margin = reach(span.pitch_ratio) + 2
    first = int(np.floor(position)) - margin
    length = int(np.ceil(frames * span.pitch_ratio)) + 2 * margin + 2
    return read_at(assemble(first, length), position - first, span.pitch_ratio, frames)


_POOL: list[ThreadPoolExecutor] = []
_POOL_LOCK = threading.Lock()


def _pool() -> ThreadPoolExecutor:
    """Threads for stretching several segments at once; the kernels let go of the interpreter lock."""
    with _POOL_LOCK:
        if not _POOL:
            _POOL.append(ThreadPoolExecutor(_WORKERS, thread_name_prefix="stretch"))
        return _POOL[0]


class Readers:
    """The readers of one track that were used last, one for each Time stage."""

    LIMIT = 3

    def __init__(self, track: Track) -> None:
        self.track = track
        self._attacks = AttackMap(track.sound, track.rate)
        self._lock = threading.Lock()
        self._readers: OrderedDict[Time, Reader] = OrderedDict()

    def reader(self, time: Time) -> Reader:
        """The reader for a Time stage; stages that sound alike share one."""
        key = time if time.on else Time()
        with self._lock:
            if key not in self._readers:
                self._readers[key] = Reader(self.track, key, self._attacks)
            self._readers.move_to_end(key)
            while len(self._readers) > self.LIMIT:
                self._readers.popitem(last=False)
            return self._readers[key]
