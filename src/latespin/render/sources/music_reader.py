"""The reader: After's music, read from the track through the time map, before any colour."""

import dataclasses
import threading
from collections import OrderedDict
from typing import TYPE_CHECKING

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.fades import raised_cosine
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.stretching.varispeed import reach, read_along, read_at
from latespin.dsp.timing.piecewise import Segment
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.media.track import Track
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import Span, TimeMap, compile_time_map
from latespin.model.version import Time
from latespin.render.sources.stretch_cache import ForwardStretchReader, SegmentStore, StretchedSound

if TYPE_CHECKING:  # loaded with the first stretch
    from latespin.dsp.stretching.phase_vocoder import FormantWarp

AT_ONCE = 1 << 15  # frames read along a changing speed in one go
GLIDE_KNOTS, KEPT_GLIDES = 512, 6


class MusicReader:
    """Reads any stretch of After's music, in any order and from any thread, always the same.

    What was stretched is kept, so that effects can be changed without doing it again; varispeed is quicker than keeping it.
    """

    def __init__(self, track: Track, time: Time, grid: Grid | None = None, attacks: TransientMap | None = None) -> None:
        self.track, self.time = track, time.heard
        self.map: TimeMap = compile_time_map(time, track.frames, track.rate, grid)
        self.attacks = attacks = attacks or TransientMap(track.sound, track.rate)
        store = SegmentStore()
        self.lock = threading.Lock()
        self.glides: OrderedDict[Span, SpanReader] = (
            OrderedDict()
        )  # parts of spans whose pitch glides, the ones used last
        self.parts = [_part(track, time.heard, span, attacks, store, i) for i, span in enumerate(self.map.spans)]

    def read(self, start: int, frames: int) -> Audio:
        """After frames ``start`` to ``start + frames``, ``[channels, frames]``; silence outside the music."""
        self._begin_spans(start, frames)
        return _read_parts(self._between(start, frames), self.track.sound.shape[0], start, frames)

    def has(self, start: int, frames: int) -> bool:
        """True once everything that these frames need is stretched."""
        return all(part.has(start, frames) for part in self._between(start, frames))

    def approach(self, start: int, frames: int) -> None:
        """Have a little of what these frames need stretched in the background."""
        for part in self._between(start, frames):
            part.approach(start, frames)

    def draft(self, start: int, frames: int) -> "MusicReader | DraftReader":
        """A reader for one stream that reads in order from about ``start`` and must start at once.

        This one where what ``frames`` need has been stretched already; else what is stretched sounds as good, but
        is not phase by phase what this reader gives.
        """
        return self if self.has(start, frames) else DraftReader(self)

    def _between(self, start: int, frames: int) -> "list[SpanReader]":
        return [self.parts[i] for i in self.map.spans_between(start, start + frames)]

    def _begin_spans(self, start: int, frames: int) -> None:
        """Stretch two spans at once if several are needed now or soon."""
        numbers = self.map.spans_between(start, start + frames)
        needed = self.parts[numbers.start : numbers.stop + 1]
        if len(needed) > 1:
            for part in needed:
                part.begin(max(start, part.span.after_start), min(frames, part.span.after_stop - part.span.after_start))


class DraftReader:
    """A reader for one stream; see :meth:`Reader.draft`."""

    def __init__(self, reader: MusicReader) -> None:
        self._reader = reader
        self._forward: dict[int, SpanReader] = {}

    def read(self, start: int, frames: int) -> Audio:
        """Like the reader's."""
        numbers = self._reader.map.spans_between(start, start + frames)
        self._forward = {i: self._forward.get(i) or self._reader.parts[i].forward() for i in numbers}
        return _read_parts(list(self._forward.values()), self._reader.track.sound.shape[0], start, frames)


