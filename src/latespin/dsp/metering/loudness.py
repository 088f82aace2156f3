"""Loudness after ITU-R BS.1770-5, EBU R 128, EBU Tech 3341 and EBU Tech 3342.

The meter keeps one number for every 10 ms: the weighted energy heard up to there. Every window of
every measure is then a difference of two of them, so that momentary and short-term loudness are
looked for at steps of 10 ms at no extra cost.
"""

import math
from dataclasses import dataclass, field

import numpy as np

from latespin.dsp.arrays import Audio, Floats

STEPS_PER_SECOND = 100
MOMENTARY_STEPS = 40  # 400 ms, BS.1770-5 Annex 1
SHORT_TERM_STEPS = 300  # 3 s, EBU Tech 3341
GATING_HOP_STEPS = 10  # 75 % overlap of 400 ms blocks
ABSOLUTE_GATE_LUFS = -70.0
RELATIVE_GATE_LU = -10.0
RANGE_RELATIVE_GATE_LU = -20.0  # EBU Tech 3342
SILENCE_LUFS = float("-inf")
LEAST_MEAN_SQUARE = 1e-16  # −160 dB: below is what filters leave in silence


@dataclass(frozen=True)
class Loudness:
    """The loudness of a whole piece. Levels are −inf where nothing passes the gate.

    integrated_lufs, max_momentary_lufs, max_short_term_lufs : LUFS; range_lu : LU, 0 if undefined.
    blocks, windows : the mean squares of all 400 ms blocks and 3 s windows behind them.
    """

    integrated_lufs: float
    max_momentary_lufs: float
    max_short_term_lufs: float
    range_lu: float
    blocks: Floats = field(repr=False, compare=False)
    windows: Floats = field(repr=False, compare=False)

    def integrated_with_gain(self, gain_db: float) -> float:
        """Integrated loudness of the same piece louder by a gain; what passes the absolute gate may change."""
        return gated_loudness(self.blocks * 10.0 ** (gain_db / 10.0))

    def with_gain(self, gain_db: float) -> "Loudness":
        """The loudness of the same piece louder by a gain; what passes the absolute gate may change."""
        power = 10.0 ** (gain_db / 10.0)
        blocks, windows = self.blocks * power, self.windows * power
        return Loudness(
            gated_loudness(blocks), self.max_momentary_lufs + gain_db, self.max_short_term_lufs + gain_db,
            loudness_range(windows), blocks, windows,
        )  # fmt: skip


class LoudnessMeter:
    """Measures sound as it goes by, in blocks of any size.

    rate : frames per second. channels : 1, 2, or more in WAVE order, weighted after BS.1770-5 table 4.
    """

    def __init__(self, rate: int, channels: int) -> None:
        from latespin.dsp.metering.k_weighting import WeightedEnergy  # its kernel; the window shows loudness without it

        self._energy = WeightedEnergy(rate, channels, STEPS_PER_SECOND)

    def push(self, block: Audio) -> None:
        """Hear one more block ``[channels, frames]``."""
        self._energy.push(block)

    def momentary_lufs(self) -> float:
        """Loudness of the last 400 ms, LUFS."""
        return self._last(MOMENTARY_STEPS)

    def short_term_lufs(self) -> float:
        """Loudness of the last 3 s, LUFS."""
        return self._last(SHORT_TERM_STEPS)

    def short_term_curve(self, every_steps: int = GATING_HOP_STEPS) -> Floats:
        """Short-term loudness, LUFS, of all full 3 s windows, one every ``every_steps`` × 10 ms."""
        return to_lufs(self._windows(SHORT_TERM_STEPS)[::every_steps])

    @property
    def steps(self) -> int:
        """How many steps of 10 ms were pushed so far."""
        return len(self._energy.totals()) - 1

    def integrated_lufs(self, since: int = 0) -> float:
        """Integrated loudness of what was pushed after the first ``since`` steps, LUFS."""
        return gated_loudness(self._windows(MOMENTARY_STEPS)[since::GATING_HOP_STEPS])

    def energies(self) -> Floats:
        """The weighted energy of every 10 ms that was pushed so far, all channels added."""
        return np.diff(self._energy.totals())

    def result(self) -> Loudness:
        """The loudness of all that was pushed so far."""
        momentary = self._windows(MOMENTARY_STEPS)
        short_term = self._windows(SHORT_TERM_STEPS)
        blocks, windows = momentary[::GATING_HOP_STEPS], short_term[::GATING_HOP_STEPS]
        return Loudness(
            integrated_lufs=gated_loudness(blocks),
            max_momentary_lufs=_peak_lufs(momentary),
            max_short_term_lufs=_peak_lufs(short_term),
            range_lu=loudness_range(windows),
            blocks=blocks,
            windows=windows,
        )

    def _windows(self, steps: int) -> Floats:
        total = self._energy.totals()
        return np.asarray(np.maximum(total[steps:] - total[:-steps], 0.0) / (steps / STEPS_PER_SECOND))

    def _last(self, steps: int) -> float:
        total = self._energy.totals()
        if len(total) < 2:
            return SILENCE_LUFS
        first = max(0, len(total) - 1 - steps)
        return float(to_lufs(np.array([total[-1] - total[first]]) / (steps / STEPS_PER_SECOND))[0])


