"""Typed results: the version gives what was typed, or says what cannot be; no window is needed."""

import math

import numpy as np
import pytest
from msgspec.structs import replace

from latespin.analysis.results import Key, Reading
from latespin.desktop.controllers.goal_seek import (
    apply,
    fit_range,
    kept_mode,
    more_allowance,
    side_effects,
    solve,
    solve_grid,
)
from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import LoadedTrack
from latespin.desktop.session.tasks import WorkQueue
from latespin.model.documents.documents import Session
from latespin.model.moments.endings import CleanStop, Ending
from latespin.model.text.describe import shift_semitones
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.version import Level, Stages, Time, Version
from tests.conftest import noise, track_of

SECONDS, RATE = 20.0, 44_100


@pytest.fixture
def document(qapp):
    """A document on twenty seconds of noise at 100 BPM in A minor, with one untouched version; nothing is measured."""
    from latespin.analysis.facts import facts_of
    from latespin.media.audio.peaks import find_peaks
    from latespin.render.chain.renderer import TrackRenderer

    work = WorkQueue()
    made = Document(work)
    track = track_of(noise(SECONDS))
    made.loaded = LoadedTrack(track, facts_of(track.sound, RATE), find_peaks(track.sound, RATE), TrackRenderer(track))
    made.reading = Reading(seconds=SECONDS, keys=(Key(tonic=9, mode="minor", confidence=0.9),))
    made._read_grid = Grid(bpm=100.0, first_beat_seconds=0.2)
    version = Version(id="v", name="Lights down", stages=Stages(time=Time(), level=Level()))
    made._history.value = Session(versions=(version,), chosen="v")
    yield made
    work.close()


def time_of(document: Document, asked: str, text: str) -> Time:
    """The Time stage that gives a typed result."""
    return solve(document, asked, text).time


@pytest.mark.parametrize(("text", "speed"), [("84", 0.84), ("125 BPM", 1.25), ("50", 0.5)])
def test_a_tempo(document: Document, text: str, speed: float) -> None:
    assert time_of(document, "tempo", text).speed == pytest.approx(speed)


@pytest.mark.parametrize("text", ["0:25", "16 s", "0:10.5"])
def test_a_length_to_the_frame(document: Document, text: str) -> None:
    apply(document, "length", text, None)
    made = document.time_map()
    assert made is not None
    wanted = {"0:25": 25.0, "16 s": 16.0, "0:10.5": 10.5}[text]
    assert made.after_frames == pytest.approx(wanted * RATE, abs=1.0)


def test_a_length_also_where_an_ending_cuts_the_song(document: Document) -> None:
    stages = replace(document.stages, ending=Ending(way=CleanStop(at=Position(seconds=10.0))))
    document.edit_stages("Ending", stages)
    apply(document, "length", "0:12", None)
    made = document.time_map()
    assert made is not None
    assert made.after_frames == pytest.approx(12.0 * RATE, abs=2.0)
    assert document.stages.time.speed == pytest.approx(10.0 / 12.0, rel=1e-3)


@pytest.mark.parametrize(("speed", "text"), [(1.0, "−3"), (0.8, "0"), (1.25, "+2.5 st"), (0.5, "-50 ct")])
def test_a_pitch_whatever_the_speed(document: Document, speed: float, text: str) -> None:
    document.edit_stages("Speed", replace(document.stages, time=Time(speed=speed)))
    made = time_of(document, "pitch", text)
    wanted = {"−3": -3.0, "0": 0.0, "+2.5 st": 2.5, "-50 ct": -0.5}[text]
    assert shift_semitones(made)[0] == pytest.approx(wanted, abs=1e-9)
    assert made.speed == speed, "only the transposition changes"


@pytest.mark.parametrize(("text", "cents"), [("2", 1200.0), ("0.5", -1200.0), ("1.5", 701.955)])
def test_a_frequency_ratio(document: Document, text: str, cents: float) -> None:
    assert 100.0 * shift_semitones(time_of(document, "ratio", text))[0] == pytest.approx(cents, abs=1e-3)


@pytest.mark.parametrize(
    ("text", "semitones"), [("B minor", 2.0), ("G minor", -2.0), ("D#", 6.0), ("C major", 0.0), ("F", -4.0)]
)
def test_a_key_the_nearer_way_and_the_relative_of_the_other_mode(
    document: Document, text: str, semitones: float
) -> None:
    moved = shift_semitones(time_of(document, "key", text))[0]
    assert math.remainder(moved - semitones, 12.0) == pytest.approx(0.0, abs=1e-6)
    assert abs(moved) <= 6.0


def test_a_key_of_the_other_mode_says_what_it_did_and_offers_its_tonic(document: Document) -> None:
    apply(document, "key", "C major", None)
    offer = kept_mode(document, "C major")
    assert offer is not None
    sentence, stages, words = offer
    assert "A minor" in sentence
    assert words == "C minor instead"
    assert shift_semitones(stages.time)[0] == pytest.approx(3.0)
    assert kept_mode(document, "A minor") is None


