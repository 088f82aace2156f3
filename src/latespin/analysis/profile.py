"""The profile of a song: third-octave power of mid and side, and the course of its level.

From it what an effect does to the loudness (ITU-R BS.1770-5) is worked out beforehand, so that switching it changes the sound and not the level.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.dynamics.gain_follower import Curve, reduction_db
from latespin.dsp.filters.band_sums import band_sums
from latespin.dsp.filters.cascade import FilterCascade, high_pass
from latespin.dsp.kernels import kernel
from latespin.dsp.metering.k_weighting import WeightedEnergy, power_response

CENTRES = 1000.0 * 2.0 ** (np.arange(-17, 14) / 3.0)  # IEC 61260, 20 Hz to 20 kHz
EDGES = 1000.0 * 2.0 ** (np.arange(-35, 28, 2) / 6.0)  # between them
HIGHS_HZ = 5_000.0
LEVEL_SECONDS = 0.025
CHUNKS, CHUNK_SECONDS, EXCERPT_SECONDS = 40, 1.5, 0.08
GATE_DB = 10.0
SILENT = 1e-12
STEPS_A_SECOND = 100


@dataclass(frozen=True, eq=False)
class Profile:
    """Of the parts that count for loudness.

    mid, side : mean squares in third octaves ``[31]``, a channel being the sum or the difference of both.
    levels, highs : how the power goes, dB every 25 ms, of all and of what is above 5 kHz.
    excerpt : short stretches of it one after the other ``[channels, frames]`` at ``rate``, to try curves on, louder by ``lift_db`` by now.
    """

    mid: Floats
    side: Floats
    levels: Floats
    highs: Floats
    excerpt: Audio
    rate: int
    lift_db: float = 0.0

    @property
    def power(self) -> float:
        """Weighted mean square of a channel."""
        return float(np.sum(_weights() * (self.mid + self.side))) + SILENT

    @property
    def level(self) -> float:
        """The loudness as the amplitude of a channel, root mean square."""
        return float(np.sqrt(self.power))

    def through(self, mid: Floats | float, side: Floats | float | None = None) -> "Profile":
        """After power gains ``[31]`` of the middle and the sides."""
        sides = mid if side is None else side
        made = replace(self, mid=self.mid * mid, side=self.side * sides)
        return made.shifted(self)

    def added(self, mid: Floats, side: Floats) -> "Profile":
        """With more power in each."""
        return replace(self, mid=self.mid + mid, side=self.side + side).shifted(self)

    def shifted(self, before: "Profile") -> "Profile":
        """Levels moved as the whole power and that of the highs has."""
        high = np.array(CENTRES >= HIGHS_HZ)
        now, then = self.mid + self.side, before.mid + before.side
        whole, highs = (
            10.0 * float(np.log10((np.sum(now[part]) + SILENT) / (np.sum(then[part]) + SILENT)))
            for part in (slice(None), high)
        )
        return replace(self, levels=before.levels + whole, highs=before.highs + highs, lift_db=before.lift_db + whole)

    def transposed(self, ratio: float) -> "Profile":
        """With all frequencies multiplied."""
        if ratio == 1.0:
            return self
        at = np.arange(len(CENTRES)) - 3.0 * np.log2(ratio)
        moved = [
            np.interp(at, np.arange(len(CENTRES)), part, left=SILENT, right=SILENT) for part in (self.mid, self.side)
        ]
        return replace(self, mid=moved[0], side=moved[1])

    def only(self, part: Literal["mid", "side"]) -> "Profile":
        """Of mid or side alone, which is a sound of one channel."""
        power, sign = (self.mid, 1.0) if part == "mid" else (self.side, -1.0)
        excerpt = np.float32(0.5) * (self.excerpt[:1] + np.float32(sign) * self.excerpt[-1:])
        alone = replace(self, mid=power, side=np.zeros(len(CENTRES)), excerpt=excerpt).shifted(self)
        return replace(alone, lift_db=self.lift_db)

    def shaped(self, curve: Callable[[Floats], Floats]) -> float:
        """The power gain, weighted for loudness, that a curve for the wave's values makes."""
        wave = self.excerpt.astype(np.float64) * amplitude(self.lift_db)
        before, after = (_weighted(part, self.rate) for part in (wave, curve(wave)))
        return (after + SILENT) / (before + SILENT)

    def reduced(self, curve: Curve, *, highs: bool = False, offset_db: float = 0.0) -> float:
        """The power gain that a compressor's curve makes of this song, its attack and release followed."""
        levels = (self.highs if highs else self.levels) + offset_db
        gains = np.empty(len(levels))
        speeds = np.array(
            [1.0 - np.exp(-LEVEL_SECONDS / max(1e-4, t)) for t in (curve.attack_seconds, curve.release_seconds)]
        )
        _trail(-reduction_db(levels, curve), speeds, gains)
        power = 10.0 ** (levels / 10.0)
        return float(np.sum(power * 10.0 ** (gains / 10.0)) / max(SILENT, np.sum(power)))