def measure_loudness(song: Audio, rate: int) -> Loudness:
    """The loudness of a whole piece ``[channels, frames]`` at ``rate`` frames per second."""
    meter = LoudnessMeter(rate, song.shape[0])
    meter.push(song)
    return meter.result()


def loudness_of(energies: Floats) -> float:
    """Integrated loudness, LUFS, of sound whose weighted energy is known for every 10 ms."""
    total = np.concatenate(([0.0], np.cumsum(energies)))
    blocks = total[MOMENTARY_STEPS:] - total[:-MOMENTARY_STEPS]
    return gated_loudness(blocks[::GATING_HOP_STEPS] / (MOMENTARY_STEPS / STEPS_PER_SECOND))


def to_lufs(mean_square: Floats) -> Floats:
    """BS.1770-5 equation 2: −0.691 + 10·log10 of a weighted mean square; −inf for nothing."""
    with np.errstate(divide="ignore"):
        return np.asarray(-0.691 + 10.0 * np.log10(mean_square))


def gated_loudness(mean_squares: Floats) -> float:
    """Integrated loudness, LUFS, of overlapping 400 ms blocks (BS.1770-5 equations 3 to 7)."""
    loud = _gate(mean_squares, RELATIVE_GATE_LU)
    return _peak_lufs(np.array([loud.mean()])) if len(loud) else SILENCE_LUFS


def loudness_range(mean_squares: Floats) -> float:
    """Loudness range, LU, of 3 s windows: 10th to 95th percentile after gating (EBU Tech 3342)."""
    loud = _gate(mean_squares, RANGE_RELATIVE_GATE_LU)
    if len(loud) == 0:
        return 0.0
    low, high = np.percentile(to_lufs(loud), (10.0, 95.0), method="nearest")
    return float(high - low)


def _gate(mean_squares: Floats, relative_lu: float) -> Floats:
    """Keep what is above −70 LUFS, and of that what is above its own mean plus ``relative_lu``."""
    audible = mean_squares[mean_squares > _mean_square(ABSOLUTE_GATE_LUFS)]
    if len(audible) == 0:
        return audible
    return np.asarray(audible[audible > audible.mean() * 10.0 ** (relative_lu / 10.0)])


def _mean_square(lufs: float) -> float:
    return float(10.0 ** ((lufs + 0.691) / 10.0))


def _peak_lufs(mean_squares: Floats) -> float:
    if len(mean_squares) == 0 or not math.isfinite(peak := float(mean_squares.max())) or peak <= LEAST_MEAN_SQUARE:
        return SILENCE_LUFS
    return float(to_lufs(np.array([peak]))[0])
