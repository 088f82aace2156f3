"""Detection of transients.

Spectral flux of logarithmic magnitudes against the highest of the neighbouring bins a little earlier, so that vibrato
and glides do not count (S. Böck and G. Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013);
then the instant is sought at which the energy of the differentiated signal rises most steeply. The lows are looked at a
second time, through a longer window of their own: in the mean over all bins a drum that has only lows goes under.
"""

from dataclasses import dataclass, field

import numpy as np
import scipy.fft
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.onsets.soft_onsets import APART_SECONDS, find_soft_onsets
from latespin.dsp.onsets.spectral_flux import LAG_HOPS, compressed_spectra, flux

WINDOW_SECONDS = 0.0116
HOP_SECONDS = 0.0029
NEIGHBOUR_SECONDS = 0.02  # the least time between two attacks
AVERAGE_SECONDS = 0.25
LEAST_FLUX = 0.07  # mean rise over all bins in log10 units, above the local average
REACH_SECONDS = 0.012
FINE_SECONDS = 0.0007
QUIET = 1e-3  # of the power just after an attack: what is quieter does not count as rising
NEARLY = 0.95  # of the steepest: the last such frame counts, since a click shorter than FINE_SECONDS is steep before it comes
LOW_HZ = (40.0, 300.0)
LOW_RATE = 2_800.0  # about, to which the lows are reduced
LOW_WINDOW_SECONDS, LOW_LAG_SECONDS = 0.046, 0.02
LEAST_LOW_FLUX = 0.22
LOW_REACH_SECONDS, LOW_FINE_SECONDS = 0.03, 0.004
START_SECONDS, START_SHARE = 0.002, 0.03  # a song that is as loud so soon, of its first quarter second, begins at once
BLOCK_SECONDS, CONTEXT_SECONDS = 4.0, 0.4


@dataclass(frozen=True)
class Transients:
    """Frames of the attacks, int64 ``[n]`` ascending, and how strong each is (mean rise in log10 units); and frames of soft onsets."""

    frames: np.ndarray
    strengths: Floats
    soft: np.ndarray = field(default_factory=lambda: np.zeros(0, np.int64))


