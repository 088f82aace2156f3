"""Which processor makes which colour, and what it does to a song's profile."""

from typing import Any, Protocol

import numpy as np

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay
from latespin.model.effects.effects import AnyEffect, Effect, effect_kind
from latespin.render.effects.context import AutomatedEffect, EffectContext, amount_of
from latespin.render.effects.space import BinauralFactory, ConvolutionFactory, EchoFactory, HallFactory, WidthFactory
from latespin.render.effects.tone import (
    CompressorFactory,
    CrushFactory,
    DynamicShelfFactory,
    EqFactory,
    SaturationFactory,
    WobbleFactory,
)
from latespin.render.effects.wear import LayerFactory, SpeakerFactory, TapeFactory, UnderwaterFactory, VinylFactory

KEPT_AT, KEPT_AT_MOVING = (0.0, 0.1, 0.25, 0.5, 0.75, 1.0), (0.0, 0.25, 0.5, 1.0)
COARSE, FINE, SAME_DB = (
    3,
    9,
    0.3,
)  # values of a control at which its gain is looked at, the second where it matters by so much
NOTED, KEPT_NOTES = 512, 900  # frames to a note of what dynamics took away, and how many are kept
CELL, IDLE_STEP = 8192, 32  # frames of a piece that may be left out, and between which its amount is looked at
STEP = 128  # frames after which controls that change over the song are set anew


class Processor(Protocol):
    """A colour as a stream of stereo blocks, ``latency`` frames late."""

    latency: int
    warm_up_frames: int

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block whose first frame comes out as frame ``at``."""
        raise NotImplementedError


class EffectFactory(Protocol):
    """How a kind of colour is made."""

    def build(self, effect: Any, context: EffectContext) -> Processor:
        """A fresh processor."""
        raise NotImplementedError

    def set_target(self, processor: Any, effect: Any, context: EffectContext) -> None:
        """Have a processor go by other values from the next frame on."""

    def predict_profile(self, effect: Any, context: EffectContext, before: Profile, amount: float) -> Profile:
        """What a song's profile is after it."""
        raise NotImplementedError

    def tail(self, effect: Any, context: EffectContext) -> int:
        """How long it rings on, frames, worked out without making it."""
        raise NotImplementedError


FACTORIES: dict[str, EffectFactory] = {
    "hall": HallFactory(), "room": ConvolutionFactory(), "orbit": BinauralFactory(), "width": WidthFactory(), "echo": EchoFactory(),
    "vinyl": VinylFactory(), "tape": TapeFactory(), "speaker": SpeakerFactory(), "underwater": UnderwaterFactory(), "layer": LayerFactory(),
    "eq": EqFactory(), "compressor": CompressorFactory(), "deharsh": DynamicShelfFactory(), "saturation": SaturationFactory(),
    "wobble": WobbleFactory(), "crush": CrushFactory(),
}  # fmt: skip


def factory_of(effect: Effect) -> EffectFactory:
    """How a colour is made."""
    return FACTORIES[effect_kind(effect)]


def kept_level(
    effect: AnyEffect, context: EffectContext, before: Profile, amount: Automation
) -> tuple[Automation, Profile]:
    """The gain that keeps the loudness as it was before a colour, by its amount; and the song's profile after it."""
    moving = AutomatedEffect(effect, context.clock)
    places = np.linspace(0.0, float(max(1, context.frames)), 64)
    usual, often = moving.usual(context.frames), float(np.mean(amount.at_places(places)))
    gain = _kept_gain(effect, context, before, amount, moving)
    after = factory_of(effect).predict_profile(usual, context, before, often)
    kept = gain.steady if gain.steady is not None else np.sqrt(before.power / after.power) if effect.keep_level else 1.0
    return gain, after.through(kept * kept)


