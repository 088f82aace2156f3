"""Head-related responses of a rigid sphere with simple pinna cues, as pairs of short filters.

* Time: R. S. Woodworth, "Experimental Psychology", 1938, for a sphere of 8.75 cm.
* Shadow of the head: C. P. Brown and R. O. Duda, "A structural model for binaural sound synthesis", IEEE Trans. Speech and Audio
  Processing 6(5), 1998, equations 3 to 5.
* Outer ears, own outline after J. Blauert, "Spatial Hearing", 1997, chapter 2.2: from behind, what is above 3 kHz is weaker; a dip that moves
  from 6.5 to 10 kHz with height.
* Over all directions together the ears hear the spectrum they are given, raised by up to ``MOST_LIFT_DB`` where both of them would partly cancel in a sum:
  equalisation to the diffuse field, as is usual for such filters (H. Møller, "Fundamentals of binaural technology", Applied Acoustics 36, 1992).
* Every direction is as loud as any other for music's usual spectrum, falling by ``SLOPE`` times 3 dB an octave.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio, Floats, amplitudes

RADIUS_M, SOUND_M_PER_S = 0.0875, 343.0
HEAD_SECONDS = RADIUS_M / SOUND_M_PER_S
MONO_DB, MOST_LIFT_DB = -2.1, 4.0
SLOPE = 0.8
BEHIND_DB, BEHIND_HZ = -6.2, 2_000.0
NOTCH_DB, NOTCH_HZ, NOTCH_SPAN_HZ = -4.5, 7_500.0, 2_600.0
FILTER_SECONDS = 0.0029

Spectra = NDArray[np.complex128]


def taps_at(rate: int) -> int:
    """How long the filters are, frames: a power of two."""
    return 1 << int(np.ceil(np.log2(FILTER_SECONDS * rate)))


def ear_delay(incidence: Floats) -> Floats:
    """Seconds, relative to the middle of the head, at which sound reaches an ear at an angle of incidence 0 to π (Woodworth)."""
    return HEAD_SECONDS * np.where(incidence < np.pi / 2, -np.cos(incidence), incidence - np.pi / 2)


def head_shadow(incidence: Floats, hz: Floats) -> Spectra:
    """Response ``[directions, frequencies]`` of an ear on a sphere (Brown and Duda, equations 3 to 5)."""
    least, at = 0.1, np.deg2rad(150.0)
    alpha = (1.0 + least / 2.0) + (1.0 - least / 2.0) * np.cos(np.pi * incidence / at)
    w = 1j * np.pi * hz * HEAD_SECONDS
    return np.asarray((1.0 + alpha[:, None] * w) / (1.0 + w))


def outer_ear(front: Floats, height: Floats, hz: Floats) -> Floats:
    """Gain ``[directions, frequencies]``; front is 1 ahead and −1 behind, height the sine of the elevation."""
    behind = 0.5 * (1.0 - front)
    x = (hz / BEHIND_HZ) ** 4
    shelf = BEHIND_DB * behind[:, None] * x / (1.0 + x)
    centre = NOTCH_HZ + NOTCH_SPAN_HZ * height
    octaves = np.log2(np.maximum(hz, 20.0)[None, :] / centre[:, None])
    notch = NOTCH_DB * (1.0 - 0.6 * behind)[:, None] * np.exp(-((octaves / 0.22) ** 2))
    return amplitudes(shelf + notch)


def sphere_pairs(azimuth: Floats, elevation: Floats, rate: int, strength: float = 1.0) -> Audio:
    """Filters ``[directions, 2, taps]`` for both ears; angles in radians, azimuth to the right; strength 0 to 1 of all cues.

    Their delay is ``delay_frames`` for a source ahead, and every direction is as loud as one ahead.
    """
    size = 4 * taps_at(rate)
    hz = np.asarray(np.fft.rfftfreq(size, 1.0 / rate), np.float64)
    right = np.sin(azimuth) * np.cos(elevation)
    front = np.cos(azimuth) * np.cos(elevation)
    ears = []
    for cosine in (-right, right):
        incidence = np.arccos(np.clip(cosine, -1.0, 1.0))
        turned = np.exp(-2j * np.pi * hz * strength * ear_delay(incidence)[:, None])
        shadow = np.exp(strength * np.log(head_shadow(incidence, hz)))
        ears.append(shadow * turned * minimum_phase(outer_ear(front, np.sin(elevation), hz) ** strength))
    return to_taps(evened(np.stack(ears, axis=1), hz), rate)


def evened(pairs: Spectra, hz: Floats) -> Spectra:
    """Pairs ``[directions, 2, frequencies]``, equally loud, and together as even as their sum allows."""
    weights = np.where(hz > 40.0, np.maximum(hz, 40.0) ** -SLOPE, 0.0)
    power = np.mean(np.abs(pairs) ** 2, axis=1) @ weights / weights.sum()
    pairs = pairs / np.sqrt(power)[:, None, None]
    mono = np.mean(np.abs(pairs.mean(axis=1)) ** 2, axis=0)
    lift = np.clip(10.0 ** (MONO_DB / 10.0) / mono, 1.0, 10.0 ** (MOST_LIFT_DB / 10.0))
    return pairs * minimum_phase(np.sqrt(_smoothed(lift, hz)))


def _smoothed(power: Floats, hz: Floats) -> Floats:
    """Averaged over a third of an octave around each frequency."""
    total = np.concatenate(([0.0], np.cumsum(power)))
    low, high = (np.searchsorted(hz, hz * 2.0**by).clip(0, len(hz)) for by in (-1.0 / 6.0, 1.0 / 6.0))
    high = np.maximum(high, low + 1)
    return np.asarray((total[high] - total[low]) / (high - low))


def minimum_phase(gains: Floats) -> Spectra:
    """The response of least delay with gains ``[…, frequencies]`` (A. V. Oppenheim and R. W. Schafer, the real cepstrum)."""
    size = 2 * (gains.shape[-1] - 1)
    cepstrum = np.fft.irfft(np.log(np.maximum(gains, 1e-5)), axis=-1)
    fold = np.zeros(size)
    fold[0] = fold[size // 2] = 1.0
    fold[1 : size // 2] = 2.0
    return np.asarray(np.exp(np.fft.rfft(cepstrum * fold, axis=-1)))


def delay_frames(rate: int) -> int:
    """How late the filters are, frames."""
    return int(np.ceil(1.35 * HEAD_SECONDS * rate)) + 8


def to_taps(pairs: Spectra, rate: int) -> Audio:
    """Short filters ``[…, taps]`` of responses, ``delay_frames`` late, their ends brought to nothing."""
    count, late = taps_at(rate), delay_frames(rate)
    long = np.fft.irfft(pairs, axis=-1)
    taps = np.roll(long, late, axis=-1)[..., :count]
    fade = np.ones(count)
    come, go = late // 2, count // 4
    fade[:come] = np.sin(0.5 * np.pi * (np.arange(come) + 0.5) / come) ** 2
    fade[count - go :] = np.cos(0.5 * np.pi * (np.arange(go) + 0.5) / go) ** 2
    return np.ascontiguousarray(taps * fade, np.float32)


@dataclass(frozen=True)
class EarCues:
    """What both ears get from each direction of a table, ``[places]``. Positive: the right ear is later or louder.

    delay_seconds : between the ears, from the peak of their cross-correlation (ISO 3382-1, A.3, without the limit on the lag).
    level_db : ``[2, places]``, broadband level of the left and the right ear.  low_db, high_db : right over left at LOW_HZ and HIGH_HZ.
    """

    delay_seconds: Floats
    level_db: Floats
    low_db: Floats
    high_db: Floats


CUE_LOW_HZ, CUE_HIGH_HZ = 500.0, 6_000.0
CUE_FINER = 16  # values of the cross-correlation per frame


def ear_cues(table: Audio, rate: int) -> EarCues:
    """The cues of filters ``[places, 2, taps]``."""
    taps = table.shape[2]
    size = 2 * taps
    left, right = np.fft.rfft(table.astype(np.float64), size, axis=2).transpose(1, 0, 2)
    correlation = np.fft.irfft(right * np.conj(left), CUE_FINER * size, axis=1)
    lag = np.argmax(correlation, axis=1)
    lag = np.where(lag > CUE_FINER * size // 2, lag - CUE_FINER * size, lag)
    power = np.sum(table.astype(np.float64) ** 2, axis=2).T
    phases = np.exp(-2j * np.pi * np.outer(np.arange(taps), [CUE_LOW_HZ, CUE_HIGH_HZ]) / rate)
    at = np.abs(table.astype(np.float64) @ phases)
    low, high = 20.0 * np.log10((at[:, 1] + 1e-12) / (at[:, 0] + 1e-12)).T
    return EarCues(lag / (CUE_FINER * rate), 10.0 * np.log10(power + 1e-24), low, high)
