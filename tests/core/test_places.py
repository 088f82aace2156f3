"""Places and lengths as people write them, grids that change beneath them, and markers in files."""

import struct
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.errors import Unreadable, Unusable
from latespin.media.exchange.marker_files import read_marks, write_marks
from latespin.model.documents.documents import Session, read_recipe, read_session, to_json
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.effects import Hall
from latespin.model.moments.endings import CleanStop, Ending
from latespin.model.moments.markers import Marker, moment_over
from latespin.model.moments.moments import DropIn, Moments, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import (
    Layout,
    Length,
    Position,
    moved_to,
    parse_place,
    parse_span,
    say_place,
    say_span,
)
from latespin.model.version import Colour, Stages, Version
from latespin.render.recipes import recipe_of
from tests.conftest import noise, track_of

GRID = Grid(bpm=100.0, first_beat_seconds=0.4, beats_per_bar=4)


@pytest.mark.parametrize(
    ("text", "place", "said"),
    [
        ("17", Position(beat=64.0), "bar 17"), ("bar 17", Position(beat=64.0), "bar 17"), ("17.3", Position(beat=66.0), "bar 17.3"),
        ("17.3.1/2", Position(beat=66.5), "bar 17.3½"), ("17.3½", Position(beat=66.5), "bar 17.3½"), ("17.3.08", Position(beat=66.08), "bar 17.3.08"),
        ("-1", Position(beat=-4.0), "bar −1"),
        ("1:02.345", Position(seconds=62.345), "1:02.345"), ("12.5 s", Position(seconds=12.5), "0:12.500"),
    ],
)  # fmt: skip
def test_places_are_read_and_said(text: str, place: Position, said: str) -> None:
    assert parse_place(text, GRID) == place
    assert say_place(place, GRID) == said


@pytest.mark.parametrize("text", ["0", "17.5", "soon", "", "17.0"])
def test_what_is_not_a_place_is_refused_in_words(text: str) -> None:
    with pytest.raises(Unusable):
        parse_place(text, GRID)
    with pytest.raises(Unusable, match=r"no bars|not a place"):
        parse_place("17", None)


@pytest.mark.parametrize(
    ("text", "length", "said"),
    [
        ("2 bars", Length(beats=8.0), "2 bars"), ("1 beat", Length(beats=1.0), "1 beat"), ("1/8", Length(beats=0.5), "0.5 beats"),
        ("800 ms", Length(seconds=0.8), "0.8 s"), ("1.5 s", Length(seconds=1.5), "1.5 s"), ("0:03", Length(seconds=3.0), "3 s"),
    ],
)  # fmt: skip
def test_lengths_are_read_and_said(text: str, length: Length, said: str) -> None:
    assert parse_span(text, GRID) == length
    assert say_span(length, GRID) == said
    with pytest.raises(Unusable):
        parse_span("a while", GRID)


@given(beat=st.integers(-8, 400), part=st.sampled_from([0.0, 0.25, 0.5, 1 / 3]), by=st.integers(-3, 3))
def test_what_lies_on_a_beat_stays_on_it(beat: int, part: float, by: int) -> None:
    """Whatever is put right about the grid, it is at the same beat of the song."""
    place = Position(beat=beat + part)
    moved = Grid(bpm=100.0, first_beat_seconds=0.4 + 4 * GRID.beat_seconds).counted_from(by)
    old = Grid(bpm=100.0, first_beat_seconds=0.4 + 4 * GRID.beat_seconds)
    seconds = place.seconds_in(old)
    assert moved_to(place, old, moved).seconds_in(moved) == pytest.approx(seconds, abs=1e-4)
    assert moved_to(place, old, old.doubled()).beat == 2 * (beat + part)
    assert moved_to(place, old, old.shifted(0.03)).beat == pytest.approx(beat + part)
    assert moved_to(place, old, replace(old, bpm=101.0)).beat == pytest.approx(beat + part)
    assert moved_to(Position(seconds=3.0), old, moved) == Position(seconds=3.0)


