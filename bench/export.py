"""Speed of a whole export, and of each part of it, against plain decoding and encoding on the same machine."""

import argparse
import tempfile
import time
from pathlib import Path

import soundfile
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.jobs import Quietly
from latespin.media.track import open_track
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.recipes import find_recipe
from songs import four_minutes


def best(times: int, function: object) -> float:
    """The least of some timings, seconds."""
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        function()  # type: ignore[operator]
        taken.append(time.perf_counter() - began)
    return min(taken)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--rounds", type=int, default=3)
    rounds = parser.parse_args().rounds
    folder = Path(tempfile.mkdtemp(prefix="late-spin-bench-"))
    song = four_minutes(folder)
    track = open_track(song)
    seconds = track.seconds
    slowed = find_recipe("slowed-reverb").stages
    held = replace(slowed, time=replace(slowed.time, pitch="held"))
    loud = replace(slowed, level=replace(slowed.level, target_lufs=-9.0))

    def whole(stages: Stages, suffix: str) -> None:
        export(TrackRenderer(open_track(song)), stages, folder / f"out{suffix}", Quietly(), overwrite=True)

    def copy() -> None:
        sound, rate = soundfile.read(song, dtype="float32")
        soundfile.write(folder / "copy.flac", sound, rate, subtype="PCM_24")

    rows = {
        "baseline: decode and encode FLAC only": copy,
        "slowed-reverb to FLAC": lambda: whole(slowed, ".flac"),
        "slowed-reverb to WAV": lambda: whole(slowed, ".wav"),
        "slowed-reverb, pitch held, to FLAC": lambda: whole(held, ".flac"),
        "slowed-reverb at −9 LUFS (limiter works) to FLAC": lambda: whole(loud, ".flac"),
        "sped-up to MP3": lambda: whole(Stages(time=Time(speed=1.22)), ".mp3"),
        "inspect: open and measure": lambda: facts_of(open_track(song).sound, track.rate),
    }
    print(f"{'a 4-minute 44.1 kHz stereo song':52} {'seconds':>8} {'× real time':>12}")
    for name, function in rows.items():
        taken = best(rounds, function)
        print(f"{name:52} {taken:8.2f} {seconds / taken:12.1f}")


if __name__ == "__main__":
    main()
