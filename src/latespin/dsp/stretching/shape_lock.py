"""Keeping the shape of pitch pulses: partials of one voice move as one.

Each partial carries its phase on by itself, so that small errors add up and the partials of a gliding voice come apart: its pulses
spread out, which sounds distant and hollow. Shape-invariant stretching (T. F. Quatieri and R. J. McAulay, "Shape invariant time-scale
and pitch modification of speech", IEEE Trans. Signal Processing 40(3), 1992; A. Röbel, "A shape-invariant phase vocoder for speech
transformation", DAFx 2010) delays all partials by the same time. Own design: where a frame has one period, we find the delay that fits
the phase changes of its partials best (the peak of the cross-correlation of the frame with its stretched form), and move the phases
towards it. Steady chords have no such period and are left as they are.
"""

import numpy as np

from latespin.dsp.fast_math import angle_of, direction_of, parabola_top
from latespin.dsp.kernels import kernel

LONGEST_DELAY_SECONDS = 0.006
SHORTEST_PERIOD_SECONDS, LONGEST_PERIOD_SECONDS = 0.002, 0.0125
STEP_SECONDS = 9e-5  # of the search; the last bit by a parabola
SEARCH_HZ = 4000.0  # period and delay are sought in the partials below
FAINTEST, UNHEARD = 1e-4, 1e-6  # of the strongest peak's power: what counts at all, and what is worth turning
LEAST_PEAKS = 4.0  # that share the sound evenly: fewer have a common period by chance
LEAST_PERIODIC = 0.9  # of the amplitude of a frame, that repeats after the period
LEAST_PERIODIC_BAND, LEAST_COHERENT = 0.65, 0.7
FIRST_BAND_HZ = 1250.0  # bands are an octave wide above
PULL = 0.25  # of the way to the common delay in a frame
TOLERATED = 0.2  # radians by which a partial may stray from it
LOWEST_BIN = 4


@kernel(error_model="numpy")
def lock_shape(power, peak_of_bin, turns, rate, periodic_before):  # type: ignore[no-untyped-def]
    """Lead the turns of a frame's peaks towards one delay where the frame is periodic; whether it is.

    power, peak_of_bin, turns : ``[bins]`` of one frame; the turns of peaks are changed.  rate : frames per second.
    periodic_before : whether the frame before was. Only then what has come apart is turned all the way.
    """
    hertz = rate / (2 * (len(power) - 1))
    peaks, voiced = _peaks(power, peak_of_bin, SEARCH_HZ / hertz)
    amplitudes = np.sqrt(power[voiced])
    total = amplitudes.sum()
    if total * total <= LEAST_PEAKS * power[voiced].sum():
        return False
    turn = np.float32(2.0 * np.pi * hertz / rate)
    step, longest = STEP_SECONDS * rate, LONGEST_DELAY_SECONDS * rate
    shares = (amplitudes / total).astype(np.complex64)
    speeds = np.empty(len(voiced), np.float32)
    for i in range(len(voiced)):
        speeds[i] = turn * _exact(power, voiced[i])
    period, periodic = _best_delay(shares, speeds, SHORTEST_PERIOD_SECONDS * rate, LONGEST_PERIOD_SECONDS * rate, step)
    if periodic <= LEAST_PERIODIC:
        return False
    for i in range(len(voiced)):
        shares[i] *= turns[voiced[i]]
    delay, _ = _best_delay(shares, (turn * voiced).astype(np.float32), -longest, longest, step)
    _lead_bands(power, peaks, turns, FIRST_BAND_HZ / hertz, turn * period, turn * delay, periodic_before)
    return True


