"""The kernels of the stretch: peaks and their regions, and phase propagation.

Spectra are ``[frames, channels, bins]``; what is decided for a bin is decided for all channels together.
"""

import numpy as np

from latespin.dsp.fast_math import direction_of
from latespin.dsp.kernels import kernel
from latespin.dsp.stretching.shape_lock import lock_shape

STEEPEST_STEP = np.float32(np.arctan(2.6))  # from bin to bin, radians, that is trusted
FAINT = np.float32(1e-4)  # of a peak's power: bins below it add nothing to the slope
NO_STEP = 1e-120  # squared product of three spectra: below it there is no direction


@kernel(error_model="numpy")
def cut_grains(song, starts, shape, out):  # type: ignore[no-untyped-def]
    """Parts of a song ``[channels, frames]``, silent outside, under a window's shape: ``out[i]`` begins at frame ``starts[i]``."""
    window, frames = len(shape), song.shape[1]
    for i in range(len(starts)):
        start = starts[i]
        first, last = min(max(0, -start), window), max(min(window, frames - start), 0)
        for c in range(song.shape[0]):
            channel, grain = song[c], out[i, c]
            grain[:first], grain[last:] = np.float32(0.0), np.float32(0.0)
            if first < last:
                heard, under, made = channel[start + first : start + last], shape[first:last], grain[first:last]
                for n in range(len(made)):
                    made[n] = heard[n] * under[n]


@kernel(error_model="numpy")
def powers(spectra, out):  # type: ignore[no-untyped-def]
    """Power of every bin of every frame, ``[frames, bins]``, all channels added up."""
    for m in range(spectra.shape[0]):
        power_of(spectra[m], out[m])


@kernel(error_model="numpy")
def find_peaks(powers, peak_of_bin):  # type: ignore[no-untyped-def]
    """``peak_of_bin[m, k]`` is the peak whose region bin k belongs to; regions end at the lowest bin between."""
    frames, bins = powers.shape
    is_peak = np.empty(bins, np.bool_)
    for m in range(frames):
        power, owner = powers[m], peak_of_bin[m]
        _mark_peaks(power, is_peak)
        owner[:], first, lowest = 0, 0, np.float32(-np.inf)  # the first region begins at bin 0
        for k in range(bins):
            if is_peak[k]:
                owner[first], first, lowest = k, k + 1, np.float32(np.inf)
            else:
                lower = power[k] < lowest
                lowest, first = (power[k], k) if lower else (lowest, first)
        peak = owner[0]
        for k in range(bins):
            peak = max(peak, owner[k])
            owner[k] = peak


@kernel(error_model="numpy")
def _mark_peaks(power, is_peak):  # type: ignore[no-untyped-def]
    """Which bins are higher than their neighbours; of equal ones the lowest. Two partials may lie two bins apart."""
    last = len(power) - 1
    for k in range(1, last):
        is_peak[k] = (power[k - 1] < power[k]) & (power[k + 1] <= power[k])
    is_peak[0] = power[0] > np.float32(0.0) and power[1] <= power[0]
    is_peak[last] = power[last - 1] < power[last]


@kernel(error_model="numpy")
def add_up(steps, out):  # type: ignore[no-untyped-def]
    """The sum of all steps up to each, in double precision."""
    total = 0.0
    for k in range(len(steps)):
        total += steps[k]
        out[k] = total


@kernel(error_model="numpy")
def bin_turns(spectra, re, im):  # type: ignore[no-untyped-def]
    """From each bin's lower neighbour to it: Σ over channels of their cross-spectrum, as real and imaginary part ``[bins]``; 0 for the lowest.

    spectra : ``[channels, bins]`` of one frame. The alternation from bin to bin, which comes from a window that begins at 0, is taken off.
    """
    re[:], im[:] = np.float32(0.0), np.float32(0.0)
    for c in range(spectra.shape[0]):
        parts = spectra[c].view(np.float32)
        for k in range(1, len(re)):
            a, b, last_a, last_b = parts[2 * k], parts[2 * k + 1], parts[2 * k - 2], parts[2 * k - 1]
            re[k] -= a * last_a + b * last_b
            im[k] -= b * last_a - a * last_b


