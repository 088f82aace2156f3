"""What the limiter does to songs at −9 LUFS, beside a plain look-ahead limiter: three demo songs and five pieces made note by note.

Run ``PYTHONPATH=bench python bench/limiter.py``.

residual : what is left of the result after subtracting the song, scaled anew every 0.2 s.  modulation : what changes of the gain faster
than 25 Hz add.  pumping : standard deviation of the gain from one tenth of a second to the next.  reduction : the most, anywhere.
"""

from collections.abc import Callable

import numpy as np
from scipy.ndimage import minimum_filter1d, uniform_filter1d
from scipy.signal import fftconvolve, firwin

from latespin.analysis.facts import facts_of
from latespin.demo import demo_folder
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.dynamics.limiter import Limiter
from latespin.dsp.metering.true_peak import HALF_TAPS, peak_envelope
from latespin.media.track import open_track
from stretch_pieces import PIECES, RATE, rendered

TARGET_LUFS, CEILING = -9.0, amplitude(-1.0)
SECONDS, FROM_SECOND = 18, 40
SLOW = firwin(8821, 25.0, fs=RATE, window=("kaiser", 8.0))
Gains = Callable[[Audio], Floats]


def main() -> None:
    """A row for each limiter, over all songs."""
    sounds = songs()
    print(f"mean of {len(sounds)} songs     residual dB  modulation dB  pumping dB  reduction dB")
    for name, gains in (("plain, 5 and 120 ms", plain), ("the limiter", ours)):
        rows = np.array([figures(*at_target(sound, gains)) for sound in sounds])
        print(f"{name:22} {'  '.join(f'{value:11.2f}' for value in rows.mean(axis=0))}")


def songs() -> list[Audio]:
    """Eighteen seconds of each demo song, and the first five of the pieces."""
    excerpts = []
    for name in ("lantern-light", "eight-wheels-turning", "slow-door-blue-floor"):
        sound = open_track(demo_folder() / f"{name}.ogg").sound
        excerpts.append(np.ascontiguousarray(sound[:, FROM_SECOND * RATE : (FROM_SECOND + SECONDS) * RATE]))
    return excerpts + [rendered(piece(), 1.0) for piece in PIECES[:5]]


def at_target(song: Audio, gains: Gains) -> tuple[Audio, Floats]:
    """The song at the level at which its limited form has the target loudness; and the gain of each frame."""
    wanted = TARGET_LUFS - facts_of(song, RATE).loudness.integrated_lufs
    for _ in range(8):
        loud = song * np.float32(amplitude(wanted))
        gain = gains(loud)
        missing = TARGET_LUFS - facts_of((loud * gain).astype(np.float32), RATE).loudness.integrated_lufs
        if abs(missing) < 0.02:
            break
        wanted += 1.2 * missing
    return loud, gain


def ours(loud: Audio) -> Floats:
    """The gain of the product's limiter, read from a constant that takes part in everything but the detection of peaks."""
    limiter = Limiter(RATE, loud.shape[0], CEILING)
    padded = np.pad(loud, ((0, 0), (0, limiter.latency)))
    limited = limiter.process(padded)[:, limiter.latency :].astype(np.float64)
    power = np.sum(loud.astype(np.float64) ** 2, axis=0)
    gain = np.sum(limited * loud, axis=0) / np.maximum(power, 1e-12)
    known = power > 1e-8
    return np.interp(np.arange(len(gain)), np.flatnonzero(known), gain[known])


def plain(loud: Audio) -> Floats:
    """The least gain needed within 5 ms, an exponential release of 120 ms, and two averages."""
    padded = np.pad(loud, ((0, 0), (2 * HALF_TAPS, 2 * HALF_TAPS)))
    peaks = peak_envelope(np.ascontiguousarray(padded), RATE, CEILING)[2 * HALF_TAPS :][: loud.shape[1]]
    box = round(0.0025 * RATE) | 1
    gain = minimum_filter1d(np.minimum(1.0, CEILING / np.maximum(peaks, 1e-9)), 2 * box - 1, mode="nearest")
    share = 1.0 - np.exp(-1.0 / (0.12 * RATE))
    level = 1.0
    for n, needed in enumerate(gain):
        level = min(needed, level + share * (needed - level))
        gain[n] = level
    return np.asarray(uniform_filter1d(uniform_filter1d(gain, box), box), np.float64)


def figures(loud: Audio, gain: Floats) -> list[float]:
    """Residual, modulation, pumping and the deepest reduction, dB."""
    made, power = loud * gain, np.sum((loud * gain) ** 2)
    size = RATE // 5
    whole = loud.shape[1] // size * size
    parts = [sound[:, :whole].reshape(2, -1, size) for sound in (loud, made)]
    scales = np.sum(parts[0] * parts[1], axis=(0, 2)) / (np.sum(parts[0] ** 2, axis=(0, 2)) + 1e-12)
    left = np.sum((parts[1] - scales[None, :, None] * parts[0]) ** 2) / np.sum(parts[1] ** 2)
    half = len(SLOW) // 2
    slow = fftconvolve(np.pad(gain, half, mode="edge"), SLOW, "valid")
    modulation = np.sum((loud * (gain - slow)) ** 2) / power
    steps = np.diff(20.0 * np.log10(uniform_filter1d(gain, RATE // 20))[:: RATE // 10])
    return [10.0 * np.log10(left), 10.0 * np.log10(modulation), float(np.std(steps)), -20.0 * np.log10(gain.min())]


if __name__ == "__main__":
    main()
