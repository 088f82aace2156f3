"""Random phases for everything but tones, so that stretched noise stays noise.

A phase vocoder turns a hiss that is stretched far into slowly wavering tones. Here a peak counts as a tone only where it
stood half a window earlier and stands half a window later, as strong within 6 dB, its phase having gone on as its
frequency says; all others get phases drawn anew for every frame, the same for all channels.
"""

import numpy as np

from latespin.dsp.fast_math import parabola_top
from latespin.dsp.kernels import kernel
from latespin.dsp.stretching.phase_kernels import power_of

LOUDER = 4.0  # in power: how far a tone's strength may lie from what it was
MOST_ERROR = 1.2  # radians by which its phase may have strayed over a window
MADE_UP = 2.0  # grains with unrelated phases overlap with half the amplitude of related ones


@kernel()
def randomise_noise(powers, before, after, peak_of_bin, drawn, phase_reset, phase_slopes, gain):  # type: ignore[no-untyped-def]
    """Mark regions that are no tones ``phase_reset``, with the phases ``drawn`` in ``phase_slopes`` and their ``gain`` made up.

    before, after : spectra ``[frames, channels, bins]`` half a window earlier and later.  powers of the frames themselves,
    drawn (complex, of length 1) and all the others : ``[frames, bins]``.
    """
    frames, channels, bins = before.shape
    earlier, later = np.empty(bins, np.float32), np.empty(bins, np.float32)
    for m in range(frames):
        here = powers[m]
        power_of(before[m], earlier)
        power_of(after[m], later)
        tone = False
        for k in range(bins):
            peak = peak_of_bin[m, k]
            if k == 0 or peak != peak_of_bin[m, k - 1]:
                tone = _stands(here, earlier, peak) and _stands(here, later, peak)
                if tone:
                    went = complex(0.0, 0.0)
                    for c in range(channels):
                        went += complex(after[m, c, peak]) * complex(before[m, c, peak]).conjugate()
                    rotate = np.exp(complex(0.0, -2.0 * np.pi * _vertex(here, peak)))
                    tone = abs(np.angle(went * rotate)) < MOST_ERROR
            if not tone:
                phase_reset[m, k] = True
                phase_slopes[m, k] = drawn[m, k]
                gain[m, k] *= MADE_UP


@kernel()
def _stands(here, other, peak):  # type: ignore[no-untyped-def]
    """Whether a peak is there in another frame, about as strong."""
    low, high = max(0, peak - 1), min(len(here), peak + 2)
    highest = low + np.argmax(other[low:high])
    inner = 0 < highest < len(here) - 1
    is_peak = inner and other[highest] >= other[highest - 1] and other[highest] >= other[highest + 1]
    return is_peak and here[peak] < LOUDER * other[highest] and other[highest] < LOUDER * here[peak]


@kernel()
def _vertex(power, k):  # type: ignore[no-untyped-def]
    """Where the parabola through three logarithmic powers is highest."""
    if k == 0 or k == len(power) - 1:
        return float(k)
    left, middle, right = np.log(power[k - 1] + 1e-24), np.log(power[k] + 1e-24), np.log(power[k + 1] + 1e-24)
    return k + parabola_top(left, middle, right)
