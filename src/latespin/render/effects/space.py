"""Colours of space: hall, room response, 8D orbit, width, echo."""

from collections.abc import Callable
from dataclasses import dataclass
from dataclasses import replace as dataclass_replace

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import CENTRES, EDGES, Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay, FractionalDelay
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.effects.binaural import LAST_MS, ROOM_GAIN, SIDE_GAIN, Orbit, OrbitSettings, Tables, sphere_table
from latespin.dsp.effects.echo import Echo, EchoSettings, echo_tail
from latespin.dsp.effects.hrtf import delay_frames
from latespin.dsp.effects.width import SAFE_GAIN, SAFE_LOW_HZ, Width
from latespin.dsp.filters.band_sums import band_sums
from latespin.dsp.filters.cascade import FilterCascade, Section, high_pass, low_pass, response
from latespin.dsp.filters.convolution import BLOCK, Convolver
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import TAIL_DB, WARM_UP_DB, HallSettings, fall_frames, wet_power
from latespin.dsp.reverb.impulse_responses import ROOMS, made_room, prepared, room_seconds
from latespin.model.effects import effects as m
from latespin.model.values.note_values import beats_of
from latespin.render.effects.context import EffectContext, control_of, gone_through, lane_values

STRETCHES = 4  # responses to an octave of stretch, between which a changing one goes
LONGEST_ECHO_SECONDS, LONGEST_RESPONSE_SECONDS = 8.0, 20.0


def hall_settings(hall: m.Hall, amount: float | None = None) -> HallSettings:
    """What a hall asks of the kernel; ``amount`` in place of its own."""
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


def mixed(dry: Audio, wet: Audio, amounts: Floats) -> Audio:
    """A wet sound mixed in with equal power."""
    angle = amounts * (np.pi / 2.0)
    return np.asarray(dry * np.cos(angle).astype(np.float32) + wet * np.sin(angle).astype(np.float32))


def mixed_profile(before: Profile, wet: Floats, amount: float, *, spread: float = 0.5) -> Profile:
    """What equal-power mixing with a wet sound makes of a profile; ``spread`` of the wet power lies at the sides."""
    dry, share = np.cos(amount * np.pi / 2.0) ** 2, np.sin(amount * np.pi / 2.0) ** 2
    power = (before.mid + before.side) * wet * share
    after = before.through(dry)
    return after.added((1.0 - spread) * power, spread * power)


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
        """Hear a block, whose first frame is frame ``at`` of the song."""
        if self._hall is None:
            self._hall = Hall(self._rate, self._settings, at)
            self._hall.set_target(self._steered)
        return mixed(block, self._hall.process(block), np.clip(amount.at(at, block.shape[1]), 0.0, 1.0))


class HallFactory:
    """See docs/colours.md, Hall."""

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


@dataclass(frozen=True)
class RoomValues:
    """What of a room is steered: the stretch of its response, cuts and width of what is heard of it, and how much later it comes."""

    stretch: float
    low_cut_hz: float
    high_cut_hz: float
    width: float
    delay_frames: float


class RoomStream:
    """A response convolved with, mixed in. response : for a stretch.  longest : the values at their largest."""

    latency = BLOCK

    def __init__(self, rate: int, response: Callable[[float], Audio], values: RoomValues, longest: RoomValues) -> None:
        self._rate, self._response, self._longest = rate, response, response(longest.stretch).shape[1]
        self._values = values
        self._convolver: Convolver | None = None
        self._cuts = FilterCascade(_cuts(values, rate))
        self._delay_line = (
            [FractionalDelay(int(longest.delay_frames)) for _ in range(2)] if longest.delay_frames else None
        )
        self._width, self._delay = SmoothedValue(values.width), SmoothedValue(values.delay_frames)
        self.warm_up_frames = self._longest + int(longest.delay_frames) + 2 * BLOCK
        self._dry = Delay(2, BLOCK)

    def set_target(self, values: RoomValues) -> None:
        """Go to other values."""
        if self._convolver is not None and values.stretch != self._values.stretch:
            self._convolver.exchange(self._response(values.stretch))
        self._cuts.set_target(_cuts(values, self._rate))
        self._width.to(values.width)
        self._delay.to(values.delay_frames)
        self._values = values

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        if self._convolver is None:
            self._convolver = Convolver(self._response(self._values.stretch), self._longest, at)
        wet = self._cuts.process(self._convolver.process(block))
        if self._delay_line is not None:
            delay = self._delay.over(block.shape[1])
            wet = np.stack([late.process(row, delay) for late, row in zip(self._delay_line, wet, strict=True)])
        half, width = np.float32(0.5), np.asarray(self._width.over(block.shape[1]), np.float32)
        mid, side = half * (wet[0] + wet[1]), width * (half * (wet[0] - wet[1]))
        wet = np.stack((mid + side, mid - side))
        return mixed(self._dry.process(block), wet, amount.at(at, block.shape[1]))


