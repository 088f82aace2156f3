"""The gain computer and detector of the compressors.

Soft knee and smoothing in decibels: D. Giannoulis, M. Massberg and J. D. Reiss, "Digital dynamic range compressor design: a tutorial and
analysis", JAES 60(6), 2012, equations 4 and 17 (smooth, branching). Adaptive release by the crest factor: the same authors, "Parameter
automation in a dynamic range compressor", JAES 61(10), 2013, section 2.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.kernels import kernel

POWER_SECONDS = 0.006
CREST_SECONDS = 0.2
QUICKEST_SECONDS = 0.005  # an adaptive release is never shorter
QUIETEST = 1e-10
STEP = 8  # frames after which a gain is worked out anew; straight lines between


@dataclass(frozen=True)
class Curve:
    """threshold_db : power in dB, full scale 0.  ratio : 1 and above.  most_db : maximum reduction.  knee_db : width of the knee.

    adaptive : the release is as given for steady sound (crest factor √2) and shorter for peaky sound.
    """

    threshold_db: float
    ratio: float
    attack_seconds: float
    release_seconds: float
    most_db: float = 60.0
    knee_db: float = 6.0
    adaptive: bool = False

    @property
    def memory_seconds(self) -> float:
        """How long earlier sound influences the gain."""
        return 6.0 * self.release_seconds + (10.0 * CREST_SECONDS if self.adaptive else 0.0)


def reduction_db(level_db: Floats, curve: Curve) -> Floats:
    """What a steady level loses, dB ≥ 0 (Giannoulis et al. 2012, equation 4)."""
    over, knee = level_db - curve.threshold_db, max(curve.knee_db, 1e-9)
    bent = np.where(np.abs(over) <= knee / 2, (over + knee / 2) ** 2 / (2 * knee), np.maximum(over, 0.0))
    return np.minimum(curve.most_db, bent * (1.0 - 1.0 / curve.ratio))


def power_of(block: Audio) -> Floats:
    """Mean of both channels' squares ``[frames]``."""
    return np.asarray(0.5 * (np.square(block[0], dtype=np.float64) + np.square(block[1], dtype=np.float64)))


class GainFollower:
    """Gains in dB ≤ 0 from the power of a key, at every frame."""

    def __init__(self, rate: int, curve: Curve) -> None:
        self._rate = rate
        self.set_target(curve)
        self._state = np.zeros(5)  # power, gain now, gain at the last step, peak power, mean power

    def set_target(self, curve: Curve) -> None:
        """Go by another curve."""
        self._curve = np.array([curve.threshold_db, 1.0 - 1.0 / curve.ratio, curve.most_db, curve.knee_db])
        frames = [s * self._rate for s in (POWER_SECONDS, CREST_SECONDS)]
        steps = [max(1e-4, s) * self._rate / STEP for s in (curve.attack_seconds, curve.release_seconds)]
        self._speeds = 1.0 - np.exp(-1.0 / np.array([*frames, *steps]))
        self._adaptive = np.array([steps[1], QUICKEST_SECONDS * self._rate / STEP]) if curve.adaptive else np.zeros(0)

    def gains_db(self, power: Floats, at: int) -> Floats:
        """Of frames from ``at`` on."""
        out = np.empty(len(power))
        _follow(power, at, self._curve, self._speeds, self._adaptive, self._state, out)
        return out


@kernel()
def _follow(power, at, curve, speeds, adaptive, state, out):  # type: ignore[no-untyped-def]
    """Power is averaged; at every eighth frame the wanted gain is worked out and approached, sooner down than up."""
    mean, gain, before, peak, usual = state
    threshold, slope, most, knee = curve
    release = speeds[3]
    for n in range(len(power)):
        mean += speeds[0] * (power[n] - mean)
        if len(adaptive):
            usual += speeds[1] * (power[n] - usual)
            peak = max(power[n], peak + speeds[1] * (power[n] - peak))
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
            if len(adaptive):
                longest, shortest = adaptive
                steady = min(1.0, 2.0 * (usual + QUIETEST) / (peak + QUIETEST))  # 2 over the crest factor's square
                release = 1.0 - np.exp(-1.0 / max(shortest, longest * steady))
            gain += (speeds[2] if wanted < gain else release) * (wanted - gain)
        out[n] = before + (gain - before) * (place + 1) / STEP
    state[0], state[1], state[2], state[3], state[4] = mean, gain, before, peak, usual
