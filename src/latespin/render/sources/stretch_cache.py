"""Keeps stretched sound in segments, and makes missing ones in the background, two at once."""

import itertools
import threading
import weakref
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TYPE_CHECKING

import numpy as np

from latespin.caches import MEGABYTE, Cache
from latespin.dsp.arrays import Audio, Spectra

if TYPE_CHECKING:  # loaded with the first stretch
    from latespin.dsp.stretching.phase_vocoder import ForwardStretch, Segment, Stretcher

CACHE_BYTES = 256 * MEGABYTE
_WORKERS = 2
READ_AGAIN = 1 << 14  # frames that a draft stream may go back


#: Of all readers: by the number of their store, of the stretch, and of the segment.
_SEGMENTS: "Cache[tuple[int, int, int], Segment]" = Cache("stretched segments", CACHE_BYTES)
_STORES = itertools.count()


class SegmentStore:
    """Segments of one reader's stretches; all stores together keep the ones used last, up to 256 MB."""

    def __init__(self) -> None:
        self._number = next(_STORES)
        weakref.finalize(self, _forget, self._number)

    def get(self, key: tuple[int, int]) -> "Segment | None":
        """A kept segment."""
        return _SEGMENTS.get((self._number, *key))

    def put(self, key: tuple[int, int], segment: "Segment") -> None:
        """Keep a segment; the ones used longest ago make room for it."""
        _SEGMENTS.put((self._number, *key), segment)


def _forget(store: int) -> None:
    """Nobody reads from a store any more."""
    _SEGMENTS.drop(lambda key: key[0] == store)


class StretchedSound:
    """All of a stretcher's result, read in any order and from any thread, always the same.

    A segment begins with the phases the one before ended with. These are kept for all segments ever made, so
    that one that made room for others can be made again by itself; one far ahead needs all before it first.
    """

    def __init__(self, stretcher: "Stretcher", store: SegmentStore, number: int) -> None:
        self._stretcher, self._store, self._number = stretcher, store, number
        self._entries: list[Future[Spectra]] = [Future()]
        self._entries[0].set_result(stretcher.entry())
        self._coming: dict[int, Future[Segment]] = {}
        self._lock = threading.Lock()

    def has(self, start: int, frames: int) -> bool:
        """Whether a part of the result is kept."""
        return all(self._store.get((self._number, n)) for n in self._stretcher.segments(start, start + frames))

    def read(self, start: int, frames: int) -> Audio:
        """``[channels, frames]`` from ``start`` on, added up from its segments."""
        out = np.zeros((self._stretcher.channels, frames), np.float32)
        for segment in self._segments(self._stretcher.segments(start, start + frames)):
            _add(segment, out, start)
        return out

    def begin(self, start: int, frames: int) -> None:
        """Have a part of the result made in the background."""
        numbers = self._stretcher.segments(start, start + frames)
        with self._lock:
            for number in numbers:
                if self._store.get((self._number, number)) is None:
                    self._begin(number)

    def approach(self, start: int, frames: int) -> None:
        """Have the next segment on the way to a part of the result made in the background, if none is being made.

        Asked for again and again this leads there without making others wait.
        """
        missing = [n for n in self._stretcher.segments(start, start + frames) if not self._store.get((self._number, n))]
        with self._lock:
            if missing and not self._coming:
                self._submit(min(missing[0], len(self._entries) - 1))

    def forward(self, *, forgets: bool = True) -> "ForwardStretchReader":
        """The same for one stream that must start at once."""
        return ForwardStretchReader(self._stretcher, forgets=forgets)

    def _segments(self, numbers: range) -> "list[Segment]":
        """Segments, made where they are missing; the one after them is begun already."""
        with self._lock:
            found = [
                self._store.get((self._number, number)) or self._begin(number)
                for number in range(numbers.start, min(numbers.stop + 1, self._stretcher.count))
            ]
        needed = found[: len(numbers)]
        return [segment.result() if isinstance(segment, Future) else segment for segment in needed]

    def _begin(self, number: int) -> "Future[Segment]":
        """Have a segment, and before it those whose phases it needs, made in the background (with the lock held)."""
        while len(self._entries) <= number:
            self._submit(len(self._entries) - 1)
        return self._coming.get(number) or self._submit(number)

    def _submit(self, number: int) -> "Future[Segment]":
        """Each segment waits only for an earlier one, so that one of them can always proceed."""
        leaves: Future[Spectra] = Future()
        if len(self._entries) == number + 1 < self._stretcher.count:
            self._entries.append(leaves)
        self._coming[number] = _pool().submit(self._make, number, self._entries[number], leaves)
        return self._coming[number]

    def _make(self, number: int, entry: "Future[Spectra]", leaves: "Future[Spectra]") -> "Segment":
        try:
            grains = self._stretcher.prepare(number)
            turns = self._stretcher.turns(grains, entry.result())
            leaves.set_result(turns[-1].copy())
            segment = self._stretcher.finish(grains, turns)
            self._store.put((self._number, number), segment)
            return segment
        except BaseException as error:
            if not leaves.done():
                leaves.set_exception(error)
            raise
        finally:
            with self._lock:
                self._coming.pop(number, None)


class ForwardStretchReader:
    """A stretcher's result read in order by one stream, from any start; a little may be read again."""

    def __init__(self, stretcher: "Stretcher", *, forgets: bool = True) -> None:
        self._stretcher, self._forgets = stretcher, forgets
        self._forward: ForwardStretch | None = None
        self._kept = np.zeros((stretcher.channels, 0), np.float32)
        self._start = 0

    def read(self, start: int, frames: int) -> Audio:
        """``[channels, frames]`` from ``start`` on; forgets frames well before ``start``."""
        end = self._start + self._kept.shape[1]
        if self._forward is None or not self._start <= start <= end:
            self._forward = self._stretcher.forward(start)
            self._kept, self._start, end = self._kept[:, :0], start, start
        if start + frames > end:
            self._kept = np.concatenate((self._kept, self._forward.read(start + frames - end)), axis=1)
        forgotten = max(0, start - READ_AGAIN - self._start) if self._forgets else 0
        self._kept = self._kept[:, forgotten:]
        self._start += forgotten
        return self._kept[:, start - self._start : start - self._start + frames]


def _add(segment: "Segment", out: Audio, start: int) -> None:
    """Add the part of a segment within ``out``, whose first frame is ``start``."""
    first = max(start, segment.start)
    last = min(start + out.shape[1], segment.start + segment.sound.shape[1])
    if first < last:
        out[:, first - start : last - start] += segment.sound[:, first - segment.start : last - segment.start]


_POOL: list[ThreadPoolExecutor] = []
_POOL_LOCK = threading.Lock()


def _pool() -> ThreadPoolExecutor:
    """Threads for stretching several segments at once; the kernels let go of the interpreter lock."""
    with _POOL_LOCK:
        if not _POOL:
            _POOL.append(ThreadPoolExecutor(_WORKERS, thread_name_prefix="stretch"))
        return _POOL[0]