def _kept_gain(
    effect: AnyEffect, context: EffectContext, before: Profile, amount: Automation, moving: AutomatedEffect
) -> Automation:
    """The gain over the song: by its amount, and by what else of it moves."""
    if not effect.keep_level:
        return Automation(1.0)
    maker = factory_of(effect)
    few = KEPT_AT if moving.steady else KEPT_AT_MOVING
    amounts = np.unique([amount.steady] if amount.steady is not None else [*few, effect.amount_percent / 100.0])

    def gains_of(values: AnyEffect) -> Floats:
        after = [maker.predict_profile(values, context, before, at) for at in amounts.tolist()]
        gains = np.array([np.sqrt(before.power / predict_profile.power) for predict_profile in after])
        return np.where(amounts == 0.0, 1.0, gains)

    if moving.steady:
        gains = gains_of(effect)
        return amount.through(lambda a: np.interp(a, amounts, gains))
    sole = moving.sole()
    if sole is None:
        places, values = moving.along(context.frames)
        worked_out = {id(each): gains_of(each) for each in {id(each): each for each in values}.values()}
        table = np.array([worked_out[id(each)] for each in values]).T
        return Automation(lambda frames: _between(table, places, amounts, frames, amount.at_places(frames)))
    scale, values = sole.between_extremes(COARSE)
    table = np.array([gains_of(each) for each in values]).T
    if float(np.ptp(np.log10(table), axis=1).max()) * 20.0 > SAME_DB:  # else it has next to no say in the level
        scale, values = sole.between_extremes(FINE)
        table = np.array([gains_of(each) for each in values]).T
    return Automation(lambda frames: _between(table, scale, amounts, sole.scaled(frames), amount.at_places(frames)))


def _between(table: Floats, places: Floats, amounts: Floats, at: Floats, heard: Floats) -> Floats:
    """Values of a table ``[amounts, places]`` at places and amounts, straight between its own."""
    rows = np.array([np.interp(at, places, row) for row in table])
    if len(amounts) == 1:
        return np.asarray(rows[0])
    low = np.clip(np.searchsorted(amounts, heard, "right") - 1, 0, len(amounts) - 2)
    share = (heard - amounts[low]) / (amounts[low + 1] - amounts[low])
    which = np.arange(len(at))
    return np.asarray(rows[low, which] + share * (rows[low + 1, which] - rows[low, which]))


