"""The instruments of the demo songs: each gives one note or hit as float64 ``[frames]`` at 44.1 kHz."""

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, sosfilt

RATE = 44_100
Wave = NDArray[np.float64]

# Formants (Hz) of five sung vowels and their levels (dB); after G. E. Peterson and H. L. Barney, JASA 24, 1952.
VOWELS = {
    "a": ((750, 1200, 2600, 3500), (0, -5, -18, -24)),
    "e": ((500, 1850, 2550, 3500), (0, -10, -14, -22)),
    "i": ((320, 2300, 3000, 3700), (0, -14, -14, -22)),
    "o": ((480, 850, 2500, 3400), (0, -6, -24, -28)),
    "u": ((350, 750, 2400, 3400), (0, -10, -28, -32)),
}


def hertz(midi: float) -> float:
    """Frequency of a MIDI note number."""
    return float(440.0 * 2.0 ** ((midi - 69) / 12))


def seconds(duration: float) -> Wave:
    """The time of each frame of a duration."""
    return np.arange(round(duration * RATE)) / RATE


def shaped(t: Wave, attack: float, release: float) -> Wave:
    """Rise over ``attack``, fall over ``release`` at the end."""
    return np.minimum(1.0, t / attack) * np.clip((t[-1] - t) / release, 0.0, 1.0)


def filtered(sound: Wave, kind: str, hz: float, order: int = 2) -> Wave:
    """A Butterworth filter."""
    return np.asarray(sosfilt(butter(order, hz, kind, fs=RATE, output="sos"), sound))


def kick(noise: np.random.Generator, *, punch: float = 1.0) -> Wave:
    """A bass drum."""
    t = seconds(0.42)
    sweep = 48.0 * t + 4.2 * punch * (1.0 - np.exp(-t * 38.0)) / 1.6
    click = filtered(noise.standard_normal(len(t)), "lowpass", 3_000) * np.exp(-t * 420.0)
    return np.asarray(np.sin(2 * np.pi * sweep) * np.exp(-t * 8.0) + 0.25 * click) * shaped(t, 0.001, 0.05)


def snare(noise: np.random.Generator) -> Wave:
    """A snare drum."""
    t = seconds(0.3)
    rattle = filtered(noise.standard_normal(len(t)), "highpass", 1_400) * np.exp(-t * 17.0)
    head = (np.sin(2 * np.pi * 186 * t) + 0.6 * np.sin(2 * np.pi * 331 * t)) * np.exp(-t * 26.0)
    return np.asarray(0.45 * rattle + 0.7 * head) * shaped(t, 0.001, 0.05)


def brush(noise: np.random.Generator) -> Wave:
    """A brush drawn over a snare."""
    t = seconds(0.35)
    return filtered(noise.standard_normal(len(t)), "highpass", 2_500) * t * np.exp(-t * 14.0) * 9.0


def hat(noise: np.random.Generator, decay: float = 60.0) -> Wave:
    """A hi-hat; lower decay for an open one."""
    t = seconds(min(0.5, 6.0 / decay))
    return filtered(noise.standard_normal(len(t)), "highpass", 7_500) * np.exp(-t * decay) * 0.6


def clap(noise: np.random.Generator) -> Wave:
    """Hands, several of them."""
    t = seconds(0.28)
    burst = sum(np.exp(-np.maximum(0.0, t - d) * 110.0) * (t >= d) for d in (0.0, 0.011, 0.023))
    body = filtered(noise.standard_normal(len(t)), "bandpass", (900, 4_200), 1)
    return np.asarray(body * (0.7 * burst + 0.8 * np.exp(-t * 19.0) * (t > 0.03)))


def bass(midi: float, duration: float, *, bright: float = 0.35) -> Wave:
    """A round electric bass."""
    t = seconds(duration)
    f = hertz(midi)
    tone = sum(
        (1.0 / k) * np.exp(-t * (1.2 + 2.6 * k * (1.0 - bright))) * np.sin(2 * np.pi * k * f * t) for k in range(1, 9)
    )
    return np.tanh(1.3 * np.asarray(tone)) * shaped(t, 0.006, 0.04)


