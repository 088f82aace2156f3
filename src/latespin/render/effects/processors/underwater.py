"""Underwater: settings and processor."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import amplitude
from latespin.dsp.control.automation import SOON
from latespin.dsp.effects.underwater import DROP_DB, NARROWEST, TREMOR_DB, Underwater, UnderwaterSettings, corners
from latespin.dsp.filters.cascade import low_pass, response
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for


def underwater_settings(effect: m.Underwater, level: float) -> UnderwaterSettings:
    """Kernel settings for a depth under water; ``level`` of the song, an amplitude."""
    return UnderwaterSettings(
        effect.deep_hz, 1.0 + effect.resonance_percent / 100.0, effect.drift_cents, effect.bed_db if effect.bed else None,
        effect.muffled, effect.splash_db if effect.splash else None, level, round(effect.seed),
        effect.splash_muffled, effect.drop_db,
    )  # fmt: skip


@processor_for(m.Underwater)
class UnderwaterFactory(EffectFactory):
    """See docs/effects.md, Underwater."""

    def build(self, effect: m.Underwater, context: EffectContext) -> Underwater:
        return Underwater(context.rate, underwater_settings(effect, context.profile.level))

    def set_target(self, processor: Underwater, effect: m.Underwater, context: EffectContext) -> None:
        processor.set_target(underwater_settings(effect, context.profile.level))

    def predict_profile(self, effect: m.Underwater, context: EffectContext, before: Profile, amount: float) -> Profile:
        """Without the level drop, which is not to be taken back."""
        s = underwater_settings(effect, context.profile.level)
        seconds = np.linspace(0.0, 60.0, 25)
        places = corners(s, np.full(25, amount), seconds)
        low = np.mean(
            [
                np.abs(response(low_pass(min(20_000.0, hz), context.rate, 24), CENTRES, context.rate)) ** 2
                for hz in places
            ],
            axis=0,
        )
        mix = min(1.0, amount / SOON)
        gain = (1.0 - mix + mix * np.sqrt(low) * amplitude(-amount * (DROP_DB + 0.5 * TREMOR_DB))) ** 2
        after = before.through(gain, gain * (1.0 - (1.0 - NARROWEST) * amount) ** 2)
        if s.bed_db is None:
            return after
        shape = np.exp(-((np.log2(CENTRES / 220.0) / 1.6) ** 2))
        water = (s.song_level * amplitude(s.bed_db)) ** 2 * amount * shape / shape.sum()
        return after.added(0.6 * water, 0.4 * water)
