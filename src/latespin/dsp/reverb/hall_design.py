"""The design of a hall: delay lengths, absorption shelves, early reflections and mix.

The network itself, and the sources of both, are in ``hall.py``.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats, check_range

LINES = 16
OCTAVES = (125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0)
LOW_CORNERS_HZ, HIGH_CORNERS_HZ = (150.0, 220.0, 320.0, 460.0), (1500.0, 2200.0, 3200.0, 4600.0, 6600.0)
EARLY_TAPS, EARLY_SHARE = 48, 0.28  # how many to each channel, and how much of the wet sound's power they are
EARLY_FIRST_MS, EARLY_LAST_MS = 1.5, (50.0, 110.0)  # the last one from a closet to a cathedral
DIFFUSER_MS = (4.77, 3.59, 12.73, 9.31)
MODULATION_MS = 0.34  # the farthest a line sways
TAIL_DB, WARM_UP_DB = 70.0, 80.0
SHORTEST_MS, LONGEST_MS, SPREAD = 28.0, 52.0, 2.3


@dataclass(frozen=True)
class HallSettings:
    """What makes a hall.

    decay_seconds : 0.1 to 20, broadband T30.  size : 0 (closet) to 1 (cathedral).
    pre_delay_seconds : 0 to 0.5.  tone_hz : 500 to 20000, where the wet sound's highs begin to go.
    width : 0 (mono) to 1 (as wide as it gets).  amount : 0 (dry, bit for bit) to 1 (wet only), equal power.
    lows, highs : 0.2 to 2, decay at 125 Hz and at 8 kHz over that at 1 kHz; between them in proportion to octaves.
    low_cut_hz : 20 to 1000, below it the wet sound is thinned.  duck_db : 0 to 24, by how much it gives way to a loud dry one.
    modulation : 0 to 1, how far the lines sway.
    """

    decay_seconds: float
    size: float
    pre_delay_seconds: float
    tone_hz: float
    width: float
    amount: float
    lows: float = 1.0
    highs: float = 0.6
    low_cut_hz: float = 70.0
    duck_db: float = 0.0
    modulation: float = 0.35

    def __post_init__(self) -> None:
        check_range("decay", self.decay_seconds, 0.1, 20.0, "s")
        check_range("size", self.size, 0.0, 1.0)
        check_range("pre-delay", self.pre_delay_seconds, 0.0, 0.5, "s")
        check_range("tone", self.tone_hz, 500.0, 20_000.0, "Hz")
        check_range("width", self.width, 0.0, 1.0)
        check_range("amount", self.amount, 0.0, 1.0)
        check_range("lows", self.lows, 0.2, 2.0)
        check_range("highs", self.highs, 0.2, 2.0)
        check_range("low cut", self.low_cut_hz, 20.0, 1000.0, "Hz")
        check_range("duck", self.duck_db, 0.0, 24.0, "dB")
        check_range("modulation", self.modulation, 0.0, 1.0)


#: Where what can be steered lies in one row of numbers.
SHELVES, DELAYS = slice(0, 6 * LINES), slice(6 * LINES, 7 * LINES)
INPUT, MIX = slice(7 * LINES, 7 * LINES + 9), slice(7 * LINES + 9, 7 * LINES + 14)
SWING, DUCK = 7 * LINES + 14, 7 * LINES + 15


@lru_cache(maxsize=64)
def steered(settings: HallSettings, rate: int) -> Floats:
    """All that can be steered: shelves, lengths of the lines, pre-delay and input filter, mix, sway, duck. Not to be changed."""
    delays = line_lengths(rate, settings.size)
    middle = middle_decay_seconds(settings, rate)
    shelves = _shelves(delays, rate, middle, _fitted(round(settings.lows, 2), round(settings.highs, 2), rate))
    made = np.concatenate(
        (
            shelves.ravel(), delays, [round(settings.pre_delay_seconds * rate)],
            _input_filter(settings.tone_hz, settings.low_cut_hz, rate), _mix(settings, delays, rate, middle),
            [settings.modulation * MODULATION_MS * rate / 1000, settings.duck_db],
        )
    )  # fmt: skip
    made.setflags(write=False)
    return made


def fall_frames(rate: int, settings: HallSettings, fall_db: float) -> int:
    """How long the slowest part of the wet sound takes to fall by ``fall_db``; 0 where nothing of it is heard."""
    if settings.amount == 0.0:
        return 0
    longest = float(line_lengths(rate, settings.size).max()) / rate + 1.07 * sum(DIFFUSER_MS) / 1000.0
    decay = float(octave_decays(settings, rate).max()) * fall_db / 60.0
    return round((settings.pre_delay_seconds + 2.0 * longest + decay) * rate)


@lru_cache(maxsize=64)
def line_lengths(rate: float, size: float) -> np.ndarray:
    """Lengths ``[16]`` in frames, all different primes, spread evenly on a logarithmic scale. Not to be changed."""
    shortest = (SHORTEST_MS + (LONGEST_MS - SHORTEST_MS) * size) * rate / 1000.0
    wanted = shortest * SPREAD ** (np.arange(LINES) / (LINES - 1))
    lengths: list[int] = []
    for length in wanted:
        n = max(int(length), lengths[-1] + 1 if lengths else 32)
        while any(n % d == 0 for d in range(2, int(n**0.5) + 1)):
            n += 1
        lengths.append(n)
    order = [0, 11, 5, 14, 2, 9, 7, 12, 4, 15, 1, 10, 6, 13, 3, 8]
    result = np.array([lengths[i] for i in order])
    result.setflags(write=False)
    return result


def octave_decays(settings: HallSettings, rate: float) -> Floats:
    """The decay times, seconds, asked for in the octaves from 125 Hz to 8 kHz."""
    return middle_decay_seconds(settings, rate) * _shape(np.array(OCTAVES), settings.lows, settings.highs)


def middle_decay_seconds(settings: HallSettings, rate: float) -> float:
    """The decay time at 1 kHz at which the broadband T30 is the time asked for, by corners rounded to a twenty-fourth of an octave."""
    corners = (float(2.0 ** (round(np.log2(hz) * 24.0) / 24.0)) for hz in (settings.tone_hz, settings.low_cut_hz))
    return settings.decay_seconds / _broadband_t30(*corners, round(settings.lows, 2), round(settings.highs, 2), rate)


def _shape(f: Floats, lows: float, highs: float) -> Floats:
    """Decay times over that at 1 kHz: straight on logarithmic axes from 125 Hz to 1 kHz and on to 8 kHz, level beyond."""
    octaves = np.clip(np.log2(f / 1000.0), -3.0, 3.0) / 3.0
    return np.where(octaves < 0.0, lows**-octaves, highs**octaves)


@lru_cache(maxsize=1024)
def _broadband_t30(tone_hz: float, low_cut_hz: float, lows: float, highs: float, rate: float) -> float:
    """Broadband T30 of a hall whose middle decays in one second; all times scale together.

    The energy decay curve of the whole band is the integral of the decays of all frequencies, each weighted
    with the energy it starts with; its T30 is read from −5 to −35 dB (ISO 3382-1, reverse integration after
    M. R. Schroeder, JASA 37, 1965).
    """
    f = np.linspace(20.0, rate / 2.0 - 1.0, 240)
    decay = 1.0 / np.maximum(0.05, _rates(f, _fitted(lows, highs, rate), rate))
    energy = _input_energy(f, tone_hz, low_cut_hz, rate)
    t = np.linspace(0.0, 1.2 * float(decay.max()), 240)
    curve = (energy * decay) @ np.exp(-np.log(1e6) * t[None, :] / decay[:, None])
    level = 10.0 * np.log10(curve / curve[0])
    span = (level <= -5.0) & (level >= -35.0)
    slope = np.polyfit(t[span], level[span], 1)[0]
    return float(-60.0 / slope)


@lru_cache(maxsize=1024)
def _fitted(lows: float, highs: float, rate: float) -> tuple[float, float, float, float, float]:
    """Corners of both shelves (Hz), and the decay rates of the middle, of the low shelf and of the high one on top, 1 kHz being 1."""
    f = np.array([octave for octave in OCTAVES if octave < 0.45 * rate])
    wanted = 1.0 / _shape(f, lows, highs)
    best, least = (0.0, 0.0, 1.0, 0.0, 0.0), np.inf
    for low in LOW_CORNERS_HZ:
        for high in HIGH_CORNERS_HZ:
            columns = np.stack((np.ones(len(f)), _low_share(f, low, rate), 1.0 - _low_share(f, high, rate)), axis=1)
            gains = np.linalg.lstsq(columns / wanted[:, None], np.ones(len(f)), rcond=None)[0]
            error = float(np.max(np.abs(columns @ gains / wanted - 1.0)))
            if error < least:
                middle, below, above = gains.tolist()
                best, least = (low, high, middle, below, above), error
    return best


def _low_share(f: Floats, corner_hz: float, rate: float) -> Floats:
    """How much of a small first-order shelf's gain in dB there is at each frequency: 1 far below the corner, 0 far above."""
    x = np.tan(np.pi * np.minimum(f, 0.4999 * rate) / rate) / np.tan(np.pi * min(corner_hz, 0.45 * rate) / rate)
    return np.asarray(1.0 / (1.0 + x * x))


