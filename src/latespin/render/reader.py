"""The reader: After's music, read from the track through the time map, before any colour."""

import threading
from collections import OrderedDict
from concurrent.futures import ThreadPoolExecutor

import numpy as np

from latespin.dsp.stretch import Segment, Stretcher
from latespin.dsp.types import Audio
from latespin.dsp.varispeed import reach, read_at
from latespin.media.track import Track
from latespin.model.timemap import Span, TimeMap, compile_time_map
from latespin.model.version import Time

CACHE_BYTES = 320 << 20
_WORKERS = 2


class Reader:
    """Reads any stretch of After's music, in any order and from any thread, always the same.

    What was stretched is kept (up to 320 MB, the longest unused goes first), so that colours can be changed
    without doing it again; varispeed is quicker than keeping it.
    """

    def __init__(self, track: Track, time: Time) -> None:
        self.track = track
        self.map: TimeMap = compile_time_map(time, track.frames)
        self._stretched = {
            span: _StretchedSpan(track, span) for span in self.map.spans if span.pitch_ratio != span.speed
        }

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        out = np.zeros((self.track.sound.shape[0], frames), np.float32)
        for span in self.map.spans:
            first, last = max(start, span.after_start), min(start + frames, span.after_stop)
            if first < last:
                out[:, first - start : last - start] = self._read_span(span, first, last - first)
        return out

    def _read_span(self, span: Span, start: int, frames: int) -> Audio:
        if span in self._stretched:
            return self._stretched[span].read(start, frames)
        return read_at(self.track.sound, span.before_at(start), span.speed, frames)


class _StretchedSpan:
    """A span whose pitch does not follow its speed: stretched first, then read at the pitch's ratio."""

    def __init__(self, track: Track, span: Span) -> None:
        self._span = span
        sound = track.sound[:, int(span.before_start) :]
        self._channels = sound.shape[0]
        self._stretcher = Stretcher(sound, track.rate, span.speed / span.pitch_ratio)
        self._kept: OrderedDict[int, Segment] = OrderedDict()
        self._bytes = 0
        self._lock = threading.Lock()

    def read(self, start: int, frames: int) -> Audio:
        position = (start - self._span.after_start) * self._span.pitch_ratio
        if self._span.pitch_ratio == 1.0:
            return self._assemble(int(position), frames)
        margin = reach(self._span.pitch_ratio) + 2
        first = int(np.floor(position)) - margin
        length = int(np.ceil(frames * self._span.pitch_ratio)) + 2 * margin + 2
        return read_at(self._assemble(first, length), position - first, self._span.pitch_ratio, frames)

    def _assemble(self, start: int, frames: int) -> Audio:
        """The stretched sound from ``start`` on, added up from its segments."""
        out = np.zeros((self._channels, frames), np.float32)
        for segment in self._segments(self._stretcher.segments(start, start + frames)):
            first = max(start, segment.start)
            last = min(start + frames, segment.start + segment.sound.shape[1])
            if first < last:
                out[:, first - start : last - start] += segment.sound[:, first - segment.start : last - segment.start]
        return out

    def _segments(self, numbers: range) -> list[Segment]:
        missing = [number for number in numbers if number not in self._kept]
        if len(missing) > 1:
            made = dict(zip(missing, _pool().map(self._stretcher.segment, missing), strict=True))
        else:
            made = {number: self._stretcher.segment(number) for number in missing}
        return [self._keep(number, made) for number in numbers]

    def _keep(self, number: int, made: dict[int, Segment]) -> Segment:
        with self._lock:
            segment = self._kept.get(number)
            if segment is None:
                segment = made.get(number) or self._stretcher.segment(number)
                self._kept[number] = segment
                self._bytes += segment.sound.nbytes
            self._kept.move_to_end(number)
            while self._bytes > CACHE_BYTES and len(self._kept) > 1:
                _, oldest = self._kept.popitem(last=False)
                self._bytes -= oldest.sound.nbytes
            return segment


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
        self._lock = threading.Lock()
        self._readers: OrderedDict[Time, Reader] = OrderedDict()

    def reader(self, time: Time) -> Reader:
        """The reader for a Time stage; stages that sound alike share one."""
        key = time if time.on else Time()
        with self._lock:
            if key not in self._readers:
                self._readers[key] = Reader(self.track, key)
            self._readers.move_to_end(key)
            while len(self._readers) > self.LIMIT:
                self._readers.popitem(last=False)
            return self._readers[key]
