"""Random-access noise: coloured hiss and rumble, and random events; the same seed gives the same noise.

Both are made in pieces numbered along the song, each from a generator of its own, so that a piece is the same however it is reached.
Events follow a Poisson process (S. V. Vaseghi and P. J. W. Rayner, "Detection and suppression of impulsive noise in speech
communication systems", IEE Proc. 137, 1990; S. J. Godsill and P. J. W. Rayner, "Digital Audio Restoration", 1998, chapter 5, for the
spectra of clicks); each is a damped oscillation whose pitch may rise, as that of a bubble does (K. van den Doel, "Physically based models for liquid
sounds", ACM TAP 2(4), 2005).
"""

from collections.abc import Callable
from dataclasses import dataclass
from statistics import NormalDist
from typing import Protocol, TypeVar

import numpy as np

from latespin.caches import MEGABYTE, kept
from latespin.dsp.arrays import Audio, Floats, amplitudes
from latespin.dsp.kernels import kernel

BLOCK_FRAMES, LONG = 1 << 14, 1 << 18
Drawn = TypeVar("Drawn")
FIRST = 1 << 20  # so that pieces before the song's start have numbers too


class AmbienceSource(Protocol):
    """A sound that can be read anywhere."""

    def read(self, at: int, frames: int) -> Audio:
        """Frames ``at`` to ``at + frames``, ``[2, frames]``."""
        raise NotImplementedError


class NoiseSource(AmbienceSource, Protocol):
    """A noise whose power is known beforehand."""

    def power_in(self, centres: Floats) -> Floats:
        """Mean square of a channel, on average, in third octaves around ``centres``, Hz."""
        raise NotImplementedError


class BlockSource:
    """Reads what is made piece by piece; keeps the last two."""

    def __init__(self) -> None:
        self._kept: dict[int, Audio] = {}

    def read(self, at: int, frames: int) -> Audio:
        """Frames ``at`` to ``at + frames``, ``[2, frames]``."""
        out = np.empty((2, frames), np.float32)
        done = 0
        while done < frames:
            number, inside = divmod(at + done, BLOCK_FRAMES)
            count = min(frames - done, BLOCK_FRAMES - inside)
            out[:, done : done + count] = self._block(number)[:, inside : inside + count]
            done += count
        return out

    def _block(self, number: int) -> Audio:
        if number not in self._kept:
            self._kept = dict([*self._kept.items()][-1:])
            self._kept[number] = self._make(number)
        return self._kept[number]

    def _make(self, number: int) -> Audio:
        raise NotImplementedError


def remembered(last: dict[int, Drawn], number: int, draw: Callable[[int], Drawn]) -> Drawn:
    """What was drawn for a piece, kept with that of the piece used before it. (A cache of a method would keep its object from going.)"""
    if number not in last:
        for old in list(last)[:-1]:
            del last[old]
        last[number] = draw(number)
    return last[number]


#: How a piece comes in, with equal power.
COME = np.sin(0.5 * np.pi * (np.arange(BLOCK_FRAMES) + 0.5) / BLOCK_FRAMES).astype(np.float32)

#: A spectrum as parts in a row: ``("high-pass", Hz, order)``, ``("low-pass", Hz, order)``, ``("shelf", Hz, dB above it)``.
Spectrum = tuple[tuple[str, float, float], ...]


def spectrum_at(spectrum: Spectrum, hz: Floats) -> Floats:
    """Amplitude at frequencies."""
    total = np.ones(len(hz))
    for kind, corner, value in spectrum:
        x = hz / corner
        if kind == "shelf":
            total *= np.sqrt((1.0 + 10.0 ** (value / 10.0) * x**2) / (1.0 + x**2))
        elif kind == "high-pass":
            total *= x**value / np.sqrt(1.0 + x ** (2.0 * value))
        else:
            total /= np.sqrt(1.0 + x ** (2.0 * value))
    return total


