"""The slow stage of the limiter: a gain that knows what is needed 40 ms ahead and lets go within a second.

It may be a little off, since a quick stage takes off what is left; so it is worked out for groups of ``GROUP`` frames, with straight lines between.
"""

import numpy as np
from numba import njit

from latespin.dsp.arrays import Floats

ATTACK_SECONDS, AVERAGES = 0.04, 3
RELEASE_SECONDS, RELEASES = (0.02, 1.0), 64  # the less busy it has been, the sooner
BUSY_SECONDS = 0.5
#: Its share of the reduction, from none to most between two mean reductions: peaks are held for HELD_SECONDS, the mean goes over MEAN_SECONDS,
#: so that a peak by itself is left to the quick stage however high it is.
SHARE, REDUCTIONS, HELD_SECONDS, MEAN_SECONDS = 0.85, (0.15, 0.4), 0.25, 1.0
GROUP = 8


class SlowGain:
    """A stream of gains, ``latency`` frames late; the same however it is cut into blocks."""

    def __init__(self, rate: int) -> None:
        box = max(1, round(ATTACK_SECONDS * rate / AVERAGES / GROUP))
        self.latency = GROUP * (AVERAGES * box + 1)
        groups = rate / GROUP
        self._releases = 1.0 - np.exp(-1.0 / (np.geomspace(*RELEASE_SECONDS, RELEASES) * groups))
        falls = np.exp(-1.0 / (np.array([HELD_SECONDS, MEAN_SECONDS, BUSY_SECONDS]) * groups))
        self._rates = np.array([falls[0], 1.0 - falls[1], 1.0 - falls[2]])
        # Reduction held and its mean, least of the group, gain, busy, and the line's ends.
        self._values = np.array([0.0, 0.0, 1.0, 1.0, 0.0, 1.0, 1.0])
        self._counts = np.zeros(4, np.int64)  # frames in the group, groups, first and last of the queue
        # Places and values of those that are lower than all after them, which makes the least of a window known.
        self._queue = np.zeros((2, AVERAGES * box + 2))
        self._kept = np.ones((AVERAGES, box + 2))
        self._kept[:, -1] = box + 1

    def process(self, needed: Floats) -> Floats:
        """The slow part of the gains that frames need, 0 to 1."""
        out = np.empty(len(needed))
        _follow(needed, self._rates, self._releases, self._values, self._counts, self._queue, self._kept, out)
        return out


@njit(cache=True, nogil=True, error_model="numpy")
def _follow(needed, rates, releases, values, counts, queue, kept, out):  # type: ignore[no-untyped-def]
    held, mean, least, gain, busy, start, end = values
    inside, group, head, tail = counts
    step = (end - start) / GROUP
    for n in range(len(needed)):
        least = min(least, needed[n])
        inside += 1
        out[n] = start + step * inside
        if inside == GROUP:
            reduction = 1.0 - least
            x = min(1.0, max(0.0, (mean - REDUCTIONS[0]) / (REDUCTIONS[1] - REDUCTIONS[0])))
            held = max(held * rates[0], reduction)
            mean += rates[1] * (held - mean)
            share = SHARE * x * x * (3.0 - 2.0 * x)
            tail, head = _queued(queue, head, tail, group, 1.0 - share * reduction)
            lowest = queue[1, head % queue.shape[1]]
            if lowest <= gain:
                gain = lowest
            else:
                gain += releases[int(busy * (len(releases) - 1))] * (lowest - gain)
            busy += rates[2] * ((1.0 if lowest < 1.0 else 0.0) - busy)
            start, end = end, _averaged(kept, group, gain)
            step = (end - start) / GROUP
            inside, group, least = 0, group + 1, 1.0
    values[:] = held, mean, least, gain, busy, start, end
    counts[:] = inside, group, head, tail


@njit(cache=True, nogil=True, error_model="numpy")
def _queued(queue, head, tail, group, value):  # type: ignore[no-untyped-def]
    """The end and the start of the queue once a value is in it and what has left the window is out (D. Lemire's streaming minimum, 2006)."""
    size = queue.shape[1]
    while tail > head and queue[1, (tail - 1) % size] >= value:
        tail -= 1
    queue[0, tail % size], queue[1, tail % size] = group, value
    tail += 1
    if queue[0, head % size] <= group - (size - 1):
        head += 1
    return tail, head


@njit(cache=True, nogil=True, error_model="numpy")
def _averaged(kept, group, value):  # type: ignore[no-untyped-def]
    """A value through averages in a row, each of the last values that are ``kept``, their sum behind them."""
    span = kept.shape[1] - 1
    for row in kept:
        row[span] += value - row[group % span]
        row[group % span] = value
        value = row[span] / span
    return value
