"""Gliding tones: their spectra when the glide becomes slower or faster.

Under a Gaussian window exp(−at²/2) the tone exp(ict²/2) has, around its peak, a logarithmic magnitude of curvature
a/(a²+c²) and a phase of curvature −c/(a²+c²) (see J. S. Abel and J. O. Smith, "AM/FM rate estimation for time-varying
sinusoidal modeling", ICASSP 2005). Their quotient β = c/a becomes β/g where the song is g times as long. From that
follows (own derivation): the region of a peak is drawn together about it by √M, M = (1+β²)/(1+β²/g²), made higher by M^¼,
and its phases, as far as they bend, flatter by g.
"""

import numpy as np

from latespin.dsp.fast_math import angles_of
from latespin.dsp.kernels import kernel

LEAST_BEND = np.float32(0.01)  # radians, of a peak's phase: below it a tone is taken as steady
LEAST_CURVATURE = np.float32(1e-3)  # of a peak, nepers for each bin squared
FURTHEST_MISS = np.float32(0.6)  # bins by which a glide may miss the peak it should arrive at
MOST_STRAY = np.float32(0.3)  # of the way of a frame by which a clear glide may miss it
LEAST_PURE, MOST_PURE = (
    np.float32(1.3),
    np.float32(2.1),
)  # curvature · (1 + β²), which is 1/a, of single tones under a Hann window
NO_POWER = np.float32(1e-24)
BEND, CURVATURE, PURITY, NARROWER, WAY, WORK = range(6)  # rows of what is measured at the bins of a frame
ROWS = WORK + 2
HALF, ONE = np.float32(0.5), np.float32(1.0)


@kernel(error_model="numpy", fastmath={"contract"})
def find_tops(level, out):  # type: ignore[no-untyped-def]
    """Where the parabola through each bin and its neighbours is highest, bins; where there is no top, the bin."""
    last = len(level) - 1
    out[0], out[last] = np.float32(0.0), np.float32(last)
    for k in range(1, last):
        bend = np.float32(2.0) * level[k] - level[k - 1] - level[k + 1]
        off = (level[k + 1] - level[k - 1]) / (np.float32(2.0) * max(bend, np.float32(1e-6)))
        out[k] = np.float32(k) + (off if bend > np.float32(1e-6) else np.float32(0.0))


@kernel(error_model="numpy", fastmath={"contract"})
def measure_glides(level, spectra, g, hop, out):  # type: ignore[no-untyped-def]
    """What a glide would be that had its peak at a bin, for all bins of a frame, into the rows of ``out``.

    level : logarithmic powers.  spectra : ``[channels, bins]``.  g : how many times as long it becomes.  hop : of the result, in frames.
    """
    bins = len(level)
    re, im = out[WORK], out[WORK + 1]
    re[:], im[:] = np.float32(0.0), np.float32(0.0)
    for c in range(spectra.shape[0]):  # the second difference of the phase: X(k + 1) X(k − 1) / X(k)²
        x = spectra[c].view(np.float32)
        for k in range(1, bins - 1):
            here, beside = x[2 * k], x[2 * k + 1]
            up = x[2 * k + 2] * here + x[2 * k + 3] * beside, x[2 * k + 3] * here - x[2 * k + 2] * beside
            down = x[2 * k - 2] * here + x[2 * k - 1] * beside, x[2 * k - 1] * here - x[2 * k - 2] * beside
            re[k] += up[0] * down[0] - up[1] * down[1]
            im[k] += up[0] * down[1] + up[1] * down[0]
    angles_of(re, im, out[BEND])
    bend, curvature, purity, narrower, way = out[BEND], out[CURVATURE], out[PURITY], out[NARROWER], out[WAY]
    bins_of_a_hop, slower = np.float32(np.pi / (bins - 1) * hop / g), np.float32(1.0 / (g * g))
    for k in range(1, bins - 1):
        curvature[k] = level[k] - HALF * (level[k - 1] + level[k + 1])
        steep = max(curvature[k], LEAST_CURVATURE)
        beta = bend[k] / steep
        squared = beta * beta
        purity[k] = steep * (ONE + squared)
        narrower[k] = (ONE + squared) / (ONE + squared * slower)
        way[k] = -beta * bins_of_a_hop / purity[k]


