"""Workers that are processes of this machine, kept by ``pebble``.

Each is started afresh, so that nothing of a window or of threads is copied, and ends with the process that started it. What it says of its
progress, and whether it should stop, are two numbers in shared memory, which no killed process can leave locked.
"""

import contextlib
import ctypes
import multiprocessing
import os
import signal
from collections.abc import Iterator, Sequence
from multiprocessing.sharedctypes import RawArray
from typing import Any

from pebble import ProcessFuture, ProcessPool

from latespin.language import Language
from latespin.render.batch.jobs import Answer, Function, Job, attempt
from latespin.render.batch.worker_pool import Worker, WorkerLost

FRACTION, STOP = 0, 1
END_SECONDS = 1.0
GROUP_SIGNALS = {signal.SIGINT, signal.SIGTERM}

_told: Any = None  # in a worker: the numbers it shares with the process that started it


def cores() -> int:
    """The number of processors this process may use."""
    return max(1, len(os.sched_getaffinity(0)))


class LocalWorkers:
    """A workforce of at most ``processes``, by default one per core."""

    def __init__(self, processes: int | None = None) -> None:
        self._processes = processes or cores()

    def hire(self, wanted: int, hired: Sequence[Worker]) -> list[Worker]:
        """Start processes up to the number wanted."""
        return [LocalWorker() for _ in range(min(self._processes, wanted) - len(hired))]


class LocalWorker:
    """A pool of one process, which therefore has the song open that it worked on last."""

    def __init__(self) -> None:
        spawn = multiprocessing.get_context("spawn")
        self._shared = RawArray(ctypes.c_double, 2)
        self._pool = ProcessPool(1, initializer=_begin, initargs=(self._shared,), context=spawn)
        self._future: ProcessFuture[Answer] | None = None

    def give(self, job: Job) -> None:
        """Begin a job."""
        self._shared[FRACTION] = self._shared[STOP] = 0.0
        with _deaf_to_interrupts():
            self._future = self._pool.schedule(_attempt, (job.function, job.argument, job.language, os.getpid()))

    def answer(self) -> Answer | None:
        """What came of the job. Raises WorkerLost where the process has died."""
        if self._future is None or not self._future.done():
            return None
        error = self._future.exception()
        if error is not None:
            raise WorkerLost from error
        answer: Answer = self._future.result()
        return answer

    def fraction(self) -> float:
        """How far the job is."""
        return self._shared[FRACTION]

    def stop(self) -> None:
        """Ask for the job to be stopped, which lets it tidy up."""
        self._shared[STOP] = 1.0

    def end(self) -> None:
        """End the process; where it is busy, it is killed if it does not stop by itself."""
        self.stop()
        self._pool.close()
        try:
            self._pool.join(END_SECONDS)
        except TimeoutError:
            self._pool.stop()
            self._pool.join()


@contextlib.contextmanager
def _deaf_to_interrupts() -> Iterator[None]:
    """Start processes that signals to the whole group pass by. A terminal sends them to all processes; the parent stops its workers itself."""
    before = signal.pthread_sigmask(signal.SIG_BLOCK, GROUP_SIGNALS)
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_SETMASK, before)


class _SharedWork:
    """A worker's work: told in shared memory, stopped there, or by the end of the process that started it."""

    def __init__(self, parent: int) -> None:
        self._parent = parent

    def report(self, fraction: float) -> None:
        """Say how far it is."""
        _told[FRACTION] = fraction

    def cancelled(self) -> bool:
        """Whether it should stop."""
        return _told[STOP] != 0.0 or os.getppid() != self._parent


def _begin(shared: Any) -> None:
    """Leave the group of the process that started it, and hear what is sent to this one alone from now on."""
    global _told
    _told = shared
    os.setpgid(0, 0)
    while signal.sigtimedwait(GROUP_SIGNALS, 0) is not None:
        pass
    signal.pthread_sigmask(signal.SIG_UNBLOCK, GROUP_SIGNALS)


def _attempt(function: Function, argument: Any, language: Language, parent: int) -> Answer:
    return attempt(function, argument, language, _SharedWork(parent))
