"""Positions in a song, in beats or in seconds, and the layout of a song."""

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from msgspec.structs import replace

from latespin.analysis.results import SECTION_REACH, SECTION_STRENGTH, Reading, SectionKind
from latespin.errors import Unusable
from latespin.language import localised, tr
from latespin.model.timing.beat_grid import Grid
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct
from latespin.model.values.units import MINUS, clock, number, parse_length, parse_value

FINEST = 48  # parts of a beat that a place is rounded to when the beats around it are counted anew
SAME_TEMPO = 0.03
BEATLESS_BPM = 120.0  # what a song without bars is taken to have, where beats are needed all the same
UNHEARD = 0.1  # how strong a beat counts that was not heard
PARTS = {
    "½": 1 / 2,
    "¼": 1 / 4,
    "¾": 3 / 4,
    "⅓": 1 / 3,
    "⅔": 2 / 3,
    "⅛": 1 / 8,
    "⅜": 3 / 8,
    "⅝": 5 / 8,
    "⅞": 7 / 8,
}  # of a beat
_BAR = re.compile(r"^(?:bar\s*)?(-?\d+)(?:\.(\d+))?(?:\.?(\d+/\d+)|\.(\d+)|([½¼¾⅓⅔⅛⅜⅝⅞]))?$", re.IGNORECASE)


