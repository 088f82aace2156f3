"""An effect while it is held: switched on and off over the finished sound, or fed as a send that rings on."""

import math

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay
from latespin.dsp.control.fades import raised_cosine
from latespin.model.effects.effects import Echo
from latespin.model.moments.held import HeldEffect
from latespin.render.effects.context import AutomatedEffect, EffectContext
from latespin.render.effects.factory import factory_of
from latespin.render.effects.registry import plan


def held_tail(moment: HeldEffect, context: EffectContext) -> int:
    """Frames an effect rings on after it was let go."""
    fade = _fade_frames(moment, context.rate)
    if not moment.rings_on:
        return fade
    factory = factory_of(moment.effect)
    return fade + factory.tail(AutomatedEffect(moment.effect, context.clock).largest(), context)


def prepare(moment: HeldEffect, context: EffectContext) -> None:
    """Work out beforehand what would hold up the sound when the effect is switched on."""
    HeldSound(moment, context, 0, 0)


def _fade_frames(moment: HeldEffect, rate: int) -> int:
    return max(2, round(moment.fade_ms * rate / 1000.0))


class HeldSound:
    """A stream of stereo blocks through an effect that begins at frame ``began``. The result does not depend on the blocks.

    at : what that frame is to effects that go by beats.  level : by which the sound is louder than it is before Level, where effects belong; they get it as it was there.
    """

    def __init__(self, moment: HeldEffect, context: EffectContext, began: int, at: int, level: float = 1.0) -> None:
        self._level = np.float32(level)
        ((effect, amount, gain),) = plan((moment.effect,), context)
        self._amount, self._gain = amount, gain
        self._processor = factory_of(effect).build(effect, context)
        self._send, self._fade = moment.rings_on, _fade_frames(moment, context.rate)
        self._tail = held_tail(moment, context) + self._processor.latency
        self._dry_gain = np.float32(_dry_gain(moment, amount))
        self._dry = Delay(2, self._processor.latency)
        self._began, self._let_go, self._later = began, -1, at - began

    @property
    def held(self) -> bool:
        """Whether it has not been let go."""
        return self._let_go < 0

    def release(self, frame: int) -> None:
        """Let it go at a frame."""
        if self.held:
            self._let_go = frame

    def over(self, frame: int) -> bool:
        """Whether nothing of it is heard from a frame on."""
        return not self.held and frame >= self._let_go + self._tail

    def process(self, block: Audio, first: int) -> Audio:
        """The next block, from frame ``first`` on."""
        at = first + self._later
        gains = self._gains(first, block.shape[1]).astype(np.float32)
        if self._send:
            fed = block * (gains / self._level)
            wet = self._processor.process(fed, at, self._amount) - self._dry_gain * self._dry.process(fed)
            return np.asarray(block + self._levelled(wet, at))
        wet = self._levelled(self._processor.process(block / self._level, at, self._amount), at)
        return np.asarray(block + gains * (wet - block))

    def _levelled(self, wet: Audio, at: int) -> Audio:
        return np.asarray(wet * (self._level * self._gain.at(at, wet.shape[1])).astype(np.float32))

    def _gains(self, first: int, frames: int) -> Floats:
        """From 0 to 1 after it began, and back after it was let go."""
        at = np.arange(first, first + frames) + 0.5
        gains = raised_cosine(np.clip((at - self._began) / self._fade, 0.0, 1.0))
        if not self.held:
            gains *= 1.0 - raised_cosine(np.clip((at - self._let_go) / self._fade, 0.0, 1.0))
        return gains


def _dry_gain(moment: HeldEffect, amount: Automation) -> float:
    """How much of a send's input comes out untouched: echoes add to it, rooms mix with equal power."""
    if not moment.rings_on or isinstance(moment.effect, Echo):
        return 1.0
    return math.cos((amount.steady or 0.0) * math.pi / 2.0)
