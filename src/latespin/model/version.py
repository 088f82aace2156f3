"""A version: everything needed to render one altered rendition of a track again."""

from typing import Annotated, Literal

import msgspec

from latespin.model import parameters as p
from latespin.model.parameters import Checked

PitchMode = Literal["linked", "held"]


class Time(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Speed and pitch. *linked*: pitch follows speed, as on a turntable; *held*: it does not."""

    on: bool = True
    speed: Annotated[float, p.SPEED] = p.SPEED.default
    pitch: PitchMode = "linked"
    semitones: Annotated[float, p.SEMITONES] = p.SEMITONES.default

    @property
    def speed_heard(self) -> float:
        """Source frames for every frame of the version; 1 while the stage is off."""
        return self.speed if self.on else 1.0

    @property
    def pitch_ratio(self) -> float:
        """Frequency heard over frequency of the track; 1 while the stage is off."""
        if not self.on:
            return 1.0
        transposed = float(2.0 ** (self.semitones / 12.0))
        return transposed * (self.speed if self.pitch == "linked" else 1.0)


class Hall(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A room around the song."""

    on: bool = False
    amount_percent: Annotated[float, p.HALL_AMOUNT] = p.HALL_AMOUNT.default
    decay_seconds: Annotated[float, p.DECAY] = p.DECAY.default
    size_percent: Annotated[float, p.SIZE] = p.SIZE.default
    pre_delay_ms: Annotated[float, p.PRE_DELAY] = p.PRE_DELAY.default
    tone_hz: Annotated[float, p.TONE] = p.TONE.default
    width_percent: Annotated[float, p.WIDTH] = p.WIDTH.default


class Colour(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the version sounds like apart from its time."""

    on: bool = True
    hall: Hall = Hall()

    @property
    def hall_heard(self) -> bool:
        """Whether the hall changes anything."""
        return self.on and self.hall.on and self.hall.amount_percent > 0.0


class Level(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """How loud the finished version is. No target keeps the loudness and only holds the ceiling."""

    on: bool = True
    target_lufs: Annotated[float | None, p.TARGET] = p.TARGET.default
    ceiling_dbtp: Annotated[float, p.CEILING] = p.CEILING.default
    allowance_db: Annotated[float, p.ALLOWANCE] = p.ALLOWANCE.default


class Stages(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The stages a version passes, in this order."""

    time: Time = Time()
    colour: Colour = Colour()
    level: Level = Level()


class Version(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One altered rendition of a track. id tells versions of a session apart and never changes."""

    id: str
    name: str
    stages: Stages = Stages()


UNTOUCHED = Stages(level=Level(on=False))
