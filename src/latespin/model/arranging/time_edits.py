"""What each moment and a tape-stop ending do to the time map."""

import dataclasses
from collections.abc import Callable

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_time import SpeedByTime, knots, slowing
from latespin.model.arranging.repeats import repeats
from latespin.model.arranging.time_map_builder import (
    EDGE_SECONDS,
    HUSH_SECONDS,
    LEAST_FRAMES,
    LONG_EDGE_SECONDS,
    SHORT_EDGE_SECONDS,
    Music,
    MusicRange,
    TimeMapBuilder,
)
from latespin.model.moments.curves import glide_of, speeds_of
from latespin.model.moments.declaration import Moment
from latespin.model.moments.endings import TapeStopEnd
from latespin.model.moments.moments import Cover, Dip, PitchGlide, Ramp, Reverse, SpinUp, Stutter, TapeStop
from latespin.model.timing.time_map import TimeMap

COVER_STOP_SECONDS = 0.6  # the longest tape stop of a cover
Lay = Callable[[TimeMapBuilder, MusicRange], None]
_LAYERS: dict[type[Moment], Lay] = {}


def lays(kind: type[Moment]) -> Callable[[Lay], Lay]:
    """Declare a function as the one that lays a kind of moment on the time map."""

    def declare(function: Lay) -> Lay:
        _LAYERS[kind] = function
        return function

    return declare


def changes_time(kind: type[Moment]) -> bool:
    """Whether a kind of moment is laid on the time map."""
    return kind in _LAYERS


def lay(
    music: Music, stretches: list[MusicRange], stop: int, ending: "TapeStopEnd | None", ending_frames: int
) -> tuple[TimeMap, list[tuple[int, int]]]:
    """The map of After: the music up to ``stop`` with moments that do not overlap, in order, and perhaps a tape stop at its end.

    With it, from which frame of After to which each of the moments lasts: shorter, or not at all, where one before it that speeds up and adds
    time has already read on into it.
    """
    laying = TimeMapBuilder(music)
    lasting = []
    for wanted in stretches:
        laying.straight(wanted.start)
        first = laying.after
        stretch = dataclasses.replace(wanted, start=max(wanted.start, laying.music))
        if (
            wanted.start < laying.music and stretch.stop - stretch.start < LEAST_FRAMES
        ):  # what speeds up before it has read on beyond its end
            lasting.append((first, first))
            continue
        _LAYERS[type(stretch.moment)](laying, stretch)
        lasting.append((first, laying.after))
    laying.straight(stop)
    if ending is not None:
        share = ending.second_percent / 100.0 if ending.two_stages else 0.0
        began = (laying.music, laying.after)
        bend = _stop(laying, slowing(knots(), ending.tension, 1.0, share), ending_frames, 0)
        laying.resume(laying.music, keeps=False, since=began, bend=bend)
    elif stop < music.frames and laying.spans:
        last = laying.spans[-1]
        leave = min(last.after_stop - last.after_start, laying.edge(2 * EDGE_SECONDS))
        laying.spans[-1] = dataclasses.replace(last, leave=leave)
    return TimeMap(tuple(laying.spans), music.map.before_frames, music.map, tuple(laying.clock)), lasting


def _stop(laying: TimeMapBuilder, speeds: Floats, frames: int, gap: int, back: int = 0) -> SpeedByTime:
    """A slow-down, the silence at its end, and how it went. back : frames over which something comes in again before its end."""
    hush = max(gap, laying.edge(HUSH_SECONDS) + back)
    length = max(1, frames - hush)
    bend = SpeedByTime.through(speeds, float(length), float(laying.music), whole=True)
    laying.bent(bend, length, leave=laying.edge(2 * EDGE_SECONDS))
    laying.music = round(float(bend.before_at(length)))
    laying.silence(frames - length)
    return bend


@lays(TapeStop)
def _tape_stop(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, TapeStop)
    frames = stretch.stop - stretch.start
    share = moment.second_percent / 100.0 if moment.two_stages else 0.0
    speeds = slowing(knots(), moment.tension, moment.depth_percent / 100.0, share)
    gap = round(frames * moment.gap_percent / 100.0)
    if moment.depth_percent < 100.0 and gap == 0:
        _bent_and_back(
            laying,
            stretch,
            SpeedByTime.through(speeds, float(frames), float(stretch.start), whole=True),
            moment.time == "keep",
        )
        return
    back = laying.edge(SHORT_EDGE_SECONDS)
    bend = _stop(laying, speeds, frames, gap, back)
    _come_back(laying, stretch, moment.time == "keep", laying.music, began, bend)
    laying.lead_in(back)


def _bent_and_back(laying: TimeMapBuilder, stretch: MusicRange, bend: SpeedByTime, keeps: bool) -> None:
    """All of the stretch along a bend, then the song again."""
    began, frames = (laying.music, laying.after), stretch.stop - stretch.start
    laying.bent(bend, frames)
    _come_back(laying, stretch, keeps, round(float(bend.before_at(frames))), began, bend)


