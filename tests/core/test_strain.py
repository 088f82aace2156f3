"""Strain along a song: each harm at its place, at the documented thresholds, and zero elsewhere."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.analysis.content import content_of
from latespin.dsp.arrays import Audio
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.model.text.stretch_warnings import may_be_strained
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.strain_along import StrainAlong, strain_along
from tests.conftest import noise, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)


def hits(seconds: float, every: float) -> Audio:
    """Short low bursts."""
    out, burst = (
        np.zeros(round(seconds * RATE)),
        np.cos(2 * np.pi * 90.0 * np.arange(900) / RATE) * np.exp(-np.arange(900) / 150.0),
    )
    for at in np.arange(0.1, seconds - 0.1, every):
        out[round(at * RATE) : round(at * RATE) + 900] += 0.5 * burst
    return np.tile(out, (2, 1)).astype(np.float32)


def sung(seconds: float) -> Audio:
    """A note with harmonics in a voice's range."""
    t = np.arange(round(seconds * RATE)) / RATE
    wave = sum(np.sin(2 * np.pi * 220.0 * h * t + h) / h for h in range(1, 16))
    return np.tile(0.15 * wave, (2, 1)).astype(np.float32)


def along(sound: Audio, time: Time) -> StrainAlong:
    """The strain of a version of a sound."""
    readers = TrackRenderer(track_of(sound), GRID)
    content = content_of(sound, RATE, TransientMap(sound, RATE))
    return strain_along(time, readers.arrangement(Stages(time=time)).music, content, RATE)


def three_parts() -> Audio:
    """Ten seconds each of hits at eighths of 120 BPM, of hiss, and of a sung note."""
    return np.concatenate((hits(10.0, 0.25), noise(10.0, level=0.1), sung(10.0)), axis=1)


SHORT = np.concatenate((hits(4.0, 0.12), noise(4.0, level=0.1), sung(4.0)), axis=1)


@pytest.mark.parametrize(
    ("time", "part", "words"),
    [
        (Time(speed=2.0, pitch="held"), 0, "drums will soften"),
        (Time(speed=3.0, pitch="held"), 0, "drums will lose their punch"),
        (Time(speed=0.45, pitch="held"), 1, "hiss and tails will be drawn out"),
        (Time(semitones=5.0), 2, "voices will sound smaller"),
        (Time(speed=0.7), 2, "voices will sound larger"),
        (Time(semitones=9.0, formants="kept"), 2, "voices will thin"),
    ],
)  # fmt: skip
def test_each_harm_is_found_where_there_is_what_it_harms(time: Time, part: int, words: str) -> None:
    found = along(three_parts(), time)
    assert found.worst_seconds is not None
    assert part * 10.0 - 1.0 < found.worst_seconds < part * 10.0 + 11.0
    assert words in found.words_at(found.worst_seconds)
    for other in {0, 1, 2} - {part}:
        assert words not in found.words_at(other * 10.0 + 5.0)


@pytest.mark.parametrize(
    "time",
    [
        Time(),
        Time(speed=0.9),
        Time(speed=1.25, pitch="held"),
        Time(speed=0.8, pitch="held"),
        Time(semitones=-2.0),
        Time(speed=0.5, on=False),
    ],
)
def test_nothing_is_shown_where_it_is_natural(time: Time) -> None:
    found = along(three_parts(), time)
    assert not found.amounts.any()
    assert found.worst_seconds is None
    assert found.words_at(5.0) == found.words_at(1e6) == ()


@given(
    speed=st.floats(0.25, 4.0), semitones=st.floats(-24.0, 24.0), held=st.booleans(), kept=st.booleans(), halftime=st.sampled_from(["off", "song", "bar"]),
    down=st.booleans(), seconds=st.floats(0.5, 12.0),
)  # fmt: skip
def test_strain_is_a_share_everywhere_and_none_where_a_version_cannot_be_strained(
    speed: float, semitones: float, *, held: bool, kept: bool, halftime: str, down: bool, seconds: float
) -> None:
    time = Time(
        speed=speed,
        semitones=semitones,
        pitch="held" if held else "linked",
        formants="kept" if kept else "moved",
        halftime=halftime,
        octave_down=down,
    )  # type: ignore[arg-type]
    found = along(SHORT[:, : round(seconds * RATE)], time)
    assert np.all((found.amounts >= 0.0) & (found.amounts <= 1.0))
    assert len(found.amounts) == int(np.ceil(round(seconds * RATE) / RATE / found.step_seconds))
    if not may_be_strained(time):
        assert not found.amounts.any()
    worst = found.worst_seconds
    assert (worst is None) == (not found.amounts.any())
    if worst is not None:
        assert found.words_at(worst)


def test_closer_hits_are_strained_more_and_silence_not_at_all() -> None:
    """The passages held around hits meet where they follow each other by less than 0.15 s in the version."""
    sound = np.concatenate((hits(8.0, 0.5), hits(8.0, 0.18), np.zeros((2, 8 * RATE), np.float32)), axis=1)
    found = along(sound, Time(speed=1.6, pitch="held"))
    amounts = found.amounts
    assert not amounts[2:14].any()
    assert np.median(amounts[18:30]) > 0.3
    assert not amounts[34:].any()


def test_it_follows_the_tempo_curve_and_halftime_by_bars() -> None:
    curve = (
        CurvePoint(place=0.0, speed=1.0),
        CurvePoint(place=0.49, speed=1.0),
        CurvePoint(place=0.51, speed=2.2),
        CurvePoint(place=1.0, speed=2.2),
    )
    found = along(hits(20.0, 0.25), Time(pitch="held", curve=curve)).amounts
    assert not found[:17].any()
    assert found[23:38].min() > 0.1
    hiss = along(
        noise(16.0, level=0.1), Time(pitch="held", halftime="2bar")
    ).noise  # the first half of each cell of four seconds at half speed
    assert hiss[1] > 0.1
    assert hiss[9] > 0.1
