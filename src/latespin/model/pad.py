"""A pad: a slice of a song stretched into a seamless loop."""

from dataclasses import replace
from typing import Annotated, Literal

from latespin.model.effects import parameters as e
from latespin.model.values.key_names import MAJOR_NAMES
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import Parameter, ValidatedStruct
from latespin.model.values.words import Words

Root = Literal["", "C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"]
ROOTS: tuple[Root, ...] = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")
MIDDLE_C, HALF_OCTAVE = 60, 6  # as MIDI counts notes
SMEAR = Parameter(
    "Smear", "×", 1.0, 32.0, 8.0, 1.05, 1, "How many times as long the slice gets: more is a slower, softer cloud.", logarithmic=True
)  # fmt: skip
PITCH = Parameter("Pitch", "st", -24.0, 24.0, 0.0, 1.0, 1, "Moves the slice up or down before it is smeared.")
PAD_WIDTH = Parameter("Width", "%", 0.0, 100.0, 40.0, 5.0, 0, "How far the cloud spreads to both sides.")
PAD_ECHO = Parameter("Echo", "%", 0.0, 100.0, 0.0, 5.0, 0, "Level of repeats in time with the song.")
PAD_HALL = Parameter("Hall", "%", 0.0, 100.0, 35.0, 5.0, 0, "Level of a large hall around it.")
PAD_EVEN = Parameter(
    "Evenness", "%", 0.0, 100.0, 40.0, 5.0, 0, "Turns swells down, each band by itself, so that the pad stays even."
)
BAND_EVEN = Parameter("Evenness", "%", 0.0, 100.0, 100.0, 5.0, 0, "How much of the evenness this band gets.")
PAD_FADE = Parameter(
    "Loop crossfade", "s", 0.05, 8.0, 1.5, 1.1, 2, "Crossfade from its end to its start.", logarithmic=True
)
LOW_CUT = replace(e.CUT_LOW, sentence="Removes the pad’s lows below this; 20 Hz is off.")
HIGH_CUT = replace(e.CUT_HIGH, sentence="Removes the pad’s highs above this; 20 kHz is off.")

ROOT = Words(
    "Root note", "The note the slice sounds at. It is written into the file, and the keys are in tune by it.",
    {"": "Not set", **dict(zip(ROOTS, MAJOR_NAMES, strict=True))},
)  # fmt: skip
BACKWARDS = Words("Reverse", "Reverses the slice before it is stretched.")
ECHO_VALUE = Words("Echo time", "Note value of the echo.")
EFFECTS_HERE = Words("Version’s effects", "Adds the effects of the version, as they are set at the marked range.")


class Pad(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="pad"):
    """The steps that make a pad of a slice, in order: pitch, reverse, smear, EQ, width, echo, hall, evenness, the version's effects, loop.

    root : the note of the slice before ``semitones``.
    """

    smear: Annotated[float, SMEAR] = SMEAR.default
    root: Annotated[Root, ROOT] = ""
    semitones: Annotated[float, PITCH] = PITCH.default
    backwards: Annotated[bool, BACKWARDS] = False
    low_cut_hz: Annotated[float, LOW_CUT] = LOW_CUT.default
    high_cut_hz: Annotated[float, HIGH_CUT] = HIGH_CUT.default
    low_shelf_db: Annotated[float, e.LOW_SHELF_DB] = 0.0
    high_shelf_db: Annotated[float, e.HIGH_SHELF_DB] = 0.0
    width_percent: Annotated[float, PAD_WIDTH] = PAD_WIDTH.default
    echo_percent: Annotated[float, PAD_ECHO] = PAD_ECHO.default
    echo_value: Annotated[str, ECHO_VALUE] = "1/2"
    hall_percent: Annotated[float, PAD_HALL] = PAD_HALL.default
    evenness_percent: Annotated[float, PAD_EVEN] = PAD_EVEN.default
    low_even_percent: Annotated[float, e.of_part("Low", BAND_EVEN)] = BAND_EVEN.default
    mid_even_percent: Annotated[float, e.of_part("Mid", BAND_EVEN)] = BAND_EVEN.default
    high_even_percent: Annotated[float, e.of_part("High", BAND_EVEN)] = BAND_EVEN.default
    effects_here: Annotated[bool, EFFECTS_HERE] = False
    fade_seconds: Annotated[float, PAD_FADE] = PAD_FADE.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.echo_value)

    @property
    def note(self) -> float:
        """The note the pad sounds at, as MIDI counts: the nearest root to middle C, moved by the pitch; middle C where no root is set."""
        if self.root == "":
            return MIDDLE_C + self.semitones
        above = ROOTS.index(self.root)
        return MIDDLE_C + above - (12 if above > HALF_OCTAVE else 0) + self.semitones

    def active_fields(self) -> dict[str, bool]:
        """Whether a field does something now; fields that are not named always do."""
        bands = ("low_even_percent", "mid_even_percent", "high_even_percent")
        return {"echo_value": self.echo_percent > 0.0, **dict.fromkeys(bands, self.evenness_percent > 0.0)}
