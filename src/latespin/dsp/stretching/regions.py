"""Peaks of spectra, the regions about them, and how their phases and magnitudes change when a song is stretched."""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Floats, Spectra
from latespin.dsp.fast_math import angles_of, directions_of, exponentials_of, logarithms_of
from latespin.dsp.kernels import kernel
from latespin.dsp.stretching import phase_kernels as phases
from latespin.dsp.stretching.chirps import NO_POWER, ROWS, find_tops, measure_glides, redraw_chirps
from latespin.dsp.stretching.phase_kernels import add_up, bin_turns, scale_phase_slopes

LEAST_STRETCH = 1e-3  # of the length, less than which leaves a frame as it is
MOST_SLOPE_SCALE = 3.0


@dataclass(frozen=True)
class Frames:
    """Frames of the result before their phases are set. What has to do with bins is ``[frames, …, bins]``.

    now, advance : spectra, and what their phases grow by from the frame before.
    peak_of_bin : the peak each bin belongs to.  phase_reset : which bins start afresh.  phase_slopes : how much more a bin is turned than
    its peak.  via, ahead : at which bin a peak is carried on, and the angle it lacks there.  gain : what magnitudes are multiplied by.
    """

    now: Spectra
    advance: Spectra
    peak_of_bin: np.ndarray
    phase_reset: np.ndarray
    phase_slopes: Spectra
    via: np.ndarray
    ahead: np.ndarray
    gain: np.ndarray

    def parts(self) -> tuple[np.ndarray, ...]:
        """What the propagation of phases needs, in its order."""
        return (
            self.now, self.advance, self.peak_of_bin, self.phase_reset, self.phase_slopes, self.via, self.ahead,
        )  # fmt: skip


@dataclass(frozen=True)
class Regions:
    """What is known of bins, ``[frames, bins]`` each, before phases are set; see :class:`Frames`."""

    powers: np.ndarray
    peak_of_bin: np.ndarray
    phase_slopes: Spectra
    via: np.ndarray
    ahead: np.ndarray
    gain: np.ndarray


def find_regions(spectra: Spectra, stretch_ratio: Floats, hop: int) -> Regions:
    """Of spectra ``[frames, channels, bins]``; stretch_ratio ``[frames]``.  hop : of the result, in frames of what the spectra are of."""
    shape = (spectra.shape[0], spectra.shape[2])
    peak_of_bin, via = np.empty(shape, np.int32), np.empty(shape, np.int32)
    powers, ahead, gain = (np.empty(shape, np.float32) for _ in range(3))
    phase_slopes = np.empty(shape, np.complex64)
    phases.powers(spectra, powers)
    phases.find_peaks(powers, peak_of_bin)
    _describe_bins(spectra, powers, peak_of_bin, np.float64(stretch_ratio), hop, phase_slopes, via, ahead, gain)
    return Regions(powers, peak_of_bin, phase_slopes, via, ahead, gain)


@kernel(error_model="numpy")
def _describe_bins(spectra, powers, peak_of_bin, stretch_ratio, hop, phase_slopes, via, ahead, gain):  # type: ignore[no-untyped-def]
    """Set the phases and gains of all bins: scaled slopes about each peak, or the spectrum of a slower glide.

    Most steps run over all bins of a frame at once.
    """
    frames, _, bins = spectra.shape
    levels, tops, bits = (
        np.empty((frames, bins), np.float32),
        np.empty((frames, bins), np.float32),
        np.empty(bins, np.int32),
    )
    glide, work = np.empty((ROWS, bins), np.float32), np.empty((5, bins), np.float32)
    steps, turn, log_gain = work[0], work[1], work[2]
    phase = np.empty(bins)
    for m in range(frames):
        logarithms_of(powers[m], NO_POWER, bits, levels[m])
        find_tops(levels[m], tops[m])
    for m in range(frames):
        g = stretch_ratio[m]
        for k in range(bins):
            via[m, k], ahead[m, k], turn[k], log_gain[k] = k, np.float32(0.0), np.float32(0.0), np.float32(0.0)
        if abs(g - 1.0) > LEAST_STRETCH:
            bin_turns(spectra[m], work[3], work[4])
            angles_of(work[3], work[4], steps)
            more = np.float32(min(g, MOST_SLOPE_SCALE) - 1.0)
            scale_phase_slopes(powers[m], steps, peak_of_bin[m], more, work[3], work[4], turn)
            if 0 < m < frames - 1:
                measure_glides(levels[m], spectra[m], g, hop, glide)
                add_up(steps, phase)
                redraw_chirps(glide, levels[m], phase, tops, peak_of_bin, m, g, turn, log_gain, via[m], ahead[m])
        directions_of(turn, phase_slopes[m].view(np.float32))
        exponentials_of(log_gain, bits, gain[m])
