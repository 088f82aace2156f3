"""Width: settings and processor."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.effects.width import SAFE_GAIN, SAFE_LOW_HZ, Width
from latespin.dsp.filters.cascade import high_pass, response
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext, lane_values
from latespin.render.effects.factory import EffectFactory, processor_for


@processor_for(m.Width)
class WidthFactory(EffectFactory):
    """See docs/effects.md, Width."""

    def build(self, effect: m.Width, context: EffectContext) -> Width:
        longest = max(lane_values(effect, "delay_ms")) * context.rate / 1000.0
        side, delay = self._values(effect, context)
        return Width(context.rate, side, delay, safe=effect.mono_safe, longest_frames=longest)

    def set_target(self, processor: Width, effect: m.Width, context: EffectContext) -> None:
        processor.set_target(*self._values(effect, context))

    def _values(self, effect: m.Width, context: EffectContext) -> tuple[float, float]:
        return effect.sides_percent / 100.0, round(effect.delay_ms * context.rate / 1000.0)

    def predict_profile(self, effect: m.Width, context: EffectContext, before: Profile, amount: float) -> Profile:
        side = (1.0 + amount * (effect.sides_percent / 100.0 - 1.0)) ** 2
        after = before.through(1.0, side)
        if effect.delay_ms > 0.0 and effect.mono_safe:
            late = np.abs(response(high_pass(SAFE_LOW_HZ, context.rate, 12), CENTRES, context.rate)) ** 2
            return after.added(0.0 * before.mid, before.mid * late * (SAFE_GAIN * amount) ** 2)
        return after

    def tail(self, effect: m.Width, context: EffectContext) -> int:
        return round(effect.delay_ms * context.rate / 1000.0)
