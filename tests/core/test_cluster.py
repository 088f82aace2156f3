"""A set made by the workers of a ``dask.distributed`` scheduler, on the loopback address; one of them is killed."""

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from latespin.jobs import Work, step
from latespin.media.track import open_track
from latespin.render.batch import cluster
from latespin.render.batch.cluster import Unreachable, connected
from latespin.render.batch.jobs import Job
from latespin.render.batch.worker_pool import run_jobs
from tests.core.test_sets import GERMAN, endless, folder, refuse  # noqa: F401 - a fixture among them

LOOPBACK = "127.0.0.1"
PROJECT = Path(__file__).parents[2]
WAIT_SECONDS = 60.0


class Cluster:
    """A scheduler and its workers, each a process."""

    def __init__(self, where: Path) -> None:
        self._processes: list[subprocess.Popen[bytes]] = []
        self._where = where
        about = where / "scheduler.json"
        self._start("dask_scheduler", "--host", LOOPBACK, "--port", "0", "--scheduler-file", str(about))
        self.address = self._address(about)

    def _start(self, module: str, *arguments: str) -> subprocess.Popen[bytes]:
        with (self._where / "log").open("ab") as log:
            process = subprocess.Popen(
                [sys.executable, "-m", f"distributed.cli.{module}", "--no-dashboard", *arguments],
                cwd=self._where, stdout=log, stderr=log, env={**os.environ, "PYTHONPATH": f"{PROJECT}:{PROJECT / 'src'}"},
            )  # fmt: skip
        self._processes.append(process)
        return process

    def _address(self, about: Path) -> str:
        until = time.monotonic() + WAIT_SECONDS
        while time.monotonic() < until:
            try:
                return str(json.loads(about.read_bytes())["address"])
            except (OSError, ValueError):
                time.sleep(0.05)
        raise AssertionError((self._where / "log").read_text())

    def worker(self) -> subprocess.Popen[bytes]:
        """Start a worker."""
        return self._start("dask_worker", self.address, "--no-nanny", "--nthreads", "1", "--host", LOOPBACK)

    def end(self) -> None:
        """End all."""
        for process in reversed(self._processes):
            process.kill()
            process.wait()


@pytest.fixture
def scheduler(tmp_path: Path) -> Iterator[Cluster]:
    """A scheduler without workers."""
    (tmp_path / "cluster").mkdir()
    made = Cluster(tmp_path / "cluster")
    yield made
    made.end()


def who(marker: str, work: Work) -> int:
    """A job that waits until its marker is there, and tells who did it."""
    Path(f"{marker}.{os.getpid()}").touch()
    until = time.monotonic() + WAIT_SECONDS
    while not Path(marker).exists() and time.monotonic() < until:
        step(work, 0.5)
        time.sleep(0.02)
    return os.getpid()


def test_a_lost_workers_job_runs_elsewhere_and_the_others_go_on(scheduler: Cluster, tmp_path: Path) -> None:
    workers = [scheduler.worker(), scheduler.worker()]
    jobs = [Job(who, str(tmp_path / name), name) for name in ("a", "b")]
    jobs += [Job(refuse, 3, language=GERMAN), Job(endless, 0)]
    killed: list[int] = []

    def kill_the_first(job: Job) -> None:
        if job is jobs[3] and job.fraction > 0.0:
            job.cancel()
        if job is jobs[0] and job.fraction == 0.5 and not killed:
            (doing,) = (int(path.suffix[1:]) for path in tmp_path.glob("a.*"))
            os.kill(doing, signal.SIGKILL)
            killed.append(doing)
            for name in ("a", "b"):
                (tmp_path / name).touch()

    with connected(scheduler.address) as workforce:
        run_jobs(jobs, workforce, kill_the_first)
    assert [job.state for job in jobs] == ["done", "done", "failed", "cancelled"]
    assert killed[0] in {worker.pid for worker in workers}
    assert {jobs[0].result, jobs[1].result} == {worker.pid for worker in workers} - set(killed)
    assert jobs[2].message == "Ganzer Song: 3,5 will not do."


def test_a_set_made_by_a_scheduler_is_the_set_made_here(
    scheduler: Cluster, folder: Path, tmp_path: Path  # noqa: F811
) -> None:  # fmt: skip
    scheduler.worker()

    def make(out: str, *more: str) -> subprocess.CompletedProcess[str]:
        words = [sys.executable, "-m", "latespin", "set", ".", "--recipe", "sped-up", "--out", out, "--format", "wav"]
        return subprocess.run([*words, *more], cwd=folder, capture_output=True, text=True, check=False)

    there, here = tmp_path / "there", tmp_path / "here"
    made = make("../there", "--scheduler", scheduler.address)
    assert made.returncode == 0, made.stderr
    assert make(str(here)).returncode == 0
    names = sorted(path.name for path in here.glob("*.wav"))
    assert len(names) == 3
    for name in names:
        assert (open_track(there / name).sound == open_track(here / name).sound).all()
    assert (there / "set-report.csv").exists()


def test_what_is_wrong_with_a_scheduler_is_said(scheduler: Cluster, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(cluster, "CONNECT_SECONDS", 0.5)
    with pytest.raises(Unreachable, match=r"no scheduler at tcp://127\.0\.0\.1:9"), connected(f"tcp://{LOOPBACK}:9"):
        pass
    monkeypatch.setattr(cluster, "PATIENCE_SECONDS", 0.2)
    monkeypatch.setattr(cluster, "CONNECT_SECONDS", 10.0)
    with connected(scheduler.address) as workforce, pytest.raises(Unreachable, match="no workers"):
        run_jobs([Job(refuse, 1)], workforce)
    monkeypatch.setitem(sys.modules, "distributed", None)
    with pytest.raises(Unreachable, match="extra “cluster”"), connected(scheduler.address):
        pass
