"""Pulses: sequences of equally spaced moments that fit the onsets, at several tempi.

The tempogram is the local autocorrelation of the onset strength summed over multiples of each period (a comb, after
A. P. Klapuri, A. J. Eronen and J. T. Astola, "Analysis of the meter of acoustic musical signals", IEEE TASLP 14, 2006); a
path through it follows the tempo as it drifts. Pulses along a path are found by dynamic programming (D. P. W. Ellis,
"Beat tracking by dynamic programming", JNMR 36, 2007).
"""

from dataclasses import dataclass

import numpy as np
import scipy.fft
from scipy.ndimage import gaussian_filter1d, uniform_filter1d

from latespin.analysis.spectra import FPS
from latespin.dsp.arrays import Floats
from latespin.dsp.kernels import kernel

BAND_WEIGHTS = (1.0, 0.8, 0.8, 0.8)
NOTE_WEIGHT = 3.0
LOCAL_SECONDS = 8.0
WINDOW_SECONDS, STEP_SECONDS = 10.0, 1.0
SHORTEST, LONGEST, PERIOD_STEP = 0.14, 2.4, 0.012  # periods looked at: seconds, and the ratio's logarithm
COMB = (1.0, 0.7, 0.5, 0.4)
ROWS = 256  # seconds looked at in one go, so that songs of hours need little memory
COMB_REACH_SECONDS = 2.0 * LONGEST
FARTHEST_DRIFT = 4  # steps of a period in a step of time
DRIFT_COST = 0.04
TIGHTNESS = 80.0
PULSES = 8  # leading periods that are followed
LONGEST_PULSE = 1.3
# Of the spectrum in which an even pulse is sought; a song of an hour has enough with fewer for each frame.
FINEST_BINS = 1 << 21
SAME = 0.03  # mean difference of two paths' logarithms up to which they are one
# Strength on an even pulse over that on one that gives way: below the first a song's tempo moves, above the second it is
# steady, between them pulses of both kinds are looked at.
MOVING, STEADY = 0.52, 0.75
STEADY_PERIODS = (0.2, 0.75)


@dataclass(frozen=True)
class Tempogram:
    """strength : ``[times, periods]``, 0 to about 1.  periods : seconds, ascending.  One time a second."""

    strength: Floats
    periods: Floats


@dataclass(frozen=True)
class Pulse:
    """Places in frames of the onsets (fractions kept), ascending. even : whether evenly spaced."""

    places: Floats
    even: bool

    @property
    def period_seconds(self) -> float:
        """The median interval."""
        return float(np.median(np.diff(self.places))) / FPS


def find_pulses(strength: Floats) -> list[Pulse]:
    """The pulses that stand out in an onset strength; in a steady song all are evenly spaced."""
    tempogram = find_tempogram(strength)
    paths: list[Floats] = []
    for near in leading_periods(tempogram, PULSES):
        if near <= LONGEST_PULSE:
            path = tempo_path(tempogram, near)
            if all(np.mean(np.abs(np.log(path / other))) > SAME for other in paths):
                paths.append(path)
    followed = [Pulse(follow_pulse(strength, path), even=False) for path in paths]
    even = [Pulse(steady_pulse(strength, float(np.exp(np.mean(np.log(path))))), even=True) for path in paths]
    smooth = gaussian_filter1d(strength, 1.5)
    steadiness = max(
        (
            float(_mean_at(smooth, pulse.places) / max(1e-9, _mean_at(smooth, other.places)))
            for pulse, other in zip(even, followed, strict=True)
            if len(pulse.places) > 8 and len(other.places) > 8
            and STEADY_PERIODS[0] <= pulse.period_seconds <= STEADY_PERIODS[1]
        ),
        default=0.0,
    )  # fmt: skip
    found = [*(even if steadiness >= MOVING else ()), *(followed if steadiness < STEADY else ())]
    return [pulse for pulse in found if len(pulse.places) > 8]


