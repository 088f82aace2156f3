"""Sound that is made on another thread while what comes before it is used, so that a chain of work keeps two processors busy."""

from collections import deque
from collections.abc import Callable, Generator, Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

from latespin.dsp.arrays import Audio

Block = TypeVar("Block")
DEPTH = 2  # blocks that are waiting or being made


def made_ahead(blocks: Iterable[Block]) -> Generator[Block, None, None]:
    """The blocks in their order. What making one raises is raised where it is taken.

    Close it (``contextlib.closing``) where it may be left early: it then waits for the block that is being made, and no thread stays behind.
    """
    source, none_left = iter(blocks), object()
    waiting: deque[Future[Block | object]] = deque()
    with ThreadPoolExecutor(1, "ahead") as pool:
        try:
            while True:
                while len(waiting) < DEPTH:
                    waiting.append(pool.submit(next, source, none_left))
                block = waiting.popleft().result()
                if block is none_left:
                    return
                yield block  # type: ignore[misc]
        finally:
            for future in waiting:
                future.cancel()


class ReadAhead:
    """What is read in order, the piece after each read on a thread of ``pool`` meanwhile; pieces that come otherwise are read when they are asked for.

    read : start and number of frames.  stop : beyond the last frame that will be asked for.
    """

    def __init__(self, read: Callable[[int, int], Audio], stop: int, pool: ThreadPoolExecutor) -> None:
        self._read, self._stop, self._pool = read, stop, pool
        self._next: tuple[int, int] | None = None
        self._coming: Future[Audio] | None = None

    def read(self, start: int, frames: int) -> Audio:
        """Frames ``start`` to ``start + frames``."""
        coming, self._coming = self._coming, None
        block = coming.result() if coming is not None and self._next == (start, frames) else self._read(start, frames)
        self._next = (start + frames, min(frames, self._stop - start - frames))
        if self._next[1] > 0:
            self._coming = self._pool.submit(self._read, *self._next)
        return block
