"""The changes that each moment and a tape-stop ending make to the time map."""

import dataclasses
from collections.abc import Callable

from msgspec.structs import replace

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
from latespin.model.moments.moments import Cover, Dip, PitchGlide, Ramp, Reverse, SpinUp, StuckRecord, Stutter, TapeStop
from latespin.model.timing.time_map import TimeMap

COVER_STOP_SECONDS = 0.6  # the longest tape stop of a cover
Lay = Callable[[TimeMapBuilder, MusicRange], None]
_LAYS: dict[type[Moment], Lay] = {}


def lays(kind: type[Moment]) -> Callable[[Lay], Lay]:
    """Declare a function as the one that lays a kind of moment on the time map."""

    def declare(function: Lay) -> Lay:
        _LAYS[kind] = function
        return function

    return declare


def changes_time(kind: type[Moment]) -> bool:
    """Whether a kind of moment is laid on the time map."""
    return kind in _LAYS


def lay(
    music: Music, parts: list[MusicRange], stop: int, ending: "TapeStopEnd | None", ending_frames: int
) -> tuple[TimeMap, list[tuple[int, int]]]:
    """The map of After: the music up to ``stop`` with moments that do not overlap, in order, and perhaps a tape stop at its end.

    With it, from which frame of After to which each of the moments lasts: shorter, or not at all, where one before it that speeds up and adds
    time has already read on into it.
    """
    builder = TimeMapBuilder(music)
    lasting = []
    for wanted in parts:
        builder.straight(wanted.start)
        first = builder.after
        part = dataclasses.replace(wanted, start=max(wanted.start, builder.music))
        if (
            wanted.start < builder.music and part.stop - part.start < LEAST_FRAMES
        ):  # what speeds up before it has read on beyond its end
            lasting.append((first, first))
            continue
        _LAYS[type(part.moment)](builder, part)
        lasting.append((first, builder.after))
    builder.straight(stop)
    if ending is not None:
        share = ending.second_percent / 100.0 if ending.two_stages else 0.0
        began = (builder.music, builder.after)
        bend = _stop(builder, slowing(knots(), ending.tension, 1.0, share), ending_frames, 0)
        builder.resume(builder.music, keeps=False, since=began, bend=bend)
    elif stop < music.frames and builder.spans:
        last = builder.spans[-1]
        leave = min(last.after_stop - last.after_start, builder.edge(2 * EDGE_SECONDS))
        builder.spans[-1] = dataclasses.replace(last, leave=leave)
    return TimeMap(tuple(builder.spans), music.map.before_frames, music.map, tuple(builder.clock)), lasting


def _stop(builder: TimeMapBuilder, speeds: Floats, frames: int, gap: int, back: int = 0) -> SpeedByTime:
    """A slow-down, the silence at its end, and how it went. back : frames over which something comes in again before its end."""
    hush = max(gap, builder.edge(HUSH_SECONDS) + back)
    length = max(1, frames - hush)
    bend = SpeedByTime.through(speeds, float(length), float(builder.music), whole=True)
    builder.bent(bend, length, leave=builder.edge(2 * EDGE_SECONDS))
    builder.music = round(float(bend.before_at(length)))
    builder.silence(frames - length)
    return bend


