"""Compressor (stereo, mid and side, three bands), and a dynamic high shelf.

Detector and gain computer with a soft knee: D. Giannoulis, M. Massberg and J. D. Reiss, "Digital dynamic range compressor design: a tutorial
and analysis", JAES 60(6), 2012, equations 4 and 17 (smooth, branching, in decibels). The three bands come from filters of linear phase, so that
together they are the song, only later.
"""

from dataclasses import dataclass, replace

import numpy as np
from numba import njit

from latespin.dsp.arrays import Audio, Floats, amplitudes
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.filters.cascade import FilterCascade, high_pass
from latespin.dsp.filters.convolution import Convolver

POWER_SECONDS = 0.006
BAND_EDGES_HZ = (150.0, 2_500.0)
SPLIT_TAPS = 2047
KNEE_DB = 6.0
QUIETEST = 1e-10
STEP = 8  # frames after which a gain is worked out anew; straight lines between


@dataclass(frozen=True)
class Curve:
    """threshold_db : of power, full scale 0.  ratio : 1 and above.  most_db : the most taken away."""

    threshold_db: float
    ratio: float
    attack_seconds: float
    release_seconds: float
    most_db: float = 60.0


def reduction_db(level_db: Floats, curve: Curve) -> Floats:
    """What a steady level loses, dB ≥ 0 (Giannoulis et al., equation 4)."""
    over = level_db - curve.threshold_db
    bent = np.where(np.abs(over) <= KNEE_DB / 2, (over + KNEE_DB / 2) ** 2 / (2 * KNEE_DB), np.maximum(over, 0.0))
    return np.minimum(curve.most_db, bent * (1.0 - 1.0 / curve.ratio))


class GainFollower:
    """Gains in dB ≤ 0 from the power of a key, at every frame."""

    def __init__(self, rate: int, curve: Curve) -> None:
        self._rate = rate
        self.set_target(curve)
        self._state = np.zeros(3)  # power, gain now, gain at the last step

    def set_target(self, curve: Curve) -> None:
        """Go by another curve."""
        self._curve = np.array([curve.threshold_db, 1.0 - 1.0 / curve.ratio, curve.most_db, KNEE_DB])
        step = [1.0 - np.exp(-1.0 / (POWER_SECONDS * self._rate))]
        step += [
            1.0 - np.exp(-STEP / (max(1e-4, t) * self._rate)) for t in (curve.attack_seconds, curve.release_seconds)
        ]
        self._speeds = np.array(step)

    def gains_db(self, power: Floats, at: int) -> Floats:
        """Of frames from ``at`` on."""
        out = np.empty(len(power))
        _follow(power, at, self._curve, self._speeds, self._state, out)
        return out


@dataclass(frozen=True)
class CompressorSettings:
    """way : *stereo* (one gain), *mid-side* (one for each), *bands* (one for lows, middle and highs)."""

    curve: Curve
    way: str = "stereo"
    band_offsets_db: tuple[float, float, float] = (0.0, -4.0, -10.0)  # of the threshold, as music's bands usually lie