class ShapedNoise(BlockSource):
    """Gaussian noise of a spectrum, root mean square 1; likeness : correlation of both channels, 0 to 1.

    Pieces of one long noise, begun at random places, overlap with equal power, so that it never comes again.
    """

    def __init__(self, rate: int, seed: int, spectrum: Spectrum, likeness: float = 0.0) -> None:
        super().__init__()
        self._long = _long_noise(rate, seed, spectrum, likeness)
        self._spectrum = spectrum
        self._seed = seed
        self._starts: dict[int, int] = {}  # of the last pieces, which the next goes on from

    def _make(self, number: int) -> Audio:
        a, b = (remembered(self._starts, n, self._drawn) for n in (number - 1, number))
        a += BLOCK_FRAMES
        return self._long[:, a : a + BLOCK_FRAMES] * COME[::-1] + self._long[:, b : b + BLOCK_FRAMES] * COME

    def power_in(self, centres: Floats) -> Floats:
        """See :class:`NoiseSource`."""
        powers = centres * spectrum_at(self._spectrum, centres) ** 2
        return np.asarray(powers / powers.sum())

    def _drawn(self, number: int) -> int:
        return int(np.random.default_rng([self._seed, FIRST + number]).integers(0, LONG - 2 * BLOCK_FRAMES))


@kept(48 * MEGABYTE)
def _long_noise(rate: int, seed: int, spectrum: Spectrum, likeness: float) -> Audio:
    from scipy.fft import irfft  # in single precision

    rng = np.random.default_rng(seed)
    weights = spectrum_at(spectrum, np.asarray(np.fft.rfftfreq(LONG, 1.0 / rate)[1:], np.float64))
    parts = [rng.standard_normal((len(weights), 2), np.float32).view(np.complex64)[:, 0] for _ in range(3)]
    made = []
    for own in parts[:2]:
        both = np.sqrt(1.0 - likeness) * own + np.sqrt(likeness) * parts[2]
        made.append(irfft(np.concatenate(([0.0], both * weights)).astype(np.complex64)))
    sound = np.array(made, np.float32)
    return np.asarray(sound / np.sqrt(np.mean(sound**2)))


RISE_SECONDS = 0.0005  # over which an event comes in, at most
LONGEST_DECAYS = 7.0  # by then an event is 60 dB down
#: Equally likely places of a normal distribution, standard deviation 1.
POINTS = np.array([NormalDist().inv_cdf((n + 0.5) / 64) for n in range(64)])


@dataclass(frozen=True)
class EventStatistics:
    """Events of one kind: how often, and from which ranges each takes its pitch, decay, rise and level.

    per_second : on average.  hz, decay_ms : lowest and highest, spread evenly in octaves.  rise : of the pitch within a decay, ratio.
    spread_db : standard deviation of levels.  width : 0 (in the middle) to 1.
    """

    per_second: float
    hz: tuple[float, float]
    decay_ms: tuple[float, float]
    spread_db: float = 6.0
    rise: float = 0.0
    width: float = 1.0
    minnaert: bool = False  # decay follows from the pitch, as that of an air bubble in water

    @property
    def power(self) -> float:
        """Mean square of a channel: what a damped oscillation holds, as often as there is one."""
        levels = np.clip(self.spread_db * POINTS, -20.0, 2.2 * self.spread_db)
        square = float(np.mean(10.0 ** (levels / 10.0)))
        return 0.5 * self.per_second * square * float(np.mean(event_power(self.decays)))

    @property
    def decays(self) -> Floats:
        """Some decays, seconds, as they are strewn."""
        shares = (np.arange(len(POINTS)) + 0.5) / len(POINTS)
        if self.minnaert:
            pitches = self.hz[0] * (self.hz[1] / self.hz[0]) ** shares
            return 1.0 / bubble_damping(bubble_radius(pitches))
        return np.asarray(self.decay_ms[0] * (self.decay_ms[1] / self.decay_ms[0]) ** shares / 1000.0)


def event_power(decay: Floats) -> Floats:
    """The integral of the square of an event of level 1, seconds: it rises evenly over its decay, half a millisecond at most."""
    a = np.minimum(decay, RISE_SECONDS) / decay
    rising = (0.25 - (0.5 * a**2 + 0.5 * a + 0.25) * np.exp(-2.0 * a)) / a**2
    return np.asarray(0.5 * decay * (rising + 0.5 * np.exp(-2.0 * a)))