@kernel(error_model="numpy")
def _peaks(power, peak_of_bin, highest):  # type: ignore[no-untyped-def]
    """All peaks worth turning, and those below a bin that are not faint."""
    strongest = power[LOWEST_BIN : int(highest)].max()
    heard, faint = np.float32(UNHEARD) * strongest, np.float32(FAINTEST) * strongest
    found, voiced = np.empty(len(power) // 2 + 1, np.int64), np.empty(len(power) // 2 + 1, np.int64)
    count, counted = 0, 0
    for k in range(LOWEST_BIN, len(power) - 1):
        if peak_of_bin[k] == k and power[k] > heard:
            found[count] = k
            count += 1
            if k < highest and power[k] > faint:
                voiced[counted] = k
                counted += 1
    return found[:count], voiced[:counted]


@kernel(error_model="numpy")
def _exact(power, k):  # type: ignore[no-untyped-def]
    """The place of a peak between bins."""
    tiny = np.float32(1e-24)
    return k + parabola_top(np.log(power[k - 1] + tiny), np.log(power[k] + tiny), np.log(power[k + 1] + tiny))


@kernel(error_model="numpy")
def _best_delay(shares, speeds, shortest, longest, step):  # type: ignore[no-untyped-def]
    """The delay, in frames, that turns of partials come nearest to, and how near: 1 where all are turned as by it.

    shares : directions, as long as a partial's share of the amplitude.  speeds : radians per frame of each.
    """
    sums = np.empty(int((longest - shortest) / step) + 1, np.float32)
    re, im = np.empty(len(shares), np.float32), np.empty(len(shares), np.float32)
    cos, sin = np.empty(len(shares), np.float32), np.empty(len(shares), np.float32)
    for i in range(len(shares)):
        here, onwards = shares[i] * direction_of(-speeds[i] * shortest), direction_of(-speeds[i] * step)
        re[i], im[i], cos[i], sin[i] = here.real, here.imag, onwards.real, onwards.imag
    for j in range(len(sums)):
        sums[j] = _sum_and_turn(re, im, cos, sin)
    best = min(max(int(np.argmax(sums)), 1), len(sums) - 2)
    over = min(1.0, max(-1.0, parabola_top(sums[best - 1], sums[best], sums[best + 1])))
    most = sums[best] + 0.25 * over * (sums[best + 1] - sums[best - 1])
    return shortest + (best + over) * step, most


@kernel(error_model="numpy", fastmath=True)
def _sum_and_turn(re, im, cos, sin):  # type: ignore[no-untyped-def]
    """The sum of ``re``; then each number is turned by its step."""
    total = np.float32(0.0)
    for i in range(len(re)):
        total += re[i]
        re[i], im[i] = re[i] * cos[i] - im[i] * sin[i], re[i] * sin[i] + im[i] * cos[i]
    return total


@kernel(error_model="numpy")
def _lead_bands(power, peaks, turns, first_edge, period, delay, periodic_before):  # type: ignore[no-untyped-def]
    """Lead the peaks of every octave that is together, or repeats with the period. ``period``, ``delay`` : radians per bin."""
    first = 0
    while first < len(peaks):
        edge = max(first_edge, 2.0 * peaks[first])
        last = first
        while last < len(peaks) and peaks[last] < edge:
            last += 1
        band = peaks[first:last]
        if _together(power, band, turns, delay) > LEAST_COHERENT:
            _lead(turns, band, delay, PULL, TOLERATED)
        elif periodic_before and _repeating(power, band, period) > LEAST_PERIODIC_BAND:
            _lead(turns, band, delay, 1.0, 0.0)
        first = last


@kernel(error_model="numpy")
def _together(power, band, turns, delay):  # type: ignore[no-untyped-def]
    """How near the turns of a band's peaks are to a delay: 1 where all are as by it."""
    total, near = np.float32(1e-30), np.float32(0.0)
    for k in band:
        share = np.sqrt(power[k])
        total += share
        near += share * (turns[k] * direction_of(-delay * k)).real
    return near / total


@kernel(error_model="numpy")
def _repeating(power, band, period):  # type: ignore[no-untyped-def]
    """How much of a band's amplitude repeats after a period."""
    total, near = np.float32(1e-30), np.float32(0.0)
    for k in band:
        share = np.sqrt(power[k])
        total += share
        near += share * direction_of(period * _exact(power, k)).real
    return near / total


@kernel(error_model="numpy")
def _lead(turns, peaks, delay, part, tolerated):  # type: ignore[no-untyped-def]
    """Turn peaks a ``part`` of the way to ``delay`` times their bin, as far as they are further off than ``tolerated``."""
    for k in peaks:
        off = turns[k].conjugate() * direction_of(delay * k)
        angle = angle_of(off.real, off.imag)
        angle -= min(tolerated, max(-tolerated, angle))
        turns[k] *= direction_of(part * angle)
