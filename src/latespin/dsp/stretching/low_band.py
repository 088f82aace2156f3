"""The lows of a stretch, through a window twice as long wherever no attack is near.

Partials of a chord in the bass lie closer together than a window that follows attacks can tell apart; they then waver and are out of tune.
Several resolutions are usual (J. Bonada, "Automatic technique in frequency domain for near-lossless time-scale modification of audio",
ICMC 2000). Own design: the lows are stretched at a low sample rate, in the same frames and at the same places of the song. A frame takes the
long window unless an attack of the lows lies within it, and the short one then; what all windows of the result add up to is divided out. Around the
crossover, partials are turned as the rest of the stretch turns them, so that both halves of a partial fit together.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import scipy.fft
from numpy.lib.stride_tricks import sliding_window_view

from latespin.dsp.arrays import Audio, Floats, Spectra, excerpt
from latespin.dsp.control.fades import hann, raised_cosine
from latespin.dsp.kernels import kernel
from latespin.dsp.stretching import phase_kernels as phases
from latespin.dsp.stretching.regions import Frames, find_regions
from latespin.dsp.stretching.rereading import Rereading, reread

SIZE = 512  # frames of the long window at the low rate
CROSSOVER_HZ = (640.0, 740.0)
ADOPTED_HZ = 610.0  # from here on, partials are turned as in the rest
FILTER_STEPS = 10  # reach of the filter between the two rates, in frames of the low one
KAISER_BETA = 8.0
PASSED_HZ = 960.0
LEAST_RATE = 2.9  # of the crossover's upper end: what folds back at a low rate stays above it
UNEVEN = 1.4  # nepers of power, 6 dB
QUIET = 1e-9
NO_WINDOW = 1e-3  # where windows add up to less, nothing is divided
TOGETHER = 1024  # frames of the lows that are raised at once


@dataclass(frozen=True)
class LowBatch(Frames):
    """The lows of frames. windows : ``[frames, SIZE]``, of each; norm : what those of the result add up to, at the low rate."""

    windows: np.ndarray
    norm: np.ndarray


def _low_pass(reach: int, cutoff: float) -> Audio:
    """A sinc under a Kaiser window, ``[2 · reach + 1]``, that leaves 0 Hz as it is. cutoff : of the sample rate."""
    taps = np.sinc(2.0 * cutoff * np.arange(-reach, reach + 1)) * np.kaiser(2 * reach + 1, KAISER_BETA)
    return np.asarray(taps / taps.sum(), np.float32)


class LowBand:
    """The lows of stretches whose frames are alike; it holds nothing of a song.

    step : frames of the song for one at the low rate.  hop, window : of the rest of the stretch, in frames of the song.
    """

    def __init__(self, rate: float, hop: int, window: int, step: int) -> None:
        self.step, self._hop = step, hop // step
        self.reach = (SIZE // 2 + FILTER_STEPS) * step
        self.margin = SIZE // self._hop  # frames to both sides whose windows reach into a frame's
        self.near = SIZE // 2 * step  # frames within which an attack asks for the short window
        self._filter = _low_pass(FILTER_STEPS * step, PASSED_HZ / rate)
        short = window // step
        self._long, self._short = hann(SIZE), np.pad(hann(short), (SIZE - short) // 2)
        self.ratio = step * SIZE / window  # bins of the lows for one of the rest
        bins = np.arange(SIZE // 2 + 1)
        self._like = np.minimum(bins / self.ratio + 0.5, window // 2).astype(np.int64)  # the nearest bin of the rest
        hz = bins * rate / (SIZE * step)
        passed = np.abs(np.fft.rfft(self._filter, SIZE * step))[: len(hz)]  # on the way down, and again on the way up
        self._taken = ((1.0 - _crossed(hz)) / np.maximum(passed, 0.1) ** 2).astype(np.float32)
        rest = _crossed(np.arange(window // 2 + 1) * rate / window)
        self.left = rest[: int(np.argmax(rest == 1.0))].astype(np.float32)  # what the rest keeps of its lowest bins
        off = np.arange(-(step // 2) - 1, step // 2 + 2) / step  # frames of the song between two of the lows
        self._turn = np.exp(2j * np.pi / SIZE * off[:, None] * bins).astype(np.complex64)
        self.adopted = int(np.searchsorted(hz, ADOPTED_HZ))

    def grains(
        self,
        song: Audio,
        places: tuple[np.ndarray, np.ndarray, np.ndarray],
        around: np.ndarray,
        struck: np.ndarray,
        rereadings: list[Rereading],
        stretch_ratio: Floats,
        phase_reset: np.ndarray,
        gain: np.ndarray | None,
    ) -> LowBatch:
        """All that is known of frames.

        places : of the song, around which each frame lies, and half a hop after and before its middle with the one before.  around : those
        of ``margin`` more to both sides, too; struck : which of them have an attack near.  rereadings : bins that are read elsewhere.  phase_reset, and a gain of formants : of the rest, ``[frames, bins]``.
        """
        low, first = self._lows(song, (around, *places, *(at for reading in rereadings for at in reading.places)))
        short = struck | self._uneven(low, around // self.step - first)
        windows = np.where(short[self.margin : -self.margin, None], self._short, self._long)
        now, ahead_of, behind = (self._spectra(low, first, centres, windows) for centres in places)
        advance = ahead_of * np.conj(behind)
        reread(rereadings, lambda at, frames: self._spectra(low, first, at, windows[frames]), self._like, now, advance)
        regions = find_regions(now, stretch_ratio, self._hop)
        reset = np.ascontiguousarray(phase_reset[:, self._like])
        regions.phase_slopes[reset] = 1.0
        if gain is not None:
            regions.gain[:] *= gain[:, self._like]
        inner = slice(1, -1)
        return LowBatch(
            now[inner], advance[inner], regions.peak_of_bin[inner], reset[inner], regions.phase_slopes[inner],
            regions.via[inner], regions.ahead[inner], regions.gain[inner], windows[inner], self._norm(short[1:-1]),
        )  # fmt: skip

    def finish(self, grains: LowBatch, turns: Spectra) -> Audio:
        """The sound of all frames but the last, at the song's rate, ``reach`` frames before the first one's middle on."""
        spectra = grains.now[:-1]
        phases.rotate(spectra, turns[:-1] * (grains.gain[:-1] * self._taken))
        waves = scipy.fft.irfft(spectra, axis=-1, overwrite_x=True) * grains.windows[:-1, None]
        frames = len(waves)
        out = np.zeros((spectra.shape[1], (frames - 1) * self._hop + SIZE), np.float32)
        ones = np.ones(SIZE, np.float32)
        phases.overlap_add(waves.astype(np.float32), ones, self._hop, out)
        out /= grains.norm[: out.shape[1]]
        return self._raised(out)

    def _uneven(self, low: Audio, places: np.ndarray) -> np.ndarray:
        """Around which frames of the lows the first half of a long window is much louder or softer than the second: what dies away."""
        power = np.sum(np.square(low, dtype=np.float64), axis=0)
        total = np.concatenate(([0.0], np.cumsum(power)))
        before, after = (total[places + by] - total[places + by - SIZE // 2] + QUIET for by in (0, SIZE // 2))
        return np.asarray(np.abs(np.log(before / after)) > UNEVEN)

    def _lows(self, song: Audio, places: tuple[np.ndarray, ...]) -> tuple[Audio, int]:
        """The song at the low rate around the places, and the number of its first frame."""
        first = min(int(p.min()) for p in places) // self.step - SIZE // 2 - 1
        count = max(int(p.max()) for p in places) // self.step + SIZE // 2 + 2 - first
        start, frames = (first - FILTER_STEPS) * self.step, (count + 2 * FILTER_STEPS) * self.step
        reduced = np.empty((song.shape[0], count), np.float32)
        _reduce(excerpt(song, start, frames), self._filter, self.step, reduced)
        return reduced, first

    def _raised(self, low: Audio) -> Audio:
        """Lows at the song's rate, from ``FILTER_STEPS`` of their frames before the first one on."""
        taps = np.append(self._filter, np.zeros(self.step - 1, np.float32)).reshape(-1, self.step) * np.float32(
            self.step
        )
        raised = np.empty((low.shape[0], low.shape[1] + len(taps) - 1, self.step), np.float32)
        _raise(np.pad(low, ((0, 0), (len(taps) - 1, len(taps) - 1))), taps, raised)
        return raised.reshape(low.shape[0], -1)

    def _spectra(self, low: Audio, first: int, centres: np.ndarray, windows: np.ndarray) -> Spectra:
        """Windowed spectra around frames of the song, ``[frames, channels, bins]``."""
        nearest = np.round(centres / self.step).astype(np.int64)
        around = sliding_window_view(low, SIZE, axis=1)[:, nearest - first - SIZE // 2]
        grains = np.ascontiguousarray(around.transpose(1, 0, 2)) * windows[:, None]
        off = np.round(centres - nearest * self.step).astype(np.int64)
        spectra = scipy.fft.rfft(grains, axis=-1, overwrite_x=True)
        return np.asarray(spectra * self._turn[off + self.step // 2 + 1, None], np.complex64)

    def _norm(self, short: np.ndarray) -> np.ndarray:
        """What the windows of all frames add up to over the frames of the result; ``short`` reaches ``SIZE / hop`` further to both sides."""
        squares = np.where(short[:, None], self._short**2, self._long**2)[:, None]
        total = np.zeros((1, (len(short) - 1) * self._hop + SIZE), np.float32)
        phases.overlap_add(squares, np.ones(SIZE, np.float32), self._hop, total)
        return np.maximum(total[0, self.margin * self._hop :], NO_WINDOW)


@lru_cache(maxsize=16)
def low_band_for(rate: float, hop: int, window: int) -> LowBand | None:
    """For frames ``hop`` apart; None where they cannot be laid on those of a low rate."""
    for low_hop in (32, 64):
        step = hop // low_hop
        fits = hop % low_hop == 0 and window // step in (SIZE // 2, SIZE // 4)
        if fits and rate / step >= LEAST_RATE * CROSSOVER_HZ[1]:
            return LowBand(rate, hop, window, step)
    return None


def _crossed(hz: Floats) -> Floats:
    """How much of frequencies is left to the rest of the stretch: 0 below the crossover, 1 above."""
    low, high = CROSSOVER_HZ
    return raised_cosine(np.clip((hz - low) / (high - low), 0.0, 1.0))


@kernel(fastmath=True)
def _reduce(song, taps, step, out):  # type: ignore[no-untyped-def]
    """``out[c, n] = Σ taps[k] · song[c, n · step + k]``; the taps are symmetrical."""
    for c in range(song.shape[0]):
        for n in range(out.shape[1]):
            heard = song[c, n * step : n * step + len(taps)]
            total = np.float32(0.0)
            for k in range(len(taps)):
                total += taps[k] * heard[k]
            out[c, n] = total


@kernel(fastmath=True)
def _raise(low, taps, out):  # type: ignore[no-untyped-def]
    """``out[c, n, k] = Σ taps[q, k] · low[c, n + len(taps) − 1 − q]``: frames of the song, ``k`` of them for each of the lows.

    A thousand frames at a time, which stay in the first-level cache.
    """
    reach, step = taps.shape
    row = np.empty(TOGETHER, np.float32)
    for c in range(low.shape[0]):
        for start in range(0, out.shape[1], TOGETHER):
            made = row[: min(TOGETHER, out.shape[1] - start)]
            for k in range(step):
                made[:] = np.float32(0.0)
                for q in range(reach):
                    tap, heard = taps[q, k], low[c, start + reach - 1 - q :]
                    for n in range(len(made)):
                        made[n] += tap * heard[n]
                for n in range(len(made)):
                    out[c, start + n, k] = made[n]
