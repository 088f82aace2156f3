"""A dynamic high shelf: a shelf that goes down only while the highs are loud."""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.dynamics.gain_follower import Curve, GainFollower, power_of
from latespin.dsp.filters.cascade import FilterCascade, high_pass
from latespin.dsp.kernels import kernel


@dataclass(frozen=True)
class DynamicShelfSettings:
    """from_hz : where loud highs begin.  curve : with the threshold for their power."""

    from_hz: float
    curve: Curve


class DynamicShelf:
    """A high shelf that goes down only while the highs are loud; ``gain_history`` as for the compressor."""

    latency = 0

    def __init__(self, rate: int, settings: DynamicShelfSettings) -> None:
        self._rate = rate
        self._high = FilterCascade(high_pass(settings.from_hz, rate, 12))
        self._g = SmoothedValue(_tangent(settings.from_hz, rate))
        self._state = np.zeros((2, 2))
        self._follower = GainFollower(rate, settings.curve)
        self.warm_up_frames = round((settings.curve.memory_seconds + 0.1) * rate)
        self.gain_history = np.zeros((1, 0))

    def set_target(self, settings: DynamicShelfSettings) -> None:
        """Go by another curve, from another frequency on."""
        self._follower.set_target(settings.curve)
        self._high.set_target(high_pass(settings.from_hz, self._rate, 12))
        self._g.to(_tangent(settings.from_hz, self._rate))

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song; the amount is a share of the gain in dB."""
        gains = self._follower.gains_db(power_of(self._high.process(block)), at) * amount.at(at, block.shape[1])
        self.gain_history = gains[None]
        out = block.copy()
        _shelve(out, gains, np.full(block.shape[1], self._g.over(block.shape[1])), self._state)
        return out


def _tangent(hz: float, rate: int) -> float:
    return float(np.tan(np.pi * min(hz, 0.49 * rate) / rate))


@kernel()
def _shelve(block, gains_db, g, state):  # type: ignore[no-untyped-def]
    """A high shelf (see ``sections.py``) whose gain moves; no gain leaves the song alone."""
    k = np.sqrt(2.0)
    for n in range(block.shape[1]):
        a = 10.0 ** (gains_db[n] / 40.0)
        gn = g[n] * np.sqrt(a)
        a1 = 1.0 / (1.0 + gn * (gn + k))
        a2 = gn * a1
        a3 = gn * a2
        for c in range(block.shape[0]):
            v0 = block[c, n]
            v3 = v0 - state[c, 1]
            v1 = a1 * state[c, 0] + a2 * v3
            v2 = state[c, 1] + a2 * state[c, 0] + a3 * v3
            state[c, 0] = 2.0 * v1 - state[c, 0] + 1e-25
            state[c, 1] = 2.0 * v2 - state[c, 1]
            block[c, n] = a * a * v0 + k * (1.0 - a) * a * v1 + (1.0 - a * a) * v2
