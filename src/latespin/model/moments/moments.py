"""Moments: what happens at a place in the song. What each of them does, to the frame, is written in docs/moments.md."""

from typing import Annotated, Literal, get_args

import msgspec

from latespin.errors import Unusable
from latespin.model.timing.positions import Position
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct

TimeMode = Literal["keep", "add"]
CoverWay = Literal["silence", "repeat", "reverse", "tape-stop", "muffle"]
DipColour = Literal["water", "phone", "hall", "version-hall"]
ThrowInto = Literal["echo", "hall"]
Material = Literal["song", "drums"]
MOST_STEPS = 4  # note values of a stutter, one after the other


class Moment(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """Something that happens from ``start`` to ``end``, places in the track. id tells a version's moments apart."""

    id: str = ""
    on: bool = True
    label: str = ""
    start: Position
    end: Position


class TapeStop(Moment, frozen=True, kw_only=True, tag="tape-stop"):
    """The song slows to a standstill (or by ``depth``), its pitch falling with it, and comes back after a silence."""

    time: TimeMode = "keep"
    tension: Annotated[float, p.TENSION] = 0.25
    depth_percent: Annotated[float, p.DEPTH] = p.DEPTH.default
    two_stages: bool = True
    second_percent: Annotated[float, p.SECOND_SHARE] = p.SECOND_SHARE.default
    gap_percent: Annotated[float, p.GAP] = p.GAP.default


class SpinUp(Moment, frozen=True, kw_only=True, tag="spin-up"):
    """The song comes up to speed from a standstill, its pitch rising with it."""

    time: TimeMode = "keep"
    tension: Annotated[float, p.TENSION] = 0.25


class Dip(Moment, frozen=True, kw_only=True, tag="dip"):
    """The song sags and comes back to its speed, slowest in the middle."""

    time: TimeMode = "add"
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    depth_percent: Annotated[float, p.DIP_DEPTH] = p.DIP_DEPTH.default


class Ramp(Moment, frozen=True, kw_only=True, tag="ramp"):
    """The song goes to another speed, pitch and all, and is back at its own at the end."""

    time: TimeMode = "add"
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    speed: Annotated[float, p.RAMP_SPEED] = p.RAMP_SPEED.default


class PitchGlide(Moment, frozen=True, kw_only=True, tag="pitch-glide"):
    """The pitch glides away while time goes on as it does; ``back``: and returns by the end."""

    semitones: Annotated[float, p.GLIDE] = p.GLIDE.default
    tension: Annotated[float, p.TENSION] = p.TENSION.default
    back: bool = False


class Stutter(Moment, frozen=True, kw_only=True, tag="stutter"):
    """A slice that has just been heard is repeated.

    values : note values, each for an equal share of the length. free : by ``slice_ms`` instead. turning : every other repeat is
    played backwards. material : the whole song, or its drums alone while the rest goes on.
    """

    time: TimeMode = "keep"
    values: tuple[str, ...] = ("1/8",)
    free: bool = False
    slice_ms: Annotated[float, p.SLICE_MS] = p.SLICE_MS.default
    turning: bool = False
    material: Material = "song"

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 1 <= len(self.values) <= MOST_STEPS:
            raise Unusable(f"A stutter has 1 to {MOST_STEPS} note values one after the other, not {len(self.values)}.")
        for value in self.values:
            beats_of(value)


class Reverse(Moment, frozen=True, kw_only=True, tag="reverse"):
    """The stretch is played backwards; adding time, what was just heard is, before the song goes on."""

    time: TimeMode = "keep"


class Cover(Moment, frozen=True, kw_only=True, tag="cover"):
    """The stretch is made unheard: silence, the slice before it repeated, reversed, a short tape stop, or muffled."""

    way: CoverWay = "silence"
    value: str = "1/16"
    muffle_hz: Annotated[float, p.MUFFLE] = p.MUFFLE.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


class ColourDip(Moment, frozen=True, kw_only=True, tag="colour-dip"):
    """A colour comes and goes over the stretch: under water, telephone, a hall of its own, or more of the version's hall."""

    colour: DipColour = "water"
    amount_percent: Annotated[float, p.DIP_AMOUNT] = p.DIP_AMOUNT.default
    attack_percent: Annotated[float, p.ATTACK] = p.ATTACK.default
    release_percent: Annotated[float, p.RELEASE] = p.RELEASE.default
    tension: Annotated[float, p.TENSION] = p.TENSION.default


class Throw(Moment, frozen=True, kw_only=True, tag="throw"):
    """The stretch is thrown into an echo or a hall, which goes on while the song does."""

    into: ThrowInto = "echo"
    value: str = "1/4d"
    feedback_percent: Annotated[float, p.FEEDBACK] = p.FEEDBACK.default
    decay_seconds: Annotated[float, p.DECAY] = 2.5
    wet_db: Annotated[float, p.THROW_WET] = p.THROW_WET.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


class DropIn(Moment, frozen=True, kw_only=True, tag="drop-in"):
    """Another sound is heard besides the song, at most from start to end. muffled : low-passed at ``muffle_hz``."""

    path: str = ""
    gain_db: Annotated[float, p.SOUND_GAIN] = p.SOUND_GAIN.default
    fade_in_ms: Annotated[float, p.FADE_IN] = p.FADE_IN.default
    fade_out_ms: Annotated[float, p.FADE_OUT] = p.FADE_OUT.default
    muffled: bool = False
    muffle_hz: Annotated[float, p.MUFFLE] = p.MUFFLE.default


AnyMoment = TapeStop | SpinUp | Dip | Ramp | PitchGlide | Stutter | Reverse | Cover | ColourDip | Throw | DropIn
KINDS: dict[str, type[Moment]] = {str(kind.__struct_config__.tag): kind for kind in get_args(AnyMoment)}
TITLES = {
    "tape-stop": "Tape stop", "spin-up": "Spin-up", "dip": "Speed dip", "ramp": "Speed ramp", "pitch-glide": "Pitch glide",
    "stutter": "Stutter", "reverse": "Reverse", "cover": "Cover", "colour-dip": "Colour dip", "throw": "Throw",
    "drop-in": "Drop-in",
}  # fmt: skip


class Moments(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The moments of a version, in any order."""

    on: bool = True
    placed: tuple[AnyMoment, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        ids = [moment.id for moment in self.placed]
        if len(set(ids)) != len(ids):
            raise ValueError("two moments have the same id")

    @property
    def heard(self) -> "tuple[AnyMoment, ...]":
        """Those that are on."""
        return tuple(moment for moment in self.placed if moment.on) if self.on else ()

    def find(self, ident: str) -> "AnyMoment | None":
        """The moment with this id, if it is there."""
        return next((moment for moment in self.placed if moment.id == ident), None)

    def with_changed(self, changed: "AnyMoment") -> "Moments":
        """The same with the moment of that id replaced, or added."""
        if self.find(changed.id) is None:
            return msgspec.structs.replace(self, placed=(*self.placed, changed))
        return msgspec.structs.replace(self, placed=tuple(changed if m.id == changed.id else m for m in self.placed))

    def without(self, ident: str) -> "Moments":
        """The same without a moment."""
        return msgspec.structs.replace(self, placed=tuple(m for m in self.placed if m.id != ident))


def kind_of(moment: Moment) -> str:
    """``tape-stop``, ``cover`` …"""
    return str(moment.__struct_config__.tag)


def bends_time(moment: Moment) -> bool:
    """Whether the song is read otherwise while it lasts, so that no other such moment can be there."""
    if isinstance(moment, Cover):
        return moment.way != "muffle"
    return isinstance(moment, TapeStop | SpinUp | Dip | Ramp | PitchGlide | Stutter | Reverse)
