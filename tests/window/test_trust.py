"""The window says what is not as asked, and loses nothing that another window saved."""

import logging
import os
import threading
from pathlib import Path

import numpy as np
import pytest
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QApplication, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from latespin.desktop.dialogs.recipes import RecipeDialog
from latespin.desktop.panels.moments_panel import length_of
from latespin.desktop.session.settings import load_settings, save_settings
from latespin.desktop.shell.main_window import Window
from latespin.desktop.theme.theme import STAGES
from latespin.desktop.widgets.controls import SegmentedButton
from latespin.media.storage.autosave import Journal, left_behind
from latespin.media.tags import read_tags
from latespin.model.documents.documents import Session, TrackReference, read_session
from latespin.model.effects.effects import Eq
from latespin.model.moments.moments import Moments, Reverse
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Level, Stages, Time
from tests.conftest import noise
from tests.window.conftest import RATE, wait
from tests.window.test_beats_panel import type_entry
from tests.window.test_session import type_into

LEFT = Qt.MouseButton.LeftButton


def open_song(window: Window, qtbot: QtBot, path: Path, seconds: float = 4.0) -> Path:
    """A song of noise, in which there is no beat, opened."""
    soundfile.write(path, 0.3 * noise(seconds).T, RATE)
    window.files.open_file(path)
    wait(qtbot, lambda: window.document.loaded is not None and window.document.loaded.track.path == path)
    wait(qtbot, lambda: window.document.reading)
    return path


def answer_next_box(words: str) -> list[str]:
    """Press the button of that name in the next message box; returns what the box says, once it has."""
    message: list[str] = []

    def press() -> None:
        box = QApplication.activeModalWidget()
        if not isinstance(box, QMessageBox):
            QTimer.singleShot(20, press)
            return
        message.append(box.text())
        next(button for button in box.buttons() if words in button.text().replace("&", "")).click()

    QTimer.singleShot(0, press)
    return message


