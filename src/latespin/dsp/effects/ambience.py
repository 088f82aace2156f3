"""Synthesised ambience: crackle, rain, water, room tone, tape hiss, the hum of an empty rink.

Rain as drops on a pool (van den Doel 2005) over hiss; water as noise with bubbles (Minnaert 1933); hum as mains harmonics and a fan's noise.
"""

from collections.abc import Callable
from functools import lru_cache

import numpy as np

from latespin.caches import MEGABYTE, kept
from latespin.dsp.arrays import Audio, amplitude, amplitudes
from latespin.dsp.control.smoothing import knots, straight
from latespin.dsp.effects.random_sources import AmbienceSource, EventStatistics, RandomEvents, ShapedNoise
from latespin.dsp.effects.tape import HISS
from latespin.dsp.effects.vinyl import VinylWear, record_noises

TRIAL_SECONDS = 6.0
SWELL_STEP = 256  # frames between which the swell, slow as it is, is a straight line
BUBBLES = EventStatistics(5.0, (350.0, 2_600.0), (1.0, 1.0), 5.0, rise=0.12, width=0.8, minnaert=True)
WATER = (("high-pass", 70.0, 1.0), ("low-pass", 420.0, 1.5))


class Mixed:
    """Several sources, each with its gain; ``swell`` slowly moves their level, in dB."""

    def __init__(self, rate: int, parts: tuple[tuple[AmbienceSource, float], ...], swell_db: float = 0.0) -> None:
        self._rate, self._parts, self._swell = rate, parts, swell_db
        self.gain = 1.0

    def read(self, at: int, frames: int) -> Audio:
        """Frames ``at`` to ``at + frames``, ``[2, frames]``."""
        total = np.zeros((2, frames), np.float32)
        for bed, gain in self._parts:
            total += bed.read(at, frames) * np.float32(gain)
        if not self._swell:
            return total * np.float32(self.gain)
        seconds = knots(at, frames, SWELL_STEP) / self._rate
        turns = np.sin(2 * np.pi * 0.073 * seconds) + np.sin(2 * np.pi * 0.121 * seconds + 2.0)
        gains = self.gain * amplitudes(0.5 * self._swell * turns)
        return total * straight(gains, at, frames, SWELL_STEP).astype(np.float32)


class Hum:
    """Mains hum of a hall's machines: odd and even harmonics of 50 Hz, a little apart in both channels."""

    LEVELS = ((50.0, 0.5), (100.0, 1.0), (150.0, 0.25), (200.0, 0.35), (300.0, 0.18), (400.0, 0.07))

    def __init__(self, rate: int) -> None:
        self._rate = rate

    def read(self, at: int, frames: int) -> Audio:
        """Frames ``at`` to ``at + frames``, ``[2, frames]``."""
        seconds = np.arange(at, at + frames) / self._rate
        out = np.zeros((2, frames), np.float32)
        for hz, level in self.LEVELS:
            for ear in range(2):
                out[ear] += (level * np.sin(2 * np.pi * hz * seconds + 0.4 * ear * hz / 100.0)).astype(np.float32)
        return out


