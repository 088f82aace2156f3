"""The colours of a version: what each kind of them is, and the numbers it is made of. What they do is written in docs/colours.md."""

from typing import Annotated, Literal, get_args

from latespin.model.effects import parameters as e
from latespin.model.effects.automation import Lane, check_lanes
from latespin.model.values import parameters as p
from latespin.model.values.note_values import beats_of
from latespin.model.values.parameters import ValidatedStruct

Slope = Literal["6", "12", "18", "24", "36", "48"]


class Effect(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind"):
    """One colour in the list. id tells a version's colours apart; keep_level : the loudness stays as it was without it.

    lanes : what of it changes over the song.
    """

    id: str = ""
    on: bool = True
    keep_level: bool = True
    lanes: tuple[Lane, ...] = ()

    def __post_init__(self) -> None:
        super().__post_init__()
        check_lanes(self.lanes, type(self))

    @property
    def heard(self) -> bool:
        """Whether it changes anything anywhere."""
        return self.on and (self.amount_percent > 0.0 or any(lane.field == "amount_percent" for lane in self.lanes))  # type: ignore[attr-defined]


class Hall(Effect, frozen=True, kw_only=True, tag="hall"):
    """A room around the song."""

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


class Room(Effect, frozen=True, kw_only=True, tag="room"):
    """The response of a room, made or from a file: the song sounds as it would there."""

    amount_percent: Annotated[float, p.HALL_AMOUNT] = p.HALL_AMOUNT.default
    room: Literal["snug", "rink", "nave", "file"] = "rink"
    path: str = ""
    stretch: Annotated[float, e.STRETCH] = e.STRETCH.default
    pre_delay_ms: Annotated[float, p.PRE_DELAY] = 0.0
    low_cut_hz: Annotated[float, p.LOW_CUT] = p.LOW_CUT.default
    high_cut_hz: Annotated[float, e.HIGH_CUT] = e.HIGH_CUT.default
    width_percent: Annotated[float, p.WIDTH] = p.WIDTH.default


class Vinyl(Effect, frozen=True, kw_only=True, tag="vinyl"):
    """A worn record."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the record is heard.")] = 60.0
    wear_percent: Annotated[float, e.WEAR] = e.WEAR.default
    rpm: Literal["33", "45", "78"] = "33"
    crackle_percent: Annotated[float, e.CRACKLE] = 100.0
    pops_percent: Annotated[float, e.POPS] = 100.0
    rumble_percent: Annotated[float, e.RUMBLE] = 100.0
    wow_percent: Annotated[float, e.WOW] = 100.0
    flutter_percent: Annotated[float, e.FLUTTER] = 100.0
    dullness_percent: Annotated[float, e.DULLNESS] = 100.0
    rounding_percent: Annotated[float, e.DRIVE_SHARE] = 100.0
    mono_below_hz: Annotated[float, e.MONO_BELOW] = e.MONO_BELOW.default
    seed: Annotated[float, e.SEED] = 1.0


class Tape(Effect, frozen=True, kw_only=True, tag="tape"):
    """A worn tape."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the tape is heard.")] = 60.0
    wear_percent: Annotated[float, e.WEAR] = e.WEAR.default
    speed: Literal["4.8", "9.5", "19", "38"] = "9.5"
    hiss_percent: Annotated[float, e.HISS] = 100.0
    wow_percent: Annotated[float, e.WOW] = 100.0
    flutter_percent: Annotated[float, e.FLUTTER] = 100.0
    bump_percent: Annotated[float, e.BUMP] = 100.0
    dropouts_percent: Annotated[float, e.DROPOUTS] = 100.0
    rounding_percent: Annotated[float, e.DRIVE_SHARE] = 100.0
    seed: Annotated[float, e.SEED] = 1.0


class Underwater(Effect, frozen=True, kw_only=True, tag="underwater"):
    """Heard from under water; the amount is the depth."""

    amount_percent: Annotated[float, e.amount(45.0, "0 is above the surface, 100 is deep down.", "Depth")] = 45.0
    deep_hz: Annotated[float, e.DEEP_HZ] = e.DEEP_HZ.default
    resonance_percent: Annotated[float, e.RESONANCE] = e.RESONANCE.default
    drift_cents: Annotated[float, e.DRIFT] = e.DRIFT.default
    bed: bool = True
    bed_db: Annotated[float, e.BED_DB] = e.BED_DB.default
    muffled: bool = False
    splash: bool = False
    splash_db: Annotated[float, e.SPLASH_DB] = e.SPLASH_DB.default
    seed: Annotated[float, e.SEED] = 1.0


