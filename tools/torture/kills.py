"""Renders, sets and windows killed at random moments: what is there afterwards is whole, and nothing else is."""

import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import numpy as np
import soundfile
from tools.torture.window_kills import kill_window

from latespin.media.audio.formats import FORMATS
from latespin.media.track import file_hash, open_track
from latespin.render.batch.journal import NAME as JOURNAL

RATE = 44_100
SIGNALS = (signal.SIGKILL, signal.SIGTERM, signal.SIGINT)
WAIT_SECONDS = 60.0


def torture_kills(
    count: int,
    seconds: float,
    seed: int,
    kinds: tuple[str, ...] = ("render", "set", "window"),
    tell: Callable[[str], object] = lambda _: None,
) -> Counter[str]:
    """Kill each kind in turn; counts of kills, and of everything that was wrong, by its words. ``tell`` is told of each at once."""
    rng, found, until = random.Random(seed), Counter[str](), time.monotonic() + seconds
    kills: dict[str, Callable[[Path, random.Random], str]] = {
        "render": kill_render,
        "set": kill_set,
        "window": _kill_a_window,
    }
    with tempfile.TemporaryDirectory(prefix="torture-") as place:
        for n in range(count):
            if time.monotonic() > until:
                break
            kind = kinds[n % len(kinds)]
            folder = Path(place) / f"{n}"
            folder.mkdir()
            wrong = kills[kind](folder, rng)
            found[f"{kind} killed"] += 1
            tell(f"{kind} {n}: {wrong or 'whole'}")
            if wrong:
                found[f"{kind} {n}: {wrong}"] += 1
            shutil.rmtree(folder, ignore_errors=True)
    return found


def made_up_song(path: Path, seconds: float) -> Path:
    """A song of noise."""
    soundfile.write(path, 0.1 * np.random.default_rng(1).standard_normal((round(seconds * RATE), 2)), RATE)
    return path


def kill_render(folder: Path, rng: random.Random) -> str:
    """A render to any format, killed; then done again in peace."""
    song = made_up_song(folder / "song.flac", 20.0)
    before = file_hash(song)
    out = folder / f"out{rng.choice(list(FORMATS))}"
    command = ["render", str(song), str(out), "--recipe", rng.choice(("slowed-reverb", "sped-up")), "--overwrite"]
    stopped_by = _killed_while_running(command, folder, rng, 7.0)
    if wrong := _state(folder, song, before, stopped_by):
        return wrong
    again = subprocess.run(
        [sys.executable, "-m", "latespin", *command],
        capture_output=True,
        text=True,
        check=False,
        env=_own(folder),
    )
    if again.returncode:
        return f"it cannot be done again: {again.stderr[-300:]}"
    left = [path.name for path in folder.iterdir() if path.name.startswith(".")]
    return f"left behind: {left}" if left else _state(folder, song, before, None)


def kill_set(folder: Path, rng: random.Random) -> str:
    """A set of four files, killed; then the same command goes on, and all are there."""
    songs, out = folder / "songs", folder / "out"
    songs.mkdir()
    song = made_up_song(songs / "a.flac", 5.0)
    made_up_song(songs / "b.flac", 4.0)
    before = file_hash(song)
    command = [
        "set",
        str(songs),
        "--recipe",
        "sped-up",
        "--recipe",
        "lofi-vinyl",
        "--out",
        str(out),
        "--format",
        rng.choice(("flac", "wav", "mp3")),
        "--json",
    ]
    stopped_by = _killed_while_running(command, folder, rng, 12.0)
    if wrong := _state(out, song, before, stopped_by) if out.exists() else "":
        return wrong
    if (out / "set-report.json").exists() and not (out / JOURNAL).exists():
        return ""  # it had come to its end before
    again = subprocess.run(
        [sys.executable, "-m", "latespin", *command],
        capture_output=True,
        text=True,
        check=False,
        env=_own(folder),
    )
    if again.returncode:
        return f"it does not go on: {again.stderr[-300:]}"
    states = Counter(row["state"] for row in json.loads(again.stdout)["files"])
    left = [path.name for path in out.iterdir() if path.name.startswith(".")]
    if states["done"] + states["kept"] != 4:
        return f"after going on: {dict(states)}"
    return f"left behind: {left}" if left else _state(out, song, before, None)


def _kill_a_window(folder: Path, rng: random.Random) -> str:
    return kill_window(made_up_song(folder / "song.flac", 6.0), folder / "work", rng)


def _killed_while_running(
    command: list[str], folder: Path, rng: random.Random, longest: float
) -> signal.Signals | None:
    """Run a command and stop it after a random while; the signal, or None where it had ended before."""
    process = subprocess.Popen(
        ["env", "--default-signal=INT", sys.executable, "-m", "latespin", *command], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        start_new_session=True, env=_own(folder),
    )  # fmt: skip
    chosen = rng.choice(SIGNALS)
    try:
        process.wait(rng.uniform(0.05, longest))
        return None
    except subprocess.TimeoutExpired:
        os.killpg(process.pid, chosen) if rng.random() < 0.5 else process.send_signal(chosen)
    process.wait(WAIT_SECONDS)
    _wait_for_children(process.pid)
    return chosen


def _wait_for_children(group: int) -> None:
    """Workers of a killed process end by themselves."""
    until = time.monotonic() + WAIT_SECONDS
    while time.monotonic() < until:
        try:
            os.killpg(group, 0)
        except ProcessLookupError:
            return
        time.sleep(0.05)
    os.killpg(group, signal.SIGKILL)
    raise AssertionError("workers go on after the process that started them has ended")


def _own(folder: Path) -> dict[str, str]:
    return {**os.environ, "XDG_DATA_HOME": str(folder / "data"), "PYTHONUNBUFFERED": "1"}


def _state(folder: Path, song: Path, before: str, stopped_by: signal.Signals | None) -> str:
    """What is wrong with what is there; empty where nothing is."""
    if file_hash(song) != before:
        return "the song was changed"
    for path in folder.iterdir():
        if path.suffix in FORMATS and not path.name.startswith(".") and path != song:
            track = open_track(path)
            if track.warnings or track.frames < RATE:
                return f"{path.name} is not whole: {track.warnings}"
    hidden = [path.name for path in folder.iterdir() if path.name.startswith(".") and path.suffix in FORMATS]
    if hidden and stopped_by in (signal.SIGINT, signal.SIGTERM):
        return f"asked to stop, it left {hidden}"
    return ""
