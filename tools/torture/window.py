"""The window used at random, in a process of its own, with a home and songs of its own."""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
import soundfile

RATE = 44_100
GRACE_SECONDS = 60.0


def torture_window(seconds: float, actions: int, seed: int, kept: Path | None = None) -> dict[str, Any]:
    """What :mod:`tools.torture.random_window` found; its error stream is left in ``kept`` where it found anything."""
    with tempfile.TemporaryDirectory(prefix="torture-") as place:
        folder = Path(place) / "files"
        (folder / "kept").mkdir(parents=True)
        (folder / "out").mkdir()
        _songs(folder)
        environment = {
            **os.environ, "XDG_DATA_HOME": f"{place}/data", "XDG_CACHE_HOME": f"{place}/cache", "LATESPIN_CONFIG": f"{place}/config",
            "QT_QPA_PLATFORM": "offscreen", "LATESPIN_DEVICE": "silent", "LATESPIN_LOG": "debug",
        }  # fmt: skip
        words = [
            sys.executable,
            "-m",
            "tools.torture.random_window",
            str(folder),
            str(seed),
            str(seconds),
            str(actions),
        ]
        try:
            done = subprocess.run(
                words, capture_output=True, text=True, check=False, env=environment, timeout=seconds + GRACE_SECONDS
            )
        except subprocess.TimeoutExpired as hung:
            said = (hung.stderr or b"").decode(errors="replace")
            _keep(said, kept, seed)
            return {"found": {"it did not end": 1}, "said": said[-5_000:]}
        try:
            found: dict[str, Any] = json.loads(done.stdout.splitlines()[-1])
        except (ValueError, IndexError):
            found = {"found": {f"it ended with {done.returncode}": 1}, "said": done.stderr[-5_000:]}
        found["keeps"] = [line.split("DEBUG ")[-1] for line in done.stderr.splitlines() if " keeps " in line][-12:]
        if found["found"]:
            _keep(done.stderr, kept, seed)
        return found


def _keep(said: str, kept: Path | None, seed: int) -> None:
    """The error stream of a window that went wrong."""
    if kept is not None:
        kept.mkdir(parents=True, exist_ok=True)
        (kept / f"window {seed}.txt").write_text(said, encoding="utf-8")


def _songs(folder: Path) -> None:
    """Two short songs, one with a beat, and copies of both to compare with."""
    rng = np.random.default_rng(2)
    beat = 0.02 * rng.standard_normal((16 * RATE, 2))
    for n in range(32):
        start = round(0.5 * n * RATE)
        beat[start : start + 6_000] += (
            0.5 * (np.sin(2 * np.pi * 70 * np.arange(6_000) / RATE) * np.exp(-np.arange(6_000) / 1_500))[:, None]
        )
    soundfile.write(folder / "song.flac", beat, RATE)
    soundfile.write(folder / "song 2.ogg", 0.1 * rng.standard_normal((10 * RATE, 1)), RATE)
    for path in folder.glob("song*"):
        shutil.copy(path, folder / "kept")
