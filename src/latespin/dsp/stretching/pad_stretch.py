"""Stretching a short slice into a long pad, and a seamless loop of it.

Smearing: spectra of long windows keep their magnitudes and get random phases, the same in both channels but for their own difference, and are overlapped at a
slower pace (overlap-add after D. Griffin and J. S. Lim, IEEE Trans. ASSP 32(2), 1984; phase randomisation after J. Theiler et al., Physica D 58,
1992: what is left is the spectrum as it goes, and no attack). Seam: the place where what comes next is most like the beginning, by their spectra in thirds of an
octave, is cross-faded into it with equal power.
"""

import numpy as np
from scipy.fft import irfft, rfft

from latespin.dsp.arrays import Audio, Floats, check_audio, check_range
from latespin.dsp.control.fades import hann
from latespin.dsp.filters.band_sums import band_sums

WINDOW_SECONDS = 0.35
OVERLAP = 4
LEAST_FACTOR, MOST_FACTOR = 1.0, 32.0
SEAM_STEP_SECONDS = 0.05


def smeared(slice_: Audio, rate: int, factor: float, seed: int = 1) -> Audio:
    """The slice ``[channels, frames]`` made ``factor`` (1 to 32) times as long; ``[channels, round(factor · frames)]``. Raises OutOfRange."""
    check_audio(slice_)
    check_range("factor", factor, LEAST_FACTOR, MOST_FACTOR, "×")
    size = 2 * max(64, round(WINDOW_SECONDS * rate / 2))
    hop = size // OVERLAP
    frames = round(factor * slice_.shape[1])
    window = hann(size)
    heard = np.pad(slice_, ((0, 0), (size // 2, size)), mode="reflect" if slice_.shape[1] > size else "constant")
    rng = np.random.default_rng(seed)
    made = np.zeros((slice_.shape[0], frames + 2 * size), np.float32)
    for n in range(-(-(frames + size) // hop)):
        at = min(int(n * hop / factor), heard.shape[1] - size)
        spectra = rfft(heard[:, at : at + size] * window, axis=1)
        turn = np.exp(2j * np.pi * rng.uniform(size=spectra.shape[1])).astype(np.complex64)
        made[:, n * hop : n * hop + size] += irfft(spectra * turn, size, axis=1) * window
    # Random phases spread a frame's energy over it evenly; frames that overlap are unlike, so their powers add.
    power = np.mean(window**2) * np.sum(window[::hop] ** 2)
    return np.ascontiguousarray(made[:, size // 2 : size // 2 + frames] / np.float32(np.sqrt(power)))


def seamless(sound: Audio, rate: int, fade_seconds: float) -> Audio:
    """A loop of the sound: its end cross-faded into its beginning where both are most alike; shorter by what that takes.

    Played round and round it has no seam. fade_seconds : at most a third of the sound.
    """
    check_audio(sound)
    fade = min(round(fade_seconds * rate), sound.shape[1] // 3)
    if fade < 2:
        return sound
    last = _matched(sound, rate, fade)
    turn = 0.5 * np.pi * (np.arange(fade) + 0.5) / fade
    come, go = np.sin(turn).astype(np.float32), np.cos(turn).astype(np.float32)
    loop = sound[:, :last].copy()
    loop[:, :fade] = sound[:, :fade] * come + sound[:, last : last + fade] * go
    return loop


def _matched(sound: Audio, rate: int, fade: int) -> int:
    """Where, in the last fifth, the next ``fade`` frames are most like the first ones."""
    mono = sound.mean(axis=0)
    begin = _bands(mono[:fade], rate)
    step = max(1, round(SEAM_STEP_SECONDS * rate))
    places = np.arange(max(fade, 4 * (sound.shape[1] - fade) // 5), sound.shape[1] - fade + 1, step)
    apart = [float(np.mean((_bands(mono[at : at + fade], rate) - begin) ** 2)) for at in places.tolist()]
    return int(places[int(np.argmin(apart))])


def _bands(part: Audio, rate: int) -> Floats:
    """Levels in thirds of an octave from 50 Hz to 12 kHz, dB."""
    power = np.abs(rfft(part)).astype(np.float64) ** 2
    edges = np.geomspace(50.0, min(12_000.0, 0.45 * rate), 25) * len(part) / rate
    return np.asarray(10.0 * np.log10(band_sums(power, edges) + 1e-9))