def test_a_session_moves_with_its_grid_and_keeps_everything_in_its_file() -> None:
    stop = TapeStop(id="a", start=Position(beat=16.0), end=Position(beat=20.0))
    stages = Stages(moments=Moments(placed=(stop,)), ending=Ending(way=CleanStop(at=Position(beat=64.0))))
    marker = Marker(id="m", label="here", start=Position(beat=8.0), end=Position(seconds=9.0))
    session = Session(versions=(Version(id="v", name="V", stages=stages),), chosen="v", markers=(marker,))
    later = session.on_grid(GRID, GRID.doubled())
    assert later.versions[0].stages.moments.placed[0].start == Position(beat=32.0)
    assert later.versions[0].stages.ending.way.at == Position(beat=128.0)  # type: ignore[union-attr]
    assert later.markers[0].start == Position(beat=16.0)
    assert read_session(to_json(session), "s") == session
    sound = DropIn(id="d", start=Position(beat=1.0), end=Position(beat=2.0), path="/far/bell.wav")
    with_sound = replace(
        session, versions=(Version(id="v", name="V", stages=Stages(moments=Moments(placed=(sound,)))),)
    )
    changed = with_sound.with_sounds(lambda path: path.rsplit("/", 1)[-1])
    assert changed.versions[0].stages.moments.placed[0].path == "bell.wav"  # type: ignore[union-attr]
    over = moment_over(marker, stop, "b")
    assert (over.id, over.label, over.start, over.end) == ("b", "here", marker.start, marker.end)


def test_wrong_moments_in_a_file_are_named_by_their_path() -> None:
    good = to_json(Session(versions=(Version(id="v", name="V", stages=Stages(moments=Moments(placed=(
        TapeStop(id="a", start=Position(beat=16.0), end=Position(beat=20.0)),)))),), chosen="v")).decode()  # fmt: skip
    for wrong, words in (
        (good.replace('"depth_percent": 100.0', '"depth_percent": 180'), "depth_percent is 180"),
        (good.replace('"kind": "tape-stop"', '"kind": "tape-go"'), "tape-go"),
        (good.replace('"beat": 16.0', '"beat": null'), "either a beat or seconds"),
    ):
        with pytest.raises(Unreadable, match="moments") as caught:
            read_session(wrong.encode(), "s")
        assert words in str(caught.value)


def test_markers_go_round_through_csv_and_wav(tmp_path: Path) -> None:
    """Labels, places and ranges, to the frame; the sound beside the cue points is the song's own."""
    import soundfile

    track = track_of(noise(3.0))
    marks = [("erste, “Stelle”", 0.5, None), ("", 1.0, 1.25), ("Ende", 2.75, 2.9)]
    for name in ("m.csv", "m.wav"):
        write_marks(marks, tmp_path / name, track, overwrite=False, sources=())
        found = read_marks(tmp_path / name)
        assert [label for label, _, _ in found] == [label for label, _, _ in marks]
        for (_, start, end), (_, first, last) in zip(found, marks, strict=True):
            assert start == pytest.approx(first, abs=1 / 44_100)
            assert (end is None) == (last is None)
            assert end is None or end == pytest.approx(last, abs=2 / 44_100)
    sound, rate = soundfile.read(tmp_path / "m.wav", dtype="float32")
    assert rate == 44_100
    assert (track.sound == sound.T).all()


