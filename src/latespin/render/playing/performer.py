"""Turns events of pads and knobs into moves that are held and controls that are turned."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Protocol

from latespin.media.midi.surface_reader import KnobEvent, PadEvent
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.held import Held, HeldRepeat
from latespin.model.playing.surface_map import EffectTarget, Pad, RepeatTarget, SurfaceMap, TempoTarget
from latespin.model.values.parameters import TEMPO_PERCENT, Parameter, parameters_of
from latespin.render.playing.live_controls import Control, LiveControls

REPEAT_VALUES = ("1/4", "1/4t", "1/8", "1/8t", "1/16", "1/16t", "1/32", "1/32t")
STILL_PERCENT = 0.1  # of tempo: nearer to the song’s own is the song’s own
NEAR = 0.025  # of its range: a knob picks a control up that is no farther away


class Hand(Protocol):
    """What holds moves."""

    def press(self, ident: str, moment: Held, *, coming: bool = False) -> None:
        """Hold a move."""

    def release(self, ident: str) -> None:
        """Let it go."""

    def cut(self, ident: str, value: str) -> None:
        """Give the slice of a repeat that is held another note value."""

    def ride(self, percent: float) -> None:
        """Run faster or slower."""


@dataclass
class _KnobState:
    """share : where the knob is.  caught : whether the control follows it."""

    share: float | None = None
    caught: bool = False


def pad_ident(number: int) -> str:
    """The name under which a pad holds its move."""
    return f"pad {number}"


def controls_of(surface: SurfaceMap, effects: Sequence[AnyEffect]) -> frozenset[Control]:
    """The controls of a version's effects that knobs turn."""
    targets = [knob.target for knob in surface.knobs if isinstance(knob.target, EffectTarget)]
    return frozenset((found.id, t.field) for t in targets if (found := t.find(effects)) is not None)


class Performer:
    """Not locked: one thread at a time.

    hand : holds the moves.  controls : of the version's effects.  effects : gives those.
    """

    def __init__(
        self, surface: SurfaceMap, hand: Hand, controls: LiveControls, effects: Callable[[], Sequence[AnyEffect]]
    ) -> None:
        self.surface, self.controls, self._hand, self._effects = surface, controls, hand, effects
        self.held: set[int] = set()
        self.tempo = 0.0  # per cent
        self._knobs = [_KnobState() for _ in surface.knobs]

    def handle(self, event: PadEvent | KnobEvent) -> None:
        """A pad or knob was moved."""
        if isinstance(event, KnobEvent):
            self.turn(event)
        elif event.held:
            self.press(event.pad)
        else:
            self.release(event.pad)

    def press(self, number: int) -> None:
        """Press a pad; one that latches is let go by the second press."""
        pad = self._pad(number)
        if pad is None:
            return
        if pad.latched and number in self.held:
            self._let_go(number)
            return
        self.held.add(number)
        self._hand.press(pad_ident(number), pad.move, coming=pad.coming)

    def release(self, number: int) -> None:
        """Let a pad go; one that latches stays held."""
        pad = self._pad(number)
        if pad is not None and not pad.latched and number in self.held:
            self._let_go(number)

    def release_all(self) -> None:
        """Let all pads go, those that latch as well, and the tempo."""
        if self.tempo:
            self.tempo = 0.0
            self._hand.ride(0.0)
        for number in list(self.held):
            self._let_go(number)

    def turn(self, event: KnobEvent) -> None:
        """Turn a knob. One with ends moves its control only once it has come to where that is."""
        if event.knob >= len(self._knobs):
            return
        target, state = self.surface.knobs[event.knob].target, self._knobs[event.knob]
        if isinstance(target, RepeatTarget):
            self._cut(event)
        elif isinstance(target, TempoTarget):
            share = _picked_up(state, event, TEMPO_PERCENT.to_fraction(self.tempo))
            if share is not None:
                percent = TEMPO_PERCENT.from_share(share)
                self.tempo = 0.0 if abs(percent) < STILL_PERCENT else percent
                self._hand.ride(self.tempo)
        elif isinstance(target, EffectTarget) and (found := self.control_of(target)) is not None:
            control, parameter, value = found
            now = parameter.to_fraction(value)
            share = _picked_up(state, event, now)
            if share is not None:
                self.controls.turn(control, parameter.from_share(share))

    def control_of(self, target: EffectTarget) -> tuple[Control, Parameter, float] | None:
        """What a target is in this version: its control, its parameter and its value; None where the version has no such effect."""
        effect = target.find(self._effects())
        if effect is None:
            return None
        control = effect.id, target.field
        turned = self.controls.value(control)
        value = float(getattr(effect, target.field)) if turned is None else turned
        return control, parameters_of(type(effect))[target.field], value

    def repeat_value(self, number: int) -> str:
        """The note value that a knob for the length of repeats is at."""
        share = self._knobs[number].share
        return "" if share is None else _value_at(share)

    def share(self, number: int) -> float:
        """Where a knob is, 0 to 1; at the start where nobody knows."""
        return self._knobs[number].share or 0.0

    def forget_knobs(self) -> None:
        """Controls have changed otherwise: each knob has to come to its control anew."""
        for state in self._knobs:
            state.caught = False

    def _pad(self, number: int) -> Pad | None:
        return self.surface.pads[number] if number < len(self.surface.pads) else None

    def _let_go(self, number: int) -> None:
        self.held.discard(number)
        self._hand.release(pad_ident(number))

    def _cut(self, event: KnobEvent) -> None:
        state = self._knobs[event.knob]
        share = min(1.0, max(0.0, (state.share or 0.0) + event.by if event.share is None else event.share))
        before, state.share = state.share, share
        value = _value_at(share)
        if before is not None and value == _value_at(before):
            return
        for number in self.held:
            pad = self._pad(number)
            if pad is not None and isinstance(pad.move, HeldRepeat):
                self._hand.cut(pad_ident(number), value)


def _value_at(share: float) -> str:
    return REPEAT_VALUES[min(len(REPEAT_VALUES) - 1, int(share * len(REPEAT_VALUES)))]


def _picked_up(state: _KnobState, event: KnobEvent, now: float) -> float | None:
    """The share a control goes to, ``now`` being where it is; None while the knob has not come to it."""
    if event.share is None:
        return min(1.0, max(0.0, now + event.by))
    before, state.share = state.share, event.share
    passed = before is not None and min(before, event.share) <= now <= max(before, event.share)
    state.caught = state.caught or passed or abs(event.share - now) <= NEAR
    return event.share if state.caught else None
