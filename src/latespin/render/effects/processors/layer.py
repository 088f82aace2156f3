"""Layers: settings and processor."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Audio, Floats, amplitude, amplitudes
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.dynamics.gain_follower import Curve, GainFollower
from latespin.dsp.effects.ambience import Looped, bed
from latespin.dsp.effects.random_sources import AmbienceSource
from latespin.dsp.filters.cascade import FilterCascade, high_cut
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for

LAYER_ATTACK_SECONDS, LAYER_RELEASE_SECONDS = 0.05, 0.6
PINK = 1.0 / 31.0 * np.ones(len(CENTRES))
LONGEST_LAYER_SECONDS = 1_200.0
INAUDIBLE = 1e-6  # of full scale: −120 dB


class LayerStream:
    """A bed beneath the song."""

    latency = 0

    def __init__(
        self,
        rate: int,
        sound: AmbienceSource,
        gain: float,
        fades: tuple[int, int, int],
        high_hz: float | None,
        duck: Curve | None,
    ) -> None:
        self._gain = SmoothedValue(gain)
        self._sound, self._fades = sound, fades
        self._rate = rate
        self._muffle = FilterCascade(high_cut(high_hz, rate, 12)) if high_hz is not None else None
        self._follower = GainFollower(rate, duck) if duck is not None else None
        self.warm_up_frames = round((4.0 * LAYER_RELEASE_SECONDS if duck else 0.1) * rate)

    def set_target(self, gain: float, high_hz: float, duck: Curve) -> None:
        """Move to another gain; change low-pass and ducking."""
        self._gain.to(gain)
        if self._muffle:
            self._muffle.set_target(high_cut(high_hz, self._rate, 12))
        if self._follower:
            self._follower.set_target(duck)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        frames = block.shape[1]
        heard = self._sound.read(at, frames)
        if self._muffle:
            heard = self._muffle.process(heard)
        gains = (
            self._gain.over(frames) * amount.at(at, frames) * self._faded(np.arange(at, at + frames, dtype=np.float64))
        )
        if self._follower:
            power = 0.5 * np.sum(np.square(block, dtype=np.float64), axis=0)
            gains = gains * amplitudes(self._follower.gains_db(power, at))
        return block + heard * gains.astype(np.float32)

    def _faded(self, frames: Floats) -> Floats:
        """In at the version's start, out at its end."""
        come, go, last = self._fades
        rise = np.clip(frames / max(1, come), 0.0, 1.0)
        fall = np.clip((last - frames) / max(1, go), 0.0, 1.0)
        return np.sin(0.5 * np.pi * np.minimum(rise, fall)) ** 2


@processor_for(m.Layer)
class LayerFactory(EffectFactory):
    """See docs/effects.md, Layers."""

    def build(self, effect: m.Layer, context: EffectContext) -> LayerStream:
        rate = context.rate
        fades = round(effect.fade_in_seconds * rate), round(effect.fade_out_seconds * rate), context.frames
        moved = {lane.field for lane in effect.lanes}
        muffled = effect.muffle_hz < 19_999.0 or "muffle_hz" in moved
        return LayerStream(
            rate,
            self._sound(effect, context),
            self._gain(effect, context),
            fades,
            effect.muffle_hz if muffled else None,
            self._ducking(effect, context) if effect.duck_db > 0.0 else None,
        )

    def set_target(self, processor: LayerStream, effect: m.Layer, context: EffectContext) -> None:
        processor.set_target(self._gain(effect, context), effect.muffle_hz, self._ducking(effect, context))

    def _ducking(self, effect: m.Layer, context: EffectContext) -> Curve:
        """The ducking of the layer: full at the song's usual loudness."""
        from_db = 20.0 * float(np.log10(context.profile.level)) - 12.0
        return Curve(from_db, 4.0, LAYER_ATTACK_SECONDS, LAYER_RELEASE_SECONDS, effect.duck_db)

    def _gain(self, effect: m.Layer, context: EffectContext) -> float:
        return context.profile.level * amplitude(effect.gain_db)

    def _sound(self, effect: m.Layer, context: EffectContext) -> AmbienceSource:
        if effect.sound != "file":
            return bed(effect.sound, context.rate, round(effect.seed) * 16)
        return context.sounds.kept(
            ("layer", effect.path, effect.crossfade_seconds), lambda: self._looped(effect, context)
        )

    def _looped(self, effect: m.Layer, context: EffectContext) -> Looped:
        """A file's sound, root mean square 1, coming round."""
        sound = context.sounds.load_at_most(effect.path, LONGEST_LAYER_SECONDS)
        if sound is None or not np.any(np.abs(sound) > INAUDIBLE):
            if sound is not None:
                context.sounds.refuse_silent(effect.path)
            return Looped(np.zeros((2, 0), np.float32), 0)
        level = np.sqrt(np.mean(np.square(sound, dtype=np.float64)))
        return Looped((sound / level).astype(np.float32), round(effect.crossfade_seconds * context.rate))

    def predict_profile(self, effect: m.Layer, context: EffectContext, before: Profile, amount: float) -> Profile:
        power = (self._gain(effect, context) * amount) ** 2 * PINK * 0.8
        return before.added(0.6 * power, 0.4 * power)