def _cuts(values: RoomValues, rate: int) -> list[Section]:
    return [*high_pass(values.low_cut_hz, rate, 12), *low_pass(values.high_cut_hz, rate, 12)]


class ConvolutionFactory:
    """See docs/colours.md, Room response."""

    def build(self, effect: m.Room, context: EffectContext) -> RoomStream:
        values = self._values(effect, context)
        longest = self._values(
            replace(effect, lanes=(), **{f: max(lane_values(effect, f)) for f in ("stretch", "pre_delay_ms")}), context
        )
        return RoomStream(context.rate, lambda stretch: self.response(effect, context, stretch), values, longest)

    def set_target(self, processor: RoomStream, effect: m.Room, context: EffectContext) -> None:
        values = self._values(effect, context)
        stepped = 2.0 ** (round(np.log2(effect.stretch) * STRETCHES) / STRETCHES)
        processor.set_target(dataclass_replace(values, stretch=stepped))

    def _values(self, effect: m.Room, context: EffectContext) -> RoomValues:
        return RoomValues(
            effect.stretch, effect.low_cut_hz, effect.high_cut_hz, effect.width_percent / 100.0,
            float(round(effect.pre_delay_ms * context.rate / 1000.0)),
        )  # fmt: skip

    def response(self, effect: m.Room, context: EffectContext, stretch: float | None = None) -> Audio:
        """The response, ``[2, frames]``, before its cuts; one frame of silence where there is none."""
        used = effect.stretch if stretch is None else stretch
        return context.sounds.kept(_key(effect, used), lambda: self._make(effect, context, used))

    def _make(self, effect: m.Room, context: EffectContext, stretch: float) -> Audio:
        rate = context.rate
        if effect.room in ROOMS:
            raw = made_room(effect.room, rate)
        else:
            loaded = context.sounds.load_for(effect.path, "the room’s response", LONGEST_RESPONSE_SECONDS)
            raw = np.zeros((2, 0), np.float32) if loaded is None else loaded
        made = prepared(raw, rate, stretch)
        if raw.shape[1] and not made.shape[1]:
            context.sounds.fault(effect.path, "is silent, so that there is no room in it; choose another response")
        return made if made.shape[1] else np.zeros((2, 1), np.float32)

    def known(self, effect: m.Room, context: EffectContext) -> bool:
        """Whether the response has been made, so that nobody would wait for it."""
        return context.sounds.has(_key(effect, effect.stretch))

    def predict_profile(self, effect: m.Room, context: EffectContext, before: Profile, amount: float) -> Profile:
        cut = np.abs(response(_cuts(self._values(effect, context), context.rate), CENTRES, context.rate)) ** 2
        wet = power_in_bands(self.response(effect, context), context.rate) * cut
        width = effect.width_percent / 100.0
        return mixed_profile(before, wet * 0.5 * (1.0 + width**2), amount, spread=width**2 / (1.0 + width**2))

    def tail(self, effect: m.Room, context: EffectContext) -> int:
        delay = round(effect.pre_delay_ms / 1000.0 * context.rate)
        if self.known(effect, context):
            return int(self.response(effect, context).shape[1]) + delay
        return 0 if effect.room == "file" else round(room_seconds(effect.room) * effect.stretch * context.rate) + delay


