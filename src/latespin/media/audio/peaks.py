"""Peaks for drawing waveforms cheaply."""

from dataclasses import dataclass, replace

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.memory import let_go
from latespin.model.timing.time_map import TimeMap

BIN_FRAMES = 256


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
            np.concatenate(highest or empty),
            np.sqrt(np.concatenate(power or empty)),
            self._frames,
            self._rate,
        )

    def so_far(self) -> Peaks:
        """Peaks of the whole bins pushed until now; another thread may be pushing."""
        power = list(self._power)
        highest = self._highest[: len(power)]
        empty = [np.zeros(0, np.float32)]
        found = np.concatenate(highest or empty)
        return Peaks(found, np.sqrt(np.concatenate(power or empty)), len(found) * BIN_FRAMES, self._rate)

    def _reduce(self, sound: Audio) -> None:
        bins = sound.reshape(sound.shape[0], -1, BIN_FRAMES)
        self._highest.append(np.maximum(bins.max(axis=2), -bins.min(axis=2)).max(axis=0))
        self._power.append(np.einsum("cbn,cbn->b", bins, bins) / (BIN_FRAMES * sound.shape[0]))


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