def profile_of(sound: Audio, rate: int) -> Profile:
    """The profile of a sound ``[channels, frames]``, from forty stretches of it, fewer of a short one."""
    length = min(sound.shape[1], round(CHUNK_SECONDS * rate))
    if length < 64:
        nothing, quiet = np.full(len(CENTRES), SILENT), np.full(1, -120.0)
        return Profile(nothing, nothing, quiet, quiet, np.zeros((1, 64), np.float32), rate)
    count = min(CHUNKS, max(1, 2 * sound.shape[1] // length))  # of a short sound fewer, which would only overlap more
    starts = np.unique(np.linspace(0, sound.shape[1] - length, count).astype(np.int64))
    mids, sides, levels, highs = [], [], [], []
    for start in starts.tolist():
        part = np.asarray(sound[:2, start : start + length], np.float32)
        left, right = part[0], part[-1]
        mids.append(_bands(0.5 * (left + right), rate))
        sides.append(_bands(0.5 * (left - right), rate))
        levels.append(_levels(left, right, rate))
        high = FilterCascade(high_pass(HIGHS_HZ, rate, 12), part.shape[0]).process(part)
        highs.append(_levels(high[0], high[-1], rate))
    mid, side = np.array(mids), np.array(sides)
    weighted = (mid + side) @ _weights()
    loud = weighted >= np.mean(weighted) * 10.0 ** (-GATE_DB / 10.0)
    chosen = [
        np.concatenate([row for row, counts in zip(rows, loud, strict=True) if counts]) for rows in (levels, highs)
    ]
    pieces = [
        sound[:2, s : s + round(EXCERPT_SECONDS * rate)]
        for s, counts in zip(starts.tolist(), loud, strict=True)
        if counts
    ]
    return Profile(
        mid[loud].mean(axis=0), side[loud].mean(axis=0), chosen[0], chosen[1], np.concatenate(pieces, axis=1), rate
    )


def _bands(channel: Audio, rate: int) -> Floats:
    """Mean squares in third octaves."""
    size = len(channel)
    power = np.abs(np.fft.rfft(channel)) ** 2 * 2.0 / size**2
    return np.asarray(band_sums(power, EDGES * size / rate) + SILENT / 31.0)


def _levels(left: Audio, right: Audio, rate: int) -> Floats:
    step = round(LEVEL_SECONDS * rate)
    count = max(1, len(left) // step)
    power = 0.5 * (np.square(left, dtype=np.float64) + np.square(right, dtype=np.float64))[: count * step]
    return _decibels(power.reshape(count, -1).mean(axis=1))


def _decibels(power: Floats) -> Floats:
    return np.asarray(10.0 * np.log10(power + SILENT))


@lru_cache(maxsize=1)
def _weights() -> Floats:
    """K-weighting of the bands, as power."""
    return power_response(CENTRES, 96_000.0)


def _weighted(wave: Floats, rate: int) -> float:
    """K-weighted energy."""
    energy = WeightedEnergy(rate, wave.shape[0], STEPS_A_SECOND)
    energy.push(np.ascontiguousarray(wave, np.float32))
    return float(energy.totals()[-1])


@kernel()
def _trail(wanted, speeds, out):  # type: ignore[no-untyped-def]
    gain = wanted[0]
    for n in range(len(wanted)):
        gain += (speeds[0] if wanted[n] < gain else speeds[1]) * (wanted[n] - gain)
        out[n] = gain
