"""Maps of control surfaces: which move each pad plays, what each knob turns, and which MIDI messages come from them."""

from collections.abc import Sequence
from functools import lru_cache
from importlib import resources
from typing import Annotated, Any, ClassVar, Literal

import msgspec
from msgspec.structs import replace

from latespin.errors import Unreadable, shortened
from latespin.language import tr
from latespin.model.documents.documents import explained
from latespin.model.effects.automation import can_move
from latespin.model.effects.declaration import EFFECTS, Effect, effect_info
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.declaration import moment_title
from latespin.model.moments.held import HeldEffect, HeldRepeat, HeldReverse, HeldSilence, HeldSpinUp, HeldStop
from latespin.model.timing.positions import Position
from latespin.model.values.kinds import kind_of
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.values.words import label_of

FORMAT, FORMAT_VERSION = "late-spin surface", 1
PADS, KNOBS = 16, 8
MOST_BYTES = 1 << 20
PRACTICE = "practice"
NOWHERE: dict[str, Any] = {"start": {"beat": 0.0}, "end": {"beat": 1.0}}

AnyHeld = HeldRepeat | HeldReverse | HeldStop | HeldSpinUp | HeldSilence | HeldEffect
SourceKind = Literal["note", "control", "control-14", "relative", "pitch-bend"]
Number = Annotated[int, msgspec.Meta(ge=0, le=127)]
Channel = Annotated[int, msgspec.Meta(ge=1, le=16)]


