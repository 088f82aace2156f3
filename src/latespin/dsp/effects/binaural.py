"""Binaural panning of the song's middle around the head, for headphones.

Each frame is filtered by the pair of ears for the place it has reached, between the two nearest of 360 along the way, so that there is no
step and no comb. Bass stays in the middle (fourth-order crossover, S. Linkwitz, JAES 24(1), 1976); what differs between the channels stays where
it is, a little quieter; a few reflections (velvet noise) put it outside of the head.

mid ─ crossover ┬ high ─ two ears at this place ─┬─ + ─►       side ─ delay, phase of the crossover ─ + ─►
                │        └ reflections ──────────┘
                └ low ── delay ──────────────────── +
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from latespin.caches import MEGABYTE, kept
from latespin.dsp.arrays import Audio, Floats, mid_and_side
from latespin.dsp.control.automation import Automation, crossfade_in
from latespin.dsp.control.delay import Delay
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.effects.hrtf import delay_frames, sphere_pairs
from latespin.dsp.filters.band_sums import band_sums
from latespin.dsp.filters.cascade import FilterCascade, high_pass, low_pass
from latespin.dsp.filters.fir import add_correlation
from latespin.dsp.kernels import kernel

STEPS = 360  # places along the way
STRENGTHS = 32  # steps of the amount between which tables are mixed
RISE_STEP = 5.0  # degrees between which they are where the way's rise changes
REFLECTIONS, FIRST_MS, LAST_MS = 36, 7.0, 75.0
ROOM_GAIN, ROOM_HIGH_HZ = 0.5, 6_500.0
SIDE_GAIN = 0.7
WARM_UP_SECONDS = 0.3

#: Filters ``[STEPS, 2, taps]`` along the way at a strength 0 to 1 and how far it rises, degrees; from ahead to the right, behind and the left.
Tables = Callable[[float, float], Audio]


@dataclass(frozen=True)
class BinauralSettings:
    """turns : how many times round at frames of the song (backwards where it falls).  rises : degrees, at frames of it.

    bass_hz : below it nothing moves.  distance_m : 0.5 to 4, the direct sound against the room.  room : 0 to 1.
    """

    turns: Callable[[Floats], Floats]
    rises: Automation
    bass_hz: float
    distance_m: float
    room: float


class BinauralPanner:
    """A stream of stereo blocks, ``latency`` frames late."""

    def __init__(self, rate: int, settings: BinauralSettings, tables: Tables) -> None:
        self._turns, self._rises, self._tables = settings.turns, settings.rises, tables
        self._taps = tables(1.0, settings.rises.point(0)).shape[2]
        self.latency = delay_frames(rate)
        self._delays, self._gains = _reflections(rate)
        longest = int(self._delays.max())
        self.warm_up_frames = round(WARM_UP_SECONDS * rate) + longest + self._taps
        self._rate = rate
        self._low = FilterCascade(2 * low_pass(settings.bass_hz, rate))
        self._high = FilterCascade(2 * high_pass(settings.bass_hz, rate))
        self._soft = FilterCascade(low_pass(ROOM_HIGH_HZ, rate), channels=1)
        self._heard = np.zeros((1, self._taps - 1), np.float32)
        self._room = np.zeros((1, longest), np.float32)
        self._delay_line = Delay(5, self.latency)
        self._direct, self._share = SmoothedValue(settings.distance_m**-0.5), SmoothedValue(settings.room)

    def set_target(self, settings: BinauralSettings) -> None:
        """Go to another distance, room and corner of the bass; the turns and rises stay those it began with."""
        self._direct.to(settings.distance_m**-0.5)
        self._share.to(settings.room)
        self._low.set_target(2 * low_pass(settings.bass_hz, self._rate))
        self._high.set_target(2 * high_pass(settings.bass_hz, self._rate))

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block, whose first frame comes out as frame ``at`` of the song."""
        frames = block.shape[1]
        amounts = amount.at(at, frames)
        split = np.stack(mid_and_side(block))
        low, high = self._low.process(split), self._high.process(split)
        late = self._delay_line.process(np.stack((*block, low[0], low[1] + high[1], high[0])))
        dry, bass, side = late[:2], late[2], late[3]
        out = self._ears(high[:1], at, amount, amounts)
        out *= (1.0 - amounts * (1.0 - self._direct.over(frames))).astype(np.float32)
        out += self._reflected(late[4:5]) * (ROOM_GAIN * self._share.over(frames) * amounts).astype(np.float32)
        side = side * (1.0 - amounts * (1.0 - SIDE_GAIN)).astype(np.float32)
        out += np.stack((bass + side, bass - side))
        return crossfade_in(dry, out, amounts)

    def _ears(self, high: Audio, at: int, amount: Automation, amounts: Floats) -> Audio:
        frames = high.shape[1]
        heard = np.concatenate((self._heard, high), axis=1)
        self._heard = heard[:, frames:].copy()
        places = (self._turns(np.arange(at, at + frames, dtype=np.float64)) % 1.0) * STEPS

        def heard_at(rise: float, part: slice) -> Audio:
            source = heard[0, part.start : part.stop + self._taps - 1]
            if amount.steady is not None:
                return _filter(source, self._tables(amount.steady, rise), places[part])

            def at_strength(strength: float, within: slice) -> Audio:
                sound = source[within.start : within.stop + self._taps - 1]
                return _filter(sound, self._tables(strength, rise), places[part][within])

            return _between(np.clip(amounts[part], 0.0, 1.0), 1.0 / STRENGTHS, at_strength)

        if self._rises.steady is not None:
            return heard_at(self._rises.steady, slice(0, frames))
        return _between(self._rises.at(at, frames), RISE_STEP, heard_at)

    def _reflected(self, high: Audio) -> Audio:
        heard = np.concatenate((self._room, self._soft.process(high)), axis=1)
        self._room = heard[:, high.shape[1] :].copy()
        out = np.zeros((2, high.shape[1]), np.float32)
        _reflect(heard[0], self._delays, self._gains, out)
        return out


