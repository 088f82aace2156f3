"""Thousands of spoilt files, each read in a process that may die, hang or swell without taking the rest along."""

import faulthandler
import multiprocessing
import os
import resource
import time
import traceback
from collections import Counter
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from pathlib import Path

from tools.torture.minimal import minimal
from tools.torture.mutations import spoilt
from tools.torture.reading import read
from tools.torture.samples import GOOD, crafted

SLOWEST_SECONDS, MOST_BYTES = 20.0, 3 << 30  # for one file; beyond what the process has when it begins


MOST_MINIMAL, TRIES = 5, 60  # files that are reduced to what does it, and readings to find that
DELIBERATELY = False  # whether readers die of, and hang with, files that are named so: to see that it is noticed


@dataclass
class Result:
    """How many were opened and refused, and what went wrong: the seed, the sample, and how."""

    counts: Counter[str] = field(default_factory=Counter)
    wrong: list[tuple[int, str, str]] = field(default_factory=list)


@dataclass(frozen=True)
class Case:
    """A file to be read: a sample, spoilt by a seed; as it is where the seed is below 0."""

    sample: Path
    seed: int

    def write(self, folder: Path) -> Path:
        """The spoilt file, named as the sample."""
        data = self.sample.read_bytes()
        path = folder / self.sample.name
        path.write_bytes(data if self.seed < 0 else spoilt(data, self.seed))
        return path


def make_cases(folder: Path, count: int, seed: int, kinds: tuple[str, ...] = tuple(GOOD)) -> list[Case]:
    """All samples as they are, the crafted ones, and ``count`` spoilt ones, evenly of all samples."""
    good = [path for kind in kinds for path in GOOD[kind](folder)]
    cases = [Case(path, -1) for path in [*good, *crafted(folder)]]
    return cases + [Case(good[n % len(good)], seed + n) for n in range(count)]


def torture_files(cases: list[Case], folder: Path, kept: Path, processes: int = 2, seconds: float = 3600.0) -> Result:
    """Read all of them, within a time. kept : where files that something is wrong with are left, with a number."""
    result, crew = Result(), [_Reader(folder / f"reader {n}") for n in range(processes)]
    until, waiting = time.monotonic() + seconds, list(reversed(cases))
    try:
        while (waiting and time.monotonic() < until) or any(reader.case for reader in crew):
            for reader in crew:
                if reader.case is None and waiting and time.monotonic() < until:
                    reader.give(waiting.pop())
            for reader in crew:
                if reader.case is not None and (message := reader.message()):
                    _note(result, reader, message, kept)
                    reader.case = None
        for found in result.wrong[:MOST_MINIMAL]:
            _reduce(kept / f"{found[0]} {found[1]}", found[2], crew[0])
    finally:
        for reader in crew:
            reader.end()
    return result


def _reduce(file: Path, message: str, reader: "_Reader") -> None:
    """Leave beside a kept file the least of it that is wrong in the same way."""
    what = message.strip().splitlines()[-1][:40]

    def is_wrong(data: bytes) -> bool:
        trial = file.with_name(file.name.partition(" ")[2])
        trial.write_bytes(data)
        reader.give(Case(trial, -1))
        while not (again := reader.message()):
            pass
        reader.case = None
        trial.unlink()
        return what in again

    file.with_name(f"minimal {file.name}").write_bytes(minimal(file.read_bytes(), is_wrong, TRIES))


def _note(result: Result, reader: "_Reader", message: str, kept: Path) -> None:
    case = reader.case
    assert case is not None
    if message in ("opened", "refused"):
        result.counts[message] += 1
        return
    result.counts["wrong"] += 1
    result.wrong.append((case.seed, case.sample.name, message))
    kept.mkdir(parents=True, exist_ok=True)
    case.write(kept).rename(kept / f"{case.seed} {case.sample.name}")
    (kept / f"{case.seed} {case.sample.name}.txt").write_text(message, encoding="utf-8")


class _Reader:
    """A process that reads files one after the other, and is replaced when it dies or hangs."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self._folder, self.case, self._since = folder, None, 0.0
        self._begin()

    case: Case | None

    def _begin(self) -> None:
        context = multiprocessing.get_context("spawn")
        self._pipe, theirs = context.Pipe()
        self._process = context.Process(target=_serve, args=(theirs, DELIBERATELY), daemon=True)
        self._process.start()
        theirs.close()
        self._pipe.recv()

    def give(self, case: Case) -> None:
        self.case, self._since = case, time.monotonic()
        self._pipe.send(case.write(self._folder))

    def message(self) -> str:
        """What became of it; empty while nothing is known."""
        try:
            if self._pipe.poll(0.01):
                return str(self._pipe.recv())
        except (EOFError, OSError):
            self._process.join()
            code = self._process.exitcode
            self._begin()
            return f"crashed: the process ended with {code}"
        if time.monotonic() - self._since > SLOWEST_SECONDS:
            self.end()
            self._begin()
            return f"hung: nothing after {SLOWEST_SECONDS:g} s"
        return ""

    def end(self) -> None:
        self._process.kill()
        self._process.join()


def _serve(pipe: Connection, deliberately: bool) -> None:
    faulthandler.enable()
    import tools.torture.reading  # noqa: F401 - what is loaded now does not count for the first file

    before = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (before + MOST_BYTES, before + MOST_BYTES))
    pipe.send("ready")
    while True:
        try:
            path = pipe.recv()
        except EOFError:
            return
        if deliberately:
            os._exit(3) if path.name.startswith("dies") else time.sleep(1e6)
        try:
            pipe.send(read(path))
        except BaseException:  # whatever it is, it is what is looked for
            pipe.send(traceback.format_exc())
