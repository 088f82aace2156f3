"""The echo wind-down: the last slice of the song, repeated as by a tape echo whose motor runs down."""

from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats, decibels
from latespin.dsp.filters.cascade import FilterCascade, high_cut
from latespin.dsp.stretching.varispeed import read_along
from latespin.dsp.timing.speed_by_time import SpeedByTime, audible, knots, slowing
from latespin.model.arranging.placement import ResolvedEnding
from latespin.model.moments.endings import EchoEnd
from latespin.render.timeline.overlays import Feed, Overlay, ended, gate

WOW_HZ = 0.6
HEARD_DB = -60.0  # below the first repeat, one is not heard any more
OFF_HZ = 20_000.0


class EchoEndOverlay(Overlay):
    """Repeats ever later, lower and quieter, each filtered once more, until the tape stands still."""

    def __init__(self, feed: Feed, close: ResolvedEnding, rate: int) -> None:
        way = close.way
        assert isinstance(way, EchoEnd)
        super().__init__(close.at, close.length)
        self._feed, self._close, self._way, self._rate = feed, close, way, rate
        self._train: Audio | None = None

    def _finish(self) -> None:
        self._train = None

    def _make(self, at: int, frames: int) -> Audio:
        way, length = self._way, self._close.length
        if self._train is None:
            self._train = self._repeats()
        times = np.arange(at, at + frames, dtype=np.float64)
        places, speeds = _read(way, length, times, self._rate)
        sound = read_along(self._train, places, speeds)
        fade = 10.0 ** (way.fade_db / 20.0 * times / length)
        return ended(sound * (fade * audible(speeds)).astype(np.float32), at, self.frames, self._rate)

    def _repeats(self) -> Audio:
        """All repeats one after the other, as the tape passes its head."""
        way, close = self._way, self._close
        once = self._feed(close.at - close.slice)(close.slice)
        once = once * gate(once.shape[1], self._rate)
        count = int(np.ceil(_unwound(way.tension, close.length).before_at(close.length) / max(1, close.slice))) + 2
        train = [once]
        for _ in range(count - 1):
            once = np.float32(way.feedback_percent / 100.0) * once
            if way.high_cut_hz < OFF_HZ:
                once = FilterCascade(high_cut(way.high_cut_hz, self._rate, 6)).process(once)
            train.append(once)
        return np.concatenate(train, axis=1)


@lru_cache(maxsize=16)
def _unwound(tension: float, length: int) -> SpeedByTime:
    """The motor’s speed as it runs down within ``length`` frames."""
    return SpeedByTime.through(slowing(knots(), tension), float(length))


def _read(way: EchoEnd, length: int, times: Floats, rate: int) -> tuple[Floats, Floats]:
    """Places on the tape and speeds at times, frames after the stop; wow runs through time at a rate that swings."""
    bend, share, turn = _unwound(way.tension, length), way.wow_percent / 100.0, 2.0 * np.pi * WOW_HZ / rate
    warped = times + share / turn * (1.0 - np.cos(turn * times))
    speeds = bend.speed_at(np.minimum(warped, length)) * (1.0 + share * np.sin(turn * times))
    return bend.before_at(np.minimum(warped, length)), speeds


def repeat_times(close: ResolvedEnding) -> tuple[float, ...]:
    """Frames after the stop at which the repeats begin that are heard; the first is at 0."""
    way = close.way
    assert isinstance(way, EchoEnd)
    bend, slice_ = _unwound(way.tension, close.length), max(1, close.slice)
    count = int(np.ceil(float(bend.before_at(close.length)) / slice_))
    times = bend.after_at(slice_ * np.arange(count, dtype=np.float64))
    lost = decibels(way.feedback_percent / 100.0) * np.arange(count) + way.fade_db * times / close.length
    heard = (lost > HEARD_DB) & (audible(bend.speed_at(times)) > 0.0)
    return tuple(times[heard].tolist())