def _come_back(
    laying: TimeMapBuilder,
    stretch: MusicRange,
    keeps: bool,
    stopped: int,
    began: tuple[int, int],
    bend: SpeedByTime | None,
) -> None:
    """Continue where the song would have been (keep time), or where it stopped (add time)."""
    laying.resume(stretch.stop if keeps else stopped, keeps=keeps, since=began, bend=bend)
    laying.lead_in(
        laying.edge(LONG_EDGE_SECONDS if isinstance(stretch.moment, Dip | Ramp | PitchGlide) else EDGE_SECONDS)
    )


@lays(SpinUp)
def _spin_up(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, frames = stretch.moment, stretch.stop - stretch.start
    assert isinstance(moment, SpinUp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    read = round(float(SpeedByTime.through(speeds, float(frames), whole=True).before_at(frames)))
    keeps = moment.time == "keep"
    bend = SpeedByTime.through(
        speeds, float(frames), float(stretch.stop - read if keeps else stretch.start), whole=True
    )
    began = (laying.music, laying.after)
    laying.lead_in(laying.edge(EDGE_SECONDS))
    laying.bent(bend, frames)
    laying.resume(stretch.stop if keeps else stretch.start + read, keeps=keeps, since=began, bend=bend)


@lays(Dip)
def _dip(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment = stretch.moment
    assert isinstance(moment, Dip)
    sag = speeds_of(moment, knots())
    assert sag is not None
    bend = SpeedByTime.through(sag, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    _bent_and_back(laying, stretch, bend, moment.time == "keep")


@lays(Ramp)
def _ramp(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment = stretch.moment
    assert isinstance(moment, Ramp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    bend = SpeedByTime.through(speeds, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    read = float(bend.before_at(stretch.stop - stretch.start))
    if read > laying.song.frames:  # the song ends under it
        speeds = speeds * ((laying.song.frames - stretch.start) / (read - stretch.start))
        bend = SpeedByTime.through(speeds, float(stretch.stop - stretch.start), float(stretch.start), whole=True)
    _bent_and_back(laying, stretch, bend, moment.time == "keep")


@lays(PitchGlide)
def _pitch_glide(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, frames = stretch.moment, stretch.stop - stretch.start
    assert isinstance(moment, PitchGlide)
    laying.lead_in(laying.edge(LONG_EDGE_SECONDS))
    laying.bent(SpeedByTime.straight(float(stretch.start)), frames, glide=glide_of(moment, knots()))
    _come_back(laying, stretch, True, stretch.stop, (0, 0), None)


@lays(Stutter)
def _stutter(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, Stutter)
    for start, stop, place, backwards in repeats(moment, laying.song, stretch):
        _repeat(laying, start, stop, place, backwards=backwards)
    _come_back(laying, stretch, moment.time == "keep", stretch.start, began, None)


def _repeat(laying: TimeMapBuilder, start: int, stop: int, place: int, *, backwards: bool) -> None:
    """One repeat: frames ``start`` to ``stop`` of the moment's stretch play a slice that begins at ``place``."""
    frames = stop - start
    laying.lead_in(min(laying.edge(EDGE_SECONDS), frames // 3))
    bend = SpeedByTime.straight(float(place + frames), -1.0) if backwards else SpeedByTime.straight(float(place))
    laying.bent(bend, frames)


Repeats = tuple[tuple[int, int, int, bool], ...]


@lays(Reverse)
def _reverse(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    moment, began, frames = stretch.moment, (laying.music, laying.after), stretch.stop - stretch.start
    assert isinstance(moment, Reverse)
    keeps = moment.time == "keep"
    frames = frames if keeps else min(frames, stretch.start)
    laying.lead_in(laying.edge(EDGE_SECONDS))
    laying.bent(SpeedByTime.straight(float(stretch.stop if keeps else stretch.start), -1.0), frames)
    _come_back(laying, stretch, keeps, stretch.start, began, None)


@lays(Cover)
def _cover(laying: TimeMapBuilder, stretch: MusicRange) -> None:
    """Nothing outside the stretch changes: it is come into within it, and left within it."""
    moment, began = stretch.moment, (laying.music, laying.after)
    assert isinstance(moment, Cover)
    edge = min(laying.edge(EDGE_SECONDS), (stretch.stop - stretch.start) // 4)
    laying.straight(stretch.start + edge)
    inner = MusicRange(moment, stretch.start + edge, stretch.stop)
    frames = inner.stop - inner.start
    laying.lead_in(edge)
    if moment.way == "silence":
        laying.silence(frames)
    elif moment.way == "reverse":
        laying.bent(SpeedByTime.straight(float(stretch.stop), -1.0), frames)
    elif moment.way == "tape-stop":
        stop = min(frames, round(COVER_STOP_SECONDS * laying.song.rate))
        _stop(laying, slowing(knots(), 0.0, 1.0, 0.33), stop, 0)
        laying.silence(frames - stop)
    else:
        for i, (start, end, place, _) in enumerate(repeats(moment, laying.song, stretch)):
            first = max(start, inner.start)
            if end > first:
                _repeat(laying, first, end, place + first - start, backwards=False)
                if i == 0:
                    laying.spans[-1] = dataclasses.replace(laying.spans[-1], fade=edge)
    _come_back(laying, stretch, True, stretch.stop, began, None)
    laying.lead_in(edge)
