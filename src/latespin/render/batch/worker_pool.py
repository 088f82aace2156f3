"""Handing jobs to workers: a free one takes the next job, preferably of the song it has open.

Where the workers are is not known here: processes of this machine (``local_workers``), or those of a scheduler (``cluster``).
A worker that is lost takes only its job with it, which is tried once more.
"""

import time
from collections.abc import Callable, Sequence
from typing import Protocol

from latespin.language import tr
from latespin.render.batch.jobs import Answer, Job

POLL_SECONDS = 0.03
TRIES = 2


class WorkerLost(Exception):
    """A worker has ended without an answer. What it says is told when it happens once more."""

    def __init__(self, says: str = "") -> None:
        super().__init__(says or lost_twice())


def lost_twice() -> str:
    """What is said of a job whose worker ended twice."""
    return tr("The worker process crashed twice, perhaps for lack of memory. Try fewer files at a time.")


class Worker(Protocol):
    """Does one job at a time."""

    def give(self, job: Job) -> None:
        """Begin a job. Raises WorkerLost."""

    def answer(self) -> Answer | None:
        """What came of the job, once it has ended. Raises WorkerLost."""

    def fraction(self) -> float:
        """How far the job is."""

    def stop(self) -> None:
        """Ask for the job to be stopped."""

    def end(self) -> None:
        """Let the worker go, whatever it is busy with."""


class Workforce(Protocol):
    """Where workers come from."""

    def hire(self, wanted: int, hired: Sequence[Worker]) -> list[Worker]:
        """More workers, up to ``wanted`` in all. Raises LateSpinError where there are none to be had."""


def run_jobs(
    jobs: Sequence[Job],
    workforce: Workforce,
    on_change: Callable[[Job], None] = lambda _: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Do all jobs; returns when each has ended. on_change is called in this thread whenever one starts, progresses or ends."""
    pool = WorkerPool(jobs, workforce, on_change)
    try:
        while True:
            if cancelled():
                for job in jobs:
                    job.cancel()
            pool.take_back()
            pool.hire()
            pool.hand_out()
            if not pool.waiting and not pool.busy:
                return
            time.sleep(POLL_SECONDS)
            pool.hear()
    finally:
        pool.end()


class WorkerPool:
    """The workers, what they are busy with and what waits for them."""

    def __init__(self, jobs: Sequence[Job], workforce: Workforce, on_change: Callable[[Job], None]) -> None:
        self.waiting, self.busy = list(jobs), dict[Worker, Job]()
        self._workforce, self._on_change = workforce, on_change
        self._groups: dict[Worker, str] = {}  # every worker, with the group it worked on last
        self._told = set[Job]()

    def take_back(self) -> None:
        """Drop jobs no longer wanted, and stop those already running."""
        for job in [job for job in self.waiting if not job.wanted]:
            self.waiting.remove(job)
            job.state = "cancelled"
            self._on_change(job)
        for worker, job in self.busy.items():
            if not job.wanted and job not in self._told:
                self._told.add(job)
                worker.stop()

    def hire(self) -> None:
        """Have a worker for each job, as far as there are any."""
        wanted = len(self.waiting) + len(self.busy)
        self._groups |= dict.fromkeys(self._workforce.hire(wanted, list(self._groups)), "")

    def hand_out(self) -> None:
        """A job for every worker that has none."""
        for worker in [worker for worker in self._groups if worker not in self.busy][: len(self.waiting)]:
            job = self._next_for(worker)
            try:
                worker.give(job)
            except WorkerLost:
                del self._groups[worker]
                continue
            self.waiting.remove(job)
            self.busy[worker], self._groups[worker] = job, job.group
            job.state, job.tries = "running", job.tries + 1
            self._on_change(job)

    def _next_for(self, worker: Worker) -> Job:
        """The next job: one of its own group, else the first of a group that no worker has open, else the first."""
        own = next((job for job in self.waiting if job.group == self._groups[worker]), None)
        taken = {group for other, group in self._groups.items() if other is not worker}
        return own or next((job for job in self.waiting if job.group not in taken), self.waiting[0])

    def hear(self) -> None:
        """Take what workers have to say."""
        for worker, job in list(self.busy.items()):
            try:
                answer = worker.answer()
            except WorkerLost as lost:
                self._bury(worker, job, str(lost))
                continue
            fraction = worker.fraction()
            if answer is not None:
                del self.busy[worker]
                job.settle(answer)
                self._on_change(job)
            elif fraction != job.fraction:
                job.fraction = fraction
                self._on_change(job)

    def _bury(self, worker: Worker, job: Job, why: str) -> None:
        """A worker is lost: its job is tried once more."""
        del self.busy[worker], self._groups[worker]
        worker.end()
        if job.wanted and job.tries < TRIES:
            job.state, job.fraction = "waiting", 0.0
            self.waiting.insert(0, job)
        else:
            job.settle(("failed", why) if job.wanted else ("cancelled", ""))
        self._on_change(job)

    def end(self) -> None:
        """Let all workers go."""
        for worker in self._groups:
            worker.stop()
        for worker in self._groups:
            worker.end()