def power_in_bands(made: Audio, rate: int) -> Floats:
    """The power gain of a response in third octaves, the mean of both channels; nothing beyond what the rate holds."""
    size = 1 << max(12, (made.shape[1] - 1).bit_length())
    power = np.mean(np.abs(np.fft.rfft(made, size, axis=1)) ** 2, axis=0)
    edges = EDGES * size / rate
    return np.asarray(np.where(0.5 * rate > CENTRES, band_sums(power, edges) / np.diff(edges), 0.0))


def _key(effect: m.Room, stretch: float) -> tuple[object, ...]:
    return ("response", effect.room, effect.path if effect.room == "file" else "", stretch)


class BinauralFactory:
    """See docs/colours.md, 8D orbit."""

    def build(self, effect: m.Orbit, context: EffectContext) -> Orbit:
        return Orbit(context.rate, self._settings(effect, context), self._tables(effect, context))

    def set_target(self, processor: Orbit, effect: m.Orbit, context: EffectContext) -> None:
        processor.set_target(self._settings(effect, context))

    def _settings(self, effect: m.Orbit, context: EffectContext) -> OrbitSettings:
        return OrbitSettings(
            turns_of(effect, context), control_of(effect, "elevation_degrees", context.clock), effect.still_below_hz,
            effect.distance_m, effect.room_percent / 100.0,
        )  # fmt: skip

    def _tables(self, effect: m.Orbit, context: EffectContext) -> Tables:
        if effect.ears == "file":
            ears = context.sounds.ears(effect.path)
            if ears is not None:
                return lambda strength, rise: context.sounds.kept(
                    ("ears", effect.path, rise, strength), lambda: ears.table(context.rate, rise, strength)
                )
        return lambda strength, rise: sphere_table(context.rate, rise, strength)

    def predict_profile(self, effect: m.Orbit, context: EffectContext, before: Profile, amount: float) -> Profile:
        table = self._tables(effect, context)(round(32 * amount) / 32, effect.elevation_degrees)
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

    def tail(self, effect: m.Orbit, context: EffectContext) -> int:  # noqa: ARG002
        return round(LAST_MS / 1000.0 * context.rate) + 2 * delay_frames(context.rate) + round(0.003 * context.rate)


def turns_of(effect: m.Orbit, context: EffectContext) -> Callable[[Floats], Floats]:
    """How many times round the head, to the right, at frames of After."""
    way = 1.0 if effect.direction == "right" else -1.0
    if effect.by == "bars":
        predict_profile = gone_through(effect, "period_bars", context, context.clock.bars)
    else:
        predict_profile = gone_through(effect, "period_seconds", context, lambda frames: frames / context.rate)
    begins = control_of(effect, "start_degrees", context.clock)
    return lambda frames: begins.at_places(frames) / 360.0 + way * predict_profile(frames)


class WidthFactory:
    """See docs/colours.md, Width."""

    def build(self, effect: m.Width, context: EffectContext) -> Width:
        longest = max(lane_values(effect, "delay_ms")) * context.rate / 1000.0
        side, delay = self._values(effect, context)
        return Width(context.rate, side, delay, safe=effect.mono_safe, longest_frames=longest)

    def set_target(self, processor: Width, effect: m.Width, context: EffectContext) -> None:
        processor.set_target(*self._values(effect, context))

    def _values(self, effect: m.Width, context: EffectContext) -> tuple[float, float]:
        return effect.sides_percent / 100.0, round(effect.delay_ms * context.rate / 1000.0)

    def predict_profile(self, effect: m.Width, context: EffectContext, before: Profile, amount: float) -> Profile:
        side = (1.0 + amount * (effect.sides_percent / 100.0 - 1.0)) ** 2
        after = before.through(1.0, side)
        if effect.delay_ms > 0.0 and effect.mono_safe:
            late = np.abs(response(high_pass(SAFE_LOW_HZ, context.rate, 12), CENTRES, context.rate)) ** 2
            return after.added(0.0 * before.mid, before.mid * late * (SAFE_GAIN * amount) ** 2)
        return after

    def tail(self, effect: m.Width, context: EffectContext) -> int:
        return round(effect.delay_ms * context.rate / 1000.0)


class EchoFactory:
    """See docs/colours.md, Echo."""

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
