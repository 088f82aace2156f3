"""A hall: a feedback delay network of sixteen lines whose decay time is the one asked for.

* Network with an orthogonal (Hadamard) feedback matrix: J.-M. Jot and A. Chaigne, "Digital delay
  networks for designing artificial reverberators", 90th AES Convention, 1991; M. R. Schroeder, "Natural
  sounding artificial reverberation", JAES 10(3), 1962, for the allpass diffusers in front.
* Decay by frequency: two first-order shelves in each line whose gains in dB are proportional to the line's
  length, so that all lines decay alike at every frequency (Jot and Chaigne 1991, section 3; shelves made by the
  bilinear transform). Corners and gains are fitted to the decays asked for in octaves, by least squares on decay rates
  (after S. J. Schlecht and E. A. P. Habets, "Accurate reverberation time control in feedback delay networks", DAFx-17).
* Lows and highs decay sooner or later than the middle. What is then measured over the whole band is worked out beforehand
  from the integral of all decays, and all of them scaled so that the broadband T30 (ISO 3382-1) is the time asked for.
* Early reflections: sparse taps of alternating sign on the diffused input, each channel its own, which fill the time until the
  lines answer densely (velvet noise: H. Järveläinen and M. Karjalainen, "Reverberation modeling using velvet noise", AES 30th
  Conference, 2007).
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numba import njit

from latespin.dsp.types import Audio, Floats, check_audio, check_range

LINES = 16
OCTAVES = (125.0, 250.0, 500.0, 1000.0, 2000.0, 4000.0, 8000.0)
LOW_CORNERS_HZ, HIGH_CORNERS_HZ = (150.0, 220.0, 320.0, 460.0), (1500.0, 2200.0, 3200.0, 4600.0, 6600.0)
EARLY_TAPS, EARLY_SHARE = 48, 0.28  # how many to each channel, and how much of the wet sound's power they are
EARLY_FIRST_MS, EARLY_LAST_MS = 1.5, (50.0, 110.0)  # the last one from a closet to a cathedral
DUCK_ATTACK_SECONDS, DUCK_RELEASE_SECONDS = 0.02, 0.12
DUCK_FROM_DB, DUCK_TO_DB = -45.0, -15.0  # level of the dry sound between which the wet one gives way
DIFFUSER_MS = (4.77, 3.59, 12.73, 9.31)
DIFFUSER_GAIN = 0.62
MODULATION_MS = 0.34  # the farthest a line sways
PIECE = 64
TAIL_DB, WARM_UP_DB = 70.0, 80.0
SHORTEST_MS, LONGEST_MS, SPREAD = 19.0, 52.0, 2.3


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


class Hall:
    """A streaming hall for stereo blocks of any size; no latency.

    start_frame : the place in the song of the first frame to come, which sets the slow modulation, so that
    a hall begun in the middle (and warmed up for ``warm_up_frames``) sounds as one begun at the start.
    """

    latency = 0

    def __init__(self, rate: int, settings: HallSettings, start_frame: int = 0) -> None:
        self._settings, self._rate = settings, rate
        delays = line_lengths(rate, settings.size)
        middle = middle_decay_seconds(settings, rate)
        self._shelves = _shelves(delays, rate, middle, _fitted(settings.lows, settings.highs, rate))
        self._delays = delays
        pre_delay = round(settings.pre_delay_seconds * rate)
        self._lines = np.zeros((LINES, _power_of_two(int(delays.max()) + 4096)), np.float32)
        self._shelf_state = np.zeros((LINES, 4), np.float32)
        self._input = np.zeros((2, _power_of_two(pre_delay + 4096)), np.float32)
        self._pre_delay = pre_delay
        self._filters = _input_filter(settings.tone_hz, settings.low_cut_hz, rate)
        self._filter_state = np.zeros((2, 6))
        lengths = np.array([max(2, round(ms * rate / 1000)) for ms in DIFFUSER_MS])
        self._diffuser_lengths = np.stack((lengths, np.round(lengths * 1.07).astype(np.int64)))
        self._diffusers = np.zeros((2, len(DIFFUSER_MS), int(self._diffuser_lengths.max()) + 1), np.float32)
        self._swing = np.float32(settings.modulation * MODULATION_MS * rate / 1000)
        self._speeds = 2.0 * np.pi * np.linspace(0.31, 0.83, LINES) / rate
        self._frame = start_frame
        self._mix = _mix(settings, delays, rate, middle)
        self._taps, self._tap_gains = early_taps(rate, settings.size)
        self._duck = np.array(
            [*(1.0 - np.exp(-1.0 / (t * rate)) for t in (DUCK_ATTACK_SECONDS, DUCK_RELEASE_SECONDS)), settings.duck_db]
        )
        self._heard = np.array([0.0, 1.0])
        self._early = np.zeros((2, _power_of_two(int(self._taps.max()) + 4096)), np.float32)
        self._block = int(delays.min()) - int(np.ceil(self._swing)) - 6
        self.tail_frames = fall_frames(rate, settings, TAIL_DB)
        self.warm_up_frames = fall_frames(rate, settings, WARM_UP_DB)

    def steer(self, settings: HallSettings) -> None:
        """Go by other settings of the same size, pre-delay and modulation."""
        rate = self._rate
        middle = middle_decay_seconds(settings, rate)
        self._settings = settings
        self._shelves = _shelves(self._delays, rate, middle, _fitted(settings.lows, settings.highs, rate))
        self._filters = _input_filter(settings.tone_hz, settings.low_cut_hz, rate)
        self._mix = _mix(settings, self._delays, rate, middle)
        self._duck[2] = settings.duck_db

    def process(self, block: Audio) -> Audio:
        """Hear one more stereo block ``[2, frames]``; returns as many frames."""
        check_audio(block)
        out = block.copy()
        if self._settings.amount == 0.0:
            return out
        for start in range(0, block.shape[1], self._block):
            stop = min(start + self._block, block.shape[1])
            _diffuse(
                block[:, start:stop], self._frame, self._input, self._pre_delay, self._filters, self._filter_state,
                self._diffuser_lengths, self._diffusers, wet := np.empty((2, stop - start), np.float32),
            )  # fmt: skip
            taps = np.empty((LINES, stop - start), np.float32)
            _read_lines(self._lines, self._delays, self._frame, self._speeds, self._swing, taps)
            _absorb(taps, self._shelves, self._shelf_state)
            early = np.zeros((2, stop - start), np.float32)
            _reflect(wet, self._early, self._frame, self._taps, self._tap_gains, early)
            room = np.ones(stop - start, np.float32)
            if self._settings.duck_db > 0.0:
                _give_way(block[:, start:stop], self._frame, self._duck, self._heard, room)
            _mix_lines(taps, wet, early, room, self._lines, self._frame, self._mix, out[:, start:stop])
            self._frame += stop - start
        return out


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
    """The decay time at 1 kHz at which the broadband T30 is the time asked for."""
    return settings.decay_seconds / _broadband_t30(
        settings.tone_hz, settings.low_cut_hz, settings.lows, settings.highs, rate
    )


def _shape(f: Floats, lows: float, highs: float) -> Floats:
    """Decay times over that at 1 kHz: straight on logarithmic axes from 125 Hz to 1 kHz and on to 8 kHz, level beyond."""
    octaves = np.clip(np.log2(f / 1000.0), -3.0, 3.0) / 3.0
    return np.where(octaves < 0.0, lows**-octaves, highs**octaves)


@lru_cache(maxsize=64)
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


@lru_cache(maxsize=64)
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


def _power_of_two(length: int) -> int:
    return 1 << (length - 1).bit_length()


@njit(cache=True, nogil=True)
def _diffuse(block, frame, memory, pre_delay, c, state, lengths, diffusers, out):  # type: ignore[no-untyped-def]
    """Pre-delay, tone, low cut, and four Schroeder allpasses for each channel."""
    mask = memory.shape[1] - 1
    for channel in range(2):
        s = state[channel]
        for n in range(block.shape[1]):
            memory[channel, (frame + n) & mask] = block[channel, n]
            x = float(memory[channel, (frame + n - pre_delay) & mask]) + 1e-25
            y = c[0] * x + s[0]
            s[0] = c[1] * x - c[3] * y + s[1]
            s[1] = c[2] * x - c[4] * y
            z = c[5] * y + s[2]
            s[2] = c[6] * y - c[7] * z
            out[channel, n] = z
        for i in range(lengths.shape[1]):
            _allpass(out[channel], frame, diffusers[channel, i, : lengths[channel, i]])


@njit(cache=True, nogil=True, fastmath=True)
def _allpass(sound, frame, ring):  # type: ignore[no-untyped-def]
    """Schroeder's allpass, in place, in runs no longer than its delay, so that each is done all at once."""
    gain = np.float32(DIFFUSER_GAIN)
    done = 0
    while done < len(sound):
        at = (frame + done) % len(ring)
        count = min(len(ring) - at, len(sound) - done)
        part, kept = sound[done : done + count], ring[at : at + count]
        for n in range(count):
            fed = part[n] + gain * kept[n]
            part[n] = kept[n] - gain * fed
            kept[n] = fed
        done += count