@kernel(error_model="numpy", fastmath={"contract"})
def scale_phase_slopes(power, steps, peak_of_bin, more, up, down, out):  # type: ignore[no-untyped-def]
    """How much more, radians, each bin of a frame has to be turned than its peak, where the song is ``1 + more`` times as long.

    steps : angles from each bin's lower neighbour to it.  up, down : to work in. The slope of the phase over frequency is the time, from the middle of the frame, at which a
    bin sounds. In a song made longer that time grows likewise (Laroche and Dolson's scaled phase locking, with the local growth).
    Steps too steep to be trusted are left as they are, and so are faint bins. Steps are added up over the whole frame; a region takes its part.
    """
    for k in range(len(power)):
        out[k] = FAINT * power[np.uint32(peak_of_bin[k])]
    down[0] = np.float32(0.0)
    for k in range(len(power)):
        up[k] = steps[k] * more if (power[k] > out[k]) & (abs(steps[k]) < STEEPEST_STEP) else np.float32(0.0)
    for k in range(1, len(power)):
        down[k] = steps[k] * more if (power[k - 1] > out[k - 1]) & (abs(steps[k]) < STEEPEST_STEP) else np.float32(0.0)
    upwards, downwards = np.float32(0.0), np.float32(0.0)
    for k in range(len(power)):
        upwards, downwards = upwards + up[k], downwards + down[k]
        up[k], down[k] = upwards, downwards
    for k in range(len(power)):
        peak = np.uint32(peak_of_bin[k])
        above, below = up[k] - up[peak], down[k] - down[peak]
        out[k] = above if k >= peak_of_bin[k] else below


@kernel(error_model="numpy")
def propagate_phases(now, advance, peak_of_bin, phase_reset, phase_slopes, via, ahead, rate, turns):  # type: ignore[no-untyped-def]
    """Laroche and Dolson's propagation from ``turns[0]`` on: a peak's phase grows by what it grows in one hop of the source.

    Where ``phase_reset``, the turn is that of ``phase_slopes`` alone. rate : frames per second, at which shapes are kept; 0 for not at all.
    """
    bins = now.shape[2]
    power, periodic = np.empty(bins, np.float32), False
    for m in range(1, now.shape[0]):
        _carry_peaks(now, advance, peak_of_bin, phase_slopes, via, ahead, turns, m)
        if rate > 0.0:
            power_of(now[m], power)
            periodic = lock_shape(power, peak_of_bin[m], turns[m], rate, periodic)
        _turn_regions(peak_of_bin, phase_reset, phase_slopes, turns, m)


@kernel(error_model="numpy")
def propagate_with_lows(  # type: ignore[no-untyped-def]
    now, advance, peak_of_bin, phase_reset, phase_slopes, via, ahead, rate, turns,
    low_now, low_advance, low_peak_of_bin, low_phase_reset, low_phase_slopes, low_via, low_ahead, ratio, adopted, low_turns,
):  # fmt: skip
    """:func:`propagate_phases` of two resolutions at once, whose bins lie 1 and 1/``ratio`` apart.

    Peaks of the finer one from bin ``adopted`` on are turned as those of the other, and those of the other below as the finer one's.
    """
    power, periodic = np.empty(now.shape[2], np.float32), False
    for m in range(1, now.shape[0]):
        _carry_peaks(now, advance, peak_of_bin, phase_slopes, via, ahead, turns, m)
        if rate > 0.0:
            power_of(now[m], power)
            periodic = lock_shape(power, peak_of_bin[m], turns[m], rate, periodic)
        _carry_peaks(low_now, low_advance, low_peak_of_bin, low_phase_slopes, low_via, low_ahead, low_turns, m)
        for k in range(adopted, low_now.shape[2]):
            if low_peak_of_bin[m, k] == k:
                low_turns[m, k] = turns[m, peak_of_bin[m, min(int(k / ratio + 0.5), now.shape[2] - 1)]]
        for k in range(int(adopted / ratio)):
            if peak_of_bin[m, k] == k:
                turns[m, k] = low_turns[m, low_peak_of_bin[m, int(k * ratio + 0.5)]]
        _turn_regions(peak_of_bin, phase_reset, phase_slopes, turns, m)
        _turn_regions(low_peak_of_bin, low_phase_reset, low_phase_slopes, low_turns, m)