class SpanReader:
    """One span: its source, which is the track or a stretch of it, read at its speeds."""

    def __init__(
        self,
        track: Track,
        span: Span,
        along: SpeedByPosition | SpeedByTime,
        source: StretchedSound | ForwardStretchReader | None,
    ) -> None:
        self._track, self.span, self._along, self._source = track, span, along, source

    @property
    def channels(self) -> int:
        """Channels of the track."""
        return int(self._track.sound.shape[0])

    @property
    def stretched(self) -> bool:
        """Whether it is read from a stretch of the track."""
        return self._source is not None

    def forward(self, *, forgets: bool = True) -> "SpanReader":
        """The same for one stream that must start at once; one that does not forget can be read backwards, too."""
        if isinstance(self._source, StretchedSound):
            return SpanReader(self._track, self.span, self._along, self._source.forward(forgets=forgets))
        return self

    def has(self, start: int, frames: int) -> bool:
        """Whether what these frames need has been stretched."""
        return not isinstance(self._source, StretchedSound) or self._source.has(*self._needs(start, frames))

    def begin(self, start: int, frames: int) -> None:
        """Have what these frames need stretched in the background."""
        if isinstance(self._source, StretchedSound):
            self._source.begin(*self._needs(start, frames))

    def approach(self, start: int, frames: int) -> None:
        """Have a little of it stretched."""
        if isinstance(self._source, StretchedSound):
            self._source.approach(*self._needs(start, frames))

    def read(self, start: int, frames: int) -> Audio:
        """Frames of After."""
        time = start - self.span.after_start
        speed = self._along.constant_speed
        if speed is not None:
            return self._read_steadily(float(self._along.before_at(time)), speed, frames)
        blocks = [
            self._read_along(time + done, min(AT_ONCE, frames - done)) for done in range(0, max(1, frames), AT_ONCE)
        ]
        return np.concatenate(blocks, axis=1)

    def read_bent(self, times: Floats, speeds: Floats) -> Audio:
        """The sound at times of the span, ascending or descending, at ``speeds`` (0 or more) times its normal speed."""
        blocks = [
            self._read_places(self._along.before_at(t), self._along.speed_at(t) * speeds[done : done + AT_ONCE])
            for done in range(0, max(1, len(times)), AT_ONCE)
            for t in [times[done : done + AT_ONCE]]
        ]
        return np.concatenate(blocks, axis=1)

    def _read_steadily(self, position: float, speed: float, frames: int) -> Audio:
        if self._source is None:
            return read_at(self._track.sound, position, speed, frames)
        if speed == 1.0 and position == int(position):
            return self._source.read(int(position), frames)
        first, length = _around(position, position + frames * speed, speed)
        return read_at(self._source.read(first, length), position - first, speed, frames)

    def _read_along(self, time: int, frames: int) -> Audio:
        times = np.arange(time, time + frames)
        return self._read_places(self._along.before_at(times), self._along.speed_at(times))

    def _read_places(self, places: Floats, speeds: Floats) -> Audio:
        if self._source is None or len(places) == 0:
            return read_along(self._track.sound, places, speeds)
        first, length = _around(float(places.min()), float(places.max()), float(speeds.max()))
        return read_along(self._source.read(first, length), places - first, speeds)

    def _needs(self, start: int, frames: int) -> tuple[int, int]:
        """First frame and number of frames of the source that these frames of After are read from."""
        low = max(start, self.span.after_start - self.span.fade) - self.span.after_start
        high = min(start + frames, self.span.after_stop) - self.span.after_start
        return _source_range(self._along, low, high)


def _part(track: Track, time: Time, span: Span, attacks: TransientMap, store: SegmentStore, number: int) -> SpanReader:
    """The part for a span: where pitch and speed differ the song is stretched first, then read at the pitch's ratio."""
    if span.turns_only:
        return SpanReader(track, span, span.speeds, None)
    ratio = span.pitch.transposed
    if span.pitch.follows:
        along, stretched = span.speeds.magnified(ratio), SpeedByPosition.steady(1.0 / ratio)
    else:
        along, stretched = SpeedByPosition.steady(ratio), span.speeds.slower(ratio)
    first, length = _source_range(along, -span.fade, span.after_stop - span.after_start)
    from latespin.dsp.stretching.characters import CHARACTERS
    from latespin.dsp.stretching.phase_vocoder import Stretcher

    stretcher = Stretcher(
        track.sound, track.rate, stretched, first, first + length, attacks, CHARACTERS[time.character], _warp(span)
    )
    return SpanReader(track, span, along, StretchedSound(stretcher, store, number))


