"""How the hall measures: decay in octaves, echo density, how colourless its tail is, both ears, and speed.

Run ``PYTHONPATH=bench .venv/bin/python bench/hall.py``.
"""

import time

import numpy as np
from scipy.signal import butter, sosfilt

from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import OCTAVES, HallSettings, octave_decays

RATE = 44_100


def main() -> None:
    """Print all figures."""
    print(
        "size decay lows highs  broadband %  octaves 125 Hz … 8 kHz, % off   dense (0.9) after ms  tail: mean density  kurtosis  flatness dB  ears  worst octave"
    )
    for size, decay, lows, highs, tone in (
        (0.3, 1.2, 1.0, 0.6, 6000.0), (0.5, 2.0, 1.0, 0.6, 6000.0), (0.5, 2.0, 1.0, 1.0, 16_000.0),
        (0.6, 3.2, 1.3, 0.4, 6000.0), (0.9, 6.0, 0.7, 0.5, 9000.0),
    ):  # fmt: skip
        settings = HallSettings(decay, size, 0.0, tone, 1.0, 1.0, lows=lows, highs=highs)
        left, right = response = answer(settings, 2.2 * decay + 0.5)
        asked = octave_decays(settings, RATE)
        off = [100.0 * (t30(octave(left, f)) / wanted - 1.0) for f, wanted in zip(OCTAVES, asked, strict=True)]
        curve = [density(channel, start) for channel in response for start in np.arange(0.0, 0.3, 0.005)]
        first = next(i for i, value in enumerate(curve) if value >= 0.9)
        kurtosis, flatness = colour(left[RATE // 4 : RATE // 4 + round(1.2 * decay * RATE)])
        tail = slice(RATE // 5, RATE // 5 + RATE)
        ears = np.corrcoef(left[tail], right[tail])[0, 1]
        worst = max(abs(np.corrcoef(octave(left, f)[tail], octave(right, f)[tail])[0, 1]) for f in OCTAVES)
        message = " ".join(f"{value:+5.1f}" for value in off)
        print(
            f"{size:4.1f} {decay:5.1f} {lows:4.1f} {highs:5.1f}  {100 * (t30(left) / decay - 1):+10.1f}   {message}   {5 * first + 10:12d}"
            f"  {np.mean(curve[first:60]):12.2f} (least {np.min(curve[first:60]):.2f})  {kurtosis:12.2f}  {flatness:8.2f}  {ears:+8.3f}  {worst:.2f}"
        )
    noise = (0.1 * np.random.default_rng(0).standard_normal((2, 30 * RATE))).astype(np.float32)
    hall = Hall(RATE, HallSettings(2.0, 0.5, 0.0, 6000.0, 1.0, 0.3, duck_db=6.0))
    hall.process(noise[:, :RATE])
    began = time.perf_counter()
    hall.process(noise)
    print(f"{30 / (time.perf_counter() - began):.0f} times real time, one thread, giving way")


def answer(settings: HallSettings, seconds: float) -> np.ndarray:
    """What a hall answers to one sample."""
    click = np.zeros((2, round(seconds * RATE)), np.float32)
    click[:, 0] = 1.0
    return Hall(RATE, settings).process(click)


def octave(sound: np.ndarray, f: float) -> np.ndarray:
    """An octave band."""
    return np.asarray(sosfilt(butter(4, [f / 2**0.5, f * 2**0.5], "bandpass", fs=RATE, output="sos"), sound))


def t30(response: np.ndarray) -> float:
    """Reverberation time from −5 to −35 dB (ISO 3382-1)."""
    energy = np.cumsum(np.square(response, dtype=np.float64)[::-1])[::-1]
    level = 10.0 * np.log10(energy / energy[0] + 1e-30)
    span = np.flatnonzero((level <= -5.0) & (level >= -35.0))
    return float(-60.0 / np.polyfit(span / RATE, level[span], 1)[0])


def density(response: np.ndarray, start: float) -> float:
    """Normalised echo density in 20 ms (Abel and Huang, AES 121, 2006)."""
    window = np.hanning(round(0.02 * RATE))
    part = response[round(start * RATE) :][: len(window)].astype(float)
    weights = window / window.sum()
    return float(np.sum(weights * (np.abs(part) > np.sqrt(np.sum(weights * part**2))))) / 0.3173


def colour(tail: np.ndarray) -> tuple[float, float]:
    """Spectral kurtosis (noise: 2.0) and flatness (noise: −2.5 dB) of a tail, its decay and its outline taken out."""
    size = 4096
    starts = np.arange(0, len(tail) - size, size // 4)
    power = np.array([np.abs(np.fft.rfft(tail[s : s + size] * np.hanning(size))[19:743]) ** 2 for s in starts])
    slope = np.polyfit(np.arange(len(power)), np.log(power + 1e-30), 1)[0]
    power *= np.exp(-np.outer(np.arange(len(power)), slope))
    mean = power.mean(axis=0)
    power /= np.convolve(np.pad(mean, 20, "edge"), np.ones(41) / 41, "valid")
    kurtosis = np.mean(np.mean(power**2, axis=1) / np.mean(power, axis=1) ** 2)
    flatness = np.mean(10 * np.log10(np.exp(np.mean(np.log(power), axis=1)) / np.mean(power, axis=1)))
    return float(kurtosis), float(flatness)


if __name__ == "__main__":
    main()
