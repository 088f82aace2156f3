"""Cascades of second-order sections with moving coefficients.

Trapezoidal state-variable sections: A. Simper, "Linear trapezoidal integrated state variable filter", 2013, after V. Zavalishin,
"The Art of VA Filter Design", chapters 3 and 4. Their responses are those of the bilinear transform, which is what :func:`response`
works out; Butterworth slopes after S. Butterworth, 1930. A section is six numbers: order, g = tan(π f / rate), k = 1/Q, and how much of
input, band-pass and low-pass (or low-pass alone in a section of first order) is heard.
"""

import math
from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio, Floats, check_audio, check_range
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import STEP, SmoothedValue
from latespin.dsp.kernels import kernel

SLOPES = (6, 12, 18, 24, 36, 48)
OPEN_LOW_HZ, OPEN_HIGH_HZ = 20.0, 20_000.0  # cuts here take nothing away
CLOSED_LOW_HZ, CLOSED_HIGH_HZ = 24.0, 18_000.0  # from here on a cut is whole
Section = tuple[float, float, float, float, float, float]


def low_pass(hz: float, rate: float, slope_db: int = 12) -> list[Section]:
    """Butterworth, 6 to 48 dB an octave."""
    return _butterworth(hz, rate, slope_db, high=False)


def high_pass(hz: float, rate: float, slope_db: int = 12) -> list[Section]:
    """Butterworth, 6 to 48 dB an octave."""
    return _butterworth(hz, rate, slope_db, high=True)


def low_cut(hz: float, rate: float, slope_db: int = 12) -> list[Section]:
    """A high-pass that fades out towards its open end: at ``OPEN_LOW_HZ`` and below it leaves the sound alone."""
    share = math.log(max(1.0, hz / OPEN_LOW_HZ)) / math.log(CLOSED_LOW_HZ / OPEN_LOW_HZ)
    return _in_part(high_pass(hz, rate, slope_db), min(1.0, share))


def high_cut(hz: float, rate: float, slope_db: int = 12) -> list[Section]:
    """A low-pass that fades out towards its open end: at ``OPEN_HIGH_HZ`` and above it leaves the sound alone."""
    share = math.log(max(1.0, OPEN_HIGH_HZ / hz)) / math.log(OPEN_HIGH_HZ / CLOSED_HIGH_HZ)
    return _in_part(low_pass(hz, rate, slope_db), min(1.0, share))


def _in_part(sections: list[Section], share: float) -> list[Section]:
    """Sections each mixed with its own input: 1 is the section, 0 the input."""
    return [
        (order, g, k, 1.0 + share * (dry - 1.0), share * band, share * low) for order, g, k, dry, band, low in sections
    ]


def bell(hz: float, gain_db: float, q: float, rate: float) -> Section:
    """A peak or a dip of ``gain_db`` around a frequency."""
    a = 10.0 ** (gain_db / 40.0)
    k = 1.0 / (q * a)
    return (2.0, _warped(hz, rate), k, 1.0, k * (a * a - 1.0), 0.0)


def low_shelf(hz: float, gain_db: float, rate: float, q: float = 0.7071) -> Section:
    """``gain_db`` below a frequency, half of it there."""
    a = 10.0 ** (gain_db / 40.0)
    k = 1.0 / q
    return (2.0, _warped(hz, rate) / math.sqrt(a), k, 1.0, k * (a - 1.0), a * a - 1.0)


def high_shelf(hz: float, gain_db: float, rate: float, q: float = 0.7071) -> Section:
    """``gain_db`` above a frequency, half of it there."""
    a = 10.0 ** (gain_db / 40.0)
    k = 1.0 / q
    return (2.0, _warped(hz, rate) * math.sqrt(a), k, a * a, k * (1.0 - a) * a, 1.0 - a * a)


def _warped(hz: float, rate: float) -> float:
    return math.tan(math.pi * min(hz, 0.49 * rate) / rate)


