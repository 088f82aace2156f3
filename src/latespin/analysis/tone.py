"""The tone of a song: the long-term spectrum of its fullest passages, middle and sides apart.

Passages are chosen by how full they are: the mean, over thirds of an octave, of how loud each is against its own loudest, in dB, over three seconds. A
filter moves all of a third's levels alike, so that a song and the same song filtered are measured at the same places. What a song sounds like is
what it sounds like when all of it plays; intros and breaks would tilt the mean. Spectra are Welch's (P. D. Welch, IEEE Trans. Audio Electroacoust.
15(2), 1967) with a Hann window, here one beside the other, summed into twelfths of an octave.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.filters.band_sums import band_sums
from latespin.errors import Unusable
from latespin.language import localised, tr
from latespin.memory import let_go

TONE_BANDS = 120  # twelfths of an octave from 20 Hz on
CENTRES: Floats = 20.0 * np.exp2((np.arange(TONE_BANDS, dtype=np.float64) + 0.5) / 12.0)
EDGES: Floats = 20.0 * np.exp2(np.arange(TONE_BANDS + 1, dtype=np.float64) / 12.0)
WINDOW_SECONDS = 0.37
FULLEST_SHARE, FULLEST_SECONDS, BANDS_IN_THIRD, FAINT_DB = 1.0 / 3.0, 3.0, 4, -40.0
SHORTEST_SECONDS = 3.0
AT_ONCE = 32  # windows
NOTHING_DB = -300.0
LEAKAGE_DB = -70.0  # what a window lets through beyond an edge
FLOOR_DB = -42.0  # of a half octave below the loudest one, apart from the fall that music has
JUDGED_BANDS = 7  # about half an octave, over which it is judged whether there is anything
FALL_DB = 2.0  # by which music falls in an octave above 100 Hz, in bands of constant ratio


@dataclass(frozen=True, eq=False)
class Spectrum:
    """Power ``[TONE_BANDS]`` of the middle and the sides, and from when to when they were measured, seconds."""

    mid: Floats
    side: Floats
    passages: tuple[tuple[float, float], ...]


def spectrum_of(sound: Audio, rate: int, passages: tuple[tuple[float, float], ...] = ()) -> Spectrum:
    """The spectrum of passages (seconds) of a sound ``[channels, frames]``, or, where none are given, of its fullest.

    Raises Unusable where there is less than three seconds, or silence.
    """
    size = 1 << round(np.log2(WINDOW_SECONDS * rate))
    powers = _spectra(sound, rate, size, passages)
    if (len(powers) + 1) * size < SHORTEST_SECONDS * rate:
        raise Unusable(
            tr(
                "There is too little to measure a tone from: it takes {0} s of sound. Choose a longer song or passage."
            ).format(localised(f"{SHORTEST_SECONDS:g}"))
        )
    if not np.any(powers > 1e-12):
        raise Unusable(tr("This is silent, so that it has no tone. Choose another song or passage."))
    if not passages:
        chosen = _fullest(powers, round(FULLEST_SECONDS * rate / size))
        passages = _joined(chosen, size / rate)
        powers = powers[chosen]
    mid, side = powers.mean(axis=0)
    return Spectrum(mid, side, passages)


def _spectra(sound: Audio, rate: int, size: int, passages: tuple[tuple[float, float], ...]) -> Floats:
    """Band powers ``[windows, 2, TONE_BANDS]`` of middle and sides, of all of a sound or of passages, window by window."""
    from scipy.fft import rfft  # in single precision; loaded here, so that the first window does not wait for it

    window = np.hanning(size + 1)[:size].astype(np.float32)
    scale = 2.0 / (size * float(np.sum(window**2)))
    found = [np.zeros((0, 2, TONE_BANDS))]
    for start, stop in passages or ((0.0, sound.shape[1] / rate),):
        first, last = max(0, round(start * rate)), min(sound.shape[1], round(stop * rate))
        count = max(0, last - first) // size
        for at in range(0, count, AT_ONCE):
            many = min(AT_ONCE, count - at)
            part = sound[:, first + at * size : first + (at + many) * size].reshape(-1, many, size)
            both = np.stack((part[0] + part[-1], part[0] - part[-1]), axis=1) * (np.float32(0.5) * window)
            power = np.square(np.abs(rfft(both, axis=2)), dtype=np.float64)
            found.append(band_sums(power * scale, EDGES * size / rate))
            let_go(sound)
    return np.concatenate(found)


def _fullest(powers: Floats, span: int) -> NDArray[np.int64]:
    """Which windows are among the fullest third, evened out over ``span`` of them."""
    thirds = powers.sum(axis=1).reshape(len(powers), -1, BANDS_IN_THIRD).sum(axis=2)
    levels = decibels_of(thirds)
    levels -= levels.max(axis=0)
    fullness = np.clip(levels, FAINT_DB, 0.0).mean(axis=1)
    span = min(max(1, span), len(fullness))
    even = np.convolve(np.pad(fullness, (span // 2, span - 1 - span // 2), mode="edge"), np.ones(span) / span, "valid")
    return np.sort(np.argsort(-even, kind="stable")[: max(1, round(FULLEST_SHARE * len(even)))])


def _joined(chosen: NDArray[np.int64], size: float) -> tuple[tuple[float, float], ...]:
    """From when to when windows lie, seconds, those that touch as one."""
    found: list[tuple[float, float]] = []
    for number in chosen.tolist():
        start, stop = number * size, (number + 1) * size
        if found and start <= found[-1][1] + 0.5 * size:
            found[-1] = found[-1][0], stop
        else:
            found.append((start, stop))
    return tuple((round(start, 3), round(stop, 3)) for start, stop in found)


def decibels_of(power: Floats) -> Floats:
    """dB, never below −300."""
    return np.asarray(10.0 * np.log10(np.maximum(power, 10.0 ** (NOTHING_DB / 10.0))))


def presence(power: Floats) -> Floats:
    """How far above its own floor a song's power lies at each band, dB: over half an octave, against its loudest half octave.

    What has fallen far below the fall that music has is nothing.
    """
    kernel = np.ones(JUDGED_BANDS) / JUDGED_BANDS
    smooth = np.convolve(np.pad(power, JUDGED_BANDS // 2, mode="edge"), kernel, mode="valid")
    expected = -FALL_DB * np.maximum(0.0, np.log2(CENTRES / 100.0))
    level = decibels_of(smooth) - expected
    return np.asarray(level - level.max() - FLOOR_DB)


def edges_of(power: Floats) -> tuple[float, float]:
    """Where a song's spectrum begins and where it ends, Hz: at the steepest of its level near the outermost half octaves that are there.

    0 and infinity where nothing is there at all. Good to a twelfth of an octave for filters that are steeper than music.
    """
    there = np.flatnonzero(presence(power) > 0.0)
    if not len(there):
        return 0.0, np.inf
    level = decibels_of(power)
    rise = np.diff(np.maximum(level, level.max() + LEAKAGE_DB))
    near = JUDGED_BANDS // 2 + 1
    low = slice(max(0, there[0] - 1), there[0] + near)
    high = slice(max(0, there[-1] - near), min(len(rise), there[-1] + 1))
    first = low.start + int(np.argmax(rise[low])) if there[0] > 0 else -1
    last = high.start + int(np.argmin(rise[high])) if there[-1] < len(power) - 1 else len(rise)
    return float(EDGES[first + 1]), float(EDGES[last + 1])
