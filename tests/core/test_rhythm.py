"""What is read of rhythm beside the beats: swing, tempi that hold, and where drums come in."""

import sys
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "tools"))

import fit_reading
from latespin.analysis.rhythm.beats import Candidate, are_alike
from latespin.analysis.rhythm.drum_entry import find_drum_entry
from latespin.analysis.rhythm.held_tempi import held_tempi, main_tempo
from latespin.analysis.rhythm.swing import find_swing
from latespin.analysis.spectra import FPS, LONG_FPS, Spectra


def struck(places: np.ndarray, strengths: np.ndarray, seconds: float) -> np.ndarray:
    """Onsets with a rounded top at each of some seconds, between frames too."""
    frames = np.arange(round(seconds * FPS))
    out = np.zeros(len(frames))
    for place, strength in zip(places, strengths, strict=True):
        near = np.abs(frames - place * FPS) < 8
        out[near] += strength * np.exp(-0.5 * ((frames[near] - place * FPS) / 1.5) ** 2)
    return out


def played(offbeats: dict[float, float], period: float, count: int = 64) -> tuple[np.ndarray, np.ndarray]:
    """Onsets of strong beats and of something at parts of each beat, with strengths; and the beats."""
    beats = 0.4 + period * np.arange(count)
    places = np.concatenate([beats, *(beats + part * period for part in offbeats)])
    strengths = np.concatenate([np.ones(count), *(np.full(count, strength) for strength in offbeats.values())])
    return struck(places, strengths, beats[-1] + 2.0), beats


@given(
    bpm=st.floats(60.0, 180.0),
    place=st.floats(-0.1, 0.1),
    ratio=st.sampled_from([0.5, 2 / 3, 4 / 3, 2.0]),
    cut=st.integers(0, 20),
)
def test_beats_are_heard_alike_up_to_small_shifts_of_one_tempo(
    bpm: float, place: float, ratio: float, cut: int
) -> None:
    """Wherever they begin; half a beat off, or at another level of the tempo, they are heard otherwise."""
    period = 60.0 / bpm * FPS
    beats = 30.0 + period * np.arange(60)
    made = [Candidate(beats + shift * period, True, np.zeros(0)) for shift in (0.0, place, 0.5, 1 / 3)]
    one, near, off, third = made
    assert are_alike(one, near)
    assert are_alike(one, Candidate(beats[cut:], False, np.zeros(0)))
    assert not are_alike(one, off)
    assert not are_alike(one, third)
    other = Candidate(30.0 + period * ratio * np.arange(round(60 / ratio)), True, np.zeros(0))
    assert not are_alike(one, other)
    assert fit_reading.alike([one, off, near, other, off]).tolist() == [0, 1, 0, 3, 1]


@given(swing=st.floats(0.55, 0.69), bpm=st.floats(70.0, 170.0), soft=st.floats(0.3, 1.0))
def test_swing_is_where_off_beats_fall(swing: float, bpm: float, soft: float) -> None:
    assert find_swing(*played({swing: soft}, 60.0 / bpm)) == pytest.approx(swing, abs=0.006)


@pytest.mark.parametrize(
    ("parts", "why"),
    [
        ({0.5: 0.7}, "straight eighths"),
        ({0.25: 0.5, 0.5: 0.6, 0.75: 0.5}, "straight sixteenths"),
        ({1 / 3: 0.6, 2 / 3: 0.6}, "triplets"),
        ({}, "beats alone"),
        ({0.62: 0.05}, "hardly anything there"),
        ({0.5: 0.5, 0.64: 0.5}, "both"),
    ],
)
def test_what_is_straight_or_unclear_does_not_swing(parts: dict[float, float], why: str) -> None:
    assert find_swing(*played(parts, 0.5)) is None, why


def test_silence_and_a_few_beats_do_not_swing() -> None:
    assert find_swing(np.zeros(2000), np.arange(20.0)) is None
    assert find_swing(*played({0.6: 1.0}, 0.5, count=5)) is None