def test_what_a_stage_cannot_do_is_said_on_its_card_and_in_the_file(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    open_song(window, qtbot, tmp_path / "Ice machine.wav")
    window.document.add_version("Halved", Stages(time=Time(halftime="bar")))
    card = window.stage_row.cards["time"]
    assert "no bars" in card.problems[0]
    assert "no bars" in card.toolTip()
    assert window.panels.time.problem.isVisible()
    assert "no bars" in window.panels.time.problem.text()
    assert "no bars" in card.accessibleDescription()
    from tests.window.test_session import export_dialog

    window.actions_by_name["export"].trigger()
    dialog = export_dialog(window)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("halved")
    assert "say “Ice machine”" in dialog._title.text()
    assert "Halftime in bars is left out" in dialog._title.text()
    qtbot.mouseClick(dialog.accept_button, LEFT)
    wait(qtbot, (tmp_path / "halved.flac").exists)
    wait(qtbot, lambda: "no bars" in next(iter(window.task_panel.rows.values())).task.message)
    assert read_tags(tmp_path / "halved.flac")[0].first("title") == "Ice machine"
    window.document.edit_stages("Whole", Stages(time=Time(halftime="song")))
    assert not card.problems
    assert not window.panels.time.problem.isVisible()


def test_a_key_of_the_other_mode_gives_its_relative_and_offers_its_tonic(read: Window, qtbot: QtBot) -> None:
    """A transposition makes no minor song of a major one; both keys that it can give are named."""
    document = read.document
    assert document.reading is not None
    own = document.reading.keys[0]
    asked = {"major": "minor", "minor": "major"}[own.mode]
    type_entry(qtbot, read.header.after["key"], f"E {asked}")
    relative = {"minor": ("G major", 7), "major": ("C♯ minor", 1)}[asked]

    def tonic() -> int:
        low, _ = document.stages.time.pitch_ratios
        return round(own.tonic + document.reading.tuning_cents / 100.0 + 12.0 * np.log2(low)) % 12  # type: ignore[union-attr]

    assert tonic() == relative[1]
    assert read.header.after["key"].text().startswith(relative[0])
    assert f"is in {own.mode} and stays so" in read.notice.label.text()
    assert relative[0] in read.notice.label.text()
    qtbot.mouseClick(read.notice.choice, LEFT)
    assert tonic() == 4
    assert read.header.after["key"].text().startswith(f"E {own.mode}")


def test_a_change_in_per_cent_is_one_wherever_a_speed_is_typed(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    open_song(window, qtbot, tmp_path / "song.wav", 1.0)
    page = window.panels.time.speed
    for text, speed in (("+30 %", 1.3), ("-22", 0.78), ("85", 0.85), ("90 %", 0.9)):
        type_entry(qtbot, page.entries["percent"], text)
        assert window.document.stages.time.speed == pytest.approx(speed), text
    type_into(qtbot, page.speed, "-20 %")
    assert window.document.stages.time.speed == pytest.approx(0.8)


@pytest.mark.parametrize("answer", ["Replace it", "Cancel"])
def test_what_another_window_saved_is_not_lost_unasked(
    window: Window, qtbot: QtBot, tmp_path: Path, answer: str
) -> None:
    open_song(window, qtbot, tmp_path / "song.wav", 1.0)
    place = tmp_path / "work.latespin"
    assert window.document.save(place)
    window.document.rename_version(window.document.session.chosen, "Mine")
    assert window.files.save(), "what was saved here itself is no one else's"
    theirs = place.read_bytes().replace(b"Mine", b"Theirs")
    place.write_bytes(theirs)
    window.document.rename_version(window.document.session.chosen, "Mine again")
    message = answer_next_box(answer)
    assert window.files.save() == (answer == "Replace it")
    assert "another window" in message[0]
    names = [version.name for version in read_session(place.read_bytes(), "s").versions]
    assert names == (["Mine again"] if answer == "Replace it" else ["Theirs"])


def test_a_session_saved_through_a_link_finds_its_song(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """The link stays one; the song is named from the folder the person sees."""
    (tmp_path / "far").mkdir()
    (tmp_path / "near").symlink_to("far")
    song = open_song(window, qtbot, tmp_path / "song.wav", 1.0)
    (tmp_path / "work.latespin").symlink_to(tmp_path / "far" / "real.latespin")
    assert window.document.save(tmp_path / "work.latespin")
    assert (tmp_path / "work.latespin").is_symlink()
    saved = read_session((tmp_path / "far" / "real.latespin").read_bytes(), "s")
    assert saved.track is not None
    assert saved.track.path == "song.wav"
    (tmp_path / "far" / "song.wav").write_bytes(song.read_bytes())
    loaded = window.document.loaded
    window.files.open_file(tmp_path / "near" / "song.wav")
    wait(qtbot, lambda: window.document.loaded is not loaded)
    assert window.document.save(tmp_path / "near" / "w.latespin")
    beside = read_session((tmp_path / "far" / "w.latespin").read_bytes(), "s")
    assert beside.track is not None
    assert beside.track.path == "song.wav"


def test_markers_past_the_songs_end_are_left_out_and_said(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    open_song(window, qtbot, tmp_path / "song.wav", 2.0)
    (tmp_path / "marks.csv").write_text("label,start_seconds,end_seconds\nin,1.0,\nout,300.0,\n")
    monkeypatch.setattr(
        "latespin.desktop.controllers.song.markers.QFileDialog.getOpenFileName",
        lambda *_: (str(tmp_path / "marks.csv"), ""),
    )
    window.actions_by_name["import_markers"].trigger()
    assert [marker.label for marker in window.document.session.markers] == ["in"]
    assert "1 of 2 markers lie past the song’s end" in window.notice.label.text()


def test_the_lamp_is_lit_while_the_output_is_turned_down(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """What is played is safe, and says so, though nothing has measured it yet."""
    open_song(window, qtbot, tmp_path / "song.wav", 8.0)
    lamp = window.transport.lamp
    assert not lamp.lit
    eq = Eq(id="e", keep_level=False, low_shelf_db=18.0, high_shelf_db=18.0, bell_db=18.0)
    window.document.edit_stages("Loud", Stages(colour=Colour(effects=(eq,)), level=Level(on=False)))
    qtbot.keyClick(window, Qt.Key.Key_Space)
    wait(qtbot, lambda: lamp.lit)
    assert "turned down" in lamp.accessibleDescription()
    qtbot.keyClick(window, Qt.Key.Key_Space)
    wait(qtbot, lambda: not lamp.lit)


def test_what_was_left_is_offered_one_after_the_other(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Also where a clock was wrong: work from the future hides no other."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    for n, when in enumerate((1e9, 3.9e9)):
        journal = Journal()
        journal.write(Session(track=TrackReference(path=f"/gone/song {n}.wav", sha256="0" * 64)), None, when)
        assert journal._lock is not None
        os.close(journal._lock)
    done: list[str] = []
    window.controllers.autosave.offer(lambda: done.append("otherwise"))
    message = []
    for words in ("Ask again", "Throw it away"):
        box = window.controllers.autosave.box
        assert box is not None
        message.append(box.text())
        qtbot.mouseClick(next(b for b in box.buttons() if words in b.text()), LEFT)
    assert "song 1" in message[0]
    assert "song 0" in message[1]
    assert done == ["otherwise"]
    assert [left.session.track.path for left in left_behind()] == ["/gone/song 1.wav"]  # type: ignore[union-attr]


def test_housekeeping_tells_the_log_what_is_kept(
    window: Window, qtbot: QtBot, caplog: pytest.LogCaptureFixture
) -> None:
    with caplog.at_level(logging.DEBUG, logger="latespin.caches"):
        window.housekeeping.tidy()
        wait(qtbot, lambda: any("keeps" in line for line in caplog.messages))
    assert not window.work.active("housekeeping")


def test_a_song_whose_name_is_no_text_is_worked_on_saved_and_remembered(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    song = Path(os.fsdecode(bytes(tmp_path) + b"/caf\xe9.wav"))
    soundfile.write(tmp_path / "plain.wav", 0.3 * noise(1.0).T, RATE)
    (tmp_path / "plain.wav").rename(song)
    window.files.open_file(song)
    wait(qtbot, lambda: window.document.loaded)
    assert window.windowTitle().startswith("caf�")
    place = song.with_name(os.fsdecode(b"w\xf6rk.latespin"))
    assert window.document.save(place)
    window.settings.remember_file(place)
    save_settings(window.settings)
    assert load_settings().recent[0] == str(place)
    assert load_settings().recent_shapes == window.settings.recent_shapes
    assert str(song) in dict(window.settings.recent_shapes)
    window.document.rename_version(window.document.session.chosen, "Again")
    wait(qtbot, lambda: window.controllers.autosave.journal.file.exists())
    window.document.forget_changes()
    loaded = window.document.loaded
    window.files.open_file(place)
    wait(qtbot, lambda: window.document.loaded is not loaded)
    assert window.document.loaded is not None
    assert window.document.loaded.track.path == song


def test_another_song_opens_while_the_last_one_is_still_being_rendered(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The window waits for neither player nor device; an audition of the last song ends with it."""
    open_song(window, qtbot, tmp_path / "first.wav")
    playback, entered, release = window.playback, threading.Event(), threading.Event()
    assert playback is not None
    player, device = playback.player, playback.device
    playback.audition(noise(1.0))
    monkeypatch.setattr(player, "_work", lambda: (entered.set(), release.wait(30.0)))
    player.seek(0)  # type: ignore[union-attr]
    assert entered.wait(10.0)
    closing: list[threading.Thread] = []
    for ending in (player, device):
        close = ending.close  # type: ignore[union-attr]
        monkeypatch.setattr(ending, "close", lambda close=close: (closing.append(threading.current_thread()), close()))
    open_song(window, qtbot, tmp_path / "second.wav")
    assert playback.player not in (None, player)
    programme = playback.programme()
    assert programme is not None
    assert programme.readers.track.path.name == "second.wav"
    release.set()
    wait(qtbot, lambda: len(closing) == 2)
    assert threading.main_thread() not in closing
    wait(qtbot, lambda: not playback._retired)  # the last song is not kept until the next one is opened


def test_every_segment_can_be_pressed(read: Window, qtbot: QtBot) -> None:
    """On every panel and in the dialog of recipes; each shows itself as the chosen one, or stays out because it cannot be."""
    read.run("recipes")
    (dialog,) = read.findChildren(RecipeDialog)
    pressed = 0
    for root, panels in ((read, (*STAGES, "grid")), (dialog, ("",))):
        for panel in panels:
            if panel:
                read.open_panel(panel)
            for choice in root.findChildren(SegmentedButton):
                for button in choice.findChildren(QPushButton):
                    if button.isVisible() and button.isEnabled():
                        qtbot.mouseClick(button, LEFT)
                        pressed += 1
    assert pressed > 25
    assert dialog.turn.button("keep").isChecked()
    assert dialog._pages.currentIndex() == 1
    dialog.reject()


def test_a_moment_of_more_beats_than_a_length_can_have_is_shown(read: Window, qtbot: QtBot) -> None:
    endless = Reverse(id="r", start=Position(beat=2.0), end=Position(beat=200_000.0))
    stages = replace(read.document.stages, moments=Moments(placed=(endless,)))
    read.document.edit_stages("Endless", stages)
    read.open_panel("moments")
    read.controllers.moments.choose("r")
    assert read.panels.moments.curve.isVisible()
    assert length_of(endless, read.document).beats == 4000.0
