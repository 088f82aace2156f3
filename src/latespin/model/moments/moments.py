"""The kinds of moments. What each of them does, to the frame, is written in docs/moments.md."""

from collections.abc import Iterable
from typing import Annotated, Literal, get_args

import msgspec

from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.effects.wear import RPM
from latespin.model.moments.declaration import Moment, moment, order_moments
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.held import (
    Held,
    HeldEffect,
    HeldRepeat,
    HeldReverse,
    HeldSilence,
    HeldSpinUp,
    HeldStop,
    HeldTempo,
)
from latespin.model.moments.takes import Take
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.values.words import Words

TimeMode = Literal["keep", "add"]
CoverWay = Literal["silence", "repeat", "reverse", "tape-stop", "muffle"]
ThrowInto = Literal["echo", "hall"]
Material = Literal["song", "drums"]
TURN_SECONDS = {"33": 1.8, "45": 60.0 / 45.0, "78": 60.0 / 78.0}  # of a record, by its revolutions a minute
MOST_STEPS = 4  # note values of a stutter, one after the other

TIME = Words(
    "Afterwards", "The song continues in time as if nothing had happened, or from where it stopped, which makes the version longer.",
    {"keep": "Keep time", "add": "Add time"},
)  # fmt: skip
TWO_STAGES = Words(
    "Two stages", "Adds a second, steeper slow-down at the end, like a motor switched off and then braked."
)
BACK = Words("And back", "The pitch glides back by the end; off, it jumps back.")
VALUES = Words("Repeats", "Note values of the repeated slice. Several follow one another, each for an equal share.")
FREE = Words("In milliseconds", "Repeats at a free length instead of a note value, down to a buzz.")
TURNING = Words("Reverse every other", "Plays every second repeat backwards.")
MATERIAL = Words(
    "Material",
    "Repeats the whole song, or only its drums while the rest goes on.",
    {"song": "The whole song", "drums": "The drums alone"},
)
COVER = Words(
    "Cover with", "What plays instead.",
    {"silence": "Silence", "repeat": "Repeat the slice before", "reverse": "Reverse", "tape-stop": "Short tape stop", "muffle": "Muffle"},
)  # fmt: skip
VALUE = Words("Note value", "Length of one repeat.")
THROW_INTO = Words("Throw into", "The effect that carries the range on.", {"echo": "An echo", "hall": "A hall"})
FADES = Words("Fades in milliseconds", "Gives the fades in milliseconds instead of note values.")
FADE_IN_VALUE = Words("Fade in", "Note value of the fade into the range’s gain.")
FADE_OUT_VALUE = Words("Fade out", "Note value of the fade back to the song’s level.")
SEND = Words(
    "Send to", "An effect of its own, in which the sound rings on beyond its end.",
    {"none": "Nothing", "echo": "An echo", "hall": "A hall"},
)  # fmt: skip
MUFFLED = Words("Muffled", "Removes its highs.")


@moment(
    "Tape stop",
    "The song slows to a standstill and comes back.",
    fields=("time", "two_stages", "tension", "depth_percent", "second_percent", "gap_percent", "spin_percent"),
    beats=4.0,
)
class TapeStop(Moment, frozen=True, kw_only=True, tag="tape-stop"):
    """The song slows down, to a standstill by default, and its pitch falls with it; it returns after a silence.

    spin_percent : the share of the length, at its end, in which it comes up to speed from a standstill.
    """

    time: Annotated[TimeMode, TIME] = "keep"
    tension: Annotated[float, p.TENSION] = 0.25
    depth_percent: Annotated[float, p.DEPTH] = p.DEPTH.default
    two_stages: Annotated[bool, TWO_STAGES] = True
    second_percent: Annotated[float, p.SECOND_SHARE] = p.SECOND_SHARE.default
    gap_percent: Annotated[float, p.GAP] = p.GAP.default
    spin_percent: Annotated[float, p.SPIN_UP] = p.SPIN_UP.default

    @property
    def spins_up(self) -> float:
        """The share of the length, 0 to 1, in which it spins up: none where it never stands still."""
        return self.spin_percent / 100.0 if self.depth_percent == 100.0 else 0.0

    def active_fields(self) -> dict[str, bool]:
        return {"second_percent": self.two_stages, "spin_percent": self.depth_percent == 100.0}


