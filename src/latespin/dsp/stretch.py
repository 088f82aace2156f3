"""Time-stretching a full mix, its pitch held: a phase vocoder with locked phases.

* Phase advances are measured over exactly one synthesis hop, from two analysis frames that far apart,
  so nothing has to be unwrapped (M. Puckette, "Phase-locked vocoder", WASPAA 1995); the two lie evenly
  around the middle between the frames to be joined, so that gliding tones are followed without a lag.
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

from latespin.dsp.attacks import AttackMap
from latespin.dsp.types import Audio, Spectra, check_audio, check_range

WINDOW_SECONDS = 0.093
OVERLAP = 4
ANCHOR_SECONDS = 4.0
ANCHOR_SEARCH = 4  # the part of that in which the anchor may lie
SHORTEST_BLEND = 16  # frames
BLEND_FRAME_BINS = 1154  # frames × bin: at most 3 cents of detuning while phases are led into each other
HOLD = 0.42  # of the window, to each side of an attack: what is kept at the source's own pace
RECOVER_SECONDS = 0.3  # of the result, to each side of an attack: over which that is made up for
SHARE = 0.7  # of that room which the hold may take
STEEPEST_SLOPE = 2.6  # tangent of the steepest turn from bin to bin that is trusted
FAINT = 1e-4  # of a peak's power: bins below it lean as their neighbour does
MOST_LEAN = 3.0
LIFT = 2.0  # in power: a bin that rises more at an attack belongs to it
LOWEST_RATE, HIGHEST_RATE = 1.0 / 64.0, 64.0


@dataclass(frozen=True)
class _Attack:
    """Something struck at a source ``place`` and heard at ``spot``.

    hold : frames before and after it that go at the source's own pace.  room : frames before and after it over
    which that is made up for.
    """

    place: int
    spot: int
    room: tuple[int, int]
    hold: tuple[int, int]


@dataclass(frozen=True)
class Segment:
    """A stretch of the result made by itself: ``sound`` is to be added from frame ``start`` on."""

    start: int
    sound: Audio


@dataclass(frozen=True)
class Grains:
    """Frames of the result before their phases are set.

    now, advance : spectra ``[frames, channels, bins]``, and what their phases grow by from the frame before.
    growth : ``[frames]``, how many times as long the song is there.  fresh : bool ``[frames, bins]``, struck anew.
    """

    now: Spectra
    advance: Spectra
    growth: np.ndarray
    fresh: np.ndarray


class Stretcher:
    """Reads a song at ``rate`` source frames for every frame of the result, pitch unchanged.

    song : float32 ``[channels, frames]``, silent outside; kept, not changed.
    sample_rate : frames per second.  rate : 1/64 to 64; 0.5 makes the song twice as long.
    attacks : those of the song, where they are kept for several stretchers.
    """

    def __init__(self, song: Audio, sample_rate: float, rate: float, attacks: AttackMap | None = None) -> None:
        check_audio(song)
        check_range("rate", rate, LOWEST_RATE, HIGHEST_RATE, "×")
        self._song = song
        self.rate = rate
        self.channels = int(song.shape[0])
        self.window = max(64, 2 ** round(np.log2(WINDOW_SECONDS * sample_rate)))
        self.hop = self.window // OVERLAP
        self._period = max(4, round(ANCHOR_SECONDS * sample_rate / self.hop))
        self._sample_rate = sample_rate
        self._attack_map = attacks or AttackMap(song, sample_rate)
        self._anchors: dict[int, int] = {}
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
        grains = self.grains(first, last)
        owners, lean = regions(grains)
        forward, backward = lean.copy(), lean.copy()
        _forwards(grains.now, grains.advance, owners, grains.fresh, lean, forward)
        _backwards(grains.now, grains.advance, owners, grains.fresh, lean, backward)
        _meet(forward, backward, owners, grains.fresh)
        return Segment(first * self.hop - self.window // 2, self.sound(grains.now[:-1], forward[:-1]))

    def rush(self, start: int) -> "Rush":
        """The result from a frame on, at once: phases run forwards from there only, whatever the anchors."""
        return Rush(self, start)

    def grains(self, first: int, last: int) -> "Grains":
        """All that is known of the frames ``first`` to ``last``."""
        places = np.arange(first - 1, last + 2) * self.hop
        attacks = self._attacks_between(int(places[1]), int(places[-2]))
        around = self._warp(attacks, places)
        centres = around[1:-1]
        growth = (2.0 * self.hop) / np.maximum(1.0, around[2:] - around[:-2])
        between = (around[1:-1] + around[:-2]) // 2
        now, advance = self._spectra(centres), self._spectra(between + self.hop // 2)
        advance *= np.conj(self._spectra(between - self.hop // 2))
        return Grains(now, advance, growth, self._fresh(attacks, places[1:-1], now.shape[2]))

    def sound(self, spectra: Spectra, turns: Spectra) -> Audio:
        """Frames turned and added up."""
        _turn(spectra, turns)
        grains = scipy.fft.irfft(spectra, axis=-1, overwrite_x=True)
        out = np.zeros((self._song.shape[0], (len(grains) - 1) * self.hop + self.window), np.float32)
        _overlap_add(grains, self._shape * self._gain, self.hop, out)
        return out

    # -- attacks -------------------------------------------------------------------------------------------

    def _attacks_between(self, start: int, stop: int) -> list[_Attack]:
        """Attacks that lie between two frames of the result, or reach into it, each with the room it has."""
        margin = self._period * self.hop
        places = self._attack_map.between((start - margin) * self.rate, (stop + margin) * self.rate).frames
        spots = np.round(places / self.rate).astype(np.int64)
        hold, recover = round(HOLD * self.window), round(RECOVER_SECONDS * self._sample_rate)
        attacks = []
        for i, (place, spot) in enumerate(zip(places, spots, strict=True)):
            left, right = recover, recover
            if i > 0:
                left = min(left, (spot - spots[i - 1]) // 2)
            if i + 1 < len(places):
                right = min(right, (spots[i + 1] - spot) // 2)
            kept = [min(hold, int(SHARE * room * min(1.0, self.rate))) for room in (left, right)]
            if spot + right > start - self.window and spot - left < stop + self.window:
                attacks.append(_Attack(int(place), int(spot), (int(left), int(right)), (kept[0], kept[1])))
        return attacks

    def _warp(self, attacks: list[_Attack], places: np.ndarray) -> np.ndarray:
        """The source frame for every frame of the result: at the source's own pace around attacks.

        What that takes or leaves is made up for between an attack's hold and the end of its room.
        """
        knots = [(float(places[0]) - 1.0, (float(places[0]) - 1.0) * self.rate)] if not attacks else []
        for a in attacks:
            (left, right), (before, after) = a.room, a.hold
            for x, y in (
                (a.spot - left, (a.spot - left) * self.rate),
                (a.spot - before, a.place - before),
                (a.spot + after, a.place + after),
                (a.spot + right, (a.spot + right) * self.rate),
            ):
                if not knots or x > knots[-1][0]:
                    knots.append((x, y))
        x, y = np.array(knots, dtype=np.float64).T
        outside = (places < x[0]) | (places > x[-1])
        return np.asarray(np.round(np.where(outside, places * self.rate, np.interp(places, x, y))), dtype=np.int64)

    def _fresh(self, attacks: list[_Attack], places: np.ndarray, bins: int) -> np.ndarray:
        """Where phases start afresh, bool ``[frames, bins]``: bins that an attack lifts, while it is heard."""
        fresh = np.zeros((len(places), bins), np.bool_)
        for attack in attacks:
            held = (places >= attack.spot - attack.hold[0]) & (places <= attack.spot + attack.hold[1])
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
        low, high = first * self.hop * self.rate, last * self.hop * self.rate
        found = self._attack_map.between(low, high)
        places, strengths = found.frames, found.strengths
        inside = (places >= low) & (places < high)
        if not inside.any():
            return int(first)
        strongest = float(places[inside][np.argmax(strengths[inside])])
        return int(min(last, max(first, round(strongest / self.rate / self.hop))))

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


def regions(grains: Grains) -> tuple[np.ndarray, Spectra]:
    """The peak that owns each bin, and how much more than the peak each bin is turned, both ``[frames, bins]``."""
    frames, _, bins = grains.now.shape
    owners = np.empty((frames, bins), np.int32)
    lean = np.empty((frames, bins), np.complex64)
    _find_peaks(grains.now, owners)
    _lean(grains.now, owners, np.minimum(grains.growth, MOST_LEAN), lean)
    return owners, lean


class Rush:
    """A stretcher's result read in order from one frame on, without waiting for whole segments.

    It sounds as good, but its phases are not those of the segments.
    """

    BATCH = 24

    def __init__(self, stretcher: Stretcher, start: int) -> None:
        self._stretcher = stretcher
        self._frame = (start - stretcher.window // 2) // stretcher.hop
        self._ready = np.zeros((stretcher.channels, 0), np.float32)
        self._open = np.zeros((stretcher.channels, stretcher.window - stretcher.hop), np.float32)
        self._last: Spectra | None = None
        self._skip = start - (self._frame * stretcher.hop - stretcher.window // 2)

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``."""
        while self._ready.shape[1] < frames + self._skip:
            self._ready = np.concatenate((self._ready, self._next()), axis=1)
        self._ready = self._ready[:, self._skip :]
        self._skip = 0
        out, self._ready = self._ready[:, :frames], self._ready[:, frames:]
        return out

    def _next(self) -> Audio:
        """Frames finished by one more batch of grains; the first grain carries on from the batch before."""
        stretcher = self._stretcher
        grains = stretcher.grains(self._frame, self._frame + self.BATCH)
        owners, lean = regions(grains)
        turns = lean.copy()
        if self._last is not None:
            turns[0] = self._last
        _forwards(grains.now, grains.advance, owners, grains.fresh, lean, turns)
        self._last = turns[-1]
        sound = stretcher.sound(grains.now[:-1], turns[:-1])
        kept = self._open.shape[1]
        sound[:, :kept] += self._open
        done = self.BATCH * stretcher.hop
        self._open = sound[:, done:]
        self._frame += self.BATCH
        return sound[:, :done]


