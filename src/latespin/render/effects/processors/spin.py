"""The 8D spin: settings and processor."""

from collections.abc import Callable

import numpy as np

from latespin.analysis.profile import CENTRES, EDGES, Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.effects.binaural import (
    LAST_MS,
    ROOM_GAIN,
    SIDE_GAIN,
    BinauralPanner,
    BinauralSettings,
    Tables,
    evened,
    sphere_table,
)
from latespin.dsp.effects.hrtf import delay_frames
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext, control_of, gone_through
from latespin.render.effects.factory import EffectFactory, processor_for

EVEN_AT_LEAST = 1e-6  # of a song's power, in every third octave: where there is nothing, all places are equal
SLOPE_FRAMES = 512  # to each side of a frame, over which the speed of the turn is taken


@processor_for(m.Spin)
class BinauralFactory(EffectFactory):
    """See docs/effects.md, 8D spin."""

    def build(self, effect: m.Spin, context: EffectContext) -> BinauralPanner:
        moving = context.profile.mid * (effect.still_below_hz <= CENTRES)
        power = moving + EVEN_AT_LEAST * context.profile.power
        plain = ear_tables(effect, context)

        def tables(strength: float, rise: float) -> Audio:
            key = ("even ears", effect.ears, effect.path, strength, rise, power.tobytes())
            return context.sounds.kept(key, lambda: evened(plain(strength, rise), power, EDGES, context.rate))

        return BinauralPanner(context.rate, self._settings(effect, context), tables)

    def set_target(self, processor: BinauralPanner, effect: m.Spin, context: EffectContext) -> None:
        processor.set_target(self._settings(effect, context))

    def _settings(self, effect: m.Spin, context: EffectContext) -> BinauralSettings:
        return BinauralSettings(
            turns_of(effect, context), control_of(effect, "elevation_degrees", context.clock), effect.still_below_hz,
            effect.distance_m, effect.room_percent / 100.0,
        )  # fmt: skip

    def predict_profile(self, effect: m.Spin, context: EffectContext, before: Profile, amount: float) -> Profile:
        table = ear_tables(effect, context)(round(32 * amount) / 32, effect.elevation_degrees)
        size = 4 * table.shape[2]
        power = np.mean(np.abs(np.fft.rfft(table[::6], size, axis=2)) ** 2, axis=(0, 1))
        ears = np.interp(CENTRES, np.fft.rfftfreq(size, 1.0 / context.rate), power, right=0.0)
        low = 1.0 / (1.0 + (CENTRES / effect.still_below_hz) ** 4)
        direct = (1.0 - amount * (1.0 - effect.distance_m**-0.5)) ** 2
        room = (amount * effect.room_percent / 100.0 * ROOM_GAIN) ** 2
        mid = before.mid * ((1.0 - low) * (direct * ears + room / (1.0 + (CENTRES / 6_500.0) ** 4)) + low)
        side = before.side * (1.0 - amount * (1.0 - SIDE_GAIN)) ** 2
        moved = 0.5 * np.minimum(1.0, amount) * mid * (1.0 - low)
        empty = before.through(1e-9)
        return empty.added(mid - moved, side + moved)

    def tail(self, effect: m.Spin, context: EffectContext) -> int:  # noqa: ARG002
        return round(LAST_MS / 1000.0 * context.rate) + 2 * delay_frames(context.rate) + round(0.003 * context.rate)


def turns_of(effect: m.Spin, context: EffectContext) -> Callable[[Floats], Floats]:
    """Turns around the head, to the right, at frames of After."""
    way = 1.0 if effect.direction == "right" else -1.0
    if effect.by == "bars":
        turned = gone_through(effect, "period_bars", context, context.clock.bars)
    else:
        turned = gone_through(effect, "period_seconds", context, lambda frames: frames / context.rate)
    begins = control_of(effect, "start_degrees", context.clock)
    return lambda frames: begins.at_places(frames) / 360.0 + way * turned(frames)


def turn_frames(effect: m.Spin, context: EffectContext, frame: int) -> float:
    """Duration of one turn at a frame, in frames of After."""
    turns = turns_of(effect, context)
    before, after = turns(np.array([frame - SLOPE_FRAMES, frame + SLOPE_FRAMES], dtype=np.float64)).tolist()
    return float(2.0 * SLOPE_FRAMES / max(abs(after - before), 1e-9))


def ear_tables(effect: m.Spin, context: EffectContext) -> Tables:
    """The filters of both ears around the turn, by amount and elevation: those of a file, or of the spherical head."""
    if effect.ears == "file":
        ears = context.sounds.ears(effect.path)
        if ears is not None:
            return lambda strength, rise: context.sounds.kept(
                ("ears", effect.path, rise, strength), lambda: ears.table(context.rate, rise, strength)
            )
    return lambda strength, rise: sphere_table(context.rate, rise, strength)