@njit(cache=True, nogil=True, fastmath=True)
def _read_lines(lines, delays, frame, speeds, swing, taps):  # type: ignore[no-untyped-def]
    """Every other line's length sways a little; read by third-order Lagrange interpolation.

    The sway is a chain of straight pieces between places of the song that are multiples of PIECE.
    """
    frames = taps.shape[1]
    heard = np.empty(PIECE + 3, np.float32)
    for i in range(lines.shape[0]):
        if i % 2:
            _copy_line(lines[i], frame - delays[i], taps[i])
            continue
        n = 0
        while n < frames:
            piece = (frame + n) // PIECE
            count = min((piece + 1) * PIECE - frame, frames) - n
            start = swing * np.sin(speeds[i] * piece * PIECE + 0.7 * i)
            slope = (swing * np.sin(speeds[i] * (piece + 1) * PIECE + 0.7 * i) - start) / PIECE
            whole = int(np.floor(start))
            first = np.float32(start - whole + slope * (frame + n - piece * PIECE))
            _copy_line(lines[i], frame + n - delays[i] + whole - 1, heard[: count + 3])
            _lagrange(heard, first, np.float32(slope), taps[i, n : n + count])
            n += count


@njit(cache=True, nogil=True)
def _copy_line(line, start, out):  # type: ignore[no-untyped-def]
    """Copy from a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(out), len(line) - at)
    out[:head] = line[at : at + head]
    out[head:] = line[: len(out) - head]


@njit(cache=True, nogil=True, fastmath=True)
def _lagrange(heard, first, slope, out):  # type: ignore[no-untyped-def]
    """``out[n]`` is read ``first + n · slope`` beyond ``heard[n + 1]``."""
    sixth, half = np.float32(1.0 / 6.0), np.float32(0.5)
    one, two = np.float32(1.0), np.float32(2.0)
    p, q, r, s = heard[: len(out)], heard[1 : len(out) + 1], heard[2 : len(out) + 2], heard[3 : len(out) + 3]
    for n in range(len(out)):
        d = first + np.float32(n) * slope
        below, above, far = d + one, d - one, d - two
        out[n] = (s[n] * below * above - p[n] * above * far) * d * sixth + (
            q[n] * above - r[n] * d
        ) * below * far * half


@njit(cache=True, nogil=True)
def _absorb(taps, shelves, state):  # type: ignore[no-untyped-def]
    """The loss of one pass through each line, in place."""
    for i in range(taps.shape[0]):
        b0, b1, a1, c0, c1, d1 = shelves[i]
        x1, y1, u1, v1 = state[i]
        line = taps[i]
        for n in range(len(line)):
            x = line[n]
            y1 = b0 * x + b1 * x1 - a1 * y1
            x1 = x
            v1 = c0 * y1 + c1 * u1 - d1 * v1
            u1 = y1
            line[n] = v1
        state[i, 0], state[i, 1], state[i, 2], state[i, 3] = x1, y1, u1, v1


@njit(cache=True, nogil=True)
def _give_way(dry, frame, duck, heard, gains):  # type: ignore[no-untyped-def]
    """Gains of the wet sound below a dry one: its power is followed, quicker up than down; the gain at every eighth frame."""
    power, gain = heard
    for n in range(dry.shape[1]):
        now = 0.5 * (float(dry[0, n]) ** 2 + float(dry[1, n]) ** 2)
        power += (duck[0] if now > power else duck[1]) * (now - power)
        if (frame + n) % 8 == 0:
            level = 10.0 * np.log10(power + 1e-12)
            part = min(1.0, max(0.0, (level - DUCK_FROM_DB) / (DUCK_TO_DB - DUCK_FROM_DB)))
            gain = 10.0 ** (-0.05 * duck[2] * part)
        gains[n] = gain
    heard[0], heard[1] = power, gain


@njit(cache=True, nogil=True, fastmath=True)
def _reflect(wet, memory, frame, delays, gains, out):  # type: ignore[no-untyped-def]
    """Early reflections of the diffused input."""
    frames = wet.shape[1]
    for channel in range(2):
        _store_line(memory[channel], frame, wet[channel])
    heard = np.empty(frames, np.float32)
    for channel in range(2):
        mixed = out[channel]
        for k in range(delays.shape[1]):
            for source in range(2):
                gain = gains[channel, k, source]
                _copy_line(memory[source], frame - delays[channel, k], heard)
                for n in range(frames):
                    mixed[n] += gain * heard[n]


@njit(cache=True, nogil=True, fastmath=True)
def _mix_lines(taps, wet, early, room, lines, frame, mix, out):  # type: ignore[no-untyped-def]
    """Two outputs with uncorrelated signs, the Hadamard feedback, and the new input."""
    count, frames = taps.shape
    left, right = np.zeros(frames, np.float32), np.zeros(frames, np.float32)
    for i in range(count):
        line = taps[i]
        sign_left = np.float32(1.0 if i % 4 < 2 else -1.0)
        sign_right = np.float32(1.0 if (i // 2 + i) % 4 < 2 else -1.0)
        for n in range(frames):
            left[n] += sign_left * line[n]
            right[n] += sign_right * line[n]
    half = np.float32(0.5)
    for n in range(frames):
        mid = half * (mix[1] * (left[n] + right[n]) + mix[3] * (early[0, n] + early[1, n]))
        side = half * (mix[2] * (left[n] - right[n]) + mix[4] * (early[0, n] - early[1, n]))
        out[0, n] = mix[0] * out[0, n] + room[n] * (mid + side)
        out[1, n] = mix[0] * out[1, n] + room[n] * (mid - side)
    _hadamard(taps)
    share = np.float32(1.0 / np.sqrt(count / 2))
    scale = np.float32(1.0 / np.sqrt(count))
    for i in range(count):
        source = wet[i % 2]
        sign = share if i % 3 else -share
        line = taps[i]
        for n in range(frames):
            line[n] = scale * line[n] + sign * source[n]
        _store_line(lines[i], frame, line)


@njit(cache=True, nogil=True)
def _store_line(line, start, values):  # type: ignore[no-untyped-def]
    """Copy into a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(values), len(line) - at)
    line[at : at + head] = values[:head]
    line[: len(values) - head] = values[head:]


@njit(cache=True, nogil=True, fastmath=True)
def _hadamard(rows):  # type: ignore[no-untyped-def]
    """Fast Walsh-Hadamard transform across the lines, in place, not normalised."""
    span = 1
    while span < rows.shape[0]:
        for first in range(0, rows.shape[0], 2 * span):
            for i in range(first, first + span):
                a, b = rows[i], rows[i + span]
                for n in range(rows.shape[1]):
                    x, y = a[n], b[n]
                    a[n] = x + y
                    b[n] = x - y
        span *= 2
