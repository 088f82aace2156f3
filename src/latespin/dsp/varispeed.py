"""Varispeed: reading a song at another speed, its pitch following, as a turntable does.

Band-limited interpolation with a Kaiser-windowed sinc (J. O. Smith, "Digital Audio Resampling Home
Page", CCRMA; J. F. Kaiser, 1974, for the window's design equations). Going faster than the original
the sinc is stretched so that nothing folds back. Stop band −100 dB, pass band flat to 0.9 of Nyquist.
"""

from functools import lru_cache

import numpy as np
from numba import njit

from latespin.dsp.types import Audio, check_audio, check_range

HALF_WIDTH = 64  # zero crossings to each side at speeds up to 1
PHASES = 512  # rows between two frames; linear interpolation between rows errs by less than −105 dB
STOP_BAND_DB = 100.0
LOWEST_SPEED, HIGHEST_SPEED = 1.0 / 64.0, 64.0


def reach(speed: float) -> int:
    """How many source frames to each side of a position have a say in its value."""
    return int(np.ceil(HALF_WIDTH * max(1.0, speed)))


def read_at(song: Audio, first_position: float, speed: float, frames: int) -> Audio:
    """Read ``frames`` frames of ``song`` at ``first_position + n · speed``.

    song : float32 ``[channels, source frames]``, silent outside; left unchanged.
    first_position : source frame, may be fractional or outside the song.
    speed : source frames for every frame of the result, 1/64 to 64; 1 at whole positions copies exactly.
    Returns float32 ``[channels, frames]``.  Raises OutOfRange for speed.
    """
    check_audio(song)
    check_range("speed", speed, LOWEST_SPEED, HIGHEST_SPEED, "×")
    out = np.zeros((song.shape[0], frames), np.float32)
    if speed == 1.0 and first_position == int(first_position):
        _copy(song, int(first_position), out)
    elif song.shape[1]:
        table = _table(max(1.0, speed))
        _read(np.ascontiguousarray(song), first_position, speed, table, out)
    return out


def _copy(song: Audio, first: int, out: Audio) -> None:
    start, stop = max(first, 0), min(first + out.shape[1], song.shape[1])
    if stop > start:
        out[:, start - first : stop - first] = song[:, start:stop]


@lru_cache(maxsize=4)
def _table(stretch: float) -> Audio:
    """Taps ``[PHASES + 1, width]`` of the sinc made ``stretch`` times as wide.

    Row p serves a position p/PHASES beyond a frame; tap k belongs to the frame ``k − width/2 + 1`` on.
    """
    beta = 0.1102 * (STOP_BAND_DB - 8.7)
    transition = (STOP_BAND_DB - 7.95) / (14.36 * 2 * HALF_WIDTH)  # of the sample rate
    cutoff = 1.0 - transition  # of Nyquist, so that the transition ends at Nyquist
    half = reach(stretch)
    frames = np.arange(2 * half) - (half - 1)
    t = (np.arange(PHASES + 1)[:, None] / PHASES - frames) / stretch
    window = np.i0(beta * np.sqrt(np.maximum(0.0, 1.0 - (t / HALF_WIDTH) ** 2))) / np.i0(beta)
    window[np.abs(t) > HALF_WIDTH] = 0.0
    return np.ascontiguousarray(cutoff * np.sinc(cutoff * t) * window / stretch, dtype=np.float32)


@njit(cache=True, nogil=True, fastmath=True)
def _read(song, first, speed, table, out):  # type: ignore[no-untyped-def]
    """The taps of one frame lie between two rows; they are worked out once for all channels.

    Slices keep the inner loops free of index arithmetic, so that they are done several at a time.
    """
    channels, frames = song.shape
    width = table.shape[1]
    taps = np.empty(width, np.float32)
    for n in range(out.shape[1]):
        position = first + n * speed
        whole = int(np.floor(position))
        place = (position - whole) * PHASES
        row = int(place)
        weight = np.float32(place - row)
        start = whole - width // 2 + 1
        low, high = max(0, -start), min(width, frames - start)
        count = high - low
        if count <= 0:
            continue
        here, following = table[row, low:high], table[row + 1, low:high]
        for k in range(count):
            taps[k] = here[k] + weight * (following[k] - here[k])
        for c in range(channels):
            heard = song[c, start + low : start + high]
            total = np.float32(0.0)
            for k in range(count):
                total += taps[k] * heard[k]
            out[c, n] = total
