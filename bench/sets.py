"""A set of three recipes of eight four-minute songs: time, memory and songs an hour by number of workers, of this machine and of a scheduler.

Run ``python bench/sets.py [FOLDER]``; without a folder the demo songs are looped to four minutes each.
"""

import json
import resource
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
import soundfile

from latespin.demo import demo_folder

WORKERS = 1, 2, 3
RECIPES, SONGS, SECONDS = ("slowed-reverb", "sped-up", "lofi-vinyl"), 8, 240.0
MEGABYTE = 1 << 20


def make_songs(folder: Path) -> None:
    """Eight songs of four minutes, each a demo song gone round, its speed of its own (so that none is known already)."""
    sources = [p for p in sorted(demo_folder().glob("*.ogg")) if soundfile.info(p).duration > 60.0]
    for n in range(SONGS):
        sound, rate = soundfile.read(sources[n % len(sources)], dtype="float32", always_2d=True)
        rounds = int(np.ceil(SECONDS * rate / len(sound)))
        looped = np.tile(sound, (rounds, 1))[: round(SECONDS * rate)]
        soundfile.write(folder / f"song {n + 1}.flac", np.roll(looped, 1000 * n, axis=0), rate)


def memory_of(pid: int) -> float:
    """Proportional memory (what is shared counted once) of a process and its children, MB."""
    total = 0.0
    for process in [pid, *children_of(pid)]:
        try:
            for line in Path(f"/proc/{process}/smaps_rollup").read_text().splitlines():
                if line.startswith("Pss:"):
                    total += int(line.split()[1]) * 1024 / MEGABYTE
        except OSError:
            continue
    return total


def children_of(pid: int) -> list[int]:
    """All processes below one."""
    found = []
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            fields = stat.read_text().rsplit(")", 1)[1].split()
        except OSError:
            continue
        if int(fields[1]) == pid:
            found += [int(stat.parent.name), *children_of(int(stat.parent.name))]
    return found


@contextmanager
def scheduler(workers: int, place: Path) -> Iterator[str]:
    """The address of a scheduler on the loopback interface that has ``workers`` processes."""
    about = place / f"scheduler {workers}.json"
    start = [sys.executable, "-m", "distributed.cli"]
    to, quiet = ["--scheduler-file", str(about), "--no-dashboard"], subprocess.DEVNULL
    running = [
        subprocess.Popen(
            [*start[:2], f"{start[2]}.dask_scheduler", "--host", "127.0.0.1", "--port", "0", *to], stderr=quiet
        )
    ]
    while not about.exists():
        time.sleep(0.1)
    for _ in range(workers):
        more = ["--nthreads", "1", "--no-nanny", "--memory-limit", "0", *to]
        running.append(subprocess.Popen([*start[:2], f"{start[2]}.dask_worker", *more], stderr=quiet))
    try:
        yield json.loads(about.read_text())["address"]
    finally:
        for process in reversed(running):
            process.terminate()
            process.wait()


def run(songs: Path, out: Path, *where: str) -> tuple[float, float]:
    """Seconds taken, and the most memory of all processes together, MB."""
    command = [sys.executable, "-m", "latespin", "set", str(songs), "--out", str(out), *where]
    for recipe in RECIPES:
        command += ["--recipe", recipe]
    began, most = time.monotonic(), [0.0]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)

    def watch() -> None:
        while process.poll() is None:
            most[0] = max(most[0], memory_of(process.pid))
            time.sleep(0.25)

    watcher = threading.Thread(target=watch)
    watcher.start()
    process.wait()
    watcher.join()
    assert process.returncode == 0
    return time.monotonic() - began, most[0]


def main() -> None:
    """Print the figures; the songs are read (tempo, key) in a run of their own, so that both timed runs find that known."""
    with tempfile.TemporaryDirectory() as place:
        songs = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(place) / "songs"
        if len(sys.argv) < 2:
            songs.mkdir()
            make_songs(songs)
        subprocess.run(
            [sys.executable, "-m", "latespin", "set", str(songs), "--out", f"{place}/dry", "--recipe", "sped-up", "--dry-run"],
            stdout=subprocess.DEVNULL, check=True,
        )  # fmt: skip
        files, first = SONGS * len(RECIPES), 0.0
        for jobs in WORKERS:
            seconds, memory = run(songs, Path(place) / f"out{jobs}", "--jobs", str(jobs))
            first = first or seconds
            rate = f"{3600 * files / seconds:5.0f} files an hour, {first / seconds:.2f} ×"
            print(f"{jobs} processes: {seconds:6.1f} s, {rate}, {memory:6.0f} MB in all processes", flush=True)
        for jobs in WORKERS:
            with scheduler(jobs, Path(place)) as address:
                seconds, _ = run(songs, Path(place) / f"far{jobs}", "--scheduler", address)
            rate = f"{3600 * files / seconds:5.0f} files an hour, {first / seconds:.2f} ×"
            print(f"{jobs} workers of a scheduler: {seconds:6.1f} s, {rate}", flush=True)
        print(f"largest process: {resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024:.0f} MB")


if __name__ == "__main__":
    main()