class Looped:
    """A sound that comes round without a seam: its end is cross-faded into its beginning with equal power."""

    def __init__(self, sound: Audio, fade: int) -> None:
        fade = min(fade, sound.shape[1] // 2)
        self._loop = sound[:, : sound.shape[1] - fade].copy()
        if fade:
            turn = 0.5 * np.pi * (np.arange(fade) + 0.5) / fade
            come, go = np.sin(turn).astype(np.float32), np.cos(turn).astype(np.float32)
            self._loop[:, :fade] = sound[:, :fade] * come + sound[:, sound.shape[1] - fade :] * go

    def kept_bytes(self) -> int:
        """How much memory it takes."""
        return int(self._loop.nbytes)

    def read(self, at: int, frames: int) -> Audio:
        """Frames ``at`` to ``at + frames``, ``[2, frames]``."""
        if self._loop.shape[1] == 0:
            return np.zeros((2, frames), np.float32)
        return np.asarray(np.take(self._loop, np.arange(at, at + frames) % self._loop.shape[1], axis=1))


def _crackle(rate: int, seed: int) -> Mixed:
    return Mixed(rate, record_noises(rate, VinylWear(0.45, rumble=0.4, seed=seed), 1.0))


def _rain(rate: int, seed: int) -> Mixed:
    drops = EventStatistics(140.0, (1_400.0, 9_000.0), (0.4, 2.5), 5.0, rise=0.05)
    near = EventStatistics(9.0, (600.0, 2_500.0), (2.0, 7.0), 5.0, rise=0.1)
    hiss = (("high-pass", 700.0, 1.0), ("low-pass", 6_500.0, 1.0))
    parts = (
        (ShapedNoise(rate, seed, hiss), 0.05),
        (RandomEvents(rate, seed + 1, drops), 0.06),
        (RandomEvents(rate, seed + 2, near), 0.09),
    )
    return Mixed(rate, parts, 2.0)


def _water(rate: int, seed: int) -> Mixed:
    return Mixed(rate, ((ShapedNoise(rate, seed, WATER, 0.3), 0.1), (RandomEvents(rate, seed + 1, BUBBLES), 0.16)), 4.0)


def _room(rate: int, seed: int) -> Mixed:
    return Mixed(
        rate, ((ShapedNoise(rate, seed, (("high-pass", 40.0, 1.0), ("low-pass", 180.0, 1.0)), 0.2), 0.1),), 1.0
    )


def _hiss(rate: int, seed: int) -> Mixed:
    return Mixed(rate, ((ShapedNoise(rate, seed, HISS), 0.1),))


def _rink(rate: int, seed: int) -> Mixed:
    fan = (("high-pass", 60.0, 1.0), ("low-pass", 320.0, 1.0))
    return Mixed(rate, ((Hum(rate), 0.03), (ShapedNoise(rate, seed, fan, 0.3), 0.07)), 1.5)


BEDS: dict[str, Callable[[int, int], Mixed]] = {
    "crackle": _crackle, "rain": _rain, "water": _water, "room": _room, "hiss": _hiss, "rink": _rink,
}  # fmt: skip


def bed(name: str, rate: int, seed: int) -> Mixed:
    """A shipped bed, root mean square 1 on average."""
    made = BEDS[name](rate, seed)
    made.gain = _gain(name, rate, seed)
    return made


@lru_cache(maxsize=64)
def _gain(name: str, rate: int, seed: int) -> float:
    trial = BEDS[name](rate, seed).read(0, round(TRIAL_SECONDS * rate))
    return float(1.0 / np.sqrt(np.mean(np.square(trial, dtype=np.float64))))


@kept(8 * MEGABYTE)
def splash(rate: int, seed: int) -> Audio:
    """One plunge through the surface, ``[2, frames]``, peak about 1: a burst of noise that darkens, then a cloud of bubbles. Not to be changed."""
    frames = round(1.6 * rate)
    t = np.arange(frames) / rate
    burst = ShapedNoise(rate, seed, (("high-pass", 200.0, 1.0), ("low-pass", 5_000.0, 1.0))).read(0, frames)
    deep = ShapedNoise(rate, seed + 1, (("high-pass", 60.0, 1.0), ("low-pass", 500.0, 2.0))).read(0, frames)
    cloud = EventStatistics(90.0, (300.0, 2_400.0), (1.0, 1.0), 5.0, rise=0.15, width=0.9, minnaert=True)
    bubbles = RandomEvents(rate, seed + 2, cloud).read(0, frames)
    rise = np.clip(t / 0.02, 0.0, 1.0)
    made = burst * (0.5 * rise * np.exp(-t / 0.09)) + deep * (0.5 * rise * np.exp(-t / 0.3))
    made = made + bubbles * (0.3 * np.clip(t / 0.15, 0.0, 1.0) * np.exp(-t / 0.4))
    made *= np.clip((t[-1] - t) / 0.1, 0.0, 1.0)
    return np.asarray(made / np.abs(made).max(), np.float32) * np.float32(amplitude(-1.0))
