"""Moments in which an effect fades in and out."""

from typing import Annotated, Literal

from msgspec.structs import replace

from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import AnyEffect, Echo
from latespin.model.moments.declaration import Moment, moment
from latespin.model.values import parameters as p
from latespin.model.values.words import Words

DipColour = Literal["water", "phone", "hall", "version-hall"]
DIP_EFFECT = Words(
    "Effect", "The effect that fades in and out.",
    {"water": "Underwater", "phone": "Telephone", "hall": "A hall", "version-hall": "The version’s hall"},
)  # fmt: skip
WATER_BED = Words("Water sound", "Adds the sound of the water itself, and bubbles.")
WATER_SPLASH = Words("Splash", "Adds a plunge where the range begins and where it ends.")
EFFECT = Words("Effect", "The effect of the range, with settings of its own.")


class FadedEffect(Moment, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """How an effect fades in and out over a range."""

    attack_percent: Annotated[float, p.ATTACK] = p.ATTACK.default
    release_percent: Annotated[float, p.RELEASE] = p.RELEASE.default
    tension: Annotated[float, p.TENSION] = p.TENSION.default


@moment(
    "Effect dip",
    "An effect fades in and out.",
    fields=(
        "colour",
        "amount_percent",
        "tension",
        "attack_percent",
        "release_percent",
        "bed",
        "bed_db",
        "splash",
        "splash_db",
    ),
    beats=16.0,
)
class ColourDip(FadedEffect, frozen=True, kw_only=True, tag="colour-dip"):
    """An effect fades in and out: underwater, telephone, a hall of its own, or more of the version's hall."""

    colour: Annotated[DipColour, DIP_EFFECT] = "water"
    amount_percent: Annotated[float, p.DIP_AMOUNT] = p.DIP_AMOUNT.default
    bed: Annotated[bool, WATER_BED] = False
    bed_db: Annotated[float, p.WATER_DB] = p.WATER_DB.default
    splash: Annotated[bool, WATER_SPLASH] = False
    splash_db: Annotated[float, p.PLUNGE_DB] = p.PLUNGE_DB.default

    def active_fields(self) -> dict[str, bool]:
        water = self.colour == "water"
        return {"bed": water, "splash": water, "bed_db": water and self.bed, "splash_db": water and self.splash}


@moment(
    "Effect",
    "Any effect, with settings of its own, fades in and out.",
    fields=("attack_percent", "release_percent", "tension"),
    beats=8.0,
)
class EffectRange(FadedEffect, frozen=True, kw_only=True, tag="effect"):
    """Any effect over a range; its amount is reached between the fades. It comes after the version’s effects and has no automation."""

    effect: Annotated[AnyEffect, EFFECT] = Echo()

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.effect.lanes:
            raise Unusable(tr("The effect of a moment cannot be automated; automate one in the Effects stage instead."))

    @property
    def amount_percent(self) -> float:
        """Weight between the fades, 0 to 100."""
        return self.effect.amount_percent

    @property
    def own_title(self) -> str:
        return effect_title(self.effect)

    @property
    def effect_in_chain(self) -> AnyEffect:
        """The effect as one of the version's, told apart by the moment's id."""
        return replace(self.effect, id=f"moment {self.id}", on=True)
