"""The arrangement of a version: its time map, and all events at frames of After.

What cannot be placed is left out and said why; the rest still holds.
"""

import dataclasses
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from latespin.language import tr
from latespin.model.arranging.held_clock import ClockMove, clock_moves, with_clock
from latespin.model.arranging.placement import (
    Problem,
    ResolvedEnding,
    apart,
    closing,
    halftime_problems,
    name_of,
    placed,
)  # fmt: skip
from latespin.model.arranging.repeats import repeats
from latespin.model.arranging.time_edits import lay
from latespin.model.arranging.time_map_builder import EDGE_SECONDS, Music, MusicRange, music_of
from latespin.model.moments.endings import Fade, NoEnding, TapeStopEnd
from latespin.model.moments.faded_effects import FadedEffect
from latespin.model.moments.held import Held
from latespin.model.moments.moments import AnyMoment, Cover, DropIn, GainChange, StuckRecord, Stutter, Throw, bends_time
from latespin.model.timing.positions import Layout, Position, best_end
from latespin.model.timing.time_map import TimeMap
from latespin.model.values.note_values import beats_of
from latespin.model.version import Stages


@dataclass(frozen=True)
class PlacedMoment:
    """A moment at frames of After.  delay : of an echo, frames.  fades : frames of fade-in and fade-out."""

    moment: AnyMoment
    start: int
    stop: int
    delay: int = 0
    fades: tuple[int, int] = (0, 0)


@dataclass(frozen=True)
class MomentExtent:
    """The extent of a moment: from frame ``music`` of the Time stage's music on, and frames ``start`` to ``stop`` of After."""

    id: str
    music: int
    start: int
    stop: int


@dataclass(frozen=True)
class DrumStutter:
    """The drums of frames of the music alone are replaced: ``repeats`` as start, stop, place of the slice, backwards."""

    moment: Stutter
    after: int
    start: int
    stop: int
    repeats: tuple[tuple[int, int, int, bool], ...]


NO_CLOSE = ResolvedEnding(NoEnding(), 0)


@dataclass(frozen=True)
class Arrangement:
    """map : of After.  song : the same without held moves that move the clock; places of all events are its frames.  music : of the Time stage alone.  muffles come before the effects, all others after them, held moves last."""

    map: TimeMap
    music: TimeMap
    muffles: tuple[PlacedMoment, ...] = ()
    drums: tuple[DrumStutter, ...] = ()
    dips: tuple[PlacedMoment, ...] = ()
    gains: tuple[PlacedMoment, ...] = ()
    throws: tuple[PlacedMoment, ...] = ()
    sounds: tuple[PlacedMoment, ...] = ()
    ticks: tuple[PlacedMoment, ...] = ()
    held: tuple[PlacedMoment, ...] = ()
    clock_moves: tuple[ClockMove, ...] = ()
    close: ResolvedEnding = NO_CLOSE
    spots: tuple[MomentExtent, ...] = ()
    problems: tuple[Problem, ...] = ()

    @property
    def song(self) -> TimeMap:
        """The map without held moves that move the clock."""
        return self.map.music if self.clock_moves and self.map.music is not None else self.map

    def song_frame_at(self, after: float) -> float:
        """The frame of the song at a frame of After."""
        return self.map.song_frame_at(after) if self.clock_moves else after

    @property
    def bends(self) -> bool:
        """Whether anything is done to the time of the music."""
        return self.song.music is not None

    @property
    def plain(self) -> bool:
        """Whether there is nothing but the Time stage's music."""
        return not (
            self.bends
            or self.muffles
            or self.drums
            or self.dips
            or self.gains
            or self.throws
            or self.sounds
            or self.ticks
        )


