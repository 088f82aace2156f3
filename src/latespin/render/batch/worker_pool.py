"""Worker processes: a free one takes the next job, preferably of the song it has open.

Each worker is a process of its own, started afresh (so that nothing of a window or of threads is copied), and ends with the process that
started it. One that dies takes only its job with it, which is tried once more.
"""

import contextlib
import multiprocessing
import os
import signal
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, wait
from typing import Any

from latespin.errors import Cancelled, LateSpinError

POLL_SECONDS, REPORT_SECONDS = 0.1, 0.1
TRIES = 2


@dataclass(eq=False)
class Job:
    """function(argument, work) is called in a worker. Jobs with the same ``group`` go to the same worker where that costs nobody time.

    state : waiting, running, done, failed or cancelled.  message : why it failed.
    """

    function: Callable[[Any, Any], Any]
    argument: Any
    group: str = ""
    state: str = "waiting"
    fraction: float = 0.0
    result: Any = None
    message: str = ""
    tries: int = field(default=0, repr=False)
    wanted: bool = field(default=True, repr=False)

    def cancel(self) -> None:
        """Ask for it not to be done, or to be stopped."""
        self.wanted = False

    @property
    def ended(self) -> bool:
        """Whether nothing more will come of it."""
        return self.state in ("done", "failed", "cancelled")


class _Worker:
    """A process and what it is busy with."""

    def __init__(self) -> None:
        context = multiprocessing.get_context("spawn")
        self.pipe, theirs = context.Pipe()
        self.process = context.Process(target=_serve, args=(theirs, os.getpid()), daemon=True)
        with _deaf_to_interrupts():
            self.process.start()
        theirs.close()
        self.job: Job | None = None
        self.group = ""
        self.told = False

    def give(self, job: Job) -> None:
        self.job, self.group, self.told = job, job.group, False
        job.state, job.tries = "running", job.tries + 1
        self.pipe.send((job.function, job.argument))

    def end(self) -> None:
        self.pipe.close()
        self.process.join(1.0)
        if self.process.is_alive():
            self.process.terminate()
            self.process.join(1.0)


@contextlib.contextmanager
def _deaf_to_interrupts() -> Iterator[None]:
    """Start processes that ignore SIGINT. A terminal sends it to all processes; the parent stops its workers itself."""
    before = signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
    try:
        yield
    finally:
        signal.pthread_sigmask(signal.SIG_SETMASK, before)


def run_jobs(
    jobs: Sequence[Job],
    processes: int,
    on_change: Callable[[Job], None] = lambda _: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Do all jobs; returns when each has ended. on_change is called in this thread whenever one starts, progresses or ends."""
    crew = WorkerPool(jobs, processes, on_change)
    try:
        while True:
            if cancelled():
                for job in jobs:
                    job.cancel()
            crew.take_back()
            crew.hire()
            crew.hand_out()
            if not crew.busy:
                return
            crew.hear()
    finally:
        for worker in crew.workers:
            worker.end()


class WorkerPool:
    """The workers and what waits for them."""

    def __init__(self, jobs: Sequence[Job], processes: int, on_change: Callable[[Job], None]) -> None:
        self.waiting, self.workers = list(jobs), list[_Worker]()
        self._processes, self._on_change = processes, on_change

    @property
    def busy(self) -> list[_Worker]:
        """Those that have a job."""
        return [worker for worker in self.workers if worker.job is not None]

    def take_back(self) -> None:
        """Drop jobs no longer wanted, and stop those already running."""
        for job in [job for job in self.waiting if not job.wanted]:
            self.waiting.remove(job)
            job.state = "cancelled"
            self._on_change(job)
        for worker in self.busy:
            if worker.job is not None and not worker.job.wanted and not worker.told:
                worker.told = True
                _try_send(worker.pipe, "stop")

    def hire(self) -> None:
        """Start workers up to the number of jobs."""
        while len(self.workers) < min(self._processes, len(self.waiting) + len(self.busy)):
            self.workers.append(_Worker())

    def hand_out(self) -> None:
        """A job for everyone who has none."""
        for worker in self.workers:
            if worker.job is None and self.waiting:
                job = self._next_for(worker)
                self.waiting.remove(job)
                worker.give(job)
                self._on_change(job)

    def _next_for(self, worker: _Worker) -> Job:
        """The next job: one of its own group, else the first of a group that no worker has open, else the first."""
        own = next((job for job in self.waiting if job.group == worker.group), None)
        taken = {other.group for other in self.workers if other is not worker}
        return own or next((job for job in self.waiting if job.group not in taken), self.waiting[0])

    def hear(self) -> None:
        """Wait a little for what workers say."""
        by_pipe: dict[Any, _Worker] = {worker.pipe: worker for worker in self.busy}
        for pipe in wait(list(by_pipe), POLL_SECONDS):
            self._take(by_pipe[pipe])

    def _take(self, worker: _Worker) -> None:
        job = worker.job
        assert job is not None
        try:
            what, value = worker.pipe.recv()
        except (EOFError, OSError):
            self._bury(worker, job)
            return
        if what == "progress":
            job.fraction = value
        else:
            worker.job, job.state = None, what
            job.result, job.message = (value, "") if what == "done" else (None, value)
            job.fraction = 1.0 if what == "done" else job.fraction
        self._on_change(job)

    def _bury(self, worker: _Worker, job: Job) -> None:
        """A worker that has died: its job is tried once more."""
        worker.job = None
        worker.end()
        self.workers.remove(worker)
        if job.wanted and job.tries < TRIES:
            job.state, job.fraction = "waiting", 0.0
            self.waiting.insert(0, job)
        else:
            job.state = "failed" if job.wanted else "cancelled"
            job.message = "The worker process crashed twice, perhaps for lack of memory. Try fewer files at a time."
        self._on_change(job)


def _try_send(pipe: Connection, what: Any) -> None:
    try:
        pipe.send(what)
    except (OSError, ValueError):
        return


class _WorkOverPipe:
    """A worker's work: told over the pipe, stopped by it, or by the end of the process that started it."""

    def __init__(self, pipe: Connection, parent: int) -> None:
        self._pipe, self._parent, self._said, self._stopped = pipe, parent, 0.0, False

    def report(self, fraction: float) -> None:
        """Say how far it is, a few times a second."""
        now = time.monotonic()
        if now - self._said >= REPORT_SECONDS:
            self._said = now
            _try_send(self._pipe, ("progress", fraction))

    def cancelled(self) -> bool:
        """Whether it should stop."""
        if not self._stopped and (self._pipe.poll() or os.getppid() != self._parent):
            self._stopped = True
        return self._stopped


def _serve(pipe: Connection, parent: int) -> None:
    """Do jobs until the pipe ends, or breaks because the parent died."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    while True:
        try:
            given = pipe.recv()
        except (EOFError, OSError):
            return
        if given == "stop":
            continue
        function, argument = given
        try:
            answer = "done", function(argument, _WorkOverPipe(pipe, parent))
        except Cancelled:
            answer = "cancelled", ""
        except LateSpinError as error:
            answer = "failed", str(error)
        except MemoryError:
            answer = "failed", "There is not enough memory for this. Close other programs, or do fewer at a time."
        except Exception as error:
            answer = "failed", f"Something went wrong in Late Spin itself ({type(error).__name__}: {error})."
        _try_send(pipe, answer)
