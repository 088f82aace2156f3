"""Which controls of a colour are at hand, which are folded away, and what each colour does in a sentence."""

from latespin.model.effects.effects import AnyEffect, Echo, Eq, Layer, Orbit, Room, Underwater

#: The amount comes first, always; then these.
MAIN: dict[str, tuple[str, ...]] = {
    "hall": ("decay_seconds", "size_percent", "pre_delay_ms", "duck_db"),
    "room": ("room", "stretch", "pre_delay_ms"),
    "vinyl": ("wear_percent", "rpm", "crackle_percent", "wow_percent"),
    "tape": ("wear_percent", "speed", "hiss_percent", "wow_percent"),
    "underwater": ("bed", "bed_db", "splash", "splash_db"),
    "speaker": ("speaker", "treble_db", "under_db"),
    "orbit": ("by", "period_bars", "period_seconds", "direction", "room_percent"),
    "width": ("sides_percent", "delay_ms", "mono_safe"),
    "echo": ("value", "feedback_percent", "ping_pong"),
    "eq": ("low_shelf_db", "low_shelf_hz", "high_shelf_db", "high_shelf_hz", "bell_db", "bell_hz", "bell_q"),
    "compressor": ("way", "threshold_db", "ratio"),
    "deharsh": ("from_hz", "threshold_db", "most_db"),
    "saturation": ("shape", "drive_db"),
    "wobble": ("rate_hz", "depth_cents", "uneven"),
    "crush": ("bits", "rate_hz"),
    "layer": ("sound", "gain_db", "duck_db", "muffle_hz"),
}
MORE: dict[str, tuple[str, ...]] = {
    "hall": ("lows_percent", "highs_percent", "tone_hz", "low_cut_hz", "width_percent", "modulation_percent"),
    "room": ("low_cut_hz", "high_cut_hz", "width_percent"),
    "vinyl": (
        "pops_percent",
        "rumble_percent",
        "flutter_percent",
        "dullness_percent",
        "rounding_percent",
        "mono_below_hz",
        "seed",
    ),
    "tape": ("flutter_percent", "bump_percent", "dropouts_percent", "rounding_percent", "seed"),
    "underwater": ("deep_hz", "resonance_percent", "drift_cents", "muffled", "seed"),
    "speaker": ("under_hz", "ringing_percent", "rounding_percent", "noise_percent", "seed"),
    "orbit": ("start_degrees", "elevation_degrees", "distance_m", "still_below_hz", "ears"),
    "width": (),
    "echo": ("low_cut_hz", "high_cut_hz", "rate_percent", "sway_percent"),
    "eq": ("bell2_db", "bell2_hz", "bell2_q", "low_cut_hz", "low_slope", "high_cut_hz", "high_slope"),
    "compressor": ("attack_ms", "release_ms"),
    "deharsh": ("ratio",),
    "saturation": ("tilt_db",),
    "wobble": (),
    "crush": (),
    "layer": ("fade_in_seconds", "fade_out_seconds", "crossfade_seconds", "beside", "seed"),
}
SAYS = {
    "hall": "A room around the song, from a closet to a cathedral.", "room": "The song as it sounds in a real room, from its response.",
    "vinyl": "A worn record: crackle, wow, dust, a little less of everything.", "tape": "A worn tape: hiss, flutter, drop-outs.",
    "underwater": "Heard from under water, as deep as you like.", "speaker": "Telephone, pocket radio, loud-hailer, newsreel …",
    "orbit": "The song goes round the head. For headphones.", "width": "Wider or narrower.", "echo": "Repeats in time with the song.",
    "eq": "More or less of lows, middle and highs.", "compressor": "Loud parts are turned down, quiet ones come forward.",
    "deharsh": "Highs are turned down only where they are loud.", "saturation": "Peaks are rounded, overtones arise.",
    "wobble": "The pitch swings, slowly or as flutter.", "crush": "Coarser, as an early sampler.",
    "layer": "Rain, crackle, water, hum or a file of yours beneath the song.",
}  # fmt: skip


def active_fields(effect: AnyEffect) -> dict[str, bool]:
    """Fields that do something now (True) or nothing (False); those not named always do."""
    if isinstance(effect, Room):
        return {}
    if isinstance(effect, Underwater):
        return {"bed_db": effect.bed, "muffled": effect.bed, "splash_db": effect.splash}
    if isinstance(effect, Orbit):
        return {"period_bars": effect.by == "bars", "period_seconds": effect.by == "seconds"}
    if isinstance(effect, Echo):
        return {}
    if isinstance(effect, Eq):
        return {
            "bell_hz": effect.bell_db != 0.0, "bell_q": effect.bell_db != 0.0, "bell2_hz": effect.bell2_db != 0.0,
            "bell2_q": effect.bell2_db != 0.0, "low_shelf_hz": effect.low_shelf_db != 0.0, "high_shelf_hz": effect.high_shelf_db != 0.0,
            "low_slope": effect.low_cut_hz > 20.0, "high_slope": effect.high_cut_hz < 20_000.0,
        }  # fmt: skip
    if isinstance(effect, Layer):
        return {"crossfade_seconds": effect.sound == "file", "seed": effect.sound != "file"}
    return {}