@pytest.mark.parametrize("name", ["m.csv", "m.wav"])
def test_markers_whose_beats_were_moved_are_written_all_the_same(tmp_path: Path, name: str) -> None:
    """One before the song is put at its start; a range turned over or without length becomes a place."""
    marks = [("over", 2.0, 1.5), ("none", 1.0, 1.0), ("early", -0.25, 0.5), ("outside", -2.0, -1.0)]
    marks.append(("fine", 0.5, 0.75))
    assert write_marks(marks, tmp_path / name, track_of(noise(3.0)), overwrite=False, sources=()) == 4
    found = sorted(read_marks(tmp_path / name))
    assert found == [
        ("early", 0.0, 0.5),
        ("fine", 0.5, 0.75),
        ("none", 1.0, None),
        ("outside", 0.0, None),
        ("over", 2.0, None),
    ]


def test_broken_marker_files_are_said(tmp_path: Path) -> None:
    files = {
        "a.csv": b"label,start_seconds,end_seconds\nx,2.0,1.0\n", "b.csv": b"what\n1\n", "c.csv": b"\xff\xfe\x00",
        "d.wav": b"RIFF\x10\0\0\0WAVEcue \x04\0\0\0" + struct.pack("<I", 9), "e.csv": b"label,start_seconds,end_seconds\n",
        "f.csv": b"label,start_seconds,end_seconds\nx,soon,\n",
    }  # fmt: skip
    words = {
        "a.csv": "line 2",
        "b.csv": "columns",
        "c.csv": "not CSV",
        "d.wav": "damaged",
        "e.csv": "columns|no markers",
        "f.csv": "numbers",
    }
    for name, data in files.items():
        (tmp_path / name).write_bytes(data)
        with pytest.raises(Unreadable, match=words[name]):
            read_marks(tmp_path / name)
    with pytest.raises(Unreadable, match="does not exist"):
        read_marks(tmp_path / "none.csv")


def test_a_recipe_finds_its_places_on_another_song_from_both_its_ends() -> None:
    """What leads up to the end is as many beats before the last strong bar line; what comes early stays on its bar; free places by time."""

    def song(seconds: float, bpm: float, strongest: float) -> Layout:
        grid = Grid(bpm=bpm, first_beat_seconds=0.4)
        beats = grid.seconds_of(np.arange(0.0, seconds * bpm / 60.0))
        at = float(grid.seconds_of(strongest))
        strong = tuple((float(t), 1.0 if abs(t - at) < 1e-6 else 0.3) for t in beats)
        return Layout(round(seconds * 44_100), 44_100, grid, strong)

    first, other = song(180.0, 100.0, 280.0), song(203.0, 128.0, 408.0)
    fade = Lane(
        field="amount_percent", points=(LanePoint(at=Position(beat=8.0), value=0.0), LanePoint(at=Position(beat=272.0), value=50.0))
    )  # fmt: skip
    placed = (
        TapeStop(id="early", start=Position(beat=16.0), end=Position(beat=20.0)),
        TapeStop(id="late", start=Position(beat=264.0), end=Position(beat=266.0)),
        TapeStop(id="free", start=Position(seconds=170.0), end=Position(seconds=171.0)),
    )
    stages = Stages(
        moments=Moments(placed=placed), ending=Ending(way=CleanStop(at=Position(beat=200.0))),
        colour=Colour(effects=(Hall(id="hall", lanes=(fade,)),)),
    )  # fmt: skip
    recipe = recipe_of(stages, "Last call", layout=first)
    kept = read_recipe(to_json(recipe), "last-call.json")
    there = kept.on(other).stages
    early, late, free = there.moments.placed
    assert (early.start, early.end) == (Position(beat=16.0), Position(beat=20.0))
    assert (late.start, late.end) == (Position(beat=408.0 - 16.0), Position(beat=408.0 - 14.0))
    assert free.start.seconds == pytest.approx(193.0)
    assert [point.at.beat for point in there.colour.effects[0].lanes[0].points] == [8.0, 400.0]
    assert there.ending.way.at is None
    assert kept.on(first).stages == replace(stages, ending=there.ending)
    unmeasured = Layout(other.frames, other.rate)
    assert kept.on(unmeasured).stages.moments.placed[:2] == placed[:2]
