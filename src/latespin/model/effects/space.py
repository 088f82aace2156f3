"""Effects of space: reverbs, the 8D spin, width and echo. What they do is written in docs/effects.md."""

from typing import Annotated, Literal

from latespin.model.effects import parameters as e
from latespin.model.effects.declaration import Effect, effect
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.words import Words


@effect(
    "Hall", "Space", "Algorithmic reverb, from a closet to a cathedral.",
    main=("decay_seconds", "size_percent", "pre_delay_ms", "duck_db"),
    more=("lows_percent", "highs_percent", "tone_hz", "low_cut_hz", "width_percent", "modulation_percent"),
)  # fmt: skip
class Hall(Effect, frozen=True, kw_only=True, tag="hall"):
    """An algorithmic reverb."""

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
    modulation_percent: Annotated[float, e.MODULATION] = e.MODULATION.default


ROOM = Words(
    "Room", "The impulse response: one that ships with Late Spin, or a file of your own.",
    {"snug": "Snug", "rink": "Roller rink", "nave": "Nave", "file": "A file …"},
)  # fmt: skip


@effect(
    "Convolution reverb", "Space", "The song in a real room, by its impulse response.",
    main=("room", "stretch", "pre_delay_ms"), more=("low_cut_hz", "high_cut_hz", "width_percent"),
)  # fmt: skip
class ConvolutionReverb(Effect, frozen=True, kw_only=True, tag="room"):
    """A reverb by convolution with an impulse response."""

    amount_percent: Annotated[float, p.HALL_AMOUNT] = p.HALL_AMOUNT.default
    room: Annotated[Literal["snug", "rink", "nave", "file"], ROOM] = "rink"
    path: str = ""
    stretch: Annotated[float, e.STRETCH] = e.STRETCH.default
    pre_delay_ms: Annotated[float, p.PRE_DELAY] = 0.0
    low_cut_hz: Annotated[float, p.LOW_CUT] = p.LOW_CUT.default
    high_cut_hz: Annotated[float, e.HIGH_CUT] = e.HIGH_CUT.default
    width_percent: Annotated[float, p.WIDTH] = p.WIDTH.default

    @property
    def file(self) -> str | None:
        return self.path if self.room == "file" else None


PERIOD = Words("Timing", "Whether one turn is counted in bars or in seconds.", {"seconds": "Seconds", "bars": "Bars"})
DIRECTION = Words("Direction", "Which way it turns, seen from above.", {"right": "To the right", "left": "To the left"})
EARS = Words(
    "Ears", "A spherical head, or a listener’s measured ears from a SOFA file.",
    {"sphere": "Spherical head", "file": "A file …"},
)  # fmt: skip


@effect(
    "8D spin", "Space", "The song turns around the listener. For headphones.",
    main=("by", "period_bars", "period_seconds", "direction", "room_percent"),
    more=("start_degrees", "elevation_degrees", "distance_m", "still_below_hz", "ears"),
)  # fmt: skip
class Spin(Effect, frozen=True, kw_only=True, tag="orbit"):
    """Binaural panning around the head; for headphones."""

    amount_percent: Annotated[float, e.amount(100.0, "How far the song moves out of the middle of the head.")] = 100.0
    by: Annotated[Literal["seconds", "bars"], PERIOD] = "bars"
    period_seconds: Annotated[float, e.PERIOD_SECONDS] = e.PERIOD_SECONDS.default
    period_bars: Annotated[float, e.PERIOD_BARS] = e.PERIOD_BARS.default
    direction: Annotated[Literal["right", "left"], DIRECTION] = "right"
    start_degrees: Annotated[float, e.START_ANGLE] = 0.0
    elevation_degrees: Annotated[float, e.ELEVATION] = e.ELEVATION.default
    distance_m: Annotated[float, e.DISTANCE] = e.DISTANCE.default
    room_percent: Annotated[float, e.ROOM_SHARE] = e.ROOM_SHARE.default
    still_below_hz: Annotated[float, e.STILL_BELOW] = e.STILL_BELOW.default
    ears: Annotated[Literal["sphere", "file"], EARS] = "sphere"
    path: str = ""

    def active_fields(self) -> dict[str, bool]:
        return {"period_bars": self.by == "bars", "period_seconds": self.by == "seconds"}

    @property
    def file(self) -> str | None:
        return self.path if self.ears == "file" else None


MONO_SAFE = Words("Mono-safe", "The sum of left and right stays the song; off, one side is simply delayed.")


@effect("Width", "Space", "A wider or narrower stereo image.", main=("sides_percent", "delay_ms", "mono_safe"))
class Width(Effect, frozen=True, kw_only=True, tag="width"):
    """Stereo width."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the change you hear.")] = 60.0
    sides_percent: Annotated[float, e.SIDES] = e.SIDES.default
    delay_ms: Annotated[float, e.DELAY_MS] = e.DELAY_MS.default
    mono_safe: Annotated[bool, MONO_SAFE] = True


ECHO_VALUE = Words("Note value", "The time between two repeats.")
PING_PONG = Words("Ping-pong", "Repeats alternate between left and right.")


@effect(
    "Echo", "Space", "Repeats in time with the song.", main=("value", "feedback_percent", "ping_pong"),
    more=("low_cut_hz", "high_cut_hz", "rate_percent", "sway_percent"),
)  # fmt: skip
class Echo(Effect, frozen=True, kw_only=True, tag="echo"):
    """A delay in note values."""

    amount_percent: Annotated[float, e.amount(22.0, "How loud the repeats are against the song.")] = 22.0
    value: Annotated[str, ECHO_VALUE] = "1/4"
    feedback_percent: Annotated[float, e.ECHO_FEEDBACK] = e.ECHO_FEEDBACK.default
    low_cut_hz: Annotated[float, e.ECHO_LOW] = e.ECHO_LOW.default
    high_cut_hz: Annotated[float, e.ECHO_HIGH] = e.ECHO_HIGH.default
    rate_percent: Annotated[float, e.ECHO_RATE] = e.ECHO_RATE.default
    ping_pong: Annotated[bool, PING_PONG] = False
    sway_percent: Annotated[float, e.ECHO_WOW] = e.ECHO_WOW.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)
