"""The results of reading a song, as plain values for files."""

from typing import Literal

import msgspec

SAME_TEMPO = 0.04  # relative difference up to which two tempi count as one
SECTION_STRENGTH, SECTION_REACH = 0.2, 0.1  # by which beats at which a section starts are stronger; seconds
READING_VERSION = 8  # raised whenever a song may be read differently, so that kept readings are made anew

SectionKind = Literal["", "intro", "verse", "chorus", "bridge", "break", "outro"]


class Beats(msgspec.Struct, frozen=True, kw_only=True):
    """times : seconds of all beats, those beyond where beats were heard extrapolated (``found``: the first, and one past the last heard).

    bar_one : which of them is the first beat of a bar.  sure : 0 to 1 for each.
    confidence : 0 to 1, of tempo and place of the beats together; bpm_confidence : of the tempo alone.
    strong : 0 to 1 for each, how good a place it is to end, stop or cut.
    swing : where in the beat off-beats fall, 0.54 to 0.71 of it; None where they are straight or it is not clear.
    """

    times: tuple[float, ...]
    beats_per_bar: int
    bar_one: int
    steady: bool
    bpm: float
    bpm_confidence: float
    metre_confidence: float
    found: tuple[int, int]
    sure: tuple[float, ...]
    strong: tuple[float, ...]
    confidence: float = 1.0
    swing: float | None = None

    @property
    def downbeats(self) -> tuple[float, ...]:
        """Seconds at which bars begin."""
        return self.times[self.bar_one % self.beats_per_bar :: self.beats_per_bar]


class Key(msgspec.Struct, frozen=True, kw_only=True):
    """tonic : pitch class from C = 0.  mode : major or minor.  confidence : 0 to 1."""

    tonic: int
    mode: str
    confidence: float


class Section(msgspec.Struct, frozen=True, kw_only=True):
    """start, end : seconds.  label : parts that sound alike share a letter.  energy : 0 to 1, the fullest part's is 1.  kind : what it probably is."""

    start: float
    end: float
    label: str
    energy: float
    kind: SectionKind = ""


class Reading(msgspec.Struct, frozen=True, kw_only=True):
    """beats : None where no steady beat was found.  other_beats : up to two other ways to hear them, the likelier first.  keys : the likeliest first, empty where nothing is tonal.

    drums_enter : seconds, where drums come in after an opening without; None where they do not.
    """

    version: int = READING_VERSION
    seconds: float
    beats: Beats | None = None
    other_beats: tuple[Beats, ...] = ()
    keys: tuple[Key, ...] = ()
    tuning_cents: float = 0.0
    sections: tuple[Section, ...] = ()
    drums_enter: float | None = None

    @property
    def ways(self) -> tuple[Beats, ...]:
        """All ways to hear the beats, the likeliest first; none without beats."""
        return (self.beats, *self.other_beats) if self.beats else ()
