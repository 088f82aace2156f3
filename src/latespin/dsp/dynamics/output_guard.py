"""A safety limiter before the sound device: it silences NaN, limits to full scale, and slows level jumps after an edit.

Own design, for ears and loudspeakers, not for files. It has no latency and so no lookahead: it attacks at once and releases slowly.
Samples below −0.1 dBFS pass unchanged.
"""

import math

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude, check_audio, decibels
from latespin.dsp.kernels import kernel

THRESHOLD = amplitude(-0.1)  # of the limit, up to which samples pass untouched
RELEASE_SECONDS = 0.1
MEMORY_SECONDS = 3.0  # over which the highest sample heard is forgotten, to a third
LEAP, LEAP_SECONDS = 2.0, 0.05  # after an edit the peak may double every 50 ms
QUIETEST = 0.05  # what is heard counts for as loud as that at least, so that a hit after silence passes
NOTHING = -1.0


class OutputGuard:
    """A stream ``[2, frames]``. reduction_db : the most that was taken off since :meth:`take_reduction`.  silenced : samples that were no numbers."""

    def __init__(self, rate: int) -> None:
        # gain, ceiling (of full scale), highest sample heard lately
        self._state = np.array([1.0, np.inf, NOTHING])
        self._rates = np.array(
            [
                1.0 - math.exp(-1.0 / (RELEASE_SECONDS * rate)), math.exp(-1.0 / (MEMORY_SECONDS * rate)),
                LEAP ** (1.0 / (LEAP_SECONDS * rate)), LEAP_SECONDS * rate,
            ]
        )  # fmt: skip
        self._held = 0.0
        self._lowest = 1.0
        self.silenced = 0

    def clean(self, block: Audio) -> Audio:
        """The block with silence for what is no number; itself where there is nothing to silence."""
        wrong = ~np.isfinite(block)
        count = int(np.count_nonzero(wrong))
        if not count:
            return block
        self.silenced += count
        return np.where(wrong, np.float32(0.0), block)

    def process(self, block: Audio, edited_at: int | None = None) -> Audio:
        """The block made safe.  edited_at : its frame at which an edit begins to be heard."""
        check_audio(block)
        out = np.ascontiguousarray(block).copy()
        if edited_at is None:
            self._run(out)
            return out
        before, after = np.ascontiguousarray(out[:, :edited_at]), np.ascontiguousarray(out[:, edited_at:])
        self._run(before)
        self._edited()
        self._run(after)
        return np.concatenate((before, after), axis=1)

    def forget(self) -> None:
        """What comes next does not follow what was heard: playing began, or went elsewhere."""
        self._state[1:] = np.inf, NOTHING

    def take_reduction(self) -> float:
        """The most that was taken off since the last call, dB."""
        lowest, self._lowest = self._lowest, 1.0
        return -decibels(lowest)

    def _edited(self) -> None:
        if self._state[2] != NOTHING:
            self._state[1] = LEAP * max(QUIETEST, float(self._state[2]))
            self._held = float(self._rates[3])

    def _run(self, block: Audio) -> None:
        if block.shape[1]:
            lowest, self._held = _guard(block, self._state, self._rates, self._held)
            self._lowest = min(self._lowest, lowest)


@kernel()
def _guard(block: Audio, state: Floats, rates: Floats, held: float) -> tuple[float, float]:
    """In place; returns the lowest gain, and for how many frames more the ceiling holds."""
    gain, ceiling, heard = state
    release, memory, growth, _ = rates
    lowest = 1.0
    for n in range(block.shape[1]):
        peak = max(abs(block[0, n]), abs(block[1, n]))
        gain += (1.0 - gain) * release
        if gain > 0.999:
            gain = 1.0
        limit = min(1.0, ceiling)
        bend = THRESHOLD * limit
        if peak * gain > bend:
            over = limit - bend
            gain = (bend + over * math.tanh((peak * gain - bend) / over)) / peak
        if gain < 1.0:
            block[0, n] *= gain
            block[1, n] *= gain
            lowest = min(lowest, gain)
        heard = max(peak * gain, heard * memory)
        if held > 0.0:
            held -= 1.0
        elif ceiling < 1.0:
            ceiling *= growth
        else:
            ceiling = np.inf
    state[0], state[1], state[2] = gain, ceiling, heard
    return lowest, held
