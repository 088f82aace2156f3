"""Swept filters: trapezoidal state-variable filters, stable however quickly the corner moves.

V. Zavalishin, "The Art of VA Filter Design", chapter 3 (zero-delay state-variable filter); two in a row with the Q values of
a fourth-order Butterworth low-pass, 24 dB an octave.
"""

import numpy as np

from latespin.dsp.arrays import Audio, Floats, check_audio
from latespin.dsp.kernels import kernel

BUTTERWORTH_Q = (0.5411961, 1.3065630)


class SweptLowPass:
    """A streaming low-pass for blocks ``[channels, frames]`` of any size, one channel or two; no latency."""

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


@kernel(error_model="numpy")
def _filter(block, g, damping, state, high):  # type: ignore[no-untyped-def]
    """One second-order section, in place; one channel, or two at once, since each frame waits for the one before it."""
    left, right = block[0], block[block.shape[0] - 1]
    s1, s2 = state[0]
    t1, t2 = state[block.shape[0] - 1]
    for n in range(block.shape[1]):
        share = 1.0 / (1.0 + g[n] * (g[n] + damping))
        hp, lp, s1, s2 = _next(left[n], g[n], damping, share, s1, s2)
        other_hp, other_lp, t1, t2 = _next(right[n], g[n], damping, share, t1, t2)
        left[n] = hp if high else lp
        right[n] = other_hp if high else other_lp
    state[0, 0], state[0, 1] = s1, s2
    state[block.shape[0] - 1, 0], state[block.shape[0] - 1, 1] = t1, t2


@kernel()
def _next(x, g, damping, share, s1, s2):  # type: ignore[no-untyped-def]
    """Equations 3.20 to 3.23: what is heard above and below, and both states after it."""
    hp = (x - (damping + g) * s1 - s2) * share + 1e-25
    bp = g * hp + s1
    lp = g * bp + s2
    return hp, lp, g * hp + bp, g * bp + lp
