"""Convolution reverb: settings and processor."""

from collections.abc import Callable
from dataclasses import dataclass
from dataclasses import replace as dataclass_replace

import numpy as np
from msgspec.structs import replace

from latespin.analysis.profile import CENTRES, Profile
from latespin.dsp.arrays import Audio, mid_and_side
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay, FractionalDelay
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.filters.cascade import FilterCascade, Section, high_pass, low_pass, response
from latespin.dsp.filters.convolution import BLOCK, Convolver
from latespin.dsp.reverb.impulse_responses import ROOMS, made_room, prepared, room_seconds
from latespin.model.effects import effects as m
from latespin.render.effects.context import EffectContext, lane_values
from latespin.render.effects.factory import EffectFactory, processor_for
from latespin.render.effects.processors.mixing import mixed, mixed_profile, power_in_bands

LONGEST_RESPONSE_SECONDS = 20.0
STRETCHES = 4  # responses to an octave of stretch, between which an automated one is interpolated


@dataclass(frozen=True)
class RoomValues:
    """Controls of a convolution reverb: stretch of its response, cuts and width of the wet sound, and pre-delay."""

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
        mid, side = mid_and_side(wet)
        side = np.asarray(self._width.over(block.shape[1]), np.float32) * side
        wet = np.stack((mid + side, mid - side))
        return mixed(self._dry.process(block), wet, at, amount)


def _cuts(values: RoomValues, rate: int) -> list[Section]:
    return [*high_pass(values.low_cut_hz, rate, 12), *low_pass(values.high_cut_hz, rate, 12)]


@processor_for(m.ConvolutionReverb)
class ConvolutionFactory(EffectFactory):
    """See docs/effects.md, Convolution reverb."""

    def build(self, effect: m.ConvolutionReverb, context: EffectContext) -> RoomStream:
        values = self._values(effect, context)
        longest = self._values(
            replace(effect, lanes=(), **{f: max(lane_values(effect, f)) for f in ("stretch", "pre_delay_ms")}), context
        )
        return RoomStream(context.rate, lambda stretch: self.response(effect, context, stretch), values, longest)

    def set_target(self, processor: RoomStream, effect: m.ConvolutionReverb, context: EffectContext) -> None:
        values = self._values(effect, context)
        stepped = 2.0 ** (round(np.log2(effect.stretch) * STRETCHES) / STRETCHES)
        processor.set_target(dataclass_replace(values, stretch=stepped))

    def _values(self, effect: m.ConvolutionReverb, context: EffectContext) -> RoomValues:
        return RoomValues(
            effect.stretch, effect.low_cut_hz, effect.high_cut_hz, effect.width_percent / 100.0,
            float(round(effect.pre_delay_ms * context.rate / 1000.0)),
        )  # fmt: skip

    def response(self, effect: m.ConvolutionReverb, context: EffectContext, stretch: float | None = None) -> Audio:
        """The response, ``[2 or 4, frames]``, before its cuts; one frame of silence where there is none."""
        used = effect.stretch if stretch is None else stretch
        return context.sounds.kept(_key(effect, used), lambda: self._make(effect, context, used))

    def _make(self, effect: m.ConvolutionReverb, context: EffectContext, stretch: float) -> Audio:
        rate = context.rate
        if effect.room in ROOMS:
            raw = made_room(effect.room, rate)
        else:
            loaded = context.sounds.load_at_most(effect.path, LONGEST_RESPONSE_SECONDS, true_stereo=True)
            raw = np.zeros((2, 0), np.float32) if loaded is None else loaded
        made = prepared(raw, rate, stretch)
        if raw.shape[1] and not made.shape[1]:
            context.sounds.refuse_silent(effect.path)
        return made if made.shape[1] else np.zeros((2, 1), np.float32)

    def known(self, effect: m.ConvolutionReverb, context: EffectContext) -> bool:
        """Whether the response has been made, so that nobody would wait for it."""
        return context.sounds.has(_key(effect, effect.stretch))

    def predict_profile(
        self, effect: m.ConvolutionReverb, context: EffectContext, before: Profile, amount: float
    ) -> Profile:
        cut = np.abs(response(_cuts(self._values(effect, context), context.rate), CENTRES, context.rate)) ** 2
        wet = power_in_bands(self.response(effect, context), context.rate) * cut
        width = effect.width_percent / 100.0
        return mixed_profile(before, wet * 0.5 * (1.0 + width**2), amount, spread=width**2 / (1.0 + width**2))

    def tail(self, effect: m.ConvolutionReverb, context: EffectContext) -> int:
        delay = round(effect.pre_delay_ms / 1000.0 * context.rate)
        if self.known(effect, context):
            return int(self.response(effect, context).shape[1]) + delay
        return 0 if effect.room == "file" else round(room_seconds(effect.room) * effect.stretch * context.rate) + delay


def _key(effect: m.ConvolutionReverb, stretch: float) -> tuple[object, ...]:
    return ("response", effect.room, effect.path if effect.room == "file" else "", stretch)
