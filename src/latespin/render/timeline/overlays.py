"""Sounds laid over After: echoes and rooms fed by a stretch of it, dropped-in files, what carries on after an ending.

Each is made once, in order, as far as it is needed, and kept; so it is the same however and from wherever it is heard.
"""

import threading
from collections.abc import Callable
from typing import Protocol

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.control.fades import fade_in
from latespin.dsp.filters.state_variable import HighPass, SweptLowPass
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import TAIL_DB, HallSettings, fall_frames
from latespin.dsp.timing.speed_by_time import ease_down
from latespin.model.arranging.arrangement import PlacedMoment, edge_frames
from latespin.model.arranging.placement import ResolvedEnding
from latespin.model.arranging.time_map_builder import LONG_EDGE_SECONDS
from latespin.model.moments.endings import RingOut
from latespin.model.moments.moments import DropIn, Throw
from latespin.render.timeline.tail_lengths import dip_hall, echo_frames, ring_out_frames, ring_out_hall, throw_hall
from latespin.render.timeline.timed_filters import amounts

PIECE = 1 << 14
ECHO_LOW_HZ, ECHO_HIGH_HZ = 140.0, 5_000.0
LOUDEST_SECONDS, STEP_SECONDS, LOUD_SECONDS, LOOK_BACK_SECONDS = 0.05, 0.01, 0.4, 3.0
MOST_LIFT_DB = 18.0
END_SECONDS = 0.03

Reads = Callable[[int, int], Audio]  # start and frames of the music


class Feed(Protocol):
    """A stretch of After that can be overlaid again."""

    def __call__(self, start: int) -> Callable[[int], Audio]:
        """A stream from a frame on: how many frames are wanted, and there they are, stereo."""
        raise NotImplementedError


class Overlay:
    """Frames ``first`` to ``first + frames`` of After have something laid over them."""

    def __init__(self, first: int, frames: int, channels: int = 2) -> None:
        self.first, self.frames = first, max(0, frames)
        self._channels = channels
        self._sound: Audio | None = None
        self._done = 0
        self._lock = threading.Lock()

    def kept_bytes(self) -> int:
        """Memory used, bytes."""
        return 0 if self._sound is None else int(self._sound.nbytes)

    def add_to(self, block: Audio, at: int) -> None:
        """Add the part within a block whose first frame is ``at``; in place."""
        low, high = max(at, self.first), min(at + block.shape[1], self.first + self.frames)
        if low < high:
            block[:, low - at : high - at] += self.read(low - self.first, high - low)

    def read(self, start: int, frames: int) -> Audio:
        """Frames of it, counted from its own first."""
        with self._lock:
            if self._sound is None:
                self._sound = np.zeros((self._channels, self.frames), np.float32)
            while self._done < min(start + frames, self.frames):
                made = self._make(self._done, min(PIECE, self.frames - self._done))
                self._sound[:, self._done : self._done + made.shape[1]] = made
                self._done += made.shape[1]
            if self._done >= self.frames:
                self._finish()
            return self._sound[:, start : start + frames]

    def _make(self, at: int, frames: int) -> Audio:
        """The next frames; called in order."""
        raise NotImplementedError

    def _finish(self) -> None:
        """The overlay is complete: free its sources."""


class ReverbOverlay(Overlay):
    """A hall fed by a stretch of After; ``gate`` says how much of each of its frames.

    tail : frames after the stretch; until it has decayed where it is 0.
    """

    def __init__(
        self, feed: Feed, first: int, gate: Floats, rate: int, settings: HallSettings, gain: float = 1.0, tail: int = 0
    ) -> None:
        super().__init__(first, len(gate) + (tail or fall_frames(rate, settings, TAIL_DB)))
        self._feed, self._gate, self._rate, self._settings, self._gain = (
            feed,
            gate.astype(np.float32),
            rate,
            settings,
            gain,
        )
        self._hall: Hall | None = None
        self._stream: Callable[[int], Audio] | None = None

    def _finish(self) -> None:
        self._hall = self._stream = None

    def _make(self, at: int, frames: int) -> Audio:
        if self._hall is None or self._stream is None:
            self._hall = Hall(self._rate, self._settings, self.first)
            self._stream = self._feed(self.first)
        block = np.zeros((2, frames), np.float32)
        fed = min(frames, len(self._gate) - at)
        if fed > 0:
            heard = self._stream(fed)
            block[:, : heard.shape[1]] = heard * self._gate[at : at + heard.shape[1]]
        return ended(self._hall.process(block) * np.float32(self._gain), at, self.frames, self._rate)


