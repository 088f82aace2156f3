"""Colours of space: hall, room response, 8D orbit, width, echo."""

from collections.abc import Callable
from dataclasses import dataclass
from dataclasses import replace as dataclass_replace

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import CENTRES, EDGES, Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Amount
from latespin.dsp.control.delay import Glided, Late
from latespin.dsp.control.smoothing import Ramp
from latespin.dsp.effects.binaural import LAST_MS, ROOM_GAIN, SIDE_GAIN, Orbit, OrbitSettings, Tables, sphere_table
from latespin.dsp.effects.echo import Echo, EchoSettings, echo_tail
from latespin.dsp.effects.hrtf import delay_frames
from latespin.dsp.effects.width import SAFE_GAIN, SAFE_LOW_HZ, Width
from latespin.dsp.filters.band_sums import band_sums
from latespin.dsp.filters.cascade import Section, Sections, high_pass, low_pass, response
from latespin.dsp.filters.convolution import BLOCK, Convolver
from latespin.dsp.reverb.hall import Hall
from latespin.dsp.reverb.hall_design import TAIL_DB, WARM_UP_DB, HallSettings, fall_frames, wet_power
from latespin.dsp.reverb.impulse_responses import ROOMS, made_room, prepared, room_seconds
from latespin.model.effects import effects as m
from latespin.model.values.note_values import beats_of
from latespin.render.effects.context import Setting, control_of, gone_through, lane_values

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

    def steer(self, settings: HallSettings) -> None:
        """Go to other settings, of no larger a size and pre-delay."""
        self._steered = settings
        if self._hall is not None:
            self._hall.steer(settings)

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame is frame ``at`` of the song."""
        if self._hall is None:
            self._hall = Hall(self._rate, self._settings, at)
            self._hall.steer(self._steered)
        return mixed(block, self._hall.process(block), np.clip(amount.at(at, block.shape[1]), 0.0, 1.0))


class HallMaker:
    """See docs/colours.md, Hall."""

    def build(self, effect: m.Hall, setting: Setting) -> HallStream:
        return HallStream(setting.rate, hall_settings(effect, 1.0))

    def steer(self, processor: HallStream, effect: m.Hall, setting: Setting) -> None:  # noqa: ARG002
        processor.steer(hall_settings(effect, 1.0))

    def passed(self, effect: m.Hall, setting: Setting, before: Profile, amount: float) -> Profile:
        wet = wet_power(hall_settings(effect, 1.0), CENTRES, setting.rate)
        width = effect.width_percent / 100.0
        return mixed_profile(before, wet, amount, spread=width**2 / (1.0 + width**2))

    def tail(self, effect: m.Hall, setting: Setting) -> int:
        return fall_frames(setting.rate, hall_settings(effect, 1.0), TAIL_DB)


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
        self._cuts = Sections(_cuts(values, rate))
        self._late = [Glided(int(longest.delay_frames)) for _ in range(2)] if longest.delay_frames else None
        self._width, self._delay = Ramp(values.width), Ramp(values.delay_frames)
        self.warm_up_frames = self._longest + int(longest.delay_frames) + 2 * BLOCK
        self._dry = Late(2, BLOCK)

    def steer(self, values: RoomValues) -> None:
        """Go to other values."""
        if self._convolver is not None and values.stretch != self._values.stretch:
            self._convolver.exchange(self._response(values.stretch))
        self._cuts.steer(_cuts(values, self._rate))
        self._width.to(values.width)
        self._delay.to(values.delay_frames)
        self._values = values

    def process(self, block: Audio, at: int, amount: Amount) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        if self._convolver is None:
            self._convolver = Convolver(self._response(self._values.stretch), self._longest, at)
        wet = self._cuts.process(self._convolver.process(block))
        if self._late is not None:
            delay = self._delay.over(block.shape[1])
            wet = np.stack([late.process(row, delay) for late, row in zip(self._late, wet, strict=True)])
        half, width = np.float32(0.5), np.asarray(self._width.over(block.shape[1]), np.float32)
        mid, side = half * (wet[0] + wet[1]), width * (half * (wet[0] - wet[1]))
        wet = np.stack((mid + side, mid - side))
        return mixed(self._dry.process(block), wet, amount.at(at, block.shape[1]))


def _cuts(values: RoomValues, rate: int) -> list[Section]:
    return [*high_pass(values.low_cut_hz, rate, 12), *low_pass(values.high_cut_hz, rate, 12)]


class RoomMaker:
    """See docs/colours.md, Room response."""

    def build(self, effect: m.Room, setting: Setting) -> RoomStream:
        values = self._values(effect, setting)
        longest = self._values(
            replace(effect, lanes=(), **{f: max(lane_values(effect, f)) for f in ("stretch", "pre_delay_ms")}), setting
        )
        return RoomStream(setting.rate, lambda stretch: self.response(effect, setting, stretch), values, longest)

    def steer(self, processor: RoomStream, effect: m.Room, setting: Setting) -> None:
        values = self._values(effect, setting)
        stepped = 2.0 ** (round(np.log2(effect.stretch) * STRETCHES) / STRETCHES)
        processor.steer(dataclass_replace(values, stretch=stepped))

    def _values(self, effect: m.Room, setting: Setting) -> RoomValues:
        return RoomValues(
            effect.stretch, effect.low_cut_hz, effect.high_cut_hz, effect.width_percent / 100.0,
            float(round(effect.pre_delay_ms * setting.rate / 1000.0)),
        )  # fmt: skip

    def response(self, effect: m.Room, setting: Setting, stretch: float | None = None) -> Audio:
        """The response, ``[2, frames]``, before its cuts; one frame of silence where there is none."""
        used = effect.stretch if stretch is None else stretch
        return setting.sounds.kept(_key(effect, used), lambda: self._make(effect, setting, used))

    def _make(self, effect: m.Room, setting: Setting, stretch: float) -> Audio:
        rate = setting.rate
        if effect.room in ROOMS:
            raw = made_room(effect.room, rate)
        else:
            loaded = setting.sounds.load_for(effect.path, "the room’s response", LONGEST_RESPONSE_SECONDS)
            raw = np.zeros((2, 0), np.float32) if loaded is None else loaded
        made = prepared(raw, rate, stretch)
        if raw.shape[1] and not made.shape[1]:
            setting.sounds.fault(effect.path, "is silent, so that there is no room in it; choose another response")
        return made if made.shape[1] else np.zeros((2, 1), np.float32)

    def known(self, effect: m.Room, setting: Setting) -> bool:
        """Whether the response has been made, so that nobody would wait for it."""
        return setting.sounds.has(_key(effect, effect.stretch))

    def passed(self, effect: m.Room, setting: Setting, before: Profile, amount: float) -> Profile:
        cut = np.abs(response(_cuts(self._values(effect, setting), setting.rate), CENTRES, setting.rate)) ** 2
        wet = power_in_bands(self.response(effect, setting), setting.rate) * cut
        width = effect.width_percent / 100.0
        return mixed_profile(before, wet * 0.5 * (1.0 + width**2), amount, spread=width**2 / (1.0 + width**2))

    def tail(self, effect: m.Room, setting: Setting) -> int:
        delay = round(effect.pre_delay_ms / 1000.0 * setting.rate)
        if self.known(effect, setting):
            return int(self.response(effect, setting).shape[1]) + delay
        return 0 if effect.room == "file" else round(room_seconds(effect.room) * effect.stretch * setting.rate) + delay


def power_in_bands(made: Audio, rate: int) -> Floats:
    """The power gain of a response in third octaves, the mean of both channels; nothing beyond what the rate holds."""
    size = 1 << max(12, (made.shape[1] - 1).bit_length())
    power = np.mean(np.abs(np.fft.rfft(made, size, axis=1)) ** 2, axis=0)
    edges = EDGES * size / rate
    return np.asarray(np.where(0.5 * rate > CENTRES, band_sums(power, edges) / np.diff(edges), 0.0))


def _key(effect: m.Room, stretch: float) -> tuple[object, ...]:
    return ("response", effect.room, effect.path if effect.room == "file" else "", stretch)


class OrbitMaker:
    """See docs/colours.md, 8D orbit."""

    def build(self, effect: m.Orbit, setting: Setting) -> Orbit:
        return Orbit(setting.rate, self._settings(effect, setting), self._tables(effect, setting))

    def steer(self, processor: Orbit, effect: m.Orbit, setting: Setting) -> None:
        processor.steer(self._settings(effect, setting))

    def _settings(self, effect: m.Orbit, setting: Setting) -> OrbitSettings:
        return OrbitSettings(
            turns_of(effect, setting), control_of(effect, "elevation_degrees", setting.clock), effect.still_below_hz,
            effect.distance_m, effect.room_percent / 100.0,
        )  # fmt: skip

    def _tables(self, effect: m.Orbit, setting: Setting) -> Tables:
        if effect.ears == "file":
            ears = setting.sounds.ears(effect.path)
            if ears is not None:
                return lambda strength, rise: setting.sounds.kept(
                    ("ears", effect.path, rise, strength), lambda: ears.table(setting.rate, rise, strength)
                )
        return lambda strength, rise: sphere_table(setting.rate, rise, strength)

    def passed(self, effect: m.Orbit, setting: Setting, before: Profile, amount: float) -> Profile:
        table = self._tables(effect, setting)(round(32 * amount) / 32, effect.elevation_degrees)
        size = 4 * table.shape[2]
        power = np.mean(np.abs(np.fft.rfft(table[::6], size, axis=2)) ** 2, axis=(0, 1))
        ears = np.interp(CENTRES, np.fft.rfftfreq(size, 1.0 / setting.rate), power, right=0.0)
        low = 1.0 / (1.0 + (CENTRES / effect.still_below_hz) ** 4)
        direct = (1.0 - amount * (1.0 - effect.distance_m**-0.5)) ** 2
        room = (amount * effect.room_percent / 100.0 * ROOM_GAIN) ** 2
        mid = before.mid * ((1.0 - low) * (direct * ears + room / (1.0 + (CENTRES / 6_500.0) ** 4)) + low)
        side = before.side * (1.0 - amount * (1.0 - SIDE_GAIN)) ** 2
        moved = 0.5 * np.minimum(1.0, amount) * mid * (1.0 - low)
        empty = before.through(1e-9)
        return empty.added(mid - moved, side + moved)

    def tail(self, effect: m.Orbit, setting: Setting) -> int:  # noqa: ARG002
        return round(LAST_MS / 1000.0 * setting.rate) + 2 * delay_frames(setting.rate) + round(0.003 * setting.rate)


def turns_of(effect: m.Orbit, setting: Setting) -> Callable[[Floats], Floats]:
    """How many times round the head, to the right, at frames of After."""
    way = 1.0 if effect.direction == "right" else -1.0
    if effect.by == "bars":
        passed = gone_through(effect, "period_bars", setting, setting.clock.bars)
    else:
        passed = gone_through(effect, "period_seconds", setting, lambda frames: frames / setting.rate)
    begins = control_of(effect, "start_degrees", setting.clock)
    return lambda frames: begins.at_places(frames) / 360.0 + way * passed(frames)


class WidthMaker:
    """See docs/colours.md, Width."""

    def build(self, effect: m.Width, setting: Setting) -> Width:
        longest = max(lane_values(effect, "delay_ms")) * setting.rate / 1000.0
        side, delay = self._values(effect, setting)
        return Width(setting.rate, side, delay, safe=effect.mono_safe, longest_frames=longest)

    def steer(self, processor: Width, effect: m.Width, setting: Setting) -> None:
        processor.steer(*self._values(effect, setting))

    def _values(self, effect: m.Width, setting: Setting) -> tuple[float, float]:
        return effect.sides_percent / 100.0, round(effect.delay_ms * setting.rate / 1000.0)

    def passed(self, effect: m.Width, setting: Setting, before: Profile, amount: float) -> Profile:
        side = (1.0 + amount * (effect.sides_percent / 100.0 - 1.0)) ** 2
        after = before.through(1.0, side)
        if effect.delay_ms > 0.0 and effect.mono_safe:
            late = np.abs(response(high_pass(SAFE_LOW_HZ, setting.rate, 12), CENTRES, setting.rate)) ** 2
            return after.added(0.0 * before.mid, before.mid * late * (SAFE_GAIN * amount) ** 2)
        return after

    def tail(self, effect: m.Width, setting: Setting) -> int:
        return round(effect.delay_ms * setting.rate / 1000.0)


class EchoMaker:
    """See docs/colours.md, Echo."""

    def build(self, effect: m.Echo, setting: Setting) -> Echo:
        return Echo(setting.rate, self._settings(effect, setting))

    def steer(self, processor: Echo, effect: m.Echo, setting: Setting) -> None:
        processor.steer(self._settings(effect, setting))

    def _settings(self, effect: m.Echo, setting: Setting) -> EchoSettings:
        beats, clock = beats_of(effect.value), setting.clock
        longest, rates = self._longest(effect, setting), control_of(effect, "rate_percent", clock)
        return EchoSettings(
            lambda frames: beats * clock.beat_frames(frames) * 100.0 / rates.at_places(frames), longest, effect.feedback_percent / 100.0, effect.low_cut_hz,
            effect.high_cut_hz, effect.ping_pong, 0.004 * effect.sway_percent / 100.0,
        )  # fmt: skip

    def _longest(self, effect: m.Echo, setting: Setting) -> int:
        slowest = min(lane_values(effect, "rate_percent"))
        most = beats_of(effect.value) * setting.clock.longest_beat() * 100.0 / slowest
        return max(96, min(int(np.ceil(most)) + 2, round(LONGEST_ECHO_SECONDS * setting.rate)))

    def passed(self, effect: m.Echo, setting: Setting, before: Profile, amount: float) -> Profile:  # noqa: ARG002
        low = (CENTRES / effect.low_cut_hz) ** 2
        band = low / (1.0 + low) / (1.0 + (CENTRES / effect.high_cut_hz) ** 2)
        gain = amount**2 * band / (1.0 - (effect.feedback_percent / 100.0) ** 2 * band)
        if effect.ping_pong:
            power = before.mid * gain
            return before.added(0.5 * power, 0.5 * power)
        return before.through(1.0 + gain)

    def tail(self, effect: m.Echo, setting: Setting) -> int:
        longest = self._longest(effect, setting)
        return echo_tail(effect.feedback_percent / 100.0, longest, setting.rate)
