"""The arrangement of a version: its time map, and everything that happens at frames of After, worked out from its stages.

What cannot be placed is left out and said why; the rest still holds.
"""

import dataclasses
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from latespin.model.bending import EDGE_SECONDS, LONG_EDGE_SECONDS, Music, Stretch, lay, repeats
from latespin.model.endings import AnyEnding, AsTrack, EchoEnd, Fade, RingOut, TapeStopEnd
from latespin.model.moments import (
    TITLES,
    AnyMoment,
    ColourDip,
    Cover,
    DropIn,
    Stutter,
    Throw,
    bends_time,
    kind_of,
)
from latespin.model.notes import beats_of
from latespin.model.place import Layout, Length, Place, best_end, say_place
from latespin.model.timemap import TimeMap, compile_time_map
from latespin.model.units import clock
from latespin.model.version import Stages

ENDING = "ending"  # the id under which problems of the ending are said


@dataclass(frozen=True)
class Problem:
    """What could not be done as asked. id : of a moment, or ``ending``.  left_out : nothing of it is heard."""

    id: str
    says: str
    left_out: bool = True


@dataclass(frozen=True)
class During:
    """A moment at frames of After; ``more`` is what its kind needs besides: an echo's delay in frames."""

    moment: AnyMoment
    start: int
    stop: int
    more: int = 0


@dataclass(frozen=True)
class DrumStutter:
    """The drums of frames of the music alone are replaced: ``repeats`` as start, stop, place of the slice, backwards."""

    moment: Stutter
    after: int
    start: int
    stop: int
    repeats: tuple[tuple[int, int, int, bool], ...]


@dataclass(frozen=True)
class Close:
    """How After ends: from frame ``at`` on; ``length`` frames of fade, stop or echo; ``feed`` before it; ``slice`` of an echo."""

    way: AnyEnding
    at: int
    length: int = 0
    feed: int = 0
    slice: int = 0
    place: Place | None = None


@dataclass(frozen=True)
class Arrangement:
    """map : of After.  music : of the Time stage alone.  muffles lie before the colours, all else after them."""

    map: TimeMap
    music: TimeMap
    muffles: tuple[During, ...] = ()
    drums: tuple[DrumStutter, ...] = ()
    dips: tuple[During, ...] = ()
    throws: tuple[During, ...] = ()
    sounds: tuple[During, ...] = ()
    close: Close = Close(AsTrack(), 0)
    problems: tuple[Problem, ...] = ()

    @property
    def bends(self) -> bool:
        """Whether anything is done to the time of the music."""
        return self.map.music is not None

    @property
    def plain(self) -> bool:
        """Whether there is nothing but the Time stage's music."""
        return not (self.bends or self.muffles or self.drums or self.dips or self.throws or self.sounds)


@lru_cache(maxsize=64)
def arrange(stages: Stages, layout: Layout) -> Arrangement:
    """The arrangement of a version of a song laid out so. Levels have no say in it."""
    base = compile_time_map(stages.time, layout.frames, layout.rate, layout.grid)
    moments, way = stages.moments.heard, stages.ending.heard
    if not moments and isinstance(way, AsTrack):
        return Arrangement(base, base)
    music = Music(base, layout.rate, layout.grid)
    problems: list[Problem] = []
    ending = _ending(way, music, layout, problems)
    stop = ending.at if ending else music.frames
    placed = [s for moment in moments if (s := _stretch(moment, music, layout, stop, ending is not None, problems))]
    bending = _apart([s for s in placed if bends_time(s.moment)], layout, problems)
    whole = [s for s in bending if not _on_drums(s)]
    fade = isinstance(ending.way, Fade) if ending else False
    last = min(music.frames, stop + ending.length) if ending and fade else stop
    slowing = ending.way if ending and isinstance(ending.way, TapeStopEnd) else None
    if whole or last < music.frames or slowing is not None:
        after = lay(music, whole, last, slowing, ending.length if ending else 0)
    else:
        after = base
    return _with_effects(after, music, placed, bending, ending, problems)


