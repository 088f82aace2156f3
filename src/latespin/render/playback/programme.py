"""A programme for playback: the track or a version with its level, as a stream that can start anywhere."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, Protocol

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.media.track import Track
from latespin.model.arranging.arrangement import Arrangement
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import TimeMap
from latespin.model.version import Stages
from latespin.render.chain.chain import Solo
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.context import EffectContext
from latespin.render.effects.effect_node import GainHistory
from latespin.render.mastering.level import LevelPlan, LevelProcessor
from latespin.render.playback.metronome import click_places, with_clicks

Side = Literal["before", "after"]
LIMITER_WARM_UP_SECONDS, DRAFT_LIMITER_SECONDS = 0.6, 0.15
READY_SECONDS = 0.5  # that must be stretched before a draft is replaced
DRAFT_SECONDS = 1.0  # of a room warmed up before a change is heard
DRAFT_EFFECTS = 2  # where there are more of them, less of it


class Stream(Protocol):
    """Stereo blocks in order, starting at the last ``seek``."""

    def seek(self, frame: int, *, draft: bool = False) -> None:
        """Make ``frame`` the next one; draft: sooner, and not yet exactly as in the whole render."""

    def ready(self, frame: int) -> bool:
        """Whether an exact seek, and half a second from there, would not have to wait; getting there if not."""
        raise NotImplementedError

    def read(self, frames: int) -> Audio:
        """The next ``[2, frames]``; fewer at the end, none beyond it."""
        raise NotImplementedError

    def gain_history(self, ident: str) -> GainHistory:
        """Recent gain reduction of an effect: frames, and dB of each part."""
        raise NotImplementedError

    @property
    def latency(self) -> int:
        """By how many frames its effects and its limiter read ahead."""
        raise NotImplementedError


@dataclass(frozen=True)
class PlaybackRequest:
    """One thing to be heard. Equal programmes sound the same.

    trim_db : what level matching adds on top.  loop : first and last frame on its own side, or None.
    click : the grid whose beats click, or None.  shift : where another song is heard for comparison, its frame at the song's own first one.
    solo : an effect, by its id, and which part of it is heard alone, or None.
    """

    readers: TrackRenderer
    side: Side
    stages: Stages
    plan: LevelPlan
    trim_db: float = 0.0
    loop: tuple[int, int] | None = None
    click: Grid | None = None
    shift: int = 0
    solo: Solo | None = None

    def open(self) -> Stream:
        """A fresh stream at frame 0."""
        before = self.side == "before"
        stream: Stream = BeforeStream(self.readers.track, self.trim_db) if before else AfterStream(self)
        if self.click is None:
            return stream
        track = self.readers.track
        return ClickStream(
            stream, click_places(self.click, track.rate, track.frames, None if before else self.map()), track.rate
        )

    @cached_property
    def arrangement(self) -> Arrangement:
        """Of the version."""
        return self.readers.arrangement(self.stages)

    def map(self) -> TimeMap:
        """The time map between both sides."""
        return self.arrangement.map

    def context(self) -> EffectContext:
        """In which effects of moves are built that are played over it."""
        return self.readers.context(self.stages if self.side == "after" else Stages())

    def song_frame(self, frame: int) -> int:
        """The frame without held moves that move the clock, at a frame of its side."""
        if self.side == "before":
            return frame
        return round(self.arrangement.song_frame_at(float(frame)))

    @property
    def gain(self) -> float:
        """By which what is heard is louder than the version before Level, where that does not change."""
        return amplitude(self.trim_db + (self.plan.gain_db if self.side == "after" else 0.0))

    def to_before(self, frame: float) -> float:
        """The place in Before of a frame on this programme's side, by the song's clock."""
        return frame - self.shift if self.side == "before" else self.map().clock_at(frame)

    def from_before(self, frame: float) -> float:
        """The frame on this programme's side that plays a place of Before."""
        if self.side == "before":
            return min(max(0.0, frame + self.shift), float(self.readers.track.frames))
        return self.map().after_at(frame)


