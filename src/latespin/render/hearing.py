"""The facts and peaks of a song, found on two threads of their own while it is being decoded."""

from collections import deque
from collections.abc import Callable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from typing import Self

import numpy as np

from latespin.analysis.facts import BLOCK_FRAMES, Facts, FactsMeter, facts_of
from latespin.dsp.arrays import Audio
from latespin.media.audio.decode import ABSURD, Listener
from latespin.media.audio.peaks import Outline, PeakMeter, Peaks, find_peaks
from latespin.media.track import Track
from latespin.memory import Growing

MOST_WAITING = 6  # halves of the work on a block, that a long song does not pile up
MOST_CHANNELS = 2  # more are folded afterwards, and heard then


@dataclass(frozen=True)
class SoFar:
    """What there is of a song that is being opened: its sound, which grows, and an outline of what has been heard of it."""

    sound: Growing
    rate: int
    peaks: Peaks | None


class Hearing(Listener):
    """Give it to the decoder, then ask for the ``result``. Close it in any case (a context manager)."""

    def __init__(self) -> None:
        self._pools = [ThreadPoolExecutor(1, "hearing") for _ in range(2)]  # one for true peaks, one for the rest
        self._waiting: deque[Future[None]] = deque()
        self._facts: FactsMeter | None = None
        self._peaks: PeakMeter | None = None
        self._outline: Outline | None = None
        self._frames = 0
        self._sound: tuple[Growing, int] | None = None

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        for pool in self._pools:
            pool.shutdown(cancel_futures=True)

    def begin(self, sound: Growing, rate: int) -> None:
        """Sound that will grow."""
        self._sound = sound, rate

    def hear(self, block: Audio, rate: int) -> None:
        """One more block ``[channels, frames]`` as it was decoded; it must not change any more."""
        if block.shape[0] > MOST_CHANNELS:
            return
        if self._facts is None or self._peaks is None:
            self._facts, self._peaks = FactsMeter(rate, block.shape[0]), PeakMeter(rate)
            self._outline = Outline(self._peaks)
        self._frames += block.shape[1]
        facts, rest = self._facts, (self._facts.push_to_loudness, self._peaks.push)
        for pool, meters in zip(self._pools, ((lambda part: facts.push_to_peak([part]),), rest), strict=True):
            self._waiting.append(pool.submit(_push, block, meters))
        while len(self._waiting) > MOST_WAITING:
            self._waiting.popleft().result()

    def so_far(self) -> SoFar | None:
        """What there is, None before anything is. Always to be asked from the same thread."""
        outline = self._outline.peaks() if self._outline is not None else None
        return SoFar(*self._sound, outline) if self._sound else None

    def result(self, track: Track) -> tuple[Facts, Peaks]:
        """What was heard, if that is what the track is; otherwise (folded, or with samples that were mended) the track is heard now."""
        for future in self._waiting:
            future.result()
        if self._facts is not None and self._peaks is not None and self._frames == track.frames:
            peaks = self._peaks.result()
            if np.all(peaks.highest < ABSURD):
                return self._facts.result(), peaks
        peaks_found = self._pools[0].submit(find_peaks, track.sound, track.rate)
        return facts_of(track.sound, track.rate), peaks_found.result()


def _push(block: Audio, meters: Sequence[Callable[[Audio], None]]) -> None:
    for start in range(0, block.shape[1], BLOCK_FRAMES):
        part = np.ascontiguousarray(block[:, start : start + BLOCK_FRAMES])
        for push in meters:
            push(part)
