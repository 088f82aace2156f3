"""How held moves that do not keep the song's time move its clock, and the time map of After with them.

*Song* frames are those of After without such moves.
"""

import dataclasses
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from latespin.dsp.timing.piecewise import Segment
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.moments.held import Held, HeldStop, HeldTempo
from latespin.model.timing.time_map import ClockSegment, Span, TimeMap


@dataclass(frozen=True)
class ClockMove:
    """A move that moves the clock: from frame ``after`` of After, and ``song`` of the song, on, along ``bend``, for ``frames`` of After."""

    id: str
    song: int
    after: int
    frames: int
    bend: SpeedByTime

    @property
    def resumes(self) -> int:
        """The song's frame at its end."""
        return self.song + int(self.bend.place_at(float(self.frames)) + 1e-6)


def stopping(frames: int) -> SpeedByTime:
    """An even fall to a standstill."""
    return SpeedByTime((Segment(0.0, 0.0, 1.0, -1.0 / frames), Segment(float(frames), 0.5 * frames, 0.0, 0.0)))


def riding(move: HeldTempo, rate: int) -> SpeedByTime:
    """The song's frames along a tempo that was played."""
    knots = [(point.seconds * rate, 1.0 + point.percent / 100.0) for point in move.points]
    pieces, place = [], 0.0
    for (at, speed), (next_at, next_speed) in pairwise(knots):
        length = max(1e-9, next_at - at)
        pieces.append(Segment(at, place, speed, (next_speed - speed) / length))
        place += 0.5 * (speed + next_speed) * length
    pieces.append(Segment(knots[-1][0], place, knots[-1][1], 0.0))
    return SpeedByTime(tuple(pieces))


def moves_clock(moment: object) -> bool:
    """Whether a held move does not keep the song's time."""
    return isinstance(moment, HeldTempo) or (isinstance(moment, HeldStop) and moment.time == "add")


def bend_of(moment: Held, rate: int) -> SpeedByTime:
    """The song's frames along a move that moves its clock, from 0 on."""
    if isinstance(moment, HeldTempo):
        return riding(moment, rate)
    assert isinstance(moment, HeldStop)
    return stopping(max(2, round(moment.slow_seconds * rate)))


def clock_moves(held: Sequence[tuple[Held, int, int]], rate: int) -> tuple[list[ClockMove], dict[str, str]]:
    """The moves that move the clock, and those left out that begin within another one, by its id. held : moves with their song frames."""
    moves: list[ClockMove] = []
    crossing: dict[str, str] = {}
    for moment, start, stop in sorted(held, key=lambda placed: placed[1]):
        if not moves_clock(moment):
            continue
        if moves and start < moves[-1].resumes:
            crossing[moment.id] = moves[-1].id
            continue
        after = start if not moves else moves[-1].after + moves[-1].frames + start - moves[-1].resumes
        moves.append(ClockMove(moment.id, start, after, max(1, stop - start), bend_of(moment, rate)))
    return moves, crossing


def with_clock(song: TimeMap, moves: Sequence[ClockMove]) -> TimeMap:
    """The time map of After, from that of the song."""
    clock = [ClockSegment(0, 0)]
    spans: list[Span] = []
    song_at = after_at = 0
    for move in moves:
        spans += _cut(song, song_at, move.song, after_at - song_at)
        spans.append(_during(song, move))
        clock += [ClockSegment(move.song, move.after, move.bend), ClockSegment(move.resumes, move.after + move.frames)]
        song_at, after_at = move.resumes, move.after + move.frames
    spans += _cut(song, song_at, song.after_frames, after_at - song_at)
    return TimeMap(tuple(spans), song.before_frames, song, tuple(clock))


def _cut(song: TimeMap, start: int, stop: int, later: int) -> list[Span]:
    """The spans of the song between two of its frames, moved ``later`` frames."""
    found = []
    for span in song.spans:
        first, last = max(start, span.after_start), min(stop, span.after_stop)
        if last > first:
            gone = first - span.after_start
            bend = (span.bend or SpeedByTime.straight(0.0)).since(float(gone)) if gone else span.bend
            fade = span.fade if not gone else 0
            found.append(
                dataclasses.replace(span, after_start=first + later, after_stop=last + later, bend=bend, fade=fade)
            )
    return found


def _during(song: TimeMap, move: ClockMove) -> Span:
    """What sounds while the clock is moved: along the bend where the song runs evenly there, else drawn as silence."""
    at = min(move.song, song.after_frames - 1)
    span = next(span for span in song.spans if span.after_start <= at < span.after_stop)
    silent = span.bend is not None
    return dataclasses.replace(
        span, after_start=move.after, after_stop=move.after + move.frames, fade=0,
        bend=move.bend.moved(float(move.song - span.after_start)) if not silent else span.bend, silent=silent,
    )  # fmt: skip
