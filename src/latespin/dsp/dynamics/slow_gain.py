"""The slow stage of the limiter: a gain that knows what is needed 40 ms ahead and lets go within a second.

It may be a little off, since a quick stage takes off what is left; so it is worked out for groups of ``GROUP`` frames, with straight lines between.
"""

import numpy as np
from numba import njit

from latespin.dsp.arrays import Floats
from latespin.dsp.dynamics.gain_stage import GainStage

ATTACK_SECONDS, AVERAGES = 0.04, 3
RELEASE_SECONDS, BUSY_SECONDS = (0.02, 1.0), 0.5
#: Its share of the reduction, from none to most between two mean reductions: peaks are held for HELD_SECONDS, the mean goes over MEAN_SECONDS,
#: so that a peak by itself is left to the quick stage however high it is.
SHARE, REDUCTIONS, HELD_SECONDS, MEAN_SECONDS = 0.85, (0.15, 0.4), 0.25, 1.0
GROUP = 8


class SlowGain:
    """A stream of gains, ``latency`` frames late; the same however it is cut into blocks."""

    def __init__(self, rate: int) -> None:
        groups = rate / GROUP
        box = max(1, round(ATTACK_SECONDS * groups / AVERAGES))
        self._stage = GainStage(groups, box, AVERAGES, RELEASE_SECONDS, BUSY_SECONDS)
        self.latency = GROUP * (self._stage.latency + 1)
        self._falls = np.exp(-1.0 / (np.array([HELD_SECONDS, MEAN_SECONDS]) * groups))
        self._reduction = np.zeros(2)  # held, and its mean
        self._begun = np.zeros(0)  # needs of a group that is not complete
        self._ends = np.ones(2)  # of the line that is being drawn

    def process(self, needed: Floats) -> Floats:
        """The slow part of the gains that frames need, 0 to 1."""
        inside = len(self._begun)
        joined = np.concatenate((self._begun, needed))
        count = len(joined) // GROUP
        least = np.empty(count)
        _least(joined, least)
        self._begun = joined[count * GROUP :].copy()
        _share(least, self._falls, self._reduction)
        ends = np.concatenate((self._ends, self._stage.process(least)))
        self._ends = ends[count:].copy()
        gains = np.empty(len(needed))
        _lines(ends, inside, gains)
        return gains


@njit(cache=True, nogil=True)
def _least(values, out):  # type: ignore[no-untyped-def]
    """The least of every GROUP values."""
    for group in range(len(out)):
        least = values[group * GROUP]
        for n in range(group * GROUP + 1, (group + 1) * GROUP):
            least = min(least, values[n])
        out[group] = least


@njit(cache=True, nogil=True)
def _lines(ends, inside, out):  # type: ignore[no-untyped-def]
    """Straight lines between ``ends``, GROUP values apart, from the value after ``inside`` of them on."""
    for n in range(len(out)):
        group, part = divmod(inside + n + 1, GROUP)
        following = min(group + 1, len(ends) - 1)
        out[n] = ends[group] + (ends[following] - ends[group]) * (part / GROUP)


@njit(cache=True, nogil=True, error_model="numpy")
def _share(needed, falls, reduction):  # type: ignore[no-untyped-def]
    """Make needed gains what the slow stage takes on of them, in place."""
    held, mean = reduction
    for n in range(len(needed)):
        now = 1.0 - needed[n]
        x = min(1.0, max(0.0, (mean - REDUCTIONS[0]) / (REDUCTIONS[1] - REDUCTIONS[0])))
        held = max(held * falls[0], now)
        mean += (1.0 - falls[1]) * (held - mean)
        needed[n] = 1.0 - SHARE * x * x * (3.0 - 2.0 * x) * now
    reduction[0], reduction[1] = held, mean
