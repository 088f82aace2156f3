"""Asking for a result: the stage settings that give what was typed."""

import math

from msgspec.structs import replace

from latespin.desktop.document import Document
from latespin.model.parameters import CEILING, SEMITONES, SPEED, TARGET, Parameter
from latespin.model.units import number, parse_length, parse_value
from latespin.model.version import Stages


def solve(document: Document, asked: str, text: str) -> Stages:
    """The stages of the chosen version changed so that they give the result asked for.

    asked : percent, length (of the music), total (with its tail), pitch, loudness or peak.
    Raises ValueError with what cannot be done, in words.
    """
    assert document.loaded is not None
    stages, seconds = document.stages, document.loaded.facts.seconds
    time, level = stages.time, stages.level
    if asked == "loudness":
        level = replace(level, on=True, target_lufs=_fit(TARGET, parse_value(text, "LUFS")))
    elif asked == "peak":
        level = replace(level, on=True, ceiling_dbtp=_fit(CEILING, parse_value(text, "dBTP")))
    elif asked == "pitch":
        from_speed = 12.0 * math.log2(time.speed) if time.pitch == "linked" else 0.0
        time = replace(time, on=True, semitones=_fit(SEMITONES, parse_value(text, "st") - from_speed))
    elif asked == "percent":
        time = replace(time, on=True, speed=_fit(SPEED, parse_value(text, "%") / 100.0))
    else:
        wanted = parse_length(text)
        tail = tail_seconds(document) if asked == "total" else 0.0
        if wanted <= tail:
            raise ValueError(
                f"The room alone rings for {number(tail, 1)} s. Ask for a longer version, or a shorter decay."
            )
        time = replace(time, on=True, speed=_fit(SPEED, seconds / (wanted - tail)))
    return replace(stages, time=time, level=level)


def tail_seconds(document: Document) -> float:
    """How long the chosen version rings on after its music, seconds."""
    from latespin.render.chain import tail_frames

    assert document.loaded is not None
    rate = document.loaded.track.rate
    return tail_frames(document.stages.colour, rate) / rate


def _fit(parameter: Parameter, value: float) -> float:
    if not parameter.low <= value <= parameter.high:
        raise ValueError(
            f"That would need {parameter.label.lower()} {number(value, parameter.decimals)} {parameter.unit}; "
            f"it can be {number(parameter.low, 2)} to {number(parameter.high, 2)} {parameter.unit}."
        )
    return value