def _with_effects(
    after: TimeMap, music: Music, placed: list[Stretch], bending: list[Stretch], ending: "Close | None", problems: list[Problem]
) -> Arrangement:
    """What does not bend time, put at its frames of After."""

    def during(stretch: Stretch, more: int = 0) -> During:
        ends = music.map.before_of_all(np.array([stretch.start, stretch.stop], dtype=np.float64))
        start, stop = (round(at) for at in after.after_of_all(ends).tolist())
        return During(stretch.moment, start, max(start + 1, stop), more)  # type: ignore[arg-type]

    def those(kind: type) -> list[Stretch]:
        return [s for s in placed if isinstance(s.moment, kind)]

    throws = []
    for stretch in those(Throw):
        beats = beats_of(stretch.moment.value)  # type: ignore[attr-defined]
        delay = round(float(music.beats_on(stretch.stop, np.array([beats]))[0])) - stretch.stop
        throws.append(during(stretch, max(1, delay)))
    drums = tuple(
        DrumStutter(s.moment, during(s).start, s.start, s.stop, tuple(repeats(s.moment, music, s)))  # type: ignore[arg-type]
        for s in bending if _on_drums(s)
    )  # fmt: skip
    close = Close(AsTrack(), after.after_frames)
    if ending is not None:
        at = after.after_frames if not isinstance(ending.way, Fade | TapeStopEnd) else after.after_frames - ending.length
        close = dataclasses.replace(ending, at=max(0, at))
    return Arrangement(
        after, music.map,
        muffles=tuple(during(s) for s in those(Cover) if s.moment.way == "muffle"),  # type: ignore[attr-defined]
        drums=drums,
        dips=tuple(during(s) for s in those(ColourDip)),
        throws=tuple(throws),
        sounds=tuple(during(s) for s in those(DropIn)),
        close=close, problems=tuple(problems),
    )  # fmt: skip


def _on_drums(stretch: Stretch) -> bool:
    return isinstance(stretch.moment, Stutter) and stretch.moment.material == "drums"


def _stretch(moment: AnyMoment, music: Music, layout: Layout, stop: int, ends: bool, problems: list[Problem]) -> Stretch | None:
    """The frames of the music a moment takes up; None, and why, where it has none."""
    title = TITLES[kind_of(moment)]
    where = say_place(moment.start, layout.grid)
    seconds = [place.seconds_in(layout.grid) for place in (moment.start, moment.end)]
    if seconds[0] is None or seconds[1] is None:
        return _refuse(problems, moment.id, f"{title}, {where}: this song has no bars to place it on. Tap the tempo, or place it in seconds.")
    start, end = seconds
    if start >= layout.seconds:
        length = clock(layout.seconds, 1)
        return _refuse(problems, moment.id, f"{title}, {where}: that lies beyond the song’s end at {length}. Move it earlier.")
    if end <= start or end <= 0.0:
        return _refuse(problems, moment.id, f"{title}, {where}: it has no length. Move its end beyond its start.")
    first, last = (round(at) for at in music.frames_of(np.clip([start, end], 0.0, layout.seconds)).tolist())
    if first >= stop and ends:
        return _refuse(problems, moment.id, f"{title}, {where}: the version has ended by then. Move it before the ending, or the ending behind it.")
    last = min(last, stop)
    if last - first < 2:
        return _refuse(problems, moment.id, f"{title}, {where}: nothing of it is left at this speed. Make it longer.")
    if end > layout.seconds + 0.001 or (ends and last < round(float(music.frames_of(np.array([min(end, layout.seconds)]))[0]))):
        problems.append(Problem(moment.id, f"{title}, {where}: it is cut short, since the version ends before it does.", False))
    if isinstance(moment, Stutter | Cover) and first == 0 and not (isinstance(moment, Cover) and moment.way != "repeat"):
        return _refuse(problems, moment.id, f"{title}, {where}: there is nothing before it that could be repeated.")
    return Stretch(moment, first, last)