@lru_cache(maxsize=64)
def arrange(stages: Stages, layout: Layout) -> Arrangement:
    """The arrangement of a version of a song laid out so. Levels have no say in it."""
    music = music_of(stages.time, layout)
    base = music.map
    moments, way = stages.moments.heard, stages.ending.heard
    problems = halftime_problems(stages.time, layout)
    if not moments and isinstance(way, NoEnding):
        return Arrangement(base, base, problems=tuple(problems))
    ending = closing(way, music, layout, problems)
    stop = ending.at if ending else music.frames
    taken = placed(moments, music, layout, stop if ending else None, problems)
    bending = apart([s for s in taken if bends_time(s.moment)], layout, problems)
    whole = [s for s in bending if not _on_drums(s)]
    fade = isinstance(ending.way, Fade) if ending else False
    last = min(music.frames, stop + ending.length) if ending and fade else stop
    slowing = ending.way if ending and isinstance(ending.way, TapeStopEnd) else None
    if whole or last < music.frames or slowing is not None:
        after, lasting = lay(music, whole, last, slowing, ending.length if ending else 0)
    else:
        after, lasting = base, []
    spots = [MomentExtent(s.moment.id, s.start, *ends) for s, ends in zip(whole, lasting, strict=True)]
    return _with_effects(after, music, layout, taken, bending, ending, spots, problems)


def _with_effects(
    after: TimeMap,
    music: Music,
    layout: Layout,
    taken: list[MusicRange],
    bending: list[MusicRange],
    ending: "ResolvedEnding | None",
    spots: list[MomentExtent],
    problems: list[Problem],
) -> Arrangement:
    """Moments that keep the time, at their frames of After."""

    def during(stretch: MusicRange, delay: int = 0) -> PlacedMoment:
        ends = np.array([stretch.start, stretch.stop], dtype=np.float64)
        start, stop = (round(at) for at in after.after_of_music(ends).tolist())
        return PlacedMoment(stretch.moment, start, max(start + 1, stop), delay)  # type: ignore[arg-type]

    def those(kind: type) -> list[MusicRange]:
        return [s for s in taken if isinstance(s.moment, kind)]

    known = {spot.id for spot in spots}
    others = [s for s in taken if s.moment.id not in known and (s in bending or not bends_time(s.moment))]
    spots += [MomentExtent(s.moment.id, s.start, during(s).start, during(s).stop) for s in others]

    def echoed(stretch: MusicRange) -> PlacedMoment:
        """With the delay of an echo."""
        beats = beats_of(stretch.moment.value)  # type: ignore[attr-defined]
        delay = round(float(music.beats_on(stretch.stop, np.array([beats]))[0])) - stretch.stop
        return during(stretch, max(1, delay))

    drums = tuple(
        DrumStutter(s.moment, during(s).start, s.start, s.stop, repeats(s.moment, music, s))  # type: ignore[arg-type]
        for s in bending if _on_drums(s)
    )  # fmt: skip
    held, moves = _held(tuple(during(s) for s in those(Held)), layout, problems)
    whole = with_clock(after, moves) if moves else after
    return Arrangement(
        whole, music.map,
        muffles=tuple(during(s) for s in those(Cover) if s.moment.way == "muffle"),  # type: ignore[attr-defined]
        drums=drums,
        dips=tuple(during(s) for s in those(FadedEffect)),
        gains=tuple(dataclasses.replace(during(s), fades=_fades(s, music, after)) for s in those(GainChange)),
        throws=tuple(echoed(s) for s in those(Throw)),
        sounds=tuple(echoed(s) for s in those(DropIn)),
        ticks=tuple(tick for s in bending for tick in _ticks(s, spots, music)),
        held=held, clock_moves=tuple(moves),
        close=_close_on(after, ending), spots=_spots_on(whole, spots, moves) if moves else tuple(spots), problems=tuple(problems),
    )  # fmt: skip