@lays(TapeStop)
def _tape_stop(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment, began = part.moment, (builder.music, builder.after)
    assert isinstance(moment, TapeStop)
    frames = part.stop - part.start
    if moment.spins_up:
        _stop_and_spin_up(builder, part, moment)
        return
    share = moment.second_percent / 100.0 if moment.two_stages else 0.0
    speeds = slowing(knots(), moment.tension, moment.depth_percent / 100.0, share)
    gap = round(frames * moment.gap_percent / 100.0)
    if moment.depth_percent < 100.0 and gap == 0:
        _bent_and_back(
            builder,
            part,
            SpeedByTime.through(speeds, float(frames), float(part.start), whole=True),
            moment.time == "keep",
        )
        return
    back = builder.edge(SHORT_EDGE_SECONDS)
    bend = _stop(builder, speeds, frames, gap, back)
    _come_back(builder, part, moment.time == "keep", builder.music, began, bend)
    builder.lead_in(back)


def _stop_and_spin_up(builder: TimeMapBuilder, part: MusicRange, moment: TapeStop) -> None:
    """A tape stop, and a spin-up after it: from where the song would have been, or from where it stopped."""
    up = round((part.stop - part.start) * moment.spins_up)
    _tape_stop(builder, MusicRange(replace(moment, spin_percent=0.0), part.start, part.stop - up))
    start = builder.music
    spin = SpinUp(id=moment.id, start=moment.start, end=moment.end, time=moment.time, tension=moment.tension)
    _spin_up(builder, MusicRange(spin, start, start + up))


def _bent_and_back(builder: TimeMapBuilder, part: MusicRange, bend: SpeedByTime, keeps: bool) -> None:
    """The whole range along a bend, then the song again."""
    began, frames = (builder.music, builder.after), part.stop - part.start
    builder.bent(bend, frames)
    _come_back(builder, part, keeps, round(float(bend.before_at(frames))), began, bend)


def _come_back(
    builder: TimeMapBuilder,
    part: MusicRange,
    keeps: bool,
    stopped: int,
    began: tuple[int, int],
    bend: SpeedByTime | None,
) -> None:
    """Continue where the song would have been (keep time), or where it stopped (add time)."""
    builder.resume(part.stop if keeps else stopped, keeps=keeps, since=began, bend=bend)
    builder.lead_in(
        builder.edge(LONG_EDGE_SECONDS if isinstance(part.moment, Dip | Ramp | PitchGlide) else EDGE_SECONDS)
    )


@lays(SpinUp)
def _spin_up(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment, frames = part.moment, part.stop - part.start
    assert isinstance(moment, SpinUp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    read = round(float(SpeedByTime.through(speeds, float(frames), whole=True).before_at(frames)))
    keeps = moment.time == "keep"
    bend = SpeedByTime.through(speeds, float(frames), float(part.stop - read if keeps else part.start), whole=True)
    began = (builder.music, builder.after)
    builder.lead_in(builder.edge(EDGE_SECONDS))
    builder.bent(bend, frames)
    builder.resume(part.stop if keeps else part.start + read, keeps=keeps, since=began, bend=bend)


@lays(Dip)
def _dip(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment = part.moment
    assert isinstance(moment, Dip)
    sag = speeds_of(moment, knots())
    assert sag is not None
    bend = SpeedByTime.through(sag, float(part.stop - part.start), float(part.start), whole=True)
    _bent_and_back(builder, part, bend, moment.time == "keep")


@lays(Ramp)
def _ramp(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment = part.moment
    assert isinstance(moment, Ramp)
    speeds = speeds_of(moment, knots())
    assert speeds is not None
    bend = SpeedByTime.through(speeds, float(part.stop - part.start), float(part.start), whole=True)
    read = float(bend.before_at(part.stop - part.start))
    if read > builder.song.frames:  # the song ends under it
        speeds = speeds * ((builder.song.frames - part.start) / (read - part.start))
        bend = SpeedByTime.through(speeds, float(part.stop - part.start), float(part.start), whole=True)
    _bent_and_back(builder, part, bend, moment.time == "keep")


@lays(PitchGlide)
def _pitch_glide(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment, frames = part.moment, part.stop - part.start
    assert isinstance(moment, PitchGlide)
    builder.lead_in(builder.edge(LONG_EDGE_SECONDS))
    builder.bent(SpeedByTime.straight(float(part.start)), frames, glide=glide_of(moment, knots()))
    _come_back(builder, part, True, part.stop, (0, 0), None)


@lays(StuckRecord)
@lays(Stutter)
def _stutter(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment, began = part.moment, (builder.music, builder.after)
    assert isinstance(moment, Stutter | StuckRecord)
    for start, stop, place, backwards in repeats(moment, builder.song, part):
        _repeat(builder, start, stop, place, backwards=backwards)
    _come_back(builder, part, moment.time == "keep", part.start, began, None)


def _repeat(builder: TimeMapBuilder, start: int, stop: int, place: int, *, backwards: bool) -> None:
    """One repeat: frames ``start`` to ``stop`` of the music play a slice that begins at ``place``."""
    frames = stop - start
    builder.lead_in(min(builder.edge(EDGE_SECONDS), frames // 3))
    bend = SpeedByTime.straight(float(place + frames), -1.0) if backwards else SpeedByTime.straight(float(place))
    builder.bent(bend, frames)


@lays(Reverse)
def _reverse(builder: TimeMapBuilder, part: MusicRange) -> None:
    moment, began, frames = part.moment, (builder.music, builder.after), part.stop - part.start
    assert isinstance(moment, Reverse)
    keeps = moment.time == "keep"
    frames = frames if keeps else min(frames, part.start)
    builder.lead_in(builder.edge(EDGE_SECONDS))
    builder.bent(SpeedByTime.straight(float(part.stop if keeps else part.start), -1.0), frames)
    _come_back(builder, part, keeps, part.start, began, None)


@lays(Cover)
def _cover(builder: TimeMapBuilder, part: MusicRange) -> None:
    """Nothing outside the range changes: its fades are inside it."""
    moment, began = part.moment, (builder.music, builder.after)
    assert isinstance(moment, Cover)
    edge = min(builder.edge(EDGE_SECONDS), (part.stop - part.start) // 4)
    builder.straight(part.start + edge)
    inner = MusicRange(moment, part.start + edge, part.stop)
    frames = inner.stop - inner.start
    builder.lead_in(edge)
    if moment.way == "silence":
        builder.silence(frames)
    elif moment.way == "reverse":
        builder.bent(SpeedByTime.straight(float(part.stop), -1.0), frames)
    elif moment.way == "tape-stop":
        stop = min(frames, round(COVER_STOP_SECONDS * builder.song.rate))
        _stop(builder, slowing(knots(), 0.0, 1.0, 0.33), stop, 0)
        builder.silence(frames - stop)
    else:
        for i, (start, end, place, _) in enumerate(repeats(moment, builder.song, part)):
            first = max(start, inner.start)
            if end > first:
                _repeat(builder, first, end, place + first - start, backwards=False)
                if i == 0:
                    builder.spans[-1] = dataclasses.replace(builder.spans[-1], fade=edge)
    _come_back(builder, part, True, part.stop, began, None)
    builder.lead_in(edge)
