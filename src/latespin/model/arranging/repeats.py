"""Places of the repeats of a stutter or a cover."""

import itertools
import math
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.model.arranging.time_map_builder import Music, MusicRange
from latespin.model.moments.moments import Cover, StuckRecord, Stutter
from latespin.model.values.note_values import beats_of

BLIND_BEAT_SECONDS = 0.5  # a beat where there is no grid
LEAST_REPEAT_SECONDS = 0.004  # a shorter rest of a repeat is not begun
Repeats = tuple[tuple[int, int, int, bool], ...]


@lru_cache(maxsize=64)
def repeats(moment: Stutter | StuckRecord | Cover, music: Music, part: MusicRange) -> Repeats:
    """Start and stop, frames of the music, of every repeat, where its slice begins, and whether it is played backwards."""
    turning = isinstance(moment, Stutter) and moment.turning
    seconds = _slice_seconds(moment)
    if seconds is not None:
        length = round(seconds * music.rate)  # whole: a slice now longer, now shorter hisses
        edges = part.start + length * np.arange(math.ceil((part.stop - part.start) / length - 1e-6) + 1.0)
        return _between(edges, part.stop, max(0, part.start - length), music.rate, turning)
    assert not isinstance(moment, StuckRecord)
    values = moment.values if isinstance(moment, Stutter) else (moment.value,)
    total = _beats_between(music, part)
    found: list[tuple[int, int, int, bool]] = []
    for i, value in enumerate(values):
        beats = beats_of(value)
        first, last = total * i / len(values), total * (i + 1) / len(values)
        counts = first + beats * np.arange(math.ceil((last - first) / beats - 1e-6) + 1.0)
        *edges_of, place, end = music.beats_on(part.start, np.array([*counts, -beats, last])).tolist()
        stop = part.stop if i == len(values) - 1 else min(part.stop, round(end))
        found += _between(np.array(edges_of), stop, max(0, round(place)), music.rate, turning, len(found))
    return tuple(found)


def _slice_seconds(moment: Stutter | StuckRecord | Cover) -> float | None:
    """The length of a slice that goes by no note value."""
    if isinstance(moment, StuckRecord):
        return moment.turn_seconds
    return moment.slice_ms / 1000.0 if isinstance(moment, Stutter) and moment.free else None


def _between(edges: Floats, stop: int, place: int, rate: int, turning: bool, before: int = 0) -> Repeats:
    """Repeats between edges, the last one to ``stop``; ``before`` is how many there were already."""
    at = [min(stop, round(edge)) for edge in edges.tolist()]
    at[-1] = stop
    if len(at) > 2 and at[-1] - at[-2] < LEAST_REPEAT_SECONDS * rate:
        del at[-2]
    pairs = [(start, end) for start, end in itertools.pairwise(at) if end > start]
    return tuple((start, end, place, turning and (before + i) % 2 == 1) for i, (start, end) in enumerate(pairs))


def _beats_between(music: Music, part: MusicRange) -> float:
    """The length of a range of the music, in beats."""
    if music.grid is None:
        return (part.stop - part.start) / (BLIND_BEAT_SECONDS * music.rate)
    numbers = music.grid.number_at(music.map.before_of_all(np.array([part.start, part.stop], float)) / music.rate)
    return float(numbers[1] - numbers[0])
