"""Songs for the benchmarks: made from a demo song, so that they are as long and as busy as real ones."""

import tempfile
from pathlib import Path

import numpy as np
import soundfile

from latespin.demo import demo_folder


def four_minutes(folder: Path | None = None) -> Path:
    """A 4-minute stereo song at 44.1 kHz as FLAC."""
    folder = folder or Path(tempfile.mkdtemp(prefix="late-spin-bench-"))
    path = folder / "four-minutes.flac"
    if not path.exists():
        parts = [soundfile.read(demo_folder() / name)[0] for name in ("lantern-light.ogg", "eight-wheels-turning.ogg")]
        song = np.concatenate([*parts, parts[0]])[: 240 * 44_100]
        soundfile.write(path, np.clip(song, -1, 1), 44_100)
    return path
