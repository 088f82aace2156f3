"""Moments held over the finished sound, after all effects: what pads play, and what can be placed the same way by hand.

They change what has been rendered already, so that a pad is heard at once and a recorded take sounds as it was played.
"""

from typing import Annotated, Literal

from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import AnyEffect, ConvolutionReverb, Echo, Eq, Hall
from latespin.model.moments.declaration import Moment, moment
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.values.words import Words

HeldMaterial = Literal["song", "drums"]
HeldClock = Literal["keep", "add"]
SLICE_VALUE = Words("Note value", "Length of the repeated slice.")
FREE_SLICE = Words("In milliseconds", "Gives the length of the slice in milliseconds instead of a note value.")
HELD_MATERIAL = Words(
    "Material",
    "Repeats the whole song, or only its drums while the rest goes on.",
    {"song": "The whole song", "drums": "The drums alone"},
)
HELD_EFFECT = Words("Effect", "The effect that is switched on while it is held. Echoes and halls ring on afterwards.")
HELD_CLOCK = Words(
    "Afterwards", "The song comes back in time, or from where it stopped, which makes the version longer.",
    {"keep": "Keep time", "add": "Add time"},
)  # fmt: skip
TEMPO_POINTS = Words("Points", "Changes of tempo over the range.")
MOST_TEMPO_POINTS = 20_000
TAKE = Words("Take", "The take it was recorded in.")


class Held(Moment, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A move over the finished sound from ``start`` to ``end``. take : the id of the take it belongs to; empty if placed by hand."""

    take: Annotated[str, TAKE] = ""


class HeldTime(Held, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A move that plays other frames of the song. Of two that overlap, the later one sounds; then the earlier one comes back."""


@moment(
    "Held repeat",
    "Repeats a slice of the finished sound, effects included.",
    fields=("value", "material", "free", "slice_ms", "back"),
    beats=2.0,
)
class HeldRepeat(HeldTime, frozen=True, kw_only=True, tag="held-repeat"):
    """A slice of the finished sound goes round. back : how many slices before the start it begins."""

    value: Annotated[str, SLICE_VALUE] = "1/8"
    free: Annotated[bool, FREE_SLICE] = False
    slice_ms: Annotated[float, p.SLICE_MS] = p.SLICE_MS.default
    back: Annotated[float, p.HELD_BACK] = p.HELD_BACK.default
    material: Annotated[HeldMaterial, HELD_MATERIAL] = "song"

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)

    def active_fields(self) -> dict[str, bool]:
        return {"slice_ms": self.free, "value": not self.free}


@moment("Held reverse", "Plays the finished sound backwards, from its start on.", fields=(), beats=2.0)
class HeldReverse(HeldTime, frozen=True, kw_only=True, tag="held-reverse"):
    """What has sounded plays backwards, for eight seconds at most; afterwards the song is where it would have been."""


@moment(
    "Held stop", "Slows the finished sound to a standstill.", fields=("time", "slow_seconds"), beats=4.0
)  # fmt: skip
class HeldStop(HeldTime, frozen=True, kw_only=True, tag="held-stop"):
    """The speed falls evenly to a standstill, and the pitch with it."""

    time: Annotated[HeldClock, HELD_CLOCK] = "keep"
    slow_seconds: Annotated[float, p.HELD_SLOWING] = p.HELD_SLOWING.default


@moment(
    "Held spin-up", "Brings the finished sound up to speed from a standstill.", fields=("rise_seconds",), beats=2.0
)  # fmt: skip
class HeldSpinUp(HeldTime, frozen=True, kw_only=True, tag="held-spin-up"):
    """The speed rises evenly from a standstill; at the end the song is where it would have been."""

    rise_seconds: Annotated[float, p.HELD_RISE] = p.HELD_RISE.default


@moment("Held silence", "Mutes the finished sound.", fields=(), beats=1.0)
class HeldSilence(HeldTime, frozen=True, kw_only=True, tag="held-silence"):
    """Nothing is heard; echoes and halls that were thrown before ring on."""


class TempoPoint(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A change of tempo. ``seconds`` counts from the start of the moment, in time as heard; ``percent`` is the change."""

    seconds: Annotated[float, p.TEMPO_POINT_SECONDS]
    percent: Annotated[float, p.TEMPO_PERCENT]


@moment("Held tempo", "Rides the tempo of the finished sound, and its pitch with it.", fields=(), beats=8.0)
class HeldTempo(HeldTime, frozen=True, kw_only=True, tag="held-tempo"):
    """The finished sound runs faster or slower along points, straight between them; the song's clock goes with it."""

    points: Annotated[tuple[TempoPoint, ...], TEMPO_POINTS] = (
        TempoPoint(seconds=0.0, percent=0.0),
        TempoPoint(seconds=1.0, percent=-4.0),
    )

    def __post_init__(self) -> None:
        super().__post_init__()
        times = [point.seconds for point in self.points]
        if not 2 <= len(times) <= MOST_TEMPO_POINTS or times[0] != 0.0 or sorted(set(times)) != times:
            raise Unusable(
                tr("A held tempo has 2 to {0} points, the first at 0 s and each later than the one before it.").format(
                    MOST_TEMPO_POINTS
                )
            )


@moment("Held effect", "Switches any effect on over the finished sound.", fields=("fade_ms",), beats=4.0)
class HeldEffect(Held, frozen=True, kw_only=True, tag="held-effect"):
    """An effect on the finished sound. Echo, hall and convolution reverb get what sounds meanwhile, and ring on."""

    effect: Annotated[AnyEffect, HELD_EFFECT] = Eq(high_cut_hz=700.0, high_slope="24")
    fade_ms: Annotated[float, p.HELD_FADE] = p.HELD_FADE.default

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.effect.lanes:
            raise Unusable(tr("The effect of a moment cannot be automated; automate one in the Effects stage instead."))

    @property
    def own_title(self) -> str:
        return f"{effect_title(self.effect)}, held"

    @property
    def rings_on(self) -> bool:
        """Whether it is a send: what sounds meanwhile goes in, and the effect rings on afterwards."""
        return isinstance(self.effect, Echo | Hall | ConvolutionReverb)
