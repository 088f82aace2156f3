"""Every number a user can set, declared once: label, unit, limits, default, step and one sentence.

Value bars, tooltips, file checks and command-line options are all made from these declarations.
"""

import math
from dataclasses import dataclass
from typing import Any, Literal, get_type_hints

import msgspec

from latespin.errors import OutOfRange
from latespin.model.values.units import parse_semitones, parse_value, with_unit


@dataclass(frozen=True)
class Parameter:
    """One number: ``low`` to ``high`` in ``unit``; ``logarithmic`` says how a bar spreads it.

    decimals is how many are shown; step is what an arrow key adds (or multiplies by, logarithmically).
    pitch : whether it moves the pitch as a ratio of speeds (``speed``) or as the share of speed lost, per cent (``loss``).
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
    pitch: Literal["", "speed", "loss"] = ""

    def semitones(self, value: float) -> float | None:
        """How far a value moves the pitch; None if it does not, or if nothing is left to hear."""
        speed = {"speed": value, "loss": 1.0 - value / 100.0}.get(self.pitch, 0.0)
        return 12.0 * math.log2(speed) if speed > 0.0 else None

    def parse(self, text: str) -> float:
        """The value that a person typed, in the unit or in semitones. Raises ValueError with what could be typed instead."""
        moved = parse_semitones(text) if self.pitch else None
        if moved is None:
            return parse_value(text, self.unit)
        speed = float(2.0 ** ((moved if self.pitch == "speed" else -abs(moved)) / 12.0))
        return speed if self.pitch == "speed" else 100.0 * (1.0 - speed)

    def text(self, value: float) -> str:
        """The value with its unit, and the semitones it moves the pitch by."""
        moved, shown = self.semitones(value), with_unit(value, self.unit, self.decimals)
        return shown if moved is None else f"{shown} · {with_unit(moved, 'st', 1)}"

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
        """Position of a value between the limits, 0 to 1, as drawn on a value bar."""
        if self.logarithmic:
            return math.log(value / self.low) / math.log(self.high / self.low)
        return (value - self.low) / (self.high - self.low)

    def from_share(self, share: float) -> float:
        """The value at a share of the range, as it is."""
        if self.logarithmic:
            return self.clamp(self.low * (self.high / self.low) ** share)
        return self.clamp(self.low + (self.high - self.low) * share)

    def from_fraction(self, fraction: float) -> float:
        """The value at a position of the bar, rounded to the digits shown."""
        value = self.from_share(min(max(fraction, 0.0), 1.0))
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
    """The parameters declared in the annotations of a :class:`ValidatedStruct`, by field name."""
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
    "How fast the version plays. The pad character goes down to 1/32.", logarithmic=True,
)  # fmt: skip
PLACE = Parameter("Place", "", 0.0, 1.0, 0.0, 0.01, 3, "Position in the song: 0 is its start, 1 its end.")
SEMITONES = Parameter(
    "Transpose", "st", -24.0, 24.0, 0.0, 0.5, 2,
    "Shifts the pitch on top of what the speed does. The length stays.",
)  # fmt: skip
FORMANT_SEMITONES = Parameter(
    "Formant shift", "st", -12.0, 12.0, 0.0, 0.5, 2,
    "Shifts the formants without the pitch: up sounds smaller, down larger.",
)  # fmt: skip
BPM = Parameter("Tempo", "BPM", 20.0, 400.0, 120.0, 1.0, 2, "Beats per minute of the track as it came.")
FIRST_BEAT = Parameter(
    "First beat", "s", -36_000.0, 36_000.0, 0.0, 0.01, 3,
    "Time of the first downbeat; negative where bar 1 begins before the track.",
)  # fmt: skip
BEATS_PER_BAR = Parameter("Beats per bar", "", 1.0, 12.0, 4.0, 1.0, 0, "Beats in each bar of the track.")
HALL_AMOUNT = Parameter(
    "Amount", "%", 0.0, 100.0, 28.0, 1.0, 0,
    "Dry/wet mix: 0 leaves the song untouched, 100 is the reverb alone.",
)  # fmt: skip
DECAY = Parameter(
    "Decay", "s", 0.2, 12.0, 3.2, 1.05, 2,
    "Time for the reverb to fall by 60 dB.", logarithmic=True,
)  # fmt: skip
SIZE = Parameter(
    "Size", "%", 0.0, 100.0, 60.0, 1.0, 0,
    "From a closet to a cathedral. Larger rooms sound smoother and respond later.",
)  # fmt: skip
PRE_DELAY = Parameter(
    "Pre-delay", "ms", 0.0, 250.0, 20.0, 1.0, 0,
    "Delay before the reverb starts. Longer keeps words and drums clear.",
)  # fmt: skip
TONE = Parameter(
    "High damping", "Hz", 1000.0, 16000.0, 6000.0, 1.05, 0,
    "The reverb loses its highs above this frequency. Lower is darker and softer.", logarithmic=True,
)  # fmt: skip
LOWS = Parameter(
    "Low decay", "%", 40.0, 200.0, 100.0, 5.0, 0,
    "Decay of the lows relative to the mids. More is warm or boomy, less is dry.",
)  # fmt: skip
HIGHS = Parameter(
    "High decay", "%", 20.0, 120.0, 60.0, 5.0, 0,
    "Decay of the highs relative to the mids. Bare stone keeps them, curtains absorb them.",
)  # fmt: skip
LOW_CUT = Parameter(
    "Low cut", "Hz", 20.0, 1000.0, 70.0, 1.05, 0,
    "Removes the reverb’s lows below this frequency, so that the bass stays dry.", logarithmic=True,
)  # fmt: skip
DUCK = Parameter(
    "Ducking", "dB", 0.0, 18.0, 0.0, 0.5, 1,
    "Turns the reverb down while the song is loud. It comes up in the gaps.",
)  # fmt: skip
WIDTH = Parameter(
    "Width", "%", 0.0, 100.0, 100.0, 1.0, 0,
    "Stereo width of the reverb. The song itself keeps its width.",
)  # fmt: skip
TARGET = Parameter(
    "Loudness", "LUFS", -40.0, -5.0, -14.0, 0.5, 1,
    "Integrated loudness of the finished version.",
)  # fmt: skip
CEILING = Parameter(
    "Ceiling", "dBTP", -12.0, 0.0, -1.0, 0.1, 1,
    "The finished version’s true peak stays below this.",
)  # fmt: skip
ALLOWANCE = Parameter(
    "Maximum limiting", "dB", 0.0, 12.0, 2.0, 0.5, 1,
    "The limiter turns peaks down by this at most. If that is not enough, the version stays quieter.",
)  # fmt: skip
LINK = Parameter(
    "Stereo link", "%", 0.0, 100.0, 100.0, 5.0, 0,
    "100 limits both channels together and keeps the image stable. 0 limits each by itself and is louder.",
)  # fmt: skip
BEAT_NUMBER = Parameter("Beat", "", -4000.0, 400_000.0, 0.0, 1.0, 3, "Which beat, counted from bar 1; its first is 0.")
SONG_SECONDS = Parameter("Time", "s", 0.0, 360_000.0, 0.0, 0.01, 3, "When in the track, seconds.")
LENGTH_BEATS = Parameter("Length", "beats", 0.01, 4000.0, 4.0, 1.0, 2, "Length in beats.")
LENGTH_SECONDS = Parameter("Length", "s", 0.003, 3600.0, 2.0, 0.1, 3, "Length in seconds.")
TENSION = Parameter(
    "Curve", "", -1.0, 1.0, 0.0, 0.05, 2,
    "Below 0 it falls at once and lingers, 0 is straight, above 0 it holds and then dives.",
)  # fmt: skip
DEPTH = Parameter(
    "Depth",
    "%",
    1.0,
    100.0,
    100.0,
    1.0,
    0,
    "How much of the speed is lost, or the semitones it falls by: 100 stops completely.",
    pitch="loss",
)
DIP_DEPTH = Parameter(
    "Depth", "%", 1.0, 95.0, 50.0, 1.0, 0, "How much of the speed is lost at the lowest point, or the semitones it falls by.",
    pitch="loss",
)  # fmt: skip
LOWEST_AT = Parameter("Lowest point", "%", 5.0, 95.0, 50.0, 1.0, 0, "Where in the range the song is slowest.")
HOLD = Parameter("Stay", "%", 0.0, 90.0, 0.0, 1.0, 0, "Share of the length for which the song stays at its slowest.")
TENSION_BACK = Parameter("Curve back", "", -1.0, 1.0, 0.0, 0.05, 2, "The curve of the way back, like Curve.")
SECOND_SHARE = Parameter(
    "Second stage", "%", 5.0, 90.0, 33.0, 1.0, 0,
    "Share of the length, at its end, in which a second and steeper slow-down works.",
)  # fmt: skip
SPIN_UP = Parameter(
    "Spin up", "%", 0.0, 80.0, 0.0, 5.0, 0, "Share of the length, at its end, in which the song comes up to speed again.",
)  # fmt: skip
GAP = Parameter(
    "Silence", "%", 0.0, 95.0, 0.0, 5.0, 0,
    "Share of the length, at its end, that stays silent before the song returns.",
)  # fmt: skip
RAMP_SPEED = Parameter(
    "To speed", "×", 0.25, 4.0, 1.5, 1.01, 2, "The speed it reaches, or the semitones the pitch moves by.", logarithmic=True,
    pitch="speed",
)  # fmt: skip
GLIDE = Parameter("Glide", "st", -24.0, 24.0, -5.0, 0.5, 2, "How far the pitch glides. The tempo stays.")
SLICE_MS = Parameter(
    "Slice", "ms", 4.0, 2000.0, 60.0, 1.05, 0, "Length of the repeated slice. Below about 30 ms it buzzes.", logarithmic=True
)  # fmt: skip
MUFFLE = Parameter(
    "Muffle", "Hz", 80.0, 8000.0, 420.0, 1.05, 0, "Removes everything above this frequency.", logarithmic=True
)
DIP_AMOUNT = Parameter("Amount", "%", 0.0, 100.0, 70.0, 1.0, 0, "Amount of the effect at its peak.")
ATTACK = Parameter("Fade in", "%", 0.0, 100.0, 25.0, 1.0, 0, "Share of the length in which the effect fades in.")
RELEASE = Parameter("Fade out", "%", 0.0, 100.0, 25.0, 1.0, 0, "Share of the length in which it fades out.")
WATER_DB = Parameter(
    "Water", "dB", -48.0, 0.0, -26.0, 1.0, 0, "Level of the water sound against the song, at its peak."
)
PLUNGE_DB = Parameter("Splash", "dB", -30.0, 12.0, -4.0, 1.0, 0, "Level of the splash against the song.")
THROW_WET = Parameter("Wet", "dB", -36.0, 6.0, -8.0, 0.5, 1, "Level of the echo or reverb against the song.")
FEEDBACK = Parameter(
    "Feedback", "%", 0.0, 95.0, 55.0, 1.0, 0, "How much of each repeat is fed back: more repeats for longer."
)
MOMENT_GAIN = Parameter("Gain", "dB", -60.0, 24.0, -6.0, 0.5, 1, "Change of level in the range; −60 dB is silence.")
TICK = Parameter("Tick", "dB", -60.0, 0.0, -16.0, 0.5, 1, "Peak of the tick of the needle; −60 dB is off.")
SOUND_GAIN = Parameter("Gain", "dB", -60.0, 12.0, -6.0, 0.5, 1, "Level of the sound.")
QUANTISE_STRENGTH = Parameter(
    "Strength", "%", 0.0, 100.0, 100.0, 5.0, 0, "How far a recorded move goes towards the grid.",
)  # fmt: skip
HELD_BACK = Parameter(
    "Slice offset", "×", 0.0, 400.0, 1.0, 0.25, 3,
    "How many slices before the start the held one begins: 1 repeats the slice that has just sounded, 0 the one that comes.",
)  # fmt: skip
HELD_SLOWING = Parameter(
    "Slows in", "s", 0.05, 8.0, 0.8, 1.05, 2, "Time to a standstill.", logarithmic=True
)  # fmt: skip
TEMPO_PERCENT = Parameter("Tempo", "%", -8.0, 8.0, 0.0, 0.1, 2, "How much faster or slower it runs.")
TEMPO_POINT_SECONDS = Parameter("Place", "s", 0.0, 36_000.0, 0.0, 0.1, 3, "When, from the start of the range.")
HELD_RISE = Parameter(
    "Speeds up in", "s", 0.05, 8.0, 0.6, 1.05, 2, "Time from a standstill to full speed.", logarithmic=True
)  # fmt: skip
HELD_FADE = Parameter(
    "Fades", "ms", 2.0, 2000.0, 10.0, 1.1, 0, "Length of the fade into the effect and of the one out of it.", logarithmic=True
)  # fmt: skip
FADE_IN = Parameter("Fade in", "ms", 2.0, 10_000.0, 5.0, 1.2, 0, "Length of the fade-in.", logarithmic=True)
FADE_OUT = Parameter("Fade out", "ms", 2.0, 10_000.0, 50.0, 1.2, 0, "Length of the fade-out.", logarithmic=True)
ENDING_DECAY = Parameter(
    "Decay", "s", 0.5, 12.0, 4.5, 1.05, 2, "Time for the reverb to fall by 60 dB after the song has stopped.", logarithmic=True
)  # fmt: skip
ENDING_WET = Parameter(
    "Wet", "dB", -30.0, 0.0, -2.0, 0.5, 1, "Level of the reverb. It never starts louder than the song."
)
ENDING_BLEND = Parameter(
    "Blend in", "%", 0.0, 100.0, 0.0, 1.0, 0, "How much of the reverb you hear before the song stops; at 0 it opens when the song stops."
)  # fmt: skip
TAIL_SECONDS = Parameter(
    "Tail length", "s", 0.5, 30.0, 5.5, 1.05, 2, "Time from the stop to silence.", logarithmic=True
)
ENDING_SIZE = Parameter("Size", "%", 0.0, 100.0, 75.0, 1.0, 0, "From a closet to a cathedral.")
ENDING_TONE = Parameter(
    "High damping",
    "Hz",
    1000.0,
    16000.0,
    6500.0,
    1.05,
    0,
    "The reverb loses its highs above this frequency.",
    logarithmic=True,
)
ENDING_FEEDBACK = Parameter(
    "Feedback", "%", 10.0, 100.0, 100.0, 1.0, 0, "Level of each repeat against the one before, on top of the fade."
)
ENDING_HIGH_CUT = Parameter(
    "High cut", "Hz", 500.0, 20_000.0, 20_000.0, 1.05, 0, "Each repeat loses more of its highs above this; 20 kHz is off.",
    logarithmic=True,
)  # fmt: skip
ENDING_WOW = Parameter("Wow", "%", 0.0, 10.0, 0.0, 0.1, 1, "Swings of the tape’s speed while it runs down.")
ECHO_FADE = Parameter("Fade", "dB", -60.0, -6.0, -36.0, 1.0, 0, "Level of the last repeat against the first.")
