"""A version: everything needed to render one altered rendition of a track again."""

from typing import Annotated, Literal

import msgspec

from latespin.model.effects.effects import AnyEffect, Hall, Layer
from latespin.model.moments.endings import Ending
from latespin.model.moments.moments import EffectMoment, Moments
from latespin.model.timing.tempo_curve import Curve, check_curve, extremes
from latespin.model.tone_match import Match
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct

PitchMode = Literal["linked", "held"]
CharacterName = Literal["full-mix", "drums", "voice", "smear"]
Formants = Literal["moved", "kept"]
Halftime = Literal["off", "song", "bar", "2bar", "4bar"]
HALFTIME_BARS: dict[str, int] = {"bar": 1, "2bar": 2, "4bar": 4}


class Time(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Speed and pitch. *linked*: pitch follows speed, as on a turntable; *held*: it does not.

    The speed at a place is ``speed`` times what ``curve`` has there. formants : *moved* with the pitch or *kept*, shifted by
    ``formant_semitones`` on top. halftime : the whole song at half speed, or the first half of each cell of bars
    over the whole cell. octave_down : whether the pitch goes down with halftime.
    """

    on: bool = True
    speed: Annotated[float, p.SMEAR_SPEED] = p.SPEED.default
    pitch: PitchMode = "linked"
    semitones: Annotated[float, p.SEMITONES] = p.SEMITONES.default
    character: CharacterName = "full-mix"
    formants: Formants = "moved"
    formant_semitones: Annotated[float, p.FORMANT_SEMITONES] = p.FORMANT_SEMITONES.default
    curve: Curve = ()
    halftime: Halftime = "off"
    octave_down: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        check_curve(self.curve)
        speed_limits(self).check("speed", self.speed)

    @property
    def heard(self) -> "Time":
        """The stage as heard: neutral while it is off."""
        return self if self.on else Time()

    @property
    def speeds(self) -> tuple[float, float]:
        """Lowest and highest speed heard, source frames for every frame of the version."""
        time = self.heard
        low, high = extremes(time.curve)
        halved = 0.5 if time.halftime == "song" else 1.0
        return time.speed * low * halved, time.speed * high * halved

    @property
    def pitch_ratios(self) -> tuple[float, float]:
        """Lowest and highest of frequency heard over frequency of the track, halftime in bars left out."""
        time = self.heard
        down = 0.5 if time.halftime == "song" and time.octave_down else 1.0
        low, high = extremes(time.curve)
        if time.pitch == "held":
            return time.transposed * down, time.transposed * down
        return time.speed * low * time.transposed * down, time.speed * high * time.transposed * down

    @property
    def transposed(self) -> float:
        """The frequency ratio of ``semitones``."""
        return float(2.0 ** (self.semitones / 12.0))


def speed_limits(time: Time) -> p.Parameter:
    """The limits of a Time stage's speed; *smear* allows slower ones."""
    return p.SMEAR_SPEED if time.character == "smear" and time.pitch == "held" else p.SPEED


class Colour(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The Effects stage: effects in order, each fed by the one before."""

    on: bool = True
    effects: tuple[AnyEffect, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        ids = [effect.id for effect in self.effects]
        if len(set(ids)) != len(ids):
            raise ValueError("two colours have the same id")

    @property
    def heard(self) -> "tuple[AnyEffect, ...]":
        """Those that change anything; layers that pass no other effect come last."""
        heard = [effect for effect in self.effects if effect.heard] if self.on else []
        return tuple(sorted(heard, key=lambda effect: isinstance(effect, Layer) and effect.beside))

    @property
    def hall(self) -> Hall | None:
        """The first hall in the list, heard or not."""
        return next((effect for effect in self.effects if isinstance(effect, Hall)), None)

    def find(self, ident: str) -> "AnyEffect | None":
        """The effect with this id, if it is there."""
        return next((effect for effect in self.effects if effect.id == ident), None)

    def with_changed(self, changed: "AnyEffect") -> "Colour":
        """The same with the effect of that id replaced, or added at the end."""
        if self.find(changed.id) is None:
            return msgspec.structs.replace(self, effects=(*self.effects, changed))
        return msgspec.structs.replace(self, effects=tuple(changed if e.id == changed.id else e for e in self.effects))

    def without(self, ident: str) -> "Colour":
        """The same without an effect."""
        return msgspec.structs.replace(self, effects=tuple(e for e in self.effects if e.id != ident))

    def moved(self, ident: str, to: int) -> "Colour":
        """The same with an effect at another place of the list."""
        effect = self.find(ident)
        if effect is None:
            return self
        others = [e for e in self.effects if e.id != ident]
        others.insert(min(max(0, to), len(others)), effect)
        return msgspec.structs.replace(self, effects=tuple(others))


class Level(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The Level stage: loudness, and a tone match. No target keeps the loudness and only holds the ceiling.

    as_before : the target is the loudness of the track as it came, whatever ``target_lufs`` is.
    """

    on: bool = True
    target_lufs: Annotated[float | None, p.TARGET] = p.TARGET.default
    as_before: bool = False
    ceiling_dbtp: Annotated[float, p.CEILING] = p.CEILING.default
    allowance_db: Annotated[float, p.ALLOWANCE] = p.ALLOWANCE.default
    link_percent: Annotated[float, p.LINK] = p.LINK.default
    match: Match | None = None

    def target(self, before_lufs: float) -> float | None:
        """The loudness asked for, LUFS, where the track as it came has ``before_lufs``."""
        return before_lufs if self.as_before else self.target_lufs

    @property
    def matched(self) -> Match | None:
        """The match that is heard."""
        return self.match if self.on and self.match is not None and self.match.heard else None


class Stages(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The stages a version passes, in this order."""

    time: Time = Time()
    colour: Colour = Colour()
    moments: Moments = Moments()
    ending: Ending = Ending()
    level: Level = Level()

    @property
    def heard_effects(self) -> "tuple[tuple[str, AnyEffect], ...]":
        """Every effect that is heard, those of moments too, each with the id of the effect or of the moment."""
        ranges = [(moment.id, moment.effect) for moment in self.moments.heard if isinstance(moment, EffectMoment)]
        return (*((effect.id, effect) for effect in self.colour.heard), *ranges)


LONGEST_NOTE = 4_000  # characters


class Version(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One altered rendition of a track. id tells versions of a session apart and never changes.  note : free text."""

    id: str
    name: str
    stages: Stages = Stages()
    favourite: bool = False
    note: Annotated[str, msgspec.Meta(max_length=LONGEST_NOTE)] = ""


UNTOUCHED = Stages(level=Level(on=False))