class Source(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Which messages come from a pad or knob.

    kind : notes; control changes of 7 bits, of 14 (``number`` and ``number`` + 32), or with steps instead of values; or pitch bend.
    channel : 1 to 16, or None for any.
    """

    kind: SourceKind
    number: Number = 0
    channel: Channel | None = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.kind == "control-14" and self.number > 31:
            raise ValueError(f"number is {self.number}; a control of 14 bits has 0 to 31")


class Pad(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A pad. move : what it plays.  coming : a repeat catches what comes.  latched : a press holds it, the next lets it go."""

    move: AnyHeld
    title: str = ""
    coming: bool = False
    latched: bool = False
    source: Source | None = None

    @property
    def name(self) -> str:
        """What is written on it."""
        return self.title or moment_title(self.move)


class EffectTarget(
    ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag="effect", tag_field="kind"
):
    """A control of the version's effects. effect : its kind.  which : 1 for the first of that kind."""

    effect: str
    field: str
    which: Annotated[int, msgspec.Meta(ge=1, le=99)] = 1

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.effect not in EFFECTS:
            raise ValueError(f"there is no effect “{shortened(self.effect)}”; use one of {', '.join(EFFECTS)}")
        if not can_move(EFFECTS[self.effect], self.field):
            raise ValueError(f"“{shortened(self.field)}” of {self.effect} cannot be turned")

    @property
    def words(self) -> tuple[str, str]:
        """The effect and its control, as the window calls them."""
        return effect_info(self.effect).title, label_of(EFFECTS[self.effect], self.field)

    def find(self, effects: Sequence[AnyEffect]) -> AnyEffect | None:
        """The effect it turns, if the version has it."""
        those = [effect for effect in effects if kind_of(effect) == self.effect]
        return those[self.which - 1] if self.which <= len(those) else None


class RepeatTarget(
    ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag="repeat-length", tag_field="kind"
):
    """The length of the repeat that is held."""

    words: ClassVar[tuple[str, str]] = ("Repeat", "length")  # as the window calls it


class TempoTarget(
    ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag="tempo", tag_field="kind"
):
    """The tempo of what is heard, within 8 %, and its pitch with it."""

    words: ClassVar[tuple[str, str]] = ("Tempo", "")


Target = EffectTarget | RepeatTarget | TempoTarget


class Knob(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A knob. target : what it turns, if anything."""

    target: Target | None = None
    source: Source | None = None


class SurfaceMap(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What pads and knobs do. name : of its file."""

    name: str
    title: str
    pads: tuple[Pad, ...]
    knobs: tuple[Knob, ...]

    def __post_init__(self) -> None:
        super().__post_init__()
        for word, found, most in (("pads", self.pads, PADS), ("knobs", self.knobs, KNOBS)):
            if len(found) > most:
                raise ValueError(f"there are {len(found)} {word}; a map has up to {most}")

    def with_pad(self, number: int, pad: Pad) -> "SurfaceMap":
        """With another pad, and its messages taken from all others."""
        return replace(self._without(pad.source), pads=_put(self._without(pad.source).pads, number, pad))

    def with_knob(self, number: int, knob: Knob) -> "SurfaceMap":
        """With another knob, and its messages taken from all others."""
        return replace(self._without(knob.source), knobs=_put(self._without(knob.source).knobs, number, knob))

    def _without(self, source: Source | None) -> "SurfaceMap":
        if source is None:
            return self
        pads = tuple(replace(pad, source=None) if pad.source == source else pad for pad in self.pads)
        knobs = tuple(replace(knob, source=None) if knob.source == source else knob for knob in self.knobs)
        return replace(self, pads=pads, knobs=knobs)


def _put(those: tuple[Any, ...], number: int, one: Any) -> tuple[Any, ...]:
    return (*those[:number], one, *those[number + 1 :])


def target_of(effect: Effect, field: str, effects: Sequence[AnyEffect]) -> EffectTarget:
    """The target that turns a field of one of the version's effects."""
    kind = kind_of(effect)
    those = [each.id for each in effects if kind_of(each) == kind]
    return EffectTarget(effect=kind, field=field, which=those.index(effect.id) + 1)


def to_json(surface: SurfaceMap) -> bytes:
    """Readable JSON, ending with a newline."""
    plain = msgspec.to_builtins(surface)
    for pad in plain["pads"]:
        for name in ("id", "on", "label", "start", "end", "take"):
            pad["move"].pop(name, None)
    whole = {"format": FORMAT, "format_version": FORMAT_VERSION, **plain}
    return msgspec.json.format(msgspec.json.encode(whole), indent=2) + b"\n"


def read_surface(data: bytes, where: str) -> SurfaceMap:
    """A map from its JSON. where names the file in errors. Raises Unreadable."""
    where = shortened(where)
    try:
        plain = msgspec.json.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        raise Unreadable(
            tr("{0} is not a map of a control surface: it is not JSON. Choose another file.").format(where)
        ) from None
    if not isinstance(plain, dict) or plain.pop("format", None) != FORMAT:
        raise Unreadable(
            tr("{0} is not a map of a control surface: its format should be “{1}”. Choose another file.").format(
                where, FORMAT
            )
        )
    version = plain.pop("format_version", None)
    if version != FORMAT_VERSION:
        raise Unreadable(
            tr("{0} says format_version {1}; a map has {2}.").format(where, shortened(repr(version)), FORMAT_VERSION)
        )
    pads = plain.get("pads")
    for pad in pads if isinstance(pads, list) else []:
        if isinstance(pad, dict) and isinstance(pad.get("move"), dict):
            pad["move"] |= NOWHERE
    try:
        return msgspec.convert(plain, type=SurfaceMap)
    except msgspec.ValidationError as error:
        raise Unreadable(tr("{0}: {1} Correct the file or choose another.").format(where, explained(error))) from None


@lru_cache(maxsize=1)
def practice_map() -> SurfaceMap:
    """The map of the practice surface, which ships."""
    file = resources.files("latespin.model.playing") / "practice.json"
    return read_surface(file.read_bytes(), "practice.json")


def nowhere(kind: type[Any], **values: Any) -> Any:
    """A held move without a place, as pads have them."""
    return kind(start=Position(beat=0.0), end=Position(beat=1.0), **values)
