"""Endings: how a version finishes, and where."""

from typing import Annotated, get_args

from latespin.model.timing.positions import Length, Position
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct


class NoEnding(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="none"):
    """The version ends as the track does."""


class _At(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """at : where it begins to end; None is the best strong bar line in the last eighth of the song."""

    at: Position | None = None


class RingOut(_At, frozen=True, kw_only=True, tag="ring-out"):
    """The song stops at a beat; a room fed by the moments before it carries on. feed : how long before."""

    feed: Length = Length(beats=2.0)
    decay_seconds: Annotated[float, p.ENDING_DECAY] = p.ENDING_DECAY.default
    size_percent: Annotated[float, p.ENDING_SIZE] = p.ENDING_SIZE.default
    tone_hz: Annotated[float, p.ENDING_TONE] = p.ENDING_TONE.default
    wet_db: Annotated[float, p.ENDING_WET] = p.ENDING_WET.default


class TapeStopEnd(_At, frozen=True, kw_only=True, tag="tape-stop"):
    """The song slows to a standstill over ``length`` and does not come back."""

    length: Length = Length(beats=4.0)
    tension: Annotated[float, p.TENSION] = 0.25
    two_stages: bool = True
    second_percent: Annotated[float, p.SECOND_SHARE] = p.SECOND_SHARE.default


class EchoEnd(_At, frozen=True, kw_only=True, tag="echo"):
    """The song stops; its last slice, a note ``value`` long, is repeated ever more slowly until it stands still, fading."""

    length: Length = Length(beats=8.0)
    value: str = "1/4"
    tension: Annotated[float, p.TENSION] = -0.2
    fade_db: Annotated[float, p.ECHO_FADE] = p.ECHO_FADE.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


class Fade(_At, frozen=True, kw_only=True, tag="fade"):
    """Everything fades to nothing over ``length``."""

    length: Length = Length(seconds=8.0)
    tension: Annotated[float, p.TENSION] = p.TENSION.default


class CleanStop(_At, frozen=True, kw_only=True, tag="stop"):
    """The song stops; a room of the Colour stage rings on."""


AnyEnding = NoEnding | RingOut | TapeStopEnd | EchoEnd | Fade | CleanStop
ENDINGS: dict[str, type[AnyEnding]] = {str(kind.__struct_config__.tag): kind for kind in get_args(AnyEnding)}
ENDING_TITLES = {
    "none": "As the track ends", "ring-out": "Ring-out", "tape-stop": "Tape stop", "echo": "Echo wind-down", "fade": "Fade",
    "stop": "Clean stop",
}  # fmt: skip


class Ending(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The Ending stage."""

    on: bool = True
    way: AnyEnding = NoEnding()

    @property
    def heard(self) -> AnyEnding:
        """What is heard of it."""
        return self.way if self.on else NoEnding()


def ending_kind(way: AnyEnding) -> str:
    """``ring-out``, ``fade`` …"""
    return str(way.__struct_config__.tag)