@moment("Spin-up", "The song comes up to speed from a standstill.", fields=("time", "tension"), beats=2.0)
class SpinUp(Moment, frozen=True, kw_only=True, tag="spin-up"):
    """The song comes up to speed from a standstill, its pitch rising with it."""

    time: Annotated[TimeMode, TIME] = "keep"
    tension: Annotated[float, p.TENSION] = 0.25


@moment(
    "Speed dip",
    "The song slows down and returns to its speed.",
    fields=("time", "depth_percent", "tension", "lowest_percent", "hold_percent", "tension_back"),
    beats=4.0,
)
class Dip(Moment, frozen=True, kw_only=True, tag="dip"):
    """The song slows down and returns to its speed.

    lowest_percent : the place of the middle of its slowest part, which lasts ``hold_percent`` of the length; the ways there and
    back share the rest as the place divides the length.
    """

    time: Annotated[TimeMode, TIME] = "add"
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    depth_percent: Annotated[float, p.DIP_DEPTH] = p.DIP_DEPTH.default
    lowest_percent: Annotated[float, p.LOWEST_AT] = p.LOWEST_AT.default
    hold_percent: Annotated[float, p.HOLD] = p.HOLD.default
    tension_back: Annotated[float, p.TENSION_BACK] = p.TENSION_BACK.default


@moment(
    "Speed ramp",
    "The song goes to another speed, and its pitch with it.",
    fields=("time", "speed", "tension"),
    beats=8.0,
)
class Ramp(Moment, frozen=True, kw_only=True, tag="ramp"):
    """The song goes to another speed, pitch and all, and is back at its own at the end."""

    time: Annotated[TimeMode, TIME] = "add"
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    speed: Annotated[float, p.RAMP_SPEED] = p.RAMP_SPEED.default


@moment("Pitch glide", "The pitch glides while the tempo stays.", fields=("semitones", "tension", "back"), beats=4.0)
class PitchGlide(Moment, frozen=True, kw_only=True, tag="pitch-glide"):
    """The pitch glides away while time runs normally; ``back``: it returns by the end."""

    semitones: Annotated[float, p.GLIDE] = p.GLIDE.default
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    back: Annotated[bool, BACK] = False


@moment(
    "Stutter",
    "Repeats what was just heard.",
    fields=("values", "time", "free", "slice_ms", "material", "turning"),
    beats=2.0,
)
class Stutter(Moment, frozen=True, kw_only=True, tag="stutter"):
    """A slice that has just been heard is repeated.

    values : note values, each for an equal share of the length. free : by ``slice_ms`` instead. turning : every other repeat is
    played backwards. material : the whole song, or its drums alone while the rest goes on.
    """

    time: Annotated[TimeMode, TIME] = "keep"
    values: Annotated[tuple[str, ...], VALUES] = ("1/8",)
    free: Annotated[bool, FREE] = False
    slice_ms: Annotated[float, p.SLICE_MS] = p.SLICE_MS.default
    turning: Annotated[bool, TURNING] = False
    material: Annotated[Material, MATERIAL] = "song"

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.values) <= MOST_STEPS:
            raise Unusable(
                tr("A stutter has 1 to {0} note values one after the other, not {1}.").format(
                    MOST_STEPS, len(self.values)
                )
            )
        for value in self.values:
            beats_of(value)

    def active_fields(self) -> dict[str, bool]:
        return {"slice_ms": self.free, "values": not self.free, "time": self.material == "song"}