class EffectNode:
    """One colour in the chain: gives the frames of After in order, from where it was begun.

    ``upstream`` gives the frames before it, in order; where the colour is late by some, it is asked for as many more.
    """

    def __init__(
        self, effect: AnyEffect, context: EffectContext, amount: Automation, gain: Automation, start: int
    ) -> None:
        self.effect, self._setting = effect, context
        self._moving = AutomatedEffect(effect, context.clock)
        self._steered_to: AnyEffect | None = None
        self._maker = factory_of(effect)
        self.processor: Processor | None = self._maker.build(self._moving.largest(), context)
        self.latency, self.warm_up_frames = self.processor.latency, self.processor.warm_up_frames
        self._idle_cells: dict[int, bool] = {}
        self._amount, self._gain = amount, gain
        self.begun = False
        self.begin(start)
        self._dry = Delay(2, self.latency)
        self.history: tuple[tuple[int, float], ...] = ()

    def begin(self, start: int) -> None:
        """Begin at a frame, before anything was pulled."""
        self._fed = start  # the next frame to be asked for from upstream
        self._at = start  # the next frame that is given

    def pull(self, upstream: Any, frames: int) -> Audio:
        """The next ``[2, frames]``; ``upstream(start, frames)`` gives what comes before."""
        self.begun = True
        latency = self.latency
        needed = self._at + frames + latency - self._fed
        block = upstream(self._fed, needed)
        out = self._process(block, self._fed - latency)
        dry = self._dry.process(block)
        self._fed += needed
        self._at += frames
        return self._finished(out[:, needed - frames :], dry[:, needed - frames :], self._at - frames)

    def _finished(self, out: Audio, dry: Audio, at: int) -> Audio:
        """With the level kept, and bit for bit untouched where nothing of it is to be heard."""
        if self._gain.steady != 1.0:
            out = out * self._gain.at(at, out.shape[1]).astype(np.float32)
        if self._amount.steady is None:
            out = np.where(self._amount.at(at, out.shape[1]) <= 0.0, dry, out)
        return out

    def _process(self, block: Audio, at: int) -> Audio:
        """Piece by piece: those in which nothing of the colour is heard, nor soon after, are left out."""
        if self._amount.steady is not None and self._moving.steady:
            return self._steered(block, at)
        out, start = np.empty_like(block), 0
        while start < block.shape[1]:
            cell = (at + start) // CELL
            stop = min(block.shape[1], (cell + 1) * CELL - at)
            part = np.ascontiguousarray(block[:, start:stop])
            if self._idle(cell):
                self.processor = None
                out[:, start:stop] = 0.0
            else:
                if self.processor is None:
                    self.processor, self._steered_to = self._maker.build(self._moving.largest(), self._setting), None
                out[:, start:stop] = self._steered(part, at + start)
            start = stop
        return out

    def _idle(self, cell: int) -> bool:
        """Whether the amount is nothing from a piece of the song on for longer than what is heard there has a say."""
        if cell not in self._idle_cells:
            frames = np.arange(cell * CELL, (cell + 1) * CELL + self.warm_up_frames, IDLE_STEP, dtype=np.float64)
            self._idle_cells[cell] = not np.any(self._amount.at_places(frames) > 0.0)
        return self._idle_cells[cell]

    def _steered(self, block: Audio, at: int) -> Audio:
        """A piece through the processor, its controls moved on every few frames where they change."""
        assert self.processor is not None
        if self._moving.steady:
            made = self.processor.process(block, at, self._amount)
            self._note(at)
            return made
        out, start = np.empty_like(block), 0
        while start < block.shape[1]:
            first = (at + start) // STEP * STEP
            stop = min(block.shape[1], first + STEP - at)
            here = self._moving.at(first)
            if here is not self._steered_to:
                self._maker.set_target(self.processor, here, self._setting)
                self._steered_to = here
            out[:, start:stop] = self.processor.process(
                np.ascontiguousarray(block[:, start:stop]), at + start, self._amount
            )
            self._note(at + start)
            start = stop
        return out

    def _note(self, at: int) -> None:
        """Keep what dynamics took away lately, for a picture of it: frames, and the most at each, dB."""
        gain_history = getattr(self.processor, "gain_history", None)
        if gain_history is not None and gain_history.shape[1]:
            lowest = gain_history.min(axis=0)
            found = [(at + i, float(lowest[i : i + NOTED].min())) for i in range(0, len(lowest), NOTED)]
            self.history = (*self.history[-KEPT_NOTES:], *found)


def plan(
    effects: tuple[AnyEffect, ...], context: EffectContext, amounts: dict[str, Automation] | None = None
) -> list[tuple[AnyEffect, Automation, Automation]]:
    """Each colour with its amount and the gain that keeps the level, in order."""
    if not effects:
        return []  # the profile is not worked out for nothing
    profile, found = context.profile, []
    for effect in effects:
        given = (amounts or {}).get(effect.id)
        amount = given or amount_of(effect, context.clock)
        kept = context.kept_levels.get(effect)
        if given is not None or kept is None or kept[0] is not profile:
            kept = profile, *kept_level(effect, context, profile, amount)
            if given is None:
                context.keep_level(effect, kept)
        _, gain, profile = kept
        found.append((effect, amount, gain))
    return found


def tail_of(effects: tuple[AnyEffect, ...], context: EffectContext) -> int:
    """How long colours in a row ring on, frames."""
    return sum(factory_of(effect).tail(AutomatedEffect(effect, context.clock).largest(), context) for effect in effects)
