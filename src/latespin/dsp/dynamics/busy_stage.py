"""A slower stage of the limiter, which looks further ahead and works only under sustained limiting, where peak follows peak.

It may be a little off, since a quick stage takes off what is left; so it is worked out for groups of ``GROUP`` frames, with straight lines between.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Floats, amplitude
from latespin.dsp.dynamics.gain_stage import GainStage
from latespin.dsp.kernels import kernel

BUSY_SECONDS = 0.5
#: Peaks are held for HELD_SECONDS, the mean reduction goes over MEAN_SECONDS, so that a peak by itself is left to the quick stage however high it is.
HELD_SECONDS, MEAN_SECONDS = 0.25, 0.5
GROUP = 8


@dataclass(frozen=True, kw_only=True)
class StageSettings:
    """How far a stage goes and how fast.

    attack_seconds : how far it looks ahead.  averages : how many round the way down.  release_seconds : where it has been idle, and busy.
    leaves_db : of each peak's reduction, for the stages after it. A fixed amount, not a share: a share that grows with the limiting would let
    more gain end in less loudness.  engages : the mean reductions, as 1 less the gain, between which it comes in.
    """

    attack_seconds: float
    averages: int
    release_seconds: tuple[float, float]
    leaves_db: float
    engages: tuple[float, float]


class BusyStage:
    """A stream of gains, ``latency`` frames late; the same however it is cut into blocks."""

    def __init__(self, rate: float, settings: StageSettings) -> None:
        groups = rate / GROUP
        box = max(1, round(settings.attack_seconds * groups / settings.averages))
        self._stage = GainStage(groups, box, settings.averages, settings.release_seconds, BUSY_SECONDS)
        self.latency = GROUP * (self._stage.latency + 1)
        self._falls = np.exp(-1.0 / (np.array([HELD_SECONDS, MEAN_SECONDS]) * groups))
        self._limits = np.array([*settings.engages, amplitude(settings.leaves_db)])
        self._reduction = np.zeros(2)  # held, and its mean
        self._begun = np.zeros(0)  # needs of a group that is not complete
        self._ends = np.ones(2)  # of the line that is being drawn

    def process(self, needed: Floats) -> Floats:
        """Its part of the gains that frames need, 0 to 1."""
        inside = len(self._begun)
        joined = np.concatenate((self._begun, needed))
        count = len(joined) // GROUP
        least = np.empty(count)
        _least(joined, least)
        self._begun = joined[count * GROUP :].copy()
        _take(least, self._falls, self._limits, self._reduction)
        ends = np.concatenate((self._ends, self._stage.process(least)))
        self._ends = ends[count:].copy()
        gains = np.empty(len(needed))
        _lines(ends, inside, gains)
        return gains


@kernel()
def _least(values, out):  # type: ignore[no-untyped-def]
    """The least of every GROUP values."""
    for group in range(len(out)):
        least = values[group * GROUP]
        for n in range(group * GROUP + 1, (group + 1) * GROUP):
            least = min(least, values[n])
        out[group] = least


@kernel()
def _lines(ends, inside, out):  # type: ignore[no-untyped-def]
    """Straight lines between ``ends``, GROUP values apart, from the value after ``inside`` of them on."""
    for n in range(len(out)):
        group, part = divmod(inside + n + 1, GROUP)
        following = min(group + 1, len(ends) - 1)
        out[n] = ends[group] + (ends[following] - ends[group]) * (part / GROUP)


@kernel(error_model="numpy")
def _take(needed, falls, limits, reduction):  # type: ignore[no-untyped-def]
    """Make needed gains what this stage takes on of them, in place."""
    held, mean = reduction
    begins, engaged, leaves = limits
    for n in range(len(needed)):
        now = 1.0 - needed[n]
        x = min(1.0, max(0.0, (mean - begins) / (engaged - begins)))
        held = max(held * falls[0], now)
        mean += (1.0 - falls[1]) * (held - mean)
        needed[n] = 1.0 - x * x * (3.0 - 2.0 * x) * (1.0 - min(1.0, leaves * needed[n]))
    reduction[0], reduction[1] = held, mean
