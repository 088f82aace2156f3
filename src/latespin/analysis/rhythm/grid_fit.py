"""Fitting a grid to detected beats: evenly spaced in a steady song, smooth in a varying one.

A steady song's beats are a straight line fitted robustly (P. J. Huber, Annals of Mathematical Statistics 35, 1964), so that its last bar
is as right as its first. A moving song's are smoothed by weighted least squares with a penalty on changes of the
interval (E. T. Whittaker, Proc. Edinburgh Mathematical Society 41, 1922).
"""

from dataclasses import dataclass

import numpy as np
from scipy.linalg import solveh_banded
from scipy.ndimage import gaussian_filter1d, uniform_filter1d

from latespin.analysis.spectra import FPS
from latespin.dsp.arrays import Floats

REACH_FRAMES = 4
LATE_SECONDS = 0.003  # by which what is struck shows in the onsets
STRAIGHT_SECONDS = 0.025  # farthest that smoothed beats may stray from a line in a steady song
HUBER_SECONDS = 0.008
SMOOTHING = 25.0
END_BEATS = 8  # from which the tempo beyond an end is taken
SURE_BEATS = 8.0


@dataclass(frozen=True)
class FittedBeats:
    """times : seconds, from the song's start to its end.  steady : whether evenly spaced.

    found : the first and one past the last beat that was heard; those outside are extrapolated.
    sure : 0 to 1 for every beat, how clearly it stands out.
    """

    times: Floats
    steady: bool
    found: tuple[int, int]
    sure: Floats


def fit_beats(
    places: Floats, strength: Floats, seconds: float, *, steady: bool, heard: tuple[float, float]
) -> FittedBeats:
    """A grid through beats (frames of the onsets) of a song that lasts ``seconds`` and sounds from ``heard[0]`` to ``heard[1]``."""
    seen, weights = _observed(places, strength)
    times = _straight(seen, weights) if steady else _smooth(seen, weights)
    line = _straight(times, np.ones(len(times)))
    steady = steady or bool(np.max(np.abs(line - times)) < STRAIGHT_SECONDS)
    if steady:
        times = _straight(seen, weights)
    inside = (times >= heard[0] - 0.05) & (times <= heard[1])
    times = times[inside] if np.count_nonzero(inside) > 2 * END_BEATS else times
    before = _beyond(times[0], times[0] - times[: END_BEATS + 1][::-1], 0.0)[::-1]
    after = _beyond(times[-1], times[-END_BEATS - 1 :] - times[-1], seconds)
    whole = np.concatenate((before, times, after))
    return FittedBeats(whole, steady, (len(before), len(before) + len(times)), how_sure(whole, strength))


def how_sure(times: Floats, strength: Floats) -> Floats:
    """How far the onsets on the beats around each beat stand above all those there, 0 to 1."""
    smooth = gaussian_filter1d(strength, 1.5)
    on = np.interp(times * FPS, np.arange(len(smooth)), smooth)
    period = float(np.median(np.diff(times))) * FPS
    everywhere = uniform_filter1d(smooth, max(3, round(SURE_BEATS * period)), mode="nearest")
    beyond = gaussian_filter1d(on, SURE_BEATS / 4.0, mode="nearest") / (
        np.interp(times * FPS, np.arange(len(smooth)), everywhere) + 1e-3 + 0.02 * smooth.mean()
    )
    return np.asarray(np.clip((beyond - 1.0) / 2.0, 0.0, 1.0))


def _observed(places: Floats, strength: Floats) -> tuple[Floats, Floats]:
    """Seconds at which the onsets around beats have their top, and how much each counts."""
    smooth = gaussian_filter1d(strength, 1.0)
    reach = np.arange(-REACH_FRAMES, REACH_FRAMES + 1)
    at = np.clip(np.round(places).astype(int)[:, None] + reach, 1, len(smooth) - 2)
    best = at[np.arange(len(at)), np.argmax(smooth[at] * np.exp(-((reach / 3.0) ** 2)), axis=1)]
    left, here, right = smooth[best - 1], smooth[best], smooth[best + 1]
    shift = np.clip(0.5 * (left - right) / np.minimum(-1e-9, left - 2.0 * here + right), -0.5, 0.5)
    return (best + shift) / FPS - LATE_SECONDS, np.minimum(here, 3.0) + 0.05


def _straight(times: Floats, weights: Floats) -> Floats:
    """The evenly spaced times nearest to some."""
    count = np.arange(len(times))
    weight = weights
    line = times
    for _ in range(8):
        slope, start = np.polyfit(count, times, 1, w=np.sqrt(weight))
        line = start + slope * count
        weight = weights * np.minimum(1.0, HUBER_SECONDS / (np.abs(times - line) + 1e-9))
    return np.asarray(line)


def _smooth(times: Floats, weights: Floats) -> Floats:
    """The times nearest to some whose intervals change little."""
    count = len(times)
    weight, smooth = weights / weights.mean(), times
    for _ in range(4):
        bands = np.zeros((3, count))
        for offset, change in enumerate((1.0, -2.0, 1.0)):
            for other, with_other in enumerate((1.0, -2.0, 1.0)):
                if other >= offset:
                    bands[other - offset, offset : count - 2 + offset] += SMOOTHING * change * with_other
        bands[0] += weight
        smooth = solveh_banded(bands, weight * times, lower=True)
        away = np.abs(times - smooth)
        weight = weights / weights.mean() * np.minimum(1.0, 2.0 * HUBER_SECONDS / (away + 1e-9)) + 1e-3
    return np.asarray(smooth)


def _beyond(end: float, intervals: Floats, limit: float) -> Floats:
    """Beats beyond an end, as far apart as the last ones, up to a limit in seconds."""
    period = float(np.mean(np.abs(np.diff(intervals))))
    count = int(abs(limit - end) / period)
    return np.asarray(end + np.sign(limit - end) * period * np.arange(1, count + 1))
