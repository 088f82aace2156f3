"""Four small colours: width, wobble, crush, saturation.

* Width: mid and side weighed; or one channel a few milliseconds later (H. Haas, 1951). Mono-safe, the delayed middle is added to one channel and taken
  from the other, so that a sum of both is the song (M. R. Schroeder, "An artificial stereophonic effect", JAES 6(2), 1958).
* Wobble: the pitch swings (see ``sway.py``).  * Crush: fewer values a second, held, and fewer steps, without dither.
* Saturation: see ``oversampling.py``, with a tilt of highs before and after.
"""

from dataclasses import dataclass

import numpy as np
from numba import njit

from latespin.dsp.amounts import Amount, come_in
from latespin.dsp.late import Late
from latespin.dsp.oversampling import Shaper
from latespin.dsp.sections import Sections, high_pass, high_shelf
from latespin.dsp.sway import Sway
from latespin.dsp.types import Audio

SAFE_LOW_HZ = 220.0
SAFE_GAIN = 0.6


class Width:
    """side : 0 to 2, gain of the difference.  delay_frames : of one channel, 0 for none.  safe : so that the sum stays the song."""

    latency = 0

    def __init__(self, rate: int, side: float, delay_frames: int, *, safe: bool) -> None:
        self.side, self._delay, self._safe = side, delay_frames, safe
        self._late = Late(1, delay_frames)
        self._high = Sections(high_pass(SAFE_LOW_HZ, rate, 12), channels=1)
        self.warm_up_frames = round(0.1 * rate) + delay_frames

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song."""
        a = amount.at(at, block.shape[1]).astype(np.float32)
        half = np.float32(0.5)
        mid, side = half * (block[0] + block[1]), half * (block[0] - block[1])
        side *= np.float32(1.0) + a * np.float32(self.side - 1.0)
        if not self._delay:
            return np.stack((mid + side, mid - side))
        source = self._high.process(mid[None]) if self._safe else (mid - side)[None]
        late = self._late.process(source)[0]
        if self._safe:
            side = side + a * np.float32(SAFE_GAIN) * late
            return np.stack((mid + side, mid - side))
        right = mid - side
        return np.stack((mid + side, right + a * (late - right)))


@dataclass(frozen=True)
class WobbleSettings:
    """hz : 0.05 to 20.  cents : the largest change of pitch.  uneven : whether it drifts rather than swings."""

    hz: float
    cents: float
    uneven: bool = False


class Wobble:
    """The pitch swings by the amount's share of ``cents``."""

    def __init__(self, rate: int, settings: WobbleSettings) -> None:
        self._rate, self._settings = rate, settings
        share = 2.0 ** (settings.cents / 1200.0) - 1.0
        self._swing = share * rate / (2.0 * np.pi * settings.hz)
        self._sway = Sway(2, self._swing + 1.0)
        self.latency = self._sway.latency
        self.warm_up_frames = 2 * self.latency

    def steer(self, cents: float) -> None:
        """Swing by another change of pitch."""
        self._swing = (2.0 ** (cents / 1200.0) - 1.0) * self._rate / (2.0 * np.pi * self._settings.hz)

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        turns = 2.0 * np.pi * self._settings.hz * np.arange(at, at + block.shape[1]) / self._rate
        wave = np.sin(turns)
        if self._settings.uneven:
            wave = 0.45 * wave + 0.35 * np.sin(0.618 * turns + 1.0) / 0.618 + 0.2 * np.sin(1.414 * turns + 2.0) / 1.414
            wave = np.clip(wave, -1.0, 1.0)
        return self._sway.process(block, amount.at(at, block.shape[1]) * self._swing * wave)


class Crush:
    """bits : 2 to 16, may be broken.  hz : values a second, at most the rate."""

    latency = 0

    def __init__(self, rate: int, bits: float, hz: float) -> None:
        self._ratio = min(1.0, hz / rate)
        self._steps = 2.0 ** (bits - 1.0)
        self._held = np.zeros(2, np.float32)
        self.warm_up_frames = round(2.0 / self._ratio) + 2

    def steer(self, bits: float, hz: float, rate: int) -> None:
        """Go by other bits and another rate."""
        self._ratio, self._steps = min(1.0, hz / rate), 2.0 ** (bits - 1.0)

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song."""
        out = np.empty_like(block)
        _hold(block, at, self._ratio, self._steps, self._held, out)
        return block + amount.at(at, block.shape[1]).astype(np.float32) * (out - block)


class Saturation:
    """drive : waves near 1/drive are rounded.  shape : of ``oversampling``.  tilt_db : of highs into the curve, taken back after it."""

    def __init__(self, rate: int, drive: float, shape: str, tilt_db: float) -> None:
        self.drive = drive
        self._shaper = Shaper(2, shape)
        self.latency = self._shaper.latency
        self.warm_up_frames = round(0.05 * rate)
        self._before = Sections([high_shelf(2_000.0, tilt_db, rate)])
        self._after = Sections([high_shelf(2_000.0, -tilt_db, rate)])
        self._rate, self._tilted = rate, tilt_db != 0.0
        self._dry = Late(2, self.latency)

    def steer(self, drive: float, tilt_db: float) -> None:
        """Another drive and another tilt from the next frame on."""
        self.drive, self._tilted = drive, self._tilted or tilt_db != 0.0
        self._before.steer([high_shelf(2_000.0, tilt_db, self._rate)])
        self._after.steer([high_shelf(2_000.0, -tilt_db, self._rate)])

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song; the amount is a share of the drive."""
        dry = self._dry.process(block)
        amounts = amount.at(at, block.shape[1])
        wet = self._before.process(block) if self._tilted else block
        wet = self._shaper.process(wet, self.drive * amounts)
        if self._tilted:
            wet = self._after.process(wet)
        return come_in(dry, wet, amounts)


@njit(cache=True, nogil=True)
def _hold(block, at, ratio, steps, held, out):  # type: ignore[no-untyped-def]
    """A new value whenever ``ratio`` times the frame's number passes a whole one."""
    for n in range(block.shape[1]):
        fresh = np.floor((at + n) * ratio) != np.floor((at + n - 1) * ratio)
        for c in range(2):
            if fresh:
                held[c] = np.float32(np.round(block[c, n] * steps) / steps)
            out[c, n] = held[c]
