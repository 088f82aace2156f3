"""Effects of worn media: vinyl, tape, wobble and crush. What they do is written in docs/effects.md."""

from typing import Annotated, Literal

from latespin.model.effects import parameters as e
from latespin.model.effects.declaration import Effect, effect
from latespin.model.values.words import Words

RPM = Words("RPM", "How fast the record turns; its wow comes once per turn.", {"33": "33⅓", "45": "45", "78": "78"})


@effect(
    "Vinyl", "Wear", "A worn record: crackle, wow, dust and duller highs.",
    main=("wear_percent", "rpm", "crackle_percent", "wow_percent"),
    more=(
        "pops_percent", "scratch_percent", "rumble_percent", "flutter_percent", "dullness_percent", "rounding_percent", "mono_below_hz", "seed",
    ),
)  # fmt: skip
class Vinyl(Effect, frozen=True, kw_only=True, tag="vinyl"):
    """A worn record."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the record you hear.")] = 60.0
    wear_percent: Annotated[float, e.WEAR] = e.WEAR.default
    rpm: Annotated[Literal["33", "45", "78"], RPM] = "33"
    crackle_percent: Annotated[float, e.CRACKLE] = 100.0
    pops_percent: Annotated[float, e.POPS] = 100.0
    scratch_percent: Annotated[float, e.SCRATCH] = 100.0
    rumble_percent: Annotated[float, e.RUMBLE] = 100.0
    wow_percent: Annotated[float, e.WOW] = 100.0
    flutter_percent: Annotated[float, e.FLUTTER] = 100.0
    dullness_percent: Annotated[float, e.DULLNESS] = 100.0
    rounding_percent: Annotated[float, e.SATURATION_SHARE] = 100.0
    mono_below_hz: Annotated[float, e.MONO_BELOW] = e.MONO_BELOW.default
    seed: Annotated[float, e.SEED] = 1.0


TAPE_SPEED = Words(
    "Tape speed", "Slower tape is duller, noisier and less even.",
    {"4.8": "4.8 cm/s", "9.5": "9.5 cm/s", "19": "19 cm/s", "38": "38 cm/s"},
)  # fmt: skip


@effect(
    "Tape", "Wear", "A worn tape: hiss, flutter and drop-outs.", main=("wear_percent", "speed", "hiss_percent", "wow_percent"),
    more=("flutter_percent", "bump_percent", "dropouts_percent", "rounding_percent", "seed"),
)  # fmt: skip
class Tape(Effect, frozen=True, kw_only=True, tag="tape"):
    """A worn tape."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the tape you hear.")] = 60.0
    wear_percent: Annotated[float, e.WEAR] = e.WEAR.default
    speed: Annotated[Literal["4.8", "9.5", "19", "38"], TAPE_SPEED] = "9.5"
    hiss_percent: Annotated[float, e.HISS] = 100.0
    wow_percent: Annotated[float, e.WOW] = 100.0
    flutter_percent: Annotated[float, e.FLUTTER] = 100.0
    bump_percent: Annotated[float, e.BUMP] = 100.0
    dropouts_percent: Annotated[float, e.DROPOUTS] = 100.0
    rounding_percent: Annotated[float, e.SATURATION_SHARE] = 100.0
    seed: Annotated[float, e.SEED] = 1.0


UNEVEN = Words("Random", "The pitch drifts at random instead of swinging evenly.")


@effect("Wobble", "Wear", "The pitch swings, slowly or as flutter.", main=("rate_hz", "depth_cents", "uneven"))
class Wobble(Effect, frozen=True, kw_only=True, tag="wobble"):
    """Vibrato, even or random."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the swing you hear.")] = 60.0
    rate_hz: Annotated[float, e.WOBBLE_HZ] = e.WOBBLE_HZ.default
    depth_cents: Annotated[float, e.WOBBLE_CENTS] = e.WOBBLE_CENTS.default
    uneven: Annotated[bool, UNEVEN] = False


@effect("Crush", "Wear", "Fewer bits and a lower sample rate, as in an early sampler.", main=("bits", "rate_hz"))
class Crush(Effect, frozen=True, kw_only=True, tag="crush"):
    """Bit depth and sample rate reduction."""

    amount_percent: Annotated[float, e.amount(50.0, "How much of the crushed sound you hear.")] = 50.0
    bits: Annotated[float, e.BITS] = e.BITS.default
    rate_hz: Annotated[float, e.CRUSH_HZ] = e.CRUSH_HZ.default
