"""Detection of transients.

Spectral flux of logarithmic magnitudes against the highest of the neighbouring bins a little earlier, so that vibrato
and glides do not count (S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013);
then the instant is sought at which the energy of the differentiated signal rises most steeply. The lows are looked at a
second time, through a longer window of their own: in the mean over all bins a drum that has only lows goes under.
"""

import numpy as np
import scipy.fft
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.onsets.results import NEIGHBOUR_SECONDS, Transients
from latespin.dsp.onsets.soft_onsets import find_soft_onsets
from latespin.dsp.onsets.spectral_flux import LAG_HOPS, compressed_spectra, flux

WINDOW_SECONDS = 0.0116
HOP_SECONDS = 0.0029
AVERAGE_SECONDS = 0.25
LEAST_FLUX = 0.07  # mean rise over all bins in log10 units, above the local average
REACH_SECONDS = 0.012
FINE_SECONDS = 0.0007
QUIET = 1e-3  # of the power just after an attack: what is quieter does not count as rising
NEARLY = 0.95  # of the steepest: the last such frame counts, since a click shorter than FINE_SECONDS is steep before it comes
LOW_HZ = (40.0, 300.0)
LOW_RATE = 2_800.0  # about, to which the lows are reduced
LOW_WINDOW_SECONDS, LOW_LAG_SECONDS = 0.046, 0.02
LEAST_LOW_FLUX = 0.22
LOW_REACH_SECONDS, LOW_FINE_SECONDS = 0.03, 0.004


def find_attacks(sound: Audio, rate: float) -> Transients:
    """The attacks in ``sound`` ``[channels, frames]``; those within 0.25 s of an end are judged by less context."""
    size = 2 * round(WINDOW_SECONDS * rate / 2)
    hop = max(1, round(HOP_SECONDS * rate))
    if sound.shape[1] < 4 * size:
        return Transients(np.zeros(0, np.int64), np.zeros(0))
    mono = sound.mean(axis=0)
    spectra = compressed_spectra(mono, size, hop)
    chosen, strengths = _stand_out(flux(spectra, LAG_HOPS), HOP_SECONDS, LEAST_FLUX)
    near, reach, fine = chosen * hop + size // 2, round(REACH_SECONDS * rate), round(FINE_SECONDS * rate)
    frames = _steepest(np.diff(sound, axis=1, prepend=np.float32(0.0)), near, reach, fine)
    low_frames, low_strengths = _low_attacks(mono, rate)
    apart = np.array(
        [np.abs(frames - at).min(initial=1 << 30) > NEIGHBOUR_SECONDS * rate for at in low_frames], np.bool_
    )
    frames = np.concatenate((frames, low_frames[apart]))
    order = np.argsort(frames, kind="stable")
    frames, strengths = frames[order], np.concatenate((strengths, low_strengths[apart]))[order]
    return Transients(frames, strengths, find_soft_onsets(mono, rate, frames))


def _stand_out(rises: Floats, hop_seconds: float, least: float) -> tuple[np.ndarray, Floats]:
    """Where a rise is the highest around and stands out of the local average, and by how much."""
    average = uniform_filter1d(rises, 2 * round(AVERAGE_SECONDS / hop_seconds) + 1, mode="nearest")
    highest = maximum_filter1d(rises, 2 * round(NEIGHBOUR_SECONDS / hop_seconds) + 1, mode="constant")
    chosen = np.flatnonzero((rises == highest) & (rises > average + least))
    return chosen, rises[chosen] - average[chosen]


def _low_attacks(mono: np.ndarray, rate: float) -> tuple[np.ndarray, Floats]:
    """Frames and strengths of attacks in the lows."""
    step = max(1, int(rate / LOW_RATE))
    low = _lows(mono, rate)
    size = 2 * round(LOW_WINDOW_SECONDS * rate / step / 2)
    hop = max(1, round(HOP_SECONDS * rate / step))
    reduced = np.ascontiguousarray(low[::step], dtype=np.float32)
    if len(reduced) < 4 * size:
        return np.zeros(0, np.int64), np.zeros(0)
    hop_seconds = hop * step / rate
    bins = slice(round(LOW_HZ[0] * size * step / rate), round(LOW_HZ[1] * size * step / rate) + 1)
    rises = flux(compressed_spectra(reduced, size, hop), round(LOW_LAG_SECONDS / hop_seconds), bins)
    chosen, strengths = _stand_out(rises, hop_seconds, LEAST_LOW_FLUX)
    near = (chosen * hop + size // 2) * step
    reach, fine = round(LOW_REACH_SECONDS * rate), round(LOW_FINE_SECONDS * rate)
    return _steepest(low[None], near, reach, fine), strengths


def _lows(mono: np.ndarray, rate: float) -> np.ndarray:
    """The lows alone, without delay, fading out over half an octave."""
    size = scipy.fft.next_fast_len(len(mono) + round(LOW_WINDOW_SECONDS * rate), real=True)
    hz = scipy.fft.rfftfreq(size, 1.0 / rate)
    kept = 0.5 + 0.5 * np.cos(np.pi * np.clip((hz / LOW_HZ[1] - 0.8) / 0.5, 0.0, 1.0))
    return np.asarray(scipy.fft.irfft(scipy.fft.rfft(mono, size) * kept.astype(np.float32), size)[: len(mono)])


def _steepest(wave: Audio, near: np.ndarray, reach: int, fine: int) -> np.ndarray:
    """The frame within reach of each place at which the energy of all channels just after exceeds that just before by the most decibels.

    Not by the most energy: where notes that begin together are a little apart, that would find the loudest, which may come last.
    """
    fine = max(2, fine)
    found = []
    for place in near:
        at = np.arange(max(4 * fine, place - reach), min(wave.shape[1] - fine, place + reach))
        if len(at) == 0:
            found.append(int(place))
            continue
        around = wave[:, at[0] - 4 * fine : at[-1] + fine].astype(np.float64)
        total = np.concatenate(([0.0], np.cumsum(np.sum(around**2, axis=0))))
        so_far = total[4 * fine : 4 * fine + len(at)]
        after, before = total[5 * fine :] - so_far, (so_far - total[: len(at)]) / 4.0
        floor = QUIET * after.max() + 1e-12
        steepness = np.log((after + floor) / (before + floor))
        found.append(int(at[np.flatnonzero(steepness >= NEARLY * steepness.max())[-1]]))
    return np.array(found, dtype=np.int64)
