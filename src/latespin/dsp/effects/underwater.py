"""Heard from under water, from just beneath the surface to deep down.

A steep low-pass that moves a little (see ``sweep.py``), the pitch and the level drifting slowly, the channels closer together, all quieter with
depth; water and bubbles around it (see ``beds.py``), and a splash where the surface is crossed.

song ─ drifts ─ narrower ─ low-pass, swaying ─ quieter ─ + water ─ + splash ─►      (water and splash can be before the low-pass)
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude, amplitudes
from latespin.dsp.control.automation import Automation, crossfade_in
from latespin.dsp.control.modulated_delay import ModulatedDelay
from latespin.dsp.control.smoothing import SmoothedValue, knots, straight
from latespin.dsp.effects.ambience import bed, splash
from latespin.dsp.filters.state_variable import SweptLowPass

SURFACE_HZ, DEEP_HZ = 16_000.0, 320.0
CROSSING = 0.04  # the depth at which the surface is crossed
DRIFTS = ((0.23, 0.0), (0.37, 1.3))  # Hz and phase of the pitch's drift
SWAYS = ((0.11, 0.0), (0.19, 2.1))  # of the low-pass
KNOT = 64  # frames between which slow movements are straight lines
SWAY_OCTAVES, TREMOR_DB, DROP_DB, NARROWEST = 0.35, 1.2, 4.0, 0.25
WARM_UP_SECONDS = 1.8  # a splash may still be heard


@dataclass(frozen=True)
class UnderwaterSettings:
    """deep_hz : the low-pass at full depth.  resonance : 1 (none) to 2.  drift_cents : of the pitch at full depth.

    bed_db : level of the water below the song's loudness at full depth; None for none.  muffled : whether it goes through the low-pass.
    splash_db : of the plunge, None for none.  song_level : the song's loudness as an amplitude.  splash_muffled : whether the
    plunge goes through the low-pass.  drop_db : by how much the song is quieter at full depth, besides ``DROP_DB``.
    """

    deep_hz: float = DEEP_HZ
    resonance: float = 1.15
    drift_cents: float = 5.0
    bed_db: float | None = -24.0
    muffled: bool = False
    splash_db: float | None = None
    song_level: float = 0.1
    seed: int = 1
    splash_muffled: bool = False
    drop_db: float = 0.0


class Underwater:
    """A stream of stereo blocks, ``latency`` frames late. The amount is the depth."""

    def __init__(self, rate: int, settings: UnderwaterSettings) -> None:
        self._rate, self._settings = rate, settings
        self._drift = SmoothedValue(_strayed(settings.drift_cents))
        self._sway = ModulatedDelay(_strayed(settings.drift_cents) * sum(self._reach(hz) for hz, _ in DRIFTS) + 1.0)
        self._deep, self._water_gain = SmoothedValue(settings.deep_hz), SmoothedValue(_water_gain(settings))
        self.latency = self._sway.latency
        self.warm_up_frames = round(WARM_UP_SECONDS * rate) + self.latency
        self._low = SweptLowPass(rate, 2, settings.resonance)
        self._drop = SmoothedValue(settings.drop_db)
        self._bed = bed("water", rate, settings.seed * 16 + 5) if settings.bed_db is not None else None
        self._splash = splash(rate, settings.seed * 16 + 6) if settings.splash_db is not None else None
        self._plunges: list[int] = []
        self._above: bool | None = None

    def set_target(self, settings: UnderwaterSettings) -> None:
        """Go to another bottom, drift, resonance and level of the water."""
        self._drift.to(_strayed(settings.drift_cents))
        self._deep.to(settings.deep_hz)
        self._water_gain.to(_water_gain(settings))
        self._low.resonate(settings.resonance)
        self._drop.to(settings.drop_db)
        self._settings = settings

    def _reach(self, hz: float) -> float:
        """How far the song strays, frames, where a drift takes the whole of its speed."""
        return self._rate / (2.0 * np.pi * hz)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        s, frames = self._settings, block.shape[1]
        depth = amount.at(at, frames)
        seconds = knots(at, frames, KNOT) / self._rate
        dry = self._sway.dry(block)
        swung = np.sum([self._reach(hz) * np.sin(2.0 * np.pi * hz * seconds + phase) for hz, phase in DRIFTS], axis=0)
        strayed = self._drift.over(frames) * straight(swung, at, frames, KNOT)
        wet = self._sway.process(block, depth * strayed)
        mid, side = np.float32(0.5) * (wet[0] + wet[1]), np.float32(0.5) * (wet[0] - wet[1])
        side *= (1.0 - (1.0 - NARROWEST) * depth).astype(np.float32)
        wet = np.stack((mid + side, mid - side))
        water = self._water(at, depth)
        if water is not None and s.muffled:
            wet = wet + water
        if self._splash is not None and s.splash_muffled:
            self._plunge(wet, at, depth)
        swayed = straight(_octaves(seconds), at, frames, KNOT)
        wet = self._low.process(wet, _corners(self._deep.over(frames), depth, swayed))
        tremor = straight(0.5 * TREMOR_DB * (np.sin(2.0 * np.pi * 0.17 * seconds) - 1.0), at, frames, KNOT)
        wet *= amplitudes(depth * (tremor - DROP_DB - self._drop.over(frames))).astype(np.float32)
        out = crossfade_in(dry, wet, depth)
        if water is not None and not s.muffled:
            out += water
        if self._splash is not None and not s.splash_muffled:
            self._plunge(out, at, depth)
        return out

    def _water(self, at: int, depth: Floats) -> Audio | None:
        if self._bed is None:
            return None
        gain = self._water_gain.over(len(depth))
        return self._bed.read(at, len(depth)) * (gain * np.sqrt(depth)).astype(np.float32)

    def _plunge(self, out: Audio, at: int, depth: Floats) -> None:
        """Add a splash where the depth comes from above the surface to below it, or the other way."""
        s, sound = self._settings, self._splash
        assert sound is not None
        assert s.splash_db is not None
        above = depth < CROSSING
        before = np.concatenate(([above[0] if self._above is None else self._above], above[:-1]))
        self._above = bool(above[-1])
        self._plunges += (at + np.flatnonzero(above != before)).tolist()
        self._plunges = [start for start in self._plunges if start + sound.shape[1] > at]
        for start in self._plunges:
            low, high = max(at, start), min(at + out.shape[1], start + sound.shape[1])
            if low < high:
                out[:, low - at : high - at] += sound[:, low - start : high - start] * np.float32(
                    s.song_level * amplitude(s.splash_db)
                )


def corners(settings: UnderwaterSettings, depth: Floats, seconds: Floats) -> Floats:
    """Where the low-pass lies, Hz, at depths and times."""
    return _corners(settings.deep_hz, depth, _octaves(seconds))


def _octaves(seconds: Floats) -> Floats:
    """How far the low-pass has swayed at full depth."""
    return np.asarray(0.5 * SWAY_OCTAVES * sum(np.sin(2.0 * np.pi * hz * seconds + phase) for hz, phase in SWAYS))


def _corners(deep_hz: float | Floats, depth: Floats, octaves: Floats) -> Floats:
    return np.asarray(SURFACE_HZ * np.exp2(depth * (octaves + np.log2(np.asarray(deep_hz) / SURFACE_HZ))))


def _strayed(cents: float) -> float:
    """The share of the speed that each drift takes."""
    return float(0.5 * (2.0 ** (cents / 1200.0) - 1.0))


def _water_gain(settings: UnderwaterSettings) -> float:
    return settings.song_level * amplitude(settings.bed_db) if settings.bed_db is not None else 0.0
