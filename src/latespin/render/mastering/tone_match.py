"""From the tone of a version and of a reference to the filter that brings one towards the other."""

import numpy as np

from latespin.analysis.tone import CENTRES, Spectrum, decibels_of, presence
from latespin.dsp.arrays import Floats
from latespin.dsp.filters.match_filter import MatchFilter, filter_of
from latespin.dsp.metering.k_weighting import power_response
from latespin.model.tone_match import Match, powers_of

EDGE_OCTAVES = 0.5  # over which the filter goes to nothing beyond its limits
SURE_DB = 6.0  # above the floor from which on a boost is given in full
LEVELLED_BY = (CENTRES > 100.0) & (CENTRES < 10_000.0)


def match_gains(after: Spectrum, match: Match, rate: int) -> tuple[Floats, Floats]:
    """Gains in dB at the tone's bands for mid and side; together they keep the loudness."""
    if match.reference is None:
        return np.zeros(len(CENTRES)), np.zeros(len(CENTRES))
    wanted_mid, wanted_side = powers_of(match.reference)
    heard = power_response(CENTRES, rate)
    weights = np.where(LEVELLED_BY, heard, 0.0)
    level = 10.0 * np.log10(
        np.sum(weights * (wanted_mid + wanted_side)) / max(1e-30, np.sum(weights * (after.mid + after.side)))
    )
    middle = _limited(_difference(wanted_mid, after.mid, level, match), after.mid + after.side, match)
    if match.sides == "leave":
        sides = middle
    else:
        sides = _limited(_difference(wanted_side, after.side, level, match), after.side, match)
        if match.sides == "limit":
            sides = np.maximum(sides, middle - match.narrowing_db)
    within = _within(match)
    middle, sides = (gains * within * match.amount_percent / 100.0 for gains in (middle, sides))
    return _level_kept(middle, sides, after, heard)


def width_change_db(after: Spectrum, match: Match, rate: int) -> float:
    """How much wider a match makes a version: the change of its sides against its middle, dB; negative for narrower."""
    middle, sides = match_gains(after, match, rate)
    now = np.sum(after.side * 10.0 ** (sides / 10.0)) / max(1e-30, np.sum(after.mid * 10.0 ** (middle / 10.0)))
    before = np.sum(after.side) / max(1e-30, np.sum(after.mid))
    return float(10.0 * np.log10(max(now, 1e-30) / max(before, 1e-30)))


def solve_match(after: Spectrum, match: Match, rate: int) -> MatchFilter:
    """The filter."""
    middle, sides = match_gains(after, match, rate)
    return filter_of(middle, sides, CENTRES, rate, minimum=match.phase == "minimum")


def _difference(wanted: Floats, have: Floats, level_db: float, match: Match) -> Floats:
    """Smoothed difference, dB; 0 where both are silent."""
    span = match.smoothing_octaves * 12.0
    difference = decibels_of(wanted) - decibels_of(have) - level_db
    reach = int(np.ceil(span))
    kernel = np.exp(-0.5 * (np.arange(-reach, reach + 1) / (0.42 * span)) ** 2)
    padded = np.pad(np.clip(difference, -60.0, 60.0), reach, mode="edge")
    return np.convolve(padded, kernel / kernel.sum(), mode="valid")


def _limited(gains: Floats, have: Floats, match: Match) -> Floats:
    """Clipped to the allowed range, without a boost where the version is silent."""
    held = np.clip(gains, -match.cut_db, match.boost_db)
    sure = np.clip(presence(have) / SURE_DB, 0.0, 1.0)
    return np.where(held > 0.0, held * sure, held)


def _within(match: Match) -> Floats:
    """1 between the limits, falling to 0 beyond them."""
    below = np.log2(match.low_hz / CENTRES) / EDGE_OCTAVES
    above = np.log2(CENTRES / match.high_hz) / EDGE_OCTAVES
    out = np.clip(np.maximum(below, above), 0.0, 1.0)
    return np.asarray(0.5 + 0.5 * np.cos(np.pi * out))


def _level_kept(middle: Floats, sides: Floats, after: Spectrum, weights: Floats) -> tuple[Floats, Floats]:
    """Both less by what they add to the loudness."""
    before = np.sum(weights * (after.mid + after.side))
    now = np.sum(weights * (after.mid * 10.0 ** (middle / 10.0) + after.side * 10.0 ** (sides / 10.0)))
    by = 10.0 * np.log10(now / before)
    return middle - by, sides - by
