"""Time-stretching a full mix, its pitch held: a phase vocoder with locked phases.

* Phase advances are measured over exactly one synthesis hop, from two analysis frames that far apart,
  so nothing has to be unwrapped (M. Puckette, "Phase-locked vocoder", WASPAA 1995).
* All bins around a spectral peak turn by one angle, which keeps their phases related as they were
  (identity phase locking: J. Laroche and M. Dolson, "Improved phase vocoder time-scale modification of
  audio", IEEE Trans. Speech and Audio Processing 7(3), 1999).
* The angle is taken from the cross-spectra of all channels added up and applied to all of them alike, so
  that the phase between left and right stays what it was.
* Own design: phases start afresh at *anchors*, a few seconds apart, put on attacks where there are any.
  They run forwards from one anchor and backwards from the next, and half-way they are led into each
  other over a third of a second, lower partials over longer. Any stretch of the result can thus be made
  by itself, in any order or in parallel, and always comes out the same.
"""

from dataclasses import dataclass

import numpy as np
import scipy.fft
from numba import njit

from latespin.dsp.attacks import Attacks, find_attacks
from latespin.dsp.types import Audio, Spectra, check_audio, check_range

WINDOW_SECONDS = 0.093
OVERLAP = 4
ANCHOR_SECONDS = 4.0
ANCHOR_SEARCH = 4  # the part of that in which the anchor may lie
SHORTEST_BLEND = 16  # frames
BLEND_FRAME_BINS = 1154  # frames × bin: at most 3 cents of detuning while phases are led into each other
BLOCK_SECONDS, CONTEXT_SECONDS = 4.0, 0.4  # of the source, in which attacks are sought
HOLD = 0.42  # of the window, to each side of an attack: what is kept at the source's own pace
SHARE = 0.45  # of the room between two attacks that each of them may take
LIFT = 2.0  # in power: a bin that rises more at an attack belongs to it
LOWEST_RATE, HIGHEST_RATE = 1.0 / 64.0, 64.0


@dataclass(frozen=True)
class _Attack:
    """Something struck at a source ``place``, heard at ``spot``; ``left`` and ``right`` frames of it are kept as they are."""

    place: int
    spot: int
    left: int
    right: int


@dataclass(frozen=True)
class Segment:
    """A stretch of the result made by itself: ``sound`` is to be added from frame ``start`` on."""

    start: int
    sound: Audio