class RingOutOverlay(ReverbOverlay):
    """The room that carries on after the song; its level follows from the song it leaves. It opens as the song stops."""

    def __init__(self, feed: Feed, close: ResolvedEnding, rate: int) -> None:
        way = close.way
        assert isinstance(way, RingOut)
        settings = ring_out_hall(way)
        gate = np.ones(max(1, close.feed))
        come = len(gate) // 2
        gate[:come] = fade_in(come)
        super().__init__(feed, close.at - len(gate), gate, rate, settings, tail=ring_out_frames(way, rate))
        self._close, self._way = close, way

    def _make(self, at: int, frames: int) -> Audio:
        if at == 0:
            self._gain = self._level()
        heard = self._opening(np.arange(at, at + frames, dtype=np.float64) - len(self._gate))
        return super()._make(at, frames) * heard.astype(np.float32)

    def _opening(self, after: Floats) -> Floats:
        """The share of the room heard at frames after the stop: blended in before it, along the fade of a fixed length after it."""
        blend, edge = self._way.blend_percent / 100.0, round(LONG_EDGE_SECONDS * self._rate)
        heard = blend + (1.0 - blend) * np.sin(0.5 * np.pi * np.clip(1.0 + after / edge, 0.0, 1.0)) ** 2
        if self._way.tail == "length":
            heard = heard * ease_down(np.clip(after / (self.frames - len(self._gate)), 0.0, 1.0), self._way.tension)
        return np.asarray(heard)

    def _level(self) -> float:
        """The gain at which the loudest 50 ms of the tail are ``wet_db`` below the loudest 400 ms before the end."""
        rate, at = self._rate, self._close.at
        back = min(at, round(LOOK_BACK_SECONDS * rate))
        music = _loudest(self._feed(at - back)(back), rate, LOUD_SECONDS)
        trial = ReverbOverlay(self._feed, self.first, self._gate.astype(np.float64), rate, self._settings)
        tail = _loudest(trial.read(len(self._gate), round(0.8 * rate)), rate, LOUDEST_SECONDS)
        if tail <= 0.0:
            return 0.0
        return min(amplitude(MOST_LIFT_DB), music / tail * amplitude(min(self._way.wet_db, -0.5)))


class EchoOverlay(Overlay):
    """A stretch of After thrown into an echo: filtered repeats, each quieter than the one before."""

    def __init__(self, feed: Feed, during: PlacedMoment, rate: int) -> None:
        moment = during.moment
        assert isinstance(moment, Throw)
        length = echo_frames(moment, during.delay, rate)
        self._fed = during.stop - during.start
        super().__init__(during.start, self._fed + during.delay + length)
        self._feed, self._delay, self._feedback, self._rate = (
            feed,
            during.delay,
            np.float32(moment.feedback_percent / 100.0),
            rate,
        )
        self._wet = np.float32(amplitude(moment.wet_db))
        self._low, self._high = SweptLowPass(rate, 2), HighPass(rate, 2, ECHO_LOW_HZ)
        self._given: Audio | None = None

    def _make(self, at: int, frames: int) -> Audio:
        if self._given is None:
            self._given = self._feed(self.first)(self._fed) * gate(self._fed, self._rate) * self._wet
        assert self._sound is not None
        frames = min(frames, self._delay)
        out = np.zeros((2, frames), np.float32)
        start = at - self._delay
        if start + frames > 0:
            low = max(0, start)
            back = self._high.process(
                self._low.process(self._sound[:, low : start + frames], np.full(start + frames - low, ECHO_HIGH_HZ))
            )
            out[:, low - start :] = self._feedback * back
            given = self._given[:, low : start + frames]
            out[:, low - start : low - start + given.shape[1]] += given
        return ended(out, at, self.frames, self._rate)


