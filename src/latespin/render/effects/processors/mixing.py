"""Dry and wet sound mixed, and what that does to a song's profile."""

import numpy as np

from latespin.analysis.profile import CENTRES, EDGES, Profile
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.filters.band_sums import band_sums


def mixed(dry: Audio, wet: Audio, at: int, amount: Automation) -> Audio:
    """A wet sound mixed in with equal power. at : the first frame.  amount : 0 to 1, beyond that as its nearest end."""
    amounts = amount.at(at, dry.shape[1]) if amount.steady is None else np.array([amount.steady])
    angle = np.clip(amounts, 0.0, 1.0) * (np.pi / 2.0)
    out = wet * np.sin(angle).astype(np.float32)
    out += dry * np.cos(angle).astype(np.float32)
    return np.asarray(out)


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
