"""Signals for the stretch benchmark whose right answer at any length can be computed."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

RATE = 44_100
Wave = NDArray[np.float64]


def _band(wave: Wave, low: float, high: float, order: int = 2) -> Wave:
    return np.asarray(sosfilt(butter(order, (low, high), "bandpass", fs=RATE, output="sos"), wave))


def _click(_: np.random.Generator) -> Wave:
    wave = np.zeros(40)
    wave[:22] = np.hanning(22) * np.cos(np.arange(22) * 1.1)
    return wave


def _wood(_: np.random.Generator) -> Wave:
    t = np.arange(int(0.06 * RATE)) / RATE
    return np.exp(-t * 90) * (np.sin(2 * np.pi * 1180 * t) + 0.5 * np.sin(2 * np.pi * 2890 * t))


def _snare(noise: np.random.Generator) -> Wave:
    t = np.arange(int(0.14 * RATE)) / RATE
    rattle = _band(noise.standard_normal(len(t)), 1200, 9000)
    return np.exp(-t * 35) * (0.5 * rattle + 0.6 * np.sin(2 * np.pi * 190 * t))


def _kick(_: np.random.Generator) -> Wave:
    t = np.arange(int(0.2 * RATE)) / RATE
    return np.exp(-t * 22) * np.sin(2 * np.pi * (50 * t + 2.2 * (1 - np.exp(-t * 60))))


HITS: tuple[Callable[[np.random.Generator], Wave], ...] = (_click, _wood, _snare, _kick)


def percussion(seconds: float, length_ratio: float) -> tuple[Wave, list[tuple[int, int]]]:
    """Irregular hits, each as it is, at times multiplied by ``length_ratio``; (frame, kind) of each."""
    places = np.random.default_rng(7)
    out = np.zeros(round(seconds * length_ratio * RATE))
    hits, at, kind = [], 0.3, 0
    while at < seconds - 0.4:
        frame = round(at * length_ratio * RATE)
        wave = HITS[kind % 4](np.random.default_rng(kind))
        part = min(len(wave), len(out) - frame)
        out[frame : frame + part] += 0.6 * wave[:part]
        hits.append((frame, kind % 4))
        at += float(places.uniform(0.17, 0.55))
        kind += 1
    return out, hits


CHORD = np.geomspace(65.4, 5300.0, 16)


def chord(seconds: float, pitch: float = 1.0) -> Wave:
    """Sixteen steady sines from 65 Hz to 5.3 kHz."""
    t = np.arange(round(seconds * RATE)) / RATE
    return 0.05 * np.sum([np.sin(2 * np.pi * f * pitch * t + i * i) for i, f in enumerate(CHORD)], axis=0)


def sweep(seconds: float, length_ratio: float) -> Wave:
    """50 Hz to 10 kHz, logarithmic."""
    t = np.arange(round(seconds * length_ratio * RATE)) / RATE
    total = seconds * length_ratio
    k = np.log(10_000 / 50)
    return 0.4 * np.sin(2 * np.pi * 50 * total / k * (np.exp(k * t / total) - 1))


def voice(seconds: float) -> Wave:
    """A pulse train with vibrato through three formants."""
    t = np.arange(round(seconds * RATE)) / RATE
    f0 = 140 * 2 ** (0.35 / 12 * np.sin(2 * np.pi * 5.2 * t))
    phase = np.cumsum(f0) / RATE
    pulses = np.diff(np.floor(phase), prepend=0.0)
    out = np.zeros(len(t))
    for f, width, gain in ((620, 80, 1.0), (1180, 110, 0.6), (2600, 160, 0.35)):
        out += gain * _band(pulses, f - width, f + width)
    return 0.8 * out / np.abs(out).max()


FORMANTS = ((620, 80, 1.0), (1180, 110, 0.6), (2600, 160, 0.35))


def pulses(seconds: float, hertz: float, vibrato_percent: float) -> Wave:
    """A voice of 45 to 60 partials, as far as they go up to 15 kHz, in phase as a throat's pulses are."""
    t = np.arange(round(seconds * RATE)) / RATE
    phase = 2 * np.pi * np.cumsum(hertz * (1 + vibrato_percent / 100 * np.sin(2 * np.pi * 5.5 * t))) / RATE
    out = np.zeros(len(t))
    for k in range(1, min(60, int(15_000 / hertz)) + 1):
        out += (0.03 + sum(g / (1 + ((k * hertz - f) / w) ** 2) for f, w, g in FORMANTS)) * np.cos(k * phase)
    return 0.5 * out / np.abs(out).max()


CLOSE = 60.0 + 17.0 * np.arange(14)


def close_partials(seconds: float) -> Wave:
    """Steady sines 17 Hz apart, from 60 Hz up."""
    t = np.arange(round(seconds * RATE)) / RATE
    return 0.04 * np.sum([np.sin(2 * np.pi * f * t + i * i) for i, f in enumerate(CLOSE)], axis=0)


def stereo_field(seconds: float) -> NDArray[np.float32]:
    """Noise and tones hard left and hard right, and a centred noisy tone in both channels, each in a band of its own."""
    noise = np.random.default_rng(3)
    t = np.arange(round(seconds * RATE)) / RATE
    left = 0.1 * np.sin(2 * np.pi * 311 * t) + 0.05 * _band(noise.standard_normal(len(t)), 4000, 6000, 8)
    right = 0.1 * np.sin(2 * np.pi * 407 * t) + 0.05 * _band(noise.standard_normal(len(t)), 7000, 9000, 8)
    centre = 0.2 * np.sin(2 * np.pi * 880 * t) + 0.1 * _band(noise.standard_normal(len(t)), 1200, 2200, 8)
    return np.stack((left + centre, right + centre)).astype(np.float32)


def ticks(seconds: float) -> Wave:
    """A click every half second."""
    out = np.zeros(round(seconds * RATE))
    out[TICK::TICK] = 0.9
    return out


TICK = RATE // 2
