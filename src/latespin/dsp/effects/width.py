"""Four small effects: width, wobble, crush, saturation.

* Width: mid and side weighed; or one channel a few milliseconds later (H. Haas, 1951). Mono-safe, the delayed middle is added to one channel and taken
  from the other, so that a sum of both is the song (M. R. Schroeder, "An artificial stereophonic effect", JAES 6(2), 1958).
* Wobble: the pitch swings (see ``sway.py``).  * Crush: fewer values a second, held, and fewer steps, without dither.
* Saturation: see ``oversampling.py``, with a tilt of highs before and after.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats, mid_and_side
from latespin.dsp.control.automation import Automation, crossfade_in
from latespin.dsp.control.delay import Delay, FractionalDelay
from latespin.dsp.control.modulated_delay import ModulatedDelay
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.effects.waveshaper import Shaper
from latespin.dsp.filters.cascade import FilterCascade, high_pass, high_shelf
from latespin.dsp.kernels import kernel

SAFE_LOW_HZ = 220.0
SAFE_GAIN = 0.6
WHOLE_DELAY_SECONDS = 0.0005  # a shorter delay comes in little by little, as it is moved away from nothing


class Width:
    """side : 0 to 2, gain of the difference.  delay_frames : of one channel, 0 for none.  safe : so that the sum stays the song.

    longest_frames : the longest delay it will be steered to, where that is longer.
    """

    latency = 0

    def __init__(self, rate: int, side: float, delay_frames: float, *, safe: bool, longest_frames: float = 0.0) -> None:
        longest = int(np.ceil(max(delay_frames, longest_frames)))
        self._side, self._delay, self._safe = SmoothedValue(side), SmoothedValue(delay_frames), safe
        self._delay_line = FractionalDelay(longest) if longest else None
        self._full = WHOLE_DELAY_SECONDS * rate
        self._high = FilterCascade(high_pass(SAFE_LOW_HZ, rate, 12), channels=1)
        self.warm_up_frames = round(0.1 * rate) + longest

    def set_target(self, side: float, delay_frames: float) -> None:
        """Go to another gain of the difference and another delay."""
        self._side.to(side)
        self._delay.to(delay_frames)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        a = amount.at(at, block.shape[1]).astype(np.float32)
        mid, side = mid_and_side(block)
        side *= np.float32(1.0) + a * np.asarray(self._side.over(len(a)) - 1.0, np.float32)
        if self._delay_line is None:
            return np.stack((mid + side, mid - side))
        delay = self._delay.over(len(a))
        source = self._high.process(mid[None])[0] if self._safe else mid - side
        late = self._delay_line.process(source, delay)
        a *= np.minimum(1.0, np.asarray(delay) / self._full).astype(np.float32)
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
    """The pitch swings by the amount's share of ``cents``.

    turns : how many times it has swung by frames of the song, where the rate changes.  slowest_hz : the slowest of them, where it is
    slower than that of the settings.
    """

    def __init__(
        self,
        rate: int,
        settings: WobbleSettings,
        turns: Callable[[Floats], Floats] | None = None,
        slowest_hz: float = 20.0,
    ) -> None:
        self._rate, self._uneven = rate, settings.uneven
        self._turns = turns or (lambda frames: settings.hz * frames / rate)
        self._swing = SmoothedValue(self._swung(settings.cents, settings.hz))
        self._sway = ModulatedDelay(self._swung(settings.cents, min(settings.hz, slowest_hz)) + 1.0)
        self.latency = self._sway.latency
        self.warm_up_frames = 2 * self.latency

    def _swung(self, cents: float, hz: float) -> float:
        """How far, in frames, the song strays from its place."""
        return float((2.0 ** (cents / 1200.0) - 1.0) * self._rate / (2.0 * np.pi * hz))

    def set_target(self, cents: float, hz: float) -> None:
        """Swing by another change of pitch, at a rate that the turns have too."""
        self._swing.to(self._swung(cents, hz))

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        turns = 2.0 * np.pi * self._turns(np.arange(at, at + block.shape[1], dtype=np.float64))
        wave = np.sin(turns)
        if self._uneven:
            wave = 0.45 * wave + 0.35 * np.sin(0.618 * turns + 1.0) / 0.618 + 0.2 * np.sin(1.414 * turns + 2.0) / 1.414
            wave = np.clip(wave, -1.0, 1.0)
        return self._sway.process(block, amount.at(at, block.shape[1]) * self._swing.over(len(wave)) * wave)


class Crush:
    """bits : 2 to 16, may be broken.  hz : values a second, at most the rate.

    taken : how many values have been taken by frames of the song, where that changes; ``slowest_hz`` the fewest a second.
    """

    latency = 0

    def __init__(
        self,
        rate: int,
        bits: float,
        hz: float,
        taken: Callable[[Floats], Floats] | None = None,
        slowest_hz: float = 1e6,
    ) -> None:
        ratio = min(1.0, hz / rate)
        self._taken = taken or (lambda frames: frames * ratio)
        self._steps = 2.0 ** (bits - 1.0)
        self._held = np.zeros(2, np.float32)
        self.warm_up_frames = round(2.0 * rate / min(hz, slowest_hz, rate)) + 2

    def set_target(self, bits: float) -> None:
        """Go by other bits."""
        self._steps = 2.0 ** (bits - 1.0)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        out = np.empty_like(block)
        counts = np.floor(self._taken(np.arange(at - 1, at + block.shape[1], dtype=np.float64)))
        _hold(block, np.diff(counts) != 0.0, self._steps, self._held, out)
        return block + amount.at(at, block.shape[1]).astype(np.float32) * (out - block)


class Saturation:
    """drive : waves near 1/drive are rounded.  shape : of ``waveshaper``.  tilt_db : of highs into the curve, taken back after it.

    most_drive : as of ``Shaper``.
    """

    def __init__(self, rate: int, drive: float, shape: str, tilt_db: float, most_drive: float = 0.0) -> None:
        self._drive = SmoothedValue(drive)
        self._shaper = Shaper(rate, 2, shape, most_drive)
        self.latency = self._shaper.latency
        self.warm_up_frames = round(self._shaper.memory_seconds * rate)
        self._before = FilterCascade([high_shelf(2_000.0, tilt_db, rate)])
        self._after = FilterCascade([high_shelf(2_000.0, -tilt_db, rate)])
        self._rate, self._tilted = rate, tilt_db != 0.0
        self._dry = Delay(2, self.latency)

    def set_target(self, drive: float, tilt_db: float) -> None:
        """Go to another drive and another tilt."""
        self._drive.to(drive)
        self._tilted = self._tilted or tilt_db != 0.0
        self._before.set_target([high_shelf(2_000.0, tilt_db, self._rate)])
        self._after.set_target([high_shelf(2_000.0, -tilt_db, self._rate)])

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song; the amount is a share of the drive."""
        dry = self._dry.process(block)
        amounts = amount.at(at, block.shape[1])
        wet = self._before.process(block) if self._tilted else block
        wet = self._shaper.process(wet, self._drive.over(len(amounts)) * amounts)
        if self._tilted:
            wet = self._after.process(wet)
        return crossfade_in(dry, wet, amounts)


@kernel()
def _hold(block, fresh, steps, held, out):  # type: ignore[no-untyped-def]
    """A new value, in coarse steps, at each fresh frame."""
    for n in range(block.shape[1]):
        for c in range(2):
            if fresh[n]:
                held[c] = np.float32(np.round(block[c, n] * steps) / steps)
            out[c, n] = held[c]
