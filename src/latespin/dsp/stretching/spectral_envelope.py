"""The spectral envelope, which carries a voice's formants, and the gains that move it.

The *true envelope*: cepstral smoothing of the logarithmic spectrum, repeated with what it left below the spectrum raised to
it, until the envelope lies on the partials instead of between them (A. Röbel and X. Rodet, "Efficient spectral envelope
estimation and its application to pitch shifting and envelope preservation", DAFx 2005).
"""

import numpy as np
import scipy.fft

from latespin.dsp.arrays import Floats

QUEFRENCY_SECONDS = 0.002  # cut-off of the smoothing: partials up to 250 Hz apart are bridged
GROUP_HZ = 43.0  # the spectrum is looked at in steps of about this; the highest bin of each counts
ENOUGH = 0.46  # nepers of power (2 dB) by which a partial may stand out of its envelope
MOST_ROUNDS = 16
FLOOR = 1e-10  # of a frame's highest power
MOST_GAIN = 5.5  # nepers of power, 24 dB


def true_envelope(power: np.ndarray, rate: float) -> Floats:
    """Logarithm of the power envelope of spectra ``[frames, bins]`` (0 to rate/2), at ``[frames, groups]``."""
    frames, bins = power.shape
    width = max(1, round(GROUP_HZ * 2.0 * (bins - 1) / rate))
    groups = -(-bins // width)
    padded = np.pad(power, ((0, 0), (0, groups * width - bins)), mode="edge")
    highest = padded.reshape(frames, groups, width).max(axis=2)
    level = np.log(highest + FLOOR * highest.max(axis=1, keepdims=True) + 1e-30)
    lifter = _lifter(groups, min(groups, max(4, round(QUEFRENCY_SECONDS * rate))))
    raised = level
    for _ in range(MOST_ROUNDS):
        smooth = scipy.fft.idct(scipy.fft.dct(raised, axis=1) * lifter, axis=1)
        if np.max(level - smooth, initial=0.0) < ENOUGH:
            break
        raised = np.maximum(raised, smooth)
    return np.asarray(smooth)


def _lifter(groups: int, order: int) -> np.ndarray:
    """Keeps what changes slowly along frequency, its last quarter fading out."""
    n = np.arange(groups)
    return (0.5 + 0.5 * np.cos(np.pi * np.clip((n / order - 0.75) / 0.25, 0.0, 1.0))).astype(np.float32)


def formant_gain(power: np.ndarray, rate: float, warp: Floats) -> np.ndarray:
    """What the magnitudes of spectra are multiplied by, so that the envelope at f becomes what it was at warp · f.

    power ``[frames, bins]``, channels added up; warp ``[frames]``.  Returns float32 ``[frames, bins]``, within ±24 dB and
    then such that each frame keeps its power.
    """
    envelope = true_envelope(power, rate)
    groups = envelope.shape[1]
    bins = np.linspace(0.0, groups - 1.0, power.shape[1])
    gain = np.empty(power.shape, np.float32)
    at = np.arange(groups, dtype=np.float64)
    for out, row, w in zip(gain, envelope, warp, strict=True):
        change = np.interp(bins * w, at, row) - np.interp(bins, at, row)
        out[:] = np.exp(0.5 * np.clip(change, -MOST_GAIN, MOST_GAIN))
    kept = np.sum(power, axis=1) / (np.sum(power * gain**2, axis=1) + 1e-30)
    return np.asarray(gain * np.sqrt(kept)[:, None], dtype=np.float32)
