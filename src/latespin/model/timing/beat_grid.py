"""The beat grid of a track, and its corrections."""

import math
from typing import Annotated, Self

import numpy as np
from msgspec.structs import replace

from latespin.analysis.results import Beats, Reading
from latespin.dsp.arrays import Floats
from latespin.model.values import parameters as p
from latespin.model.values.parameters import ValidatedStruct

SLACK = 1e-6
LEAST_TAPS = 4
SAME_TAP = 0.25  # of the tempo by which an interval between taps may differ before a new series of taps begins


class Grid(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A tempo, beats to a bar, and the first beat of bar 1, from which beats are counted: 0 is that beat, −1 the one before.

    beats : seconds of each beat from number ``beats_from`` on where they are not evenly spaced; beyond them the tempo of the
    nearest ones goes on. Then ``first_beat_seconds`` is the one with number 0, and ``bpm`` their mean tempo.
    pinned : numbers of beats put where they are by hand. locked : not to be changed by accident.
    """

    bpm: Annotated[float, p.BPM]
    first_beat_seconds: Annotated[float, p.FIRST_BEAT] = p.FIRST_BEAT.default
    beats_per_bar: Annotated[int, p.BEATS_PER_BAR] = 4
    beats: tuple[float, ...] = ()
    beats_from: int = 0
    pinned: tuple[int, ...] = ()
    locked: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.beats and (
            len(self.beats) < 2 or not np.all(np.diff(self.beats) > 0) or not math.isfinite(sum(self.beats))
        ):
            raise ValueError("beats must be at least two, in seconds, each later than the one before")

    @property
    def beat_seconds(self) -> float:
        """The mean time between beats."""
        return 60.0 / self.bpm

    @property
    def bar_seconds(self) -> float:
        """The mean length of a bar in the track."""
        return self.beat_seconds * self.beats_per_bar

    def seconds_of(self, number: Floats | float) -> Floats:
        """Times of beats, by number; parts of a beat are evenly spaced."""
        number = np.asarray(number, float)
        if not self.beats:
            return np.asarray(self.first_beat_seconds + number * self.beat_seconds)
        place = number - self.beats_from
        times, last = np.array(self.beats), len(self.beats) - 1
        inside = np.interp(place, np.arange(last + 1), times)
        below = times[0] + place * self._end_interval(0)
        above = times[-1] + (place - last) * self._end_interval(-1)
        return np.asarray(np.where(place < 0, below, np.where(place > last, above, inside)))

    def number_at(self, seconds: Floats | float) -> Floats:
        """The number of the beat at a time, with fractions: the inverse of :meth:`seconds_of`."""
        seconds = np.asarray(seconds, float)
        if not self.beats:
            return np.asarray((seconds - self.first_beat_seconds) / self.beat_seconds)
        times, last = np.array(self.beats), len(self.beats) - 1
        inside = np.interp(seconds, times, np.arange(last + 1))
        below = (seconds - times[0]) / self._end_interval(0)
        above = last + (seconds - times[-1]) / self._end_interval(-1)
        within = np.where(seconds < times[0], below, np.where(seconds > times[-1], above, inside))
        return np.asarray(within + self.beats_from)

    def numbers_between(self, start: float, stop: float) -> Floats:
        """The whole numbers of the beats from ``start`` to ``stop`` (seconds)."""
        first, last = self.number_at(np.array([start - SLACK, stop + SLACK]))
        return np.arange(math.ceil(first), math.floor(last) + 1, dtype=float)

    def bars_between(self, start: float, stop: float, bars: int = 1) -> Floats:
        """Seconds at which every ``bars``-th bar, counted from bar 1, begins."""
        numbers = self.numbers_between(start, stop)
        return self.seconds_of(numbers[numbers % (bars * self.beats_per_bar) == 0])

    def bpm_at(self, seconds: float) -> float:
        """The tempo at a place, from the four beats around it."""
        number = float(self.number_at(seconds))
        span = self.seconds_of(np.array([number - 2.0, number + 2.0]))
        return 240.0 / float(span[1] - span[0])

    def words_at(self, seconds: float) -> str:
        """``17.3``: bar and beat; there is no bar 0, what comes before bar 1 is bar −1."""
        return self.words_of(math.floor(float(self.number_at(seconds)) + 1e-4), beats=True)

    def words_of(self, number: int, *, beats: bool) -> str:
        """The bar of a beat's number, and the beat in it."""
        bar, beat = divmod(number, self.beats_per_bar)
        words = f"{bar + 1}" if bar >= 0 else f"−{-bar}"
        return f"{words}.{beat + 1}" if beats else words

    # -- corrections by hand -------------------------------------------------------------------------------

    def steady(self, bpm: float) -> Self:
        """Evenly spaced at a tempo, with the first beat kept."""
        return replace(self, bpm=bpm, beats=(), beats_from=0, pinned=())

    def recounted(self, beats: int, instead_of: int) -> Self:
        """The grid with ``beats`` beats for every ``instead_of`` beats, counted from bar 1: 2 and 1 double the tempo, 2 and 3 make it two thirds.

        Raises OutOfRange beyond the limits of the tempo.
        """
        bpm = self.bpm * beats / instead_of
        if not self.beats:
            return replace(self, bpm=bpm)
        first = -(-self.beats_from * beats // instead_of)
        last = (self.beats_from + len(self.beats) - 1) * beats // instead_of
        places = np.arange(first, last + 1) * instead_of / beats - self.beats_from
        times = np.interp(places, np.arange(len(self.beats)), self.beats)
        return replace(self, bpm=bpm, beats=_kept(times), beats_from=first, pinned=())

    def doubled(self) -> Self:
        """The grid at double tempo."""
        return self.recounted(2, 1)

    def halved(self) -> Self:
        """The grid at half tempo, with the even beats counted from bar 1."""
        return self.recounted(1, 2)

    def shifted(self, seconds: float) -> Self:
        """All beats later (earlier, if negative) by a time."""
        first = round(self.first_beat_seconds + seconds, 6)
        return replace(self, first_beat_seconds=first, beats=_kept(np.array(self.beats) + seconds))

    def counted_from(self, number: int) -> Self:
        """Bar 1 begins with another beat."""
        first = round(float(self.seconds_of(number)), 6)
        pinned = tuple(pin - number for pin in self.pinned)
        beats_from = self.beats_from - number if self.beats else 0
        return replace(self, first_beat_seconds=first, beats_from=beats_from, pinned=pinned)

    def begun_at(self, seconds: float) -> Self:
        """Bar 1 is here: at the beat within a quarter of one, else all beats move so that one is."""
        number = float(self.number_at(seconds))
        nearest = round(number)
        if abs(number - nearest) <= 0.25:
            return self.counted_from(nearest)
        return self.shifted(seconds - float(self.seconds_of(nearest))).counted_from(nearest)

    def with_beat_at(self, number: int, seconds: float, song_seconds: float) -> Self:
        """One beat put elsewhere, and pinned there.

        Beats up to the next pinned ones give way evenly; beyond the last pinned one all move along. Bar 1 counts as pinned.
        """
        start = min(0.0, self.first_beat_seconds)
        numbers = self.numbers_between(start, song_seconds)
        times = self.seconds_of(numbers)
        pins = sorted({0, *self.pinned} - {number})
        before = max((pin for pin in pins if pin < number), default=None)
        after = min((pin for pin in pins if pin > number), default=None)
        least = 0.02
        low = float(self.seconds_of(before)) + least * (number - before) if before is not None else -math.inf
        high = float(self.seconds_of(after)) - least * (after - number) if after is not None else math.inf
        away = min(max(seconds, low), high) - float(self.seconds_of(number))
        known = [(pin, 0.0) for pin in pins] + [(number, away)]
        known.sort()
        moved = times + np.interp(numbers, [pin for pin, _ in known], [by for _, by in known])
        kept = np.unique(np.clip(moved, start, None))
        if len(kept) != len(moved):
            moved, numbers = moved[moved > start], numbers[moved > start]
        return replace(
            self, beats=_kept(moved), beats_from=int(numbers[0]), pinned=tuple(sorted({*self.pinned, number})),
            bpm=self._mean_bpm(moved), first_beat_seconds=round(float(np.interp(0, numbers, moved)), 6),
        )  # fmt: skip

    def _mean_bpm(self, times: Floats) -> float:
        return p.BPM.clamp(60.0 * (len(times) - 1) / float(times[-1] - times[0]))

    def _end_interval(self, end: int) -> float:
        """The mean of the outermost intervals at an end (0 or −1)."""
        times = self.beats[:9] if end == 0 else self.beats[-9:]
        return (times[-1] - times[0]) / (len(times) - 1)


def _kept(times: Floats) -> tuple[float, ...]:
    return tuple(np.round(times, 6).tolist())


def grid_of(reading: Reading) -> Grid | None:
    """The grid that was read; None where no steady beat was found."""
    return grid_of_beats(reading.beats) if reading.beats else None


def grid_of_beats(read: Beats) -> Grid:
    """The grid of beats that were read."""
    first = read.times[read.bar_one]
    bpm = p.BPM.clamp(read.bpm)
    if read.steady:
        return Grid(bpm=bpm, first_beat_seconds=first, beats_per_bar=read.beats_per_bar)
    return Grid(
        bpm=bpm, first_beat_seconds=first, beats_per_bar=read.beats_per_bar, beats=read.times, beats_from=-read.bar_one
    )


def last_series(taps: list[float]) -> list[float]:
    """The taps (seconds) that belong together: from the end back to where a pause or another tempo lies."""
    series = taps[-2:]
    for tap in reversed(taps[:-2]):
        mean = (series[-1] - series[0]) / (len(series) - 1)
        if not (1.0 - 2.0 * SAME_TAP) * mean < series[0] - tap < (1.0 + 2.0 * SAME_TAP) * mean:
            break
        series.insert(0, tap)
    return series


def tapped(taps: list[float], beats_per_bar: int, grid: Grid | None = None) -> Grid | None:
    """The steady grid nearest to taps on beats (seconds in the track), bars beginning with the first of them; None for too few.

    Intervals and phase are fitted together by least squares. With a grid at nearly the tapped tempo, only its phase is taken from the taps.
    """
    series = last_series(taps)
    if len(series) < LEAST_TAPS:
        return None
    slope, start = np.polyfit(np.arange(len(series)), series, 1)
    bpm = p.BPM.clamp(round(60.0 / float(slope), 4))
    if grid is not None and not grid.beats and abs(math.log(bpm / grid.bpm)) < 0.02:
        bpm = grid.bpm
        start = float(np.mean(np.array(series) - np.arange(len(series)) * 60.0 / bpm))
    made = Grid(bpm=bpm, beats_per_bar=beats_per_bar)
    first = float(start) % made.bar_seconds
    return replace(made, first_beat_seconds=round(first, 6))
