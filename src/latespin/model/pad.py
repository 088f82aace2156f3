"""A pad: a slice of a song stretched into a seamless loop."""

from typing import Annotated

from latespin.model.values.parameters import Parameter, ValidatedStruct
from latespin.model.values.words import Words

SMEAR = Parameter(
    "Smear",
    "×",
    1.0,
    32.0,
    8.0,
    1.05,
    1,
    "How many times as long the slice gets: more is a slower, softer cloud.",
    logarithmic=True,
)
PITCH = Parameter("Pitch", "st", -24.0, 24.0, 0.0, 1.0, 1, "Moves the slice up or down before it is smeared.")
PAD_WIDTH = Parameter("Width", "%", 0.0, 100.0, 40.0, 5.0, 0, "How far the cloud spreads to both sides.")
PAD_ECHO = Parameter("Echo", "%", 0.0, 100.0, 0.0, 5.0, 0, "Level of repeats in time with the song.")
PAD_HALL = Parameter("Hall", "%", 0.0, 100.0, 35.0, 5.0, 0, "Level of a large hall around it.")
PAD_EVEN = Parameter("Evenness", "%", 0.0, 100.0, 40.0, 5.0, 0, "Turns swells down, so that the pad stays even.")
PAD_FADE = Parameter(
    "Loop crossfade", "s", 0.05, 8.0, 1.5, 1.1, 2, "Crossfade from its end to its start.", logarithmic=True
)

BACKWARDS = Words("Reverse", "Reverses the slice before it is stretched.")


class Pad(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="pad"):
    """The steps that make a pad of a slice, in order: pitch, reverse, smear, width, echo, hall, evenness, loop."""

    smear: Annotated[float, SMEAR] = SMEAR.default
    semitones: Annotated[float, PITCH] = PITCH.default
    backwards: Annotated[bool, BACKWARDS] = False
    width_percent: Annotated[float, PAD_WIDTH] = PAD_WIDTH.default
    echo_percent: Annotated[float, PAD_ECHO] = PAD_ECHO.default
    hall_percent: Annotated[float, PAD_HALL] = PAD_HALL.default
    evenness_percent: Annotated[float, PAD_EVEN] = PAD_EVEN.default
    fade_seconds: Annotated[float, PAD_FADE] = PAD_FADE.default