@kernel(error_model="numpy")
def _carry_peaks(now, advance, peak_of_bin, phase_slopes, via, ahead, turns, m):  # type: ignore[no-untyped-def]
    """The turns of the peaks of frame m, carried on from the frame before."""
    owner, through, lacking, slopes = peak_of_bin[m], via[m], ahead[m], phase_slopes[m]
    earlier, later, between, before, turned = now[m - 1], now[m], advance[m], turns[m - 1], turns[m]
    for k in range(len(owner)):
        if owner[k] == k:
            b = np.uint32(through[k])
            turned[k] = _step(earlier, later, between, b) * before[b] * np.conj(slopes[b])
            if lacking[k] != np.float32(0.0):
                turned[k] *= direction_of(lacking[k])


@kernel(error_model="numpy")
def _turn_regions(peak_of_bin, phase_reset, phase_slopes, turns, m):  # type: ignore[no-untyped-def]
    """The turns of all bins of frame m from those of their peaks, or afresh."""
    owner, reset, slopes, turned = peak_of_bin[m], phase_reset[m], phase_slopes[m], turns[m]
    for k in range(len(turned)):
        carried = turned[np.uint32(owner[k])] * slopes[k]
        turned[k] = slopes[k] if reset[k] else carried


@kernel(error_model="numpy")
def _step(earlier, later, advance, k):  # type: ignore[no-untyped-def]
    """The direction of Σ over channels of ``earlier · conj(later) · advance`` at bin k; 1 where there is none.

    It is how much more the later frame has to be turned than the earlier one.
    """
    total = complex(0.0, 0.0)
    for c in range(earlier.shape[0]):
        total += complex(earlier[c, k]) * complex(later[c, k]).conjugate() * complex(advance[c, k])
    power = total.real * total.real + total.imag * total.imag
    if power < NO_STEP:
        return np.complex64(1.0)
    scale = 1.0 / np.sqrt(power)
    return np.complex64(complex(total.real * scale, total.imag * scale))


@kernel(error_model="numpy")
def power_of(spectra, out):  # type: ignore[no-untyped-def]
    """Power of every bin, all channels added up."""
    out[:] = 0.0
    for c in range(spectra.shape[0]):
        row = spectra[c]
        for k in range(len(out)):
            out[k] += row[k].real * row[k].real + row[k].imag * row[k].imag


@kernel(error_model="numpy")
def rotate(spectra, turns):  # type: ignore[no-untyped-def]
    """Multiply the spectra of all channels by ``turns[frames, bins]``, in place."""
    for m in range(spectra.shape[0]):
        for c in range(spectra.shape[1]):
            for k in range(spectra.shape[2]):
                spectra[m, c, k] *= turns[m, k]


@kernel(error_model="numpy")
def overlap_add(grains, shape, hop, out):  # type: ignore[no-untyped-def]
    """Add grains ``[frames, channels, window]`` under a window's shape, a hop apart."""
    for m in range(grains.shape[0]):
        for c in range(grains.shape[1]):
            place = out[c, m * hop : m * hop + len(shape)]
            grain = grains[m, c]
            for n in range(len(shape)):
                place[n] += grain[n] * shape[n]