@moment(
    "Stuck record",
    "The needle falls back by one turn of the record, with a tick, again and again.",
    fields=("rpm", "tick_db", "time"),
    beats=8.0,
)
class StuckRecord(Moment, frozen=True, kw_only=True, tag="stuck-record"):
    """The turn of the record before the start is repeated, each time from a tick on; with another one the needle comes free."""

    time: Annotated[TimeMode, TIME] = "keep"
    rpm: Annotated[Literal["33", "45", "78"], RPM] = "33"
    tick_db: Annotated[float, p.TICK] = p.TICK.default

    @property
    def turn_seconds(self) -> float:
        """How long a turn takes."""
        return TURN_SECONDS[self.rpm]


@moment("Reverse", "Plays the range backwards.", fields=("time",), beats=2.0)
class Reverse(Moment, frozen=True, kw_only=True, tag="reverse"):
    """The range plays backwards. With added time, the passage just heard plays backwards before the song continues."""

    time: Annotated[TimeMode, TIME] = "keep"


@moment("Cover", "Makes a word or a range unheard.", fields=("way", "value", "muffle_hz"), beats=1.0)
class Cover(Moment, frozen=True, kw_only=True, tag="cover"):
    """The range is replaced: by silence, the slice before it, its reverse, a short tape stop, or a muffled copy."""

    way: Annotated[CoverWay, COVER] = "silence"
    value: Annotated[str, VALUE] = "1/16"
    muffle_hz: Annotated[float, p.MUFFLE] = p.MUFFLE.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)

    def active_fields(self) -> dict[str, bool]:
        return {"value": self.way == "repeat", "muffle_hz": self.way == "muffle"}


@moment(
    "Gain",
    "Makes a range louder or quieter, with fades.",
    fields=("gain_db", "fade_in_value", "fade_out_value", "free", "fade_in_ms", "fade_out_ms"),
    beats=8.0,
)
class GainChange(Moment, frozen=True, kw_only=True, tag="gain"):
    """The range is louder or quieter; the change fades in and out within it, in note values or (``free``) in milliseconds."""

    gain_db: Annotated[float, p.MOMENT_GAIN] = p.MOMENT_GAIN.default
    free: Annotated[bool, FADES] = False
    fade_in_value: Annotated[str, FADE_IN_VALUE] = "1/16"
    fade_out_value: Annotated[str, FADE_OUT_VALUE] = "1/16"
    fade_in_ms: Annotated[float, p.FADE_IN] = 50.0
    fade_out_ms: Annotated[float, p.FADE_OUT] = p.FADE_OUT.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.fade_in_value)
        beats_of(self.fade_out_value)

    def active_fields(self) -> dict[str, bool]:
        values = dict.fromkeys(("fade_in_value", "fade_out_value"), not self.free)
        return values | dict.fromkeys(("fade_in_ms", "fade_out_ms"), self.free)


