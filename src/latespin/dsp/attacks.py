"""Attacks: where something is struck.

Spectral flux of logarithmic magnitudes against the highest of the neighbouring bins a little earlier, so that vibrato
and glides do not count (S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013);
then the instant is sought at which the energy of the differentiated signal rises most steeply.
"""

from dataclasses import dataclass

import numpy as np
import scipy.fft
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from latespin.dsp.types import Audio, Floats

WINDOW_SECONDS = 0.0116
HOP_SECONDS = 0.0029
LAG_HOPS = 3
COMPRESSION = 1000.0
NEIGHBOUR_SECONDS = 0.03  # the least time between two attacks
AVERAGE_SECONDS = 0.25
LEAST_FLUX = 0.10  # mean rise over all bins in log10 units, above the local average
REACH_SECONDS = 0.012
FINE_SECONDS = 0.0007
BLOCK_SECONDS, CONTEXT_SECONDS = 4.0, 0.4


@dataclass(frozen=True)
class Attacks:
    """Frames of the attacks, int64 ``[n]`` ascending, and how strong each is (mean rise in log10 units)."""

    frames: np.ndarray
    strengths: Floats


class AttackMap:
    """The attacks of a whole song, found block by block where they are asked for, and kept.

    May be used from several threads at once.
    """

    def __init__(self, song: Audio, rate: float) -> None:
        self._song, self._rate = song, rate
        self._block = max(1, round(BLOCK_SECONDS * rate))
        self._found: dict[int, Attacks] = {}

    def between(self, start: float, stop: float) -> Attacks:
        """The attacks of all blocks that reach into ``start`` to ``stop`` (frames of the song)."""
        blocks = [self._in_block(b) for b in range(int(start // self._block), int(stop // self._block) + 1)]
        return Attacks(np.concatenate([b.frames for b in blocks]), np.concatenate([b.strengths for b in blocks]))

    def _in_block(self, block: int) -> Attacks:
        """The attacks of one block, judged with a little of its neighbours."""
        if block not in self._found:
            context = round(CONTEXT_SECONDS * self._rate)
            start = block * self._block
            low, high = max(0, start - context), min(self._song.shape[1], start + self._block + context)
            found = find_attacks(self._song[:, low : max(low, high)], self._rate)
            frames = found.frames + low
            kept = (frames >= start) & (frames < start + self._block)
            self._found[block] = Attacks(frames[kept], found.strengths[kept])
        return self._found[block]


def find_attacks(sound: Audio, rate: float) -> Attacks:
    """The attacks in ``sound`` ``[channels, frames]``; those within 0.25 s of an end are judged by less context."""
    size = 2 * round(WINDOW_SECONDS * rate / 2)
    hop = max(1, round(HOP_SECONDS * rate))
    if sound.shape[1] < 4 * size:
        return Attacks(np.zeros(0, np.int64), np.zeros(0))
    flux = _flux(sound.mean(axis=0), size, hop)
    average = uniform_filter1d(flux, 2 * round(AVERAGE_SECONDS / HOP_SECONDS) + 1, mode="nearest")
    highest = maximum_filter1d(flux, 2 * round(NEIGHBOUR_SECONDS / HOP_SECONDS) + 1, mode="constant")
    chosen = np.flatnonzero((flux == highest) & (flux > average + LEAST_FLUX))
    frames = _steepest(sound, rate, chosen * hop + size // 2)
    return Attacks(frames, flux[chosen] - average[chosen])


def _flux(mono: np.ndarray, size: int, hop: int) -> Floats:
    """Mean rise of every frame's compressed spectrum, ``[frames]``."""
    frames = np.lib.stride_tricks.sliding_window_view(mono, size)[::hop]
    window = np.hanning(size).astype(np.float32)
    magnitudes = np.abs(scipy.fft.rfft(frames * window, axis=1)) * (2.0 / window.sum())
    spectra = np.log10(1.0 + COMPRESSION * magnitudes)
    earlier = maximum_filter1d(spectra[:-LAG_HOPS], 3, axis=1)
    rise = np.maximum(0.0, spectra[LAG_HOPS:] - earlier).mean(axis=1)
    return np.concatenate((np.zeros(LAG_HOPS), rise))


def _steepest(sound: Audio, rate: float, near: np.ndarray) -> np.ndarray:
    """The frame within reach of each place at which energy just after most exceeds energy just before."""
    energy = np.sum(np.diff(sound, axis=1, prepend=0.0).astype(np.float64) ** 2, axis=0)
    total = np.concatenate(([0.0], np.cumsum(energy)))
    fine, reach = max(2, round(FINE_SECONDS * rate)), round(REACH_SECONDS * rate)
    found = []
    for place in near:
        at = np.arange(max(4 * fine, place - reach), min(len(energy) - fine, place + reach))
        if len(at) == 0:
            found.append(int(place))
            continue
        after = total[at + fine] - total[at]
        before = (total[at] - total[at - 4 * fine]) / 4.0
        found.append(int(at[np.argmax(after / (before + 0.01 * after.max() + 1e-12) * np.sqrt(after))]))
    return np.array(found, dtype=np.int64)
