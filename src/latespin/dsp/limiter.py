"""A true-peak limiter that looks ahead.

The gain every frame needs is the ceiling over its true peak. A sliding minimum makes that need known
one attack time ahead, a release lets it go again exponentially, and two moving averages in a row round
the way down so that the gain has always arrived when the peak does. This is the classic arrangement of
lookahead limiters (U. Zölzer (ed.), DAFX: Digital Audio Effects, 2nd ed., 2011, section 4.2.2), fed with the
true-peak envelope of ITU-R BS.1770-5 in place of the sample peak.
"""

import numpy as np
from numba import njit

from latespin.dsp.truepeak import HALF_TAPS, peak_envelope
from latespin.dsp.types import Audio, Floats, check_audio, check_range

ATTACK_SECONDS = 0.005
RELEASE_SECONDS = 0.100


class Limiter:
    """Keeps true peaks at or below a ceiling; all channels share one gain.

    Takes blocks of any size and gives as many frames back, ``latency`` frames late. The result does not
    depend on how the blocks are cut.

    rate : frames per second. ceiling : highest true peak as a ratio of full scale, above 0 to 4.
    """

    def __init__(self, rate: int, channels: int, ceiling: float) -> None:
        check_range("ceiling", ceiling, 1e-4, 4.0)
        self._rate = rate
        self._ceiling = ceiling
        self._box = max(1, round(ATTACK_SECONDS * rate / 2))
        self.latency = HALF_TAPS + 2 * self._box
        self._release = float(1.0 - np.exp(-1.0 / (RELEASE_SECONDS * rate)))
        self._sound = np.zeros((channels, 2 * HALF_TAPS + 1), np.float32)
        self._delayed = np.zeros((channels, 2 * self._box), np.float32)
        self._needs = np.ones(2 * self._box)
        self._gain_now = np.ones(1)
        self._averages = [_RunningMean(self._box + 1), _RunningMean(self._box + 1)]
        self.lowest_gain = 1.0

    def process(self, block: Audio) -> Audio:
        """Limit ``[channels, frames]``; returns as many frames, delayed by ``latency``."""
        check_audio(block)
        frames = block.shape[1]
        if frames == 0:
            return block.copy()
        joined = np.concatenate((self._sound, block), axis=1)
        self._sound = joined[:, -(2 * HALF_TAPS + 1) :].copy()
        # The envelope of a frame needs its neighbours to both sides; its sound leaves HALF_TAPS late.
        peaks = peak_envelope(joined, self._rate, self._ceiling)[HALF_TAPS + 1 : HALF_TAPS + 1 + frames]
        ready = joined[:, HALF_TAPS + 1 : HALF_TAPS + 1 + frames]
        gain = self._gain(peaks)
        delayed = np.concatenate((self._delayed, ready), axis=1)
        self._delayed = delayed[:, frames:].copy()
        out: Audio = delayed[:, :frames] * gain
        return out

    def _gain(self, peaks: Audio) -> Audio:
        needed = np.minimum(1.0, self._ceiling / np.maximum(peaks.astype(np.float64), 1e-9))
        needs = np.concatenate((self._needs, needed))
        self._needs = needs[len(needed) :].copy()
        gain = np.empty(len(needed))
        _sliding_minimum(needs, 2 * self._box + 1, gain)
        _release(gain, self._release, self._gain_now)
        for average in self._averages:
            gain = average.process(gain)
        self.lowest_gain = min(self.lowest_gain, float(gain.min()))
        return gain.astype(np.float32)


class _RunningMean:
    """The mean of the last ``span`` values, all 1 before the first."""

    def __init__(self, span: int) -> None:
        self._kept = np.ones(span)
        self._sum = np.array([float(span)])

    def process(self, values: Floats) -> Floats:
        joined = np.concatenate((self._kept, values))
        self._kept = joined[len(values) :].copy()
        out = np.empty(len(values))
        _running_mean(joined, self._sum, out)
        return out


@njit(cache=True, nogil=True)
def _sliding_minimum(values, span, out):  # type: ignore[no-untyped-def]
    """``out[n]`` is the least of ``values[n : n + span]`` (D. Lemire's streaming minimum, 2006)."""
    queue = np.empty(len(values), np.int64)
    head, tail = 0, 0
    for n in range(len(values)):
        while tail > head and values[queue[tail - 1]] >= values[n]:
            tail -= 1
        queue[tail] = n
        tail += 1
        if queue[head] <= n - span:
            head += 1
        if n >= span - 1:
            out[n - span + 1] = values[queue[head]]


@njit(cache=True, nogil=True)
def _release(values, coefficient, state):  # type: ignore[no-untyped-def]
    """Down at once, up again exponentially, in place."""
    gain = state[0]
    for n in range(len(values)):
        gain = values[n] if values[n] < gain else gain + coefficient * (values[n] - gain)
        values[n] = gain
    state[0] = gain


@njit(cache=True, nogil=True)
def _running_mean(joined, total, out):  # type: ignore[no-untyped-def]
    """``joined`` holds one span of former values, whose sum is ``total[0]``, before the new ones."""
    span = len(joined) - len(out)
    running = total[0]
    for n in range(len(out)):
        running += joined[n + span] - joined[n]
        out[n] = running / span
    total[0] = running