class Stretcher:
    """Reads a song at ``rate`` source frames for every frame of the result, pitch unchanged.

    song : float32 ``[channels, frames]``, silent outside; kept, not changed.
    sample_rate : frames per second.  rate : 1/64 to 64; 0.5 makes the song twice as long.
    """

    def __init__(self, song: Audio, sample_rate: float, rate: float) -> None:
        check_audio(song)
        check_range("rate", rate, LOWEST_RATE, HIGHEST_RATE, "×")
        self._song = song
        self._rate = rate
        self.window = max(64, 2 ** round(np.log2(WINDOW_SECONDS * sample_rate)))
        self.hop = self.window // OVERLAP
        self._period = max(4, round(ANCHOR_SECONDS * sample_rate / self.hop))
        self._sample_rate = sample_rate
        self._block = max(1, round(BLOCK_SECONDS * sample_rate))
        self._anchors: dict[int, int] = {}
        self._found: dict[int, Attacks] = {}
        angles = 2.0 * np.pi * np.arange(self.window) / self.window
        self._shape = (0.5 - 0.5 * np.cos(angles)).astype(np.float32)
        self._gain = np.float32(1.0 / (0.375 * OVERLAP))

    def segments(self, start: int, stop: int) -> range:
        """The numbers of the segments that sound between frames ``start`` and ``stop`` of the result."""
        period = self._period * self.hop
        half_window = self.window // 2
        first = (start - half_window) // period - 1
        last = (stop + half_window) // period
        while self._anchor(first + 1) * self.hop + half_window <= start:
            first += 1
        while last > first and self._anchor(last) * self.hop - half_window >= stop:
            last -= 1
        return range(first, last + 1)

    def segment(self, number: int) -> Segment:
        """Make one segment of the result."""
        first, last = self._anchor(number), self._anchor(number + 1)
        frames = np.arange(first, last + 1)
        attacks = self._attacks_between(frames[0] * self.hop, frames[-1] * self.hop)
        centres = self._warp(attacks, frames * self.hop)
        now = self._spectra(centres)
        before = self._spectra(centres - self.hop)
        turned = _rotate(now, before, self._fresh(attacks, frames * self.hop, now.shape[2]))
        sound = scipy.fft.irfft(turned[:-1], axis=-1, overwrite_x=True)
        out = np.zeros((self._song.shape[0], (last - first - 1) * self.hop + self.window), np.float32)
        _overlap_add(sound, self._shape * self._gain, self.hop, out)
        return Segment(first * self.hop - self.window // 2, out)

    # -- attacks -------------------------------------------------------------------------------------------

    def _attacks_between(self, start: int, stop: int) -> list[_Attack]:
        """Attacks that lie between two frames of the result, or reach into it, each with the room it has."""
        margin = self._period * self.hop
        source = (start - margin) * self._rate, (stop + margin) * self._rate
        blocks = range(int(source[0] // self._block), int(source[1] // self._block) + 1)
        places = np.concatenate([self._block_attacks(block).frames for block in blocks])
        spots = np.round(places / self._rate).astype(np.int64)
        most = round(HOLD * self.window)
        attacks = []
        for i, (place, spot) in enumerate(zip(places, spots, strict=True)):
            left = most if i == 0 else min(most, int(SHARE * min(place - places[i - 1], spot - spots[i - 1])))
            right = (
                most
                if i + 1 == len(places)
                else min(most, int(SHARE * min(places[i + 1] - place, spots[i + 1] - spot)))
            )
            if spot + right > start - self.window and spot - left < stop + self.window:
                attacks.append(_Attack(int(place), int(spot), left, right))
        return attacks

    def _block_attacks(self, block: int) -> Attacks:
        """The attacks of one block of the source, judged with a little of its neighbours."""
        if block not in self._found:
            context = round(CONTEXT_SECONDS * self._sample_rate)
            start = block * self._block
            inside = start < self._song.shape[1] and start + self._block > 0
            found = Attacks(np.zeros(0, np.int64), np.zeros(0))
            if inside:
                found = find_attacks(
                    _excerpt(self._song, start - context, self._block + 2 * context), self._sample_rate
                )
            frames = found.frames + start - context
            kept = (frames >= start) & (frames < start + self._block)
            self._found[block] = Attacks(frames[kept], found.strengths[kept])
        return self._found[block]

    def _warp(self, attacks: list[_Attack], places: np.ndarray) -> np.ndarray:
        """The source frame for every frame of the result: at the source's own pace around attacks."""
        if not attacks:
            return np.round(places * self._rate).astype(np.int64)
        knots = [(a.spot + d, a.place + d) for a in attacks for d in (-a.left, a.right)]
        ends = [min(int(places[0]), knots[0][0]) - 1, max(int(places[-1]), knots[-1][0]) + 1]
        rate = self._rate
        first, last = (
            (ends[0], knots[0][1] - (knots[0][0] - ends[0]) * rate),
            (ends[1], knots[-1][1] + (ends[1] - knots[-1][0]) * rate),
        )
        x, y = np.array([first, *knots, last], dtype=np.float64).T
        return np.round(np.interp(places, x, y)).astype(np.int64)

    def _fresh(self, attacks: list[_Attack], places: np.ndarray, bins: int) -> np.ndarray:
        """Where phases start afresh, bool ``[frames, bins]``: bins that an attack lifts, while it is heard."""
        fresh = np.zeros((len(places), bins), np.bool_)
        for attack in attacks:
            held = (places >= attack.spot - attack.left) & (places <= attack.spot + attack.right)
            if held.any():
                fresh[held] |= self._lifted(attack)
        return fresh

    def _lifted(self, attack: _Attack) -> np.ndarray:
        """Bins with clearly more power just after an attack than just before it."""
        around = np.array([attack.place - self.window // 2, attack.place + self.window // 4])
        power = np.sum(np.abs(self._spectra(around)) ** 2, axis=1)
        return np.asarray(power[1] > LIFT * power[0])

    # -- anchors -------------------------------------------------------------------------------------------

    def _anchor(self, number: int) -> int:
        """The frame at which all phases start afresh: at the strongest attack in a quarter of a period."""
        if number not in self._anchors:
            self._anchors[number] = self._choose_anchor(number)
        return self._anchors[number]

    def _choose_anchor(self, number: int) -> int:
        first = number * self._period
        last = first + self._period // ANCHOR_SEARCH
        low, high = first * self.hop * self._rate, last * self.hop * self._rate
        blocks = [self._block_attacks(b) for b in range(int(low // self._block), int(high // self._block) + 1)]
        places = np.concatenate([block.frames for block in blocks])
        strengths = np.concatenate([block.strengths for block in blocks])
        inside = (places >= low) & (places < high)
        if not inside.any():
            return first
        strongest = places[inside][np.argmax(strengths[inside])]
        return min(last, max(first, round(strongest / self._rate / self.hop)))

    def _spectra(self, centres: np.ndarray) -> Spectra:
        """Windowed spectra ``[frames, channels, bins]`` around the given source frames."""
        half = self.window // 2
        low = int(centres[0]) - half
        part = _excerpt(self._song, low, int(centres[-1]) + half - low)
        grains = np.empty((len(centres), part.shape[0], self.window), np.float32)
        for grain, centre in zip(grains, centres, strict=True):
            start = int(centre) - half - low
            np.multiply(part[:, start : start + self.window], self._shape, out=grain)
        return np.asarray(scipy.fft.rfft(grains, axis=-1, overwrite_x=True), dtype=np.complex64)


def _excerpt(song: Audio, start: int, frames: int) -> Audio:
    """``frames`` frames of the song from ``start`` on, silence where there is none."""
    stop = start + frames
    inside = song[:, max(0, min(start, song.shape[1])) : max(0, min(stop, song.shape[1]))]
    left = min(frames, max(0, -start))
    return np.pad(inside, ((0, 0), (left, frames - left - inside.shape[1])))


def _rotate(now: Spectra, before: Spectra, fresh: np.ndarray) -> Spectra:
    """Turn all frames between two anchors so that they follow each other one hop apart."""
    frames, _, bins = now.shape
    owners = np.empty((frames, bins), np.int32)
    _find_peaks(now, owners)
    forward = np.ones((frames, bins), np.complex64)
    backward = np.ones((frames, bins), np.complex64)
    _forwards(now, before, owners, fresh, forward)
    _backwards(now, before, owners, fresh, backward)
    _meet(forward, backward, fresh)
    _turn(now, forward)
    return now


@njit(cache=True, nogil=True)
def _find_peaks(spectra, owners):  # type: ignore[no-untyped-def]
    """``owners[m, k]`` is the peak whose region bin k belongs to; regions end at the lowest bin between."""
    frames, channels, bins = spectra.shape
    power = np.empty(bins, np.float32)
    for m in range(frames):
        power[:] = 0.0
        for c in range(channels):
            row = spectra[m, c]
            for k in range(bins):
                power[k] += row[k].real * row[k].real + row[k].imag * row[k].imag
        peak, edge = -1, 0
        lowest, lowest_at = np.float32(np.inf), 0
        for k in range(bins):
            if _is_peak(power, k):
                stop = lowest_at if peak >= 0 else 0
                for j in range(edge, stop):
                    owners[m, j] = peak
                peak, edge, lowest, lowest_at = k, stop, np.float32(np.inf), k + 1
            elif power[k] < lowest:
                lowest, lowest_at = power[k], k
        for j in range(edge, bins):
            owners[m, j] = max(peak, 0)


@njit(cache=True, nogil=True)
def _is_peak(power, k):  # type: ignore[no-untyped-def]
    """Higher than two bins to each side; of equal ones the lowest."""
    here, last = power[k], len(power) - 1
    if here <= 0.0 or (k > 0 and power[k - 1] >= here) or (k < last and power[k + 1] > here):
        return False
    return not ((k > 1 and power[k - 2] >= here) or (k < last - 1 and power[k + 2] > here))


@njit(cache=True, nogil=True)
def _direction(re, im):  # type: ignore[no-untyped-def]
    """The complex number of length 1 in a direction; 1 where there is none."""
    length = np.sqrt(re * re + im * im)
    if length < 1e-30:
        return np.complex64(1.0)
    return np.complex64(complex(re / length, im / length))


@njit(cache=True, nogil=True)
def _advance(late, early, k):  # type: ignore[no-untyped-def]
    """Σ over channels of ``late · conj(early)`` at bin k: the turn from one to the other."""
    re, im = 0.0, 0.0
    for c in range(late.shape[0]):
        a, b = late[c, k], early[c, k]
        re += float(a.real) * b.real + float(a.imag) * b.imag
        im += float(a.imag) * b.real - float(a.real) * b.imag
    return re, im


@njit(cache=True, nogil=True)
def _forwards(now, before, owners, fresh, turns):  # type: ignore[no-untyped-def]
    """Laroche and Dolson's propagation: a peak's phase grows by what it grew in one hop of the source."""
    bins = now.shape[2]
    for m in range(1, now.shape[0]):
        for k in range(bins):
            if owners[m, k] == k:
                re, im = _advance(now[m - 1], before[m], k)
                turns[m, k] = _direction(re, im) * turns[m - 1, k]
        for k in range(bins):
            turns[m, k] = np.complex64(1.0) if fresh[m, k] else turns[m, owners[m, k]]


@njit(cache=True, nogil=True)
def _backwards(now, before, owners, fresh, turns):  # type: ignore[no-untyped-def]
    """The same from the last frame down to the first."""
    bins = now.shape[2]
    for m in range(now.shape[0] - 2, -1, -1):
        for k in range(bins):
            if owners[m, k] == k:
                re, im = _advance(before[m + 1], now[m], k)
                turns[m, k] = _direction(re, im) * turns[m + 1, k]
        for k in range(bins):
            turns[m, k] = np.complex64(1.0) if fresh[m, k] else turns[m, owners[m, k]]


@njit(cache=True, nogil=True)
def _meet(forward, backward, fresh):  # type: ignore[no-untyped-def]
    """Lead the forward angles into the backward ones, bin by bin; result in ``forward``.

    That is done between the last attack that struck a bin and the anchor; where the anchor is an attack of that
    bin, nothing has to be met. What lies between both is at most half a turn. It is spread over more frames the
    lower the bin is, so that no partial is detuned by more than a few cents on the way.
    """
    frames, bins = forward.shape
    for k in range(bins):
        if fresh[frames - 1, k]:
            continue
        last = 0
        for m in range(frames - 1):
            if fresh[m, k]:
                last = m
        room = frames - last
        blend = max(1, min(room - 2, max(SHORTEST_BLEND, BLEND_FRAME_BINS // (k + 1))))
        start = last + (room - blend) // 2
        middle = start + blend // 2
        for side in (-1, 1):
            gap = np.angle(backward[middle, k] * np.conj(forward[middle, k]))
            m = middle if side == 1 else middle - 1
            while start <= m < start + blend:
                here = np.angle(backward[m, k] * np.conj(forward[m, k]))
                gap = here + 2.0 * np.pi * np.round((gap - here) / (2.0 * np.pi))
                angle = gap * (m - start + 1) / (blend + 1)
                forward[m, k] *= np.complex64(complex(np.cos(angle), np.sin(angle)))
                m += side
        for m in range(start + blend, frames):
            forward[m, k] = backward[m, k]


@njit(cache=True, nogil=True)
def _turn(spectra, turns):  # type: ignore[no-untyped-def]
    for m in range(spectra.shape[0]):
        for c in range(spectra.shape[1]):
            for k in range(spectra.shape[2]):
                spectra[m, c, k] *= turns[m, k]


@njit(cache=True, nogil=True)
def _overlap_add(grains, shape, hop, out):  # type: ignore[no-untyped-def]
    for m in range(grains.shape[0]):
        for c in range(grains.shape[1]):
            place = out[c, m * hop : m * hop + len(shape)]
            grain = grains[m, c]
            for n in range(len(shape)):
                place[n] += grain[n] * shape[n]
