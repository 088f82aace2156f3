"""How good varispeed is: what is added at constant and at moving speed, the pass band, and how quick it is."""

import time

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.stretching.varispeed import read_along, read_at
from latespin.dsp.timing.speed_by_position import SpeedByPosition

RATE = 44_100


def tone(hz: float, seconds: float) -> NDArray[np.float32]:
    """A steady tone in two channels."""
    return np.tile(0.5 * np.sin(2 * np.pi * hz * np.arange(round(seconds * RATE)) / RATE), (2, 1)).astype(np.float32)


def added_db(speed: float, hz: float) -> float:
    """The highest thing in the spectrum of a tone that is not the tone, dB below it."""
    out = read_at(tone(hz, 4.0), 20_000.0, speed, 60_000)[0].astype(np.float64)
    spectrum = np.abs(np.fft.rfft(out * np.blackman(len(out)) ** 2))
    at = round(hz * speed * len(out) / RATE)
    highest = spectrum[at - 12 : at + 13].max()
    spectrum[max(0, at - 12) : at + 13] = 0.0
    return 20 * float(np.log10(spectrum.max() / highest))


def moving_error_db(low: float, high: float, hz: float) -> float:
    """The difference to the tone computed at the places read, while the speed goes from low to high, dB of the tone."""
    course = SpeedByPosition.through([0.0, 8.0 * RATE], [low, high])
    times = np.arange(10_000, 10_000 + 80_000)
    places, speeds = course.before_at(times), course.speed_at(times)
    out = read_along(tone(hz, 8.0), places, speeds)[0]
    return 20 * float(np.log10(np.sqrt(np.mean((out - 0.5 * np.sin(2 * np.pi * hz * places / RATE)) ** 2)) / 0.3536))


def quick(speeds: tuple[float, float]) -> float:
    """Seconds made in a CPU second, after a first time for the tables."""
    song = np.random.default_rng(1).standard_normal((2, 40 * RATE)).astype(np.float32)
    times = np.arange(10 * RATE)
    course = SpeedByPosition.through([0.0, 20.0 * RATE], list(speeds))
    spent = 0.0
    for _ in range(2):
        began = time.process_time()
        if speeds[0] == speeds[1]:
            read_at(song, 0.0, speeds[0], len(times))
        else:
            read_along(song, course.before_at(times), course.speed_at(times))
        spent = time.process_time() - began
    return 10.0 / spent


def main() -> None:
    for speed in (0.5, 0.8, 1.25, 2.0):
        print(f"added at {speed}x to 9 kHz / 1 kHz: {added_db(speed, 9000):.1f} / {added_db(speed, 1000):.1f} dB")
    beyond = read_at(tone(15_000, 4.0), 20_000.0, 2.0, 60_000)
    print(f"15 kHz read at 2x (folds back without a filter): {10 * np.log10(np.mean(beyond**2) / 0.125):.1f} dB")
    for low, high, hz in ((0.7, 1.4, 9000.0), (0.5, 2.0, 5000.0)):
        print(f"error while the speed goes from {low} to {high}, {hz:.0f} Hz: {moving_error_db(low, high, hz):.1f} dB")
    band = [
        10 * np.log10(np.mean(read_at(tone(f, 2.0), 9000.5, 1.0, 40_000) ** 2) / 0.125)
        for f in range(1000, 18_001, 500)
    ]
    print(f"pass band to 18 kHz, half-way between frames: {min(band):.3f} to {max(band):.3f} dB")
    for speeds in ((0.85, 0.85), (1.25, 1.25), (0.7, 0.95), (0.7, 1.4), (1.6, 3.0)):
        print(f"speed {speeds[0]} to {speeds[1]}: {quick(speeds):.0f} x real time on one core")


if __name__ == "__main__":
    main()