class Compressor:
    """A stream of stereo blocks; ``gain_history`` has the last block's gains in dB, ``[gains, frames]``."""

    latency = 0

    def set_target(self, curve: Curve) -> None:
        """Go by another threshold, ratio, attack and release."""
        for follower, by in zip(self._followers, self._offsets, strict=True):
            follower.set_target(replace(curve, threshold_db=curve.threshold_db + by))

    def __init__(self, rate: int, settings: CompressorSettings) -> None:
        self._way = settings.way
        count = {"stereo": 1, "mid-side": 2, "bands": 3}[settings.way]
        self._offsets = settings.band_offsets_db if count == 3 else (0.0,) * count
        c = settings.curve
        self._followers = [GainFollower(rate, replace(c, threshold_db=c.threshold_db + by)) for by in self._offsets]
        self._splitter = BandSplitter(rate) if count == 3 else None
        self.latency = self._splitter.latency if self._splitter else 0
        self.warm_up_frames = round((6.0 * c.release_seconds + 0.2) * rate) + 2 * self.latency
        self.gain_history = np.zeros((count, 0))

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song; the amount is a share of the gain in dB."""
        parts = self._parts(block)
        amounts = amount.at(at, block.shape[1])
        decibels = [f.gains_db(_power(part), at) for f, part in zip(self._followers, parts, strict=True)]
        self.gain_history = np.array(decibels) * amounts
        gains = amplitudes(self.gain_history).astype(np.float32)
        if self._way == "stereo":
            return np.asarray(block * gains[0])
        out = np.zeros_like(block)
        for part, gain in zip(parts, gains, strict=True):
            out += part * gain
        return out

    def _parts(self, block: Audio) -> list[Audio]:
        """What is followed by a gain each; together they are the song."""
        if self._splitter is not None:
            return self._splitter.process(block)
        if self._way == "stereo":
            return [block]
        mid, side = np.float32(0.5) * (block[0] + block[1]), np.float32(0.5) * (block[0] - block[1])
        return [np.stack((mid, mid)), np.stack((side, -side))]


class BandSplitter:
    """Lows, middle and highs by filters of linear phase, ``latency`` frames late; their sum is the song."""

    def __init__(self, rate: int) -> None:
        self._filters = [
            Convolver(np.stack((taps, taps))) for taps in (_soft_low_pass(hz, rate) for hz in BAND_EDGES_HZ)
        ]
        self.latency = self._filters[0].latency + SPLIT_TAPS // 2
        self._delay_line = Delay(2, self.latency)

    def process(self, block: Audio) -> list[Audio]:
        """The three parts of one more block."""
        late = self._delay_line.process(block)
        low, lower = (part.process(block) for part in self._filters)
        return [low, lower - low, late - lower]


def _soft_low_pass(hz: float, rate: int) -> Audio:
    """Taps of a low-pass whose edge falls over about an octave, their sum 1."""
    n = np.arange(SPLIT_TAPS) - SPLIT_TAPS // 2
    taps = np.sinc(2.0 * hz / rate * n) * np.exp(-0.5 * (n * hz / (0.9 * rate)) ** 2) * np.hanning(SPLIT_TAPS)
    return np.asarray(taps / taps.sum(), np.float32)


@dataclass(frozen=True)
class DynamicShelfSettings:
    """from_hz : where loud highs begin.  curve : with the threshold for their power."""

    from_hz: float
    curve: Curve


class DynamicShelf:
    """A high shelf that goes down only while the highs are loud; ``gain_history`` as for the compressor."""

    latency = 0

    def __init__(self, rate: int, settings: DynamicShelfSettings) -> None:
        self._rate = rate
        self._high = FilterCascade(high_pass(settings.from_hz, rate, 12))
        self._g = SmoothedValue(_tangent(settings.from_hz, rate))
        self._state = np.zeros((2, 2))
        self._follower = GainFollower(rate, settings.curve)
        self.warm_up_frames = round((6.0 * settings.curve.release_seconds + 0.1) * rate)
        self.gain_history = np.zeros((1, 0))

    def set_target(self, settings: DynamicShelfSettings) -> None:
        """Go by another curve, from another frequency on."""
        self._follower.set_target(settings.curve)
        self._high.set_target(high_pass(settings.from_hz, self._rate, 12))
        self._g.to(_tangent(settings.from_hz, self._rate))

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song; the amount is a share of the gain in dB."""
        gains = self._follower.gains_db(_power(self._high.process(block)), at) * amount.at(at, block.shape[1])
        self.gain_history = gains[None]
        out = block.copy()
        _shelve(out, gains, np.full(block.shape[1], self._g.over(block.shape[1])), self._state)
        return out


def _tangent(hz: float, rate: int) -> float:
    return float(np.tan(np.pi * min(hz, 0.49 * rate) / rate))


def _power(block: Audio) -> Floats:
    """Mean of both channels' squares."""
    return np.asarray(0.5 * (np.square(block[0], dtype=np.float64) + np.square(block[1], dtype=np.float64)))


@njit(cache=True, nogil=True)
def _shelve(block, gains_db, g, state):  # type: ignore[no-untyped-def]
    """A high shelf (see ``sections.py``) whose gain moves; no gain leaves the song alone."""
    k = np.sqrt(2.0)
    for n in range(block.shape[1]):
        a = 10.0 ** (gains_db[n] / 40.0)
        gn = g[n] * np.sqrt(a)
        a1 = 1.0 / (1.0 + gn * (gn + k))
        a2 = gn * a1
        a3 = gn * a2
        for c in range(block.shape[0]):
            v0 = block[c, n]
            v3 = v0 - state[c, 1]
            v1 = a1 * state[c, 0] + a2 * v3
            v2 = state[c, 1] + a2 * state[c, 0] + a3 * v3
            state[c, 0] = 2.0 * v1 - state[c, 0] + 1e-25
            state[c, 1] = 2.0 * v2 - state[c, 1]
            block[c, n] = a * a * v0 + k * (1.0 - a) * a * v1 + (1.0 - a * a) * v2


@njit(cache=True, nogil=True)
def _follow(power, at, curve, speeds, state, out):  # type: ignore[no-untyped-def]
    """Power is averaged; at every eighth frame the wanted gain is worked out and approached, sooner down than up."""
    mean, gain, before = state
    threshold, slope, most, knee = curve
    for n in range(len(power)):
        mean += speeds[0] * (power[n] - mean)
        place = (at + n) % STEP
        if place == 0:
            over = 10.0 * np.log10(mean + QUIETEST) - threshold
            if over <= -knee / 2:
                wanted = 0.0
            elif over < knee / 2:
                wanted = -slope * (over + knee / 2) ** 2 / (2 * knee)
            else:
                wanted = -slope * over
            wanted = max(wanted, -most)
            before = gain
            gain += (speeds[1] if wanted < gain else speeds[2]) * (wanted - gain)
        out[n] = before + (gain - before) * (place + 1) / STEP
    state[0], state[1], state[2] = mean, gain, before
