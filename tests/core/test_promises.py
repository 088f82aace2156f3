"""Nothing is wrong without a word, and nothing of the user's is touched: each of these once went wrong in silence."""

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.metering.loudness import measure_loudness
from latespin.errors import Unwritable
from latespin.media.exchange.grid_files import write_grid
from latespin.media.exchange.marker_files import write_marks
from latespin.media.files.atomic import write_bytes, written_whole
from latespin.media.tags import read_tags
from latespin.media.track import open_track
from latespin.model.arranging.arrangement import arrange
from latespin.model.documents.documents import Session, TrackReference, files_of, plain_json, read_session, to_json
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.effects import ConvolutionReverb, Eq, Layer
from latespin.model.moments.endings import ENDINGS, Ending, NoEnding, TapeStopEnd
from latespin.model.moments.moments import DropIn, Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.values.units import clock, parse_length, parse_value
from latespin.model.version import HALFTIME_BARS, Colour, Stages, Time, Version
from latespin.paths import path_from_text
from latespin.render.batch.report import Line, write_report
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems
from latespin.render.pads import write_pad
from latespin.render.recipes import find_recipe
from tests.conftest import level_db, noise, sine, track_of
from tests.core.conftest import INTERRUPTIBLE, facts

RATE = 44_100
Run = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture
def beatless(tmp_path: Path) -> Path:
    """Twenty seconds of a steady sound in which nobody finds a beat."""
    path = tmp_path / "Ice machine.wav"
    soundfile.write(path, 0.2 * noise(20, level=0.2).T, RATE, subtype="PCM_16")
    return path


# -- what is asked for and not had is said -------------------------------------------------------------------------


def test_halftime_in_bars_of_a_song_without_bars_is_said_and_not_in_its_title(
    beatless: Path, tmp_path: Path, here: Run
) -> None:
    out = tmp_path / "out.flac"
    done = here("render", beatless, out, "--recipe", "halftime", "--json")
    assert any("Halftime in bars is left out" in note for note in facts(done)["notes"])
    assert "halftime" not in read_tags(out)[0].first("title").lower()
    mapped = facts(here("map", beatless, "--recipe", "halftime", "--json"))
    assert any("Halftime in bars is left out" in problem for problem in mapped["problems"])
    planned = facts(here("set", beatless, "--recipe", "halftime", "--out", tmp_path / "set", "--dry-run", "--json"))
    assert any("Halftime in bars is left out" in warning for warning in planned["files"][0]["warnings"])


def test_halftime_in_bars_has_the_song_read(tmp_path: Path, here: Run) -> None:
    """No tempo is given, and the first half of a bar still sounds over the whole of it."""
    song = tmp_path / "Steady.wav"
    beats = np.zeros((2, 24 * RATE), np.float32)
    for n in range(48):
        start = round((0.25 + 0.5 * n) * RATE)
        length = min(4000, beats.shape[1] - start)
        beats[:, start : start + length] += sine(90 if n % 4 else 60, 4000 / RATE, level=0.5)[:, :length] * np.exp(
            -np.arange(length) / 700
        )
    soundfile.write(song, beats.T, RATE)
    mapped = facts(here("map", song, "--recipe", "halftime", "--json"))
    speeds = {round(span["speed_start"], 3) for span in mapped["spans"][1:]}
    assert len(mapped["spans"]) >= 8
    assert speeds == {round(find_recipe("halftime").stages.time.speed * 0.5, 3)}
    assert not mapped["problems"]


def test_a_sound_that_is_missing_or_no_sound_is_not_in_the_title(tmp_path: Path) -> None:
    from latespin.analysis.facts import facts_of
    from latespin.render.export.tags import version_tags

    track = track_of(noise(1))
    (tmp_path / "broken.wav").write_bytes(b"no sound at all")
    for path in (tmp_path / "gone.wav", tmp_path / "broken.wav"):
        stages = Stages(colour=Colour(effects=(ConvolutionReverb(id="r", room="file", path=str(path)),)))
        readers = TrackRenderer(track)
        readers.chain(stages).read(track.frames)
        assert version_problems(stages, readers.arrangement(stages), readers.context(stages))[0].left_out
        tags = version_tags(readers, stages, None, facts_of(track.sound, RATE), tmp_path / "x.flac")
        assert "reverb" not in tags.first("title")