class SmallSpeaker(Effect, frozen=True, kw_only=True, tag="speaker"):
    """Heard from a small loudspeaker."""

    amount_percent: Annotated[
        float, e.amount(80.0, "How far it is from the full sound to the small loudspeaker’s.")
    ] = 80.0
    speaker: Literal["telephone", "radio", "hailer", "newsreel", "headphones"] = "radio"
    treble_db: Annotated[float, e.TREBLE] = 0.0
    ringing_percent: Annotated[float, e.RINGING] = 100.0
    rounding_percent: Annotated[float, e.DRIVE_SHARE] = 100.0
    noise_percent: Annotated[float, e.NOISE] = 100.0
    under_db: Annotated[float, e.UNDER_DB] = e.UNDER_DB.default
    under_hz: Annotated[float, e.UNDER_HZ] = e.UNDER_HZ.default
    seed: Annotated[float, e.SEED] = 1.0


class Orbit(Effect, frozen=True, kw_only=True, tag="orbit"):
    """The song goes round the head; for headphones."""

    amount_percent: Annotated[float, e.amount(70.0, "How far away from the middle of the head it goes.")] = 70.0
    by: Literal["seconds", "bars"] = "bars"
    period_seconds: Annotated[float, e.PERIOD_SECONDS] = e.PERIOD_SECONDS.default
    period_bars: Annotated[float, e.PERIOD_BARS] = e.PERIOD_BARS.default
    direction: Literal["right", "left"] = "right"
    start_degrees: Annotated[float, e.START_ANGLE] = 0.0
    elevation_degrees: Annotated[float, e.ELEVATION] = e.ELEVATION.default
    distance_m: Annotated[float, e.DISTANCE] = e.DISTANCE.default
    room_percent: Annotated[float, e.ROOM_SHARE] = e.ROOM_SHARE.default
    still_below_hz: Annotated[float, e.STILL_BELOW] = e.STILL_BELOW.default
    ears: Literal["sphere", "file"] = "sphere"
    path: str = ""


