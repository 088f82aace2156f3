"""What sections probably are: intro, verse, chorus, bridge, break or outro, from their place, their energy and what repeats.

A rule of thumb after what studies of song form describe (W. Everett, "The Foundations of Rock", 2009, ch. 6): the chorus is the fullest part that comes back, verses lead up
to it, a bridge comes once in the second half, a break is much quieter than what is around it.
"""

from collections import Counter
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from latespin.analysis.results import SectionKind
from latespin.analysis.sections import FoundSection

LONGEST_EDGE = 0.2  # of the song, for intro and outro
BREAK = 0.7  # of the quieter neighbour's level, below which a section between them is a break
FEWEST = 3


def section_kinds(sections: Sequence[FoundSection]) -> list[SectionKind]:
    """A kind for each section, empty where none is likely; none at all in a song of fewer than three sections."""
    kinds: list[SectionKind] = [""] * len(sections)
    if len(sections) < FEWEST:
        return kinds
    come_back = {label for label, count in Counter(part.label for part in sections).items() if count > 1}
    begins = _edge(sections, come_back)
    ends = len(sections) - _edge(sections[::-1], come_back)
    kinds[:begins] = ["intro"] * begins
    kinds[ends:] = ["outro"] * (len(sections) - ends)
    inner = range(begins, ends)
    for i in inner:
        around = [sections[j].energy for j in (i - 1, i + 1) if j in inner]
        if len(around) == 2 and sections[i].energy < BREAK * min(around) and sections[i].label not in come_back:
            kinds[i] = "break"
    chorus = _chorus([sections[i] for i in inner if not kinds[i]], come_back)
    if chorus is None:
        return kinds
    for i in inner:
        if sections[i].label == chorus:
            kinds[i] = "chorus"
    leads = {sections[i].label for i, j in pairwise(inner) if not kinds[i] and kinds[j] == "chorus"}
    half = 0.5 * sections[-1].end
    for i in inner:
        once = sections[i].label not in come_back
        if not kinds[i] and once and sections[i].start > half:
            kinds[i] = "bridge"
        elif not kinds[i] and sections[i].label in leads:
            kinds[i] = "verse"
    return kinds


def _edge(sections: Sequence[FoundSection], come_back: set[str]) -> int:
    """How many sections from an end on are heard there only, and are short together."""
    whole = max(part.end for part in sections)
    count, seconds = 0, 0.0
    for part in sections[: len(sections) - 2]:
        seconds += part.end - part.start
        if part.label in come_back or seconds > LONGEST_EDGE * whole:
            break
        count += 1
    return count


def _chorus(sections: Sequence[FoundSection], come_back: set[str]) -> str | None:
    """The letter of the fullest part that comes back, where there is another beside it."""
    letters = dict.fromkeys(part.label for part in sections)
    level = {
        letter: float(np.average([p.energy for p in sections if p.label == letter],
                                 weights=[p.end - p.start for p in sections if p.label == letter]))
        for letter in letters if letter in come_back
    }  # fmt: skip
    return max(level, key=lambda letter: level[letter]) if level and len(letters) > 1 else None