def test_an_opening_without_bars_goes_by_120_beats_a_minute_and_opens(
    here: Run, beatless: Path, tmp_path: Path
) -> None:
    """Thirty-four beats are seventeen seconds: from there on it is the song, frame for frame."""
    stages = find_recipe("vintage-opening").stages
    song = open_track(beatless)
    made = TrackRenderer(song).chain(stages).read(song.frames)
    open_from = round(17.1 * RATE)
    assert (made[:, open_from:] == song.sound[:, open_from : made.shape[1]]).all()
    assert level_db(made[:, RATE : 2 * RATE] - song.sound[:, RATE : 2 * RATE]) > level_db(song.sound) - 6.0
    notes = facts(here("render", beatless, tmp_path / "o.wav", "--recipe", "vintage-opening", "--json"))["notes"]
    about_beats = [note for note in notes if "no bars" in note]
    assert len(about_beats) == 2, "one sentence for each of its two effects"
    assert all("120 BPM from its start are used" in note for note in about_beats)


# -- grids that begin before the song ------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", [name for name, ending in ENDINGS.items() if ending is not NoEnding])
def test_a_first_beat_just_before_the_song_is_no_reason_to_refuse(kind: str) -> None:
    grid = Grid(bpm=120.0, first_beat_seconds=-0.00191)
    layout = Layout(30 * RATE, RATE, grid)
    made = arrange(Stages(ending=Ending(way=ENDINGS[kind](at=Position(beat=40.0)))), layout)
    assert not made.problems
    frames = round((20.0 - 0.00191) * RATE)
    assert made.close.at == pytest.approx(frames, abs=1)


@given(st.floats(-20.0, 5.0), st.sampled_from(sorted(HALFTIME_BARS)))
def test_cells_begin_at_bar_lines_wherever_bar_1_is(first: float, halftime: str) -> None:
    """Each cell that begins in the song plays at half speed from its own bar line, which stays where it is."""
    grid = Grid(bpm=120.0, first_beat_seconds=first)
    made = arrange(Stages(time=Time(halftime=halftime)), Layout(30 * RATE, RATE, grid)).map  # type: ignore[arg-type]
    cell = 2.0 * HALFTIME_BARS[halftime]
    lines = [at for at in first + cell * np.arange(-20, 20) if first - 1e-9 <= at and 0.0 < at < 29.9]
    for line in lines:
        frame = line * RATE
        assert made.before_at(frame + 10.0) == pytest.approx(frame + 5.0, abs=1.0)
    if first < -cell:
        begun = RATE * max(at for at in (0.0, *lines) if at * RATE <= 100.0)
        assert made.before_at(100.0) == pytest.approx(0.5 * (begun + 100.0), abs=1.0), "the song begins within a cell"


def test_beats_may_be_moved_before_the_song_and_back() -> None:
    grid = Grid(bpm=120.0, first_beat_seconds=0.004)
    earlier = grid.shifted(-0.010)
    assert earlier.first_beat_seconds == pytest.approx(-0.006)
    assert earlier.shifted(0.010) == grid
    assert clock(earlier.first_beat_seconds, 3) == "−0:00.006"
    assert parse_length("−0:00.006") == pytest.approx(-0.006)


# -- numbers mean what people mean by them -------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "ratio"),
    [("+30 %", 1.3), ("−22 %", 0.78), ("-22%", 0.78), ("80 %", 0.8), ("0.8", 0.8), ("1.25x", 1.25), ("+0 %", 1.0)],
)
def test_a_percentage_with_a_sign_is_a_change(text: str, ratio: float) -> None:
    assert parse_value(text, "×") == pytest.approx(ratio)
    assert parse_value("+30 %", "%") == 30.0, "of what is no ratio it is the value"


def test_changes_in_per_cent_on_the_command_line(here: Run, tmp_path: Path) -> None:
    song = tmp_path / "tone.wav"
    soundfile.write(song, sine(1000, 1.0).T, RATE)
    for option, frames in (("-22%", RATE / 0.78), ("+25%", RATE / 1.25), ("80%", RATE / 0.8), ("0.8", RATE / 0.8)):
        made = facts(here("render", song, tmp_path / "o.wav", "--speed", option, "--overwrite", "--json"))
        assert made["frames"] == round(frames)
    assert "--speed" in here("render", song, tmp_path / "p.wav", "--speed", "-100%").stderr


