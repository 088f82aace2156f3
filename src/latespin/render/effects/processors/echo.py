"""Echo: settings and processor."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.effects.echo import Echo, EchoSettings, echo_tail
from latespin.model.effects import effects as m
from latespin.model.values.note_values import beats_of
from latespin.render.effects.context import EffectContext, control_of, lane_values
from latespin.render.effects.factory import EffectFactory, processor_for

LONGEST_ECHO_SECONDS = 8.0


@processor_for(m.Echo)
class EchoFactory(EffectFactory):
    """See docs/effects.md, Echo."""

    def build(self, effect: m.Echo, context: EffectContext) -> Echo:
        return Echo(context.rate, self._settings(effect, context))

    def set_target(self, processor: Echo, effect: m.Echo, context: EffectContext) -> None:
        processor.set_target(self._settings(effect, context))

    def _settings(self, effect: m.Echo, context: EffectContext) -> EchoSettings:
        beats, clock = beats_of(effect.value), context.clock
        longest, rates = self._longest(effect, context), control_of(effect, "rate_percent", clock)
        return EchoSettings(
            lambda frames: beats * clock.beat_frames(frames) * 100.0 / rates.at_places(frames), longest, effect.feedback_percent / 100.0, effect.low_cut_hz,
            effect.high_cut_hz, effect.ping_pong, 0.004 * effect.sway_percent / 100.0,
        )  # fmt: skip

    def _longest(self, effect: m.Echo, context: EffectContext) -> int:
        slowest = min(lane_values(effect, "rate_percent"))
        most = beats_of(effect.value) * context.clock.longest_beat() * 100.0 / slowest
        return max(96, min(int(np.ceil(most)) + 2, round(LONGEST_ECHO_SECONDS * context.rate)))

    def predict_profile(self, effect: m.Echo, context: EffectContext, before: Profile, amount: float) -> Profile:  # noqa: ARG002
        low = (CENTRES / effect.low_cut_hz) ** 2
        band = low / (1.0 + low) / (1.0 + (CENTRES / effect.high_cut_hz) ** 2)
        gain = amount**2 * band / (1.0 - (effect.feedback_percent / 100.0) ** 2 * band)
        if effect.ping_pong:
            power = before.mid * gain
            return before.added(0.5 * power, 0.5 * power)
        return before.through(1.0 + gain)

    def tail(self, effect: m.Echo, context: EffectContext) -> int:
        longest = self._longest(effect, context)
        return echo_tail(effect.feedback_percent / 100.0, longest, context.rate)