def _rates(f: Floats, fitted: tuple[float, float, float, float, float], rate: float) -> Floats:
    """Decay rates at frequencies, that of 1 kHz being about 1."""
    low, high, middle, below, above = fitted
    return middle + below * _low_share(f, low, rate) + above * (1.0 - _low_share(f, high, rate))


def _shelves(delays: np.ndarray, rate: float, decay: float, fitted: tuple[float, float, float, float, float]) -> Audio:
    """Two first-order shelves ``[16, 6]`` as b0 b1 a1 twice, the loss of the middle in the first."""
    low, high, middle, below, above = fitted
    loss = delays / (decay * rate)  # of 60 dB
    gain = 10.0 ** (-3.0 * loss * middle)
    first = _shelf(np.tan(np.pi * low / rate), 10.0 ** (-3.0 * loss * below), np.ones(len(delays)))
    second = _shelf(np.tan(np.pi * min(high, 0.45 * rate) / rate), np.ones(len(delays)), 10.0 ** (-3.0 * loss * above))
    first[:2] *= gain
    return np.concatenate((first, second)).T.astype(np.float32)


def _shelf(corner: float, low: Floats, high: Floats) -> Floats:
    """b0 b1 a1 ``[3, n]`` of shelves with gains below and above a corner at which they are halfway in dB."""
    zero, pole = corner * np.sqrt(low / high), corner * np.sqrt(high / low)
    return np.stack((high * (1 + zero) / (1 + pole), high * (zero - 1) / (1 + pole), (pole - 1) / (1 + pole)))