def _refuse(problems: list[Problem], ident: str, says: str) -> None:
    problems.append(Problem(ident, says))


def _apart(stretches: list[Stretch], layout: Layout, problems: list[Problem]) -> list[Stretch]:
    """Those that do not overlap, in order; of two that do, the one that begins later is left out."""
    kept: list[Stretch] = []
    for stretch in sorted(stretches, key=lambda s: s.start):
        other = kept[-1] if kept else None
        if other is not None and stretch.start < other.stop:
            names = [f"{TITLES[kind_of(s.moment)]}, {say_place(s.moment.start, layout.grid)}" for s in (stretch, other)]  # type: ignore[arg-type]
            problems.append(
                Problem(stretch.moment.id, f"{names[0]}: it begins within {names[1]}; two that bend time cannot overlap. Move one of them.")
            )
        else:
            kept.append(stretch)
    return kept


def _ending(way: AnyEnding, music: Music, layout: Layout, problems: list[Problem]) -> Close | None:
    """Where and how long a version ends, in frames of the music; None where it does as the track does."""
    if isinstance(way, AsTrack):
        return None
    place = way.at or best_end(layout)
    if way.at is None and layout.grid is None:
        problems.append(Problem(ENDING, f"This song has no bars; the ending is placed in seconds, at {clock(place.seconds or 0.0, 1)}.", False))
    seconds = place.seconds_in(layout.grid)
    words = say_place(place, layout.grid)
    if seconds is None:
        return _refuse(problems, ENDING, f"The ending at {words}: this song has no bars. Tap the tempo, or give a time.")
    if layout.grid is not None and seconds < max(0.0, layout.grid.first_beat_seconds) - 1e-6:
        return _refuse(problems, ENDING, f"The ending at {words} lies before the first beat. Move it into the song.")
    if seconds >= layout.seconds:
        return _refuse(problems, ENDING, f"The ending at {words} lies beyond the song’s end at {clock(layout.seconds, 1)}. Move it earlier.")
    at = round(float(music.frames_of(np.array([seconds]))[0]))
    if at < 2:
        return _refuse(problems, ENDING, f"The ending at {words} leaves nothing of the song. Move it later.")
    feed = _frames_before(way.feed, at, music) if isinstance(way, RingOut) else 0
    length = _frames(way.length, at, music) if isinstance(way, TapeStopEnd | EchoEnd | Fade) else 0
    if isinstance(way, Fade) and at + length > music.frames:
        length = music.frames - at
        problems.append(Problem(ENDING, f"The fade at {words} is shortened to {clock(length / layout.rate, 1)}: the song ends by then.", False))
    piece = 0
    if isinstance(way, EchoEnd):
        piece = min(at, max(64, at - round(float(music.beats_on(at, np.array([-beats_of(way.value)]))[0]))))
    return Close(way, at, max(1, length), min(feed, at), piece, place)


def _frames(length: Length, at: int, music: Music) -> int:
    """A length from a frame of the music on, frames."""
    if length.beats is None:
        return round((length.seconds or 0.0) * music.rate)
    return round(float(music.beats_on(at, np.array([length.beats]))[0])) - at


def _frames_before(length: Length, at: int, music: Music) -> int:
    if length.beats is None:
        return round((length.seconds or 0.0) * music.rate)
    return at - round(float(music.beats_on(at, np.array([-length.beats]))[0]))


def edge_frames(rate: int, *, long: bool = False) -> int:
    """Frames of a moment's cross-fades."""
    return round((LONG_EDGE_SECONDS if long else EDGE_SECONDS) * rate)


def ending_place(stages: Stages, layout: Layout) -> Place | None:
    """Where the ending of a version lies, found if it is not given; None where it ends as the track does."""
    way = stages.ending.way
    if isinstance(way, AsTrack):
        return None
    return way.at or best_end(layout)
