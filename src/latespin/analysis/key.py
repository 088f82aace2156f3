"""Tuning and key, from the energy of the pitch classes.

The profiles are the mean of two, each standardised: J. Albrecht and D. Shanahan, "The use of large corpora to train a new type of
key-finding algorithm", Music Perception 31, 2013; and D. Temperley, "Music and Probability", MIT Press 2007, chapter 6. On other people's pieces the mean
did better than either, and than those of listeners (Krumhansl and Kessler 1982). The measure is the correlation of profile and pitch classes.

Own design: low tones count more, and what is low is told from the middle of the song's own tones, not from their frequency. So a song that is slowed or
transposed keeps its key: with weights and limits in Hz, up to one key in four changed.
"""

from dataclasses import dataclass

import numpy as np

from latespin.analysis.spectra import PITCH_STEPS, STEPS_PER_SEMITONE
from latespin.dsp.arrays import Floats

MAJOR = (
    (0.238, 0.006, 0.111, 0.006, 0.137, 0.094, 0.016, 0.214, 0.009, 0.080, 0.008, 0.081),
    (0.748, 0.060, 0.488, 0.082, 0.670, 0.460, 0.096, 0.715, 0.104, 0.366, 0.057, 0.400),
)
MINOR = (
    (0.220, 0.006, 0.104, 0.123, 0.019, 0.103, 0.012, 0.214, 0.062, 0.022, 0.061, 0.052),
    (0.712, 0.084, 0.474, 0.618, 0.049, 0.460, 0.105, 0.747, 0.404, 0.067, 0.133, 0.330),
)
SHARPNESS = 20.0  # of the confidence: how much a correlation that is higher by 1 counts, as a natural logarithm; likeliest on 205 pieces
HEAVIEST, WITHIN = -3.0, 2.0  # octaves from the middle of all tones to where they count most, and around it
LEAST_TONAL = 0.35  # correlation below which nothing is called a key
#: Standard deviation of the pitch classes over their mean, below which there is no key: 0.15 in noise, 0.4 and more in music.
LEAST_CONTRAST = 0.33
LEAST_SECONDS = 2.0


@dataclass(frozen=True)
class KeyGuess:
    """tonic : pitch class from C = 0.  mode : major or minor.  confidence : 0 to 1, of all 24 together 1."""

    tonic: int
    mode: str
    confidence: float


def find_tuning(pitches: Floats) -> float:
    """How far the song lies above A = 440 Hz, −50 to 50 cents; pitches : ``[n, 12 × STEPS_PER_SEMITONE]``."""
    within = pitches.sum(axis=0).reshape(12, STEPS_PER_SEMITONE).sum(axis=0)
    turn = np.sum(within * np.exp(2j * np.pi * np.arange(STEPS_PER_SEMITONE) / STEPS_PER_SEMITONE))
    return float(np.angle(turn)) / (2.0 * np.pi) * 100.0


def pitch_classes(pitches: Floats, tuning_cents: float) -> Floats:
    """``[n, 12]``: everything within half a semitone of each pitch class as the song is tuned."""
    count = len(pitches)
    away = np.arange(-(STEPS_PER_SEMITONE // 2), STEPS_PER_SEMITONE // 2 + 1)
    at = np.round(np.arange(12)[:, None] * STEPS_PER_SEMITONE + away + tuning_cents / 100.0 * STEPS_PER_SEMITONE)
    return np.asarray(pitches[:, at.astype(int).ravel() % pitches.shape[1]].reshape(count, 12, len(away)).sum(axis=2))


def weighed(tones: np.ndarray) -> Floats:
    """Pitches ``[n, 12 × STEPS_PER_SEMITONE]`` of tones as :class:`~latespin.analysis.spectra.Spectra` has them, low ones counted more."""
    total = tones.sum(axis=0, dtype=np.float64).ravel()
    octaves = np.arange(len(total)) / PITCH_STEPS
    middle = float(total @ octaves / (total.sum() + 1e-9))
    weights = np.exp(-0.5 * ((octaves - middle - HEAVIEST) / WITHIN) ** 2).reshape(tones.shape[1:])
    return np.asarray(np.einsum("nos,os->ns", tones, weights, dtype=np.float64))


def guess_keys(classes: Floats, seconds: float) -> list[KeyGuess]:
    """All 24 keys, the likeliest first; none where there is no tonality.

    classes : ``[n, 12]``, over time.  seconds : for which there is sound.
    """
    total = _mean(classes)
    if not np.any(total) or seconds < LEAST_SECONDS or np.std(total) < LEAST_CONTRAST * np.mean(total):
        return []
    fits = np.array(
        [
            [np.corrcoef(np.roll(shape, tonic), total)[0, 1] for tonic in range(12)]
            for shape in map(_standardised, (MAJOR, MINOR))
        ]
    )
    if not np.max(fits) >= LEAST_TONAL:
        return []
    chance = np.exp(SHARPNESS * (fits - fits.max()))
    chance /= chance.sum()
    order = np.argsort(-fits.ravel())
    return [KeyGuess(int(k % 12), ("major", "minor")[k // 12], float(chance.ravel()[k])) for k in order]


def _standardised(profiles: tuple[tuple[float, ...], ...]) -> Floats:
    """The sum of profiles, each with mean 0 and deviation 1."""
    each = np.array(profiles)
    return np.asarray(((each - each.mean(axis=1, keepdims=True)) / each.std(axis=1, keepdims=True)).sum(axis=0))


def _mean(classes: Floats) -> Floats:
    """The mean over time of what sounds relative to the loudest of each moment, quiet moments counted less."""
    loudness = classes.sum(axis=1, keepdims=True)
    gate = loudness / (loudness + 0.2 * np.mean(loudness) + 1e-9)
    mean = (classes / (loudness + 1e-9) * gate).sum(axis=0)
    return np.asarray(mean / (mean.sum() + 1e-9))