def glide_part(reader: "MusicReader", span: Span) -> SpanReader:
    """The part for a span whose pitch glides, time counted from its start: stretched so that reading it at the gliding pitch keeps time."""
    assert span.bend is not None or span.glide
    frames = span.after_stop - span.after_start
    placed = dataclasses.replace(span, after_start=0, after_stop=frames)
    with reader.lock:
        if placed in reader.glides:
            return reader.glides[placed]
    begun = float(span.bend.before_at(0.0)) if span.bend else 0.0
    times = np.linspace(0.0, frames, GLIDE_KNOTS + 1)
    speeds = span.speeds.speed_at(begun + times)
    shape = np.array(span.glide)
    glide = 2.0 ** (np.interp(times / frames, np.linspace(0.0, 1.0, len(shape)), shape) / 12.0)
    pitches = glide * span.pitch.transposed * (speeds if span.pitch.follows else 1.0)
    along = SpeedByTime.through(pitches, float(frames))
    at, places = along.before_at(times), span.speeds.before_at(begun + times)
    rates = speeds / pitches
    slopes = np.diff(rates) / np.diff(places)
    stretched = SpeedByPosition(
        tuple(
            Segment(*piece)
            for piece in zip(at.tolist(), places.tolist(), rates.tolist(), [*slopes.tolist(), 0.0], strict=True)
        )
    )
    first, length = _source_range(along, -span.fade, frames)

    def pitch_at(before: Floats) -> Floats:
        return np.asarray(np.interp(before, places, pitches))

    from latespin.dsp.stretching.characters import CHARACTERS
    from latespin.dsp.stretching.phase_vocoder import Stretcher

    stretcher = Stretcher(
        reader.track.sound, reader.track.rate, stretched, first, first + length, reader.attacks,
        CHARACTERS[reader.time.character], _warp_by(span, pitch_at),
    )  # fmt: skip
    part = SpanReader(reader.track, placed, along, StretchedSound(stretcher, SegmentStore(), 0))
    with reader.lock:
        reader.glides[placed] = part
        while len(reader.glides) > KEPT_GLIDES:
            reader.glides.popitem(last=False)
    return part


def _warp_by(span: Span, pitch_at: "FormantWarp") -> "FormantWarp | None":
    """Like :func:`_warp`, with the pitch given for each place."""
    pitch = span.pitch
    if pitch.formants_kept:
        return lambda places: pitch_at(places) / pitch.formant_ratio
    return None if pitch.formant_ratio == 1.0 else lambda places: np.full(len(places), 1.0 / pitch.formant_ratio)


def _warp(span: Span) -> "FormantWarp | None":
    """Envelope shift for the stretch, before the result is read at the pitch ratio."""
    if not span.moves_formants:
        return None
    pitch = span.pitch

    def warp(places: Floats) -> Floats:
        if not pitch.formants_kept:
            return np.full(len(places), 1.0 / pitch.formant_ratio)
        speeds = span.speeds.speed_at(span.speeds.after_at(places)) if pitch.follows else np.ones(len(places))
        return speeds * (pitch.transposed / pitch.formant_ratio)

    return warp


def _source_range(along: SpeedByPosition | SpeedByTime, low: int, high: int) -> tuple[int, int]:
    places, speeds = along.before_at(np.array([low, high])), along.speed_at(np.array([low, high]))
    return _around(float(places[0]), float(places[1]), float(speeds.max()))


def _around(low: float, high: float, speed: float) -> tuple[int, int]:
    """First frame and number of frames to read between two places, with all frames that affect them."""
    margin = reach(speed) + 4
    first = int(np.floor(low)) - margin
    return first, int(np.ceil(high)) + margin - first


def _read_parts(parts: "list[SpanReader]", channels: int, start: int, frames: int) -> Audio:
    """The sound of all parts at these frames, crossfaded from each to the next."""
    out = np.zeros((channels, frames), np.float32)
    for part in parts:
        span = part.span
        first, last = max(start, span.after_start - span.fade), min(start + frames, span.after_stop)
        if first < last:
            block, there = part.read(first, last - first), slice(first - start, last - start)
            rise = _rise(np.arange(first, last) - span.after_start, span.fade)
            out[:, there] += (block - out[:, there]) * rise
    return out


def _rise(times: np.ndarray, fade: int) -> np.ndarray:
    """From 0 to 1 along a raised cosine over the ``fade`` frames before time 0."""
    if fade == 0:
        return np.ones(len(times), np.float32)
    return raised_cosine(np.clip((times + fade + 0.5) / (fade + 0.5), 0.0, 1.0)).astype(np.float32)
