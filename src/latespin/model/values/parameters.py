"""Every number a person can set, declared once: name, unit, limits, default, step, and one sentence.

Value bars, tooltips, checks of files and the command line are all made from these declarations.
"""

import math
from dataclasses import dataclass
from typing import Any, get_type_hints

import msgspec

from latespin.errors import OutOfRange


@dataclass(frozen=True)
class Parameter:
    """One number: ``low`` to ``high`` in ``unit``; ``logarithmic`` says how a bar spreads it.

    decimals is how many are shown; step is what an arrow key adds (or multiplies by, logarithmically).
    """

    label: str
    unit: str
    low: float
    high: float
    default: float
    step: float
    decimals: int
    sentence: str
    logarithmic: bool = False

    def check(self, name: str, value: float) -> None:
        """Raise OutOfRange unless the value is within the limits."""
        if not (isinstance(value, int | float) and math.isfinite(value) and self.low <= value <= self.high):
            raise OutOfRange(name, float(value), self.low, self.high, self.unit)

    def clamp(self, value: float) -> float:
        """The nearest value within the limits."""
        return min(max(value, self.low), self.high)

    def stepped(self, value: float, steps: float) -> float:
        """The value ``steps`` arrow keys on, within the limits."""
        moved = value * self.step**steps if self.logarithmic else value + self.step * steps
        return self.clamp(round(moved, 6))

    def to_fraction(self, value: float) -> float:
        """Where a value lies between the limits, 0 to 1, as a bar shows it."""
        if self.logarithmic:
            return math.log(value / self.low) / math.log(self.high / self.low)
        return (value - self.low) / (self.high - self.low)

    def from_fraction(self, fraction: float) -> float:
        """The value at a place of the bar, rounded to what is shown."""
        fraction = min(max(fraction, 0.0), 1.0)
        if self.logarithmic:
            value = self.low * (self.high / self.low) ** fraction
        else:
            value = self.low + (self.high - self.low) * fraction
        return self.clamp(round(value, self.decimals))


