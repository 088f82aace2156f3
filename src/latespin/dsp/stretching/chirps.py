"""Gliding tones: their spectra when the glide becomes slower or faster.

Under a Gaussian window exp(−at²/2) the tone exp(ict²/2) has, around its peak, a logarithmic magnitude of curvature
a/(a²+c²) and a phase of curvature −c/(a²+c²) (see J. S. Abel and J. O. Smith, "AM/FM rate estimation for time-varying
sinusoidal modeling", ICASSP 2005). Their quotient β = c/a becomes β/g where the song is g times as long. From that
follows (own derivation): the region of a peak is drawn together about it by √M, M = (1+β²)/(1+β²/g²), made higher by M^¼,
and its phases, as far as they bend, flatter by g.
"""

import numpy as np
from numba import njit

from latespin.dsp.fast_math import angle_of, direction_of, parabola_top
from latespin.dsp.stretching.phase_kernels import bin_turn

LEAST_BEND = 0.01  # radians, of a peak's phase: below it a tone is taken as steady
LEAST_CURVATURE = 1e-3  # of a peak, nepers for each bin squared
FURTHEST_MISS = 0.6  # bins by which a glide may miss the peak it should arrive at
MOST_STRAY = 0.3  # of the way of a frame by which a clear glide may miss it
LEAST_PURE, MOST_PURE = 1.3, 2.1  # curvature · (1 + β²), which is 1/a, of single tones under a Hann window
NO_POWER = 1e-24


@njit(cache=True, nogil=True, error_model="numpy")
def redraw_chirps(spectra, powers, peak_of_bin, stretch_ratio, hop, phase_slopes, drawn, via, ahead, gain):  # type: ignore[no-untyped-def]
    """Give tones that glide the spectrum of a slower glide, where a peak clearly is one.

    A peak counts as gliding where the one it should arrive at is found a frame later or was found a frame before.
    spectra ``[frames, channels, bins]``, powers and peak_of_bin ``[frames, bins]``, stretch_ratio ``[frames]``, hop of the result in frames.

    Sets ``phase_slopes`` and ``drawn`` of those regions and, all ``[frames, bins]``: ``gain`` of magnitudes; ``via[m, peak]``, the bin
    half-way along the glide, at which its phase is best carried on from the frame before; ``ahead[m, peak]``, the angle it
    lacks there, since half-way may lie between two bins.
    """
    frames, _, bins = spectra.shape
    level, vertex = np.empty((frames, bins), np.float32), np.empty((frames, bins), np.float32)
    for m in range(frames):
        _levels(powers[m], level[m], vertex[m])
        for k in range(bins):
            via[m, k], ahead[m, k], gain[m, k], drawn[m, k] = k, 0.0, 1.0, False
    angle = np.empty(bins, np.float32)
    for m in range(1, frames - 1):
        g = stretch_ratio[m]
        high = -1
        while abs(g - 1.0) > 1e-3 and high + 1 < bins:
            low = high + 1
            peak = peak_of_bin[m, low]
            high = low
            while high + 1 < bins and peak_of_bin[m, high + 1] == peak:
                high += 1
            if not low < peak < high:
                continue
            curvature = level[m, peak] - 0.5 * (level[m, peak - 1] + level[m, peak + 1])
            bend = _phase_bend(spectra[m], peak)
            if curvature < LEAST_CURVATURE or abs(bend) < LEAST_BEND:
                continue
            beta = bend / curvature
            narrower = (1.0 + beta * beta) / (1.0 + beta * beta / (g * g))
            way = -beta * np.pi / (bins - 1) * (hop / g) / (curvature * (1.0 + beta * beta))
            here = vertex[m, peak]
            before, after = (
                _arrival(peak_of_bin[m - 1], vertex[m - 1], here - way),
                _arrival(peak_of_bin[m + 1], vertex[m + 1], here + way),
            )
            if before < 0 and after < 0:
                continue
            pure = LEAST_PURE < curvature * (1.0 + beta * beta) < MOST_PURE
            if pure and before >= 0 and after >= 0:
                middle = 0.5 * (here + vertex[m - 1, before])
                k = int(np.round(middle))
                strayed = max(abs(here - vertex[m - 1, before] - way), abs(vertex[m + 1, after] - here - way))
                if strayed < MOST_STRAY * abs(way) and low <= k <= high and peak_of_bin[m - 1, k] == before:
                    via[m, peak] = k
                    ahead[m, peak] = bend * way * (k - middle) * (g - narrower / g)
            _angles(spectra[m], peak, low, high, angle)
            _redraw(level[m], angle, peak, low, high, here, np.float32(np.sqrt(narrower)), g, phase_slopes[m], gain[m])
            drawn[m, low : high + 1] = True