class SendMoment(Moment, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A send into an echo, by note value and feedback, or into a hall, by its decay; its level against the song."""

    value: Annotated[str, VALUE] = "1/4d"
    feedback_percent: Annotated[float, p.FEEDBACK] = p.FEEDBACK.default
    decay_seconds: Annotated[float, p.DECAY] = 2.5
    wet_db: Annotated[float, p.THROW_WET] = p.THROW_WET.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


@moment(
    "Throw",
    "Sends the range into an echo or a hall, which rings on.",
    fields=("into", "value", "wet_db", "feedback_percent", "decay_seconds"),
    beats=1.0,
)
class Throw(SendMoment, frozen=True, kw_only=True, tag="throw"):
    """The range is sent into an echo or a hall, which rings on under the song."""

    into: Annotated[ThrowInto, THROW_INTO] = "echo"

    def active_fields(self) -> dict[str, bool]:
        echo = self.into == "echo"
        return {"value": echo, "feedback_percent": echo, "decay_seconds": not echo}


@moment(
    "Drop-in",
    "Plays another sound over the song.",
    fields=(
        "gain_db",
        "fade_in_ms",
        "fade_out_ms",
        "send",
        "value",
        "feedback_percent",
        "decay_seconds",
        "wet_db",
        "muffled",
        "muffle_hz",
    ),
    beats=8.0,
)
class DropIn(SendMoment, frozen=True, kw_only=True, tag="drop-in"):
    """Another sound over the song, at most from start to end. muffled : low-passed at ``muffle_hz``.

    send : an echo or a hall of its own, fed by the sound, which rings on beyond its end.
    """

    path: str = ""
    gain_db: Annotated[float, p.SOUND_GAIN] = p.SOUND_GAIN.default
    fade_in_ms: Annotated[float, p.FADE_IN] = p.FADE_IN.default
    fade_out_ms: Annotated[float, p.FADE_OUT] = p.FADE_OUT.default
    muffled: Annotated[bool, MUFFLED] = False
    muffle_hz: Annotated[float, p.MUFFLE] = p.MUFFLE.default
    send: Annotated[Literal["none", "echo", "hall"], SEND] = "none"

    def active_fields(self) -> dict[str, bool]:
        echo, hall = self.send == "echo", self.send == "hall"
        return {
            "muffle_hz": self.muffled, "value": echo, "feedback_percent": echo, "decay_seconds": hall, "wet_db": echo or hall,
        }  # fmt: skip


AnyMoment = (
    TapeStop | SpinUp | Dip | Ramp | PitchGlide | Stutter | StuckRecord | Reverse | Cover | ColourDip | EffectRange | Throw | DropIn | GainChange
    | HeldRepeat | HeldReverse | HeldStop | HeldSpinUp | HeldSilence | HeldTempo | HeldEffect
)  # fmt: skip


EffectMoment = EffectRange | HeldEffect  # with an effect that has settings of its own
order_moments(get_args(AnyMoment))


class Moments(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The moments of a version, in any order, and the takes that some of them were played in."""

    on: bool = True
    placed: tuple[AnyMoment, ...] = ()
    takes: tuple[Take, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        ids = [moment.id for moment in self.placed]
        if len(set(ids)) != len(ids):
            raise ValueError("two moments have the same id")
        if len({take.id for take in self.takes}) != len(self.takes):
            raise ValueError("two takes have the same id")

    @property
    def heard(self) -> "tuple[AnyMoment, ...]":
        """Those that are on, and whose takes are."""
        if not self.on:
            return ()
        muted = {take.id for take in self.takes if not take.on}
        return tuple(m for m in self.placed if m.on and not (isinstance(m, Held) and m.take in muted))

    def find(self, ident: str) -> "AnyMoment | None":
        """The moment with this id, if it is there."""
        return next((moment for moment in self.placed if moment.id == ident), None)

    def with_changed(self, changed: "AnyMoment") -> "Moments":
        """The same with the moment of that id replaced, or added."""
        if self.find(changed.id) is None:
            return msgspec.structs.replace(self, placed=(*self.placed, changed))
        return msgspec.structs.replace(self, placed=tuple(changed if m.id == changed.id else m for m in self.placed))

    def with_all_changed(self, changed: "Iterable[AnyMoment]") -> "Moments":
        """The same with each of these replaced, or added."""
        moments = self
        for each in changed:
            moments = moments.with_changed(each)
        return moments

    def without(self, *idents: str) -> "Moments":
        """The same without some moments."""
        return msgspec.structs.replace(self, placed=tuple(m for m in self.placed if m.id not in idents))


def bends_time(moment: Moment) -> bool:
    """Whether the song is read otherwise while it lasts, so that no other such moment can be there."""
    if isinstance(moment, Cover):
        return moment.way != "muffle"
    return isinstance(moment, TapeStop | SpinUp | Dip | Ramp | PitchGlide | Stutter | StuckRecord | Reverse)
