"""Workers of a ``dask.distributed`` scheduler, which may be other machines.

All see the same folders and have Late Spin installed, the scheduler too. It starts a job elsewhere when its worker is lost. What a job says of its progress comes back as events of the scheduler; that it
should stop is told by an event that it asks for.
"""

import contextlib
import time
import uuid
from collections.abc import Iterator, Sequence
from typing import Any

from latespin import __version__
from latespin.errors import LateSpinError
from latespin.jobs import Work
from latespin.language import Language, tr
from latespin.render.batch.jobs import Answer, Function, Job, attempt
from latespin.render.batch.worker_pool import Worker, WorkerLost, Workforce, lost_twice

CONNECT_SECONDS, LOOK_SECONDS = 10.0, 1.0
REPORT_SECONDS, ASK_SECONDS = 0.25, 0.5
PATIENCE_SECONDS = 30.0  # without any worker


class Unreachable(LateSpinError):
    """There is no scheduler, or it has no workers."""


@contextlib.contextmanager
def connected(address: str, most: int | None = None) -> Iterator[Workforce]:
    """The workers of a scheduler, ``most`` of them at a time. Raises Unreachable."""
    try:
        from distributed import Client
    except ImportError as error:
        raise Unreachable(
            tr(
                "Schedulers need the package “distributed”. "
                "Install Late Spin with its extra “cluster”: pip install 'latespin[cluster]'."
            )
        ) from error
    try:
        client: Any = Client(address, timeout=CONNECT_SECONDS, set_as_default=False, name="late-spin")
    except (OSError, ValueError) as error:
        raise Unreachable(
            tr("There is no scheduler at {0}: {1}. Check the address and that it runs.").format(address, error)
        ) from error
    try:
        yield ClusterWorkers(client, most)
    finally:
        client.close(timeout=CONNECT_SECONDS)


class ClusterWorkers:
    """The workforce of a scheduler: each worker it has takes one job at a time. Workers that come later join in."""

    def __init__(self, client: Any, most: int | None) -> None:
        self._client, self._most = client, most
        self._looked, self._had_any = -LOOK_SECONDS, time.monotonic()
        self._fractions, self._present = dict[str, float](), set[str]()
        self._topic = f"late-spin {uuid.uuid4()}"
        client.subscribe_topic(self._topic, self._take_progress)

    def hire(self, wanted: int, hired: Sequence[Worker]) -> list[Worker]:
        """The workers the scheduler has that are not yet hired. Raises Unreachable after half a minute without any."""
        now = time.monotonic()
        if now - self._looked < LOOK_SECONDS:
            return []
        self._looked = now
        self._present.clear()
        self._present.update(self._client.scheduler_info(n_workers=-1)["workers"])
        known = {worker.address for worker in hired if isinstance(worker, ClusterWorker)}
        room = min(wanted, self._most or wanted) - len(known & self._present)
        found = sorted(self._present - known)[: max(0, room)]
        if self._present:
            self._had_any = now
        elif now - self._had_any > PATIENCE_SECONDS:
            raise Unreachable(tr("The scheduler has no workers. Start some, and give the same command again to go on."))
        for address in found:
            self._check(address)
        return [ClusterWorker(self._client, address, self._topic, self._fractions, self._present) for address in found]

    def _check(self, address: str) -> None:
        try:
            theirs = self._client.run(_version, workers=[address])[address]
        except Exception as error:
            raise Unreachable(
                tr("The worker {0} cannot do Late Spin’s work: {1}. Install Late Spin there.").format(address, error)
            ) from error
        if theirs != __version__:
            raise Unreachable(
                tr("The worker {0} has Late Spin {1}, and this is {2}. Install the same there.").format(
                    address, theirs, __version__
                )
            )

    def _take_progress(self, event: tuple[float, Any]) -> None:
        ident, fraction = event[1]
        self._fractions[ident] = fraction


class ClusterWorker:
    """A worker of the scheduler."""

    def __init__(self, client: Any, address: str, topic: str, fractions: dict[str, float], present: set[str]) -> None:
        self._client, self.address, self._topic = client, address, topic
        self._fractions, self._present = fractions, present
        self._future: Any = None
        self._ident = ""

    def give(self, job: Job) -> None:
        """Begin a job; where this worker is lost meanwhile, the scheduler begins it again on another one. Raises WorkerLost where it is lost already."""
        if self.address not in self._present:
            raise WorkerLost
        self._ident = f"late-spin {uuid.uuid4()}"
        self._future = self._client.submit(
            _attempt, job.function, job.argument, job.language, self._ident, self._topic, key=self._ident, workers=[self.address],
            allow_other_workers=True, pure=False,
        )  # fmt: skip

    def answer(self) -> Answer | None:
        """What came of the job. Raises WorkerLost where the scheduler is lost."""
        from distributed import KilledWorker

        if self._future is None or not self._future.done():
            return None
        future, self._future = self._future, None
        self._fractions.pop(self._ident, None)
        try:
            answer: Answer = future.result(timeout=CONNECT_SECONDS)
        except KilledWorker:
            return "failed", lost_twice()
        except Exception as error:
            raise WorkerLost(f"The scheduler could not have it done: {error}.") from error
        return answer

    def fraction(self) -> float:
        """How far the job is."""
        return self._fractions.get(self._ident, 0.0)

    def stop(self) -> None:
        """Ask for the job to be stopped."""
        from distributed import Event

        if self._future is not None:
            Event(self._ident, client=self._client).set()

    def end(self) -> None:
        """Stop what it is busy with; the worker itself goes on."""
        with contextlib.suppress(OSError):
            self.stop()


class _RemoteWork:
    """A job's work on a worker of the scheduler."""

    def __init__(self, ident: str, topic: str) -> None:
        from distributed import Event, get_worker

        self._worker, self._ident, self._topic = get_worker(), ident, topic
        self._event = Event(ident)
        self._said, self._asked = 0.0, -ASK_SECONDS
        self._stopped = False

    def report(self, fraction: float) -> None:
        """Say how far it is, a few times a second."""
        now = time.monotonic()
        if now - self._said >= REPORT_SECONDS:
            self._said = now
            self._worker.log_event(self._topic, [self._ident, fraction])

    def cancelled(self) -> bool:
        """Whether it should stop; asked twice a second."""
        now = time.monotonic()
        if not self._stopped and now - self._asked >= ASK_SECONDS:
            self._asked = now
            self._stopped = self._event.is_set()
        return self._stopped


def _attempt(function: Function, argument: Any, language: Language, ident: str, topic: str) -> Answer:
    work: Work = _RemoteWork(ident, topic)
    return attempt(function, argument, language, work)


def _version() -> str:
    return __version__