def electric_piano(midi: float, duration: float, strength: float) -> Wave:
    """Two-operator frequency modulation (J. M. Chowning, JAES 21, 1973)."""
    t = seconds(duration + 0.25)
    f = hertz(midi)
    tine = 0.8 * strength * np.exp(-t * 9.0) * np.sin(2 * np.pi * 14.0 * f * t) * (f * 14 < 16_000)
    body = np.sin(2 * np.pi * f * t + 1.9 * strength * np.exp(-t * 2.4) * np.sin(2 * np.pi * f * t) + tine)
    return np.asarray(strength * body * np.exp(-t * 1.1)) * shaped(t, 0.003, 0.22)


def pluck(midi: float, duration: float, strength: float) -> Wave:
    """A bright plucked synthesiser."""
    t = seconds(duration)
    f = hertz(midi)
    count = max(1, min(24, int(15_000 / f)))
    tone = sum(np.sin(2 * np.pi * k * f * t) * np.exp(-t * (3.0 + 0.9 * k)) / k for k in range(1, count + 1))
    return np.asarray(strength * tone) * shaped(t, 0.003, 0.03)


def piano(midi: float, duration: float, strength: float) -> Wave:
    """A felted piano with a little inharmonicity."""
    t = seconds(duration + 0.6)
    f = hertz(midi)
    count = max(1, min(14, int(9_000 / f)))
    tone = sum(
        np.sin(2 * np.pi * k * f * np.sqrt(1 + 0.0004 * k * k) * t + k) * np.exp(-t * (0.7 + 0.5 * k)) / k**1.5
        for k in range(1, count + 1)
    )
    return np.asarray(strength * tone) * shaped(t, 0.004, 0.5)


def pad(midi: float, duration: float, detune: float, bright: float = 1_400.0) -> Wave:
    """Slow strings: many partials of three detuned voices, soft above ``bright`` Hz."""
    t = seconds(duration + 0.8)
    out = np.zeros(len(t))
    for cents in (-detune, 0.0, detune):
        f = hertz(midi + cents / 100.0)
        for k in range(1, max(2, min(16, int(6_000 / f)))):
            out += np.sin(2 * np.pi * k * f * t + k * cents) / k / (1.0 + (k * f / bright) ** 2)
    return out / 3.0 * shaped(t, min(0.6, duration / 2), 0.8)


def sung(midi: float, previous: float, duration: float, vowel: str, consonant: str, noise: np.random.Generator) -> Wave:
    """A syllable: a puff for its consonant, then a vowel made of harmonics weighted by its formants."""
    t = seconds(duration)
    glide = previous + (midi - previous) * (1.0 - np.exp(-t / 0.035))
    vibrato = 0.22 * np.sin(2 * np.pi * 5.3 * t) * np.clip((t - 0.25) / 0.4, 0.0, 1.0)
    frequency = 440.0 * 2.0 ** ((glide + vibrato - 69) / 12)
    phase = 2 * np.pi * np.cumsum(frequency) / RATE
    out = np.zeros(len(t))
    base = hertz(midi)
    for k in range(1, int(5_500 / base) + 1):
        out += _formant_gain(k * base, vowel) * np.sin(k * phase) / k**0.55
    out += 0.03 * filtered(noise.standard_normal(len(t)), "highpass", 3_000)
    out *= shaped(t, 0.045, min(0.12, duration / 3))
    if consonant == "s":
        hiss = filtered(noise.standard_normal(len(t)), "highpass", 5_000)
        out = out * np.clip((t - 0.07) / 0.03, 0.0, 1.0) + 0.25 * hiss * np.clip(1.0 - abs(t - 0.05) / 0.05, 0.0, 1.0)
    elif consonant == "t":
        burst = filtered(noise.standard_normal(len(t)), "highpass", 2_500)
        out = out * np.clip((t - 0.02) / 0.02, 0.0, 1.0) + 0.5 * burst * np.exp(-t * 160.0)
    return out * 0.35


def _formant_gain(hz: float, vowel: str) -> float:
    centres, levels = VOWELS[vowel]
    return float(
        sum(10 ** (db / 20) / (1.0 + ((hz - f) / (60 + 0.06 * f)) ** 2) for f, db in zip(centres, levels, strict=True))
    )