class BeforeStream:
    """The track as it came."""

    latency = 0

    def __init__(self, track: Track, trim_db: float) -> None:
        self._sound, self._gain, self._position = track.sound, np.float32(amplitude(trim_db)), 0

    def seek(self, frame: int, *, draft: bool = False) -> None:  # noqa: ARG002 - always at once and exact
        """Make ``frame`` the next one."""
        self._position = frame

    def ready(self, frame: int) -> bool:  # noqa: ARG002 - always
        """There is nothing to wait for."""
        return True

    def read(self, frames: int) -> Audio:
        """The next stereo frames."""
        block = self._sound[:, self._position : self._position + frames] * self._gain
        self._position += block.shape[1]
        return as_stereo(block)

    def gain_history(self, ident: str) -> GainHistory:  # noqa: ARG002 - there are no effects
        """Nothing."""
        return ()


class AfterStream:
    """A version, levelled as its export will be."""

    def __init__(self, programme: PlaybackRequest) -> None:
        self._programme = programme
        self._chain = programme.readers.chain(programme.stages, programme.solo)
        self._gain = np.float32(amplitude(programme.trim_db))
        self._leveller = self._fresh()
        self._held = np.zeros((2, 0), np.float32)

    def seek(self, frame: int, *, draft: bool = False) -> None:
        """Make ``frame`` the next one, the effects and the limiter warmed up before it."""
        self._leveller = self._fresh()
        warm_up = DRAFT_LIMITER_SECONDS if draft else LIMITER_WARM_UP_SECONDS
        early = round(warm_up * self._chain.rate) if self._leveller.latency else 0
        start = max(0, frame - early)
        draft_seconds = DRAFT_SECONDS * min(1.0, DRAFT_EFFECTS / max(1, len(self._chain.nodes)))
        self._chain.seek(start, draft_seconds if draft else math.inf, draft=draft)
        self._held = np.zeros((2, 0), np.float32)
        if frame > start:
            self.read(frame - start)

    def ready(self, frame: int) -> bool:
        """Whether what a seek needs has been stretched."""
        early, more = (round(seconds * self._chain.rate) for seconds in (LIMITER_WARM_UP_SECONDS, READY_SECONDS))
        start = max(0, frame - early)
        return self._chain.ready(start, frame + more - start)

    def read(self, frames: int) -> Audio:
        """The next stereo frames."""
        parts, have = [self._held], self._held.shape[1]
        while have < frames and self._chain.position < self._chain.frames:
            block = self._leveller.process(self._chain.read(frames - have + self._leveller.latency))
            if self._chain.position >= self._chain.frames:
                block = np.concatenate((block, self._leveller.finish()), axis=1)
            parts.append(as_stereo(block) * self._gain)
            have += block.shape[1]
        joined = np.concatenate(parts, axis=1)
        self._held = joined[:, frames:]
        return joined[:, :frames]

    @property
    def latency(self) -> int:
        """Of the effects and the limiter."""
        return sum(node.latency for node in self._chain.nodes) + self._leveller.latency

    def gain_history(self, ident: str) -> GainHistory:
        """Recent gain reduction of an effect of the chain."""
        return next((node.history for node in self._chain.nodes if node.effect.id == ident), ())

    def _fresh(self) -> LevelProcessor:
        return LevelProcessor(self._programme.plan, self._chain.rate, self._chain.channels)


class ClickStream:
    """A stream with clicks laid over it."""

    def __init__(self, stream: Stream, places: tuple[Floats, np.ndarray], rate: int) -> None:
        self._stream, self._places, self._rate, self._position = stream, places, rate, 0

    def seek(self, frame: int, *, draft: bool = False) -> None:
        """Make ``frame`` the next one."""
        self._stream.seek(frame, draft=draft)
        self._position = frame

    def ready(self, frame: int) -> bool:
        """Like the inner stream."""
        return self._stream.ready(frame)

    def read(self, frames: int) -> Audio:
        """The next stereo frames."""
        block = self._stream.read(frames)
        start, self._position = self._position, self._position + block.shape[1]
        return with_clicks(block, start, self._places, self._rate)

    @property
    def latency(self) -> int:
        """Like the inner stream."""
        return self._stream.latency

    def gain_history(self, ident: str) -> GainHistory:
        """Like the inner stream."""
        return self._stream.gain_history(ident)


def as_stereo(block: Audio) -> Audio:
    """One channel from both loudspeakers; two as they are."""
    return np.repeat(block, 2, axis=0) if block.shape[0] == 1 else block
