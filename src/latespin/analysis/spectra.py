"""Features for reading a song: onset strengths in four bands, pitch classes and level, at a low rate.

The song goes by once, in blocks, as one channel at 22 050 Hz. Onsets are the rise of logarithmic magnitudes in a
logarithmic filter bank against the highest of the neighbouring filters a little earlier (S. Böck and G. Widmer,
"Maximum filter vibrato suppression for onset detection", DAFx 2013). Pitch classes come from the peaks of a longer
spectrum, placed by parabolic interpolation (E. Gómez, "Tonal description of music audio signals", 2006).
"""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import scipy.fft
import soxr
from scipy.ndimage import maximum_filter1d

from latespin.ahead import made_ahead
from latespin.dsp.arrays import Audio, Floats
from latespin.jobs import Work, step
from latespin.memory import let_go

RATE = 22_050
HOP = 220
FPS = RATE / HOP  # onset frames in a second
SIZE = 1024
LONG_SIZE, LONG_HOP = 8192, 1100
LONG_FPS = RATE / LONG_HOP
BANK_FRAMES = LONG_HOP // HOP
LAG = 2
FILTERS_PER_OCTAVE = 12
BAND_EDGES_HZ = (30.0, 180.0, 700.0, 2_800.0, 10_500.0)
NOTE_SIZE, NOTE_HOP, NOTE_LAG = 4096, 2 * HOP, 3
NOTE_FILTERS_PER_OCTAVE = 24
NOTE_HZ = (90.0, 4_200.0)
COMPRESSION = 300.0
STEPS_PER_SEMITONE = 5
PITCH_STEPS = 12 * STEPS_PER_SEMITONE  # in an octave
PITCH_HZ = (55.0, 2_100.0)
BASS_HZ = (35.0, 180.0)
PEAKS_HZ = (32.0, 5_200.0)
LOWEST_TONE_HZ, TONE_OCTAVES = 440.0 * 2.0 ** (-45 / 12), 8  # C1 upwards
TONE_FRAMES = 4  # of the pitches, added up: keys need no finer ones
STANDS_OUT = 2.0  # times the mean of the spectrum around a peak
AROUND, LEAST_REACH = 0.12, 10  # what is around it: share of its frequency, and bins at least
WEIGHED_FROM_HZ = 500.0
BLOCK_SECONDS = 20.0
USUAL_RMS, QUIETEST_RMS = 0.12, 1e-4


@dataclass(frozen=True)
class Spectra:
    """Frame i of a field lies at i / FPS (or i / LONG_FPS) seconds.

    onsets : ``[4, n]``, rise in each band.  notes : ``[n]``, rise of single notes, softly struck ones too.  level : ``[n]``, mean square of the sound.
    bank : ``[m, filters]``, float16, logarithm of the sound in a bank of filters, LONG_FPS of them a second.
    pitches : ``[m, 12 × STEPS_PER_SEMITONE]``, magnitude by pitch class from C upwards.  bass : ``[m, 12]``, of the lows alone.
    tones : ``[t, TONE_OCTAVES, 12 × STEPS_PER_SEMITONE]``, float16, square roots of magnitudes from ``LOWEST_TONE_HZ`` upwards, those of TONE_FRAMES pitches together.
    """

    onsets: Floats
    notes: Floats
    level: Floats
    bank: np.ndarray
    pitches: np.ndarray
    bass: np.ndarray
    tones: np.ndarray
    seconds: float


def find_spectra(sound: Audio, rate: int, work: Work) -> Spectra:
    """Go through a song ``[channels, frames]``. Raises Cancelled."""
    looks: tuple[tuple[_Framer, _Onsets | _Notes | _Pitches], ...]
    onsets, notes, pitches = _Onsets(), _Notes(), _Pitches()
    looks = (
        (_Framer(SIZE, HOP), onsets), (_Framer(NOTE_SIZE, NOTE_HOP), notes), (_Framer(LONG_SIZE, LONG_HOP), pitches),
    )  # fmt: skip
    with ThreadPoolExecutor(len(looks) - 1, "look") as pool, closing(made_ahead(_reduced(sound, rate, work))) as blocks:
        for block in blocks:  # each look has its own frames
            others = [pool.submit(_look, framer, look, block) for framer, look in looks[1:]]
            _look(*looks[0], block)
            for other in others:
                other.result()
    for framer, look in looks:
        look.push(framer.finish())
    count = int(sound.shape[1] / rate * FPS) + 1
    return Spectra(
        onsets.flux()[:, :count], notes.flux(count), onsets.level()[:count], onsets.bank(), *pitches.result(), seconds=sound.shape[1] / rate
    )  # fmt: skip


