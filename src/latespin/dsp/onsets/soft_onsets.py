"""Onsets too soft to count as attacks: a note of its own among others that sound on.

It raises only a few bins, so the mean rise of all bins stays far below that of an attack. Three things make it stand out: a window long enough
to resolve its partials; subtracting the usual fluctuation of each bin, since beating partials rise all the time; and a threshold
that adapts to the surroundings, from the median of the flux and the median distance from it (J. P. Bello, L. Daudet et al., "A tutorial on onset
detection in music signals", IEEE Trans. Speech and Audio Processing 13(5), 2005, section IV). The onset lies where the rising bins reach ``UP`` of
their new amplitude.
"""

import numpy as np
import scipy.fft
from scipy.ndimage import maximum_filter1d, median_filter

from latespin.dsp.arrays import Floats
from latespin.dsp.kernels import kernel
from latespin.dsp.onsets.spectral_flux import compressed_spectra, magnitudes

WINDOW_SECONDS = 0.046
OVERLAP, LAG_HOPS = 4, 2
HIGHEST_HZ = 8000.0
AROUND_SECONDS = 0.25  # to both sides, what is usual
GLIDE = 0.015  # of its frequency: how far a tone may have glided meanwhile
LEAST_RISE = 0.08  # log10 units of a bin that do not count
FLUCTUATION = 2.5  # times the rms of a bin's rises, which do not count either
OUTSTANDING = 5.0  # times the standard deviation, estimated by the median distance from the median
LEAST_FLUX = 0.2  # log10 units, of all bins together, above the median
NEIGHBOUR_SECONDS = 0.03
RISING = 0.4  # of the highest rise: what the bins of an onset rise at least
UP = 0.4  # half-way up, a Hann window lies half on the note; a little less, since notes take a few milliseconds to rise
FINE_SECONDS = 0.001
APART_SECONDS = 0.045


def find_soft_onsets(mono: np.ndarray, rate: float, attacks: np.ndarray) -> np.ndarray:
    """Frames of the onsets in ``mono``, int64 ``[n]`` ascending; those near to ``attacks`` go with these."""
    size = int(scipy.fft.next_fast_len(round(WINDOW_SECONDS * rate), real=True)) // OVERLAP * OVERLAP
    hop = size // OVERLAP
    if len(mono) < 2 * size:
        return np.zeros(0, np.int64)
    spectra = compressed_spectra(mono, size, hop, min(size // 2 + 1, round(HIGHEST_HZ * size / rate)))
    around = round(AROUND_SECONDS * rate / hop)
    flux = np.empty(len(spectra))
    risen = np.empty_like(spectra)
    _outstanding(spectra, LAG_HOPS, around, risen, flux)
    middles = _peaks(flux, around, hop, rate) * hop + size // 2
    middles = middles[_apart(middles - LAG_HOPS * hop // 2, attacks, APART_SECONDS * rate / 2)]
    onsets = np.array(
        [_on_the_way_up(mono, risen[(at - size // 2) // hop], at, size, rate) for at in middles], np.int64
    )
    return np.asarray(onsets[_apart(onsets, attacks, APART_SECONDS * rate)])


def _apart(frames: np.ndarray, attacks: np.ndarray, least: float) -> np.ndarray:
    """Which frames are more than ``least`` from every attack."""
    if len(attacks) == 0:
        return np.ones(len(frames), np.bool_)
    after = np.searchsorted(attacks, frames)
    gaps = [np.abs(frames - attacks[np.clip(after - by, 0, len(attacks) - 1)]) for by in (0, 1)]
    return np.asarray(np.minimum(*gaps) > least)


@kernel(error_model="numpy")
def _outstanding(spectra, lag, around, risen, flux):  # type: ignore[no-untyped-def]
    """What every bin has risen over ``lag`` windows; and all bins together, beyond what is usual ``around``."""
    count, bins = spectra.shape
    for n in range(count):
        row, before = risen[n], spectra[max(0, n - lag)]
        for k in range(bins):
            near = 1 + int(GLIDE * k)
            earlier = before[k]
            for i in range(max(0, k - near), min(bins, k + near + 1)):
                earlier = max(earlier, before[i])
            row[k] = max(np.float32(0.0), spectra[n, k] - earlier) if n >= lag else np.float32(0.0)
    squares = np.zeros(bins)
    for n in range(-around, count):
        coming, going = n + around, n - around - 1
        inside = min(count, n + around + 1) - max(0, n - around)
        total = 0.0
        for k in range(bins):
            if coming < count:
                squares[k] += risen[coming, k] ** 2
            if going >= 0:
                squares[k] -= risen[going, k] ** 2
            if n >= 0:
                usual = np.sqrt(max(0.0, squares[k]) / inside)
                total += max(0.0, risen[n, k] - LEAST_RISE - FLUCTUATION * usual)
        if n >= 0:
            flux[n] = total


def _peaks(flux: Floats, around: int, hop: int, rate: float) -> np.ndarray:
    """The numbers of windows in which the flux is highest around, and stands out."""
    span = 2 * around + 1
    median = median_filter(flux, span, mode="nearest")
    deviation = 1.4826 * median_filter(np.abs(flux - median), span, mode="nearest")
    highest = maximum_filter1d(flux, 2 * round(NEIGHBOUR_SECONDS * rate / hop) + 1, mode="constant")
    return np.flatnonzero((flux == highest) & (flux > median + OUTSTANDING * deviation + LEAST_FLUX))


def _on_the_way_up(mono: np.ndarray, risen: np.ndarray, middle: int, size: int, rate: float) -> int:
    """The frame at which the bins that have risen in the window around ``middle`` have come ``UP`` of the way to their new amplitude.

    Seen through a window half as long, from where it lies before the rise to where it lies after it.
    """
    half = size // 2
    bins = np.unique(np.flatnonzero(risen > RISING * risen.max()) // 2)
    starts = np.arange(max(0, middle - size), min(len(mono) - half, middle) + 1, max(1, round(FINE_SECONDS * rate)))
    parts = np.lib.stride_tricks.sliding_window_view(mono, half)[starts]
    amplitude = np.sqrt(np.sum(magnitudes(parts, bins) ** 2, axis=1))
    before, after = amplitude[0], amplitude[len(starts) // 2 :].max()
    return int(starts[np.argmax(amplitude >= before + UP * (after - before))] + half // 2)
