"""Vinyl, tape and small speakers: settings and processors."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.effects.small_speaker import SpeakerSettings, small_speaker
from latespin.dsp.effects.tape import TapeWear, tape
from latespin.dsp.effects.vinyl import VinylWear, vinyl
from latespin.dsp.effects.worn_playback import ReplaySettings, WornPlayback
from latespin.dsp.filters.cascade import low_pass, response
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for
from latespin.render.effects.processors.tone import rounded_power


class WornPlaybackFactory(EffectFactory):
    """Base of vinyl, tape and small speaker."""

    def settings(self, effect: m.AnyEffect, context: EffectContext) -> ReplaySettings:
        """Settings for the kernel."""
        raise NotImplementedError

    def build(self, effect: m.AnyEffect, context: EffectContext) -> WornPlayback:
        return WornPlayback(context.rate, self.settings(effect, context))

    def set_target(self, processor: WornPlayback, effect: m.AnyEffect, context: EffectContext) -> None:
        processor.set_target(self.settings(effect, context))

    def predict_profile(self, effect: m.AnyEffect, context: EffectContext, before: Profile, amount: float) -> Profile:
        s = self.settings(effect, context)
        band = np.abs(response(s.band(amount), CENTRES, context.rate)) ** 2
        sides = np.full(len(CENTRES), (1.0 - amount * (1.0 - s.side)) ** 2)
        if s.bass_hz:
            sides = sides * (1.0 - amount * (1.0 - 1.0 / (1.0 + (s.bass_hz / CENTRES) ** 4)))
        after = before.through(band, band * sides)
        after = after.through(rounded_power(after, s.drive * amount, s.shape))
        if s.under_gain:
            low = np.abs(response(low_pass(s.under_hz, context.rate, 24), CENTRES, context.rate)) ** 2
            share = (s.under_gain * amount) ** 2
            after = after.added(before.mid * low * share, before.side * low * share)
        for source, gain in s.noises:
            power = (gain * amount) ** 2 * source.power_in(CENTRES)
            after = after.added(0.8 * power, 0.2 * power)
        return after


@processor_for(m.Vinyl)
class VinylFactory(WornPlaybackFactory):
    """See docs/effects.md, Vinyl."""

    def settings(self, effect: m.Vinyl, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return vinyl(context.rate, vinyl_wear(effect), context.profile.level)


def vinyl_wear(effect: m.Vinyl) -> VinylWear:
    """Kernel settings of a worn record."""
    return VinylWear(
            effect.wear_percent / 100.0, effect.rpm, effect.crackle_percent / 100.0, effect.pops_percent / 100.0,
            effect.scratch_percent / 100.0,
            effect.rumble_percent / 100.0, effect.wow_percent / 100.0, effect.flutter_percent / 100.0, effect.dullness_percent / 100.0,
            effect.rounding_percent / 100.0, effect.mono_below_hz, round(effect.seed),
        )  # fmt: skip


@processor_for(m.Tape)
class TapeFactory(WornPlaybackFactory):
    """See docs/effects.md, Tape."""

    def settings(self, effect: m.Tape, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return tape(context.rate, tape_wear(effect), context.profile.level)


def tape_wear(effect: m.Tape) -> TapeWear:
    """Kernel settings of a worn tape."""
    return TapeWear(
            effect.wear_percent / 100.0, effect.speed, effect.hiss_percent / 100.0, effect.wow_percent / 100.0,
            effect.flutter_percent / 100.0, effect.bump_percent / 100.0, effect.dropouts_percent / 100.0,
            effect.rounding_percent / 100.0, round(effect.seed),
        )  # fmt: skip


@processor_for(m.SmallSpeaker)
class SpeakerFactory(WornPlaybackFactory):
    """See docs/effects.md, Small speaker."""

    def settings(self, effect: m.SmallSpeaker, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return small_speaker(context.rate, speaker_settings(effect), context.profile.level)


def speaker_settings(effect: m.SmallSpeaker) -> SpeakerSettings:
    """Kernel settings of a small speaker."""
    return SpeakerSettings(
        effect.speaker, effect.treble_db, effect.ringing_percent / 100.0, effect.rounding_percent / 100.0,
        effect.noise_percent / 100.0, effect.under_db, effect.under_hz, round(effect.seed),
    )  # fmt: skip
