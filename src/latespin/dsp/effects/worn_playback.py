"""Worn playback: wow and flutter, a limited band, saturation, narrower stereo, and noise.

Record, tape and small loudspeakers are settings of it (``vinyl.py``, ``tape.py``, ``speakers.py``).

song ─ sways ─ bass to the middle, narrower ─ band, resonances ─ rounded (×4) ─ drops out ─ + noises ─►
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitudes
from latespin.dsp.control.automation import Automation, crossfade_in
from latespin.dsp.control.delay import Delay
from latespin.dsp.control.modulated_delay import ModulatedDelay
from latespin.dsp.control.smoothing import SmoothedValue, knots, straight
from latespin.dsp.effects.random_sources import NoiseSource
from latespin.dsp.effects.waveshaper import Shaper
from latespin.dsp.filters.cascade import FilterCascade, Section, high_pass, low_pass

WARM_UP_SECONDS = 0.25
LEAST_UNEVEN, MOST_UNEVEN = 0.0004, 0.02
Dropouts = Callable[[Floats, float | Floats, float | Floats], Floats]


@lru_cache(maxsize=64)
def phases(seed: int, kind: int) -> tuple[float, ...]:
    """Where waves begin, by a seed and a kind of medium."""
    return tuple(np.random.default_rng([seed, kind]).uniform(0.0, 6.0, 5).tolist())


@dataclass(frozen=True)
class Wave:
    """One component of wow or flutter: a rate in Hz, and its depth as a share of the speed."""

    hz: float
    share: float
    phase: float = 0.0


def unevenness(wear: float) -> float:
    """All depths of wow and flutter together at a wear 0 to 1, as a share of the speed: a meter shows 0.03, 0.15, 0.5, 1.5 % at 0, 0.41, 0.72, 1."""
    return float(LEAST_UNEVEN * (MOST_UNEVEN / LEAST_UNEVEN) ** wear)


@dataclass(frozen=True)
class ReplaySettings:
    """What makes a worn way of playing, at its full amount.

    waves : of the speed, their number constant.  band : its filter at an amount 0 to 1, with a constant number of sections.  drive, shape : of rounding, see ``oversampling``.
    side : gain of the difference between the channels.  bass_hz : mono below it.  noises : with their gains, their number constant.
    dropouts : gains in dB at or below 0, from seconds, their chance and the deepest of them.  under_hz, under_gain : of the low-passed song that is mixed in beneath.
    """

    band: Callable[[float], Sequence[Section]]
    waves: tuple[Wave, ...] = ()
    drive: float = 0.0
    shape: str = "soft"
    side: float = 1.0
    bass_hz: float = 0.0
    noises: tuple[tuple[NoiseSource, float], ...] = ()
    dropouts: Dropouts | None = None
    dropout_chance: float = 0.0
    dropout_db: float = 0.0
    under_hz: float = 0.0
    under_gain: float = 0.0


class WornPlayback:
    """A stream of stereo blocks, ``latency`` frames late; ``rate`` frames a second."""

    def __init__(self, rate: int, settings: ReplaySettings) -> None:
        self._rate, self._settings = rate, settings
        most = sum(w.share * rate / (2.0 * np.pi * w.hz) for w in settings.waves)
        self._sway = ModulatedDelay(most) if most else None
        self._shaper = Shaper(rate, 2, settings.shape, settings.drive) if settings.drive else None
        self._band = FilterCascade(settings.band(0.0))
        self._bass = FilterCascade(high_pass(max(20.0, settings.bass_hz), rate, 12), channels=1)
        self._swings = SmoothedValue(_swings(settings, rate))
        self._drive, self._side, self._under_gain = (
            SmoothedValue(settings.drive),
            SmoothedValue(settings.side),
            SmoothedValue(settings.under_gain),
        )
        self._chance, self._deepest = SmoothedValue(settings.dropout_chance), SmoothedValue(settings.dropout_db)
        self._gains = [SmoothedValue(gain) for _, gain in settings.noises]
        self._under = FilterCascade(low_pass(settings.under_hz, rate, 24)) if settings.under_gain else None
        parts = (self._sway, self._shaper)
        self.latency = sum(part.latency for part in parts if part)
        memory = self._shaper.memory_seconds if self._shaper else 0.0
        self.warm_up_frames = round(max(WARM_UP_SECONDS, memory) * rate) + self.latency
        self._dry = Delay(2, self.latency)

    def set_target(self, settings: ReplaySettings) -> None:
        """Move to other values of the same parts; the noises stay, their gains move."""
        for ramp, (_, gain) in zip(self._gains, settings.noises, strict=True):
            ramp.to(gain)
        self._swings.to(_swings(settings, self._rate))
        self._drive.to(settings.drive)
        self._side.to(settings.side)
        self._under_gain.to(settings.under_gain)
        self._chance.to(settings.dropout_chance)
        self._deepest.to(settings.dropout_db)
        self._bass.set_target(high_pass(max(20.0, settings.bass_hz), self._rate, 12))
        if self._under:
            self._under.set_target(low_pass(settings.under_hz, self._rate, 24))
        self._settings = replace(settings, noises=self._settings.noises)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        dry = self._dry.process(block)
        amounts = amount.at(at, block.shape[1])
        wet = self._worn(block, at, amount, amounts)
        out = crossfade_in(dry, wet, amounts)
        for (bed, _), ramp in zip(self._settings.noises, self._gains, strict=True):
            gain = ramp.over(len(amounts))
            if np.any(gain):
                out += bed.read(at, block.shape[1]) * (gain * amounts).astype(np.float32)
        return out

    def _worn(self, block: Audio, at: int, amount: Automation, amounts: Floats) -> Audio:
        s = self._settings
        wet = block
        if self._sway:
            wet = self._sway.process(wet, amounts * self._swayed(at, len(amounts)))
        under = self._under.process(wet) if self._under else None
        wet = self._narrowed(wet, amounts)
        wet = self._band.follow(wet, at, amount, s.band)
        if self._shaper:
            wet = self._shaper.process(wet, self._drive.over(len(amounts)) * amounts)
        if s.dropouts:
            seconds = np.arange(at, at + len(amounts), dtype=np.float64) / self._rate
            gains = s.dropouts(seconds, self._chance.over(len(amounts)), self._deepest.over(len(amounts)))
            wet = wet * amplitudes(gains * amounts).astype(np.float32)
        if under is not None:
            wet = wet + under * (self._under_gain.over(len(amounts)) * amounts).astype(np.float32)
        return wet

    def _narrowed(self, block: Audio, amounts: Floats) -> Audio:
        """Less of the difference between the channels, and none of it in the bass."""
        s = self._settings
        if s.side == 1.0 and not s.bass_hz:
            return block
        mid, side = np.float32(0.5) * (block[0] + block[1]), np.float32(0.5) * (block[0] - block[1])
        if s.bass_hz:
            side += amounts.astype(np.float32) * (self._bass.process(side[None])[0] - side)
        side *= (1.0 - amounts * (1.0 - self._side.over(len(amounts)))).astype(np.float32)
        return np.stack((mid + side, mid - side))

    def _swayed(self, at: int, frames: int) -> Floats:
        """How far, in frames, an uneven speed has strayed: its integral."""
        waves = self._settings.waves
        turns = np.array([w.hz for w in waves])[:, None] * (2.0 * np.pi / self._rate) * knots(at, frames, SWAY_STEP)
        swung = np.sin(turns + np.array([w.phase for w in waves])[:, None])
        parts, done = [], 0
        while done < frames:
            now, then, count = self._swings.pass_by(frames - done)
            here = swung[:, (at + done) // SWAY_STEP - at // SWAY_STEP :]
            parts.append(straight(now @ here, at + done, count, SWAY_STEP))
            if now is not then:
                parts[-1] += np.arange(count) / count * straight((then - now) @ here, at + done, count, SWAY_STEP)
            done += count
        return np.concatenate(parts) if parts else np.empty(0)


SWAY_STEP = 32  # frames between which the sway, slow as it is, is a straight line


def _swings(settings: ReplaySettings, rate: int) -> Floats:
    """How far each wave of the speed strays, frames."""
    return np.array([w.share * rate / (2.0 * np.pi * w.hz) for w in settings.waves])


def speed_at(waves: Sequence[Wave], seconds: Floats) -> Floats:
    """By what share the speed strays at times: what a picture of wow and flutter shows."""
    return np.asarray(
        np.sum([w.share * np.cos(2.0 * np.pi * w.hz * seconds + w.phase) for w in waves] or [0.0 * seconds], axis=0)
    )


def opened(low_hz: float, high_hz: float, amount: float, widest: float = 20_000.0) -> tuple[float, float]:
    """The edges of a band on its way from all that is heard (amount 0) to itself (amount 1), evenly in octaves."""
    return 16.0 * (low_hz / 16.0) ** amount, widest * (high_hz / widest) ** amount
