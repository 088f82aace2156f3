"""The facts of a sound: length, loudness and true peak."""

from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from latespin.dsp.arrays import Audio, Floats, decibels
from latespin.dsp.metering.loudness import STEPS_PER_SECOND, Loudness, LoudnessMeter
from latespin.dsp.metering.true_peak import TruePeakMeter
from latespin.memory import let_go

BLOCK_FRAMES = 1 << 16  # of whole sounds, that the blocks on their way stay in a processor's own memory
DUAL_MONO_LU = 10.0 * float(np.log10(2.0))


@dataclass(frozen=True)
class Facts:
    """What is known of a finished sound. Levels are −inf where they are not defined (silence).

    loudest_seconds : where the loudest 3 s begin (0 where there are none).
    """

    frames: int
    rate: int
    channels: int
    loudness: Loudness
    true_peak_dbtp: float
    loudest_seconds: float

    @property
    def seconds(self) -> float:
        """Length in seconds."""
        return self.frames / self.rate

    @property
    def heard_lufs(self) -> float:
        """Integrated loudness as two loudspeakers play it: a single channel sounds from both."""
        return self.loudness.integrated_lufs + (DUAL_MONO_LU if self.channels == 1 else 0.0)

    def with_gain(self, gain_db: float) -> "Facts":
        """The facts of the same sound louder by a gain."""
        return replace(self, loudness=self.loudness.with_gain(gain_db), true_peak_dbtp=self.true_peak_dbtp + gain_db)


class FactsMeter:
    """Finds the facts of sound that goes by in blocks of any size."""

    def __init__(self, rate: int, channels: int) -> None:
        self._rate, self._channels, self._frames = rate, channels, 0
        self._loudness = LoudnessMeter(rate, channels)
        self._peak = TruePeakMeter(rate, channels)

    def push(self, block: Audio) -> None:
        """Hear one more block ``[channels, frames]``."""
        self.push_to_loudness(block)
        self.push_to_peak([block])

    def push_to_loudness(self, block: Audio) -> None:
        """The one half of the work; the other may be done on another thread."""
        self._frames += block.shape[1]
        self._loudness.push(block)

    def push_to_peak(self, blocks: Iterable[Audio]) -> None:
        """The other half, for several blocks."""
        for block in blocks:
            self._peak.push(block)

    def energies(self) -> Floats:
        """The weighted energy of every 10 ms; see LoudnessMeter."""
        return self._loudness.energies()

    def result(self) -> Facts:
        """The facts of all that was pushed; nothing may be pushed afterwards."""
        curve = self._loudness.short_term_curve(every_steps=10)
        loudest = int(np.argmax(curve)) * 10 / STEPS_PER_SECOND if len(curve) else 0.0
        return Facts(
            self._frames, self._rate, self._channels, self._loudness.result(),
            decibels(self._peak.finish()), loudest,
        )  # fmt: skip


def facts_of(sound: Audio, rate: int) -> Facts:
    """The facts of a whole sound ``[channels, frames]``."""
    meter = FactsMeter(rate, sound.shape[0])
    blocks = [sound[:, start : start + BLOCK_FRAMES] for start in range(0, sound.shape[1], BLOCK_FRAMES)]
    with ThreadPoolExecutor(1, "facts") as pool:
        peak = pool.submit(meter.push_to_peak, blocks)
        for block in blocks:
            meter.push_to_loudness(block)
            let_go(sound)
        peak.result()
    return meter.result()
