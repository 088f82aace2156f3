"""The array types of the numerical core, checks of arguments, and decibels."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from latespin.errors import OutOfRange

#: Sound: float32, shape ``[channels, frames]``, C-contiguous, full scale ±1.
Audio = NDArray[np.float32]
#: Double precision numbers of any shape.
Floats = NDArray[np.float64]
#: Complex spectra in single precision.
Spectra = NDArray[np.complex64]


def check_audio(song: NDArray[Any]) -> None:
    """Raise TypeError or ValueError unless ``song`` is float32 ``[channels, frames]``."""
    if song.dtype != np.float32:
        raise TypeError(f"Sound must be float32, not {song.dtype}.")
    if song.ndim != 2:
        raise ValueError(f"Sound must have shape [channels, frames], not {song.shape}.")


def excerpt(song: Audio, start: int, frames: int) -> Audio:
    """``frames`` frames of the song from ``start`` on, silence where there is none."""
    stop = start + frames
    inside = song[:, max(0, min(start, song.shape[1])) : max(0, min(stop, song.shape[1]))]
    left = min(frames, max(0, -start))
    return np.pad(inside, ((0, 0), (left, frames - left - inside.shape[1])))


def check_range(name: str, value: float, low: float, high: float, unit: str = "") -> None:
    """Raise OutOfRange unless ``low <= value <= high`` (NaN is out of range)."""
    if not low <= value <= high:
        raise OutOfRange(name, value, low, high, unit)


def decibels(ratio: float) -> float:
    """20·log10 of an amplitude ratio; −inf for zero."""
    return float(20.0 * np.log10(ratio)) if ratio > 0.0 else float("-inf")


def amplitude(level_db: float) -> float:
    """The amplitude ratio of a level in decibels."""
    return float(10.0 ** (level_db / 20.0))


def amplitudes(levels_db: Floats) -> Floats:
    """The amplitude ratios of levels in decibels."""
    return np.asarray(10.0 ** (levels_db / 20.0))


def mid_and_side(block: Audio) -> tuple[Audio, Audio]:
    """Half the sum and half the difference of a stereo block's channels, ``[frames]`` each."""
    half = np.float32(0.5)
    return np.asarray(half * (block[0] + block[1])), np.asarray(half * (block[0] - block[1]))
