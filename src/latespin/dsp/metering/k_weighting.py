"""The K-weighting of ITU-R BS.1770-5 at any sample rate, and the energy behind it."""

import math

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude, check_audio
from latespin.dsp.kernels import kernel

# The analogue prototypes behind the coefficients that BS.1770-5 (Annex 1, tables 1 and 2) prints for
# 48 kHz. Source: B. De Man, "Evaluation of Implementations of the EBU R128 Loudness Measurement",
# AES 145th Convention, 2018.
SHELF_HZ, SHELF_GAIN_DB, SHELF_Q = 1681.974450955533, 3.999843853973347, 0.7071752369554196
HIGH_PASS_HZ, HIGH_PASS_Q = 38.13547087602444, 0.5003270373238773
SIDE_WEIGHT = 1.41


def k_weighting(rate: float) -> Floats:
    """Two biquads ``[2, 5]`` as rows b0 b1 b2 a1 a2: the head shelf, then the RLB high-pass."""
    k = math.tan(math.pi * SHELF_HZ / rate)
    v_high = amplitude(SHELF_GAIN_DB)
    v_band = v_high**0.4996667741545416
    norm = 1.0 + k / SHELF_Q + k * k
    shelf = [
        (v_high + v_band * k / SHELF_Q + k * k) / norm,
        2.0 * (k * k - v_high) / norm,
        (v_high - v_band * k / SHELF_Q + k * k) / norm,
        2.0 * (k * k - 1.0) / norm,
        (1.0 - k / SHELF_Q + k * k) / norm,
    ]
    k = math.tan(math.pi * HIGH_PASS_HZ / rate)
    norm = 1.0 + k / HIGH_PASS_Q + k * k
    high_pass = [1.0, -2.0, 1.0, 2.0 * (k * k - 1.0) / norm, (1.0 - k / HIGH_PASS_Q + k * k) / norm]
    return np.array([shelf, high_pass])


def power_response(hz: Floats, rate: float) -> Floats:
    """The power gain of the weighting at frequencies."""
    z = np.exp(-2j * np.pi * hz / rate)
    total = np.ones(len(hz))
    for b0, b1, b2, a1, a2 in k_weighting(rate):
        total *= np.abs((b0 + b1 * z + b2 * z * z) / (1.0 + a1 * z + a2 * z * z)) ** 2
    return total


def channel_weights(channels: int) -> Floats:
    """Weights ``[channels]`` of BS.1770-5 table 4 for channels in WAVE order.

    Channels at the sides (60° to 120°) count 1.41; the LFE, fourth of six or more, not at all.
    """
    weights = np.ones(channels)
    sides = {4: (2, 3), 5: (3, 4), 6: (4, 5), 7: (5, 6), 8: (6, 7)}
    weights[list(sides.get(channels, ()))] = SIDE_WEIGHT
    if channels >= 6:
        weights[3] = 0.0
    return weights


class WeightedEnergy:
    """Adds up K-weighted energy of blocks of any size and notes the sum at every step.

    The sum is in seconds × squared amplitude, all channels weighted and added.
    """

    def __init__(self, rate: int, channels: int, steps_per_second: int) -> None:
        self._rate = rate
        self._steps_per_second = steps_per_second
        self._coefficients = k_weighting(rate)
        self._weights = channel_weights(channels)
        self._state = np.zeros((channels, 4))
        self._frames = 0
        self._open = 0.0
        self._total = 0.0
        self._marks: list[Floats] = [np.zeros(1)]

    def push(self, block: Audio) -> None:
        """Hear one more block ``[channels, frames]``."""
        check_audio(block)
        edges = self._edges(block.shape[1])
        sums = np.zeros(len(edges) + 1)
        _weigh(block, self._coefficients, self._weights, self._state, edges, sums)
        sums[0] += self._open
        closed = self._total + np.cumsum(sums[:-1]) / self._rate
        if len(closed):
            self._marks.append(closed)
            self._total = float(closed[-1])
        self._open = float(sums[-1])
        self._frames += block.shape[1]

    def totals(self) -> Floats:
        """The sum at 0, 1, 2 … steps from the start, ``[steps + 1]``."""
        if len(self._marks) > 1:
            self._marks = [np.concatenate(self._marks)]
        return self._marks[0]

    def _edges(self, frames: int) -> np.ndarray[tuple[int], np.dtype[np.int64]]:
        """Where in the coming block a step ends (frames counted from the block's start)."""
        per = self._steps_per_second
        first = self._frames * per // self._rate + 1
        last = (self._frames + frames) * per // self._rate
        steps = np.arange(first - 1, last + 2, dtype=np.int64)
        edges = -(-steps * self._rate // per) - self._frames
        return edges[(edges > 0) & (edges <= frames)]


@kernel()
def _weigh(song, c, weights, state, edges, sums):  # type: ignore[no-untyped-def]
    """Transposed direct form II, both biquads in a row; ``sums[i]`` gathers the stretch before edge i."""
    for channel in range(song.shape[0]):
        if weights[channel] == 0.0:
            continue
        s0, s1, s2, s3 = state[channel]
        place = 0
        for i in range(len(edges) + 1):
            stop = edges[i] if i < len(edges) else song.shape[1]
            energy = 0.0
            for n in range(place, stop):
                x = song[channel, n] + 1e-30
                y = c[0, 0] * x + s0
                s0 = c[0, 1] * x - c[0, 3] * y + s1
                s1 = c[0, 2] * x - c[0, 4] * y
                z = c[1, 0] * y + s2
                s2 = c[1, 1] * y - c[1, 3] * z + s3
                s3 = c[1, 2] * y - c[1, 4] * z
                energy += z * z
            sums[i] += weights[channel] * energy
            place = stop
        state[channel, 0], state[channel, 1] = s0, s1
        state[channel, 2], state[channel, 3] = s2, s3
