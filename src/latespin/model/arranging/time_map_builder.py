"""Building the time map of a version span by span, to the frame."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.model.moments.declaration import Moment
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import FINEST, Layout
from latespin.model.timing.time_map import ClockSegment, Span, TimeMap, compile_time_map
from latespin.model.version import Time

EDGE_SECONDS, LONG_EDGE_SECONDS = 0.005, 0.012
SHORT_EDGE_SECONDS = 0.0025  # over which the song comes back after silence, before its beat
HUSH_SECONDS = 0.005  # of silence at the end of a stop
LEAST_FRAMES = 1024  # of the music that a moment takes up
BLIND_BEAT_SECONDS = 0.5  # a beat where there is no grid
LEAST_REPEAT_SECONDS = 0.004  # less of a repeat is not begun at the end
COVER_STOP_SECONDS = 0.6  # a tape stop that covers a word takes no longer


@dataclass(frozen=True)
class MusicRange:
    """Frames ``start`` to ``stop`` of the music that a moment takes up."""

    moment: Moment
    start: int
    stop: int


@dataclass(frozen=True, eq=False)
class Music:
    """The map of the Time stage, and its beats."""

    map: TimeMap
    rate: int
    grid: Grid | None

    @property
    def frames(self) -> int:
        """Its length."""
        return self.map.after_frames

    def frames_of(self, seconds: Floats) -> Floats:
        """The frames of the music at which seconds of the track sound, not rounded."""
        return self.map.after_of_all(np.asarray(seconds, dtype=np.float64) * self.rate)

    def beats_on(self, frame: int, beats: Floats) -> Floats:
        """Frames a number of beats after one, at half a second a beat without a grid. The last tempo holds beyond the song."""
        beats = np.asarray(beats, dtype=np.float64)
        if self.grid is None:
            return frame + beats * BLIND_BEAT_SECONDS * self.rate
        here = self._number_at(frame)
        places = self.grid.seconds_of(here + beats) * self.rate
        inside = self.frames_of(np.clip(places, 0.0, self.map.before_frames) / self.rate)
        speed = max(1e-3, self.map.speed_at(min(frame, self.frames - 1)))
        beyond = np.maximum(0.0, places - self.map.before_frames) / speed
        ahead = np.minimum(0.0, places) / speed
        return inside + beyond + ahead

    def _number_at(self, frame: int) -> float:
        """The number of the beat at a frame, or a simple fraction of a beat that rounds to this frame."""
        assert self.grid is not None
        exact = float(self.grid.number_at(self.map.before_at(frame) / self.rate))
        near = round(exact * FINEST) / FINEST
        at = float(self.frames_of(self.grid.seconds_of(np.array([near])))[0])
        return near if abs(at - frame) <= 0.51 else exact


@lru_cache(maxsize=8)
def music_of(time: Time, layout: Layout) -> Music:
    """The music of a Time stage of a song laid out so."""
    return Music(compile_time_map(time, layout.frames, layout.rate, layout.grid), layout.rate, layout.grid)


class TimeMapBuilder:
    """Spans laid one after the other; ``music`` and ``after`` are where the next one begins."""

    def __init__(self, music: Music) -> None:
        self.song = music
        self.music = self.after = 0
        self.spans: list[Span] = []
        self.clock: list[ClockSegment] = [ClockSegment(0, 0)]
        self._fade = 0

    def edge(self, seconds: float) -> int:
        """Frames of a cross-fade."""
        return round(seconds * self.song.rate)

    def lead_in(self, frames: int) -> None:
        """The next span comes in over the frames before it."""
        self._fade = frames

    def straight(self, stop: int) -> None:
        """The music as it is, up to one of its frames."""
        if stop > self.music:
            self.bent(SpeedByTime.straight(float(self.music)), stop - self.music)
            self.music = stop

    def silence(self, frames: int) -> None:
        """Nothing, standing where the music stopped."""
        if frames > 0:
            self._add(SpeedByTime.straight(float(min(self.music, self.song.frames - 1)), 0.0), frames, silent=True)

    def bent(self, bend: SpeedByTime, frames: int, *, leave: int = 0, glide: Floats | None = None) -> None:
        """Frames of After along a bend, whose places are frames of the music."""
        cuts = self._cuts(bend, frames)
        for start, stop in zip((0, *cuts), (*cuts, frames), strict=True):
            part = bend.since(start) if start else bend
            shape = (
                glide[round(start / frames * (len(glide) - 1)) : round(stop / frames * (len(glide) - 1)) + 1]
                if glide is not None
                else None
            )
            self._add(part, stop - start, leave=leave if stop == frames else 0, glide=shape)

    def resume(self, music: int, *, keeps: bool, since: tuple[int, int], bend: SpeedByTime | None = None) -> None:
        """Go on with a frame of the music, after a moment that began at ``since`` (music, After), and say what the clock does meanwhile."""
        began, laid = since
        if not keeps:
            self.clock.append(
                ClockSegment(began, laid, bend.moved(-float(began)) if bend else SpeedByTime.straight(0.0))
            )
            self.clock.append(ClockSegment(music, self.after))
        self.music = music

    def _cuts(self, bend: SpeedByTime, frames: int) -> list[int]:
        """Places within a bend at which the music changes from one span to the next."""
        spans = self.song.map.spans
        if len(spans) == 1:
            return []
        ends = bend.before_at(np.array([0.0, float(frames)]))
        borders = np.array([span.after_start for span in spans[1:]], dtype=np.float64)
        inside = borders[(borders > ends.min()) & (borders < ends.max())]
        times = np.sort(np.ceil(bend.after_at(inside) - 1e-6)).astype(np.int64)
        return [t for t in times.tolist() if 0 < t < frames]

    def _add(
        self, bend: SpeedByTime, frames: int, *, leave: int = 0, silent: bool = False, glide: Floats | None = None
    ) -> None:
        if frames <= 0:
            return
        middle = bend.place_at(min(0.5, frames / 2.0))
        spans = self.song.map.spans
        number = max(0, min(len(spans) - 1, sum(span.after_start <= middle for span in spans) - 1))
        source = spans[number]
        at_border = bend.constant_speed == 1.0 and int(bend.place_at(0.0)) == source.after_start and number > 0
        fade = max(self._fade, source.fade if at_border and self.spans else 0)
        room = self.spans[-1].after_stop - self.spans[-1].after_start if self.spans else 0
        moved = bend.moved(-float(source.after_start))
        plain = moved == SpeedByTime.straight(0.0) and not silent
        self.spans.append(
            Span(
                self.after, self.after + frames, source.speeds, source.pitch, min(fade, room),
                None if plain else moved, number, min(leave, frames), silent,
                tuple(np.asarray(glide).tolist()) if glide is not None else (),
            )
        )  # fmt: skip
        self._fade = 0
        self.after += frames