class PrecomputedOverlay(Overlay):
    """An overlay that is made all at once."""

    def _make(self, at: int, frames: int) -> Audio:  # noqa: ARG002 - all of it, whatever is asked for
        return self._all()

    def _all(self) -> Audio:
        raise NotImplementedError


class DroppedIn(PrecomputedOverlay):
    """Another file's sound. ``load`` gives it at the song's rate, or None if it is missing."""

    def __init__(self, load: Callable[[str], Audio | None], during: PlacedMoment, rate: int) -> None:
        moment = during.moment
        assert isinstance(moment, DropIn)
        sound = load(moment.path)
        self._whole = sound if sound is not None else np.zeros((2, 0), np.float32)
        super().__init__(during.start, min(during.stop - during.start, self._whole.shape[1]))
        self._moment, self._rate = moment, rate

    def _all(self) -> Audio:
        moment = self._moment
        block = self._whole[:, : self.frames].copy()
        if moment.muffled:
            block = SweptLowPass(self._rate, 2).process(block, np.full(block.shape[1], moment.muffle_hz))
        come, go = (
            min(self.frames, max(1, round(ms * self._rate / 1000.0))) for ms in (moment.fade_in_ms, moment.fade_out_ms)
        )
        block[:, :come] *= fade_in(come).astype(np.float32)
        block[:, self.frames - go :] *= fade_in(go)[::-1].astype(np.float32)
        return np.asarray(block * np.float32(amplitude(moment.gain_db)))


def thrown(feed: Feed, during: PlacedMoment, rate: int) -> Overlay:
    """The sound that a throw adds."""
    moment = during.moment
    assert isinstance(moment, Throw)
    if moment.into == "echo":
        return EchoOverlay(feed, during, rate)
    opened = gate(during.stop - during.start, rate).astype(np.float64)
    return ReverbOverlay(feed, during.start, opened, rate, throw_hall(moment), amplitude(moment.wet_db))


def sent(sound: Overlay, throw: PlacedMoment, rate: int) -> Overlay:
    """What the echo or the hall of a dropped-in sound adds to it."""

    def feed(start: int) -> Callable[[int], Audio]:
        """The sound alone, with silence around it."""
        place = [start]

        def read(frames: int) -> Audio:
            block = np.zeros((2, frames), np.float32)
            sound.add_to(block, place[0])
            place[0] += frames
            return block

        return read

    return thrown(feed, throw, rate)


def own_hall(feed: Feed, during: PlacedMoment, rate: int) -> Overlay:
    """The room of a effect dip, which rings on when the dip is over."""
    gate = amounts(during, np.arange(during.start, during.stop, dtype=np.float64))
    return ReverbOverlay(feed, during.start, np.sin(gate * np.pi / 2.0), rate, dip_hall())


def led_in(frames: int, fade: int) -> Audio:
    """Open, coming in over its first frames and going over its last."""
    gains = np.ones(frames, np.float32)
    if fade:
        gains[:fade], gains[frames - fade :] = fade_in(fade), fade_in(fade)[::-1]
    return gains


def gate(frames: int, rate: int) -> Audio:
    """Open, with soft edges."""
    return led_in(frames, min(edge_frames(rate), frames // 4))


def ended(block: Audio, at: int, frames: int, rate: int) -> Audio:
    """The block with the very end of its sound brought to nothing."""
    fade = min(frames, round(END_SECONDS * rate))
    left = frames - at - np.arange(block.shape[1])
    if left[-1] <= fade:
        block = block * np.clip((left - 1) / fade, 0.0, 1.0).astype(np.float32)
    return block


def _loudest(sound: Audio, rate: int, seconds: float) -> float:
    """The highest level of any window of ``seconds``, all channels together."""
    window, step = min(round(seconds * rate), sound.shape[1]), max(1, round(STEP_SECONDS * rate))
    if window < 1:
        return 0.0
    energy = np.concatenate(([0.0], np.cumsum(np.sum(sound.astype(np.float64) ** 2, axis=0))))
    starts = np.arange(0, sound.shape[1] - window + 1, step)
    return float(np.sqrt(np.max(energy[starts + window] - energy[starts]) / window))
