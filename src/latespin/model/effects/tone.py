"""Effects of tone and level. What they do is written in docs/effects.md."""

from typing import Annotated, ClassVar, Literal

from latespin.model.effects import parameters as e
from latespin.model.effects.channels import ChannelEffect
from latespin.model.effects.declaration import Effect, effect
from latespin.model.values.words import Words

Slope = Literal["6", "12", "18", "24", "36", "48"]
SLOPES = {slope: f"{slope} dB" for slope in ("6", "12", "18", "24", "36", "48")}
LOW_SLOPE = Words("Low cut slope", "How steep the low cut is, in dB per octave.", SLOPES)
HIGH_SLOPE = Words("High cut slope", "How steep the high cut is, in dB per octave.", SLOPES)


@effect(
    "EQ", "Tone", "Shelves, two bells and cuts.",
    main=("low_shelf_db", "low_shelf_hz", "high_shelf_db", "high_shelf_hz", "bell_db", "bell_hz", "bell_q"),
    more=("bell2_db", "bell2_hz", "bell2_q", "low_cut_hz", "low_slope", "high_cut_hz", "high_slope", "channels"),
)  # fmt: skip
class Eq(ChannelEffect, frozen=True, kw_only=True, tag="eq"):
    """An equaliser."""

    amount_percent: Annotated[float, e.amount(100.0, "How much of the change you hear.")] = 100.0
    low_shelf_db: Annotated[float, e.LOW_SHELF_DB] = 0.0
    low_shelf_hz: Annotated[float, e.LOW_SHELF_HZ] = e.LOW_SHELF_HZ.default
    bell_db: Annotated[float, e.BELL_DB] = 0.0
    bell_hz: Annotated[float, e.BELL_HZ] = e.BELL_HZ.default
    bell_q: Annotated[float, e.BELL_Q] = e.BELL_Q.default
    bell2_db: Annotated[float, e.BELL2_DB] = 0.0
    bell2_hz: Annotated[float, e.BELL2_HZ] = e.BELL2_HZ.default
    bell2_q: Annotated[float, e.BELL2_Q] = e.BELL2_Q.default
    high_shelf_db: Annotated[float, e.HIGH_SHELF_DB] = 0.0
    high_shelf_hz: Annotated[float, e.HIGH_SHELF_HZ] = e.HIGH_SHELF_HZ.default
    low_cut_hz: Annotated[float, e.CUT_LOW] = e.CUT_LOW.default
    low_slope: Annotated[Slope, LOW_SLOPE] = "12"
    high_cut_hz: Annotated[float, e.CUT_HIGH] = e.CUT_HIGH.default
    high_slope: Annotated[Slope, HIGH_SLOPE] = "12"

    def active_fields(self) -> dict[str, bool]:
        return {
            "bell_hz": self.bell_db != 0.0, "bell_q": self.bell_db != 0.0, "bell2_hz": self.bell2_db != 0.0,
            "bell2_q": self.bell2_db != 0.0, "low_shelf_hz": self.low_shelf_db != 0.0,
            "high_shelf_hz": self.high_shelf_db != 0.0, "low_slope": self.low_cut_hz > 20.0,
            "high_slope": self.high_cut_hz < 20_000.0,
        }  # fmt: skip


@effect("Gain", "Tone", "Makes the song louder or quieter; automate it to ride the level.", main=("gain_db",))
class Gain(Effect, frozen=True, kw_only=True, tag="gain"):
    """A gain. The level is its purpose, so *Keep level* does not apply."""

    sets_level: ClassVar[bool] = True
    amount_percent: Annotated[float, e.amount(100.0, "The share of the gain, in dB, that you hear.")] = 100.0
    gain_db: Annotated[float, e.GAIN_DB] = e.GAIN_DB.default


SHAPE = Words(
    "Curve", "Soft clipping: odd harmonics only, even ones too, or late and gentle.",
    {"soft": "Symmetric", "tube": "Tube", "tape": "Tape"},
)  # fmt: skip


@effect(
    "Saturation",
    "Tone",
    "Rounds peaks off and adds harmonics.",
    main=("shape", "drive_db"),
    more=("tilt_db", "channels"),
)
class Saturation(ChannelEffect, frozen=True, kw_only=True, tag="saturation"):
    """Soft clipping."""

    amount_percent: Annotated[float, e.amount(50.0, "How much of the saturation you hear.")] = 50.0
    shape: Annotated[Literal["soft", "tube", "tape"], SHAPE] = "tape"
    drive_db: Annotated[float, e.DRIVE] = e.DRIVE.default
    tilt_db: Annotated[float, e.TILT] = 0.0
