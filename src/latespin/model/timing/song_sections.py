"""The sections of a song as a session has them: detected, or corrected by hand."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from latespin.analysis.results import Reading, SectionKind
from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import ValidatedStruct

SHORTEST_SECONDS = 0.5
LONGEST_NAME = 60
ON_BEAT_SECONDS = 0.05  # from a beat, up to which a detected border counts as on it
KIND_NAMES: dict[SectionKind, str] = {
    "intro": "Intro", "verse": "Verse", "chorus": "Chorus", "bridge": "Bridge", "break": "Break", "outro": "Outro", "": "",
}  # fmt: skip


class SongSection(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A section from ``start`` to where the next one starts, or the song ends; the first starts with the song.

    label : a letter, the same for parts that sound alike.  kind : what it is.  name : the user's words in place of its kind's.
    """

    start: Position
    label: str = ""
    kind: SectionKind = ""
    name: str = ""


Sections = tuple[SongSection, ...]


def detected_sections(reading: Reading | None, grid: Grid | None) -> Sections:
    """The sections that were read, on their beats where there are any."""
    if reading is None:
        return ()
    return tuple(
        SongSection(start=_on_beat(part.start, grid) if number else Position(seconds=0.0), label=part.label, kind=part.kind)
        for number, part in enumerate(reading.sections)
    )  # fmt: skip


def _on_beat(seconds: float, grid: Grid | None) -> Position:
    if grid is not None:
        beat = round(float(grid.number_at(seconds)))
        if abs(float(grid.seconds_of(beat)) - seconds) < ON_BEAT_SECONDS:
            return Position(beat=float(beat))
    return Position(seconds=seconds)


def starts_of(sections: Sections, grid: Grid | None) -> list[float]:
    """Seconds at which they start."""
    return [section.start.at(grid) for section in sections]


def placed(sections: Sections, grid: Grid | None) -> tuple[tuple[float, SectionKind], ...]:
    """Seconds of their starts, and their kinds, as a layout has them."""
    return tuple((section.start.at(grid), section.kind) for section in sections)


def number_at(sections: Sections, seconds: float, grid: Grid | None) -> int:
    """The number of the section at a second of the song."""
    return max(0, int(np.searchsorted(starts_of(sections, grid), seconds + 1e-6, side="right")) - 1)


def say_section(section: SongSection) -> str:
    """``Chorus B``, ``Chorus``, ``B``, or its own name."""
    return section.name or " ".join(word for word in (tr(KIND_NAMES[section.kind]), section.label) if word)


def split(sections: Sections, at: Position, grid: Grid | None, song_seconds: float) -> Sections:
    """The section at a place cut in two there, both as it was.

    Where there are none yet, the song is one. Raises Unusable within half a second of a border or an end.
    """
    seconds = at.at(grid)
    if not sections:
        sections = (SongSection(start=Position(seconds=0.0)),)
    if min(abs(seconds - edge) for edge in (*starts_of(sections, grid), song_seconds)) < SHORTEST_SECONDS:
        raise Unusable(tr("A section begins or ends here already. Put the playhead inside a section."))
    number = number_at(sections, seconds, grid)
    return (*sections[: number + 1], replace(sections[number], start=at), *sections[number + 1 :])


def joined(sections: Sections, number: int) -> Sections:
    """A section made part of the one before. Raises Unusable for the first."""
    if not 0 < number < len(sections):
        raise Unusable(tr("There is no section before this one to join it with."))
    return sections[:number] + sections[number + 1 :]


def with_start(sections: Sections, number: int, at: Position, grid: Grid | None, song_seconds: float) -> Sections:
    """A section's start, and so the end of the one before, moved; unchanged where either would be shorter than half a second."""
    starts = [*starts_of(sections, grid), song_seconds]
    inside = starts[number - 1] + SHORTEST_SECONDS <= at.at(grid) <= starts[number + 1] - SHORTEST_SECONDS
    return _with(sections, number, replace(sections[number], start=at)) if number and inside else sections


def named(sections: Sections, number: int, name: str) -> Sections:
    """A section with a name of its own, at most 60 characters; an empty one brings its kind's back."""
    return _with(sections, number, replace(sections[number], name=name.strip()[:LONGEST_NAME]))


def of_kind(sections: Sections, number: int, kind: SectionKind) -> Sections:
    """A section as another kind, without a name of its own."""
    return _with(sections, number, replace(sections[number], kind=kind, name=""))


def _with(sections: Sections, number: int, section: SongSection) -> Sections:
    return (*sections[:number], section, *sections[number + 1 :])


def counterpart(section: int, of: Sequence[SectionKind], among: Sequence[SectionKind]) -> int | None:
    """The section of another song that does for a section: of the same kind, in the first half counted from the song's start, later from its end.

    None where it has no kind, or the other song has none of it.
    """
    kind = of[section]
    same, its = ([i for i, other in enumerate(kinds) if other == kind] for kinds in (of, among))
    if not kind or not its:
        return None
    place = same.index(section)
    return its[min(place, len(its) - 1)] if section < len(of) / 2 else its[max(0, len(its) - len(same) + place)]