class ValidatedStruct(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A frozen value whose annotated numbers keep to their parameters, however it is made."""

    def __post_init__(self) -> None:
        for name, parameter in parameters_of(type(self)).items():
            value = getattr(self, name)
            if value is not None:
                parameter.check(name, value)


_DECLARED: dict[type, dict[str, Parameter]] = {}


def parameters_of(kind: type[Any]) -> dict[str, Parameter]:
    """The parameters declared in the annotations of a :class:`Checked` type, by field name."""
    if kind not in _DECLARED:
        hints = get_type_hints(kind, include_extras=True)
        _DECLARED[kind] = {
            name: extra
            for name, hint in hints.items()
            for extra in getattr(hint, "__metadata__", ())
            if isinstance(extra, Parameter)
        }
    return _DECLARED[kind]


SPEED = Parameter(
    "Speed", "×", 0.25, 4.0, 1.0, 1.01, 3,
    "How fast the version plays: 0.5 takes twice as long as the track.", logarithmic=True,
)  # fmt: skip
SMEAR_SPEED = Parameter(
    "Speed", "×", 1.0 / 32.0, 4.0, 1.0, 1.01, 3,
    "How fast the version plays; smeared it may last up to 32 times as long as the track.", logarithmic=True,
)  # fmt: skip
PLACE = Parameter("Place", "", 0.0, 1.0, 0.0, 0.01, 3, "Where in the song: 0 is its start, 1 its end.")
SEMITONES = Parameter(
    "Transpose", "st", -24.0, 24.0, 0.0, 0.5, 2,
    "Moves the pitch up or down on top of what the speed does to it; the length stays.",
)  # fmt: skip
FORMANT_SEMITONES = Parameter(
    "Formant shift", "st", -12.0, 12.0, 0.0, 0.5, 2,
    "Moves the colour of voices up (smaller) or down (larger) without moving their pitch.",
)  # fmt: skip
BPM = Parameter("Tempo", "BPM", 20.0, 400.0, 120.0, 1.0, 2, "Beats per minute of the track as it came.")
FIRST_BEAT = Parameter(
    "First beat", "s", -36_000.0, 36_000.0, 0.0, 0.01, 3,
    "When the first beat of a bar sounds in the track; below 0 where bar 1 begins before the track does.",
)  # fmt: skip
BEATS_PER_BAR = Parameter("Beats to a bar", "", 1.0, 12.0, 4.0, 1.0, 0, "How many beats a bar of the track has.")
HALL_AMOUNT = Parameter(
    "Amount", "%", 0.0, 100.0, 28.0, 1.0, 0,
    "How much of what is heard is the room: 0 leaves the song untouched, 100 is the room alone.",
)  # fmt: skip
DECAY = Parameter(
    "Decay", "s", 0.2, 12.0, 3.2, 1.05, 2,
    "How long the room takes to fall silent (by 60 dB) after the last sound.", logarithmic=True,
)  # fmt: skip
SIZE = Parameter(
    "Size", "%", 0.0, 100.0, 60.0, 1.0, 0,
    "From a closet to a cathedral: larger rooms sound smoother and answer later.",
)  # fmt: skip
PRE_DELAY = Parameter(
    "Pre-delay", "ms", 0.0, 250.0, 20.0, 1.0, 0,
    "The pause before the room answers; longer keeps words and drums clear.",
)  # fmt: skip
TONE = Parameter(
    "Tone", "Hz", 1000.0, 16000.0, 6000.0, 1.05, 0,
    "Where the room's highs begin to fade: lower is darker and softer.", logarithmic=True,
)  # fmt: skip
LOWS = Parameter(
    "Lows", "%", 40.0, 200.0, 100.0, 5.0, 0,
    "How long the room’s lows decay, against its middle: more is warm or booming, less is dry.",
)  # fmt: skip
HIGHS = Parameter(
    "Highs", "%", 20.0, 120.0, 60.0, 5.0, 0,
    "How long the room’s highs decay, against its middle: stone keeps them, curtains and people swallow them.",
)  # fmt: skip
LOW_CUT = Parameter(
    "Low cut", "Hz", 20.0, 1000.0, 70.0, 1.05, 0,
    "Below it the room is thinned, so that basses stay dry.", logarithmic=True,
)  # fmt: skip
DUCK = Parameter(
    "Give way", "dB", 0.0, 18.0, 0.0, 0.5, 1,
    "How much quieter the room is while the song is loud; it comes up in the gaps.",
)  # fmt: skip
WIDTH = Parameter(
    "Width", "%", 0.0, 100.0, 100.0, 1.0, 0,
    "How far the room spreads between left and right; the song itself stays as wide as it is.",
)  # fmt: skip
TARGET = Parameter(
    "Loudness", "LUFS", -40.0, -5.0, -14.0, 0.5, 1,
    "The integrated loudness the finished version has.",
)  # fmt: skip
CEILING = Parameter(
    "Ceiling", "dBTP", -12.0, 0.0, -1.0, 0.1, 1,
    "The highest true peak the finished version may reach.",
)  # fmt: skip
ALLOWANCE = Parameter(
    "Limiter allowance", "dB", 0.0, 12.0, 2.0, 0.5, 1,
    "The most the limiter may take off a peak; where that is not enough the version stays quieter.",
)  # fmt: skip
LINK = Parameter(
    "Stereo link", "%", 0.0, 100.0, 100.0, 5.0, 0,
    "Whether the limiter turns both sides down together, which keeps everything in its place, or each by itself, which is louder.",
)  # fmt: skip
BEAT_NUMBER = Parameter("Beat", "", -4000.0, 400_000.0, 0.0, 1.0, 3, "Which beat, counted from bar 1; its first is 0.")
SONG_SECONDS = Parameter("Time", "s", 0.0, 360_000.0, 0.0, 0.01, 3, "When in the track, seconds.")
LENGTH_BEATS = Parameter("Length", "beats", 0.01, 4000.0, 4.0, 1.0, 2, "How many beats it lasts.")
LENGTH_SECONDS = Parameter("Length", "s", 0.003, 3600.0, 2.0, 0.1, 3, "How many seconds it lasts.")
TENSION = Parameter(
    "Bend", "", -1.0, 1.0, 0.0, 0.05, 2,
    "The curve: below 0 it gives way at once and lingers, 0 is straight, above 0 it holds on and then dives.",
)  # fmt: skip
DEPTH = Parameter("Depth", "%", 1.0, 100.0, 100.0, 1.0, 0, "How much of the speed is lost: 100 comes to a standstill.")
DIP_DEPTH = Parameter("Depth", "%", 1.0, 95.0, 50.0, 1.0, 0, "How much of the speed is lost where it sags lowest.")
SECOND_SHARE = Parameter(
    "Second stage", "%", 5.0, 90.0, 33.0, 1.0, 0,
    "Over how much of the length, at its end, a second and steeper slow-down works.",
)  # fmt: skip
GAP = Parameter(
    "Silence", "%", 0.0, 95.0, 0.0, 5.0, 0,
    "How much of the length, at its end, stays silent before the song comes back.",
)  # fmt: skip
RAMP_SPEED = Parameter(
    "To speed", "×", 0.25, 4.0, 1.5, 1.01, 2, "The speed it reaches, pitch and all.", logarithmic=True
)
GLIDE = Parameter("Glide", "st", -24.0, 24.0, -5.0, 0.5, 2, "How far the pitch glides; the time stays.")
SLICE_MS = Parameter(
    "Slice", "ms", 4.0, 2000.0, 60.0, 1.05, 0, "How long the repeated slice is; below about 30 ms it buzzes.", logarithmic=True
)  # fmt: skip
MUFFLE = Parameter("Muffle", "Hz", 80.0, 8000.0, 420.0, 1.05, 0, "What is above is taken away.", logarithmic=True)
DIP_AMOUNT = Parameter("Amount", "%", 0.0, 100.0, 70.0, 1.0, 0, "How much of the colour is heard at its fullest.")
ATTACK = Parameter("Way in", "%", 0.0, 100.0, 25.0, 1.0, 0, "Over how much of the length the colour comes.")
RELEASE = Parameter("Way out", "%", 0.0, 100.0, 25.0, 1.0, 0, "Over how much of the length, at its end, it goes.")
THROW_WET = Parameter("Wet", "dB", -36.0, 6.0, -8.0, 0.5, 1, "How loud the echo or the room is beside the song.")
FEEDBACK = Parameter("Feedback", "%", 0.0, 95.0, 55.0, 1.0, 0, "How much of each repeat is heard again.")
SOUND_GAIN = Parameter("Gain", "dB", -60.0, 12.0, -6.0, 0.5, 1, "How loud the dropped-in sound is.")
FADE_IN = Parameter("Fade in", "ms", 2.0, 10_000.0, 5.0, 1.2, 0, "Over how long it comes in.", logarithmic=True)
FADE_OUT = Parameter("Fade out", "ms", 2.0, 10_000.0, 50.0, 1.2, 0, "Over how long it goes.", logarithmic=True)
ENDING_DECAY = Parameter(
    "Decay", "s", 0.5, 12.0, 4.5, 1.05, 2, "How long the room takes to fall by 60 dB after the song has stopped.", logarithmic=True
)  # fmt: skip
ENDING_WET = Parameter(
    "Wet", "dB", -30.0, 0.0, -2.0, 0.5, 1, "How loud the room is; it never starts louder than the song it leaves."
)
ENDING_SIZE = Parameter("Size", "%", 0.0, 100.0, 75.0, 1.0, 0, "From a closet to a cathedral.")
ENDING_TONE = Parameter(
    "Tone", "Hz", 1000.0, 16000.0, 6500.0, 1.05, 0, "Where the room’s highs begin to fade.", logarithmic=True
)
ECHO_FADE = Parameter(
    "Fade", "dB", -60.0, -6.0, -36.0, 1.0, 0, "How much quieter the repeats are by the time they stand still."
)
