"""Audible effects of stretching and shifting, in words. docs/time-and-pitch.md has the measured thresholds."""

import math
from dataclasses import dataclass

from latespin.language import tr
from latespin.model.timing.tempo_curve import extremes
from latespin.model.version import Time

DRAWN_OUT = 2.0  # length ratio from which hiss and tails are heard drawn out (log-mel distance beyond 4 dB)
SOFTENED, FLATTENED = 0.55, 0.4  # length ratios below which drums' peaks fall by 1 dB, by 4 dB
RESIZED = 3.0  # semitones by which formants moved make a voice another person's
THINNED = -12.0, 7.0  # semitones beyond which the envelope of a voice whose formants are kept is off by 2.4 dB
NO_SHORTER = 0.99  # length ratio from which on hits are left alone
FULL_STRETCH, FULL_SHIFT = 2.0, 12.0  # octaves of length, semitones: full strain


@dataclass(frozen=True)
class Strain:
    """amount : 0, natural, to 1 and no further.  words : what will be heard of it; empty where nothing much."""

    amount: float
    words: tuple[str, ...]


def strain_of(time: Time) -> Strain:
    """The strain of a Time stage. Turning alone, as on a turntable, strains nothing but the formants it moves."""
    time = time.heard
    shift = _farthest_shift(time)
    stretches = _length_ratios(time)
    words = [*_stretch_words(time, *stretches), *_shift_words(time, shift)]
    stretch = max(abs(math.log2(ratio)) for ratio in stretches)
    full = 5.0 if time.character == "smear" else FULL_STRETCH
    amount = max(stretch / full, abs(shift) / FULL_SHIFT * (1.0 if stretch else 0.5))
    return Strain(min(1.0, amount), tuple(words))


def may_be_strained(time: Time) -> bool:
    """Whether a Time stage can be heard to strain any song at all: closely spaced hits are strained by any shortening."""
    return bool(strain_of(time).words) or _length_ratios(time.heard)[0] < NO_SHORTER


def _length_ratios(time: Time) -> tuple[float, float]:
    """By how much sound is stretched at constant pitch, shortest and longest."""
    if time.pitch == "linked":
        ratios = [time.transposed] * 2
    else:
        low, high = extremes(time.curve)
        ratios = [time.transposed / (time.speed * high), time.transposed / (time.speed * low)]
    if time.halftime != "off" and not time.octave_down:
        whole = time.halftime == "song"
        ratios = [ratios[0] * (2.0 if whole else 1.0), ratios[1] * 2.0]
    return ratios[0], ratios[1]


def _farthest_shift(time: Time) -> float:
    low, high = (12.0 * math.log2(ratio) for ratio in time.pitch_ratios)
    return low if abs(low) > abs(high) else high


def _stretch_words(time: Time, shortest: float, longest: float) -> list[str]:
    words = []
    if shortest < FLATTENED:
        words.append(tr("drums will lose their punch"))
    elif shortest < SOFTENED:
        words.append(tr("drums will soften"))
    if longest >= DRAWN_OUT and time.character != "smear":
        words.append(tr("hiss and tails will be drawn out"))
    if time.character == "smear":
        words.append(tr("words and drums will melt"))
    return words


def _shift_words(time: Time, shift: float) -> list[str]:
    if time.formants == "kept":
        moved = time.formant_semitones
        if not THINNED[0] < shift < THINNED[1]:
            return [tr("voices will thin")]
    else:
        moved = shift + time.formant_semitones
    if abs(moved) < RESIZED:
        return []
    return [tr("voices will sound smaller") if moved > 0 else tr("voices will sound larger")]
