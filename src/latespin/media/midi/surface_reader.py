"""MIDI messages of a control surface as presses of pads and turns of knobs."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import TYPE_CHECKING

from latespin.model.playing.surface_map import Source, SurfaceMap

if TYPE_CHECKING:
    import mido

STEPS = 128.0  # of a knob without end, from one end of a control to the other
PRESSED = 64  # the least value of a control change that presses a pad


@dataclass(frozen=True)
class PadEvent:
    """A pad is pressed, or let go."""

    pad: int
    held: bool


@dataclass(frozen=True)
class KnobEvent:
    """A knob is turned: to a share of its range, 0 to 1, or, where it is None, by a share."""

    knob: int
    share: float | None
    by: float = 0.0


class SurfaceReader:
    """Reads messages by a map; keeps what the coarse half of a control of 14 bits was."""

    def __init__(self, surface: SurfaceMap) -> None:
        self._surface = surface
        self._coarse: dict[tuple[int, int], int] = {}

    def read(self, message: "mido.Message") -> list[PadEvent | KnobEvent]:
        """What a message does; nothing for one that the map does not know."""
        events: list[PadEvent | KnobEvent] = []
        for number, pad in enumerate(self._surface.pads):
            held = _presses(pad.source, message)
            if held is not None:
                events.append(PadEvent(number, held))
        for number, knob in enumerate(self._surface.knobs):
            found = self._turn(number, knob.source, message)
            if found is not None:
                events.append(found)
        return events

    def _turn(self, knob: int, source: Source | None, message: "mido.Message") -> KnobEvent | None:
        if source is None or not _on_channel(source, message):
            return None
        if source.kind == "pitch-bend" and message.type == "pitchwheel":
            return KnobEvent(knob, (message.pitch + 8192) / 16383.0)
        if message.type != "control_change":
            return None
        if source.kind == "control" and message.control == source.number:
            return KnobEvent(knob, message.value / 127.0)
        if source.kind == "relative" and message.control == source.number:
            return KnobEvent(knob, None, (message.value - (128 if message.value > 64 else 0)) / STEPS)
        if source.kind == "control-14" and message.control in (source.number, source.number + 32):
            place = message.channel, source.number
            fine = message.control > 31
            if not fine:
                self._coarse[place] = message.value
            return KnobEvent(knob, (128 * self._coarse.get(place, 0) + (message.value if fine else 0)) / 16383.0)
        return None


def _on_channel(source: Source, message: "mido.Message") -> bool:
    return hasattr(message, "channel") and source.channel in (None, message.channel + 1)


def _presses(source: Source | None, message: "mido.Message") -> bool | None:
    """Whether a message presses a pad (True), lets it go (False), or neither."""
    if source is None or not _on_channel(source, message):
        return None
    if source.kind == "note" and message.type in ("note_on", "note_off") and message.note == source.number:
        return bool(message.type == "note_on" and message.velocity > 0)
    if source.kind == "control" and message.type == "control_change" and message.control == source.number:
        return bool(message.value >= PRESSED)
    return None


def learnt(messages: "Sequence[mido.Message]", *, knob: bool) -> Source | None:
    """Which source sent some messages, while one knob or pad was moved; None where none of them tells."""
    for message in messages:
        if message.type == "note_on" and message.velocity > 0 and not knob:
            return Source(kind="note", number=message.note, channel=message.channel + 1)
        if message.type == "pitchwheel" and knob:
            return Source(kind="pitch-bend", channel=message.channel + 1)
    controls = [message for message in messages if message.type == "control_change"]
    if not controls:
        return None
    first = controls[0]
    number, channel = first.control, first.channel + 1
    if not knob:
        return Source(kind="control", number=number, channel=channel)
    numbers = {message.control for message in controls if message.channel == first.channel}
    for coarse in sorted(numbers):
        if coarse < 32 and coarse + 32 in numbers:
            return Source(kind="control-14", number=coarse, channel=channel)
    values = [message.value for message in controls if message.control == number]
    steps = all(value <= 8 or value >= 120 for value in values) and len(values) > 2
    if steps and not _runs(values):
        return Source(kind="relative", number=number, channel=channel)
    return Source(kind="control", number=number, channel=channel)


def _runs(values: Sequence[int]) -> bool:
    """Whether values run up or down, as those of a knob with ends do near them."""
    steps = [b - a for a, b in pairwise(values)]
    return all(step > 0 for step in steps) or all(step < 0 for step in steps)


def light(source: Source, on: bool) -> "mido.Message | None":
    """The message that lights a pad, or puts its light out; None where it has none."""
    import mido  # the window reads no MIDI before a surface is there

    channel = (source.channel or 1) - 1
    if source.kind == "note":
        return mido.Message("note_on", note=source.number, velocity=127 if on else 0, channel=channel)
    if source.kind == "control":
        return mido.Message("control_change", control=source.number, value=127 if on else 0, channel=channel)
    return None
