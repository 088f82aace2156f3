"""A waveshaper at four to sixteen times the rate, against aliasing.

Half-band filters in polyphase form, two to four each way (P. P. Vaidyanathan, "Multirate Systems and Filter Banks", 1993,
section 4.6; Kaiser windows). The first stage passes up to 0.455 of the rate and stops what would fold below it by 90 dB.

How often the rate doubles follows from the drive: the overtones of tanh(d sin x) fall off as exp(−n asinh(π / 2d)), n the number of
the overtone, since that is how far the nearest pole lies from the real axis. The figures are in ``docs/effects.md``.
"""

from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.delay import Delay
from latespin.dsp.filters.fir import correlate
from latespin.dsp.kernels import kernel

TAPS = (127, 19, 15, 15)  # of each doubling, the steepest first; 4 n + 3
DOUBLINGS = ((4.5, 2), (9.0, 3))  # up to a drive; any higher drive has four
SHAPES = ("soft", "tube", "tape")
TUBE_BIAS = 0.22
OFFSET_HZ = 5.0  # of the high-pass behind a curve that is not symmetrical


class Shaper:
    """A streaming saturation ``[channels, frames]``, ``latency`` frames late.

    shape : *soft* (odd harmonics), *tube* (even ones too; its offset is removed), *tape* (gentler, later to give way).
    most_drive : the highest ratio to come for waves of full scale, for quieter ones that much less. It sets the oversampling, and with
    it the latency; more drive works, too, but aliases.
    memory_seconds : how long earlier sound influences the output.
    """

    def __init__(self, rate: int, channels: int, shape: str = "soft", most_drive: float = 0.0) -> None:
        self._offset = np.zeros(channels) if shape == "tube" else None
        self._settle = 1.0 - np.exp(-2.0 * np.pi * OFFSET_HZ / rate)
        self.memory_seconds = 0.45 if shape == "tube" else 0.05
        self._shape = SHAPES.index(shape)
        taps = TAPS[: next((doublings for drive, doublings in DOUBLINGS if most_drive <= drive), len(TAPS))]
        self._sides = [_half_band(count) for count in taps]
        self._ups = [np.zeros((channels, count // 2 + 1), np.float32) for count in taps]
        self._downs = [np.zeros((channels, count - 1), np.float32) for count in taps]
        late = sum(count // 2 / 2.0**stage for stage, count in enumerate(taps))  # both ways, frames at the song's rate
        self.latency = int(np.ceil(late))
        below_top = 2 ** (len(taps) - 1)
        self._skew = Delay(
            channels, round((self.latency - late) * below_top)
        )  # at half the highest rate: whole frames in all
        self._dry = Delay(channels, self.latency)

    def process(self, block: Audio, drive: Floats) -> Audio:
        """Shape a block; ``drive`` is the ratio at each frame: small waves pass as they are, waves near 1/drive are rounded."""
        out = block
        for side, kept in zip(self._sides, self._ups, strict=True):
            out = _up(out, side, kept)
        _shape(out, np.repeat(drive, 2 ** len(self._sides)).astype(np.float32), self._shape)
        *sides, top = zip(self._sides, self._downs, strict=True)
        out = self._skew.process(_down(out, *top))
        for side, kept in reversed(sides):
            out = _down(out, side, kept)
        if self._offset is not None:
            _centre(out, self._dry.process(block), self._settle, self._offset)
        return out


def shaped(wave: Floats, drive: float, shape: str) -> Floats:
    """The curve itself on ``[channels, frames]``, without oversampling."""
    made = wave.astype(np.float32)
    _shape(made, np.full(made.shape[1], drive, np.float32), SHAPES.index(shape))
    centred = made.astype(np.float64)
    return centred - centred.mean(axis=1, keepdims=True) if shape == "tube" else centred


@lru_cache(maxsize=len(TAPS))
def _half_band(taps: int) -> Audio:
    """The odd-numbered taps of a half-band low-pass; the middle one is a half, the others nothing."""
    n = np.arange(taps) - taps // 2
    h = 0.5 * np.sinc(n / 2.0) * np.kaiser(taps, 8.6)
    side = h[0::2] if taps // 2 % 2 else h[1::2]
    return np.ascontiguousarray(0.5 * side / side.sum(), dtype=np.float32)


def _up(block: Audio, side: Audio, kept: Audio) -> Audio:
    """Double the rate: the delayed sound at frames, the filtered sound between them."""
    frames, span = block.shape[1], len(side)
    heard = np.concatenate((kept, block), axis=1)
    kept[:] = heard[:, frames:]
    out = np.empty((block.shape[0], 2 * frames), np.float32)
    out[:, 0::2] = correlate(heard[:, heard.shape[1] - frames - span + 1 :], side * np.float32(2.0))
    at = heard.shape[1] - frames - span // 2 + 1
    out[:, 1::2] = heard[:, at : at + frames]
    return out


def _down(block: Audio, side: Audio, kept: Audio) -> Audio:
    """Halve the rate."""
    heard = np.concatenate((kept, block), axis=1)
    kept[:] = heard[:, block.shape[1] :]
    frames, span = block.shape[1] // 2, len(side)
    even, odd = heard[:, 0::2], heard[:, 1::2]
    out = correlate(even[:, : frames + span - 1], side)
    out += np.float32(0.5) * odd[:, span // 2 - 1 : span // 2 - 1 + frames]
    return out


@kernel(fastmath=True, error_model="numpy")
def _shape(wave, drive, shape):  # type: ignore[no-untyped-def]
    """tanh(d x) / d; with a bias for even harmonics; or x / √(1 + (d x)²), in place."""
    tube = np.float32(TUBE_BIAS) if shape == 1 else np.float32(0.0)
    above, below = _tanh(tube)
    bias = above / below
    scale = np.float32(1.0) / (np.float32(1.0) - bias * bias)
    one, least = np.float32(1.0), np.float32(1e-3)  # less drive than that cannot be told from none
    for c in range(wave.shape[0]):
        row = wave[c]
        if shape == 2:
            for n in range(len(row)):
                x = row[n] * drive[n]
                row[n] = row[n] / np.sqrt(one + x * x)
        else:
            for n in range(len(row)):
                d = max(drive[n], least)
                above, below = _tanh(row[n] * d + tube)
                row[n] = (above - bias * below) * scale / (d * below)


@kernel(fastmath=True, inline="always", error_model="numpy")
def _tanh(x):  # type: ignore[no-untyped-def]
    """Lambert's continued fraction to its seventh step, held at ±1: within 1e-4 of tanh, and as smooth; above and below its line."""
    x = min(max(x, np.float32(-4.9)), np.float32(4.9))
    q = x * x
    above = np.float32(135135.0) + q * (np.float32(17325.0) + q * (np.float32(378.0) + q))
    below = np.float32(135135.0) + q * (np.float32(62370.0) + q * (np.float32(3150.0) + np.float32(28.0) * q))
    return x * above, below


@kernel()
def _centre(wave, dry, settle, offset):  # type: ignore[no-untyped-def]
    """Subtract the slow part (a first-order low-pass) of what the curve added, in place. Without drive nothing changes."""
    for c in range(wave.shape[0]):
        now = offset[c]
        for n in range(wave.shape[1]):
            now += settle * (wave[c, n] - dry[c, n] - now) + 1e-25
            wave[c, n] -= now
        offset[c] = now
