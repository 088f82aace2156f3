"""Compressors: one gain for the whole, or one for each part of it (mid and side, three bands)."""

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from latespin.dsp.arrays import Audio, amplitudes
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.dynamics.gain_follower import Curve, GainFollower, power_of


class Splitter(Protocol):
    """Takes blocks apart into stereo parts that add up to them, ``latency`` frames late."""

    latency: int

    def process(self, block: Audio) -> list[Audio]:
        """The parts of one more block."""
        raise NotImplementedError


@dataclass(frozen=True)
class PartSettings:
    """makeup_db : gain after the reduction.  share : how much of both is applied, 0 to 1."""

    curve: Curve
    makeup_db: float = 0.0
    share: float = 1.0


class Compressor:
    """A stream of stereo blocks, with settings for each part of its splitter; without a splitter there is one part, the whole.

    gain_history : the reduction of the last block in dB, ``[parts, frames]``.  solo : the part that is heard alone, or None.
    """

    def __init__(self, rate: int, parts: list[PartSettings], splitter: Splitter | None = None) -> None:
        self._followers = [GainFollower(rate, part.curve) for part in parts]
        self._makeup = [SmoothedValue(part.makeup_db) for part in parts]
        self._shares = [SmoothedValue(part.share) for part in parts]
        self._splitter = splitter
        self.latency = splitter.latency if splitter else 0
        memory = max(part.curve.memory_seconds for part in parts)
        self.warm_up_frames = round((memory + 0.2) * rate) + 2 * self.latency
        self.gain_history = np.zeros((len(parts), 0))
        self.solo: int | None = None

    def set_target(self, parts: list[PartSettings]) -> None:
        """Go by other settings."""
        for i, part in enumerate(parts):
            self._followers[i].set_target(part.curve)
            self._makeup[i].to(part.makeup_db)
            self._shares[i].to(part.share)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song; the amount is a share of the gain in dB."""
        frames = block.shape[1]
        parts = self._splitter.process(block) if self._splitter else [block]
        shares = amount.at(at, frames) * np.array([np.full(frames, share.over(frames)) for share in self._shares])
        reduction = np.array([f.gains_db(power_of(part), at) for f, part in zip(self._followers, parts, strict=True)])
        makeup = np.array([np.full(frames, gain.over(frames)) for gain in self._makeup])
        self.gain_history = reduction * shares
        gains = amplitudes(self.gain_history + makeup * shares).astype(np.float32)
        if self.solo is not None:
            return np.asarray(parts[self.solo] * gains[self.solo])
        out = parts[0] * gains[0]
        for part, gain in zip(parts[1:], gains[1:], strict=True):
            out += part * gain
        return np.asarray(out)
