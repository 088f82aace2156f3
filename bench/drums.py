"""How far the drums of the demo songs can be taken apart from the rest, which is known: each song is composed with and without them."""

import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tools"))

import demo_instruments
import make_demo
from latespin.dsp.arrays import Audio
from latespin.dsp.filters.percussive import are_drums_clear, drums_of

RATE = demo_instruments.RATE
SONGS = {
    "Lantern Light": make_demo.lantern_light,
    "Eight Wheels Turning": make_demo.eight_wheels,
    "Slow Door, Blue Floor": make_demo.blue_floor,
}
DRUMS = ("kick", "snare", "brush", "hat", "clap")
TONES = ("bass", "electric_piano", "pluck", "piano", "pad", "sung")
FROM, TO = 20 * RATE, 50 * RATE


@contextmanager
def silenced(instruments: tuple[str, ...]) -> Iterator[None]:
    """Songs composed meanwhile are without these; everything else in them is the same."""
    kept = {name: getattr(demo_instruments, name) for name in instruments}
    for name, play in kept.items():
        setattr(demo_instruments, name, lambda *a, play=play, **k: 0.0 * play(*a, **k))
    try:
        yield
    finally:
        for name, play in kept.items():
            setattr(demo_instruments, name, play)


def composed(compose: object, without: tuple[str, ...]) -> Audio:
    """Thirty seconds of a song before mastering."""
    with silenced(without):
        return np.asarray(compose().dry[:, FROM:TO], np.float32)  # type: ignore[operator]


def band_db(sound: Audio, low: float, high: float) -> float:
    """Level of a band, dB."""
    power = np.abs(np.fft.rfft(sound, axis=1)) ** 2
    hz = np.fft.rfftfreq(sound.shape[1], 1.0 / RATE)
    return 10.0 * float(np.log10(np.sum(power[:, (hz >= low) & (hz < high)]) + 1e-12))


def main() -> None:
    """One song a line."""
    print(
        "song                    tones 300-2000 Hz, dB   moved above 5 kHz   correlation   drums, SDR dB   rest, SDR dB   clear   x real time"
    )
    for title, compose in SONGS.items():
        tones, drums = composed(compose, DRUMS), composed(compose, TONES)
        song = tones + drums
        began = time.perf_counter()
        taken = drums_of(song, RATE)
        speed = (TO - FROM) / RATE / (time.perf_counter() - began)
        rest = song - taken
        kept = band_db(rest, 300.0, 2_000.0) - band_db(tones, 300.0, 2_000.0)
        moved = 10.0 ** ((band_db(taken, 5_000.0, 22_000.0) - band_db(song, 5_000.0, 22_000.0)) / 10.0)
        alike = float(np.corrcoef(taken.ravel(), drums.ravel())[0, 1])
        ratios = [
            10.0 * np.log10(np.sum(true**2) / np.sum((got - true) ** 2))
            for got, true in ((taken, drums), (rest, tones))
        ]
        print(
            f"{title:24}{kept:+10.2f} {100 * moved:22.0f} % {alike:16.2f} {ratios[0]:15.1f} {ratios[1]:14.1f}"
            f"   {are_drums_clear(song, taken, RATE)!s:5} {speed:9.0f}"
        )


if __name__ == "__main__":
    main()
