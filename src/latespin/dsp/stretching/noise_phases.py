"""Random phases for everything but tones, so that stretched noise stays noise.

A phase vocoder turns a hiss that is stretched far into slowly wavering tones. Here a peak counts as a tone only where it
stood half a window earlier and stands half a window later, as strong within 6 dB, its phase having gone on as its
frequency says; all others get phases drawn anew for every frame, the same for all channels.
"""

import numpy as np

from latespin.dsp.fast_math import angle_of, direction_of, directions_of, parabola_top
from latespin.dsp.kernels import kernel
from latespin.dsp.stretching.phase_kernels import power_of

LOUDER = np.float32(4.0)  # in power: how far a tone's strength may lie from what it was
MOST_ERROR = np.float32(1.2)  # radians by which its phase may have strayed over a window
MADE_UP = np.float32(2.0)  # grains with unrelated phases overlap with half the amplitude of related ones
TINY = np.float32(1e-24)
_TURN, _HALF_TURNS = np.float32(2.0 * np.pi), np.float32(np.pi / 2.0**31)
_NEXT_FRAME, _FIRST, _SECOND, _16, _13 = (np.uint32(n) for n in (0x9E3779B9, 0x85EBCA6B, 0xC2B2AE35, 16, 13))


@kernel(error_model="numpy")
def randomise_noise(powers, before, after, peak_of_bin, first, phase_reset, phase_slopes, gain):  # type: ignore[no-untyped-def]
    """Mark regions that are no tones ``phase_reset``, with random directions as their ``phase_slopes`` and their ``gain`` made up.

    before, after : spectra ``[frames, channels, bins]`` half a window earlier and later.  powers of the frames themselves and all the others :
    ``[frames, bins]``.  first : the number of the first frame; a frame always gets the same directions.
    """
    frames, _, bins = before.shape
    earlier, later, angles = np.empty(bins, np.float32), np.empty(bins, np.float32), np.empty(bins, np.float32)
    drawn = np.empty(bins, np.complex64)
    for m in range(frames):
        here = powers[m]
        power_of(before[m], earlier)
        power_of(after[m], later)
        draw_directions(first + m, angles, drawn)
        tone = False
        for k in range(bins):
            peak = peak_of_bin[m, k]
            if k == 0 or peak != peak_of_bin[m, k - 1]:
                tone = _stands(here, earlier, peak) and _stands(here, later, peak)
                tone = tone and _goes_on(before[m], after[m], here, peak)
            if not tone:
                phase_reset[m, k] = True
                phase_slopes[m, k] = drawn[k]
                gain[m, k] *= MADE_UP


@kernel(error_model="numpy")
def draw_directions(frame, angles, out):  # type: ignore[no-untyped-def]
    """Random complex numbers of length 1: hashes of the numbers of a frame and of its bins, by the last steps of A. Appleby's MurmurHash3."""
    begin = np.uint32(np.uint32(frame) * _NEXT_FRAME)
    for k in range(len(angles)):
        hashed = np.uint32(begin + np.uint32(k))
        hashed = np.uint32((hashed ^ (hashed >> _16)) * _FIRST)
        hashed = np.uint32((hashed ^ (hashed >> _13)) * _SECOND)
        angles[k] = np.float32(np.int32(np.uint32(hashed ^ (hashed >> _16)))) * _HALF_TURNS
    directions_of(angles, out.view(np.float32))


@kernel(error_model="numpy")
def _stands(here, other, peak):  # type: ignore[no-untyped-def]
    """Whether a peak is there in another frame, about as strong."""
    low, high = max(0, peak - 1), min(len(here), peak + 2)
    highest = low
    for k in range(low + 1, high):
        highest = k if other[k] > other[highest] else highest
    inner = 0 < highest < len(here) - 1
    is_peak = inner and other[highest] >= other[highest - 1] and other[highest] >= other[highest + 1]
    return is_peak and here[peak] < LOUDER * other[highest] and other[highest] < LOUDER * here[peak]


@kernel(error_model="numpy")
def _goes_on(before, after, power, peak):  # type: ignore[no-untyped-def]
    """Whether the phase at a peak has gone on over a window as its frequency says."""
    re, im = np.float32(0.0), np.float32(0.0)
    for c in range(len(before)):
        was, became = before[c, peak], after[c, peak]
        re += became.real * was.real + became.imag * was.imag
        im += became.imag * was.real - became.real * was.imag
    due = direction_of(_TURN * _vertex(power, peak))
    return abs(angle_of(re * due.real + im * due.imag, im * due.real - re * due.imag)) < MOST_ERROR


@kernel(error_model="numpy")
def _vertex(power, k):  # type: ignore[no-untyped-def]
    """How many bins from a peak the parabola through three logarithmic powers is highest."""
    if k == 0 or k == len(power) - 1:
        return np.float32(0.0)
    return parabola_top(np.log(power[k - 1] + TINY), np.log(power[k] + TINY), np.log(power[k + 1] + TINY))
