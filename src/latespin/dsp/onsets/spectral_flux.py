"""Spectral flux of compressed magnitudes.

It is taken against the highest of the neighbouring bins a little earlier, so that vibrato and glides do not count
(S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013).
"""

import numpy as np
import scipy.fft
from numpy.lib.stride_tricks import sliding_window_view

from latespin.dsp.arrays import Floats

COMPRESSION = 1000.0
LAG_HOPS = 3  # over which an attack is seen to rise


def compressed_spectra(mono: np.ndarray, size: int, hop: int, bins: int | None = None) -> np.ndarray:
    """``log10(1 + 1000 · magnitude)``, ``[frames, bins]``, the lowest bins or all, of windows of ``size``, ``hop`` apart.

    A sine of amplitude 1 has the magnitude 1.
    """
    spectra = magnitudes(sliding_window_view(mono, size)[::hop], slice(bins))
    spectra *= np.float32(COMPRESSION)
    spectra += np.float32(1.0)
    np.log10(spectra, out=spectra)
    return spectra


def magnitudes(parts: np.ndarray, bins: "slice | np.ndarray") -> np.ndarray:
    """Of parts ``[n, size]`` of a sound under a Hann window: those of some bins, ``[n, bins]``."""
    window = np.hanning(parts.shape[1]).astype(np.float32)
    window /= np.float32(0.5) * window.sum()
    return np.asarray(np.abs(scipy.fft.rfft(parts * window, axis=1, overwrite_x=True)[:, bins]))


def flux(spectra: np.ndarray, lag: int, bins: slice = slice(None)) -> Floats:
    """Mean rise of the compressed spectrum over ``lag`` frames, ``[frames]``."""
    earlier = spectra[:-lag].copy()
    np.maximum(earlier[:, 1:], spectra[:-lag, :-1], out=earlier[:, 1:])
    np.maximum(earlier[:, :-1], spectra[:-lag, 1:], out=earlier[:, :-1])
    rise = np.maximum(0.0, spectra[lag:] - earlier)[:, bins].mean(axis=1)
    return np.concatenate((np.zeros(lag), rise))
