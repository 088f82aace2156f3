"""The slice that a held repeat plays, in frames of After."""

import numpy as np

from latespin.model.moments.held import HeldRepeat
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.values.note_values import beats_of

LONGEST_SECONDS = 4.0
EARLY_SECONDS = 0.03  # a pad pressed by so much before a grid line counts as pressed on it


def slice_frames(repeat: HeldRepeat, frame: int, clock: BeatClock) -> int:
    """The length of a slice, frames; of a note value, as long as it lasts around a frame."""
    if repeat.free:
        length = repeat.slice_ms * clock.rate / 1000.0
    else:
        length = beats_of(repeat.value) * float(clock.beat_frames(np.array([float(frame)]))[0])
    return min(max(2, round(length)), round(LONGEST_SECONDS * clock.rate))


def slice_start(repeat: HeldRepeat, frame: int, clock: BeatClock) -> int:
    """The first frame of the slice of a repeat that begins at a frame. May lie before the song."""
    return frame - round(repeat.back * slice_frames(repeat, frame, clock))


def slices_back(repeat: HeldRepeat, frame: int, clock: BeatClock, *, coming: bool) -> float:
    """How many slices before a frame the slice begins that is caught there.

    A note value catches the slice of the grid that has just sounded, or, ``coming``, the one that sounds now; in
    milliseconds, exactly what has just sounded, or what comes.
    """
    if repeat.free:
        return 0.0 if coming else 1.0
    length = slice_frames(repeat, frame, clock)
    value = beats_of(repeat.value)
    sounded = float(clock.beats(np.array([float(frame)]))[0]) / value % 1.0
    early = min(0.25, EARLY_SECONDS * clock.rate / length)
    if sounded > 1.0 - early:
        sounded -= 1.0
    back = sounded + (0.0 if coming else 1.0)
    return max(0.0, round(back * length) / length)
