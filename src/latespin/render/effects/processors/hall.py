"""The hall: settings and processor."""

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import TAIL_DB, WARM_UP_DB, HallSettings, fall_frames, wet_power
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for
from latespin.render.effects.processors.mixing import mixed, mixed_profile


def hall_settings(hall: m.Hall, amount: float | None = None) -> HallSettings:
    """Kernel settings of a hall, with ``amount`` instead of its own amount."""
    return HallSettings(
        decay_seconds=hall.decay_seconds,
        size=hall.size_percent / 100.0,
        pre_delay_seconds=hall.pre_delay_ms / 1000.0,
        tone_hz=hall.tone_hz,
        width=hall.width_percent / 100.0,
        amount=hall.amount_percent / 100.0 if amount is None else amount,
        lows=hall.lows_percent / 100.0,
        highs=hall.highs_percent / 100.0,
        low_cut_hz=hall.low_cut_hz,
        duck_db=hall.duck_db,
        modulation=hall.modulation_percent / 100.0,
    )


class HallStream:
    """The hall with an amount that may change; its slow movement goes by the song's frames."""

    latency = 0

    def __init__(self, rate: int, settings: HallSettings) -> None:
        self._rate, self._settings, self._steered = rate, settings, settings
        self._hall: Hall | None = None
        self.warm_up_frames = fall_frames(rate, settings, WARM_UP_DB)

    def set_target(self, settings: HallSettings) -> None:
        """Go to other settings, of no larger a size and pre-delay."""
        self._steered = settings
        if self._hall is not None:
            self._hall.set_target(settings)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        if self._hall is None:
            self._hall = Hall(self._rate, self._settings, at)
            self._hall.set_target(self._steered)
        return mixed(block, self._hall.process(block), at, amount)


@processor_for(m.Hall)
class HallFactory(EffectFactory):
    """See docs/effects.md, Hall."""

    def build(self, effect: m.Hall, context: EffectContext) -> HallStream:
        return HallStream(context.rate, hall_settings(effect, 1.0))

    def set_target(self, processor: HallStream, effect: m.Hall, context: EffectContext) -> None:  # noqa: ARG002
        processor.set_target(hall_settings(effect, 1.0))

    def predict_profile(self, effect: m.Hall, context: EffectContext, before: Profile, amount: float) -> Profile:
        wet = wet_power(hall_settings(effect, 1.0), CENTRES, context.rate)
        width = effect.width_percent / 100.0
        return mixed_profile(before, wet, amount, spread=width**2 / (1.0 + width**2))

    def tail(self, effect: m.Hall, context: EffectContext) -> int:
        return fall_frames(context.rate, hall_settings(effect, 1.0), TAIL_DB)