def _butterworth(hz: float, rate: float, slope_db: int, *, high: bool) -> list[Section]:
    check_range("frequency", hz, 1.0, 1e6, "Hz")  # above half the rate a corner lies at its end
    order, g = slope_db // 6, _warped(hz, rate)
    found: list[Section] = []
    if order % 2:
        found.append((1.0, g, 0.0, 1.0, 0.0, -1.0) if high else (1.0, g, 0.0, 0.0, 0.0, 1.0))
    for i in range(order // 2):
        k = (
            2.0 * math.sin(math.pi * (2 * i + 1) / (2 * order))
            if order % 2 == 0
            else 2.0 * math.cos(math.pi * (i + 1) / order)
        )
        found.append((2.0, g, k, 1.0, -k, -1.0) if high else (2.0, g, k, 0.0, 0.0, 1.0))
    return found


def response(sections: Sequence[Section], hz: Floats, rate: float) -> NDArray[np.complex128]:
    """The complex response of sections in a row at frequencies up to half the rate."""
    s = 1j * np.tan(np.pi * np.minimum(hz, 0.4999 * rate) / rate)
    total = np.ones(len(s), np.complex128)
    for order, g, k, dry, band, low in sections:
        w = s / g
        total *= dry + (band * w + low) / (w * w + k * w + 1.0) if order == 2.0 else dry + low / (w + 1.0)
    return total


class FilterCascade:
    """Sections in a row as a stream ``[channels, frames]``; no latency. Other values are reached within ``STEP`` frames."""

    def __init__(self, sections: Sequence[Section], channels: int = 2) -> None:
        self._values = SmoothedValue(_numbers(sections))
        self._count = len(_numbers(sections))
        self._state = np.zeros((self._count, channels, 2))
        self._of, self._worked_out = self._values.now, state_space(self._values.now)

    def set_target(self, sections: Sequence[Section]) -> None:
        """Move to other values of the same number of sections."""
        self._values.to(_numbers(sections))

    def process(self, block: Audio) -> Audio:
        """Filter one more block."""
        check_audio(block)
        out = np.ascontiguousarray(block).copy()
        done = 0
        while self._count and done < block.shape[1]:
            now, then, count = self._values.pass_by(block.shape[1] - done)
            part = out if count == block.shape[1] else out[:, done : done + count].copy()
            if now is then:
                _run(part, self._steady(now), self._state)
            else:
                _run_moving(part, now, then, self._state)
            out[:, done : done + count] = part
            done += count
        return out

    def _steady(self, values: Floats) -> Floats:
        if values is not self._of:
            self._of, self._worked_out = values, state_space(values)
        return self._worked_out

    def follow(
        self, block: Audio, at: int, amount: Automation, sections: Callable[[float], Sequence[Section]]
    ) -> Audio:
        """Filter a block, whose first frame is ``at``, by sections that go with an amount, taken anew every ``STEP`` frames."""
        if amount.steady is not None:
            self.set_target(sections(amount.steady))
            return self.process(block)
        out = np.empty(block.shape, np.float32)
        grid = np.arange(at // STEP, (at + block.shape[1]) // STEP + 1) * STEP
        start = 0
        for frame, value in zip(grid.tolist(), amount.at_places(grid.astype(np.float64)).tolist(), strict=True):
            stop = min(block.shape[1], frame + STEP - at)
            if stop > start:
                self.set_target(sections(value))
                out[:, start:stop] = self.process(block[:, start:stop])
            start = max(start, stop)
        return out


def _numbers(sections: Sequence[Section]) -> Floats:
    return np.array(sections, np.float64).reshape(-1, 6)


def state_space(values: Floats) -> Floats:
    """Sections ``[n, 6]`` as state spaces ``[n, 9]``.

    First how much of the first state, the second and the input makes the next first one; then the same for the second; then how much
    of the input, the first and the second is heard. A section of first order leaves its second state at nothing.
    """
    order, g, k, dry, band, low = values.T
    second = order == 2.0
    a1 = np.where(second, 1.0 / (1.0 + g * (g + k)), g / (1.0 + g))
    a2 = np.where(second, g * a1, 0.0)
    a3 = g * a2
    own = np.where(second, 2.0 * a1 - 1.0, 1.0 - 2.0 * a1)
    driven = np.where(second, 2.0 * a2, 2.0 * a1)
    heard = np.where(second, dry + band * a2 + low * a3, dry + low * a1)
    first = np.where(second, band * a1 + low * a2, low * (1.0 - a1))
    last = np.where(second, low * (1.0 - a3) - band * a2, 0.0)
    kept = np.where(second, 1.0 - 2.0 * a3, 0.0)
    return np.ascontiguousarray(
        np.stack((own, -2.0 * a2, driven, 2.0 * a2, kept, 2.0 * a3, heard, first, last), axis=1)
    )


@kernel()
def _run(block, spaces, state):  # type: ignore[no-untyped-def]
    """Each section in place; two channels at once, since each frame waits for the one before it."""
    for i in range(spaces.shape[0]):
        pairs = block.shape[0] // 2
        for c in range(pairs):
            _run_pair(block[2 * c], block[2 * c + 1], spaces[i], state[i, 2 * c], state[i, 2 * c + 1])
        if block.shape[0] % 2:
            _run_one(block[2 * pairs], spaces[i], state[i, 2 * pairs])


@kernel()
def _run_pair(left, right, space, state, other):  # type: ignore[no-untyped-def]
    p11, p12, q1, p21, p22, q2, dry, first, last = space
    s1, s2 = state
    t1, t2 = other
    for n in range(len(left)):
        v, w = left[n] + 1e-25, right[n] + 1e-25
        left[n] = dry * v + first * s1 + last * s2
        right[n] = dry * w + first * t1 + last * t2
        s1, s2 = p11 * s1 + (p12 * s2 + q1 * v), p22 * s2 + (p21 * s1 + q2 * v)
        t1, t2 = p11 * t1 + (p12 * t2 + q1 * w), p22 * t2 + (p21 * t1 + q2 * w)
    state[0], state[1] = s1, s2
    other[0], other[1] = t1, t2


@kernel()
def _run_one(sound, space, state):  # type: ignore[no-untyped-def]
    p11, p12, q1, p21, p22, q2, dry, first, last = space
    s1, s2 = state
    for n in range(len(sound)):
        v = sound[n] + 1e-25
        sound[n] = dry * v + first * s1 + last * s2
        s1, s2 = p11 * s1 + (p12 * s2 + q1 * v), p22 * s2 + (p21 * s1 + q2 * v)
    state[0], state[1] = s1, s2


@kernel(error_model="numpy")
def _run_moving(block, now, then, state):  # type: ignore[no-untyped-def]
    """Each section in place, its values going from ``now`` to ``then`` over the block."""
    frames = block.shape[1]
    for i in range(now.shape[0]):
        second = now[i, 0] == 2.0
        g, k, m0, m1, m2 = now[i, 1], now[i, 2], now[i, 3], now[i, 4], now[i, 5]
        dg, dk, d0, d1, d2 = (then[i, 1] - g, then[i, 2] - k, then[i, 3] - m0, then[i, 4] - m1, then[i, 5] - m2)
        for c in range(block.shape[0]):
            s1, s2 = state[i, c]
            for n in range(frames):
                x = n / frames
                gn, kn = g + x * dg, k + x * dk
                h0, h1, h2 = m0 + x * d0, m1 + x * d1, m2 + x * d2
                a1 = 1.0 / (1.0 + gn * (gn + kn)) if second else gn / (1.0 + gn)
                a2 = gn * a1
                a3 = gn * a2
                v0 = block[c, n] + 1e-25
                if second:
                    v3 = v0 - s2
                    v1 = a1 * s1 + a2 * v3
                    v2 = s2 + a2 * s1 + a3 * v3
                    s1 = 2.0 * v1 - s1
                    s2 = 2.0 * v2 - s2
                    block[c, n] = h0 * v0 + h1 * v1 + h2 * v2
                else:
                    v = (v0 - s1) * a1
                    low = v + s1
                    s1 = low + v
                    block[c, n] = h0 * v0 + h2 * low
            state[i, c, 0], state[i, c, 1] = s1, s2
