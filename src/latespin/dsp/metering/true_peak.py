"""True peak: the highest point of the wave between the samples (ITU-R BS.1770-5, Annex 2).

The standard asks for at least four-fold oversampling. Four-fold reading can be 0.7 dB low for a tone
at half the Nyquist rate in the worst phase, so up to 50 kHz this meter reads eight-fold.
"""

import math
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, check_audio
from latespin.dsp.kernels import kernel

HALF_TAPS = 12  # input frames to each side of the point that is worked out
KAISER_BETA = 7.0
STRIDE = 128  # frames looked at together


def oversampling(rate: float) -> int:
    """How many points are worked out per frame: at least 8 to 50 kHz, 4 above."""
    return 8 if rate <= 50_000 else 4


@lru_cache(maxsize=4)
def interpolator(factor: int) -> Audio:
    """Kaiser-windowed sinc, ``[factor − 1, 2·HALF_TAPS]``: row i gives the point (i+1)/factor on."""
    taps = np.arange(2 * HALF_TAPS) - (HALF_TAPS - 1)
    rows = []
    for phase in range(1, factor):
        t = phase / factor - taps
        window = np.i0(KAISER_BETA * np.sqrt(np.maximum(0.0, 1.0 - (t / HALF_TAPS) ** 2))) / np.i0(KAISER_BETA)
        row = np.sinc(t) * window
        rows.append(row / row.sum())
    return np.ascontiguousarray(rows, dtype=np.float32)


def true_peak(song: Audio, rate: float) -> float:
    """Highest absolute value of the band-limited wave through ``song`` (a ratio of full scale)."""
    check_audio(song)
    meter = TruePeakMeter(rate, song.shape[0])
    meter.push(song)
    return meter.finish()


class TruePeakMeter:
    """True peak of sound that goes by in blocks of any size."""

    def __init__(self, rate: float, channels: int) -> None:
        self._table = interpolator(oversampling(rate))
        self._reach = float(np.abs(self._table).sum(axis=1).max())
        self._kept = np.zeros((channels, 2 * HALF_TAPS - 1), np.float32)
        self._peak = 0.0

    def push(self, block: Audio) -> None:
        """Hear one more block ``[channels, frames]``."""
        check_audio(block)
        if block.shape[1] == 0:
            return
        joined = np.concatenate((self._kept, block), axis=1)
        self._peak = float(_peak(joined, self._table, self._reach, self._peak))
        self._kept = joined[:, -(2 * HALF_TAPS - 1) :].copy()

    def peak(self) -> float:
        """The peak of what has been heard to the end of the interpolation's reach."""
        return self._peak

    def finish(self) -> float:
        """The peak of all that was heard, with silence after it."""
        self.push(np.zeros((self._kept.shape[0], 2 * HALF_TAPS), np.float32))
        return self._peak


def peak_envelope(song: Audio, rate: float, interesting: float) -> Audio:
    """The true peak around every frame, over all channels, ``[frames]``.

    Frame n's value is the highest of the sample itself and of the points up to a frame before and
    after it. Where the wave cannot exceed ``interesting`` only the samples are looked at.
    The song is taken to be silent before its first and after its last frame.
    """
    check_audio(song)
    table = interpolator(oversampling(rate))
    padded = np.pad(song, ((0, 0), (HALF_TAPS, HALF_TAPS)))
    out = np.empty(song.shape[1], np.float32)
    reach = float(np.abs(table).sum(axis=1).max())
    _envelope(padded, table, reach, np.float32(interesting), out)
    return out


@kernel(fastmath=True)
def _between(channel, first, count, table, sums, points):  # type: ignore[no-untyped-def]
    """``points[i]``: the highest point worked out in the gap read from ``channel[first + i :]``.

    The inner loop runs along the sound, so that it is done for many frames at once; six taps in it (half of HALF_TAPS) spare most loads and stores.
    """
    points[:count] = 0.0
    for phase in range(table.shape[0]):
        sums[:count] = 0.0
        for k in range(0, table.shape[1], 6):
            a, b, c, d = table[phase, k], table[phase, k + 1], table[phase, k + 2], table[phase, k + 3]
            e, f, at = table[phase, k + 4], table[phase, k + 5], first + k
            p, q, r = channel[at : at + count], channel[at + 1 : at + 1 + count], channel[at + 2 : at + 2 + count]
            s, t, u = (
                channel[at + 3 : at + 3 + count],
                channel[at + 4 : at + 4 + count],
                channel[at + 5 : at + 5 + count],
            )
            for i in range(count):
                sums[i] += a * p[i] + b * q[i] + c * r[i] + d * s[i] + e * t[i] + f * u[i]
        for i in range(count):
            points[i] = max(points[i], abs(sums[i]))


@kernel(fastmath=True)
def _highest(channel, start, stop):  # type: ignore[no-untyped-def]
    part = channel[start:stop]
    highest = np.float32(0.0)
    for n in range(len(part)):
        highest = max(highest, abs(part[n]))
    return highest


@kernel()
def _peak(song, table, reach, peak):  # type: ignore[no-untyped-def]
    """Look closely only where the samples are high enough for a new record."""
    width = table.shape[1]
    gaps = song.shape[1] - width + 1
    sums, points = np.empty(STRIDE, np.float32), np.empty(STRIDE, np.float32)
    peak = np.float32(peak)
    for c in range(song.shape[0]):
        channel = song[c]
        for first in range(0, gaps, STRIDE):
            count = min(STRIDE, gaps - first)
            high = _highest(channel, first, first + count + width - 1)
            peak = max(peak, high)
            if high * reach > peak:
                _between(channel, first, count, table, sums, points)
                peak = max(peak, points[:count].max())
    return peak


@kernel()
def _envelope(padded, table, reach, interesting, out):  # type: ignore[no-untyped-def]
    """``padded`` holds HALF_TAPS frames of silence on both sides."""
    width = table.shape[1]
    half = width // 2
    frames = len(out)
    sums, points = np.empty(STRIDE, np.float32), np.empty(STRIDE, np.float32)
    out[:] = 0.0
    for c in range(padded.shape[0]):
        channel = padded[c]
        for n in range(frames):
            out[n] = max(out[n], abs(channel[n + half]))
        # The gap before frame g of the song is read from padded[g : g + width].
        for first in range(0, frames + 1, STRIDE):
            count = min(STRIDE, frames + 1 - first)
            if _highest(channel, first, first + count + width - 1) * reach <= interesting:
                continue
            _between(channel, first, count, table, sums, points)
            for i in range(count):
                gap = first + i
                if gap > 0:
                    out[gap - 1] = max(out[gap - 1], points[i])
                if gap < frames:
                    out[gap] = max(out[gap], points[i])


def true_peak_dbtp(song: Audio, rate: float) -> float:
    """:func:`true_peak` in dBTP; −inf for silence."""
    peak = true_peak(song, rate)
    return 20.0 * math.log10(peak) if peak > 0.0 else float("-inf")
