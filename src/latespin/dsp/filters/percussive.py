"""Separates the drums of a passage from the rest, at three resolutions.

Median filtering of the spectrogram along time and along frequency: D. Fitzgerald, "Harmonic/percussive separation using median
filtering", DAFx-10, 2010. Two stages with a long window for what is tonal and a short one for what is struck, a separation
factor, and a residual: J. Driedger, M. Müller and S. Disch, "Extending harmonic-percussive separation of audio signals",
ISMIR 2014. Our additions: the factor grows with frequency, because sustained noise in the highs is cymbals; the residual of the highs counts
as drums; below 250 Hz, drums are what exceeds the median of the surrounding half second.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats, check_audio
from latespin.dsp.control.fades import hann
from latespin.dsp.filters.running_median import running_median

TONAL, STRUCK, LOW = (4096, 1024), (1024, 256), (4096, 512)  # window and hop at 44.1 kHz
LASTING_SECONDS, LOW_SECONDS = 0.2, 0.4  # of the medians along time
TONAL_WIDTH_HZ, STRUCK_WIDTH_HZ = 500.0, 1_000.0  # of the medians along frequency
LOW_HZ, NOISE_HZ, TONES_HZ = 250.0, 4_000.0, 3_000.0
HIGH_FACTOR, STRUCK_FACTOR, LOW_FACTOR = 3.0, 1.5, 1.5
CONTEXT_SECONDS = 0.3  # of sound on both sides that a passage is separated with
CLEAR_FROM_HZ, CLEAR_SHARE, CLEAR_DB = 5_000.0, 0.5, -32.0
TINY = 1e-20


@dataclass(frozen=True)
class Frames:
    """A short-time transform: complex ``[channels, frames, bins]``, and what is needed to go back."""

    spectra: np.ndarray
    size: int
    hop: int
    length: int

    def hz(self, rate: int) -> Floats:
        """Frequencies of the bins."""
        return np.asarray(np.fft.rfftfreq(self.size, 1.0 / rate), np.float64)

    @property
    def level(self) -> Audio:
        """Root mean square over the channels ``[frames, bins]``."""
        return np.asarray(np.sqrt(np.mean(np.abs(self.spectra) ** 2, axis=0)), np.float32)

    def through(self, mask: Audio | Floats) -> Audio:
        """The sound with a mask ``[frames, bins]`` over its spectra."""
        from scipy.fft import irfft  # loaded with the first drums, for which the first song does not wait

        window = hann(self.size)
        back = irfft(self.spectra * np.asarray(mask, np.float32), self.size, axis=2).astype(np.float32) * window
        out = np.zeros((back.shape[0], (back.shape[1] - 1) * self.hop + self.size), np.float32)
        for i in range(back.shape[1]):
            out[:, i * self.hop : i * self.hop + self.size] += back[:, i]
        gain = np.float32(self.hop / np.sum(window**2))
        return np.ascontiguousarray(out[:, self.size : self.size + self.length] * gain)


def drums_of(sound: Audio, rate: int) -> Audio:
    """The drums of a passage ``[channels, frames]``; the rest is what is left when they are taken away.

    sound : left unchanged. Returns float32 of the same shape.
    """
    check_audio(sound)
    rest = sound - _tones(sound, rate)
    frames = _frames(rest, STRUCK, rate)
    hz = frames.hz(rate)
    upright, lasting = _medians(frames, rate, STRUCK_WIDTH_HZ, LASTING_SECONDS)
    struck = upright**2 / (upright**2 + (STRUCK_FACTOR * lasting) ** 2 + TINY)
    noisy = struck + (1.0 - struck) * _above(hz, NOISE_HZ, 8)
    return frames.through(noisy * (1.0 - _below(hz, LOW_HZ))) + _low_drums(sound, rate)


def are_drums_clear(sound: Audio, drums: Audio, rate: int) -> bool:
    """Whether the separated part is mostly drums: most of the highs belong to it, and they are loud enough to hear.

    On the demo songs with their drums turned down, this holds where the correlation with the true drums is at least about 0.6.
    """
    from scipy.fft import rfft

    power, of_drums = (np.sum(np.abs(rfft(part, axis=1)) ** 2, axis=0) for part in (sound, drums))
    high = np.fft.rfftfreq(sound.shape[1], 1.0 / rate) > CLEAR_FROM_HZ
    share = np.sum(of_drums[high]) / (np.sum(power[high]) + TINY)
    level_db = 10.0 * np.log10((np.sum(of_drums[high]) + TINY) / (np.sum(power) + TINY))
    return bool(share >= CLEAR_SHARE and level_db >= CLEAR_DB)


def _tones(sound: Audio, rate: int) -> Audio:
    """The tonal part: it lasts, and it exceeds its neighbours in frequency, by more in the highs."""
    frames = _frames(sound, TONAL, rate)
    upright, lasting = _medians(frames, rate, TONAL_WIDTH_HZ, LASTING_SECONDS)
    factor = 1.0 + (HIGH_FACTOR - 1.0) * _above(frames.hz(rate), TONES_HZ, 4)
    return frames.through(lasting**2 / (lasting**2 + (factor * upright) ** 2 + TINY))


def _low_drums(sound: Audio, rate: int) -> Audio:
    """The part of the lows that exceeds the median of the surrounding half second."""
    frames = _frames(sound, LOW, rate)
    hz = frames.hz(rate)
    low = int(np.searchsorted(hz, 4.0 * LOW_HZ))
    level = frames.level
    mask = np.zeros_like(level)
    usual = _along_time(level[:, :low], round(LOW_SECONDS * rate / frames.hop))
    mask[:, :low] = np.maximum(0.0, 1.0 - (LOW_FACTOR * usual) ** 2 / (level[:, :low] ** 2 + TINY)) * _below(
        hz[:low], LOW_HZ
    )
    return frames.through(mask)


def _frames(sound: Audio, shape: tuple[int, int], rate: int) -> Frames:
    """The transform with a window as long as at 44.1 kHz, about."""
    from scipy.fft import rfft

    scale = max(1, round(rate / 44_100))
    size, hop = shape[0] * scale, shape[1] * scale
    count = -(-(sound.shape[1] + size) // hop)
    padded = np.pad(sound, ((0, 0), (size, count * hop + size - sound.shape[1])))
    pieces = np.lib.stride_tricks.sliding_window_view(padded, size, axis=1)[:, ::hop][:, : count + 1]
    return Frames(rfft(pieces * hann(size), axis=2), size, hop, sound.shape[1])


def _medians(frames: Frames, rate: int, width_hz: float, seconds: float) -> tuple[Audio, Audio]:
    """Medians along frequency and along time, ``[frames, bins]`` each."""
    level = frames.level
    upright = running_median(level, _odd(width_hz * frames.size / rate))
    return upright, _along_time(level, round(seconds * rate / frames.hop))


def _along_time(level: Audio, count: int) -> Audio:
    return np.ascontiguousarray(running_median(level.T, _odd(count)).T)


def _odd(count: float) -> int:
    return max(3, int(count) | 1)


def _above(hz: Floats, edge: float, order: int) -> Floats:
    """From 0 to 1 around a frequency."""
    return np.asarray(1.0 / (1.0 + (edge / np.maximum(hz, 1.0)) ** order))


def _below(hz: Floats, edge: float) -> Floats:
    return np.asarray(1.0 / (1.0 + (hz / edge) ** 6))
