"""Endings: how a version finishes, and where."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

from latespin.model.timing.positions import Length, Position
from latespin.model.values import parameters as p
from latespin.model.values.kinds import Kind, Kinds
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.values.words import Words

FEED = Words("Fed by", "How much of the music before the end rings in the reverb: bars, beats or seconds.")
LENGTH = Words("Length", "How long it takes: bars, beats, a note value or seconds, such as 2 bars, 1/2 or 1.5 s.")
TWO_STAGES = Words(
    "Two stages", "Adds a second, steeper slow-down at the end, like a motor switched off and then braked."
)
TAIL = Words(
    "Tail", "The reverb rings until it has decayed, or fades out over a length of its own.",
    {"decay": "By decay", "length": "By length"},
)  # fmt: skip
VALUE = Words("Note value", "Length of one repeat.")


@dataclass(frozen=True)
class EndingInfo:
    """title : in the window.  summary : one sentence.  fields : of its form.  begins : the label of its position."""

    title: str
    summary: str
    fields: tuple[str, ...]
    begins: str


_KINDS = Kinds[EndingInfo]("ending")
ENDINGS: "dict[str, type[AnyEnding]]" = _KINDS.by_tag


def ending(
    title: str, summary: str, *, fields: tuple[str, ...] = (), begins: str = "Ends at"
) -> Callable[[Kind], Kind]:
    """Declare a struct as an ending. Its kind, the word in files, is the struct's tag."""
    return _KINDS.declare(EndingInfo(title, summary, fields, begins))


def ending_info(kind: str) -> EndingInfo:
    """The declaration of a kind."""
    return _KINDS.info(kind)


@ending("As the track ends", "The version ends as the track does.")
class NoEnding(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="none"):
    """The version ends as the track does."""


class _At(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """at : where it begins to end; None is the best strong bar line in the last eighth of the song."""

    at: Position | None = None

    def active_fields(self) -> dict[str, bool]:
        """Whether a field does something now; fields that are not named always do."""
        return {}


@ending(
    "Ring-out",
    "The song stops on a beat and its last moments ring on in a reverb.",
    fields=(
        "feed",
        "decay_seconds",
        "wet_db",
        "blend_percent",
        "size_percent",
        "tone_hz",
        "tail",
        "tail_seconds",
        "tension",
    ),
)
class RingOut(_At, frozen=True, kw_only=True, tag="ring-out"):
    """The song stops at a beat, and a room fed by the moments before it carries on.

    feed : how long before.  blend_percent : of the room before the stop.  tail : until it has decayed, or ``tail_seconds``
    long, with a fade along ``tension``.
    """

    feed: Annotated[Length, FEED] = Length(beats=2.0)
    decay_seconds: Annotated[float, p.ENDING_DECAY] = p.ENDING_DECAY.default
    size_percent: Annotated[float, p.ENDING_SIZE] = p.ENDING_SIZE.default
    tone_hz: Annotated[float, p.ENDING_TONE] = p.ENDING_TONE.default
    wet_db: Annotated[float, p.ENDING_WET] = p.ENDING_WET.default
    blend_percent: Annotated[float, p.ENDING_BLEND] = p.ENDING_BLEND.default
    tail: Annotated[Literal["decay", "length"], TAIL] = "decay"
    tail_seconds: Annotated[float, p.TAIL_SECONDS] = p.TAIL_SECONDS.default
    tension: Annotated[float, p.TENSION] = p.TENSION.default

    def active_fields(self) -> dict[str, bool]:
        return dict.fromkeys(("tail_seconds", "tension"), self.tail == "length")


@ending(
    "Tape stop",
    "The song slows to a standstill.",
    fields=("length", "two_stages", "tension", "second_percent"),
    begins="Slows from",
)
class TapeStopEnd(_At, frozen=True, kw_only=True, tag="tape-stop"):
    """The song slows to a standstill over ``length`` and does not come back."""

    length: Annotated[Length, LENGTH] = Length(beats=4.0)
    tension: Annotated[float, p.TENSION] = 0.25
    two_stages: Annotated[bool, TWO_STAGES] = True
    second_percent: Annotated[float, p.SECOND_SHARE] = p.SECOND_SHARE.default

    def active_fields(self) -> dict[str, bool]:
        return {"second_percent": self.two_stages}


@ending(
    "Echo wind-down",
    "The last slice repeats ever more slowly and fades.",
    fields=("length", "value", "tension", "fade_db", "feedback_percent", "high_cut_hz", "wow_percent"),
)
class EchoEnd(_At, frozen=True, kw_only=True, tag="echo"):
    """The song stops; its last slice, a note ``value`` long, is repeated ever more slowly until it stands still, fading."""

    length: Annotated[Length, LENGTH] = Length(beats=8.0)
    value: Annotated[str, VALUE] = "1/4"
    tension: Annotated[float, p.TENSION] = -0.2
    fade_db: Annotated[float, p.ECHO_FADE] = p.ECHO_FADE.default
    feedback_percent: Annotated[float, p.ENDING_FEEDBACK] = p.ENDING_FEEDBACK.default
    high_cut_hz: Annotated[float, p.ENDING_HIGH_CUT] = p.ENDING_HIGH_CUT.default
    wow_percent: Annotated[float, p.ENDING_WOW] = p.ENDING_WOW.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


@ending("Fade", "Everything fades to silence.", fields=("length", "tension"), begins="Fades from")
class Fade(_At, frozen=True, kw_only=True, tag="fade"):
    """Everything fades to nothing over ``length``."""

    length: Annotated[Length, LENGTH] = Length(seconds=8.0)
    tension: Annotated[float, p.TENSION] = p.TENSION.default


@ending("Clean stop", "The song stops on a beat.")
class CleanStop(_At, frozen=True, kw_only=True, tag="stop"):
    """The song stops; the reverbs of the Effects stage ring on."""


AnyEnding = NoEnding | RingOut | TapeStopEnd | EchoEnd | Fade | CleanStop


class Ending(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The Ending stage."""

    on: bool = True
    way: AnyEnding = NoEnding()

    @property
    def heard(self) -> AnyEnding:
        """The ending in effect: ``NoEnding`` while the stage is off."""
        return self.way if self.on else NoEnding()