def _mean_at(smooth: Floats, places: Floats) -> float:
    return float(np.interp(places, np.arange(len(smooth)), smooth).mean())


def onset_strength(onsets: Floats, notes: Floats) -> Floats:
    """One strength ``[n]`` from the four bands and from single notes, with the local mean square at 1."""
    strength = NOTE_WEIGHT * levelled(notes)
    struck = np.zeros(len(notes))
    for weight, band in zip(BAND_WEIGHTS, onsets, strict=True):
        struck += weight * levelled(band)
    return levelled(strength + levelled(struck))


def levelled(band: Floats) -> Floats:
    """Above its local mean, over the local root mean square."""
    size = 2 * round(LOCAL_SECONDS * FPS / 2) + 1
    raised = np.maximum(0.0, band - uniform_filter1d(band, round(0.4 * FPS), mode="nearest") * 0.7)
    power = uniform_filter1d(raised**2, size, mode="nearest")
    return raised / np.sqrt(power + 1e-3 * float(np.max(power, initial=0.0)) + 1e-9)


def find_tempogram(strength: Floats) -> Tempogram:
    """The tempogram of an onset strength."""
    likeness = _likeness(gaussian_filter1d(strength, 1.5), round(COMB_REACH_SECONDS * FPS) + 2)
    last = likeness.shape[1] - 2
    periods = np.exp(np.arange(np.log(SHORTEST), np.log(LONGEST), PERIOD_STEP))
    combed = np.zeros((len(likeness), len(periods)))
    total = np.zeros(len(periods))
    for k, weight in enumerate(COMB, start=1):
        at = periods * k * FPS
        weights = np.where(at < last + 1, weight, 0.0)
        whole = np.minimum(at.astype(int), last)
        part = at - whole
        combed += weights * (likeness[:, whole] * (1 - part) + likeness[:, whole + 1] * part)
        total += weights
    return Tempogram(combed / total, periods)


