"""Gain: processor, which needs nothing of its context."""

# ruff: noqa: ARG002

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import amplitude
from latespin.dsp.effects.gain import Gain
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for


@processor_for(m.Gain)
class GainFactory(EffectFactory):
    """See docs/effects.md, Gain."""

    def build(self, effect: m.Gain, context: EffectContext) -> Gain:
        return Gain(effect.gain_db)

    def set_target(self, processor: Gain, effect: m.Gain, context: EffectContext) -> None:
        processor.set_target(effect.gain_db)

    def predict_profile(self, effect: m.Gain, context: EffectContext, before: Profile, amount: float) -> Profile:
        power = amplitude(amount * effect.gain_db) ** 2
        return before.through(power, power)