def test_limiter_and_loudness_options_do_what_messages_advise(here: Run, tmp_path: Path) -> None:
    song = tmp_path / "peaky.wav"
    sound = 0.05 * noise(4, level=0.3)
    sound[:, :: RATE // 4] = 0.5
    soundfile.write(song, sound.T, RATE, subtype="FLOAT")
    shy = facts(here("render", song, tmp_path / "a.wav", "--loudness", "-14", "--json"))
    assert "Raise the maximum limiting" in shy["notes"][0]
    bold = facts(here("render", song, tmp_path / "b.wav", "--loudness", "-14", "--limit-by", "12", "--json"))
    assert bold["integrated_lufs"] > shy["integrated_lufs"] + 3.0
    same = facts(here("render", song, tmp_path / "c.wav", "--speed", "0.8", "--loudness", "before", "--json"))
    before = facts(here("inspect", song, "--json"))["integrated_lufs"]
    assert same["integrated_lufs"] == pytest.approx(before, abs=0.1)


def test_an_empty_recipe_is_none_and_a_pad_may_begin_at_the_start(here: Run, tmp_path: Path) -> None:
    song = tmp_path / "tone.wav"
    soundfile.write(song, sine(300, 2.0).T, RATE)
    refused = here("render", song, tmp_path / "o.wav", "--recipe", "")
    assert refused.returncode == 2
    assert "no recipe “”" in refused.stderr
    assert here("pad", song, tmp_path / "pad.wav", "--from", "0:00", "--to", "0:01", "--smear", "1").returncode == 0
    assert (tmp_path / "pad.wav").stat().st_size > 10_000


# -- filters that open ---------------------------------------------------------------------------------------------


def test_filters_that_open_give_back_the_song() -> None:
    """Both cuts at their open ends and a layer's muffle away: nothing is left of them, of the level kept for them neither."""
    sound = noise(8)
    cuts = (("high_cut_hz", 700.0, 20_000.0), ("low_cut_hz", 400.0, 20.0))

    def moved(field: str, closed: float, opened: float) -> Lane:
        points = ((0.0, closed), (1.0, closed), (3.0, opened))
        return Lane(field=field, points=tuple(LanePoint(at=Position(seconds=at), value=v) for at, v in points))

    for moving in (cuts[:1], cuts[1:], cuts):
        eq = Eq(id="e", lanes=tuple(moved(*cut) for cut in moving))
        made = TrackRenderer(track_of(sound)).chain(Stages(colour=Colour(effects=(eq,)))).read(sound.shape[1])
        late = slice(4 * RATE, None)
        assert level_db(made[:, late] - sound[:, late]) < level_db(sound) - 90.0
    early = made[:, RATE // 2 : RATE]
    loud = [measure_loudness(part, RATE).integrated_lufs for part in (early, sound)]
    assert loud[0] == pytest.approx(loud[1], abs=1.0), "where it is closed the loudness is kept"
    assert level_db(np.diff(early)) < level_db(np.diff(sound)) - 10.0, "and the highs are gone"


# -- files that are never touched ----------------------------------------------------------------------------------


def writers(track_path: Path) -> Iterator[tuple[str, Callable[[Path], object]]]:
    """Everything that writes a file whose name a person chooses."""
    track = open_track(track_path)
    keep = (track.path,)
    yield "pad", lambda to: write_pad(track.sound, track.rate, to, overwrite=True, sources=keep)
    yield "markers", lambda to: write_marks([("x", 0.1, None)], to, track, overwrite=True, sources=())
    yield "grid", lambda to: write_grid(Grid(bpm=90.0), 1.0, to, overwrite=True, sources=keep)
    yield "bytes", lambda to: write_bytes(to, b"gone", overwrite=True, sources=keep)


def test_no_writer_touches_what_it_is_made_from(tmp_path: Path) -> None:
    """Under its own name, through a symbolic or a hard link, or another spelling of the path."""
    song = tmp_path / "song.wav"
    soundfile.write(song, sine(200, 0.5).T, RATE)
    before = song.read_bytes()
    (tmp_path / "link.wav").symlink_to("song.wav")
    os.link(song, tmp_path / "hard.wav")
    names = [song, tmp_path / "link.wav", tmp_path / "hard.wav", tmp_path / "." / ".." / tmp_path.name / "song.wav"]
    for name, write in writers(song):
        for target in names:
            with pytest.raises(Unwritable, match="never changed"):
                write(target)
            assert song.read_bytes() == before, name


def test_a_render_touches_no_file_of_its_version(tmp_path: Path, here: Run) -> None:
    """Layers, dropped-in sounds, responses and references are as safe as the song."""
    for name in ("song", "layer", "drop", "room"):
        soundfile.write(tmp_path / f"{name}.wav", sine(300, 1.0).T, RATE)
    start, end = Position(seconds=0.1), Position(seconds=0.5)
    stages = Stages(
        colour=Colour(
            effects=(
                Layer(id="l", sound="file", path="layer.wav"),
                ConvolutionReverb(id="r", room="file", path="room.wav"),
            )
        ),
        moments=Moments(placed=(DropIn(id="d", start=start, end=end, path="drop.wav"),)),
    )
    assert set(files_of(stages)) == {"layer.wav", "room.wav", "drop.wav"}
    reference = TrackReference(path="song.wav", sha256="0" * 64)
    session = Session(track=reference, versions=(Version(id="v", name="V", stages=stages),), chosen="v")
    (tmp_path / "s.latespin").write_bytes(to_json(session))
    for name in ("song", "layer", "drop", "room"):
        before = (tmp_path / f"{name}.wav").read_bytes()
        done = here("render", tmp_path / "s.latespin", tmp_path / f"{name}.wav", "--overwrite")
        assert done.returncode == 2
        assert "never changed" in done.stderr
        assert (tmp_path / f"{name}.wav").read_bytes() == before


def test_what_is_opened_while_it_is_being_written_to_stays(tmp_path: Path) -> None:
    """A song may be opened after an export onto it was begun: the export is given up then."""
    target, opened = tmp_path / "song.wav", []
    target.write_bytes(b"a song")

    def write_while_it_is_opened() -> None:
        with written_whole(target, overwrite=True, sources=opened) as part:
            part.write_bytes(b"an export")
            opened.append(target)

    with pytest.raises(Unwritable, match="never changed"):
        write_while_it_is_opened()
    assert target.read_bytes() == b"a song"
    assert list(tmp_path.iterdir()) == [target]


def test_links_are_followed_when_saving(tmp_path: Path) -> None:
    (tmp_path / "far").mkdir()
    real, link = tmp_path / "far" / "real.json", tmp_path / "link.json"
    link.symlink_to(real)
    write_bytes(link, b"first", overwrite=False, sources=())
    write_bytes(link, b"second", overwrite=True, sources=())
    assert link.is_symlink()
    assert real.read_bytes() == b"second"
    assert [path.name for path in (tmp_path / "far").iterdir()] == ["real.json"]
    (tmp_path / "round.json").symlink_to("round.json")
    with pytest.raises(Unwritable, match="circle"):
        write_bytes(tmp_path / "round.json", b"", overwrite=True, sources=())
    os.mkfifo(tmp_path / "pipe.json")
    with pytest.raises(Unwritable, match="pipe"):
        write_bytes(tmp_path / "pipe.json", b"", overwrite=True, sources=())


# -- interrupting a set --------------------------------------------------------------------------------------------


@pytest.mark.parametrize("stop", [signal.SIGINT, signal.SIGTERM])
def test_an_interrupted_set_says_what_is_written(tmp_path: Path, stop: signal.Signals) -> None:
    """The signal goes to all its processes, as from a terminal. One true sentence, exit 130, what is done listed, nothing half done."""
    songs, out = tmp_path / "songs", tmp_path / "out"
    songs.mkdir()
    soundfile.write(songs / "1 short.wav", noise(0.5).T, RATE)
    soundfile.write(songs / "2 long.wav", np.tile(noise(10), 12).T, RATE)
    process = subprocess.Popen(
        [*INTERRUPTIBLE, sys.executable, "-m", "latespin", "set", str(songs), "--recipe", "sped-up", "--out", str(out), "--jobs", "1"],
        stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, start_new_session=True,
    )  # fmt: skip
    deadline = time.monotonic() + 120
    while not list(out.glob("[!.]*.flac")) and process.poll() is None and time.monotonic() < deadline:
        time.sleep(0.02)
    os.killpg(process.pid, stop)
    _, said = process.communicate(timeout=30)
    assert process.returncode == 130, said
    assert said.count("\n") == 1, said
    assert "1 of 2 files are written" in said
    rows = json.loads((out / "set-report.json").read_bytes())["files"]
    assert [row["state"] for row in rows] == ["done", "cancelled"]
    assert [path.name for path in out.glob("*.flac")] == [Path(rows[0]["file"]).name]


def test_two_sets_in_a_folder_keep_their_own_reports(tmp_path: Path) -> None:
    def names_after(*songs: str) -> list[str]:
        write_report([Line("failed", song, message="unread") for song in songs], tmp_path)
        return sorted(path.stem for path in tmp_path.glob("*.json"))

    assert names_after("a.wav", "b.wav") == ["set-report"]
    assert names_after("c.wav") == ["set-report", "set-report-2"], "another set"
    assert names_after("b.wav", "a.wav", "d.wav") == ["set-report", "set-report-2"], "the first one again, and more"
    (tmp_path / "set-report.json").write_bytes(b"[" * 100_000)
    assert names_after("a.wav") == ["set-report", "set-report-2", "set-report-3"], "what it was is not known"
    assert json.loads((tmp_path / "set-report-2.json").read_bytes())["files"][0]["song"] == "c.wav"


# -- names of any bytes --------------------------------------------------------------------------------------------


def test_names_that_are_no_text_are_opened_written_and_reported(tmp_path: Path, here: Run) -> None:
    songs = tmp_path / "songs"
    songs.mkdir()
    soundfile.write(tmp_path / "tone.wav", sine(500, 0.5).T, RATE)
    before = (tmp_path / "tone.wav").read_bytes()
    for name in (b"caf\xe9.wav", "🛼".encode() * 62 + b".wav", b"\xf0\x9f\x9b.wav"):
        song = Path(os.fsdecode(bytes(songs) + b"/" + name))
        song.write_bytes(before)
        refused = here("render", song, song, "--overwrite")
        assert refused.returncode == 2
        assert "never changed" in refused.stderr
        out = Path(os.fsdecode(bytes(tmp_path) + b"/out" + name[-100:]))
        assert facts(here("render", song, out, "--json"))["file"] == str(out)
        assert out.is_file()
    made = here(
        "set",
        songs,
        "--recipe",
        "clean-edit",
        "--out",
        tmp_path / "set",
        "--pattern",
        "{number}",
        "--jobs",
        1,
        "--json",
    )
    assert [row["state"] for row in facts(made)["files"]] == 3 * ["done"]
    assert all(song.read_bytes() == before for song in songs.iterdir())
    reported = json.loads((tmp_path / "set" / "set-report.json").read_bytes())["files"]
    assert {Path(path_from_text(row["song"])) for row in reported} == set(songs.iterdir())


@given(st.binary(min_size=1, max_size=40).filter(lambda b: b"\0" not in b))
def test_sessions_hold_paths_of_any_bytes(name: bytes) -> None:
    path = os.fsdecode(name)
    session = Session(track=TrackReference(path=path, sha256="0" * 64))
    assert read_session(to_json(session), "s") == session
    assert plain_json(session).decode()


def test_a_file_is_whole_or_not_there_though_its_name_is_as_long_as_can_be(tmp_path: Path) -> None:
    target = tmp_path / ("ü" * 125 + ".json")
    with written_whole(target, overwrite=False, sources=()) as part:
        part.write_bytes(b"whole")
    assert [path.name for path in tmp_path.iterdir()] == [target.name]


# -- points of a curve ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize("gap", [0.0, 5e-324, 1e-300, 1e-18, 1e-15, 1e-12])
def test_points_of_a_tempo_curve_closer_than_a_frame_are_a_step(gap: float) -> None:
    points = (
        CurvePoint(place=0.0, speed=1.0), CurvePoint(place=0.5, speed=1.0), CurvePoint(place=0.5 + gap, speed=2.0),
        CurvePoint(place=1.0, speed=2.0),
    )  # fmt: skip
    made = arrange(Stages(time=Time(curve=points)), Layout(10 * RATE, RATE, None)).map
    assert made.after_frames == round(7.5 * RATE)
    frames = np.linspace(0.0, made.after_frames, 999)
    assert np.isfinite(made.before_of_all(frames)).all()
    assert made.after_of_all(made.before_of_all(frames)) == pytest.approx(frames, abs=1e-3)
    tiny = (CurvePoint(place=0.0, speed=1.0), CurvePoint(place=gap, speed=3.0))
    assert np.isfinite(arrange(Stages(time=Time(curve=tiny)), Layout(RATE, RATE, None)).map.before_of_all(frames)).all()


def test_an_ending_before_the_first_beat_is_said() -> None:
    grid = Grid(bpm=120.0, first_beat_seconds=-0.4)
    made = arrange(Stages(ending=Ending(way=TapeStopEnd(at=Position(beat=0.0)))), Layout(30 * RATE, RATE, grid))
    assert "before the first beat" in made.problems[0].says