def _likeness(smooth: Floats, lags: int) -> Floats:
    """Local autocorrelation of the onset strength around each second: ``[seconds, lags]``, 1 for identical."""
    size, hop = round(WINDOW_SECONDS * FPS), round(STEP_SECONDS * FPS)
    window = np.hanning(size)
    length = scipy.fft.next_fast_len(2 * size, real=True)
    overlap = scipy.fft.irfft(np.abs(scipy.fft.rfft(window, length)) ** 2, length)[:lags]
    frames = np.lib.stride_tricks.sliding_window_view(np.pad(smooth, size // 2), size)[::hop]
    out = np.empty((len(frames), lags))
    for start in range(0, len(frames), ROWS):
        block = frames[start : start + ROWS] * window
        power = np.abs(scipy.fft.rfft(block - block.mean(axis=1, keepdims=True), length)) ** 2
        out[start : start + ROWS] = scipy.fft.irfft(power, length)[:, :lags]
    return np.asarray(out / np.maximum(overlap / overlap[0], 0.1) / (out[:, :1] + 1e-9))


def leading_periods(tempogram: Tempogram, count: int) -> list[float]:
    """The periods (seconds) of the highest peaks of the mean tempogram, the strongest first."""
    mean = np.maximum(0.0, tempogram.strength).mean(axis=0)
    peaks = np.flatnonzero((mean[1:-1] >= mean[:-2]) & (mean[1:-1] > mean[2:])) + 1
    best = peaks[np.argsort(-mean[peaks])][:count]
    return [float(tempogram.periods[k]) for k in best]


def tempo_path(tempogram: Tempogram, near: float) -> Floats:
    """The period (seconds) at every time, drifting from about ``near``."""
    away = np.log(tempogram.periods / near)
    score = np.where(np.abs(away) < 0.4, tempogram.strength - 0.6 * away**2, -10.0)
    at = _best_path(score, FARTHEST_DRIFT, DRIFT_COST)
    return np.exp(gaussian_filter1d(np.log(tempogram.periods[at]), 1.5, mode="nearest"))


@kernel()
def _best_path(score: np.ndarray, farthest: int, cost: float) -> np.ndarray:
    """Viterbi: the path of the highest total, each step at most ``farthest`` places, at a cost for each."""
    times, places = score.shape
    best = score[0].copy()
    came = np.zeros((times, places), np.int32)
    for t in range(1, times):
        new = np.empty(places)
        for p in range(places):
            top, where = -1e18, p
            for q in range(max(0, p - farthest), min(places, p + farthest + 1)):
                value = best[q] - cost * abs(p - q)
                if value > top:
                    top, where = value, q
            new[p] = top + score[t, p]
            came[t, p] = where
        best = new
    path = np.empty(times, np.int64)
    path[-1] = np.argmax(best)
    for t in range(times - 1, 0, -1):
        path[t - 1] = came[t, path[t]]
    return path


def follow_pulse(strength: Floats, path: Floats) -> Floats:
    """The places (frames, fractions kept) of a pulse whose intervals follow a path of periods (seconds, one a second)."""
    periods = np.interp(np.arange(len(strength)) / FPS, np.arange(len(path)) * STEP_SECONDS, path) * FPS
    places = _chain(gaussian_filter1d(strength, 1.5), periods, TIGHTNESS)
    return _between_frames(strength, places)


@kernel()
def _chain(strength: np.ndarray, periods: np.ndarray, tightness: float) -> np.ndarray:
    """The chain of frames with the highest sum of strengths less the cost of uneven intervals."""
    count = len(strength)
    best = np.empty(count)
    came = np.full(count, -1, np.int64)
    for t in range(count):
        period = periods[t]
        top = 0.0
        where = -1
        first, last = int(period * 0.75), int(period * 1.34) + 1
        for lag in range(max(1, first), last + 1):
            if t - lag < 0:
                break
            off = np.log(lag / period)
            value = best[t - lag] - tightness * off * off
            if value > top:
                top, where = value, t - lag
        best[t] = strength[t] + top
        came[t] = where
    start = max(0, count - int(periods[-1] * 1.2))
    t = start + int(np.argmax(best[start:]))
    out = np.empty(count, np.int64)
    n = 0
    while t >= 0:
        out[n] = t
        n += 1
        t = came[t]
    return out[:n][::-1].copy()


def _between_frames(strength: Floats, places: np.ndarray) -> Floats:
    """Places moved to the top of the strength around them, by its centre of gravity within 20 ms."""
    smooth = gaussian_filter1d(strength, 1.0)
    reach = np.arange(-2, 3)
    at = np.clip(places[:, None] + reach, 0, len(smooth) - 1)
    weight = smooth[at] ** 2 + 1e-9
    return np.asarray(places + (weight * reach).sum(axis=1) / weight.sum(axis=1))


def steady_pulse(strength: Floats, near: float) -> Floats:
    """The places (frames) of the evenly spaced pulse, its period within 2 % of ``near`` seconds, on which most is struck.

    Its spectrum is looked at at four multiples of the pulse's frequency, in phase with each other.
    """
    smooth = gaussian_filter1d(strength, 1.5)
    smooth = smooth - smooth.mean()
    finer = min(8, max(2, FINEST_BINS // len(smooth)))
    length = scipy.fft.next_fast_len(finer * len(smooth), real=True)
    spectrum = scipy.fft.rfft(smooth, length)
    centre = length / (near * FPS)
    rates = np.arange(int(centre * 0.98), int(centre * 1.02) + 2)
    turns = np.arange(48) / 48.0
    score = np.zeros((len(rates), len(turns)))
    for k in range(1, 5):
        at = np.minimum(rates * k, len(spectrum) - 1)
        score += np.real(spectrum[at, None] * np.exp(2j * np.pi * k * turns))
    best, turn = divmod(int(np.argmax(score)), len(turns))
    period = length / rates[best]
    return np.asarray(np.arange(turns[turn] * period, len(strength) - 1, period))