@njit(cache=True, nogil=True)
def _find_peaks(spectra, owners):  # type: ignore[no-untyped-def]
    """``owners[m, k]`` is the peak whose region bin k belongs to; regions end at the lowest bin between."""
    frames, _, bins = spectra.shape
    power = np.empty(bins, np.float32)
    for m in range(frames):
        _power(spectra[m], power)
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
    """Higher than its neighbours; of equal ones the lowest. Two partials may lie two bins apart."""
    here, last = power[k], len(power) - 1
    return here > 0.0 and (k == 0 or power[k - 1] < here) and (k == last or power[k + 1] <= here)


@njit(cache=True, nogil=True)
def _direction(re, im):  # type: ignore[no-untyped-def]
    """The complex number of length 1 in a direction; 1 where there is none."""
    length = np.sqrt(re * re + im * im)
    if length < 1e-60:
        return np.complex64(1.0)
    return np.complex64(complex(re / length, im / length))


@njit(cache=True, nogil=True)
def _lean(spectra, owners, growth, out):  # type: ignore[no-untyped-def]
    """How much more each bin has to be turned than its peak, for tones that glide.

    The slope of the phase over frequency is the time, from the middle of the frame, at which a bin sounds. In a
    song made longer that time grows likewise (Laroche and Dolson's scaled phase locking, with the local growth).
    Steps too steep to be trusted are left as they are.
    """
    frames, channels, bins = spectra.shape
    power = np.empty(bins, np.float32)
    for m in range(frames):
        more = np.float32(growth[m] - 1.0)
        out[m] = np.complex64(1.0)
        if abs(more) < 1e-3:
            continue
        _power(spectra[m], power)
        for direction in (1, -1):
            turn = np.complex64(1.0)
            for i in range(1, bins):
                k = i if direction == 1 else bins - 1 - i
                peak = owners[m, k]
                if (k - peak) * direction <= 0:
                    turn = np.complex64(1.0)
                    continue
                if power[k] > FAINT * power[peak]:
                    re, im = np.float32(0.0), np.float32(0.0)
                    for c in range(channels):
                        a, b = spectra[m, c, k], spectra[m, c, k - direction]
                        re -= a.real * b.real + a.imag * b.imag
                        im -= a.imag * b.real - a.real * b.imag
                    if re > 0.0 and abs(im) < STEEPEST_SLOPE * re:
                        turn *= _turned(_arc_tangent(im / re) * more)
                out[m, k] = turn


