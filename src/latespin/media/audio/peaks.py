"""Peaks for drawing waveforms cheaply."""

from dataclasses import dataclass, replace

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.memory import let_go
from latespin.model.timing.time_map import TimeMap

BIN_FRAMES = 256
TOGETHER = 64  # bins


@dataclass(frozen=True, eq=False)
class Peaks:
    """For every 256 frames the highest absolute sample and the root mean square, over all channels.

    highest, rms : float32 ``[bins]``; frames : length of the sound; rate : frames per second.
    """

    highest: np.ndarray[tuple[int], np.dtype[np.float32]]
    rms: np.ndarray[tuple[int], np.dtype[np.float32]]
    frames: int
    rate: int

    def with_gain(self, ratio: float) -> "Peaks":
        """The peaks of the same sound louder by a ratio."""
        return replace(self, highest=self.highest * np.float32(ratio), rms=self.rms * np.float32(ratio))


class PeakMeter:
    """Reduces sound that goes by in blocks of any size."""

    def __init__(self, rate: int) -> None:
        self._rate = rate
        self._rest: Audio | None = None
        self._highest: list[np.ndarray] = []
        self._power: list[np.ndarray] = []
        self._frames = 0

    def push(self, block: Audio) -> None:
        """Hear one more block ``[channels, frames]``."""
        self._frames += block.shape[1]
        joined = block if self._rest is None else np.concatenate((self._rest, block), axis=1)
        whole = joined.shape[1] // BIN_FRAMES * BIN_FRAMES
        if whole:
            self._reduce(joined[:, :whole])
        self._rest = joined[:, whole:].copy()

    def result(self) -> Peaks:
        """Peaks of all frames pushed; a last, incomplete bin counts as one."""
        highest, power = list(self._highest), list(self._power)
        if self._rest is not None and self._rest.shape[1]:
            highest.append(np.array([np.abs(self._rest).max()], np.float32))
            power.append(np.array([np.mean(np.square(self._rest))], np.float32))
        empty = [np.zeros(0, np.float32)]
        return Peaks(
            np.concatenate(highest or empty), np.sqrt(np.concatenate(power or empty)), self._frames, self._rate
        )

    def since(self, blocks: int) -> tuple[list[np.ndarray], list[np.ndarray]]:
        """The highest samples and the power of whole bins, for each block from the given one on. Another thread may push meanwhile."""
        power = self._power[blocks:]
        return self._highest[blocks : blocks + len(power)], power

    def _reduce(self, sound: Audio) -> None:
        bins = sound.reshape(sound.shape[0], -1, BIN_FRAMES)
        self._highest.append(np.maximum(bins.max(axis=2), -bins.min(axis=2)).max(axis=0))
        self._power.append(np.einsum("cbn,cbn->b", bins, bins) / (BIN_FRAMES * sound.shape[0]))


class Outline:
    """The peaks of a song that is still being read, 64 bins together: few enough to be drawn ten times a second, hours of them, too."""

    def __init__(self, meter: PeakMeter) -> None:
        self._meter, self._blocks = meter, 0
        self._highest, self._power = np.zeros(0, np.float32), np.zeros(0, np.float32)
        self._rest = np.zeros((2, 0), np.float32)

    def peaks(self) -> Peaks:
        """What has been pushed until now, as ``at_a_glance``. Always to be asked from the same thread."""
        highest, power = self._meter.since(self._blocks)
        self._blocks += len(power)
        bins = np.concatenate([self._rest, *map(np.stack, zip(highest, power, strict=True))], axis=1)
        whole = bins.shape[1] // TOGETHER * TOGETHER
        parts, self._rest = bins[:, :whole].reshape(2, -1, TOGETHER), bins[:, whole:]
        self._highest = np.append(self._highest, parts[0].max(axis=1))
        self._power = np.append(self._power, parts[1].mean(axis=1))
        return at_a_glance(self._highest, np.sqrt(self._power))


def at_a_glance(highest: np.ndarray, rms: np.ndarray) -> Peaks:
    """Peaks for a picture of a whole song, whose parts may be of any length: each counts as a second."""
    return Peaks(np.asarray(highest, np.float32), np.asarray(rms, np.float32), len(highest) * BIN_FRAMES, BIN_FRAMES)


def find_peaks(sound: Audio, rate: int) -> Peaks:
    """The peaks of a whole sound ``[channels, frames]``."""
    gatherer = PeakMeter(rate)
    for start in range(0, sound.shape[1], 1 << 18):
        gatherer.push(sound[:, start : start + (1 << 18)])
        let_go(sound)
    return gatherer.result()


def expected_peaks(before: Peaks, time_map: TimeMap, gain: float, tail_frames: int = 0) -> Peaks:
    """Estimated peaks of After: Before's, moved along the time map, with a gain; the tail stays empty."""
    music = max(1, -(-time_map.after_frames // BIN_FRAMES))
    middles = (np.arange(music, dtype=np.float64) + 0.5) * BIN_FRAMES
    at = np.clip((time_map.before_of_all(middles) / BIN_FRAMES).astype(np.int64), 0, len(before.highest) - 1)
    heard = np.full(music, np.float32(gain))
    for span in time_map.spans:
        if span.silent:
            heard[span.after_start // BIN_FRAMES : -(-span.after_stop // BIN_FRAMES)] = 0.0
    tail = np.zeros(-(-tail_frames // BIN_FRAMES), np.float32)
    return Peaks(
        np.concatenate((before.highest[at] * heard, tail)),
        np.concatenate((before.rms[at] * heard, tail)),
        time_map.after_frames + tail_frames,
        before.rate,
    )