def _look(framer: "_Framer", look: "_Onsets | _Notes | _Pitches", block: np.ndarray) -> None:
    look.push(framer.push(block))


def _reduced(sound: Audio, rate: int, work: Work) -> Iterator[np.ndarray]:
    """The song as one channel at the reading's rate and a level of its own, so that a quiet song is read like a loud one."""
    stream = soxr.ResampleStream(rate, RATE, 1, dtype="float32", quality="MQ")
    size = round(BLOCK_SECONDS * rate)
    gain = np.float32(USUAL_RMS / max(QUIETEST_RMS, _rms(sound, size)))
    for start in range(0, sound.shape[1], size):
        step(work, start / sound.shape[1])
        last = start + size >= sound.shape[1]
        mono = np.ascontiguousarray(sound[:, start : start + size].mean(axis=0)) * gain
        yield stream.resample_chunk(mono, last=last)
        let_go(sound)


def _rms(sound: Audio, size: int) -> float:
    """The root mean square of a song as one channel."""
    total = 0.0
    for start in range(0, sound.shape[1], size):
        total += float(np.sum(np.square(sound[:, start : start + size].mean(axis=0), dtype=np.float64)))
        let_go(sound)
    return float(np.sqrt(total / max(1, sound.shape[1])))


class _Framer:
    """Cuts a stream into overlapping frames, the first of them around sample 0."""

    def __init__(self, size: int, hop: int) -> None:
        self._size, self._hop = size, hop
        self._held = np.zeros(size // 2, np.float32)

    def push(self, block: np.ndarray) -> np.ndarray:
        """The frames ``[n, size]`` that are complete now."""
        self._held = np.concatenate((self._held, block))
        count = max(0, (len(self._held) - self._size) // self._hop + 1)
        if count == 0:
            return np.zeros((0, self._size), np.float32)
        frames = np.lib.stride_tricks.sliding_window_view(self._held, self._size)[:: self._hop][:count]
        self._held = self._held[count * self._hop :]
        return frames

    def finish(self) -> np.ndarray:
        """The frames that reach beyond the end."""
        return self.push(np.zeros(self._size, np.float32))


class _Rises:
    """Rise of log magnitudes in the filters of a bank, frame by frame (spectral flux)."""

    def __init__(self, size: int, bank: np.ndarray, lag: int) -> None:
        self._window, self._bank, self._lag = np.hanning(size).astype(np.float32), bank, lag
        self._earlier = np.zeros((lag, bank.shape[1]), np.float32)

    def of(self, frames: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """The rises ``[frames, filters]`` above the highest neighbour some frames earlier; and the filters themselves."""
        magnitudes = np.abs(scipy.fft.rfft(frames * self._window, axis=1)) * (2.0 / self._window.sum())
        filtered = np.log10(1.0 + COMPRESSION * (magnitudes @ self._bank))
        joined = np.concatenate((self._earlier, filtered))
        self._earlier = joined[-self._lag :]
        return np.maximum(0.0, filtered - maximum_filter1d(joined[: -self._lag], 3, axis=1)), filtered


class _Onsets:
    """Rises in four bands, from frames."""

    def __init__(self) -> None:
        bank, centres = _filter_bank()
        self._rises = _Rises(SIZE, bank, LAG)
        self._bands = [np.flatnonzero((centres >= low) & (centres < high)) for low, high in pairwise(BAND_EDGES_HZ)]
        self._flux: list[Floats] = []
        self._level: list[Floats] = []
        self._filtered = np.zeros((0, bank.shape[1]), np.float32)
        self._bank: list[np.ndarray] = []

    def push(self, frames: np.ndarray) -> None:
        """Look at more frames."""
        if len(frames) == 0:
            return
        self._level.append(np.mean(frames[:, SIZE // 2 - HOP // 2 : SIZE // 2 + HOP // 2] ** 2, axis=1))
        rises, filtered = self._rises.of(frames)
        self._filtered = np.concatenate((self._filtered, filtered))
        whole = len(self._filtered) // BANK_FRAMES * BANK_FRAMES
        means = self._filtered[:whole].reshape(-1, BANK_FRAMES, filtered.shape[1]).mean(axis=1)
        self._bank.append(means.astype(np.float16))
        self._filtered = self._filtered[whole:]
        self._flux.append(np.stack([rises[:, band].mean(axis=1) for band in self._bands]))

    def flux(self) -> Floats:
        """All rises."""
        return np.concatenate(self._flux, axis=1).astype(np.float64)

    def bank(self) -> np.ndarray:
        """The filters of all frames."""
        return np.concatenate(self._bank)

    def level(self) -> Floats:
        """The mean square around every frame."""
        return np.concatenate(self._level).astype(np.float64)


class _Notes:
    """Rises of single notes, from frames long enough to tell them apart."""

    def __init__(self) -> None:
        self._rises = _Rises(NOTE_SIZE, _note_bank(), NOTE_LAG)
        self._flux: list[Floats] = []

    def push(self, frames: np.ndarray) -> None:
        """Look at more frames."""
        for part in np.array_split(frames, max(1, len(frames) // 256)):
            self._flux.append(self._rises.of(part)[0].mean(axis=1))

    def flux(self, count: int) -> Floats:
        """The rise at each of ``count`` frames of the onsets."""
        found = np.concatenate(self._flux).astype(np.float64)
        return np.interp(np.arange(count) * HOP / NOTE_HOP, np.arange(len(found)), found)


class _Pitches:
    """Pitch classes, from longer frames."""

    def __init__(self) -> None:
        self._window = np.hanning(LONG_SIZE).astype(np.float32)
        self._all: list[np.ndarray] = []
        self._bass: list[np.ndarray] = []
        self._tones: list[np.ndarray] = []
        self._open = np.zeros((0, TONE_OCTAVES * PITCH_STEPS), np.float32)  # tones of frames that are not added up yet

    def push(self, frames: np.ndarray) -> None:
        """Look at more frames."""
        for part in np.array_split(frames, max(1, len(frames) // 64)):
            magnitudes = np.abs(scipy.fft.rfft(part * self._window, axis=1)) * (2.0 / self._window.sum())
            peaks = _peaks_of(magnitudes)
            self._all.append(peaks.folded(PITCH_HZ, STEPS_PER_SEMITONE))
            self._bass.append(peaks.folded(BASS_HZ, 1))
            self._take_tones(peaks.tones())

    def _take_tones(self, tones: np.ndarray) -> None:
        self._open = np.concatenate((self._open, tones))
        whole = len(self._open) // TONE_FRAMES * TONE_FRAMES
        added = self._open[:whole].reshape(-1, TONE_FRAMES, TONE_OCTAVES, PITCH_STEPS).sum(axis=1)
        self._tones.append(added.astype(np.float16))
        self._open = self._open[whole:]

    def result(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """All pitch classes, those of the bass, float32, and the tones."""
        return np.concatenate(self._all), np.concatenate(self._bass), np.concatenate(self._tones)


@dataclass(frozen=True)
class _Peaks:
    """Peaks of spectra. at : numbers of their frames, of ``frames``.  bins : where they are highest.  hz : where they are.  magnitude : of each."""

    frames: int
    at: np.ndarray
    bins: np.ndarray
    hz: Floats
    magnitude: np.ndarray

    def folded(self, limits_hz: tuple[float, float], steps: int) -> np.ndarray:
        """Square roots of the peaks within limits, added up by pitch class ``[frames, 12 × steps]``, lower ones more."""
        first, last = (round(hz * LONG_SIZE / RATE) for hz in limits_hz)
        inside = (self.bins >= first) & (self.bins < last)
        hz = self.hz[inside]
        place = np.round(12.0 * np.log2(hz / 440.0) * steps).astype(np.int64) + 9 * steps
        out = np.zeros((self.frames, 12 * steps), np.float32)
        weighed = np.sqrt(self.magnitude[inside] * (WEIGHED_FROM_HZ / hz))
        np.add.at(out, (self.at[inside], place % (12 * steps)), weighed)
        return out

    def tones(self) -> np.ndarray:
        """Square roots of the peaks by pitch, ``[frames, TONE_OCTAVES × PITCH_STEPS]``."""
        place = np.round(PITCH_STEPS * np.log2(self.hz / LOWEST_TONE_HZ)).astype(np.int64)
        inside = (place >= 0) & (place < TONE_OCTAVES * PITCH_STEPS)
        out = np.zeros((self.frames, TONE_OCTAVES * PITCH_STEPS), np.float32)
        np.add.at(out, (self.at[inside], place[inside]), np.sqrt(self.magnitude[inside]))
        return out


def _peaks_of(magnitudes: np.ndarray) -> _Peaks:
    """What stands out of the spectrum around it: every noise has local maxima, and no pitch."""
    first, last = (round(hz * LONG_SIZE / RATE) for hz in PEAKS_HZ)
    below, here, above = (magnitudes[:, first + d : last + d] for d in (-1, 0, 1))
    at, bins = np.nonzero((here > below) & (here >= above) & (here > 1e-5))
    outstanding = here[at, bins] > STANDS_OUT * _mean_around(magnitudes, at, bins + first)
    at, bins = at[outstanding], bins[outstanding]
    a, b, c = (np.log(part[at, bins] + 1e-9) for part in (below, here, above))
    shift = 0.5 * (a - c) / np.minimum(-1e-6, a - 2.0 * b + c)
    bins += first
    return _Peaks(len(magnitudes), at, bins, (bins + shift) * RATE / LONG_SIZE, here[at, bins - first])


def _mean_around(magnitudes: np.ndarray, at: np.ndarray, bins: np.ndarray) -> np.ndarray:
    """The mean of the spectra ``at`` within an eighth of each bin's frequency, ten bins at least, to both sides."""
    reach = np.maximum(LEAST_REACH, np.round(AROUND * bins)).astype(np.int64)
    low, high = np.maximum(0, bins - reach), np.minimum(magnitudes.shape[1], bins + reach + 1)
    total = np.zeros((len(magnitudes), high.max(initial=0) + 1))
    np.cumsum(magnitudes[:, : total.shape[1] - 1], axis=1, dtype=np.float64, out=total[:, 1:])
    return np.asarray((total[at, high] - total[at, low]) / (high - low))


def _note_bank() -> np.ndarray:
    """Triangular filters ``[bins, filters]`` a quarter-tone apart, at least two bins wide."""
    hz = np.arange(NOTE_SIZE // 2 + 1)[:, None] * RATE / NOTE_SIZE
    steps = np.arange(int(np.log2(NOTE_HZ[1] / NOTE_HZ[0]) * NOTE_FILTERS_PER_OCTAVE))
    centres = NOTE_HZ[0] * 2.0 ** (steps / NOTE_FILTERS_PER_OCTAVE)
    reach = np.maximum(centres * (2.0 ** (1.0 / NOTE_FILTERS_PER_OCTAVE) - 1.0), RATE / NOTE_SIZE)
    bank = np.maximum(0.0, 1.0 - np.abs(hz - centres) / reach)
    return np.asarray(bank, dtype=np.float32)


def _filter_bank() -> tuple[np.ndarray, Floats]:
    """Triangular filters ``[bins, filters]`` on a logarithmic scale, at least one bin wide, and their centres in Hz."""
    hz = np.arange(SIZE // 2 + 1) * RATE / SIZE
    octaves = np.log2(BAND_EDGES_HZ[-1] / BAND_EDGES_HZ[0])
    corners = BAND_EDGES_HZ[0] * 2.0 ** (np.arange(int(octaves * FILTERS_PER_OCTAVE) + 2) / FILTERS_PER_OCTAVE)
    bins = np.unique(np.round(corners * SIZE / RATE).astype(int))
    bins = bins[(bins >= 1) & (bins < len(hz))]
    bank = np.zeros((len(hz), len(bins) - 2), np.float32)
    for i in range(len(bins) - 2):
        left, centre, right = bins[i : i + 3]
        bank[left : centre + 1, i] = np.linspace(0.0, 1.0, centre - left + 1)
        bank[centre : right + 1, i] = np.linspace(1.0, 0.0, right - centre + 1)
    return bank, hz[bins[1:-1]]
