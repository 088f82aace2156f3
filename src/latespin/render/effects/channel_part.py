"""Effects that act only on mid or side: the other part passes unchanged, as late as the effect is."""

from dataclasses import replace
from typing import Any

import numpy as np

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Audio, mid_and_side
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay
from latespin.model.effects.channels import Channels
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, Processor


class ChannelPart:
    """A processor for mid or side alone. solo : 0 to hear mid alone, 1 for side, None for both.

    inner : the processor.  context : in which it is made, whose profile is that of the part.
    """

    def __init__(self, inner: Processor, channels: Channels, context: EffectContext) -> None:
        self.inner, self.context = inner, context
        self.latency, self.warm_up_frames = inner.latency, inner.warm_up_frames
        self._delay = Delay(1, inner.latency)
        self._on_mid = channels == "mid"
        self.solo: int | None = None

    @property
    def gain_history(self) -> Any:
        """Of the processor, where it keeps one."""
        return getattr(self.inner, "gain_history", None)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame comes out as frame ``at`` of the song."""
        mid, side = mid_and_side(block)
        part, other = (mid, side) if self._on_mid else (side, mid)
        changed = self.inner.process(np.stack((part, part)), at, amount)[0]
        kept = self._delay.process(other[None])[0]
        mid, side = (changed, kept) if self._on_mid else (kept, changed)
        if self.solo is not None:
            return np.stack((mid, mid)) if self.solo == 0 else np.stack((side, -side))
        return np.stack((mid + side, mid - side))


class ByChannelFactory(EffectFactory):
    """Makes what another factory makes, for the channels an effect acts on."""

    def __init__(self, inner: EffectFactory) -> None:
        self.inner = inner

    def build(self, effect: Any, context: EffectContext) -> Processor:
        if effect.channels == "stereo":
            return self.inner.build(effect, context)
        part = in_part(effect, context)
        return ChannelPart(self.inner.build(effect, part), effect.channels, part)

    def set_target(self, processor: Any, effect: Any, context: EffectContext) -> None:
        if isinstance(processor, ChannelPart):
            self.inner.set_target(processor.inner, effect, processor.context)
        else:
            self.inner.set_target(processor, effect, context)

    def predict_profile(self, effect: Any, context: EffectContext, before: Profile, amount: float) -> Profile:
        if effect.channels == "stereo":
            return self.inner.predict_profile(effect, context, before, amount)
        part = before.only(effect.channels)
        after = self.inner.predict_profile(effect, in_part(effect, context), part, amount)
        gain = (after.mid + after.side) / np.maximum(part.mid + part.side, 1e-15)
        return before.through(gain, 1.0) if effect.channels == "mid" else before.through(1.0, gain)


def in_part(effect: Any, context: EffectContext) -> EffectContext:
    """The context of an effect, whose profile is that of the part it acts on."""
    if effect.channels == "stereo":
        return context
    return replace(context, find_profile=lambda: context.profile.only(effect.channels))
