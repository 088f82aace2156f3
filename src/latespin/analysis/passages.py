"""The passages best suited to judge a stretch: the loudest drums, the fullest vocal range."""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.filters.cascade import FilterCascade, high_pass, low_pass
from latespin.dsp.onsets.transient_map import TransientMap

PASSAGE_SECONDS = 6.0
FRAME_SECONDS = 0.05
HIT_SECONDS = 0.05
VOICE_HZ = (250.0, 3500.0)


@dataclass(frozen=True)
class Passages:
    """Start and end of both, frames."""

    drums: tuple[int, int]
    voice: tuple[int, int]


def find_passages(sound: Audio, rate: int, attacks: TransientMap) -> Passages:
    """The passages of a song ``[channels, frames]``; all of it where it is shorter than one."""
    frame = max(1, round(FRAME_SECONDS * rate))
    return Passages(
        _fullest(_struck(sound, rate, attacks, frame), frame, rate, sound.shape[1]),
        _fullest(_sustained(sound, rate, frame), frame, rate, sound.shape[1]),
    )


def _struck(sound: Audio, rate: int, attacks: TransientMap, frame: int) -> Floats:
    """Energy just after attacks times their strength, for every frame."""
    found = attacks.between(0, max(0, sound.shape[1] - 1))
    out = np.zeros(sound.shape[1] // frame + 1)
    for place, strength in zip(found.frames, found.strengths, strict=True):
        hit = sound[:, place : place + round(HIT_SECONDS * rate)]
        out[place // frame] += strength * float(np.sqrt(np.mean(hit**2)))
    return out


def _sustained(sound: Audio, rate: int, frame: int) -> Floats:
    """Level in a voice's range, hits that stand out for less than a fifth of a second left out, for every frame."""
    high = min(VOICE_HZ[1], 0.45 * rate)
    sections = [*high_pass(VOICE_HZ[0], rate, 12), *low_pass(high, rate, 12)]
    band = FilterCascade(sections, 1).process(sound.mean(axis=0, keepdims=True))[0].astype(np.float64)
    count = len(band) // frame
    level = np.sqrt(np.mean(band[: count * frame].reshape(count, frame) ** 2, axis=1))
    padded = np.pad(level, 4, mode="edge") if count else np.zeros(9)
    return np.asarray(np.median(np.lib.stride_tricks.sliding_window_view(padded, 9), axis=1))


def _fullest(amount: Floats, frame: int, rate: int, frames: int) -> tuple[int, int]:
    """The stretch of a passage's length in which there is most."""
    length = min(len(amount), round(PASSAGE_SECONDS * rate / frame))
    total = np.concatenate(([0.0], np.cumsum(amount)))
    first = int(np.argmax(total[length:] - total[: len(total) - length])) * frame
    return first, min(frames, first + round(PASSAGE_SECONDS * rate))
