"""Colours of wear and of places: vinyl, tape, small speaker, underwater, and layers beneath the song."""

import numpy as np

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.control.automation import SOON, Automation
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.dynamics.compressor import Curve, GainFollower
from latespin.dsp.effects.ambience import Looped, bed
from latespin.dsp.effects.random_sources import AmbienceSource
from latespin.dsp.effects.small_speaker import SpeakerSettings, small_speaker
from latespin.dsp.effects.tape import TapeWear, tape
from latespin.dsp.effects.underwater import DROP_DB, NARROWEST, TREMOR_DB, Underwater, UnderwaterSettings, corners
from latespin.dsp.effects.vinyl import VinylWear, vinyl
from latespin.dsp.effects.worn_playback import ReplaySettings, WornPlayback
from latespin.dsp.filters.cascade import FilterCascade, high_cut, low_pass, response
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext
from latespin.render.effects.tone import rounded_power

LAYER_ATTACK_SECONDS, LAYER_RELEASE_SECONDS = 0.05, 0.6
PINK = 1.0 / 31.0 * np.ones(len(CENTRES))
LONGEST_LAYER_SECONDS = 1_200.0
INAUDIBLE = 1e-6  # of full scale: −120 dB


class ReplayMaker:
    """What vinyl, tape and small speaker have in common."""

    def settings(self, effect: m.AnyEffect, context: EffectContext) -> ReplaySettings:
        """What the kernel is asked for."""
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
        added = sum((gain * amount) ** 2 for _, gain in s.noises)
        return after.added(0.8 * added * PINK, 0.2 * added * PINK)

    def tail(self, effect: m.AnyEffect, context: EffectContext) -> int:  # noqa: ARG002
        return 0


class VinylFactory(ReplayMaker):
    """See docs/colours.md, Vinyl."""

    def settings(self, effect: m.Vinyl, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return vinyl(context.rate, vinyl_wear(effect), context.profile.level)


def vinyl_wear(effect: m.Vinyl) -> VinylWear:
    """What a worn record asks of the kernel."""
    return VinylWear(
            effect.wear_percent / 100.0, effect.rpm, effect.crackle_percent / 100.0, effect.pops_percent / 100.0,
            effect.rumble_percent / 100.0, effect.wow_percent / 100.0, effect.flutter_percent / 100.0, effect.dullness_percent / 100.0,
            effect.rounding_percent / 100.0, effect.mono_below_hz, round(effect.seed),
        )  # fmt: skip


class TapeFactory(ReplayMaker):
    """See docs/colours.md, Tape."""

    def settings(self, effect: m.Tape, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return tape(context.rate, tape_wear(effect), context.profile.level)


def tape_wear(effect: m.Tape) -> TapeWear:
    """What a worn tape asks of the kernel."""
    return TapeWear(
            effect.wear_percent / 100.0, effect.speed, effect.hiss_percent / 100.0, effect.wow_percent / 100.0,
            effect.flutter_percent / 100.0, effect.bump_percent / 100.0, effect.dropouts_percent / 100.0,
            effect.rounding_percent / 100.0, round(effect.seed),
        )  # fmt: skip


class SpeakerFactory(ReplayMaker):
    """See docs/colours.md, Small speaker."""

    def settings(self, effect: m.SmallSpeaker, context: EffectContext) -> ReplaySettings:  # type: ignore[override]
        return small_speaker(context.rate, speaker_settings(effect), context.profile.level)


def speaker_settings(effect: m.SmallSpeaker) -> SpeakerSettings:
    """What a small speaker asks of the kernel."""
    return SpeakerSettings(
        effect.speaker, effect.treble_db, effect.ringing_percent / 100.0, effect.rounding_percent / 100.0,
        effect.noise_percent / 100.0, effect.under_db, effect.under_hz, round(effect.seed),
    )  # fmt: skip


def underwater_settings(effect: m.Underwater, level: float) -> UnderwaterSettings:
    """What being under water asks of the kernel; ``level`` of the song, an amplitude."""
    return UnderwaterSettings(
        effect.deep_hz, 1.0 + effect.resonance_percent / 100.0, effect.drift_cents, effect.bed_db if effect.bed else None,
        effect.muffled, effect.splash_db if effect.splash else None, level, round(effect.seed),
    )  # fmt: skip


class UnderwaterFactory:
    """See docs/colours.md, Underwater."""

    def build(self, effect: m.Underwater, context: EffectContext) -> Underwater:
        return Underwater(context.rate, underwater_settings(effect, context.profile.level))

    def set_target(self, processor: Underwater, effect: m.Underwater, context: EffectContext) -> None:
        processor.set_target(underwater_settings(effect, context.profile.level))

    def predict_profile(self, effect: m.Underwater, context: EffectContext, before: Profile, amount: float) -> Profile:
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

    def tail(self, effect: m.Underwater, context: EffectContext) -> int:  # noqa: ARG002
        return 0


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
        """Go to another gain; muffle and give way otherwise, where it does."""
        self._gain.to(gain)
        if self._muffle:
            self._muffle.set_target(high_cut(high_hz, self._rate, 12))
        if self._follower:
            self._follower.set_target(duck)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song."""
        frames = block.shape[1]
        heard = self._sound.read(at, frames)
        if self._muffle:
            heard = self._muffle.process(heard)
        gains = (
            self._gain.over(frames) * amount.at(at, frames) * self._faded(np.arange(at, at + frames, dtype=np.float64))
        )
        if self._follower:
            power = 0.5 * np.sum(np.square(block, dtype=np.float64), axis=0)
            gains = gains * 10.0 ** (self._follower.gains_db(power, at) / 20.0)
        return block + heard * gains.astype(np.float32)

    def _faded(self, frames: Floats) -> Floats:
        """In at the version's start, out at its end."""
        come, go, last = self._fades
        rise = np.clip(frames / max(1, come), 0.0, 1.0)
        fall = np.clip((last - frames) / max(1, go), 0.0, 1.0)
        return np.sin(0.5 * np.pi * np.minimum(rise, fall)) ** 2


class LayerFactory:
    """See docs/colours.md, Layers."""

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
        """How the layer gives way: fully where the song is as loud as it usually is."""
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
        sound = context.sounds.load_for(effect.path, "the layer", LONGEST_LAYER_SECONDS)
        if sound is None or not np.any(np.abs(sound) > INAUDIBLE):
            if sound is not None:
                context.sounds.fault(effect.path, "is silent; choose another sound for the layer")
            return Looped(np.zeros((2, 0), np.float32), 0)
        level = np.sqrt(np.mean(np.square(sound, dtype=np.float64)))
        return Looped((sound / level).astype(np.float32), round(effect.crossfade_seconds * context.rate))

    def predict_profile(self, effect: m.Layer, context: EffectContext, before: Profile, amount: float) -> Profile:
        power = (self._gain(effect, context) * amount) ** 2 * PINK * 0.8
        return before.added(0.6 * power, 0.4 * power)

    def tail(self, effect: m.Layer, context: EffectContext) -> int:  # noqa: ARG002
        return 0