@njit(cache=True, nogil=True, error_model="numpy")
def _levels(power, level, vertex):  # type: ignore[no-untyped-def]
    """Logarithmic power of every bin, and where the parabola through it and its neighbours is highest."""
    for k in range(len(level)):
        level[k] = np.log(power[k] + np.float32(NO_POWER))
        vertex[k] = k
    for k in range(1, len(level) - 1):
        vertex[k] += parabola_top(level[k - 1], level[k], level[k + 1])


@njit(cache=True, nogil=True, error_model="numpy")
def _arrival(peak_of_bin, vertex, place):  # type: ignore[no-untyped-def]
    """The peak at about a place, −1 if there is none."""
    k = int(np.round(place))
    if k < 0 or k >= len(peak_of_bin):
        return -1
    peak = peak_of_bin[k]
    return peak if abs(vertex[peak] - place) < FURTHEST_MISS else -1


@njit(cache=True, nogil=True, error_model="numpy")
def _phase_bend(spectra, k):  # type: ignore[no-untyped-def]
    """Second difference of the phase at a bin."""
    total = complex(0.0, 0.0)
    for c in range(spectra.shape[0]):
        here = complex(spectra[c, k]).conjugate()
        total += complex(spectra[c, k + 1]) * complex(spectra[c, k - 1]) * here * here
    return np.angle(total)


@njit(cache=True, nogil=True, error_model="numpy")
def _angles(spectra, peak, low, high, out):  # type: ignore[no-untyped-def]
    """Phases of a region relative to its peak, the alternation from bin to bin taken off, ``out[low … high]``."""
    out[peak] = 0.0
    for direction in (1, -1):
        k = peak + direction
        while low <= k <= high:
            re, im = bin_turn(spectra, k, k - direction)
            out[k] = out[k - direction] + angle_of(re, im)
            k += direction


@njit(cache=True, nogil=True, error_model="numpy")
def _redraw(level, angle, peak, low, high, centre, narrower, stretch_ratio, phase_slopes, gain):  # type: ignore[no-untyped-def]
    higher, stretch_ratio = np.float32(0.5 * np.log(narrower)), np.float32(stretch_ratio)
    still = _between(angle, low, high, centre)
    now = still + (_between(angle, low, high, centre + narrower * (peak - centre)) - still) / stretch_ratio
    for k in range(low, high + 1):
        place = centre + narrower * (k - centre)
        turn = still + (_between(angle, low, high, place) - still) / stretch_ratio - now - angle[k]
        phase_slopes[k] = direction_of(turn)
        gain[k] = np.exp(np.float32(0.5 * (_between(level, low, high, place) - level[k]) + higher))


@njit(cache=True, nogil=True, error_model="numpy")
def _between(values, low, high, place):  # type: ignore[no-untyped-def]
    """The value at a place between bins, from the parabola through the nearest three; level beyond the ends."""
    place = min(max(place, low), high)
    k = min(max(int(place + np.float32(0.5)), low + 1), high - 1)
    x = np.float32(place - k)
    left, here, right = values[k - 1], values[k], values[k + 1]
    half = np.float32(0.5) * x
    return here + half * (right - left + x * (left - here - here + right))
