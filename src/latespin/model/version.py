"""A version: everything needed to render one altered rendition of a track again."""

from typing import Annotated, Literal

import msgspec

from latespin.model import parameters as p
from latespin.model.curve import Curve, check_curve, extremes
from latespin.model.endings import Ending
from latespin.model.moments import Moments
from latespin.model.parameters import Checked

PitchMode = Literal["linked", "held"]
CharacterName = Literal["full-mix", "drums", "voice", "smear"]
Formants = Literal["moved", "kept"]
Halftime = Literal["off", "song", "bar", "2bar", "4bar"]
HALFTIME_BARS: dict[str, int] = {"bar": 1, "2bar": 2, "4bar": 4}


class Time(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
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
        """What is heard of it: untouched while the stage is off."""
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
    """What the speed of a Time stage can be: slower where it is smeared."""
    return p.SMEAR_SPEED if time.character == "smear" and time.pitch == "held" else p.SPEED


class Hall(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A room around the song."""

    on: bool = False
    amount_percent: Annotated[float, p.HALL_AMOUNT] = p.HALL_AMOUNT.default
    decay_seconds: Annotated[float, p.DECAY] = p.DECAY.default
    size_percent: Annotated[float, p.SIZE] = p.SIZE.default
    pre_delay_ms: Annotated[float, p.PRE_DELAY] = p.PRE_DELAY.default
    tone_hz: Annotated[float, p.TONE] = p.TONE.default
    width_percent: Annotated[float, p.WIDTH] = p.WIDTH.default
    lows_percent: Annotated[float, p.LOWS] = p.LOWS.default
    highs_percent: Annotated[float, p.HIGHS] = p.HIGHS.default
    low_cut_hz: Annotated[float, p.LOW_CUT] = p.LOW_CUT.default
    duck_db: Annotated[float, p.DUCK] = p.DUCK.default


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
    moments: Moments = Moments()
    ending: Ending = Ending()
    level: Level = Level()


class Version(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One altered rendition of a track. id tells versions of a session apart and never changes."""

    id: str
    name: str
    stages: Stages = Stages()


UNTOUCHED = Stages(level=Level(on=False))