def _ticks(stretch: MusicRange, spots: list[MomentExtent], music: Music) -> list[PlacedMoment]:
    """Where the needle of a stuck record falls back, and where it comes free."""
    moment = stretch.moment
    if not isinstance(moment, StuckRecord):
        return []
    start, stop = next((spot.start, spot.stop) for spot in spots if spot.id == moment.id)
    begins = stretch.stop - (stop - start)  # later than its own start where what is before it took longer
    turns = repeats(moment, music, MusicRange(moment, begins, stretch.stop))
    return [PlacedMoment(moment, at, at + 1) for at in (*(start + turn[0] - begins for turn in turns), stop)]


def _close_on(after: TimeMap, ending: ResolvedEnding | None) -> ResolvedEnding:
    """The ending at its frame of After."""
    if ending is None:
        return ResolvedEnding(NoEnding(), after.after_frames)
    within = ending.length if isinstance(ending.way, Fade | TapeStopEnd) else 0
    return dataclasses.replace(ending, at=max(0, after.after_frames - within))


def _held(
    held: tuple[PlacedMoment, ...], layout: Layout, problems: list[Problem]
) -> tuple[tuple[PlacedMoment, ...], list[ClockMove]]:
    """The held moments without those that would move the clock while another one does, and those that move it."""
    placed_moves = [(d.moment, d.start, d.stop) for d in held if isinstance(d.moment, Held)]
    moves, crossing = clock_moves(placed_moves, layout.rate)
    named = {d.moment.id: name_of(d.moment, layout) for d in held}
    says = tr("{0}: it begins while {1} holds the song up or rides its tempo. Move one of them.")
    problems += [Problem(later, says.format(named[later], named[earlier])) for later, earlier in crossing.items()]
    return tuple(d for d in held if d.moment.id not in crossing), moves


def _spots_on(after: TimeMap, spots: list[MomentExtent], moves: list[ClockMove]) -> tuple[MomentExtent, ...]:
    """The extents of moments, from frames of the song to those of After."""
    ends = np.array([(spot.start, spot.stop) for spot in spots], dtype=np.float64).reshape(-1, 2)
    found = np.round(after.after_of_music(ends.ravel()).reshape(-1, 2)).astype(int).tolist()
    own = {move.id: (move.after, move.after + move.frames) for move in moves}
    both = [own.get(spot.id, ends) for spot, ends in zip(spots, found, strict=True)]
    return tuple(
        dataclasses.replace(spot, start=start, stop=max(start + 1, stop))
        for spot, (start, stop) in zip(spots, both, strict=True)
    )


def _fades(stretch: MusicRange, music: Music, after: TimeMap) -> tuple[int, int]:
    """Frames of After of both fades of a gain; together at most its length."""
    moment = stretch.moment
    assert isinstance(moment, GainChange)
    start, stop = after.after_of_music(np.array([stretch.start, stretch.stop], dtype=np.float64)).tolist()
    if moment.free:
        fades = [ms * music.rate / 1000.0 for ms in (moment.fade_in_ms, moment.fade_out_ms)]
    else:
        into = music.beats_on(stretch.start, np.array([beats_of(moment.fade_in_value)]))
        out = music.beats_on(stretch.stop, np.array([-beats_of(moment.fade_out_value)]))
        inner = after.after_of_music(np.concatenate((into, out)))
        fades = [float(inner[0]) - start, stop - float(inner[1])]
    shrink = min(1.0, (stop - start) / max(1.0, sum(fades)))
    return round(shrink * fades[0]), round(shrink * fades[1])


def _on_drums(stretch: MusicRange) -> bool:
    return isinstance(stretch.moment, Stutter) and stretch.moment.material == "drums"


def edge_frames(rate: int) -> int:
    """Frames of a moment's cross-fades."""
    return round(EDGE_SECONDS * rate)


def ending_place(stages: Stages, layout: Layout) -> Position | None:
    """The position of a version's ending, chosen automatically if not given; None where it ends as the track."""
    way = stages.ending.way
    if isinstance(way, NoEnding):
        return None
    return way.at or best_end(layout)
