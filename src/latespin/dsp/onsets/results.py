"""Attacks and soft onsets, as they are found."""

from dataclasses import dataclass, field

import numpy as np

from latespin.dsp.arrays import Floats

NEIGHBOUR_SECONDS = 0.02  # the least time between two attacks


@dataclass(frozen=True)
class Transients:
    """Frames of the attacks, int64 ``[n]`` ascending, and how strong each is (mean rise in log10 units); and frames of soft onsets."""

    frames: np.ndarray
    strengths: Floats
    soft: np.ndarray = field(default_factory=lambda: np.zeros(0, np.int64))
