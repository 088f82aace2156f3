"""A version in words: what each stage does now, as briefly as possible."""

import math
from collections.abc import Container

from latespin.language import localised, tr
from latespin.model.arranging.placement import TIME
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import (
    AnyEffect,
    Compressor,
    DynamicHighShelf,
    Eq,
    Gain,
    Hall,
    Layer,
    Saturation,
    SmallSpeaker,
    Width,
    Wobble,
)
from latespin.model.moments.declaration import moment_title
from latespin.model.moments.endings import EchoEnd, Ending, Fade, NoEnding, RingOut, TapeStopEnd, ending_info
from latespin.model.moments.moments import Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, best_end, say_place, say_span
from latespin.model.timing.tempo_curve import extremes
from latespin.model.values.kinds import kind_of
from latespin.model.values.units import NBSP, NO_VALUE, number, with_unit
from latespin.model.version import HALFTIME_BARS, Colour, Level, Stages, Time

MOST_COLOURS = 3
LAYER_WORDS = {
    "crackle": "Crackle", "rain": "Rain", "water": "Water", "room": "Room tone", "hiss": "Tape hiss", "rink": "Rink hum", "file": "Layer",
}  # fmt: skip
SPEAKER_WORDS = {
    "telephone": "Telephone", "radio": "Pocket radio", "hailer": "Loud-hailer", "newsreel": "Newsreel", "headphones": "Headphones on a table",
}  # fmt: skip
TITLE_WORDS = {
    "hall": "reverb", "room": "reverb", "vinyl": "lo-fi", "tape": "tape", "underwater": "underwater", "speaker": "small speaker", "orbit": "8D",
}  # fmt: skip
OFF = "Off"
AS_IT_WAS = "As it was"
CHARACTER_WORDS = {"drums": "drums", "voice": "voice", "smear": "smear"}
#: By whether the pitch is linked to the speed, and whether it is transposed as well.
PITCH_WORDS = {
    (True, False): "linked", (True, True): "linked, transposed", (False, False): "held", (False, True): "transposed",
}  # fmt: skip
HALFTIME_WORDS = {
    "song": "halftime",
    "bar": "halftime bar by bar",
    "2bar": "halftime every 2 bars",
    "4bar": "halftime every 4 bars",
}


def shift_semitones(time: Time) -> tuple[float, float]:
    """The pitch relative to the track's in semitones, lowest and highest under a tempo curve."""
    low, high = time.pitch_ratios
    return 12.0 * math.log2(low), 12.0 * math.log2(high)


def held_shift(time: Time) -> float | None:
    """The transposition, semitones, that holding the pitch of a linked speed equals; None where a curve moves it."""
    low, high = extremes(time.curve)
    return -12.0 * math.log2(time.speed * low) if low == high else None


def bpm_text(time: Time, grid: Grid | None) -> str:
    """The version's tempo, from lowest to highest where a curve moves it."""
    if grid is None:
        return NO_VALUE
    low, high = (grid.bpm * speed for speed in time.speeds)
    return number(low, 1) if high - low < 0.05 else f"{number(low, 0)} … {number(high, 0)}"


def shift_text(time: Time, decimals: int) -> str:
    """``−2.81 st``, or ``−2.81 … +1.20 st``; ``0 st`` for the track's own pitch."""
    low, high = shift_semitones(time)
    if high - low >= 0.5 * 10.0**-decimals:
        tenths = min(decimals, 1)
        return f"{number(low, tenths, signed=True)} … {with_unit(high, 'st', tenths)}"
    return with_unit(low, "st", decimals) if abs(low) >= 0.005 else with_unit(0.0, "st", 0)


def speed_text(speed: float) -> str:
    """``0.85×``, with at least two decimals."""
    text = f"{speed:.3f}"
    return localised(text[:-1] if text.endswith("0") else text) + "×"


def say_time(time: Time, grid: Grid | None = None) -> str:
    """``0.85× · −2.8 st, linked``; of halftime with its tempo, where the beats are known."""
    if not time.on:
        return tr(OFF)
    said = [_say_speed(time), *([_say_halftime(time, grid)] if time.halftime != "off" else [])]
    said += _say_pitch(time)
    return " · ".join(text for text in said if text) or tr(AS_IT_WAS)


def _say_halftime(time: Time, grid: Grid | None) -> str:
    """``halftime, 92 BPM felt as 46``: beats are counted at one tempo, while the music moves at half of it."""
    words = tr(HALFTIME_WORDS[time.halftime])
    low, high = time.speeds
    if grid is None or high - low > 1e-6:
        return words
    counted = grid.bpm * low * (2.0 if time.halftime == "song" else 1.0)
    return tr("{0}, {1} BPM felt as {2}").format(words, number(counted, 0), number(counted / 2.0, 0))


def _say_speed(time: Time) -> str:
    low, high = extremes(time.curve)
    if low != high:
        first, last = (time.speed * point.speed for point in (time.curve[0], time.curve[-1]))
        return f"{speed_text(first)} → {speed_text(last)}"
    return speed_text(time.speed * low) if time.speed * low != 1.0 or time.semitones else ""


def _say_pitch(time: Time) -> list[str]:
    low, high = shift_semitones(time)
    moved = max(abs(low), abs(high)) >= 0.005
    said = []
    if not moved and (time.speeds != (1.0, 1.0)):
        said.append(tr("pitch held"))
    elif moved:
        how = tr(PITCH_WORDS[time.pitch == "linked", bool(time.semitones)])
        said.append(f"{shift_text(time, 1)}, {how}")
    if time.formants == "kept" and moved:
        said.append(tr("formants kept"))
    if time.formant_semitones:
        said.append(tr("formants {0}").format(with_unit(time.formant_semitones, "st", 1)))
    if time.character != "full-mix":
        said.append(tr(CHARACTER_WORDS[time.character]))
    return said


