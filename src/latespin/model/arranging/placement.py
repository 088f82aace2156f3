"""Placing moments and an ending on a song: their frames, and why some do not fit."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from latespin.errors import Unusable
from latespin.language import tr
from latespin.model.arranging.time_map_builder import Music, MusicRange
from latespin.model.moments.declaration import Moment, moment_title
from latespin.model.moments.endings import AnyEnding, CleanStop, EchoEnd, Fade, NoEnding, RingOut, TapeStopEnd
from latespin.model.moments.moments import AnyMoment, Cover, StuckRecord, Stutter
from latespin.model.timing.positions import Layout, Length, Position, best_end, say_place
from latespin.model.values.note_values import beats_of
from latespin.model.values.units import clock
from latespin.model.version import HALFTIME_BARS, Time

ENDING, TIME = "ending", "time"  # ids of problems of these stages


@dataclass(frozen=True)
class Problem:
    """A problem: something that could not be done as asked. id : of a moment or an effect, ``ending`` or ``time``.  left_out : nothing of it is heard."""

    id: str
    says: str
    left_out: bool = True


@dataclass(frozen=True)
class ResolvedEnding:
    """The resolved ending: from frame ``at`` on; ``length`` frames of fade, stop or echo; ``feed`` before it; ``slice`` of an echo."""

    way: AnyEnding
    at: int
    length: int = 0
    feed: int = 0
    slice: int = 0
    place: Position | None = None


def halftime_problems(time: Time, layout: Layout) -> list[Problem]:
    """Halftime in bars of a song that has none."""
    if time.heard.halftime not in HALFTIME_BARS or layout.grid is not None:
        return []
    return [Problem(TIME, tr("Halftime in bars is left out: this song has no bars. Tap its tempo, or type its BPM."))]


def placed(
    moments: Sequence[AnyMoment], music: Music, layout: Layout, stop: int | None, problems: list[Problem]
) -> list[MusicRange]:
    """The extents of the moments; those without one are left out, with the reason."""
    found = []
    for moment in moments:
        try:
            found.append(_stretch(moment, music, layout, stop, problems))
        except Unusable as error:
            problems.append(Problem(moment.id, str(error)))
    return found


def _stretch(moment: AnyMoment, music: Music, layout: Layout, stop: int | None, problems: list[Problem]) -> MusicRange:
    """The frames of the music a moment takes up, ``stop`` being where the version ends. Raises Unusable where it has none."""
    named = name_of(moment, layout)
    start, end = moment.start.seconds_in(layout.grid), moment.end.seconds_in(layout.grid)
    if start is None or end is None:
        raise Unusable(
            tr("{0}: this song has no bars to place it on. Tap the tempo, or place it in seconds.").format(named)
        )
    if start >= layout.seconds:
        raise Unusable(
            tr("{0}: that lies beyond the song’s end at {1}. Move it earlier.").format(named, clock(layout.seconds, 1))
        )
    if end <= start or end <= 0.0:
        raise Unusable(tr("{0}: it has no length. Move its end beyond its start.").format(named))
    first, wanted = (round(at) for at in music.frames_of(np.clip([start, end], 0.0, layout.seconds)).tolist())
    last = wanted if stop is None else min(wanted, stop)
    if stop is not None and first >= stop:
        raise Unusable(
            tr("{0}: the version has ended by then. Move it before the ending, or the ending behind it.").format(named)
        )
    if last - first < 2:
        raise Unusable(tr("{0}: nothing of it is left at this speed. Make it longer.").format(named))
    if first == 0 and (
        isinstance(moment, Stutter | StuckRecord) or (isinstance(moment, Cover) and moment.way == "repeat")
    ):
        raise Unusable(tr("{0}: there is nothing before it that could be repeated.").format(named))
    if last < wanted or end > layout.seconds + 0.001:
        says = tr("{0}: it is cut short, since the version ends before it does.").format(named)
        problems.append(Problem(moment.id, says, left_out=False))
    return MusicRange(moment, first, last)


def name_of(moment: Moment, layout: Layout) -> str:
    """``Tape stop, bar 17``."""
    return f"{tr(moment_title(moment))}, {say_place(moment.start, layout.grid)}"


def apart(stretches: list[MusicRange], layout: Layout, problems: list[Problem]) -> list[MusicRange]:
    """Those that do not overlap, in order; of two that do, the one that begins later is left out."""
    kept: list[MusicRange] = []
    for stretch in sorted(stretches, key=lambda s: s.start):
        other = kept[-1] if kept else None
        if other is not None and stretch.start < other.stop:
            says = tr("{0}: it begins within {1}; two moments that change the time cannot overlap. Move one of them.")
            later, earlier = name_of(stretch.moment, layout), name_of(other.moment, layout)
            problems.append(Problem(stretch.moment.id, says.format(later, earlier)))
        else:
            kept.append(stretch)
    return kept


def closing(way: AnyEnding, music: Music, layout: Layout, problems: list[Problem]) -> ResolvedEnding | None:
    """The extent of the ending in frames of the music; None where the version ends as the track."""
    if isinstance(way, NoEnding):
        return None
    try:
        return _close(way, way.at or best_end(layout), music, layout, problems)
    except Unusable as error:
        problems.append(Problem(ENDING, str(error)))
        return None


def _close(
    way: RingOut | TapeStopEnd | EchoEnd | Fade | CleanStop,
    place: Position,
    music: Music,
    layout: Layout,
    problems: list[Problem],
) -> ResolvedEnding:
    """See :func:`closing`. Raises Unusable where it cannot end there."""
    if way.at is None and layout.grid is None:
        says = tr("This song has no bars; the ending is placed in seconds, at {0}.").format(
            clock(place.seconds or 0.0, 1)
        )
        problems.append(Problem(ENDING, says, left_out=False))
    seconds = place.seconds_in(layout.grid)
    words = say_place(place, layout.grid)
    if seconds is None:
        raise Unusable(tr("The ending at {0}: this song has no bars. Tap the tempo, or give a time.").format(words))
    if layout.grid is not None and seconds < max(0.0, layout.grid.first_beat_seconds) - 1e-6:
        raise Unusable(tr("The ending at {0} lies before the first beat. Move it into the song.").format(words))
    rings_on = isinstance(way, RingOut | EchoEnd | CleanStop)  # these can follow the very end of a one-shot
    if seconds > layout.seconds + 1e-6 or (seconds >= layout.seconds and not rings_on):
        raise Unusable(
            tr("The ending at {0} lies beyond the song’s end at {1}. Move it earlier.").format(
                words, clock(layout.seconds, 1)
            )
        )
    at = round(float(music.frames_of(np.array([seconds]))[0]))
    if at < 2:
        raise Unusable(tr("The ending at {0} leaves nothing of the song. Move it later.").format(words))
    feed = _frames_before(way.feed, at, music) if isinstance(way, RingOut) else 0
    length = _frames(way.length, at, music) if isinstance(way, TapeStopEnd | EchoEnd | Fade) else 0
    if isinstance(way, Fade) and at + length > music.frames:
        length = music.frames - at
        says = tr("The fade at {0} is shortened to {1}: the song ends by then.").format(
            words, clock(length / layout.rate, 1)
        )
        problems.append(Problem(ENDING, says, left_out=False))
    piece = 0
    if isinstance(way, EchoEnd):
        piece = min(at, max(64, at - round(float(music.beats_on(at, np.array([-beats_of(way.value)]))[0]))))
    return ResolvedEnding(way, at, max(1, length), min(feed, at), piece, place)


def _frames(length: Length, at: int, music: Music) -> int:
    """A length from a frame of the music on, frames."""
    if length.beats is None:
        return round((length.seconds or 0.0) * music.rate)
    return round(float(music.beats_on(at, np.array([length.beats]))[0])) - at


def _frames_before(length: Length, at: int, music: Music) -> int:
    if length.beats is None:
        return round((length.seconds or 0.0) * music.rate)
    return at - round(float(music.beats_on(at, np.array([-length.beats]))[0]))
