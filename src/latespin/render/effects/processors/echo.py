"""Echo: settings and processor."""

from collections.abc import Callable

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Floats
from latespin.dsp.effects.echo import Echo, EchoSettings, echo_tail
from latespin.model.effects import effects as m
from latespin.model.values.note_values import beats_of
from latespin.render.effects.context import EffectContext, control_of, lane_values, summed
from latespin.render.effects.factory import EffectFactory, processor_for

LONGEST_ECHO_SECONDS = 8.0
FADING_PERCENT, STILL_PERCENT = 25.0, 1.0


def _delay_of_tape(effect: m.Echo, context: EffectContext, longest: int) -> Callable[[Floats], Floats]:
    """Frames since what is under the head was recorded, on a tape whose speed moves.

    The head lies a beat's length of tape behind where the tape is recorded; how far it has run is the integral of its speed. So what was recorded at
    one speed is read at another, and its pitch is the ratio of both.
    """
    clock, beats = context.clock, beats_of(effect.value)
    percent_seconds = summed(effect, "rate_percent", context)

    def run(frames: Floats) -> Floats:
        """Tape gone by, in frames at full speed."""
        return np.asarray(percent_seconds(frames) * context.rate / 100.0)

    knots = np.arange(-float(longest), context.frames + 256.0, 128.0)
    places = run(knots)

    def delay(frames: Floats) -> Floats:
        return np.asarray(frames - np.interp(run(frames) - beats * clock.beat_frames(frames), places, knots))

    return delay


def _loudness_of_tape(percent: Floats) -> Floats:
    """A head gives the less, the slower the tape goes, and nothing of one that stands still."""
    return np.clip((percent - STILL_PERCENT) / (FADING_PERCENT - STILL_PERCENT), 0.0, 1.0)


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
        delay = _delay_of_tape(effect, context, longest) if rates.steady is None else (
            lambda frames: beats * clock.beat_frames(frames) * 100.0 / rates.at_places(frames)
        )  # fmt: skip
        slows = min(lane_values(effect, "rate_percent")) < FADING_PERCENT
        return EchoSettings(
            delay, longest, effect.feedback_percent / 100.0, effect.low_cut_hz, effect.high_cut_hz, effect.ping_pong,
            0.004 * effect.sway_percent / 100.0, (lambda frames: _loudness_of_tape(rates.at_places(frames))) if slows else None,
        )  # fmt: skip

    def _longest(self, effect: m.Echo, context: EffectContext) -> int:
        return self._delay_at(min(lane_values(effect, "rate_percent")), effect, context)

    def _delay_at(self, slowest: float, effect: m.Echo, context: EffectContext) -> int:
        """The longest delay with a tape that is never slower, frames."""
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
        last = lane_values(effect, "rate_percent")[-1]
        if last <= STILL_PERCENT:
            return 0
        return echo_tail(effect.feedback_percent / 100.0, self._delay_at(last, effect, context), context.rate)
