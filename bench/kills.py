"""Kills a window at random moments of editing, saving and exporting, and counts what is lost.

Run ``python bench/kills.py [HOW_OFTEN]``, from the project's folder.
"""

import random
import sys
import tempfile
from pathlib import Path

import numpy as np
import soundfile

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.window.killing import kill_once


def main() -> None:
    """Print what went wrong, and how often nothing did."""
    often, rng = int(sys.argv[1]) if len(sys.argv) > 1 else 50, random.Random(50)
    with tempfile.TemporaryDirectory() as place:
        song = Path(place) / "song.flac"
        soundfile.write(song, 0.1 * np.random.default_rng(1).standard_normal((6 * 44_100, 2)), 44_100)
        wrong = [said for n in range(often) if (said := kill_once(song, Path(place) / f"{n}", rng))]
    print(f"{often} kills: {often - len(wrong)} with at most 5 s of work lost and every export whole")
    for said in wrong:
        print(said)


if __name__ == "__main__":
    main()