@kernel(error_model="numpy")
def redraw_chirps(glide, level, phase, all_tops, peak_of_bin, m, g, turn, log_gain, via, ahead):  # type: ignore[no-untyped-def]
    """Give tones that glide the spectrum of a glide ``g`` times as slow, where a peak of frame m, not the first nor the last, clearly is one.

    A peak counts as gliding where the one it should arrive at is found a frame later or was found a frame before.
    glide, from ``measure_glides``, level and phase (float64, not wrapped) of the frame; all_tops and peak_of_bin ``[frames, bins]``.

    Sets, of the bins of those regions, ``turn`` and ``log_gain`` (what they are turned by and their magnitudes are raised by, radians and nepers) and, of peaks: ``via``, the bin
    half-way along the glide, at which its phase is best carried on from the frame before; ``ahead``, the angle it
    lacks there, since half-way may lie between two bins.
    """
    bends, curvatures, purities, narrowers, ways = (
        glide[BEND],
        glide[CURVATURE],
        glide[PURITY],
        glide[NARROWER],
        glide[WAY],
    )
    earlier, owner, later = peak_of_bin[m - 1], peak_of_bin[m], peak_of_bin[m + 1]
    tops_earlier, tops, tops_later = all_tops[m - 1], all_tops[m], all_tops[m + 1]
    bins, high, less = len(level), -1, np.float32(1.0 / g)
    while high + 1 < bins:
        low = high + 1
        peak, high = owner[low], low
        while high + 1 < bins and owner[high + 1] == peak:
            high += 1
        if not low < peak < high or curvatures[peak] < LEAST_CURVATURE or abs(bends[peak]) < LEAST_BEND:
            continue
        here, way = tops[peak], ways[peak]
        before, after = _arrival(earlier, tops_earlier, here - way), _arrival(later, tops_later, here + way)
        if before < 0 and after < 0:
            continue
        if LEAST_PURE < purities[peak] < MOST_PURE and before >= 0 and after >= 0:
            begun, ended = tops_earlier[before], tops_later[after]
            middle = HALF * (here + begun)
            k = int(middle + HALF)
            strayed = max(abs(here - begun - way), abs(ended - here - way))
            if strayed < MOST_STRAY * abs(way) and low <= k <= high and earlier[k] == before:
                via[peak] = k
                ahead[peak] = bends[peak] * way * (middle - np.float32(k)) * (narrowers[peak] * less - np.float32(g))
        _redraw(level, phase, peak, low, high, here, narrowers[peak], less, turn, log_gain)


@kernel(error_model="numpy")
def _arrival(peak_of_bin, tops, place):  # type: ignore[no-untyped-def]
    """The peak at about a place, −1 if there is none."""
    k = int(place + HALF)
    if place < np.float32(0.0) or k >= len(peak_of_bin):
        return -1
    peak = peak_of_bin[k]
    return peak if abs(tops[peak] - place) < FURTHEST_MISS else -1


@kernel(error_model="numpy")
def _redraw(level, phase, peak, low, high, centre, narrower, less, turn, log_gain):  # type: ignore[no-untyped-def]
    """Draw a region together by √narrower about its centre, raise it, and bend its phases less."""
    narrower = np.sqrt(narrower)
    higher = HALF * np.log(narrower)
    near, x = _nearest(low, high, centre + narrower * (np.float32(peak) - centre))
    moved = less * _parabola(phase, near, x) - phase[peak]
    for k in range(low, high + 1):
        near, x = _nearest(low, high, centre + narrower * (np.float32(k) - centre))
        turn[k] = less * _parabola(phase, near, x) - phase[k] - moved
        log_gain[k] = HALF * (_parabola(level, near, x) - level[k]) + higher


@kernel(error_model="numpy")
def _nearest(low, high, place):  # type: ignore[no-untyped-def]
    """The bin nearest to a place that has two neighbours in its region, and how far beyond it that is; level beyond the ends of the region."""
    first, last = np.float32(low), np.float32(high)
    place = first if place < first else place
    place = last if place > last else place
    k = np.int64(place + HALF)
    k = low + 1 if k <= low else k
    k = high - 1 if k >= high else k
    return k, place - np.float32(k)


@kernel(error_model="numpy")
def _parabola(values, k, x):  # type: ignore[no-untyped-def]
    """The value at ``k + x`` of the parabola through bin k and its neighbours."""
    left, here, right = values[k - 1], values[k], values[k + 1]
    return here + HALF * x * (right - left + x * (left - here - here + right))