@kept(24 * MEGABYTE)
def sphere_table(rate: int, elevation_degrees: float, strength: float) -> Audio:
    """Filters of the spherical head along a way that rises to an elevation on the right and falls as far on the left."""
    azimuth, elevation = way(elevation_degrees)
    table = sphere_pairs(azimuth, elevation, rate, strength)
    table.setflags(write=False)
    return table


def evened(table: Audio, power: Floats, edges_hz: Floats, rate: int) -> Audio:
    """Filters ``[STEPS, 2, taps]`` scaled so that every place along the way is as loud as any other for a song with ``power`` between edges."""
    size = 4 * table.shape[2]
    heard = np.sum(np.abs(np.fft.rfft(table, size, axis=2)) ** 2, axis=1)
    edges = edges_hz * size / rate
    loud = band_sums(heard, edges) / np.diff(edges) @ power
    even = np.asarray(table * np.sqrt(loud.mean() / loud)[:, None, None], np.float32)
    even.setflags(write=False)
    return even


def way(elevation_degrees: float) -> tuple[Floats, Floats]:
    """Azimuth and elevation, radians, of the places along the way."""
    azimuth = 2.0 * np.pi * np.arange(STEPS) / STEPS
    return azimuth, np.deg2rad(elevation_degrees) * np.sin(azimuth)


def _reflections(rate: int) -> tuple[np.ndarray, Audio]:
    """Delays and gains ``[2, taps]``, their power 1."""
    rng = np.random.default_rng(2006)
    edges = np.geomspace(FIRST_MS, LAST_MS, REFLECTIONS + 1)
    ms = edges[:-1] + rng.uniform(0.0, 1.0, (2, REFLECTIONS)) * np.diff(edges)
    gains = rng.choice([-1.0, 1.0], ms.shape) * 10.0 ** (-ms / 60.0)
    gains /= np.sqrt(np.sum(gains**2, axis=1, keepdims=True))
    return np.round(ms * rate / 1000.0).astype(np.int64), gains.astype(np.float32)


def _between(values: Floats, step: float, heard_at: Callable[[float, slice], Audio]) -> Audio:
    """What is heard where a value changes from frame to frame: mixed of what would be at the multiples of ``step`` around it."""
    out = np.zeros((2, len(values)), np.float32)
    lower = np.floor(values / step)
    for number in np.unique(lower).tolist():
        mine = np.flatnonzero(lower == number)
        part = slice(int(mine[0]), int(mine[-1]) + 1)
        weight = (values[part] / step - number).astype(np.float32)
        made = heard_at(number * step, part)
        if np.any(weight):
            made = made + weight * (heard_at((number + 1.0) * step, part) - made)
        out[:, part] += (lower[part] == number).astype(np.float32) * made
    return out


def _filter(heard: Audio, table: Audio, places: Floats) -> Audio:
    out = np.empty((2, len(places)), np.float32)
    _convolve(np.ascontiguousarray(heard), table, places, out)
    return out


@kernel(fastmath=True)
def _convolve(heard, table, places, out):  # type: ignore[no-untyped-def]
    """Each frame by the filters between the two nearest places; ``heard`` begins ``taps − 1`` frames earlier.

    Frames in a row between the same two places are done together.
    """
    steps, _, count = table.shape
    frames = out.shape[1]
    start = 0
    while start < frames:
        whole = int(places[start])
        stop = start + 1
        while stop < frames and int(places[stop]) == whole:
            stop += 1
        part = heard[start : stop + count - 1]
        for ear in range(2):
            near, far = np.zeros(stop - start, np.float32), np.zeros(stop - start, np.float32)
            add_correlation(part, table[whole % steps, ear, ::-1].copy(), near)
            add_correlation(part, table[(whole + 1) % steps, ear, ::-1].copy(), far)
            for n in range(stop - start):
                out[ear, start + n] = near[n] + np.float32(places[start + n] - whole) * (far[n] - near[n])
        start = stop


@kernel(fastmath=True)
def _reflect(heard, delays, gains, out):  # type: ignore[no-untyped-def]
    longest = len(heard) - out.shape[1]
    for ear in range(2):
        row = out[ear]
        for k in range(delays.shape[1]):
            start = longest - delays[ear, k]
            gain = gains[ear, k]
            part = heard[start : start + out.shape[1]]
            for n in range(len(row)):
                row[n] += gain * part[n]
