"""Effects of tone: EQ, saturation, wobble, crush."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.control.automation import Automation, crossfade_in
from latespin.dsp.effects.waveshaper import shaped
from latespin.dsp.effects.width import Crush, Saturation, Wobble, WobbleSettings
from latespin.dsp.filters.cascade import (
    FilterCascade,
    Section,
    bell,
    high_cut,
    high_shelf,
    low_cut,
    low_shelf,
    response,
)
from latespin.model.effects import effects as m
from latespin.render.effects.channel_part import ByChannelFactory
from latespin.render.effects.context import EffectContext, lane_values, summed
from latespin.render.effects.factory import EffectFactory, processor_for

OPEN_LOW_HZ, OPEN_HIGH_HZ = 10.0, 21_000.0
SOON = 0.05
LOUD_LEVEL = 0.24  # of a song whose peaks are at full scale: its crest factor is 12 dB


def rounded_power(profile: Profile, drive: float, shape: str) -> float:
    """The power gain of rounding, tried on stretches of the song."""
    return 1.0 if drive <= 1e-4 else profile.shaped(lambda wave: shaped(wave, drive, shape))


class EqStream:
    """Filters that move from neutral to their settings with the amount."""

    latency = 0

    def __init__(self, rate: int, effect: m.Eq) -> None:
        self._rate, self.effect = rate, effect
        self._cuts = cuts_of(effect)
        self._filter = FilterCascade(eq_sections(effect, 1.0, rate, self._cuts))
        self.warm_up_frames = round(0.25 * rate)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        wet = self._filter.follow(block, at, amount, lambda a: eq_sections(self.effect, a, self._rate, self._cuts))
        if amount.steady is not None and amount.steady > SOON:
            return wet
        return crossfade_in(block, wet, amount.at(at, block.shape[1]), SOON)


def cuts_of(effect: m.Eq) -> tuple[bool, bool]:
    """Whether there is a low cut and a high cut anywhere in the song."""
    moved = {lane.field for lane in effect.lanes}
    return effect.low_cut_hz > 20.0 or "low_cut_hz" in moved, effect.high_cut_hz < 20_000.0 or "high_cut_hz" in moved


def eq_sections(effect: m.Eq, amount: float, rate: int, cuts: tuple[bool, bool] | None = None) -> Sequence[Section]:
    """Cuts, shelves and bells at an amount; the number of sections is constant. cuts : which cuts are on, where they move."""
    has_low, has_high = cuts or cuts_of(effect)
    low = OPEN_LOW_HZ * (effect.low_cut_hz / OPEN_LOW_HZ) ** amount if has_low else None
    high = OPEN_HIGH_HZ * (effect.high_cut_hz / OPEN_HIGH_HZ) ** amount if has_high else None
    return [
        *(low_cut(low, rate, int(effect.low_slope)) if low else []),
        low_shelf(effect.low_shelf_hz, amount * effect.low_shelf_db, rate),
        bell(effect.bell_hz, amount * effect.bell_db, effect.bell_q, rate),
        bell(effect.bell2_hz, amount * effect.bell2_db, effect.bell2_q, rate),
        high_shelf(effect.high_shelf_hz, amount * effect.high_shelf_db, rate),
        *(high_cut(high, rate, int(effect.high_slope)) if high else []),
    ]


@processor_for(m.Eq, around=ByChannelFactory)
class EqFactory(EffectFactory):
    """See docs/effects.md, EQ."""

    def build(self, effect: m.Eq, context: EffectContext) -> EqStream:
        return EqStream(context.rate, effect)

    def set_target(self, processor: EqStream, effect: m.Eq, context: EffectContext) -> None:  # noqa: ARG002
        processor.effect = effect

    def predict_profile(self, effect: m.Eq, context: EffectContext, before: Profile, amount: float) -> Profile:
        return before.through(np.abs(response(eq_sections(effect, amount, context.rate), CENTRES, context.rate)) ** 2)


@processor_for(m.Saturation, around=ByChannelFactory)
class SaturationFactory(EffectFactory):
    """See docs/effects.md, Saturation."""

    def build(self, effect: m.Saturation, context: EffectContext) -> Saturation:
        hardest = replace(effect, drive_db=max(lane_values(effect, "drive_db")))
        drive, most_drive = saturation_drive(effect, context.profile.level), saturation_drive(hardest, LOUD_LEVEL)
        return Saturation(context.rate, drive, effect.shape, effect.tilt_db, most_drive)

    def set_target(self, processor: Saturation, effect: m.Saturation, context: EffectContext) -> None:
        processor.set_target(saturation_drive(effect, context.profile.level), effect.tilt_db)

    def predict_profile(self, effect: m.Saturation, context: EffectContext, before: Profile, amount: float) -> Profile:
        return before.through(
            rounded_power(before, saturation_drive(effect, context.profile.level) * amount, effect.shape)
        )


def saturation_drive(effect: m.Saturation, level: float) -> float:
    """The ratio that brings a song of a level (an amplitude) to ``drive_db`` above half of where the curve bends."""
    return float(0.5 * amplitude(effect.drive_db) / level)


@processor_for(m.Wobble)
class WobbleFactory(EffectFactory):
    """See docs/effects.md, Wobble."""

    def build(self, effect: m.Wobble, context: EffectContext) -> Wobble:
        turns = summed(effect, "rate_hz", context)
        settings = WobbleSettings(effect.rate_hz, effect.depth_cents, effect.uneven)
        return Wobble(context.rate, settings, turns, min(lane_values(effect, "rate_hz")))

    def set_target(self, processor: Wobble, effect: m.Wobble, context: EffectContext) -> None:  # noqa: ARG002
        processor.set_target(effect.depth_cents, effect.rate_hz)

    def predict_profile(self, effect: m.Wobble, context: EffectContext, before: Profile, amount: float) -> Profile:  # noqa: ARG002
        return before


@processor_for(m.Crush)
class CrushFactory(EffectFactory):
    """See docs/effects.md, Crush."""

    def build(self, effect: m.Crush, context: EffectContext) -> Crush:
        slowest = min(lane_values(effect, "rate_hz"))
        return Crush(context.rate, effect.bits, effect.rate_hz, summed(effect, "rate_hz", context), slowest)

    def set_target(self, processor: Crush, effect: m.Crush, context: EffectContext) -> None:  # noqa: ARG002
        processor.set_target(effect.bits)

    def predict_profile(self, effect: m.Crush, context: EffectContext, before: Profile, amount: float) -> Profile:
        held = np.sinc(CENTRES / min(effect.rate_hz, context.rate))
        gain: Floats = (1.0 - amount + amount * np.abs(held)) ** 2
        after = before.through(gain)
        noise = (amount * 2.0 ** (1.0 - effect.bits)) ** 2 / 12.0
        folded = amount**2 * float(np.sum((before.mid + before.side) * (1.0 - held**2)))
        added = (noise + folded) / 31.0 * np.ones(len(CENTRES))
        return after.added(0.7 * added, 0.3 * added)