@njit(cache=True, nogil=True)
def _arc_tangent(x):  # type: ignore[no-untyped-def]
    """Arctan to 0.005 rad (S. Rajan et al., IEEE Signal Processing Magazine 23(3), 2006), many times as quick."""
    bend = np.float32(0.28125)
    if abs(x) <= 1.0:
        return x / (np.float32(1.0) + bend * x * x)
    return np.float32(np.copysign(np.pi / 2, x)) - x / (x * x + bend)


@njit(cache=True, nogil=True)
def _turned(angle):  # type: ignore[no-untyped-def]
    """The complex number of length 1 at an angle, from the tangent of its half; to 0.01 rad up to 2 rad."""
    half = np.float32(0.5) * angle
    square = half * half
    tangent = half * (np.float32(1.0) + square * (np.float32(1 / 3) + square * np.float32(2 / 15)))
    norm = np.float32(1.0) / (np.float32(1.0) + tangent * tangent)
    return np.complex64(complex((np.float32(1.0) - tangent * tangent) * norm, np.float32(2.0) * tangent * norm))


@njit(cache=True, nogil=True)
def _power(spectra, out):  # type: ignore[no-untyped-def]
    """Power of every bin, all channels added up."""
    out[:] = 0.0
    for c in range(spectra.shape[0]):
        row = spectra[c]
        for k in range(len(out)):
            out[k] += row[k].real * row[k].real + row[k].imag * row[k].imag


