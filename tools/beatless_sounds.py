"""Sounds without a beat, so that the reading learns to say so: knocks at random, stray notes, talk, rain, swelling noise, drones, chirps; development only."""

from collections.abc import Callable

import numpy as np
from scipy.signal import butter, sosfilt

RATE = 22_050
SECONDS = 45.0
Draw = np.random.Generator


def beatless(seed: int) -> tuple[str, np.ndarray]:
    """The kind of a sound, and the sound: mono at 22 050 Hz."""
    draw = np.random.default_rng([seed, 41])
    kind = list(SOUNDS)[seed % len(SOUNDS)]
    sound = SOUNDS[kind](draw, np.zeros(round(SECONDS * RATE)))
    sound += 1e-4 * draw.standard_normal(len(sound))
    return kind, (0.2 * sound / np.sqrt(np.mean(sound**2))).astype(np.float32)


def _moments(draw: Draw, mean: float) -> np.ndarray:
    """Seconds of a process without order: a Poisson process, or one whose intervals vary a little less."""
    shape = float(draw.choice((1.0, 1.0, 1.5, 2.5)))
    at = np.cumsum(draw.gamma(shape, mean / shape, round(2 * SECONDS / mean)))
    return at[at < SECONDS - 1.0]


def _add(sound: np.ndarray, at: float, part: np.ndarray) -> None:
    first = round(at * RATE)
    room = min(len(part), len(sound) - first)
    sound[first : first + room] += part[:room]


def _knocks(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Hits of one object or several, near and far."""
    bodies = [(float(draw.uniform(60, 4000)), float(draw.uniform(8, 90))) for _ in range(draw.integers(1, 4))]
    t = np.arange(round(0.4 * RATE)) / RATE
    for at in _moments(draw, float(draw.uniform(0.15, 1.2))):
        hz, decay = bodies[draw.integers(len(bodies))]
        hit = (np.sin(2 * np.pi * hz * t) + draw.standard_normal(len(t)) * draw.uniform(0.0, 1.0)) * np.exp(-decay * t)
        _add(sound, at, hit * draw.uniform(0.1, 1.0))
    return sound


def _notes(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Notes of a scale, whenever."""
    t = np.arange(round(1.5 * RATE)) / RATE
    scale, root = np.array((0, 2, 4, 7, 9)), float(draw.uniform(90, 250))
    for at in _moments(draw, float(draw.uniform(0.2, 1.0))):
        hz = root * 2.0 ** ((scale[draw.integers(5)] + 12 * draw.integers(0, 3)) / 12)
        note = sum(np.sin(2 * np.pi * k * hz * t) / k for k in range(1, 5)) * np.exp(-draw.uniform(1.0, 6.0) * t)
        _add(sound, at, note * draw.uniform(0.2, 1.0))
    return sound


def _talk(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Syllables and pauses for breath."""
    at, pitch = 0.5, float(draw.uniform(90, 220))
    while at < SECONDS - 1.0:
        long = float(draw.uniform(0.07, 0.3))
        t = np.arange(round(long * RATE)) / RATE
        voice = np.sign(
            np.sin(2 * np.pi * pitch * (1 + 0.2 * draw.standard_normal()) * t)
        ) + 0.1 * draw.standard_normal(len(t))
        if draw.random() < 0.3:
            voice = 0.4 * draw.standard_normal(len(t))
        low = float(draw.uniform(250, 900))
        vowel = sosfilt(butter(2, (low, low * draw.uniform(1.8, 4.0)), "bandpass", fs=RATE, output="sos"), voice)
        _add(sound, at, vowel * np.hanning(len(t)) * draw.uniform(0.4, 1.0))
        at += long * float(draw.uniform(0.8, 1.3)) + (float(draw.uniform(0.2, 1.2)) if draw.random() < 0.12 else 0.0)
    return sound


def _rain(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Very many small drops."""
    drops = draw.poisson(float(draw.uniform(10, 300)) / RATE, len(sound)) * draw.exponential(1.0, len(sound))
    return np.convolve(drops, np.exp(-np.arange(400) / draw.uniform(10, 120)), "same") * draw.choice(
        (-1, 1), len(sound)
    )


def _swelling(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Noise that comes and goes, as wind or waves do."""
    low = float(draw.uniform(80, 2000))
    noise = sosfilt(
        butter(1, (low, min(9000.0, low * 6)), "bandpass", fs=RATE, output="sos"), draw.standard_normal(len(sound))
    )
    points = np.cumsum(draw.standard_normal(round(SECONDS * 2))) * draw.uniform(0.1, 0.6)
    return noise * np.exp(
        np.interp(np.linspace(0, len(points) - 1, len(sound)), np.arange(len(points)), points - points.mean())
    )


def _drone(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """A chord that is held, each tone swelling as it likes."""
    t, root = np.arange(len(sound)) / RATE, float(draw.uniform(50, 150))
    for step in (0, 7, 12, 16, 19):
        level = np.interp(t, np.arange(0, SECONDS + 5, 5.0), draw.uniform(0, 1, round(SECONDS / 5) + 1))
        sound += level * np.sin(
            2 * np.pi * root * 2.0 ** (step / 12) * t + 0.3 * np.sin(2 * np.pi * draw.uniform(0.05, 0.4) * t)
        )
    return sound


def _chirps(draw: Draw, sound: np.ndarray) -> np.ndarray:
    """Birds: glides in groups of a few, the groups whenever."""
    for start in _moments(draw, float(draw.uniform(0.8, 3.0))):
        at, low = start, float(draw.uniform(1500, 5000))
        for _ in range(draw.integers(1, 6)):
            t = np.arange(round(draw.uniform(0.04, 0.2) * RATE)) / RATE
            _add(sound, at, np.sin(2 * np.pi * low * (t + draw.uniform(-2, 2) * t * t)) * np.hanning(len(t)))
            at += float(draw.uniform(0.08, 0.3))
    return sound


SOUNDS: dict[str, Callable[[Draw, np.ndarray], np.ndarray]] = {
    "knocks": _knocks, "notes": _notes, "talk": _talk, "rain": _rain, "swelling": _swelling, "drone": _drone, "chirps": _chirps,
}  # fmt: skip
