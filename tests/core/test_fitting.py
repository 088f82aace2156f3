"""Fitting the reading: slopes are those of what is made higher, chances come true, and sounds without a beat are what they say."""

import sys
from pathlib import Path

import numpy as np
import pytest

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "tools"))

import fit_reading
from beatless_sounds import RATE, SECONDS, SOUNDS, beatless
from latespin.analysis.rhythm.candidate_scorer import NO_BEAT, Choice, chances


def rightness(now: list[np.ndarray], seen: list[np.ndarray], right: list[np.ndarray]) -> float:
    """The mean logarithm of how right the choice is on average, a little above 0; written down as it is defined."""
    total = 0.0
    for x, r in zip(seen, right, strict=True):
        scores = np.tanh(x @ now[0] + now[1]) @ now[2] + x @ now[3]
        scores = np.append(scores, NO_BEAT) if len(r) > len(x) else scores
        total += np.log(chances(scores) @ r + 0.02)
    return total / len(seen)


def test_slopes_are_those_of_how_right_the_choice_is() -> None:
    """Finite differences of each weight; pieces with and without the choice of no beat, one of which it is right for."""
    draw = np.random.default_rng(3)
    seen = [draw.standard_normal((n, 5)) for n in (4, 7, 3)]
    right = [draw.random(4), draw.random(8), np.array([0.0, 0.0, 0.0, 1.0])]
    now = [draw.standard_normal(shape) for shape in ((5, 6), 6, 6, 5)]
    for part, slope in enumerate(fit_reading._slopes(now, seen, right)):
        for place in np.ndindex(now[part].shape):
            sides = []
            for away in (1e-5, -1e-5):
                moved = [each.copy() for each in now]
                moved[part][place] += away
                sides.append(rightness(moved, seen, right))
            assert slope[place] == pytest.approx(-(sides[0] - sides[1]) / 2e-5, abs=1e-6)


def test_a_fit_learns_what_makes_a_candidate_right_and_when_none_is() -> None:
    """The right one of each piece is large in one feature; where none is, there is nothing to choose."""
    draw = np.random.default_rng(5)
    pieces = []
    for number in range(160):
        x = draw.standard_normal((6, 8)).astype(np.float32)
        right = np.zeros(7)
        if number % 4:
            x[number % 6, 2] += 6.0
            right[number % 6] = 1.0
        else:
            right[6] = 1.0
        pieces.append((x, right))
    choice = fit_reading.fit(pieces[:120], 8, 2e-3, 0.2, 0)
    held = [fit_reading.scored(choice, piece) for piece in pieces[120:]]
    assert np.mean([right[np.argmax(scores)] for scores, right in held]) > 0.95


@pytest.mark.parametrize("temperature", [0.5, 2.0])
def test_the_temperature_makes_chances_true(temperature: float) -> None:
    """Choices drawn with the chances of their scores, which are then told too hot or too cold. Two candidates are heard alike, and right together."""
    draw = np.random.default_rng(7)
    held = []
    for _ in range(3000):
        scores = 1.5 * draw.standard_normal(5)
        groups = np.array([0, 1, 2, 2, 4])
        right = groups == groups[draw.choice(5, p=chances(scores))]
        held.append(fit_reading.Held("a", scores * temperature, right.astype(float), groups))
    assert fit_reading.calibrated(held) == pytest.approx(temperature, rel=0.1)


def test_a_piece_counts_as_often_as_it_weighs_and_not_in_its_own_fold() -> None:
    """And is presented with its rightness for the kind that is fitted."""
    draw = np.random.default_rng(11)
    pieces = [
        fit_reading.Piece(
            (draw.random((3, 2)), draw.random(3)), (draw.random((2, 2)), draw.random(2)), style, np.arange(3), weight
        )
        for style, weight in (("waltz", 1), ("freedom", 4), ("hymn", 1))
    ]
    for kind, choices in (("beats", 3), ("presence", 4), ("bars", 2)):
        for left_out in (*range(fit_reading.FOLDS), None):
            fitted = fit_reading.weighted(kind, pieces, left_out)
            for piece in pieces:
                times = sum(np.array_equal(right, getattr(piece, kind)[1]) for _, right in fitted)
                weight = 1 if kind == "bars" else piece.weight
                assert times == (0 if piece.fold == left_out else weight)
            assert {len(right) for _, right in fitted} <= {choices}


def test_networks_together_are_their_mean() -> None:
    draw = np.random.default_rng(9)
    pieces = [(draw.standard_normal((5, 6)), draw.random(6)) for _ in range(40)]
    together = fit_reading.fit_beats(pieces)
    each = [fit_reading.fit(pieces, *fit_reading.NETWORK, seed) for seed in range(fit_reading.NETWORKS)]
    assert isinstance(together, Choice)
    assert together.scores(pieces[0][0]) == pytest.approx(np.mean([one.scores(pieces[0][0]) for one in each], axis=0))


@pytest.mark.parametrize("seed", range(len(SOUNDS)))
def test_sounds_without_a_beat_are_of_every_kind_and_repeat_nothing(seed: int) -> None:
    """As loud as music; the envelope has no period from a third of a second to two at which it is like itself."""
    kind, sound = beatless(seed)
    assert kind == list(SOUNDS)[seed]
    assert np.array_equal(beatless(seed)[1], sound)
    assert not np.array_equal(beatless(seed + len(SOUNDS))[1], sound)
    assert len(sound) == round(SECONDS * RATE)
    assert np.sqrt(np.mean(sound**2)) == pytest.approx(0.2, rel=1e-3)
    envelope = np.abs(sound).reshape(-1, 441).mean(axis=1)
    rises = np.maximum(0.0, np.diff(np.log(envelope + 0.01)) - 0.3)  # windows beat with the tones of a drone
    rises -= rises.mean()
    alike = np.correlate(rises, rises, "full")[len(rises) - 1 :] / (rises @ rises + 1e-9)
    assert alike[17:100].max() < 0.25
