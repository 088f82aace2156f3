"""A gain that has arrived when it is needed: the least of a window ahead, let go of, and rounded by averages in a row.

This is the classic arrangement of look-ahead limiters (U. Zölzer (ed.), DAFX: Digital Audio Effects, 2nd ed., 2011, section 4.2.2). The release adapts
(after D. Giannoulis, M. Massberg and J. D. Reiss, "Parameter automation in a dynamic range compressor", JAES 61(10), 2013).
"""

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.dsp.kernels import kernel

RELEASES = 64  # release times between the fast and the slow one
IDLE = 0.999  # gains above it count as no work: rounding turns 1 into a little less


class GainStage:
    """A stream of gains, ``latency`` values late; the same however it is cut into blocks.

    rate : values per second.  box : values in each average but one; averages : how many.  release_seconds : where it has been idle, and busy
    all the time, which is judged over ``busy_seconds``.
    """

    def __init__(
        self, rate: float, box: int, averages: int, release_seconds: tuple[float, float], busy_seconds: float
    ) -> None:
        self.latency = averages * box
        self._releases = 1.0 - np.exp(-1.0 / (np.geomspace(*release_seconds, RELEASES) * rate))
        self._busy = 1.0 - np.exp(-1.0 / (busy_seconds * rate))
        self._needs = np.ones(self.latency)
        self._state = np.array([1.0, 0.0])  # the gain now, and how busy it has been
        self._averages = [_RunningMean(box + 1) for _ in range(averages)]

    def process(self, needed: Floats) -> Floats:
        """Gains, from those needed: each is at or below what is needed ``latency`` values earlier."""
        needs = np.concatenate((self._needs, needed))
        self._needs = needs[len(needed) :].copy()
        gain = np.empty(len(needed))
        _sliding_minimum(needs, self.latency + 1, gain)
        _release(gain, self._releases, self._busy, self._state)
        for average in self._averages:
            gain = average.process(gain)
        return gain


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


@kernel()
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


@kernel()
def _release(values, releases, share, state):  # type: ignore[no-untyped-def]
    """Down at once, up again exponentially, the more slowly the busier it has been; in place."""
    gain, busy = state
    last = len(releases) - 1
    for n in range(len(values)):
        if values[n] <= gain:
            gain = values[n]
        else:
            gain += releases[int(busy * last)] * (values[n] - gain)
        busy += share * ((1.0 if values[n] < IDLE else 0.0) - busy)
        values[n] = gain
    state[0], state[1] = gain, busy


@kernel()
def _running_mean(joined, total, out):  # type: ignore[no-untyped-def]
    """``joined`` holds one span of former values, whose sum is ``total[0]``, before the new ones."""
    span = len(joined) - len(out)
    running = total[0]
    for n in range(len(out)):
        running += joined[n + span] - joined[n]
        out[n] = running / span
    total[0] = running
