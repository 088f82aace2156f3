"""Dry and wet sound mixed, and what that does to a song's profile."""

import numpy as np

from latespin.analysis.profile import CENTRES, EDGES, Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.filters.band_sums import band_sums


def mixed(dry: Audio, wet: Audio, amounts: Floats) -> Audio:
    """A wet sound mixed in with equal power."""
    angle = amounts * (np.pi / 2.0)
    return np.asarray(dry * np.cos(angle).astype(np.float32) + wet * np.sin(angle).astype(np.float32))


def mixed_profile(before: Profile, wet: Floats, amount: float, *, spread: float = 0.5) -> Profile:
    """The profile after equal-power mixing with a wet sound; ``spread`` of the wet power is in the side signal."""
    dry, share = np.cos(amount * np.pi / 2.0) ** 2, np.sin(amount * np.pi / 2.0) ** 2
    power = (before.mid + before.side) * wet * share
    after = before.through(dry)
    return after.added((1.0 - spread) * power, spread * power)


def power_in_bands(made: Audio, rate: int) -> Floats:
    """The power gain of a response in third octaves, the mean of both ears; nothing beyond what the rate holds.

    made : ``[2, frames]``, or ``[4, frames]`` where each ear hears both channels.
    """
    size = 1 << max(12, (made.shape[1] - 1).bit_length())
    power = np.sum(np.abs(np.fft.rfft(made, size, axis=1)) ** 2, axis=0) / 2.0
    edges = EDGES * size / rate
    return np.asarray(np.where(0.5 * rate > CENTRES, band_sums(power, edges) / np.diff(edges), 0.0))
