"""The held moves that read other frames of the finished sound, and the crossfades between them."""

from dataclasses import dataclass, field, replace

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.fades import raised_cosine
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.render.playing.legs import AlongClock, Course, Leg, Sound, Straight

FADE_SECONDS = 0.004


@dataclass
class _Voice:
    """A leg that is heard.  began : where it faded in, or None.  ended : where it began to fade out, once for every later leg."""

    leg: Leg
    began: int | None = None
    ended: list[int] = field(default_factory=list)

    def gains(self, first: int, frames: int, fade: int) -> Floats | None:
        """Its gains, or None where it is all that is heard."""
        if (self.began is None or first >= self.began + fade) and not self.ended:
            return None
        at = np.arange(first, first + frames) + 0.5
        gains = np.ones(frames)
        if self.began is not None:
            gains *= raised_cosine(np.clip((at - self.began) / fade, 0.0, 1.0))
        for end in self.ended:
            gains *= 1.0 - raised_cosine(np.clip((at - end) / fade, 0.0, 1.0))
        return gains


class TimeHand:
    """Plays the latest of the moves that are held, or the song. The result does not depend on the blocks.

    It counts frames of its output; ``song`` is the frame of the song that comes next. Both run alike, unless a move moves the song's clock.
    sound : the finished sound, by frame of the song.  drums : its drums.  song : where it begins.
    """

    def __init__(self, rate: int, sound: Sound, drums: Sound, song: int = 0) -> None:
        self._sound, self._drums = sound, drums
        self._fade = max(2, round(FADE_SECONDS * rate))
        self._held: list[tuple[str, Course]] = []
        self._at, self._offset = 0, song  # the next frame of the output, and how far the song is ahead of it
        self._voices = [_Voice(Leg(0, float(song)))]

    @property
    def clock(self) -> AlongClock | None:
        """The move that moves the song's clock, if one is held."""
        return next((course for _, course in reversed(self._held) if isinstance(course, AlongClock)), None)

    @property
    def output(self) -> int:
        """The next frame of the output."""
        return self._at

    @property
    def song(self) -> int:
        """The frame of the song that comes next."""
        clock = self.clock
        return self._at + self._offset if clock is None else int(clock.song_at(self._at) + 1e-6)

    def idle(self) -> bool:
        """Whether nothing but the song is heard from here on."""
        self._forget()
        voices = self._voices
        begun = voices[0].began is None or self._at >= voices[0].began + self._fade
        return not self._held and len(voices) == 1 and begun

    def skip(self, song: int) -> None:
        """Go to another frame of the song, where nothing but the song is heard."""
        self._at, self._offset = 0, song
        self._voices = [_Voice(Leg(0, float(song)))]

    def press(self, ident: str, course: Course) -> None:
        """Begin a move; one of that name ends."""
        self.release(ident)
        self._held.append((ident, course))
        self._turn()

    def release(self, ident: str) -> None:
        """End a move; the one held before it comes back, or the song."""
        gone = next((course for name, course in self._held if name == ident), None)
        if gone is None:
            return
        if gone is self.clock:
            self._offset = self.song - self._at
        top = self._held[-1][0]
        self._held = [held for held in self._held if held[0] != ident]
        if ident == top:
            self._turn()

    def bend_clock(self, ident: str, bend: SpeedByTime) -> None:
        """Give a move that moves the clock another bend, which is the same up to here."""
        for i, (name, course) in enumerate(self._held):
            if name == ident and isinstance(course, AlongClock):
                self._held[i] = name, replace(course, bend=bend)
                if i == len(self._held) - 1:
                    self._turn()

    def process(self, frames: int) -> Audio:
        """The next ``[2, frames]``."""
        out = np.empty((2, frames), np.float32)
        end, done = self._at + frames, 0
        while self._at < end:
            leg = self._voices[-1].leg
            if leg.stop is not None and self._at >= leg.stop:
                self._turn()
                leg = self._voices[-1].leg
            count = min(end, leg.stop if leg.stop is not None else end) - self._at
            out[:, done : done + count] = self._mixed(count)
            self._at += count
            done += count
        return out

    def _leg(self) -> Leg:
        """What is to be heard from here on."""
        course = self._held[-1][1] if self._held else Straight()
        if isinstance(course, AlongClock):
            return course.leg_at(self._at)
        song = self.song
        return course.leg_at(song).moved(self._at - song)

    def _turn(self) -> None:
        """Go over to what is to be heard from here on."""
        leg, now = self._leg(), self._voices[-1]
        if leg.continues(now.leg):
            now.leg = leg
            return
        for voice in self._voices:
            voice.ended.append(self._at)
        self._voices.append(_Voice(leg, self._at))

    def _mixed(self, frames: int) -> Audio:
        """All that is heard of a piece without a turn."""
        first = self._at
        self._forget()
        mixed: Audio | None = None
        for voice in self._voices:
            heard = self._heard(voice.leg, first, frames)
            gains = voice.gains(first, frames, self._fade)
            if gains is not None:
                heard = heard * gains.astype(np.float32)
            mixed = heard if mixed is None else mixed + heard
        assert mixed is not None
        return mixed

    def _forget(self) -> None:
        """Forget what has faded out."""
        self._voices = [v for v in self._voices if not v.ended or self._at < v.ended[0] + self._fade]

    def _heard(self, leg: Leg, first: int, frames: int) -> Audio:
        if not leg.drums:
            return leg.read(self._sound, first, frames)
        song = first + self._offset
        return self._sound(song, frames) - self._drums(song, frames) + leg.read(self._drums, first, frames)
