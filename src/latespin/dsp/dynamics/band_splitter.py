"""Takes a stereo sound apart into parts that add up to it: mid and side, or lows, mids and highs."""

import numpy as np

from latespin.dsp.arrays import Audio, mid_and_side
from latespin.dsp.control.delay import Delay
from latespin.dsp.filters.convolution import Convolver

SPLIT_TAPS = 2047


class MidSideSplitter:
    """Mid and side, each as a stereo block; both together are the song."""

    latency = 0

    def process(self, block: Audio) -> list[Audio]:
        """The two parts of one more block ``[2, frames]``."""
        mid, side = mid_and_side(block)
        return [np.stack((mid, mid)), np.stack((side, -side))]


class BandSplitter:
    """Lows, mids and highs by filters of linear phase, ``latency`` frames late; their sum is the song."""

    def __init__(self, rate: int, crossovers_hz: tuple[float, float]) -> None:
        self._filters = [
            Convolver(np.stack((taps, taps))) for taps in (_soft_low_pass(hz, rate) for hz in crossovers_hz)
        ]
        self.latency = self._filters[0].latency + SPLIT_TAPS // 2
        self._delay_line = Delay(2, self.latency)

    def process(self, block: Audio) -> list[Audio]:
        """The three parts of one more block ``[2, frames]``."""
        late = self._delay_line.process(block)
        low, lower = (part.process(block) for part in self._filters)
        return [low, lower - low, late - lower]


def _soft_low_pass(hz: float, rate: int) -> Audio:
    """Taps of a low-pass whose edge falls over about an octave, their sum 1."""
    n = np.arange(SPLIT_TAPS) - SPLIT_TAPS // 2
    taps = np.sinc(2.0 * hz / rate * n) * np.exp(-0.5 * (n * hz / (0.9 * rate)) ** 2) * np.hanning(SPLIT_TAPS)
    return np.asarray(taps / taps.sum(), np.float32)