class Width(Effect, frozen=True, kw_only=True, tag="width"):
    """Wider or narrower."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the change is heard.")] = 60.0
    sides_percent: Annotated[float, e.SIDES] = e.SIDES.default
    delay_ms: Annotated[float, e.DELAY_MS] = e.DELAY_MS.default
    mono_safe: bool = True


class Echo(Effect, frozen=True, kw_only=True, tag="echo"):
    """Repeats in time with the song."""

    amount_percent: Annotated[float, e.amount(22.0, "How loud the repeats are beside the song.")] = 22.0
    value: str = "1/4"
    feedback_percent: Annotated[float, e.ECHO_FEEDBACK] = e.ECHO_FEEDBACK.default
    low_cut_hz: Annotated[float, e.ECHO_LOW] = e.ECHO_LOW.default
    high_cut_hz: Annotated[float, e.ECHO_HIGH] = e.ECHO_HIGH.default
    rate_percent: Annotated[float, e.ECHO_RATE] = e.ECHO_RATE.default
    ping_pong: bool = False
    sway_percent: Annotated[float, e.SWAY] = e.SWAY.default

    def __post_init__(self) -> None:
        super().__post_init__()
        beats_of(self.value)


class Eq(Effect, frozen=True, kw_only=True, tag="eq"):
    """More or less of the lows, the middle and the highs."""

    amount_percent: Annotated[float, e.amount(100.0, "How much of the change is heard.")] = 100.0
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
    low_slope: Slope = "12"
    high_cut_hz: Annotated[float, e.CUT_HIGH] = e.CUT_HIGH.default
    high_slope: Slope = "12"


class Compressor(Effect, frozen=True, kw_only=True, tag="compressor"):
    """Loud parts are turned down, so that quiet ones come forward."""

    amount_percent: Annotated[float, e.amount(70.0, "How much of the reduction is heard.")] = 70.0
    way: Literal["stereo", "mid-side", "bands"] = "stereo"
    threshold_db: Annotated[float, e.THRESHOLD] = e.THRESHOLD.default
    ratio: Annotated[float, e.RATIO] = e.RATIO.default
    attack_ms: Annotated[float, e.ATTACK_MS] = e.ATTACK_MS.default
    release_ms: Annotated[float, e.RELEASE_MS] = e.RELEASE_MS.default


class Deharsh(Effect, frozen=True, kw_only=True, tag="deharsh"):
    """Highs are turned down where they are loud."""

    amount_percent: Annotated[float, e.amount(80.0, "How much of the reduction is heard.")] = 80.0
    from_hz: Annotated[float, e.HARSH_HZ] = e.HARSH_HZ.default
    threshold_db: Annotated[float, e.HARSH_OVER] = e.HARSH_OVER.default
    ratio: Annotated[float, e.RATIO] = 3.0
    most_db: Annotated[float, e.MOST] = e.MOST.default


class Saturation(Effect, frozen=True, kw_only=True, tag="saturation"):
    """Peaks are rounded, overtones arise."""

    amount_percent: Annotated[float, e.amount(50.0, "How much of the drive is used.")] = 50.0
    shape: Literal["soft", "tube", "tape"] = "tape"
    drive_db: Annotated[float, e.DRIVE] = e.DRIVE.default
    tilt_db: Annotated[float, e.TILT] = 0.0


class Wobble(Effect, frozen=True, kw_only=True, tag="wobble"):
    """The pitch swings."""

    amount_percent: Annotated[float, e.amount(60.0, "How much of the swing is heard.")] = 60.0
    rate_hz: Annotated[float, e.WOBBLE_HZ] = e.WOBBLE_HZ.default
    depth_cents: Annotated[float, e.WOBBLE_CENTS] = e.WOBBLE_CENTS.default
    uneven: bool = False


class Crush(Effect, frozen=True, kw_only=True, tag="crush"):
    """Fewer values a second, and coarser ones."""

    amount_percent: Annotated[float, e.amount(50.0, "How much of the coarse sound is heard.")] = 50.0
    bits: Annotated[float, e.BITS] = e.BITS.default
    rate_hz: Annotated[float, e.CRUSH_HZ] = e.CRUSH_HZ.default


class Layer(Effect, frozen=True, kw_only=True, tag="layer"):
    """A sound beneath the song, all along. beside : it passes no colour that follows."""

    amount_percent: Annotated[float, e.amount(100.0, "How much of the layer is heard.")] = 100.0
    sound: Literal["crackle", "rain", "water", "room", "hiss", "rink", "file"] = "rain"
    path: str = ""
    gain_db: Annotated[float, e.LAYER_DB] = e.LAYER_DB.default
    muffle_hz: Annotated[float, e.LAYER_HIGH] = e.LAYER_HIGH.default
    duck_db: Annotated[float, e.LAYER_DUCK] = 0.0
    fade_in_seconds: Annotated[float, e.LAYER_FADE_IN] = e.LAYER_FADE_IN.default
    fade_out_seconds: Annotated[float, e.LAYER_FADE_OUT] = e.LAYER_FADE_OUT.default
    crossfade_seconds: Annotated[float, e.CROSSFADE] = e.CROSSFADE.default
    beside: bool = False
    seed: Annotated[float, e.SEED] = 1.0


AnyEffect = (
    Hall | Room | Vinyl | Tape | Underwater | SmallSpeaker | Orbit | Width | Echo | Eq | Compressor | Deharsh | Saturation | Wobble
    | Crush | Layer
)  # fmt: skip
EFFECTS: dict[str, type[Effect]] = {str(kind.__struct_config__.tag): kind for kind in get_args(AnyEffect)}
EFFECT_TITLES = {
    "hall": "Hall", "room": "Room response", "vinyl": "Vinyl", "tape": "Tape", "underwater": "Underwater", "speaker": "Small speaker",
    "orbit": "8D orbit", "width": "Width", "echo": "Echo", "eq": "EQ", "compressor": "Compressor", "deharsh": "De-harsh",
    "saturation": "Saturation", "wobble": "Wobble", "crush": "Crush", "layer": "Layer",
}  # fmt: skip


def effect_kind(effect: Effect) -> str:
    """``hall``, ``vinyl`` …"""
    return str(effect.__struct_config__.tag)


def effect_path(effect: Effect) -> str:
    """The file a colour needs, or nothing."""
    needs = (isinstance(effect, Room) and effect.room == "file") or (
        isinstance(effect, Orbit) and effect.ears == "file"
    )
    needs = needs or (isinstance(effect, Layer) and effect.sound == "file")
    return str(getattr(effect, "path", "")) if needs else ""


def needs_file(effect: Effect) -> bool:
    """Whether a colour is made from a file."""
    return "file" in (getattr(effect, name, "") for name in ("room", "ears", "sound"))
