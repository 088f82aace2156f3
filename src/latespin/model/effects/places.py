"""Effects of place: underwater, small speaker, layers. docs/effects.md describes them."""

from typing import Annotated, Literal

from latespin.model.effects import parameters as e
from latespin.model.effects.declaration import Effect, effect
from latespin.model.values.words import Words

BED = Words("Water sound", "Adds the sound of the water itself, and bubbles.")
MUFFLED = Words("Muffle the water", "Sends the water through the same low-pass as the music.")
SPLASH_MUFFLED = Words("Muffle the splash", "Sends the splash through the same low-pass as the music.")
SPLASH = Words("Splash", "Adds a plunge wherever the depth leaves or reaches zero. Automate the depth to use it.")


@effect(
    "Underwater", "Places", "Heard from under water, as deep as you like.", main=("drop_db", "bed", "bed_db", "splash", "splash_db"),
    more=("deep_hz", "resonance_percent", "drift_cents", "muffled", "splash_muffled", "seed"),
)  # fmt: skip
class Underwater(Effect, frozen=True, kw_only=True, tag="underwater"):
    """Underwater; the amount is the depth."""

    amount_percent: Annotated[float, e.amount(45.0, "0 is above the surface, 100 is deep down.", "Depth")] = 45.0
    deep_hz: Annotated[float, e.DEEP_HZ] = e.DEEP_HZ.default
    resonance_percent: Annotated[float, e.RESONANCE] = e.RESONANCE.default
    drift_cents: Annotated[float, e.DRIFT] = e.DRIFT.default
    bed: Annotated[bool, BED] = True
    bed_db: Annotated[float, e.BED_DB] = e.BED_DB.default
    muffled: Annotated[bool, MUFFLED] = False
    splash: Annotated[bool, SPLASH] = False
    splash_db: Annotated[float, e.SPLASH_DB] = e.SPLASH_DB.default
    splash_muffled: Annotated[bool, SPLASH_MUFFLED] = False
    drop_db: Annotated[float, e.LEVEL_DROP] = 0.0
    seed: Annotated[float, e.SEED] = 1.0

    def active_fields(self) -> dict[str, bool]:
        return {"bed_db": self.bed, "muffled": self.bed, "splash_db": self.splash, "splash_muffled": self.splash}


SPEAKER = Words(
    "Loudspeaker", "The loudspeaker that plays the song.",
    {
        "telephone": "Telephone", "radio": "Pocket radio", "hailer": "Loud-hailer", "newsreel": "Newsreel",
        "headphones": "Headphones on a table",
    },
)  # fmt: skip


@effect(
    "Small speaker", "Places", "Telephone, pocket radio, loud-hailer, newsreel …", main=("speaker", "treble_db", "under_db"),
    more=("under_hz", "ringing_percent", "rounding_percent", "noise_percent", "seed"),
)  # fmt: skip
class SmallSpeaker(Effect, frozen=True, kw_only=True, tag="speaker"):
    """A small loudspeaker."""

    amount_percent: Annotated[float, e.amount(80.0, "From the full sound to that of the small loudspeaker.")] = 80.0
    speaker: Annotated[Literal["telephone", "radio", "hailer", "newsreel", "headphones"], SPEAKER] = "radio"
    treble_db: Annotated[float, e.TREBLE] = 0.0
    ringing_percent: Annotated[float, e.SPEAKER_RESONANCE] = 100.0
    rounding_percent: Annotated[float, e.SATURATION_SHARE] = 100.0
    noise_percent: Annotated[float, e.NOISE] = 100.0
    under_db: Annotated[float, e.UNDER_DB] = e.UNDER_DB.default
    under_hz: Annotated[float, e.UNDER_HZ] = e.UNDER_HZ.default
    seed: Annotated[float, e.SEED] = 1.0


LAYER_SOUND = Words(
    "Sound", "The sound beneath the song: one that Late Spin makes, or a file of your own.",
    {
        "crackle": "Crackle", "rain": "Rain", "water": "Water", "room": "Room tone", "hiss": "Tape hiss", "rink": "Rink hum",
        "file": "A file …",
    },
)  # fmt: skip
BESIDE = Words(
    "Bypass other effects", "Mixes the layer in after all effects; off, it passes those below it in the list."
)


@effect(
    "Layer", "Layers", "Rain, crackle, water, hum or your own file beneath the song.",
    main=("sound", "gain_db", "duck_db", "muffle_hz"),
    more=("fade_in_seconds", "fade_out_seconds", "crossfade_seconds", "beside", "seed"),
)  # fmt: skip
class Layer(Effect, frozen=True, kw_only=True, tag="layer"):
    """A looped sound beneath the song. beside : it bypasses the other effects."""

    amount_percent: Annotated[float, e.amount(100.0, "How much of the layer you hear.")] = 100.0
    sound: Annotated[Literal["crackle", "rain", "water", "room", "hiss", "rink", "file"], LAYER_SOUND] = "rain"
    path: str = ""
    gain_db: Annotated[float, e.LAYER_DB] = e.LAYER_DB.default
    muffle_hz: Annotated[float, e.LAYER_HIGH] = e.LAYER_HIGH.default
    duck_db: Annotated[float, e.LAYER_DUCK] = 0.0
    fade_in_seconds: Annotated[float, e.LAYER_FADE_IN] = e.LAYER_FADE_IN.default
    fade_out_seconds: Annotated[float, e.LAYER_FADE_OUT] = e.LAYER_FADE_OUT.default
    crossfade_seconds: Annotated[float, e.CROSSFADE] = e.CROSSFADE.default
    beside: Annotated[bool, BESIDE] = False
    seed: Annotated[float, e.SEED] = 1.0

    def active_fields(self) -> dict[str, bool]:
        return {"crossfade_seconds": self.sound == "file", "seed": self.sound != "file"}

    @property
    def file(self) -> str | None:
        return self.path if self.sound == "file" else None
