"""All held moves over the finished sound: first those that read other frames of it, then effects, in the order they were pressed."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.model.arranging.held_slices import slice_frames, slice_start
from latespin.model.moments.held import Held, HeldEffect, HeldRepeat, HeldReverse, HeldSpinUp, HeldStop
from latespin.render.effects.context import EffectContext
from latespin.render.playing.held_sound import HeldSound
from latespin.render.playing.legs import HISTORY_SECONDS, Course, Repeating, Reversed, Rising, Silent, Slowing, Sound
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

    sound, drums : the finished sound and its drums, by frame.
    """

    def __init__(self, rate: int, sound: Sound, drums: Sound) -> None:
        self._time = TimeHand(rate, sound, drums)
        self._effects: list[tuple[str, HeldSound]] = []

    @property
    def held(self) -> bool:
        """Whether any move is."""
        return self._time.held or any(effect.held for _, effect in self._effects)

    def idle(self, frame: int) -> bool:
        """Whether the sound passes untouched from a frame on."""
        self._forget(frame)
        return not self._effects and self._time.idle(frame)

    def press(
        self, ident: str, moment: Held, frame: int, at: int, context: EffectContext, now: int | None = None,
        gain: float = 1.0,
    ) -> None:  # fmt: skip
        """Begin a move at a frame, which is frame ``at`` of After. The same name pressed again begins anew.

        now : the frame at which it comes in, if it was held before.  gain : by which the sound is louder than it is before Level.
        """
        if isinstance(moment, HeldEffect):
            self._let_go(ident, frame)
            self._effects.append((ident, HeldSound(moment, context, frame, gain)))
        else:
            self._time.press(ident, course_of(moment, frame, at, context), frame if now is None else now)

    def release(self, ident: str, frame: int) -> None:
        """Let a move go at a frame; unknown names are ignored."""
        self._let_go(ident, frame)
        self._time.release(ident, frame)

    def process(self, first: int, frames: int, at: int) -> Audio:
        """The next ``[2, frames]`` from frame ``first`` on, which is frame ``at`` of After."""
        block = self._time.process(first, frames)
        self._forget(first)
        for _, effect in self._effects:
            block = effect.process(block, first, at)
        return np.ascontiguousarray(block)

    def _let_go(self, ident: str, frame: int) -> None:
        for name, effect in self._effects:
            if name == ident:
                effect.release(frame)

    def _forget(self, frame: int) -> None:
        self._effects = [(name, effect) for name, effect in self._effects if not effect.over(frame)]
