"""Gain in decibels that moves without a click."""

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitudes
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import SmoothedValue

SILENT_DB = -60.0


def ratios(gains_db: Floats) -> Floats:
    """Amplitude ratios of gains in dB; ``SILENT_DB`` and less is silence."""
    return np.where(gains_db > SILENT_DB, amplitudes(gains_db), 0.0)


class Gain:
    """gain_db : reached in straight lines on the scale of decibels, like the amount's share of it."""

    latency = warm_up_frames = 0

    def __init__(self, gain_db: float) -> None:
        self._gain = SmoothedValue(gain_db)

    def set_target(self, gain_db: float) -> None:
        """Go to another gain."""
        self._gain.to(gain_db)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        gain_db = self._gain.over(block.shape[1])
        if amount.steady is not None and isinstance(gain_db, float):
            return block * np.float32(ratios(np.asarray(amount.steady * gain_db)))
        return block * ratios(amount.at(at, block.shape[1]) * gain_db).astype(np.float32)
