"""A version in words: what each stage does now, in the fewest words that say it."""

import math

from latespin.model.units import with_unit
from latespin.model.version import Colour, Level, Stages, Time

OFF = "Off"
AS_IT_WAS = "As it was"


def shift_semitones(time: Time) -> float:
    """How far the pitch heard is from the track's, semitones."""
    return 12.0 * math.log2(time.pitch_ratio)


def speed_text(speed: float) -> str:
    """``0.85×``: as many decimals as the value needs, two at least."""
    text = f"{speed:.3f}"
    return (text[:-1] if text.endswith("0") else text) + "×"


def say_time(time: Time) -> str:
    """``0.85× · −2.8 st, linked``."""
    if not time.on:
        return OFF
    shift = shift_semitones(time)
    if time.speed == 1.0 and shift == 0.0:
        return AS_IT_WAS
    if abs(shift) < 0.005:
        return f"{speed_text(time.speed)} · pitch held"
    how = "linked" if time.pitch == "linked" else "held"
    if time.semitones:
        how = "transposed" if how == "held" else "linked, transposed"
    return f"{speed_text(time.speed)} · {with_unit(shift, 'st', 1)}, {how}"


def say_colour(colour: Colour) -> str:
    """``Hall 3.2 s at 28 %``."""
    if not colour.on:
        return OFF
    if not colour.hall_heard:
        return AS_IT_WAS
    hall = colour.hall
    return f"Hall {with_unit(hall.decay_seconds, 's', 1)} at {with_unit(hall.amount_percent, '%', 0)}"


def say_level(level: Level) -> str:
    """``−14.0 LUFS · −1.0 dBTP``."""
    if not level.on:
        return OFF
    ceiling = with_unit(level.ceiling_dbtp, "dBTP", 1)
    if level.target_lufs is None:
        return f"As loud as it is · {ceiling}"
    return f"{with_unit(level.target_lufs, 'LUFS', 1)} · {ceiling}"


def say_version(stages: Stages) -> str:
    """All that a version does, in one short line for its card."""
    said = [say_time(stages.time), say_colour(stages.colour), say_level(stages.level)]
    spoken = [text for text in said[:2] if text not in (OFF, AS_IT_WAS)]
    if stages.level.on and stages.level.target_lufs is not None:
        spoken.append(with_unit(stages.level.target_lufs, "LUFS", 0))
    return " · ".join(spoken) if spoken else AS_IT_WAS


def title_suffix(stages: Stages) -> str:
    """What is added to a song's title: ``slowed + reverb``; empty where nothing audible was done."""
    words = []
    speed = stages.time.speed_heard
    if speed < 1.0:
        words.append("slowed")
    elif speed > 1.0:
        words.append("sped up")
    elif stages.time.pitch_ratio != 1.0:
        words.append("transposed")
    if stages.colour.hall_heard:
        words.append("reverb")
    return " + ".join(words)
