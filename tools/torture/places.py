"""Disks that are full, read-only or slow, and two processes that write to the same place."""

import os
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import soundfile

from latespin.media.audio.formats import FORMATS
from latespin.media.track import file_hash, open_track

RATE = 44_100
#: Runs a command on a disk of 2 MB, or one that cannot be written to, that nobody else sees.
ON_A_DISK = (
    'mount -t tmpfs -o size=2m tmpfs "$1" && { [ "$2" = full ] || mount -o remount,ro "$1"; } && shift 2 && exec "$@"'
)


def torture_places(folder: Path) -> Counter[str]:
    """Everything once; counts of what was done, and of everything that was wrong, by its words."""
    found: Counter[str] = Counter()
    for name, check in _checks():
        place = Path(tempfile.mkdtemp(dir=folder))
        wrong = check(place)
        found[name] += 1
        if wrong:
            found[f"{name}: {wrong}"] += 1
        shutil.rmtree(place, ignore_errors=True)
    return found


def _checks() -> Iterator[tuple[str, Callable[[Path], str]]]:
    for kind in ("full", "read-only"):
        for suffix in FORMATS:
            yield f"{kind} disk {suffix}", lambda place, k=kind, s=suffix: on_a_disk(place, k, s)
    yield "slow disk", slow_disk
    yield "two renders to one file", two_renders
    yield "two sets in one folder", two_sets
    yield "cache gone and read-only", no_cache


def made_up_song(path: Path, seconds: float) -> Path:
    """A song of noise."""
    soundfile.write(path, 0.1 * np.random.default_rng(1).standard_normal((round(seconds * RATE), 2)), RATE)
    return path


def command(*words: object) -> list[str]:
    """A call of the command line."""
    return [sys.executable, "-m", "latespin", *map(str, words)]


def on_a_disk(place: Path, kind: str, suffix: str) -> str:
    """A render onto a disk with no room: one sentence, and nothing left; with a small file there is room."""
    song, disk = (
        made_up_song(place / "song.flac", 400.0 if suffix in (".ogg", ".opus", ".mp3") else 30.0),
        place / "disk",
    )
    disk.mkdir()
    inner = command("render", song, disk / f"out{suffix}")
    done = subprocess.run(
        ["unshare", "-rm", "sh", "-c", f'{ON_A_DISK}; code=$?; ls -A "$0"; exit $code'.replace("exec ", ""), str(disk), str(disk), kind, *inner],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    if done.returncode != 2 or done.stderr.count("\n") != 1 or "latespin: " not in done.stderr:
        return f"exit code {done.returncode}: {done.stderr[-300:]}"
    return f"left behind: {done.stdout}" if done.stdout.strip() else ""


def slow_disk(place: Path) -> str:
    """A song that comes through a slow reader is decoded whole, and can be given up at once."""
    from latespin.errors import Cancelled

    song = made_up_song(place / "song.wav", 120.0)

    class Slow:
        def __init__(self) -> None:
            self.stop_at = time.monotonic() + 0.2

        def report(self, _: float) -> None:
            time.sleep(0.02)

        def cancelled(self) -> bool:
            return time.monotonic() > self.stop_at

    began = time.monotonic()
    try:
        open_track(song, Slow())
    except Cancelled:
        return "" if time.monotonic() - began < 1.0 else "giving up took more than a second"
    return "it was not given up"


def two_renders(place: Path) -> str:
    """Two processes, one name: one writes it, the other says that it is there; nothing of either is left half done."""
    song, out = made_up_song(place / "song.flac", 10.0), place / "out.flac"
    running = [subprocess.Popen(command("render", song, out), stderr=subprocess.PIPE, text=True) for _ in range(2)]
    message = [process.communicate()[1] for process in running]
    codes = sorted(process.returncode for process in running)
    if codes != [0, 2] or not any("left as it is" in text or "left as it was" in text for text in message):
        return f"exit codes {codes}: {message}"
    left = [path.name for path in place.iterdir() if path.name.startswith(".")]
    return f"left behind: {left}" if left or open_track(out).warnings else ""


def two_sets(place: Path) -> str:
    """Two sets in one folder at once, of other recipes: each writes its files and its report."""
    song, out = made_up_song(place / "song.flac", 4.0), place / "out"
    running = [
        subprocess.Popen(command("set", song, "--recipe", recipe, "--out", out, "--jobs", 1), stderr=subprocess.PIPE, stdout=subprocess.DEVNULL, text=True)
        for recipe in ("sped-up", "clean-edit")
    ]  # fmt: skip
    message = [process.communicate()[1] for process in running]
    if any(process.returncode for process in running):
        return f"a set failed: {message}"
    names = sorted(path.name for path in out.iterdir() if not path.name.startswith("."))
    return (
        ""
        if sum(name.endswith(".flac") for name in names) == 2 and sum(name.endswith(".json") for name in names) == 2
        else f"there is {names}"
    )


def no_cache(place: Path) -> str:
    """Without a cache that can be written to, or with one that goes while it runs, everything works as well."""
    song, cache = made_up_song(place / "song.flac", 3.0), place / "cache"
    before = file_hash(song)
    (place / "no folder").write_text("")
    stop = threading.Event()

    def remove() -> None:
        while not stop.is_set():
            shutil.rmtree(cache, ignore_errors=True)
            time.sleep(0.01)

    removing = threading.Thread(target=remove)
    removing.start()
    try:
        for folder in (place / "no folder", Path("/proc/cache"), cache):
            environment = {**os.environ, "XDG_CACHE_HOME": str(folder), "XDG_DATA_HOME": str(folder)}
            for words in (("inspect", song), ("render", song, place / "o.flac", "--recipe", "halftime", "--overwrite")):
                done = subprocess.run(command(*words), capture_output=True, text=True, check=False, env=environment)
                if done.returncode or "Traceback" in done.stderr:
                    return f"with its cache in {folder.name}: {done.stderr[-300:]}"
    finally:
        stop.set()
        removing.join()
    return "" if file_hash(song) == before else "the song was changed"
