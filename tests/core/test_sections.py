"""A song's sections: what they probably are, corrections by hand, and what follows them."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.analysis.results import Beats, Reading, Section
from latespin.analysis.section_kinds import section_kinds
from latespin.analysis.sections import FoundSection
from latespin.demo import demo_folder, demo_session
from latespin.errors import Unusable
from latespin.jobs import Quietly
from latespin.model.arranging.arrangement import ending_place
from latespin.model.arranging.relocation import made_on, relocated
from latespin.model.documents.documents import Session, read_session, to_json
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.moments import Moments, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Position, best_end, end_suggestions, layout_of
from latespin.model.timing.song_sections import (
    LONGEST_NAME,
    SongSection,
    counterpart,
    detected_sections,
    joined,
    named,
    number_at,
    of_kind,
    placed,
    say_section,
    split,
    starts_of,
    with_start,
)
from latespin.model.version import Stages
from latespin.render.batch.song_summary import survey
from latespin.render.loading import open_version

RATE = 44_100
GRID = Grid(bpm=120.0, first_beat_seconds=0.0)
SONG_SECONDS = 100.0
KINDS = {"I": "intro", "V": "verse", "C": "chorus", "B": "bridge", "K": "break", "O": "outro", "-": ""}


def form(letters: str, energies: list[float], bars: list[int]) -> list[FoundSection]:
    """Sections, their lengths given in bars of two seconds."""
    edges = 2.0 * np.cumsum([0, *bars])
    return [
        FoundSection(float(a), float(b), letter, energy)
        for a, b, letter, energy in zip(edges, edges[1:], letters, energies, strict=False)
    ]


@pytest.mark.parametrize(
    ("letters", "energies", "bars", "kinds"),
    [
        ("ABCBCD", [0.5, 0.8, 1.0, 0.8, 1.0, 0.6], [4, 8, 8, 8, 8, 4], "IVCVCO"),
        ("ABCDCE", [0.7, 0.9, 1.0, 0.4, 1.0, 0.7], [4, 16, 12, 4, 12, 6], "IVCKCO"),
        ("ABABCB", [0.8, 1.0, 0.8, 1.0, 0.9, 1.0], [8, 8, 8, 8, 8, 8], "VCVCBC"),
        ("ABCDCDE", [0.4, 0.9, 0.95, 1.0, 0.95, 1.0, 0.7], [2, 2, 8, 8, 8, 8, 4], "IIVCVCO"),
        ("BAA", [0.9, 1.0, 1.0], [30, 8, 8], "VCC"),
        ("AB", [0.9, 1.0], [8, 8], "--"),
        ("ABCDE", [0.9, 1.0, 0.9, 1.0, 0.9], [8, 8, 8, 8, 8], "I---O"),
    ],
)
def test_kinds_follow_what_repeats_what_is_fullest_and_where_it_lies(
    letters: str, energies: list[float], bars: list[int], kinds: str
) -> None:
    assert section_kinds(form(letters, energies, bars)) == [KINDS[kind] for kind in kinds]


@given(st.data())
def test_every_song_has_a_kind_or_none_for_each_section_whatever_its_form(data: st.DataObject) -> None:
    letters = data.draw(st.text("ABCD", min_size=1, max_size=14))
    energies = [data.draw(st.floats(0.05, 1.0)) for _ in letters]
    found = section_kinds(form(letters, energies, [data.draw(st.integers(2, 16)) for _ in letters]))
    assert len(found) == len(letters)
    inner = [kind for kind in found if kind not in ("intro", "outro")]
    assert "intro" not in found[found.count("intro") :]
    assert "outro" not in found[: len(found) - found.count("outro")]
    assert len(letters) < 3 or inner, "a song is more than its intro and outro"


def some_sections(*beats: int, kinds: str = "") -> tuple[SongSection, ...]:
    """Sections that start on beats, the first with the song."""
    chosen = (kinds + "-" * (len(beats) + 1))[: len(beats) + 1]
    places = [Position(seconds=0.0), *(Position(beat=float(beat)) for beat in beats)]
    return tuple(
        SongSection(start=at, label=letter, kind=KINDS[kind])
        for at, letter, kind in zip(places, "ABCDEFGHIJKLMNOP", chosen, strict=False)
    )


@given(beats=st.sets(st.integers(2, 190), min_size=1, max_size=12), at=st.integers(2, 190))
def test_a_split_is_undone_by_joining_and_borders_stay_in_order(beats: set[int], at: int) -> None:
    sections = some_sections(*sorted(beats))
    if at in beats:
        with pytest.raises(Unusable, match="begins or ends here already"):
            split(sections, Position(beat=float(at)), GRID, SONG_SECONDS)
        return
    cut = split(sections, Position(beat=float(at)), GRID, SONG_SECONDS)
    starts = starts_of(cut, GRID)
    assert starts == sorted(starts)
    number = number_at(cut, at / 2.0, GRID)
    assert (starts[number], cut[number].label) == (at / 2.0, cut[number - 1].label)
    assert joined(cut, number) == sections


@given(
    beats=st.sets(st.integers(2, 190), min_size=2, max_size=8), to=st.floats(0.0, SONG_SECONDS), which=st.integers(0, 8)
)
def test_a_border_moves_between_its_neighbours_only(beats: set[int], to: float, which: int) -> None:
    sections = some_sections(*sorted(beats))
    number = which % len(sections)
    moved = with_start(sections, number, Position(seconds=to), GRID, SONG_SECONDS)
    starts, edges = starts_of(moved, GRID), [*starts_of(sections, GRID), SONG_SECONDS]
    assert min(np.diff([*starts, SONG_SECONDS])) >= 0.5 - 1e-9
    inside = number > 0 and edges[number - 1] + 0.5 <= to <= edges[number + 1] - 0.5
    assert starts == [to if i == number and inside else edge for i, edge in enumerate(edges[:-1])]


def test_what_cannot_be_is_said_and_names_are_kept_short() -> None:
    sections = some_sections(16, 32)
    for number in (0, 3, -1):
        with pytest.raises(Unusable, match="no section before"):
            joined(sections, number)
    with pytest.raises(Unusable, match="begins or ends here"):
        split(sections, Position(seconds=SONG_SECONDS - 0.2), GRID, SONG_SECONDS)
    assert say_section(of_kind(sections, 1, "chorus")[1]) == "Chorus B"
    long = named(sections, 1, "  The part with the bells " + "x" * 90)
    assert say_section(long[1]).startswith("The part with the bells")
    assert len(long[1].name) == LONGEST_NAME
    assert say_section(named(long, 1, " ")[1]) == "B"
    assert split((), Position(beat=8.0), GRID, SONG_SECONDS) == (
        SongSection(start=Position(seconds=0.0)), SongSection(start=Position(beat=8.0)),
    )  # fmt: skip


def reading_with(*starts: float, kinds: str = "") -> Reading:
    """A reading with beats at 120 BPM and sections from these seconds on."""
    count = round(SONG_SECONDS * 2.0)
    beats = Beats(
        times=tuple(0.5 * n for n in range(count)), beats_per_bar=4, bar_one=0, steady=True, bpm=120.0, bpm_confidence=1.0,
        metre_confidence=1.0, found=(0, count), sure=(1.0,) * count, strong=tuple(0.5 if n % 4 == 0 else 0.1 for n in range(count)),
    )  # fmt: skip
    chosen = (kinds + "-" * len(starts))[: len(starts)]
    sections = tuple(
        Section(start=a, end=b, label=label, energy=1.0, kind=KINDS[kind])
        for a, b, label, kind in zip(starts, (*starts[1:], SONG_SECONDS), "ABCDEFGH", chosen, strict=False)
    )
    return Reading(seconds=SONG_SECONDS, beats=beats, sections=sections)


def test_detected_sections_lie_on_their_beats_where_there_are_any() -> None:
    reading = reading_with(0.0, 16.013, 47.77, kinds="IVO")
    on_beats = detected_sections(reading, GRID)
    assert [part.start for part in on_beats] == [Position(seconds=0.0), Position(beat=32.0), Position(seconds=47.77)]
    assert [part.kind for part in on_beats] == ["intro", "verse", "outro"]
    assert [part.start.seconds for part in detected_sections(reading, None)] == [0.0, 16.013, 47.77]
    assert detected_sections(None, GRID) == ()


def test_strong_beats_and_endings_follow_corrected_sections() -> None:
    """The first beat of a section is stronger by 0.2, wherever the section was put; where the outro begins is offered as an end."""
    reading, frames = reading_with(0.0, 16.0, 88.0, kinds="VCO"), round(SONG_SECONDS * RATE)
    read = layout_of(frames, RATE, GRID, reading)
    assert read.sections == ((0.0, "verse"), (16.0, "chorus"), (88.0, "outro"))
    corrected = layout_of(frames, RATE, GRID, reading, placed(some_sections(48, 184, kinds="VCO"), GRID))
    known, now = (np.array([strength for _, strength in layout.strong]) for layout in (read, corrected))
    assert {n: round(now[n] - known[n], 6) for n in np.flatnonzero(now != known)} == {
        32: -0.2, 48: 0.2, 176: -0.2, 184: 0.2,
    }  # fmt: skip
    assert best_end(corrected) == Position(beat=184.0)
    early = layout_of(frames, RATE, GRID, reading, ((0.0, "verse"), (60.0, "outro")))
    assert Position(beat=120.0) in end_suggestions(early, 4)
    assert Position(beat=120.0) not in end_suggestions(read, 4)


def test_a_session_keeps_corrected_sections_on_their_beats() -> None:
    session = Session(grid=GRID, sections=named(some_sections(16, 32, kinds="IVC"), 2, "All together now"))
    again = read_session(to_json(session), "late.latespin")
    assert again == session
    moved = again.on_grid(GRID, GRID.doubled())
    assert [part.start.beat for part in moved.sections] == [None, 32.0, 64.0]
    assert starts_of(moved.sections, GRID.doubled()) == starts_of(session.sections, GRID)


@given(
    here=st.lists(st.sampled_from("VCBK"), min_size=1, max_size=9), there=st.lists(st.sampled_from("VCBK"), max_size=9)
)
def test_the_first_chorus_does_for_the_first_and_the_last_for_the_last(here: list[str], there: list[str]) -> None:
    for number, kind in enumerate(here):
        found = counterpart(number, here, there)
        if kind not in there:
            assert found is None
            continue
        assert found is not None
        assert there[found] == kind
        if number < len(here) / 2 and kind not in here[:number]:
            assert kind not in there[:found]
        if number >= len(here) / 2 and kind not in here[number + 1 :]:
            assert kind not in there[found + 1 :]
    assert [counterpart(n, here, here) for n in range(len(here))] == list(range(len(here)))


def test_a_moment_in_the_last_chorus_goes_to_the_last_chorus_of_another_song() -> None:
    def song(*sections: tuple[int, str], beats: int) -> Layout:
        return Layout(beats * RATE // 2, RATE, GRID, (), tuple((at / 2.0, KINDS[kind]) for at, kind in sections))

    first = song((0, "I"), (16, "V"), (48, "C"), (80, "V"), (112, "C"), (144, "O"), beats=176)
    other = song((0, "I"), (8, "V"), (40, "C"), (56, "V"), (88, "C"), (120, "K"), (136, "C"), (168, "O"), beats=200)
    stops = tuple(
        TapeStop(id=str(at), start=Position(beat=float(at)), end=Position(beat=at + 2.0))
        for at in (4, 50, 116, 140, 170)
    )
    stages = Stages(moments=Moments(placed=stops))
    there = relocated(stages, made_on(first), other)
    starts = {moment.id: moment.start.beat for moment in there.moments.placed}
    assert (starts["4"], starts["50"], starts["116"], starts["140"]) == (4.0, 42.0, 140.0, 164.0)
    assert all(moment.end.beat - moment.start.beat == 2.0 for moment in there.moments.placed)
    assert relocated(stages, made_on(first), first) == stages
    short = song((0, "V"), (40, "C"), (48, "V"), (88, "C"), (92, "O"), beats=200)
    moved = {m.id: m.start.beat for m in relocated(stages, made_on(first), short).moments.placed}
    assert moved["140"] - moved["116"] == 24.0, (
        "four beats into a chorus of four is past it: counted from the last bar line, as is what lies in the outro"
    )
    assert moved["170"] - moved["116"] == 54.0
    plain = relocated(stages, replace(made_on(first), sections=()), short)
    assert {m.id: m.start.beat for m in plain.moments.placed} == moved | {"50": 50.0}


def test_a_session_rendered_without_a_window_is_laid_out_by_its_corrected_sections(tmp_path: Path) -> None:
    """An ending without a place of its own goes where the corrected outro makes a bar line the strongest."""
    demo = read_session(demo_session().read_bytes(), "demo")
    assert demo.track is not None
    assert demo.grid is not None
    bar = 33 * demo.grid.beats_per_bar
    song = replace(demo.track, path=str(demo_folder() / demo.track.path))
    version = replace(demo.versions[0], stages=replace(demo.versions[0].stages, ending=Ending(way=RingOut())))
    session = replace(demo, track=song, versions=(version,), chosen=version.id)
    found = []
    for number, sections in enumerate(((), some_sections(48, bar, kinds="VCO"))):
        path = tmp_path / f"{number}.latespin"
        path.write_bytes(to_json(replace(session, sections=sections)))
        track, stages, layout = open_version(path, None, Quietly())
        song_summary = survey(track, Quietly()).corrected(demo.grid, sections)
        assert song_summary.layout.strong == layout.strong
        found.append((ending_place(stages, layout), layout.sections))
    assert found[0][0] != found[1][0] == Position(beat=float(bar))
    assert found[1][1] == placed(some_sections(48, bar, kinds="VCO"), demo.grid)
