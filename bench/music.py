"""How near a stretched or transposed song is to the same piece played at the new tempo or in the new key.

The demo songs are synthesised anew at other tempi and keys; the distance is the mean difference of log-mel spectra
(80 bands from 40 Hz to 16 kHz, windows of 46 ms, 60 dB deep). In another key drums stay where they are, which no
transposing does; "turned" is the piece played quicker or slower and turned back to its length, drums and all.
"""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tools"))

import demo_instruments
import make_demo
from latespin.dsp.arrays import Audio
from latespin.dsp.stretching.varispeed import read_at
from latespin.media.track import Track
from latespin.model.version import Time
from latespin.render.sources.music_reader import MusicReader

RATE = demo_instruments.RATE
SONGS = (make_demo.lantern_light, make_demo.eight_wheels, make_demo.blue_floor)
RATIOS = (0.67, 0.8, 1.25, 1.5, 2.0)
SHIFTS = (-5, -3, 4, 7)
LEAD_IN = 0.25  # seconds before the first beat, at any tempo


@contextmanager
def played(length_ratio: float, semitones: float) -> Iterator[None]:
    """Songs composed meanwhile are that many times as long and in another key."""
    prepare, hertz = make_demo.Song.__post_init__, demo_instruments.hertz

    def slower(song: make_demo.Song) -> None:
        song.bpm /= length_ratio
        prepare(song)

    make_demo.Song.__post_init__ = slower  # type: ignore[method-assign]
    demo_instruments.hertz = lambda midi: hertz(midi + semitones)
    try:
        yield
    finally:
        make_demo.Song.__post_init__ = prepare  # type: ignore[method-assign]
        demo_instruments.hertz = hertz


def composed(song: int, length_ratio: float = 1.0, semitones: float = 0.0) -> Audio:
    """A song before mastering, ``[2, frames]``."""
    with played(length_ratio, semitones):
        dry = SONGS[song]().dry
    return (0.5 * dry / np.abs(dry).max()).astype(np.float32)


def turned(song: int, semitones: float) -> Audio:
    """A song played at another tempo and brought back to its length as on a turntable, its first beat where it was."""
    ratio = 2.0 ** (semitones / 12.0)
    played_at = composed(song, ratio)
    first = LEAD_IN * (1.0 - ratio) * RATE
    return read_at(played_at, first, ratio, int((played_at.shape[1] - first) / ratio))


def log_mel(sound: Audio) -> np.ndarray:
    """``[frames, bands]``, dB, nothing lower than 60 dB below the loudest."""
    size, hop = 2048, 512
    frames = np.lib.stride_tricks.sliding_window_view(sound.mean(axis=0), size)[::hop] * np.hanning(size)
    power = np.abs(np.fft.rfft(frames)) ** 2
    mel = np.linspace(*(2595 * np.log10(1 + np.array([40.0, 16_000.0]) / 700)), 82)
    edges = 700 * (10 ** (mel / 2595) - 1)
    hz = np.fft.rfftfreq(size, 1 / RATE)
    bank = np.array([np.interp(hz, edges[i : i + 3], [0, 1, 0]) for i in range(80)])
    level = 10 * np.log10(power @ bank.T + 1e-12)
    return np.maximum(level, level.max() - 60)


def distance(out: Audio, truth: Audio, seconds: tuple[float, float]) -> float:
    """Mean difference of log-mel spectra between two places, dB; levels are matched first."""
    first, last = (round(s * RATE) for s in seconds)
    a, b = log_mel(out[:, first:last]), log_mel(truth[:, first:last])
    heard = b > b.max() - 55
    difference = (a - b)[heard]
    return float(np.mean(np.abs(difference - np.median(difference))))


def changed(sound: Audio, time: Time, seconds: float) -> Audio:
    """The first ``seconds`` of a version."""
    reader = MusicReader(Track(Path("bench"), sound, RATE, 2, ""), time)
    return reader.read(0, round(seconds * RATE))


def main(at: float = 40.0, lasts: float = 30.0) -> None:
    stretch, shift, turn = [], [], []
    for song, make in enumerate(SONGS):
        source = composed(song)
        row = []
        for ratio in RATIOS:
            truth = composed(song, ratio)
            moved = round(LEAD_IN * (ratio - 1.0) * RATE)  # the silence before the first beat is stretched, too
            out = changed(source, Time(speed=1 / ratio, pitch="held"), (at + lasts) * ratio + 1)
            out = out[:, moved:] if moved >= 0 else np.pad(out, ((0, 0), (-moved, 0)))
            row.append(distance(out, truth, (at * ratio, (at + lasts) * ratio)))
        stretch += row
        print(f"{make.__name__:16} stretch" + "".join(f"{v:7.2f}" for v in row))
        shifted = [changed(source, Time(pitch="held", semitones=s), at + lasts + 1) for s in SHIFTS]
        for name, rows, truths in (
            ("shift", shift, [composed(song, 1.0, s) for s in SHIFTS]),
            ("turned", turn, [turned(song, s) for s in SHIFTS]),
        ):
            row = [distance(out, truth, (at, at + lasts)) for out, truth in zip(shifted, truths, strict=True)]
            rows += row
            print(f"{make.__name__:16} {name:7}" + "".join(f"{v:7.2f}" for v in row), flush=True)
    means = [f"{np.mean(rows):.2f}" for rows in (stretch, shift, turn)]
    print(f"log-mel distance, dB: stretch {means[0]}, shift {means[1]}, shift against turned {means[2]}")


if __name__ == "__main__":
    main()
