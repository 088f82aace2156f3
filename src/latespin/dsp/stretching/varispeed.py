"""Varispeed: band-limited reading at any speed; the pitch follows.

Band-limited interpolation with a Kaiser-windowed sinc (J. O. Smith, "Digital Audio Resampling Home
Page", CCRMA; J. F. Kaiser, 1974, for the window's design equations). Going faster than the original
the sinc is stretched so that nothing folds back. Stop band −100 dB, pass band flat to 0.9 of Nyquist.
"""

import numpy as np

from latespin.caches import MEGABYTE, kept
from latespin.dsp.arrays import Audio, Floats, check_audio, check_range
from latespin.dsp.kernels import kernel

HALF_WIDTH = 64  # zero crossings to each side at speeds up to 1
PHASES = 512  # rows between two frames; linear interpolation between rows errs by less than −105 dB
FEWEST_PHASES = 64  # a sinc made wider changes more slowly, so that fewer rows serve it as well
STOP_BAND_DB = 100.0
LADDER = 24  # tables to an octave where the speed changes
LOWEST_SPEED, HIGHEST_SPEED = 1.0 / 1024.0, 64.0


def reach(speed: float) -> int:
    """How many source frames to each side of a position have a say in its value."""
    return int(np.ceil(HALF_WIDTH * max(1.0, speed)))


def read_at(song: Audio, first_position: float, speed: float, frames: int) -> Audio:
    """Read ``frames`` frames of ``song`` at ``first_position + n · speed``.

    song : float32 ``[channels, source frames]``, silent outside; left unchanged.
    first_position : source frame, may be fractional or outside the song.
    speed : source frames for every frame of the result, 1/1024 to 64; 1 at whole positions copies exactly.
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


def read_along(song: Audio, positions: Floats, speeds: Floats) -> Audio:
    """Read ``song`` at positions whose spacing changes: ``[frames]``, with the speed, 0 to 64, at each of them.

    As :func:`read_at`; the sinc widens and narrows with the speed, between tables a 24th of an octave apart, so that neither
    folding back nor a step can be heard.  Returns float32 ``[channels, frames]``.  Raises OutOfRange for speeds.
    """
    check_audio(song)
    out = np.zeros((song.shape[0], len(positions)), np.float32)
    if song.shape[1] == 0 or len(positions) == 0:
        return out
    check_range("speed", float(speeds.min()), 0.0, HIGHEST_SPEED, "×")
    check_range("speed", float(speeds.max()), 0.0, HIGHEST_SPEED, "×")
    song = np.ascontiguousarray(song)
    rungs = LADDER * np.log2(np.maximum(1.0, speeds))
    lower = np.ceil(rungs).astype(np.int64)
    weights = np.where(rungs > 0.0, rungs - (lower - 1), 0.0).astype(np.float32)
    edges = np.flatnonzero(np.diff(lower)) + 1
    for start, stop in zip((0, *edges), (*edges, len(positions)), strict=True):
        rung = int(lower[start])
        wider = _rung(rung + 1) if rung else _rung(0)
        _read_between(song, positions[start:stop], weights[start:stop], _rung(rung), wider, out[:, start:stop])
    return out


def _rung(number: int) -> Audio:
    return _table(2.0 ** (number / LADDER))


@kept(32 * MEGABYTE)
def _table(stretch: float) -> Audio:
    """Taps ``[phases + 1, width]`` of the sinc made ``stretch`` times as wide.

    Row p serves a position p/phases beyond a frame; tap k belongs to the frame ``k − width/2 + 1`` on.
    """
    phases = max(FEWEST_PHASES, 2 ** int(np.ceil(np.log2(PHASES / stretch))))
    beta = 0.1102 * (STOP_BAND_DB - 8.7)
    transition = (STOP_BAND_DB - 7.95) / (14.36 * 2 * HALF_WIDTH)  # of the sample rate
    cutoff = 1.0 - transition  # of Nyquist, so that the transition ends at Nyquist
    half = reach(stretch)
    frames = np.arange(2 * half) - (half - 1)
    t = (np.arange(phases + 1)[:, None] / phases - frames) / stretch
    window = np.i0(beta * np.sqrt(np.maximum(0.0, 1.0 - (t / HALF_WIDTH) ** 2))) / np.i0(beta)
    window[np.abs(t) > HALF_WIDTH] = 0.0
    return np.ascontiguousarray(cutoff * np.sinc(cutoff * t) * window / stretch, dtype=np.float32)


@kernel(fastmath=True)
def _read(song, first, speed, table, out):  # type: ignore[no-untyped-def]
    """The taps of one frame lie between two rows; two channels are weighed at once, the last of an odd number with itself.

    Slices keep the inner loops free of index arithmetic, so that they are done several at a time.
    """
    channels, frames = song.shape
    phases, width = table.shape[0] - 1, table.shape[1]
    for n in range(out.shape[1]):
        position = first + n * speed
        whole = int(np.floor(position))
        place = (position - whole) * phases
        row = int(place)
        weight = np.float32(place - row)
        start = whole - width // 2 + 1
        low, high = max(0, -start), min(width, frames - start)
        count = high - low
        if count <= 0:
            continue
        here, following = table[row, low:high], table[row + 1, low:high]
        for c in range(0, channels, 2):
            other = min(c + 1, channels - 1)
            left, right = song[c, start + low : start + high], song[other, start + low : start + high]
            sum_left, sum_right = np.float32(0.0), np.float32(0.0)
            for k in range(count):
                tap = here[k] + weight * (following[k] - here[k])
                sum_left += tap * left[k]
                sum_right += tap * right[k]
            out[c, n], out[other, n] = sum_left, sum_right


@kernel(fastmath=True)
def _read_between(song, positions, weights, table, wider, out):  # type: ignore[no-untyped-def]
    """As :func:`_read` at given positions, the taps between those of two tables, the second at least as wide."""
    channels, frames = song.shape
    width, narrow = wider.shape[1], table.shape[1]
    inset = (width - narrow) // 2
    taps = np.empty(width, np.float32)
    for n in range(len(positions)):
        whole = int(np.floor(positions[n]))
        part = positions[n] - whole
        start = whole - width // 2 + 1
        low, high = max(0, -start), min(width, frames - start)
        if high <= low:
            continue
        a, b, here, following = _rows(table, part, np.float32(1.0) - weights[n])
        if weights[n] == np.float32(0.0):
            inner = taps[inset : inset + narrow]
            taps[:] = np.float32(0.0)
            for k in range(narrow):
                inner[k] = a * here[k] + b * following[k]
        else:
            c, d, wide_here, wide_following = _rows(wider, part, weights[n])
            for k in range(width):
                taps[k] = c * wide_here[k] + d * wide_following[k]
            inner = taps[inset : inset + narrow]
            for k in range(narrow):
                inner[k] += a * here[k] + b * following[k]
        used = taps[low:high]
        for c in range(channels):
            heard = song[c, start + low : start + high]
            total = np.float32(0.0)
            for k in range(len(used)):
                total += used[k] * heard[k]
            out[c, n] = total


@kernel(fastmath=True, inline="always")
def _rows(table, part, gain):  # type: ignore[no-untyped-def]
    """The two rows around a part of a frame, and what each of them counts."""
    place = part * (table.shape[0] - 1)
    row = int(place)
    second = gain * np.float32(place - row)
    return gain - second, second, table[row], table[row + 1]