class TransientMap:
    """The attacks of a whole song, found block by block where they are asked for, and kept.

    May be used from several threads at once.
    """

    def __init__(self, song: Audio, rate: float) -> None:
        self._song, self._rate = song, rate
        self._block = max(1, round(BLOCK_SECONDS * rate))
        self._found: dict[int, Transients] = {}

    def between(self, start: float, stop: float) -> Transients:
        """The attacks of all blocks that reach into ``start`` to ``stop`` (frames of the song)."""
        blocks = [self._in_block(b) for b in range(int(start // self._block), int(stop // self._block) + 1)]
        return Transients(
            np.concatenate([b.frames for b in blocks]),
            np.concatenate([b.strengths for b in blocks]),
            np.concatenate([b.soft for b in blocks]),
        )

    def _in_block(self, block: int) -> Transients:
        """The attacks of one block, judged with a little of its neighbours."""
        if block not in self._found:
            context = round(CONTEXT_SECONDS * self._rate)
            start = block * self._block
            low, high = max(0, start - context), min(self._song.shape[1], start + self._block + context)
            found = find_attacks(self._song[:, low : max(low, high)], self._rate)
            frames, strengths, soft = found.frames + low, found.strengths, found.soft + low
            kept = (frames >= start) & (frames < start + self._block)
            if block == 0 and _begins_at_once(self._song, self._rate):
                kept &= frames > NEIGHBOUR_SECONDS * self._rate
                frames, strengths = np.append(0, frames), np.append(1.0, strengths)
                kept = np.append(True, kept)
                soft = soft[soft > APART_SECONDS * self._rate]
            soft = soft[(soft >= start) & (soft < start + self._block)]
            self._found[block] = Transients(frames[kept], strengths[kept], soft)
        return self._found[block]


def _begins_at_once(song: Audio, rate: float) -> bool:
    """Whether a song is there from its first frames on: then its start is an attack that nothing comes before."""
    first = np.abs(song[:, : max(1, round(START_SECONDS * rate))]).max(initial=0.0)
    return bool(first > START_SHARE * np.abs(song[:, : max(1, round(AVERAGE_SECONDS * rate))]).max(initial=0.0))


def find_attacks(sound: Audio, rate: float) -> Transients:
    """The attacks in ``sound`` ``[channels, frames]``; those within 0.25 s of an end are judged by less context."""
    size = 2 * round(WINDOW_SECONDS * rate / 2)
    hop = max(1, round(HOP_SECONDS * rate))
    if sound.shape[1] < 4 * size:
        return Transients(np.zeros(0, np.int64), np.zeros(0))
    mono = sound.mean(axis=0)
    spectra = compressed_spectra(mono, size, hop)
    chosen, strengths = _stand_out(flux(spectra, LAG_HOPS), HOP_SECONDS, LEAST_FLUX)
    energy = np.sum(np.diff(sound, axis=1, prepend=0.0).astype(np.float64) ** 2, axis=0)
    frames = _steepest(energy, chosen * hop + size // 2, round(REACH_SECONDS * rate), round(FINE_SECONDS * rate))
    low_frames, low_strengths = _low_attacks(mono, rate)
    apart = np.array(
        [np.abs(frames - at).min(initial=1 << 30) > NEIGHBOUR_SECONDS * rate for at in low_frames], np.bool_
    )
    frames = np.concatenate((frames, low_frames[apart]))
    order = np.argsort(frames, kind="stable")
    frames, strengths = frames[order], np.concatenate((strengths, low_strengths[apart]))[order]
    return Transients(frames, strengths, find_soft_onsets(mono, rate, frames))


def _stand_out(rises: Floats, hop_seconds: float, least: float) -> tuple[np.ndarray, Floats]:
    """Where a rise is the highest around and stands out of the local average, and by how much."""
    average = uniform_filter1d(rises, 2 * round(AVERAGE_SECONDS / hop_seconds) + 1, mode="nearest")
    highest = maximum_filter1d(rises, 2 * round(NEIGHBOUR_SECONDS / hop_seconds) + 1, mode="constant")
    chosen = np.flatnonzero((rises == highest) & (rises > average + least))
    return chosen, rises[chosen] - average[chosen]


def _low_attacks(mono: np.ndarray, rate: float) -> tuple[np.ndarray, Floats]:
    """Frames and strengths of attacks in the lows."""
    step = max(1, int(rate / LOW_RATE))
    low = _lows(mono, rate)
    size = 2 * round(LOW_WINDOW_SECONDS * rate / step / 2)
    hop = max(1, round(HOP_SECONDS * rate / step))
    reduced = np.ascontiguousarray(low[::step], dtype=np.float32)
    if len(reduced) < 4 * size:
        return np.zeros(0, np.int64), np.zeros(0)
    hop_seconds = hop * step / rate
    bins = slice(round(LOW_HZ[0] * size * step / rate), round(LOW_HZ[1] * size * step / rate) + 1)
    rises = flux(compressed_spectra(reduced, size, hop), round(LOW_LAG_SECONDS / hop_seconds), bins)
    chosen, strengths = _stand_out(rises, hop_seconds, LEAST_LOW_FLUX)
    near = (chosen * hop + size // 2) * step
    reach, fine = round(LOW_REACH_SECONDS * rate), round(LOW_FINE_SECONDS * rate)
    return _steepest(low.astype(np.float64) ** 2, near, reach, fine), strengths


def _lows(mono: np.ndarray, rate: float) -> np.ndarray:
    """The lows alone, without delay, fading out over half an octave."""
    size = scipy.fft.next_fast_len(len(mono) + round(LOW_WINDOW_SECONDS * rate), real=True)
    hz = scipy.fft.rfftfreq(size, 1.0 / rate)
    kept = 0.5 + 0.5 * np.cos(np.pi * np.clip((hz / LOW_HZ[1] - 0.8) / 0.5, 0.0, 1.0))
    return np.asarray(scipy.fft.irfft(scipy.fft.rfft(mono, size) * kept.astype(np.float32), size)[: len(mono)])


def _steepest(energy: Floats, near: np.ndarray, reach: int, fine: int) -> np.ndarray:
    """The frame within reach of each place at which energy just after exceeds energy just before by the most decibels.

    Not by the most energy: where notes that begin together are a little apart, that would find the loudest, which may come last.
    """
    total = np.concatenate(([0.0], np.cumsum(energy)))
    fine = max(2, fine)
    found = []
    for place in near:
        at = np.arange(max(4 * fine, place - reach), min(len(energy) - fine, place + reach))
        if len(at) == 0:
            found.append(int(place))
            continue
        after = total[at + fine] - total[at]
        before = (total[at] - total[at - 4 * fine]) / 4.0
        floor = QUIET * after.max() + 1e-12
        steepness = np.log((after + floor) / (before + floor))
        found.append(int(at[np.flatnonzero(steepness >= NEARLY * steepness.max())[-1]]))
    return np.array(found, dtype=np.int64)
