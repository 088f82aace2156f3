"""One effect in the chain."""

from typing import Any

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.delay import Delay
from latespin.model.effects.effects import AnyEffect
from latespin.render.effects.context import AutomatedEffect, EffectContext
from latespin.render.effects.factory import Processor, factory_of

NOTED, KEPT_NOTES = 512, 900  # frames to a value of the gain history, and how many values are kept
CELL, IDLE_STEP = 8192, 32  # frames of a piece that may be left out, and between which its amount is looked at
NOTHING = 1e-20  # smaller samples become silence: denormal numbers are slow to compute
STEP = 128  # frames after which automated controls are set again

GainHistory = tuple[tuple[int, tuple[float, ...]], ...]


class EffectNode:
    """One effect in the chain: gives the frames of After in order, from its starting place.

    solo : the part of the effect that is heard alone, or None.
    ``upstream`` gives the input frames in order; an effect with latency reads ahead by it.
    """

    def __init__(
        self, effect: AnyEffect, context: EffectContext, amount: Automation, gain: Automation, start: int,
        solo: int | None = None,
    ) -> None:  # fmt: skip
        self.effect, self._setting = effect, context
        self._moving = AutomatedEffect(effect, context.clock)
        self._steered_to: AnyEffect | None = None
        self._maker = factory_of(effect)
        self._solo = solo
        self.processor: Processor | None = self._build()
        self.latency, self.warm_up_frames = self.processor.latency, self.processor.warm_up_frames
        self._idle_cells: dict[int, bool] = {}
        self._amount, self._gain = amount, gain
        self.begun = False
        self.begin(start)
        self._dry = Delay(2, self.latency)
        self.history: GainHistory = ()

    def _build(self) -> Processor:
        """A new processor, soloed if asked."""
        made = self._maker.build(self._moving.largest(), self._setting)
        if self._solo is not None and hasattr(made, "solo"):
            made.solo = self._solo
        return made

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
        out[np.abs(out) < NOTHING] = 0.0
        dry = self._dry.process(block)
        self._fed += needed
        self._at += frames
        return self._finished(out[:, needed - frames :], dry[:, needed - frames :], self._at - frames)

    def _finished(self, out: Audio, dry: Audio, at: int) -> Audio:
        """With the level kept, and bit for bit untouched where nothing of it is to be heard."""
        if self._gain.steady != 1.0:
            out = out * self._gain.at(at, out.shape[1]).astype(np.float32)
        if self._amount.steady is None and self._solo is None:
            out = np.where(self._amount.at(at, out.shape[1]) <= 0.0, dry, out)
        return out

    def _process(self, block: Audio, at: int) -> Audio:
        """Piece by piece: those in which nothing of the effect is heard, nor soon after, are left out."""
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
                    self.processor, self._steered_to = self._build(), None
                out[:, start:stop] = self._steered(part, at + start)
            start = stop
        return out

    def _idle(self, cell: int) -> bool:
        """True if the amount stays 0 from a piece of the song on for longer than the effect's memory."""
        if self._solo is not None:
            return False
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
        """Keep the recent gain reduction of each part for the plot: frames, and the largest reduction near them, dB."""
        gain_history = getattr(self.processor, "gain_history", None)
        if gain_history is not None and gain_history.shape[1]:
            found = [
                (at + i, tuple(gain_history[:, i : i + NOTED].min(axis=1).tolist()))
                for i in range(0, gain_history.shape[1], NOTED)
            ]
            self.history = (*self.history[-KEPT_NOTES:], *found)