class RandomEvents(BlockSource):
    """Events strewn over time; each peaks at about 1 times its level, whose median is 1."""

    def __init__(self, rate: float, seed: int, statistics: EventStatistics) -> None:
        super().__init__()
        self._rate, self._seed, self._grains = rate, seed, statistics
        self._events: dict[int, tuple[np.ndarray, Floats]] = {}  # of the last pieces, which sound on in the next

    def _make(self, number: int) -> Audio:
        out = np.zeros((2, BLOCK_FRAMES), np.float32)
        for earlier in (1, 0):
            starts, values = remembered(self._events, number - earlier, self._drawn)
            ring(out, starts - earlier * BLOCK_FRAMES, values, self._rate)
        return out

    def power_in(self, centres: Floats) -> Floats:
        """See :class:`NoiseSource`; evenly over the octaves in which events have their pitch."""
        low, high = self._grains.hz
        inside = np.clip(np.log2(high / centres) * 3.0 + 0.5, 0.0, 1.0) * np.clip(
            np.log2(centres / low) * 3.0 + 0.5, 0.0, 1.0
        )
        return np.asarray(self._grains.power * inside / max(inside.sum(), 1e-9))

    def _drawn(self, number: int) -> tuple[np.ndarray, Floats]:
        """Where events of a piece begin, and their values."""
        g, rng = self._grains, np.random.default_rng([self._seed, FIRST + number])
        count = int(rng.poisson(g.per_second * BLOCK_FRAMES / self._rate))
        return rng.integers(0, BLOCK_FRAMES, count), self._events_of(rng, count)

    def _events_of(self, rng: np.random.Generator, count: int) -> Floats:
        """Left, right, radians a frame, decay in frames, rise of events, ``[count, 5]``."""
        g = self._grains
        hz = np.exp(rng.uniform(np.log(g.hz[0]), np.log(g.hz[1]), count))
        decay = np.exp(rng.uniform(np.log(g.decay_ms[0]), np.log(g.decay_ms[1]), count)) / 1000.0
        if g.minnaert:
            decay = 1.0 / bubble_damping(bubble_radius(hz))
        level = amplitudes(np.clip(rng.normal(0.0, g.spread_db, count), -20.0, 2.2 * g.spread_db))
        angle = np.pi / 4.0 * (1.0 + g.width * rng.uniform(-1.0, 1.0, count))
        sign = rng.choice([-1.0, 1.0], count)
        return np.stack(
            (sign * level * np.cos(angle), sign * level * np.sin(angle), 2.0 * np.pi * hz / self._rate,
             np.minimum(decay * self._rate, BLOCK_FRAMES / LONGEST_DECAYS), np.full(count, g.rise)), axis=1,
        )  # fmt: skip


class RecurringEvents(RandomEvents):
    """Events that repeat every period, as a scratch across the grooves does. ``per_second`` gives their number in a period."""

    def __init__(self, rate: float, seed: int, statistics: EventStatistics, period_seconds: float) -> None:
        super().__init__(rate, seed, statistics)
        self._period = period_seconds * rate
        count = round(statistics.per_second * period_seconds)
        rng = np.random.default_rng([seed, 3])
        self._phases = np.sort(rng.random(count))
        self._values = self._events_of(rng, count)

    def _drawn(self, number: int) -> tuple[np.ndarray, Floats]:
        """Where they are in a piece, and their values."""
        first = number * BLOCK_FRAMES
        turns = np.arange(int(first // self._period) - 1, int((first + BLOCK_FRAMES) // self._period) + 2)
        starts = np.round((turns[:, None] + self._phases) * self._period).astype(np.int64) - first
        inside = (starts >= 0) & (starts < BLOCK_FRAMES)
        return starts[inside], np.broadcast_to(self._values, (*starts.shape, self._values.shape[1]))[inside]


def bubble_radius(hz: Floats) -> Floats:
    """Radius in metres of the air bubble in water that sings at a pitch: M. Minnaert, Phil. Mag. 16, 1933."""
    return np.asarray(3.26 / hz)


def bubble_damping(radius: Floats) -> Floats:
    """Damping, 1/s, of a bubble: van den Doel 2005, equation 4."""
    return np.asarray(0.13 / radius + 0.0072 * radius**-1.5)


@kernel()
def ring(out, starts, values, rate):  # type: ignore[no-untyped-def]
    """Add damped oscillations to ``out``, stereo; what lies outside of it is left out. values : as of ``RandomEvents``, ``[count, 5]``."""
    frames = out.shape[1]
    for i in range(len(starts)):
        left, right, turn, decay, rise = values[i]
        length = int(LONGEST_DECAYS * decay) + 2
        attack = min(decay, RISE_SECONDS * rate)
        fall = np.exp(-1.0 / decay)
        envelope, phase = 1.0, 0.0
        for n in range(length):
            at = starts[i] + n
            if at >= frames:
                break
            if at >= 0:
                value = envelope * np.sin(phase) * min(1.0, (n + 1.0) / attack)
                out[0, at] += np.float32(left * value)
                out[1, at] += np.float32(right * value)
            phase += turn * (1.0 + rise * n / decay)
            envelope *= fall