@given(
    tempi=st.lists(st.floats(60.0, 180.0), min_size=1, max_size=4),
    counts=st.lists(st.integers(24, 90), min_size=4, max_size=4),
    seed=st.integers(0, 99),
)
def test_tempi_are_told_where_they_hold(tempi: list[float], counts: list[int], seed: int) -> None:
    """Whole jumps, played 2 ms to either side: each tempo and the beat from which it holds; the main one holds longest."""
    jumps = np.abs(np.diff(np.log(tempi)))
    if len(jumps) and jumps.min() < 0.12:
        return
    periods = np.concatenate([np.full(count, 60.0 / bpm) for count, bpm in zip(counts, tempi, strict=False)])
    ideal = np.concatenate(([0.5], 0.5 + np.cumsum(periods)))
    held = held_tempi(ideal + 0.002 * np.random.default_rng(seed).standard_normal(len(ideal)).clip(-1, 1))
    assert [tempo.bpm for tempo in held] == pytest.approx(tempi, rel=0.004)
    firsts = np.concatenate(([0], np.cumsum(counts[: len(tempi)])))[:-1]
    assert np.abs(np.array([tempo.start for tempo in held]) - ideal[firsts]).max() < 1.1 * periods.max()
    lasts = [count / bpm for count, bpm in zip(counts, tempi, strict=False)]
    longest = [bpm for bpm, seconds in zip(tempi, lasts, strict=True) if seconds > max(lasts) - 1.5]
    assert min(abs(main_tempo(ideal) / bpm - 1.0) for bpm in longest) < 0.004


def test_a_tempo_that_moves_freely_holds_nowhere() -> None:
    bend = 1.0 + 0.15 * np.sin(np.arange(120) / 7.0)
    times = np.concatenate(([0.0], np.cumsum(0.5 * bend)))
    assert held_tempi(times) == ()
    assert main_tempo(times) == pytest.approx(60.0 / np.mean(np.diff(times)))
    assert held_tempi(times[:5]) == ()


def with_drums_from(
    bar: int, bars: int, bar_seconds: float, jitter: float, bass_from: int = 0
) -> tuple[Spectra, np.ndarray]:
    """Onsets of a song in which drums play from a bar on: lows and highs, over a bass and soft chords."""
    edges = bar_seconds * np.arange(bars + 1.0)
    frames = round(edges[-1] * FPS)
    draw = np.random.default_rng(3)
    onsets = 0.01 * draw.random((4, frames))
    eighths = np.arange(0.0, edges[-1], bar_seconds / 8)
    for number, at in enumerate(eighths):
        frame, loud = round(at * FPS), 1.0 + jitter * draw.standard_normal()
        in_bar = number // 8
        onsets[1:3, frame] += 0.3
        onsets[0, frame] += (
            0.4 * (number % 4 == 0) * (in_bar >= bass_from) + 0.8 * (number % 4 == 0) * (in_bar >= bar) * loud
        )
        onsets[3, frame] += 0.1 + 0.9 * (in_bar >= bar) * loud
    zeros, long = np.zeros(frames), round(edges[-1] * LONG_FPS)
    return Spectra(onsets, zeros, np.full(frames, 0.1), np.zeros((long, 8)), np.zeros((long, 60)), np.zeros((long, 12)), np.zeros((long // 4, 8, 60)), float(edges[-1])), edges  # fmt: skip


@given(bar=st.integers(2, 16), jitter=st.floats(0.0, 0.3))
def test_drums_enter_at_the_bar_at_which_they_do(bar: int, jitter: float) -> None:
    spectra, edges = with_drums_from(bar, 40, 2.0, jitter)
    assert find_drum_entry(spectra, edges) == edges[bar]


def test_drums_that_are_always_there_or_never_or_a_bass_alone_enter_nowhere() -> None:
    assert find_drum_entry(*with_drums_from(0, 40, 2.0, 0.3)) is None
    assert find_drum_entry(*with_drums_from(99, 40, 2.0, 0.3)) is None
    assert find_drum_entry(*with_drums_from(99, 40, 2.0, 0.3, bass_from=8)) is None
    assert find_drum_entry(*with_drums_from(4, 7, 2.0, 0.0)) is None, "too few bars to tell"