def say_colour(colour: Colour) -> str:
    """``Hall 3.2 s at 28 % · Vinyl 60 %``, at most three of them."""
    if not colour.on:
        return tr(OFF)
    heard = colour.heard
    if not heard:
        return tr(AS_IT_WAS)
    said = [say_effect(effect) for effect in heard[:MOST_COLOURS]]
    more = [tr("{0} more").format(len(heard) - MOST_COLOURS)] if len(heard) > MOST_COLOURS else []
    return " · ".join([*said, *more])


def say_effect(effect: AnyEffect) -> str:
    """``Hall 3.2 s at 28 %``, ``Vinyl 60 %``, ``Rain −22 dB``."""
    title = tr(effect_title(effect))
    moves = any(lane.field == "amount_percent" for lane in effect.lanes)
    amount = tr("automated") if moves else with_unit(effect.amount_percent, "%", 0)
    if isinstance(effect, Hall):
        words = "{0} {1} {2}" if moves else tr("{0} {1} at {2}")
        return words.format(title, with_unit(effect.decay_seconds, "s", 1), amount)
    if isinstance(effect, Gain):
        automated = any(lane.field == "gain_db" for lane in effect.lanes) or moves
        return f"{title} {tr('automated') if automated else f'{number(effect.gain_db, 1, signed=True)}{NBSP}dB'}"
    if isinstance(effect, Layer):
        return f"{tr(LAYER_WORDS[effect.sound])} {with_unit(effect.gain_db, 'dB', 0)}"
    if isinstance(effect, Eq | Compressor | DynamicHighShelf | Width | Wobble | Saturation) and not moves:
        return title
    if isinstance(effect, SmallSpeaker):
        return f"{tr(SPEAKER_WORDS[effect.speaker])} {amount}"
    return f"{title} {amount}"


def say_moments(moments: Moments) -> str:
    """``Tape stop``, ``3 moments`` … how many, or which where there is one kind."""
    if not moments.on:
        return tr(OFF)
    heard = moments.heard
    if not heard:
        return tr("{0}, all off").format(len(moments.placed)) if moments.placed else tr("None")
    titles = {tr(moment_title(moment)) for moment in heard}
    if len(titles) == 1:
        title = titles.pop()
        return title if len(heard) == 1 else f"{len(heard)} × {title}"
    return tr("{0} moments").format(len(heard))


def say_ending(ending: Ending, layout: Layout | None = None) -> str:
    """``Ring-out, 4.5 s, bar 61``."""
    if not ending.on:
        return tr(OFF)
    way = ending.way
    if isinstance(way, NoEnding):
        return tr("As the track ends")
    grid = layout.grid if layout else None
    said = [tr(ending_info(kind_of(way)).title)]
    if isinstance(way, RingOut):
        said.append(with_unit(way.tail_seconds if way.tail == "length" else way.decay_seconds, "s", 1))
    elif isinstance(way, TapeStopEnd | EchoEnd | Fade):
        said.append(say_span(way.length, grid))
    place = way.at or (best_end(layout) if layout else None)
    if place is not None:
        said.append(say_place(place, grid))
    return ", ".join(said)


def say_level(level: Level) -> str:
    """``−14.0 LUFS · −1.0 dBTP``."""
    if not level.on:
        return tr(OFF)
    loudness = tr("As loud as it is") if level.target_lufs is None else with_unit(level.target_lufs, "LUFS", 1)
    said = [tr("As loud as before") if level.as_before else loudness]
    if level.matched is not None:
        said.insert(0, tr("Match {0}").format(with_unit(level.matched.amount_percent, "%", 0)))
    else:
        said.append(with_unit(level.ceiling_dbtp, "dBTP", 1))
    return " · ".join(said)


def say_version(stages: Stages) -> str:
    """Describe a version in one short line for its card."""
    said = [say_time(stages.time), say_colour(stages.colour), say_level(stages.level)]
    spoken = [text for text in said[:2] if text not in (tr(OFF), tr(AS_IT_WAS))]
    if stages.moments.heard:
        spoken.append(say_moments(stages.moments))
    if not isinstance(stages.ending.heard, NoEnding):
        spoken.append(tr(ending_info(kind_of(stages.ending.way)).title))
    if stages.level.matched is not None:
        spoken.append(tr("matched"))
    if stages.level.on and stages.level.target_lufs is not None and not stages.level.as_before:
        spoken.append(with_unit(stages.level.target_lufs, "LUFS", 0))
    return " · ".join(spoken) if spoken else tr(AS_IT_WAS)


def title_suffix(stages: Stages, left_out: Container[str] = ()) -> str:
    """The suffix for a song's title: ``slowed + reverb``; empty if the version changes nothing audible.

    left_out : ids of the effects, and ``time``, of which nothing is heard though they were asked for.
    """
    words = []
    low, high = stages.time.speeds
    if high > 1.0 > low:
        words.append("speed curve")
    elif low < 1.0:
        words.append("slowed")
    elif high > 1.0:
        words.append("sped up")
    elif stages.time.pitch_ratios != (1.0, 1.0):
        words.append("transposed")
    if stages.time.on and stages.time.halftime in HALFTIME_BARS and TIME not in left_out:
        words.append("halftime")
    kinds = [kind_of(effect) for effect in stages.colour.heard if effect.id not in left_out]
    words += dict.fromkeys(TITLE_WORDS[kind] for kind in kinds if kind in TITLE_WORDS)
    return " + ".join(words)