@njit(cache=True, nogil=True)
def _step(earlier, later, advance, k):  # type: ignore[no-untyped-def]
    """Σ over channels of ``earlier · conj(later) · advance`` at bin k.

    Its angle is how much more the later frame has to be turned than the earlier one.
    """
    total = complex(0.0, 0.0)
    for c in range(earlier.shape[0]):
        total += complex(earlier[c, k]) * complex(later[c, k]).conjugate() * complex(advance[c, k])
    return total


@njit(cache=True, nogil=True)
def _forwards(now, advance, owners, fresh, lean, turns):  # type: ignore[no-untyped-def]
    """Laroche and Dolson's propagation: a peak's phase grows by what it grows in one hop of the source."""
    bins = now.shape[2]
    for m in range(1, now.shape[0]):
        for k in range(bins):
            if owners[m, k] == k:
                turn = _step(now[m - 1], now[m], advance[m], k)
                turns[m, k] = _direction(turn.real, turn.imag) * turns[m - 1, k]
        for k in range(bins):
            turns[m, k] = np.complex64(1.0) if fresh[m, k] else turns[m, owners[m, k]] * lean[m, k]


@njit(cache=True, nogil=True)
def _backwards(now, advance, owners, fresh, lean, turns):  # type: ignore[no-untyped-def]
    """The same from the last frame down to the first."""
    bins = now.shape[2]
    for m in range(now.shape[0] - 2, -1, -1):
        for k in range(bins):
            if owners[m, k] == k:
                turn = _step(now[m], now[m + 1], advance[m + 1], k)
                turns[m, k] = _direction(turn.real, -turn.imag) * turns[m + 1, k]
        for k in range(bins):
            turns[m, k] = np.complex64(1.0) if fresh[m, k] else turns[m, owners[m, k]] * lean[m, k]


@njit(cache=True, nogil=True)
def _meet(forward, backward, owners, fresh):  # type: ignore[no-untyped-def]
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
        peak = owners[last + room // 2, k]
        blend = max(1, min(room - 2, max(SHORTEST_BLEND, BLEND_FRAME_BINS // (peak + 1))))
        start = last + (room - blend) // 2
        middle = start + blend // 2
        whole = np.angle(backward[middle, peak] * np.conj(forward[middle, peak]))
        for side in (-1, 1):
            gap = whole  # all bins of a peak go the same way round
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