@lru_cache(maxsize=32)
def early_taps(rate: float, size: float) -> tuple[np.ndarray, Audio]:
    """Delays ``[2, taps]`` in frames, and gains ``[2, taps, 2]`` by the channel they come from, their power 1. Not to be changed."""
    rng = np.random.default_rng(1961)
    last = EARLY_LAST_MS[0] + (EARLY_LAST_MS[1] - EARLY_LAST_MS[0]) * size
    edges = np.linspace(EARLY_FIRST_MS, last, EARLY_TAPS + 1)
    ms = edges[:-1] + rng.uniform(0.0, 1.0, (2, EARLY_TAPS)) * np.diff(edges)
    strength = (ms / EARLY_FIRST_MS) ** -0.35 * rng.choice([-1.0, 1.0], ms.shape)
    own = rng.uniform(0.2, 1.0, ms.shape)
    gains = np.stack((strength * own, strength * np.sqrt(1.0 - own * own) * rng.choice([-1.0, 1.0], ms.shape)), axis=2)
    gains[1] = gains[1, :, ::-1]
    gains /= np.sqrt(np.sum(gains**2, axis=(1, 2), keepdims=True))
    taps = np.maximum(1, np.round(ms * rate / 1000.0)).astype(np.int64)
    return taps, gains.astype(np.float32)


def _input_filter(tone_hz: float, low_cut_hz: float, rate: float) -> Floats:
    """Second-order Butterworth low-pass and first-order high-pass: b0 b1 b2 a1 a2 | b0 b1 a1."""
    k = np.tan(np.pi * min(tone_hz, 0.45 * rate) / rate)
    norm = 1.0 / (1.0 + np.sqrt(2.0) * k + k * k)
    low_pass = [
        k * k * norm,
        2 * k * k * norm,
        k * k * norm,
        2 * (k * k - 1) * norm,
        (1 - np.sqrt(2.0) * k + k * k) * norm,
    ]
    h = np.tan(np.pi * low_cut_hz / rate)
    return np.array([*low_pass, 1.0 / (1.0 + h), -1.0 / (1.0 + h), (h - 1.0) / (h + 1.0)])


def _input_energy(f: Floats, tone_hz: float, low_cut_hz: float, rate: float) -> Floats:
    """Squared magnitude of the input filter at each frequency."""
    b0, b1, b2, a1, a2, h0, h1, ha = _input_filter(tone_hz, low_cut_hz, rate)
    z = np.exp(-2j * np.pi * f / rate)
    low_pass = (b0 + b1 * z + b2 * z * z) / (1.0 + a1 * z + a2 * z * z)
    high_pass = (h0 + h1 * z) / (1.0 + ha * z)
    return np.asarray(np.abs(low_pass * high_pass) ** 2)


def _mix(settings: HallSettings, delays: np.ndarray, rate: float, middle: float) -> Audio:
    """Gains: dry, late mid, late side, early mid, early side. At amount 1 the wet sound has the power of a steady dry one.

    Energy given to lossless mixing returns 1/(1 − g²) times over, g² being the mean loss of a pass.
    """
    kept = float(np.mean(10.0 ** (-6.0 * delays / (middle * rate))))
    wet = np.sin(settings.amount * np.pi / 2.0) * np.sqrt(2.0 / (1.0 + settings.width**2))
    late = wet * np.sqrt((1.0 - EARLY_SHARE) * (1.0 - kept) / (2.0 * kept))
    early = wet * np.sqrt(EARLY_SHARE)
    dry = np.cos(settings.amount * np.pi / 2.0)
    return np.array([dry, late, late * settings.width, early, early * settings.width], np.float32)


def wet_power(settings: HallSettings, hz: Floats, rate: float) -> Floats:
    """The power gain of the wet sound alone at frequencies, for a steady sound."""
    return _input_energy(hz, settings.tone_hz, settings.low_cut_hz, rate)
