"""Peaks of spectra, the regions about them, and how their phases and magnitudes change when a song is stretched."""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Floats, Spectra
from latespin.dsp.stretching import phase_kernels as phases
from latespin.dsp.stretching.chirps import redraw_chirps


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
    phase_slopes, drawn = np.empty(shape, np.complex64), np.empty(shape, np.bool_)
    phases.powers(spectra, powers)
    phases.find_peaks(powers, peak_of_bin)
    redraw_chirps(spectra, powers, peak_of_bin, stretch_ratio, hop, phase_slopes, drawn, via, ahead, gain)
    phases.phase_slopes(spectra, powers, peak_of_bin, stretch_ratio, drawn, phase_slopes)
    return Regions(powers, peak_of_bin, phase_slopes, via, ahead, gain)
