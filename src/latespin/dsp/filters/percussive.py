"""Separating the percussive part: vertical rather than horizontal ridges of the spectrogram.

D. Fitzgerald, "Harmonic/percussive separation using median filtering", DAFx-10, 2010: each bin is compared between the median
along time and the median along frequency; Wiener-like masks of power 2.
"""

import numpy as np
import scipy.fft
from scipy.ndimage import median_filter

from latespin.dsp.arrays import Audio, check_audio

SIZE, HOP = 2048, 512
ALONG_TIME, ALONG_FREQUENCY = 17, 17


def drums_of(sound: Audio) -> Audio:
    """The percussive part of a passage ``[channels, frames]``; the rest is what is left when it is taken away.

    sound : left unchanged. Returns float32 of the same shape.
    """
    check_audio(sound)
    frames = sound.shape[1]
    count = -(-(frames + SIZE) // HOP)
    padded = np.pad(sound, ((0, 0), (SIZE, count * HOP + SIZE - frames)))
    window = np.hanning(SIZE + 1)[:-1].astype(np.float32)
    at = np.arange(count + 1) * HOP
    pieces = np.lib.stride_tricks.sliding_window_view(padded, SIZE, axis=1)[:, at] * window
    spectra = scipy.fft.rfft(pieces, axis=2)
    level = np.sqrt(np.mean(np.abs(spectra) ** 2, axis=0))
    upright = median_filter(level, (1, ALONG_FREQUENCY)) ** 2
    lasting = median_filter(level, (ALONG_TIME, 1)) ** 2
    mask = upright / (upright + lasting + 1e-20)
    back = scipy.fft.irfft(spectra * mask, SIZE, axis=2).astype(np.float32) * window
    out = np.zeros_like(padded)
    for i, start in enumerate(at.tolist()):
        out[:, start : start + SIZE] += back[:, i]
    return np.ascontiguousarray(out[:, SIZE : SIZE + frames] * np.float32(HOP / np.sum(window**2)))
