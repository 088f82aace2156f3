"""All held moves over the finished sound: first those that read other frames of it, then effects, in the order they were pressed."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.arranging.held_slices import slice_frames, slice_start
from latespin.model.moments.held import Held, HeldEffect, HeldRepeat, HeldReverse, HeldSpinUp, HeldStop
from latespin.render.effects.context import EffectContext
from latespin.render.playing.held_sound import HeldSound
from latespin.render.playing.legs import (
    HISTORY_SECONDS,
    AlongClock,
    Course,
    Repeating,
    Reversed,
    Rising,
    Silent,
    Slowing,
    Sound,
)
from latespin.render.playing.time_hand import TimeHand


def course_of(moment: Held, frame: int, at: int, context: EffectContext) -> Course:
    """What a move reads that begins at a frame, which is frame ``at`` of After."""
    rate = context.rate
    if isinstance(moment, HeldRepeat):
        first = slice_start(moment, at, context.clock) + frame - at
        return Repeating(first, slice_frames(moment, at, context.clock), moment.material)
    if isinstance(moment, HeldReverse):
        return Reversed(frame, round(HISTORY_SECONDS * rate))
    if isinstance(moment, HeldStop):
        return Slowing(frame, max(2, round(moment.slow_seconds * rate)))
    if isinstance(moment, HeldSpinUp):
        return Rising(frame, max(2, 2 * round(0.5 * moment.rise_seconds * rate)))
    return Silent(frame)


class HandStage:
    """``press`` and ``release`` act from the next frame on; ``process`` gives the sound. Whoever shares it locks.

    sound, drums : the finished sound and its drums, by frame of the song.  song : the frame at which it begins.
    """

    def __init__(self, rate: int, sound: Sound, drums: Sound, song: int = 0) -> None:
        self._time = TimeHand(rate, sound, drums, song)
        self._effects: list[tuple[str, HeldSound]] = []

    @property
    def song(self) -> int:
        """The frame of the song that comes next."""
        return self._time.song

    @property
    def output(self) -> int:
        """How many frames it has given since it began, or was led on to another place."""
        return self._time.output

    @property
    def clock(self) -> AlongClock | None:
        """The move that moves the song's clock, if one is held."""
        return self._time.clock

    def idle(self) -> bool:
        """Whether the sound passes untouched from here on."""
        self._forget()
        return not self._effects and self._time.idle()

    def skip(self, song: int) -> None:
        """Go to another frame of the song; only where it is idle."""
        self._time.skip(song)

    def press(
        self, ident: str, moment: Held, at: int, context: EffectContext, *, began: int | None = None, gain: float = 1.0,
        bend: SpeedByTime | None = None, elapsed: int = 0,
    ) -> None:  # fmt: skip
        """Begin a move at a frame of the song. The same name pressed again begins anew.

        at : what that frame is to the clock of beats.  began : the frame it began at, if it was held before.  gain : by which the sound is louder than it is before Level.
        bend : of the song's clock, where the move moves it.  elapsed : frames of the output since it began.
        """
        frame = self.song if began is None else began
        if isinstance(moment, HeldEffect):
            self._let_go(ident)
            self._effects.append((ident, HeldSound(moment, context, self.output - (self.song - frame), at, gain)))
        elif bend is not None:
            self._time.press(ident, AlongClock(self.output - elapsed, frame, bend))
        else:
            self._time.press(ident, course_of(moment, frame, at, context))

    def bend_clock(self, ident: str, bend: SpeedByTime) -> None:
        """Give a move that moves the clock another bend, which is the same up to here."""
        self._time.bend_clock(ident, bend)

    def release(self, ident: str) -> None:
        """Let a move go; unknown names are ignored."""
        self._let_go(ident)
        self._time.release(ident)

    def process(self, frames: int) -> Audio:
        """The next ``[2, frames]``."""
        self._forget()
        first = self.output
        block = self._time.process(frames)
        for _, effect in self._effects:
            block = effect.process(block, first)
        return np.ascontiguousarray(block)

    def _let_go(self, ident: str) -> None:
        for name, effect in self._effects:
            if name == ident:
                effect.release(self.output)

    def _forget(self) -> None:
        self._effects = [(name, effect) for name, effect in self._effects if not effect.over(self.output)]
