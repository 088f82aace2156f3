"""The parts of a song that stretching and shifting can harm, along the song: attacks, noise, voices."""

from dataclasses import dataclass

import numpy as np
import scipy.fft

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.onsets.transient_map import TransientMap

STEP_SECONDS, MOST_STEPS = 0.5, 1_200
NEAR_SECONDS = 1.0  # around a place, in which attacks are counted
SIZE = 4096
NOISE_HZ, VOICE_HZ = (3_000.0, 14_000.0), (250.0, 3_500.0)
QUIET_DB = 35.0  # below the loudest twentieth: quieter passages count for nothing
NOISY_FLATNESS, TONAL_FLATNESS = 0.45, 0.12
NO_VOICE, ALL_VOICE = 0.15, 0.65  # shares of the power in a voice's range
TINY = 1e-12


@dataclass(frozen=True, eq=False)
class SongContent:
    """Every ``step_seconds`` of the song, from its start.

    gaps : seconds between neighbouring attacks, infinite where there are none.  hits, noise, voice : how much of each there is, 0 to 1.
    """

    step_seconds: float
    gaps: Floats
    hits: Floats
    noise: Floats
    voice: Floats

    @property
    def edges(self) -> Floats:
        """Seconds between which the steps lie: one more than there are steps."""
        return np.asarray(np.arange(len(self.gaps) + 1) * self.step_seconds, np.float64)


def content_of(sound: Audio, rate: int, attacks: TransientMap) -> SongContent:
    """The content of a song ``[channels, frames]``."""
    seconds = sound.shape[1] / rate
    step = max(STEP_SECONDS, seconds / MOST_STEPS)
    count = max(1, int(np.ceil(seconds / step)))
    levels, noise, voice = (np.zeros(count) for _ in range(3))
    for i in range(count):
        part = sound[:, round(i * step * rate) : round((i + 1) * step * rate)]
        levels[i], noise[i], voice[i] = _spectral(part, rate)
    audible = np.clip(1.0 + (levels - np.percentile(levels, 95.0)) / QUIET_DB, 0.0, 1.0)
    gaps, hits = _attacks(attacks, sound.shape[1], rate, (np.arange(count) + 0.5) * step)
    return SongContent(step, gaps, hits * audible, noise * audible, voice * audible)


def _spectral(part: Audio, rate: int) -> tuple[float, float, float]:
    """Level in dB; shares of noise and of a voice's range, 0 to 1."""
    mono = part.mean(axis=0)
    if len(mono) < SIZE:
        mono = np.pad(mono, (0, SIZE - len(mono)))
    pieces = np.lib.stride_tricks.sliding_window_view(mono, SIZE)[:: SIZE // 2]
    power = np.mean(np.abs(scipy.fft.rfft(pieces * np.hanning(SIZE).astype(np.float32), axis=1)) ** 2, axis=0) + TINY
    hz = np.fft.rfftfreq(SIZE, 1.0 / rate)
    high, middle = ((hz >= low) & (hz < top) for low, top in (NOISE_HZ, VOICE_HZ))
    flat = float(np.exp(np.mean(np.log(power[high]))) / np.mean(power[high])) if high.any() else 0.0
    noise = np.clip((flat - TONAL_FLATNESS) / (NOISY_FLATNESS - TONAL_FLATNESS), 0.0, 1.0)
    share = float(np.sum(power[high]) / np.sum(power))
    voiced = float(np.sum(power[middle]) / np.sum(power))
    return (
        10.0 * float(np.log10(np.mean(power))),
        float(noise * np.clip(20.0 * share, 0.0, 1.0)),
        float(np.clip((voiced - NO_VOICE) / (ALL_VOICE - NO_VOICE), 0.0, 1.0)),
    )


def _attacks(attacks: TransientMap, frames: int, rate: int, places: Floats) -> tuple[Floats, Floats]:
    """The median gap between attacks near each place, seconds, and how strong they are."""
    found = attacks.between(0, max(0, frames - 1))
    at, gaps, hits = found.frames / rate, np.full(len(places), np.inf), np.zeros(len(places))
    first, last = np.searchsorted(at, places - NEAR_SECONDS), np.searchsorted(at, places + NEAR_SECONDS)
    for i, (a, b) in enumerate(zip(first.tolist(), last.tolist(), strict=True)):
        if b > a:
            hits[i] = min(1.0, 2.0 * float(np.mean(found.strengths[a:b])))
        if b > a + 2:  # two alone are no pace
            gaps[i] = float(np.median(np.diff(at[a:b])))
    return gaps, hits
