"""Speed of whole exports, as ratios against baselines measured in the same run, medians of several.

Baselines: decoding and encoding the FLAC only; encoding the MP3 only; starting Python and importing Numba only.
"""

import argparse
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import soundfile
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.analysis.reading import read_song
from latespin.jobs import Quietly
from latespin.media.audio.formats import BEST, FORMATS
from latespin.media.audio.writers import opened
from latespin.media.track import open_track
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.recipes import find_recipe
from songs import four_minutes


def median(times: int, function: Callable[[], object]) -> float:
    """The median of some timings, seconds."""
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        function()
        taken.append(time.perf_counter() - began)
    return statistics.median(taken)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--rounds", type=int, default=5)
    rounds = parser.parse_args().rounds
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)  # where people work, modules are kept compiled
    folder = Path(tempfile.mkdtemp(prefix="late-spin-bench-"))
    song = four_minutes(folder)
    track = open_track(song)
    slowed = find_recipe("slowed-reverb").stages
    held = replace(slowed, time=replace(slowed.time, pitch="held"))
    loud = replace(slowed, level=replace(slowed.level, target_lufs=-9.0))
    hot = replace(slowed, level=replace(slowed.level, target_lufs=-9.0, allowance_db=8.0))
    faster = Stages(time=Time(speed=1.22))

    def whole(stages: Stages, suffix: str) -> None:
        export(TrackRenderer(open_track(song)), stages, folder / f"out{suffix}", Quietly(), overwrite=True)

    def copy() -> None:
        sound, rate = soundfile.read(song, dtype="float32")
        soundfile.write(folder / "copy.flac", sound, rate, subtype="PCM_24")

    def coded(suffix: str, speed: float) -> None:
        """As long a sound encoded only."""
        frames = round(track.frames / speed)
        sound = np.resize(track.sound.T, (frames, 2))
        rate = FORMATS[suffix].rate_for(track.rate)
        with opened(folder / f"coded{suffix}", FORMATS[suffix], BEST, rate, 2) as file:
            for start in range(0, frames, 1 << 15):
                file.write(sound[start : start + (1 << 15)])

    def short() -> None:
        soundfile.write(folder / "two.wav", 0.1 * np.random.default_rng(1).standard_normal((88_200, 2)), 44_100)
        command = [str(Path(sys.executable).with_name("latespin")), "render", folder / "two.wav", folder / "two.flac"]
        subprocess.run([*command, "--recipe", "slowed-reverb", "--overwrite"], check=True, capture_output=True)

    def python() -> None:
        subprocess.run([sys.executable, "-c", "import numba"], check=True)

    groups: dict[tuple[str, Callable[[], None]], dict[str, Callable[[], object]]] = {
        ("decode and encode FLAC only", copy): {
            "slowed-reverb to FLAC": lambda: whole(slowed, ".flac"),
            "slowed-reverb to WAV": lambda: whole(slowed, ".wav"),
            "slowed-reverb, pitch held, to FLAC": lambda: whole(held, ".flac"),
            "slowed-reverb at −9 LUFS (limiter works) to FLAC": lambda: whole(loud, ".flac"),
            "ambient-pad (slowest recipe) to FLAC": lambda: whole(find_recipe("ambient-pad").stages, ".flac"),
            "inspect: open and measure": lambda: facts_of(open_track(song).sound, track.rate),
            "reading beats, bars, key, sections": lambda: read_song(track.sound, track.rate, Quietly()),
        },
        ("encode MP3 only, as long as sped-up", lambda: coded(".mp3", 1.22)): {
            "sped-up to MP3": lambda: whole(faster, ".mp3"),
        },
        ("encode MP3 only, as long as slowed-reverb", lambda: coded(".mp3", 0.85)): {
            "slowed-reverb at −9 LUFS, limited hard, to MP3": lambda: whole(hot, ".mp3"),
        },
        ("encode Opus only, as long as slowed-reverb", lambda: coded(".opus", 0.85)): {
            "slowed-reverb at −9 LUFS, limited hard, to Opus": lambda: whole(hot, ".opus"),
        },
        ('python -c "import numba"', python): {"2 seconds of WAV to FLAC, slowed-reverb, process": short},
    }
    short()
    print(f"{'a 4-minute 44.1 kHz stereo song':52} {'seconds':>8} {'× baseline':>11}")
    for (name, function), rows in groups.items():
        lossy = "MP3" in name or "Opus" in name
        baseline = median(1 if lossy else rounds, function)
        print(f"{'baseline: ' + name:52} {baseline:8.2f}")
        for row, work in rows.items():
            taken = median(1 if lossy else rounds, work)
            print(f"{row:52} {taken:8.2f} {taken / baseline:11.2f}", flush=True)


if __name__ == "__main__":
    main()
