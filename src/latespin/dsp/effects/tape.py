"""A worn tape: hiss, wow and flutter, head bump, loss of highs, saturation, drop-outs.

Wow and flutter grow with the wear as those of a record do, from a good machine's to a failing one's (IEC 60386: cassette and reel machines have
0.05 to 0.4 %); bump and losses of the playback head after
N. Bertram, "Theory of Magnetic Recording", 1994, chapter 5: both move with the speed of the tape.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Floats, amplitude
from latespin.dsp.effects.random_sources import ShapedNoise
from latespin.dsp.effects.worn_playback import Dropouts, ReplaySettings, Wave, opened, phases, unevenness
from latespin.dsp.filters.cascade import Section, bell, high_pass, low_pass

SPEEDS_CM = {"4.8": 4.76, "9.5": 9.53, "19": 19.05, "38": 38.1}
HISS = (("shelf", 1_200.0, 9.0), ("low-pass", 9_000.0, 2.0))
SLOT_SECONDS = 0.5  # at most one drop-out begins in each
NEARLY = 0.02  # a drop-out whose chance has just come is as much less deep


@dataclass(frozen=True)
class TapeWear:
    """wear : 0 (new) to 1 (worn out). hiss, wow, flutter, bump, dropouts, drive multiply what it brings, 0 to 2. speed : cm/s."""

    wear: float
    speed: str = "9.5"
    hiss: float = 1.0
    wow: float = 1.0
    flutter: float = 1.0
    bump: float = 1.0
    dropouts: float = 1.0
    drive: float = 1.0
    seed: int = 1


def tape(rate: int, wear: TapeWear, song_level: float) -> ReplaySettings:
    """The settings of a worn tape; ``song_level`` as for vinyl."""
    w, cm = wear.wear, SPEEDS_CM[wear.speed]
    slow = np.sqrt(9.53 / cm)

    def band(amount: float) -> Sequence[Section]:
        top = min(19_000.0, 15_000.0 / slow) * 0.42 ** (w * slow)
        low, high = opened(18.0 + 0.5 * cm, max(2_500.0, top), amount)
        bump = amount * wear.bump * (1.0 + 2.0 * w)
        return [*high_pass(low, rate, 12), bell(45.0 + 1.6 * cm, bump, 0.9, rate), *low_pass(high, rate, 12)]

    gain = song_level * wear.hiss * amplitude(-50.0 + 16.0 * w) * slow
    return ReplaySettings(
        band=band, waves=tape_waves(wear), drive=(0.5 + 1.2 * w) * wear.drive, shape="tape",
        side=1.0 - 0.15 * w, noises=((ShapedNoise(rate, wear.seed * 16 + 9, HISS), gain),),
        dropouts=_dropouts(wear.seed), dropout_chance=min(0.9, 0.22 * w * wear.dropouts), dropout_db=4.0 + 6.0 * w,
    )  # fmt: skip


def tape_waves(wear: TapeWear) -> tuple[Wave, ...]:
    """How unevenly the tape runs: slower machines more so."""
    share = unevenness(wear.wear) * np.sqrt(9.53 / SPEEDS_CM[wear.speed])
    begins = phases(wear.seed, 71)
    return (
        Wave(0.6, 0.42 * share * wear.wow, begins[0]),
        Wave(1.37, 0.26 * share * wear.wow, begins[1]),
        Wave(7.1, 0.20 * share * wear.flutter, begins[2]),
        Wave(12.9, 0.12 * share * wear.flutter, begins[3]),
    )


def _dropouts(seed: int) -> Dropouts:
    """Now and then the tape lifts off for a twentieth to a sixth of a second."""

    def gains(seconds: Floats, chance: float | Floats, deepest_db: float | Floats) -> Floats:
        slots = np.floor(seconds / SLOT_SECONDS).astype(np.int64)
        total = np.zeros(len(seconds))
        for slot in range(int(slots[0]), int(slots[-1]) + 1) if len(slots) else ():
            rng = np.random.default_rng([seed, 88, slot + (1 << 20)])
            sure = np.clip((np.asarray(chance) - rng.random()) / NEARLY, 0.0, 1.0)
            if np.any(sure):
                length = rng.uniform(0.05, 0.16)
                start = slot * SLOT_SECONDS + rng.uniform(0.0, SLOT_SECONDS - length)
                x = (seconds - start) / length
                dip = np.sin(np.pi * np.clip(x, 0.0, 1.0)) ** 2
                depth = 1.5 + rng.random() * (np.asarray(deepest_db) - 1.5)
                total = np.minimum(total, -sure * depth * dip)
        return total

    return gains
