"""The parts of the open document on their own: measuring, session files, small pieces of the shell."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QObject, Qt
from PySide6.QtGui import QFontMetrics
from pytestqt.qtbot import QtBot

from latespin.desktop.session.loading import LoadedTrack, digest_of
from latespin.desktop.session.measuring import DELAY_MS, KEPT, PLAYING_DELAY_MS, Measuring, goes_by_bars
from latespin.desktop.session.session_io import (
    SessionFiles,
    is_as_saved,
    is_changed,
    opened,
    reference_to,
    write_session,
)
from latespin.desktop.session.tasks import WorkQueue
from latespin.desktop.theme.theme import font
from latespin.desktop.widgets.gallery import Gallery
from latespin.desktop.widgets.wrapping import two_lines
from latespin.media.track import Track
from latespin.model.documents.documents import Session, TrackReference, read_session
from latespin.model.effects.effects import ConvolutionReverb, Echo, Hall, Layer
from latespin.model.moments.endings import Ending, Fade
from latespin.model.moments.moments import DropIn, Moments, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Level, Stages, Time, Version
from tests.window.conftest import wait


class Measured:
    """Stands for what measuring a version gives."""

    def __init__(self, stages: Stages) -> None:
        self.stages = stages


@pytest.fixture
def measuring(qtbot: QtBot, qapp, monkeypatch: pytest.MonkeyPatch):
    """Measuring with nothing to render: what it was asked for, in order."""
    asked: list[Stages] = []

    def measure(readers, stages, work):
        asked.append(stages)
        return Measured(stages)

    monkeypatch.setattr("latespin.render.mastering.measure.measure", measure)
    work, parent = WorkQueue(), QObject()
    readers: list[object | None] = [object()]
    wanted: list[Stages] = []
    made = Measuring(work, lambda: readers[0], lambda: wanted, pytest.fail, parent)  # type: ignore[arg-type, return-value]
    yield made, asked, wanted, readers
    work.close()


def speed(value: float) -> Stages:
    """A version that differs from others by its speed."""
    return Stages(time=Time(speed=value))


def test_what_is_most_urgent_is_measured_first_and_everything_once(measuring, qtbot: QtBot) -> None:
    made, asked, wanted, _ = measuring
    wanted += [speed(0.8), speed(0.9), speed(1.1)]
    made.follow(wanted[0])
    wait(qtbot, lambda: len(asked) >= len(wanted))
    assert asked == wanted
    made.follow(wanted[1])
    qtbot.wait(DELAY_MS + 100)
    assert asked == wanted, "nothing is measured again"
    assert made.get(wanted[0]).stages == wanted[0]
    assert made.get(speed(2.0)) is None


def test_while_playing_it_waits_longer_and_without_a_track_for_ever(measuring, qtbot: QtBot) -> None:
    made, asked, wanted, readers = measuring
    wanted.append(speed(0.8))
    made.playing = True
    made.later()
    assert made._delay.interval() == PLAYING_DELAY_MS
    made.playing = False
    readers[0] = None
    made.follow(wanted[0])
    assert made._delay.interval() == DELAY_MS
    qtbot.wait(DELAY_MS + 100)
    assert asked == []


def test_only_the_latest_are_kept_and_another_track_begins_anew(measuring, qtbot: QtBot) -> None:
    made, _asked, _wanted, _ = measuring
    for i in range(KEPT + 5):
        made._put(speed(0.5 + 0.05 * i), Measured(speed(0.5 + 0.05 * i)))
    assert made.get(speed(0.5)) is None
    assert made.get(speed(0.5 + 0.05 * (KEPT + 4))) is not None
    made.restart()
    assert made.get(speed(0.5 + 0.05 * (KEPT + 4))) is None


def test_a_version_with_the_same_stages_before_level_is_known(measuring, qtbot: QtBot) -> None:
    made, _, _, _ = measuring
    quiet, other = speed(0.8), speed(1.3)
    made._put(quiet, Measured(quiet))
    made._put(other, Measured(other))
    louder = replace(quiet, level=Level(target_lufs=-9.0))
    assert made.before_level(louder).stages == quiet
    assert made.before_level(speed(3.0)).stages == other, "else the one measured last"


def test_moved_bars_drop_what_goes_by_them_alone(measuring, qtbot: QtBot) -> None:
    made, _, _, _ = measuring
    by_bars = [
        Stages(time=Time(halftime="bar")), Stages(colour=Colour(effects=(Echo(id="e"),))), Stages(ending=Ending(way=Fade())),
        Stages(moments=Moments(placed=(TapeStop(id="t", start=Position(beat=0.0), end=Position(beat=1.0)),))),
    ]  # fmt: skip
    free = [speed(0.8), Stages(colour=Colour(effects=(Hall(id="h"),))), Stages(time=Time(halftime="song"))]
    for stages in (*by_bars, *free):
        assert goes_by_bars(stages) == (stages in by_bars)
        made._put(stages, Measured(stages))
    made.forget_bars()
    assert [made.get(stages) is None for stages in (*by_bars, *free)] == [True] * 4 + [False] * 3


# -- session files ------------------------------------------------------------------------------------------------------


@pytest.fixture
def loaded(tmp_path: Path, lantern: Track) -> LoadedTrack:
    """A track whose file lies in a folder of its own."""
    track = Track(tmp_path / "songs" / "bell.flac", lantern.sound[:, :100], 44_100, 2, "a" * 64)
    (tmp_path / "songs").mkdir()
    track.path.write_bytes(b"")
    return LoadedTrack(track, None, None, None)  # type: ignore[arg-type]


def with_files(folder: Path) -> Session:
    """A session whose version uses three files."""
    effects = (
        ConvolutionReverb(id="r", room="file", path=str(folder / "room.wav")),
        Layer(id="l", sound="file", path="/elsewhere/rain.wav"),
    )
    moments = Moments(
        placed=(DropIn(id="d", path=str(folder / "fx" / "bell.wav"), start=Position(beat=0.0), end=Position(beat=1.0)),)
    )
    return Session(
        versions=(Version(id="v", name="Freeze", stages=Stages(colour=Colour(effects=effects), moments=moments)),),
        chosen="v",
    )


def test_paths_are_absolute_in_memory_and_relative_in_the_file_where_they_can_be(
    loaded: LoadedTrack, tmp_path: Path
) -> None:
    folder = tmp_path / "songs"
    in_memory = opened(with_files(folder), loaded, folder)
    path = folder / "mine.latespin"
    digest = write_session(in_memory, Grid(bpm=92.0), path)
    assert digest == digest_of(path.read_bytes())
    kept = read_session(path.read_bytes(), "mine")
    assert kept.track == TrackReference(path="bell.flac", sha256="a" * 64)
    assert kept.files() == ("bell.flac", "fx/bell.wav", "room.wav", "/elsewhere/rain.wav")
    assert kept.grid == Grid(bpm=92.0)
    assert opened(kept, loaded, folder) == replace(in_memory, grid=Grid(bpm=92.0))


def test_a_session_elsewhere_keeps_absolute_paths(loaded: LoadedTrack, tmp_path: Path) -> None:
    (tmp_path / "away").mkdir()
    path = tmp_path / "away" / "mine.latespin"
    write_session(opened(with_files(tmp_path / "songs"), loaded, tmp_path / "songs"), None, path)
    kept = read_session(path.read_bytes(), "mine")
    assert all(Path(file).is_absolute() for file in kept.files())


def test_a_moved_or_changed_track_is_a_change(loaded: LoadedTrack, tmp_path: Path) -> None:
    path = tmp_path / "songs" / "mine.latespin"
    same = Session(track=TrackReference(path="bell.flac", sha256="a" * 64))
    assert is_as_saved(same, path, loaded)
    assert is_as_saved(same, None, loaded)
    assert not is_as_saved(Session(), path, loaded)
    assert not is_as_saved(replace(same, track=TrackReference(path="bell.flac", sha256="b" * 64)), path, loaded)
    assert not is_as_saved(replace(same, track=TrackReference(path="other.flac", sha256="a" * 64)), path, loaded)
    assert reference_to(loaded).path == str((tmp_path / "songs" / "bell.flac").resolve())


def test_another_programs_save_is_noticed_and_a_file_that_is_gone_is_none(tmp_path: Path) -> None:
    path = tmp_path / "mine.latespin"
    path.write_bytes(b"one")
    digest = digest_of(b"one")
    assert not is_changed(path, digest)
    path.write_bytes(b"two")
    assert is_changed(path, digest)
    path.unlink()
    assert not is_changed(path, digest)


def test_the_files_of_a_session_are_those_of_the_moment_they_are_asked_for(tmp_path: Path) -> None:
    now = [Session()]
    files = SessionFiles(lambda: now[0])
    assert list(files) == []
    now[0] = with_files(tmp_path)
    assert len(list(files)) == 3


# -- pieces of the shell ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("width", [60.0, 120.0, 400.0])
def test_two_lines_hold_whole_words_and_nothing_is_lost_while_it_fits(qapp, width: float) -> None:
    metrics = QFontMetrics(font(12))
    text = "Pocket radio automated · Vinyl 45 % · Underwater automated · 3 more"
    first, second = two_lines(text, metrics, width)
    assert metrics.horizontalAdvance(first) <= width
    assert metrics.horizontalAdvance(second) <= width + 1
    if "…" not in second:
        assert f"{first} {second}".split() == text.split()
    assert text.startswith(first)


def test_a_gallery_tells_which_entry_was_clicked_or_returned(qtbot: QtBot, qapp) -> None:
    gallery = Gallery([("a", "Tape stop", "It stops."), ("b", "Stutter", "It repeats.")], "moments", 2)
    gallery.resize(400, 80)
    qtbot.addWidget(gallery)
    gallery.show()
    chosen: list[str] = []
    gallery.chosen.connect(chosen.append)
    qtbot.mouseClick(gallery.cards["b"], Qt.MouseButton.LeftButton)
    gallery.cards["a"].setFocus()
    qtbot.keyClick(gallery.cards["a"], Qt.Key.Key_Space)
    assert chosen == ["b", "a"]
    assert gallery.cards["a"].accessibleName() == "Tape stop"
    assert gallery.cards["a"].grab().toImage() != gallery.cards["b"].grab().toImage()


def test_the_empty_pages_offer_every_kind_and_add_it(read, qtbot: QtBot) -> None:
    read.open_panel("moments")
    gallery = read.panels.moments.gallery
    qtbot.mouseClick(gallery.cards["stutter"], Qt.MouseButton.LeftButton)
    assert [m.__struct_config__.tag for m in read.document.stages.moments.placed] == ["stutter"]
    read.open_panel("ending")
    choices = read.panels.ending._form("none").cards
    qtbot.mouseClick(choices["fade"], Qt.MouseButton.LeftButton)
    assert isinstance(read.document.stages.ending.way, Fade)