@pytest.mark.parametrize(
    ("asked", "text", "field", "value"),
    [("loudness", "−11 LUFS", "target_lufs", -11.0), ("peak", "-2", "ceiling_dbtp", -2.0)],
)
def test_a_loudness_and_a_peak_switch_level_on(
    document: Document, asked: str, text: str, field: str, value: float
) -> None:
    document.edit_stages("Off", replace(document.stages, level=Level(on=False, as_before=True)))
    level = solve(document, asked, text).level
    assert level.on
    assert getattr(level, field) == value
    assert level.as_before == (asked == "peak")


@pytest.mark.parametrize(
    ("asked", "text", "words"),
    [
        ("tempo", "900", "it can be"), ("length", "0:01", "it can be"), ("length", "-5", "tail alone"), ("pitch", "40", "it can be"),
        ("ratio", "0", "above 0"), ("key", "H", "is not a key"), ("loudness", "-90", "it can be"), ("percent", "fast", "not a number"),
        ("beats", "0", "it can be"), ("source-bpm", "5", "it can be"),
    ],
)  # fmt: skip
def test_what_cannot_be_had_is_said_and_changes_nothing(document: Document, asked: str, text: str, words: str) -> None:
    before = document.session
    with pytest.raises(ValueError, match=words):
        apply(document, asked, text, None)
    assert document.session == before


def test_without_beats_or_a_key_it_says_what_to_do(document: Document) -> None:
    document.reading, document._read_grid = Reading(seconds=SECONDS), None
    with pytest.raises(ValueError, match="own BPM is not known"):
        solve(document, "tempo", "84")
    with pytest.raises(ValueError, match="own key is not known"):
        solve(document, "key", "A minor")
    with pytest.raises(ValueError, match="BPM first"):
        solve_grid(document, "first-beat", "0.3")
    assert solve_grid(document, "source-bpm", "92").bpm == 92.0


@pytest.mark.parametrize(("marked", "text"), [((4.0, 8.0), "0:06"), ((0.0, 20.0), "0:30"), ((10.0, 11.0), "0.8 s")])
def test_a_marked_range_lasts_what_was_typed_and_the_rest_what_it_did(document: Document, marked, text: str) -> None:
    stages = fit_range(document, marked, text)
    document.edit_stages("Fit", stages)
    made = document.time_map()
    assert made is not None
    wanted = {"0:06": 6.0, "0:30": 30.0, "0.8 s": 0.8}[text]
    ends = [made.after_at(seconds * RATE) / RATE for seconds in marked]
    assert ends[1] - ends[0] == pytest.approx(wanted, abs=1e-3)
    assert ends[0] == pytest.approx(marked[0], abs=2e-3)
    with pytest.raises(ValueError, match="can last"):
        fit_range(document, marked, "9:00")


@pytest.mark.parametrize(("asked", "text", "first", "last"), [("start", "0.9", 0.9, 1.0), ("end", "1.2", 1.0, 1.2)])
def test_the_speeds_at_both_ends_make_a_curve(
    document: Document, asked: str, text: str, first: float, last: float
) -> None:
    curve = time_of(document, asked, text).curve
    assert (curve[0].speed, curve[-1].speed) == (pytest.approx(first), pytest.approx(last))


def test_a_slower_speed_names_its_pitch_and_offers_to_hold_it() -> None:
    before, after = Stages(time=Time()), Stages(time=Time(speed=0.8))
    found = side_effects(before, after)
    assert found is not None
    sentence, stages, words = found
    assert "3.9 semitones lower" in sentence
    assert words == "Hold the pitch"
    assert stages.time.pitch == "held"
    assert shift_semitones(stages.time)[0] == pytest.approx(0.0)
    assert side_effects(before, before) is None
    assert side_effects(before, Stages(time=Time(speed=0.8, pitch="held"))) is None
    curved = Time(speed=0.8, curve=(CurvePoint(place=0.0, speed=0.9), CurvePoint(place=1.0, speed=1.1)))
    assert side_effects(before, Stages(time=curved)) is None


@pytest.mark.parametrize(
    ("reached", "target", "allowed"), [(-16.0, -14.0, 5.0), (-14.2, -14.0, 2.5), (-30.0, -14.0, 12.0)]
)
def test_more_limiting_is_offered_in_half_decibels_up_to_its_limit(
    reached: float, target: float, allowed: float
) -> None:
    made = more_allowance(Level(allowance_db=2.0), reached, target)
    assert made is not None
    assert made.allowance_db == allowed
    assert more_allowance(replace(made, allowance_db=12.0), reached, target) is None


@pytest.mark.parametrize(("asked", "text"), [("source-bpm", "120"), ("first-beat", "0.35"), ("beats", "3")])
def test_the_grid_takes_what_was_typed(document: Document, asked: str, text: str) -> None:
    apply(document, asked, text, None)
    grid = document.grid
    assert grid is not None
    wanted = {"source-bpm": 120.0, "first-beat": 0.35, "beats": 3}
    values = {"source-bpm": grid.bpm, "first-beat": grid.first_beat_seconds, "beats": grid.beats_per_bar}
    assert values[asked] == pytest.approx(wanted[asked])
    assert np.isfinite(list(values.values())).all()
