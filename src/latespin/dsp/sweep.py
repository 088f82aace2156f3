"""Filters whose corner moves: trapezoidal state-variable filters, which stay stable and quiet however quickly it does.

V. Zavalishin, "The Art of VA Filter Design", chapter 3 (zero-delay state-variable filter); two in a row with the Q values of
a fourth-order Butterworth low-pass, 24 dB an octave.
"""

import numpy as np
from numba import njit

from latespin.dsp.types import Audio, Floats, check_audio

BUTTERWORTH_Q = (0.5411961, 1.3065630)


class SweptLowPass:
    """A streaming low-pass for blocks ``[channels, frames]`` of any size; no latency."""

    def __init__(self, rate: int, channels: int, resonance: float = 1.0) -> None:
        self._rate = rate
        self.resonate(resonance)
        self._state = np.zeros((2, channels, 2))

    def resonate(self, resonance: float) -> None:
        """Ring more or less where the highs end, from the next frame on."""
        self._damping = np.array([1.0 / BUTTERWORTH_Q[0], 1.0 / (BUTTERWORTH_Q[1] * resonance)])

    def process(self, block: Audio, corners_hz: Floats) -> Audio:
        """Filter one more block, its corner at each frame between 20 Hz and 0.45 of the rate (clipped)."""
        check_audio(block)
        out = block.copy()
        g = np.tan(np.pi * np.clip(corners_hz, 20.0, 0.45 * self._rate) / self._rate)
        for stage in range(2):
            _filter(out, g, self._damping[stage], self._state[stage], False)
        return out


class HighPass:
    """A streaming second-order Butterworth high-pass with a fixed corner."""

    def __init__(self, rate: int, channels: int, corner_hz: float) -> None:
        self._g = float(np.tan(np.pi * min(corner_hz, 0.45 * rate) / rate))
        self._state = np.zeros((channels, 2))

    def process(self, block: Audio) -> Audio:
        """Filter one more block."""
        check_audio(block)
        out = block.copy()
        _filter(out, np.full(block.shape[1], self._g), np.sqrt(2.0), self._state, True)
        return out


@njit(cache=True, nogil=True)
def _filter(block, g, damping, state, high):  # type: ignore[no-untyped-def]
    """One second-order section, in place: equations 3.20 to 3.23."""
    for c in range(block.shape[0]):
        s1, s2 = state[c]
        for n in range(block.shape[1]):
            gn = g[n]
            hp = (block[c, n] - (damping + gn) * s1 - s2) / (1.0 + gn * (gn + damping)) + 1e-25
            bp = gn * hp + s1
            lp = gn * bp + s2
            s1 = gn * hp + bp
            s2 = gn * bp + lp
            block[c, n] = hp if high else lp
        state[c, 0], state[c, 1] = s1, s2