class Position(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Either ``beat``, counted from bar 1 (0 is its first beat, 4.5 is between the fifth and the sixth), or ``seconds``."""

    beat: Annotated[float | None, p.BEAT_NUMBER] = None
    seconds: Annotated[float | None, p.SONG_SECONDS] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if (self.beat is None) == (self.seconds is None):
            raise ValueError("a place has either a beat or seconds")

    def seconds_in(self, grid: Grid | None) -> float | None:
        """When it is, seconds of Before; None for a beat where there is no grid."""
        if self.beat is None:
            return self.seconds
        return None if grid is None else float(grid.seconds_of(self.beat))

    def seconds_or_even(self, grid: Grid | None) -> float:
        """Like :meth:`seconds_in`; without a grid, beats run at ``BEATLESS_BPM`` from the song's start."""
        found = self.seconds_in(grid)
        return (self.beat or 0.0) * 60.0 / BEATLESS_BPM if found is None else found

    def at(self, grid: Grid | None) -> float:
        """When it is, seconds of Before, for drawing and sorting; the song's start for a beat where there is no grid."""
        return self.seconds_in(grid) or 0.0

    def later(self, seconds: float, beats: float, grid: Grid | None) -> "Position":
        """Moved by beats if it is held in beats and there is a grid, else by seconds; never before the song."""
        if self.beat is not None and grid is not None:
            return Position(beat=max(self.beat + beats, math.ceil(float(grid.number_at(0.0)) * FINEST) / FINEST))
        return Position(seconds=max(0.0, self.at(grid) + seconds))


class Length(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A length in the version, in ``beats`` or ``seconds``."""

    beats: Annotated[float | None, p.LENGTH_BEATS] = None
    seconds: Annotated[float | None, p.LENGTH_SECONDS] = None

    def __post_init__(self) -> None:
        super().__post_init__()
        if (self.beats is None) == (self.seconds is None):
            raise ValueError("a length has either beats or seconds")


@dataclass(frozen=True)
class Layout:
    """The layout of a song: its length, its grid, the strengths of its beats (seconds and strengths), its sections (seconds of their starts, and kinds)."""

    frames: int
    rate: int
    grid: Grid | None = None
    strong: tuple[tuple[float, float], ...] = ()
    sections: tuple[tuple[float, SectionKind], ...] = ()

    @property
    def seconds(self) -> float:
        """The song's length."""
        return self.frames / self.rate

    def strengths(self, times: np.ndarray) -> np.ndarray:
        """0 to 1 at times (seconds); 0.5 where nothing was read."""
        if not self.strong:
            return np.full(len(times), 0.5)
        known, values = np.array(self.strong).T
        at = np.clip(np.searchsorted(known, times), 1, max(1, len(known) - 1))
        at = np.where(np.abs(known[at - 1] - times) < np.abs(known[np.minimum(at, len(known) - 1)] - times), at - 1, at)
        at = np.minimum(at, len(known) - 1)
        return np.where(np.abs(known[at] - times) < 0.06, values[at], UNHEARD)


def layout_of(
    frames: int,
    rate: int,
    grid: Grid | None,
    reading: Reading | None,
    sections: tuple[tuple[float, SectionKind], ...] = (),
) -> Layout:
    """The layout of a song, from its grid and its reading. sections : starts and kinds where they were corrected."""
    beats = reading.beats if reading else None
    read = tuple((part.start, part.kind) for part in reading.sections) if reading else ()
    if beats is None:
        return Layout(frames, rate, grid, (), sections or read)
    times, strong = np.array(beats.times), np.array(beats.strong)
    if sections:
        strong = np.clip(strong + SECTION_STRENGTH * (_among(times, sections) - _among(times, read)), 0.0, 1.0)
    found = slice(*beats.found)
    return Layout(
        frames, rate, grid, tuple(zip(times[found].tolist(), strong[found].tolist(), strict=True)), sections or read
    )


def _among(times: np.ndarray, sections: tuple[tuple[float, SectionKind], ...]) -> np.ndarray:
    """1 for times at which a section starts, else 0."""
    starts = np.array([start for start, _ in sections] or [math.inf])
    return np.asarray(np.min(np.abs(times[:, None] - starts), axis=1) < SECTION_REACH, float)


def renumbered(old: Grid | None, new: Grid | None, beat: float) -> float:
    """The number that a beat of one grid has in another.

    Where the tempo is nearly the same, or nearly twice or half of it, beats keep their numbers but for those that bars were
    moved by, so that what lies on a beat goes on lying on it. Elsewhere it is the place nearest in time.
    """
    if old is None or new is None or old == new:
        return beat
    ratio = new.bpm / old.bpm
    factor = next((f for f in (1.0, 2.0, 0.5) if abs(ratio / f - 1.0) < SAME_TEMPO), None)
    if factor is None:
        here = float(new.number_at(float(old.seconds_of(beat))))
        return round(here * FINEST / 4.0) / (FINEST / 4.0)
    around = np.arange(-8.0, 9.0)  # of bar 1, where tempi that differ a little have not yet drifted apart
    offset = round(float(np.median(new.number_at(old.seconds_of(around)) - factor * around)))
    return beat * factor + offset


def snapped_place(seconds: float, grid: Grid | None) -> Position:
    """The place of a snapped time: in beats if it is a part of a beat, else in seconds."""
    if grid is not None:
        beat = float(grid.number_at(seconds))
        nearest = round(beat * FINEST) / FINEST
        if abs(float(grid.seconds_of(nearest)) - seconds) < 2e-4:
            return Position(beat=nearest)
    return Position(seconds=seconds)


def say_place(place: Position, grid: Grid | None) -> str:
    """``bar 17``, ``bar 17.3``, ``bar 17.3½``, ``bar 17.3.08`` or ``1:02.345``."""
    if place.beat is None:
        return clock(place.seconds or 0.0, 3)
    if grid is None:
        return tr("beat {0}").format(number(place.beat, 2))
    whole = math.floor(place.beat + 1e-9)
    part = place.beat - whole
    on_bar = part < 1e-9 and whole % grid.beats_per_bar == 0
    numbers = grid.words_of(whole, beats=not on_bar)
    if part < 1e-9:
        return tr("bar {0}").format(numbers)
    sign = next((sign for sign, value in PARTS.items() if abs(value - part) < 1e-4), None)
    return tr("bar {0}").format(numbers + (sign or f"{part:.3f}".rstrip("0")[1:]))


def parse_place(text: str, grid: Grid | None) -> Position:
    """Parse a typed position: ``17`` or ``bar 17``, ``17.3`` for its third beat, ``17.3½`` or ``17.3.5`` for half a beat later, or a time ``1:02.345``.

    Raises Unusable with what could be typed instead.
    """
    plain = text.strip().replace("−", "-")
    match = _BAR.match(_without_words(plain, "bar {0}") or plain)
    if match and grid is not None:
        bar, beat = int(match[1]), int(match[2] or 1)
        if bar == 0 or not 1 <= beat <= grid.beats_per_bar:
            raise Unusable(
                tr("There is no “{0}”: bars are counted from 1, beats from 1 to {1}.").format(plain, grid.beats_per_bar)
            )
        start = (bar - 1 if bar > 0 else bar) * grid.beats_per_bar
        part = _fraction(match[3]) if match[3] else float(f"0.{match[4] or 0}") + PARTS.get(match[5] or "", 0.0)
        return Position(beat=start + beat - 1 + part)
    if match and ":" not in plain and not plain.endswith("s"):
        raise Unusable(tr("This song has no bars yet; give a time such as 1:02.5, or tap its tempo first."))
    try:
        return Position(seconds=parse_length(plain))
    except ValueError:
        raise Unusable(
            tr("“{0}” is not a place. Give a bar (17), a bar and beat (17.3) or a time (1:02.345).").format(text)
        ) from None


def parse_span(text: str, grid: Grid | None) -> Length:
    """A length as people type it: ``2 bars``, ``1 beat``, ``1/8``, ``800 ms``, ``1.5 s``. Raises Unusable."""
    plain = text.strip().lower().replace(",", ".")
    try:
        if (count := _without_words(plain, "{0} bars", "{0} bar")) is not None:
            return Length(beats=_fraction(count) * (grid.beats_per_bar if grid else 4))
        if (count := _without_words(plain, "{0} beats", "{0} beat")) is not None:
            return Length(beats=_fraction(count))
        if "/" in plain:
            return Length(beats=4.0 * _fraction(plain))
        return Length(seconds=parse_length(plain) if ":" in plain else parse_value(plain, "s"))
    except Unusable:
        raise
    except ValueError as error:
        if hasattr(error, "nearest"):
            raise
        raise Unusable(tr("“{0}” is not a length. Give 2 bars, 3 beats, 1/8, 800 ms or 1.5 s.").format(text)) from None


def _fraction(text: str) -> float:
    above, _, below = text.partition("/")
    return float(above) / float(below or 1.0)


def say_span(length: Length, grid: Grid | None) -> str:
    """``2 bars``, ``3 beats``, ``1.5 s``."""
    if length.beats is None:
        return f"{_plain(length.seconds or 0.0)} s"
    per_bar = grid.beats_per_bar if grid else 4
    bars = length.beats / per_bar
    if bars >= 1.0 and abs(bars - round(bars)) < 1e-9:
        return (tr("{0} bars") if round(bars) > 1 else tr("{0} bar")).format(round(bars))
    return (tr("{0} beats") if length.beats != 1.0 else tr("{0} beat")).format(_plain(length.beats))


def _without_words(text: str, *templates: str) -> str | None:
    """What fills a template in a typed text, in English or in the installed language; None if none fits."""
    for template in (*map(tr, templates), *templates):
        before, _, after = (part.strip().lower() for part in template.partition("{0}"))
        plain = text.lower()
        if plain.startswith(before) and plain.endswith(after):
            return text[len(before) : len(text) - len(after)].strip()
    return None


def _plain(value: float) -> str:
    """With up to three decimals."""
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return localised(text.replace("-", MINUS))


def downbeats(layout: Layout, start: float, stop: float) -> tuple[np.ndarray, np.ndarray]:
    """Seconds of the bars that begin between two times, and how strong they are."""
    if layout.grid is None:
        return np.zeros(0), np.zeros(0)
    times = layout.grid.bars_between(start, stop)
    times = times[(times >= start - 1e-6) & (times <= stop + 1e-6)]
    return times, layout.strengths(times)


def best_end(layout: Layout) -> Position:
    """The best place to end: the strongest bar line in the last eighth of the song, a later one where two are nearly as strong.

    Without bars, fifteen sixteenths into the song.
    """
    found = end_suggestions(layout, 1)
    return found[0] if found else Position(seconds=layout.seconds * 15.0 / 16.0)


def end_suggestions(layout: Layout, count: int = 5) -> list[Position]:
    """Places to end at, the best first: strong bar lines in the last eighth of the song, not in its last second; and where the outro begins."""
    times, strong = downbeats(layout, layout.seconds * 7.0 / 8.0, layout.seconds - 1.0)
    if len(times) == 0 or layout.grid is None:
        return []
    if strong.max() > UNHEARD:
        times, strong = times[strong > UNHEARD], strong[strong > UNHEARD]
    worth = strong + 0.15 * (times - times[0]) / max(1e-9, times[-1] - times[0])
    order: Sequence[int] = np.argsort(-worth)[:count].tolist()
    found = [Position(beat=float(round(float(layout.grid.number_at(times[i]))))) for i in order]
    outro = outro_start(layout)
    return found if outro is None or outro in found or count < 2 else [*found[: count - 1], outro]


def outro_start(layout: Layout) -> Position | None:
    """The beat at which the outro begins, where there is one."""
    kinds = [kind for _, kind in layout.sections]
    if layout.grid is None or "outro" not in kinds:
        return None
    return Position(beat=float(round(float(layout.grid.number_at(layout.sections[kinds.index("outro")][0])))))


def moved_to(place: Position, old: Grid | None, new: Grid | None) -> Position:
    """A place where the grid beneath it has become another one."""
    if place.beat is None:
        return place
    if new is None:
        seconds = place.seconds_in(old)
        return place if seconds is None else Position(seconds=max(0.0, seconds))
    return replace(place, beat=p.BEAT_NUMBER.clamp(renumbered(old, new, place.beat)))
