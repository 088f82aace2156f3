"""The whole way through the window: open, change, hear, compare, export, save, undo."""

import os
import random
from pathlib import Path

import numpy as np
import pytest
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot
from tools.torture.window_kills import kill_window

from latespin.analysis.facts import facts_of
from latespin.demo import demo_folder, demo_session
from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.session.tasks import Task
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.media.storage.autosave import Journal, left_behind
from latespin.media.track import open_track
from latespin.model.documents.documents import Session, TrackReference, read_session
from latespin.model.version import Stages, Time, Version
from tests.conftest import frequency, level_db, noise, sine
from tests.window.conftest import Devices, wait

RATE = 44_100


def type_into(qtbot: QtBot, bar: ValueBar, text: str) -> None:
    """Type a value as a person does."""
    bar.setFocus()
    qtbot.keyClick(bar, Qt.Key.Key_Return)
    editor = bar.findChild(type(bar._editor))
    editor.selectAll()
    qtbot.keyClicks(editor, text)
    qtbot.keyClick(editor, Qt.Key.Key_Return)


def drop(window: Window, path: Path) -> None:
    """Drop a file on the window."""
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    window.dropEvent(
        QDropEvent(
            QPointF(10, 10), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        )
    )


def export_dialog(window: Window) -> ExportDialog:
    """The open export dialog."""
    return next(child for child in window.findChildren(ExportDialog) if child.isVisible())


def test_from_a_dropped_tone_to_a_measured_file(window: Window, qtbot: QtBot, devices: Devices, tmp_path: Path) -> None:
    song = tmp_path / "tone.wav"
    soundfile.write(song, sine(1000, 20.0, level=0.5).T, RATE)
    drop(window, song)
    wait(qtbot, lambda: window.document.measured())
    qtbot.keyClick(window, Qt.Key.Key_2)
    qtbot.mouseClick(window.panels.colour.switch, Qt.MouseButton.LeftButton)
    assert not window.document.stages.colour.effects[0].on
    qtbot.keyClick(window, Qt.Key.Key_1)
    type_into(qtbot, window.panels.pages["time"].bars["speed"], "80 %")
    assert window.document.stages.time.speed == pytest.approx(0.8)
    assert window.header.after["pitch"].text() == "−3.86\u00a0st"
    wait(qtbot, lambda: window.header.after["total"].text() == "0:25.0")
    wait(qtbot, lambda: window.document.measured())

    qtbot.keyClick(window, Qt.Key.Key_Space)
    wait(qtbot, lambda: window.playback.player.place()[0] == window.playback.programme())  # type: ignore[union-attr]
    heard = devices.listen(qtbot, 1.0)
    assert frequency(heard, RATE, 800) == pytest.approx(800, abs=0.1)
    assert facts_of(heard, RATE).loudness.integrated_lufs == pytest.approx(-14.0, abs=0.1)
    qtbot.keyClick(window, Qt.Key.Key_B)
    wait(qtbot, lambda: window.playback.player.place()[0].side == "before")  # type: ignore[union-attr]
    wait(qtbot, lambda: window.playback.player.place()[0] == window.playback.programme())  # type: ignore[union-attr]
    heard = devices.listen(qtbot, 1.0)[:, -RATE // 2 :]
    assert frequency(heard, RATE, 1000) == pytest.approx(1000, abs=0.2)
    assert facts_of(heard, RATE).loudness.integrated_lufs == pytest.approx(-14.0, abs=0.15), "level-matched"
    qtbot.keyClick(window, Qt.Key.Key_M)
    qtbot.keyClick(window, Qt.Key.Key_Space)
    wait(qtbot, lambda: not window.playback.player.playing)  # type: ignore[union-attr]

    window.actions_by_name["export"].trigger()
    dialog = export_dialog(window)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("slow tone")
    qtbot.mouseClick(dialog.accept_button, Qt.MouseButton.LeftButton)
    target = tmp_path / "slow tone.flac"
    wait(qtbot, target.exists)
    wait(qtbot, lambda: next(iter(window.version_list.cards.values())).exported == "exported")
    made = open_track(target)
    assert made.frames == 25 * RATE
    assert frequency(made.sound, RATE, 800) == pytest.approx(800, abs=0.01)
    assert facts_of(made.sound, RATE).loudness.integrated_lufs == pytest.approx(-14.0, abs=0.05)
    assert "−14.0 LUFS" in next(iter(window.task_panel.rows.values())).task.message
    loaded = window.document.loaded
    window.document.forget_changes()
    window.files.open_file(target)
    wait(qtbot, lambda: window.document.loaded is not loaded)
    assert not next(iter(window.version_list.cards.values())).exported, "another song's version has no file yet"


def test_the_demo_shows_its_facts_and_its_picture(demo: Window, qtbot: QtBot) -> None:
    assert demo.header.before["loudness"].text() in ("−10.0 LUFS", "−10.1 LUFS")
    assert demo.header.after["loudness"].text() == "−14.0 LUFS"
    assert demo.header.before["total"].text() == "1:38.2"
    assert [card.version.name for card in demo.version_list.cards.values()] == [
        "Last couples’ skate",
        "Relay race",
        "Quiet hour",
        "Closing time",
        "Wheels overhead",
    ]
    picture = demo.waveform_view.grab().toImage()
    colours = {
        picture.pixelColor(x, y).name() for x in range(40, picture.width(), 7) for y in range(30, picture.height(), 5)
    }
    assert len(colours) > 50, "waveforms and connectors are drawn"
    assert demo.stage_row.cards["moments"].sentence == "None"


def test_a_change_while_playing_is_heard_without_stopping(demo: Window, qtbot: QtBot, devices: Devices) -> None:
    demo.run("loudest")
    demo.run("play")
    devices.listen(qtbot, 0.3)
    player = demo.playback.player  # type: ignore[union-attr]
    player.change_latencies.clear()
    bar = demo.panels.pages["time"].bars["speed"]
    for _ in range(5):
        qtbot.keyClick(bar, Qt.Key.Key_Right)
        wait(qtbot, lambda: player.place()[0].stages == demo.document.stages)
    wait(qtbot, lambda: player.change_latencies)
    assert player.playing
    assert demo.document.stages.time.speed == pytest.approx(0.85 * 1.01**5, abs=1e-3)
    assert level_db(devices.listen(qtbot, 0.5)) > -40


@pytest.mark.measures_all
def test_stages_switch_off_and_on_and_stay_level_matched(short: Window, qtbot: QtBot) -> None:
    card = short.stage_row.cards["colour"]
    qtbot.mouseClick(card.switch, Qt.MouseButton.LeftButton)
    assert not short.document.stages.colour.on
    assert card.sentence == "Off"
    wait(qtbot, lambda: short.document.measured())
    assert short.header.after["loudness"].text() == "−14.0 LUFS"
    qtbot.mouseClick(short.stage_row.cards["level"].switch, Qt.MouseButton.LeftButton)
    heard = []
    for _ in range(2):
        wait(
            qtbot,
            lambda: all(
                short.document.measured(s) for s in (short.document.stages, *short.document.with_a_stage_switched())
            ),
        )
        programme = short.playback.programme()  # type: ignore[union-attr]
        heard.append(short.document.measured().facts.heard_lufs + programme.trim_db)  # type: ignore[union-attr]
        card.switch.setFocus()
        qtbot.keyClick(card.switch, Qt.Key.Key_Return)
    assert heard[1] == pytest.approx(heard[0], abs=0.02), "matched with Level off, too"
    for _ in range(3):
        short.run("undo")
    assert not short.document.stages.colour.on
    qtbot.keyClick(short, Qt.Key.Key_1, Qt.KeyboardModifier.ShiftModifier)
    assert not short.document.stages.time.on
    short.run("undo")
    short.run("undo")
    assert short.document.stages.time.on
    assert short.document.stages.colour.on


def test_a_drag_is_one_step_of_undo(read: Window, qtbot: QtBot) -> None:
    read.open_panel("colour")
    bar = read.panels.colour.form("hall").forms[0].controls["amount_percent"]
    was = bar.value
    qtbot.mousePress(bar, Qt.MouseButton.LeftButton, pos=QPoint(60, 20))
    for x in range(64, 140, 8):
        qtbot.mouseMove(bar, QPoint(x, 20))
    qtbot.mouseRelease(bar, Qt.MouseButton.LeftButton, pos=QPoint(136, 20))
    assert bar.value > was + 10
    assert read.document.stages.colour.effects[0].amount_percent == bar.value
    assert "amount" in read.actions_by_name["undo"].text()
    read.run("undo")
    assert bar.value == was
    assert not read.document.modified
    read.run("redo")
    assert bar.value > was + 10
    qtbot.mouseDClick(bar, Qt.MouseButton.LeftButton)
    assert bar.value == bar.parameter.default


def test_facts_of_after_can_be_asked_for(short: Window, qtbot: QtBot) -> None:
    for key, text in (("loudness", "-16"), ("peak", "-2"), ("total", "0:22"), ("pitch", "-2 st")):
        short.header.after[key].typed.emit(text)
    stages = short.document.stages
    assert stages.level.target_lufs == -16
    assert stages.level.ceiling_dbtp == -2
    wait(qtbot, lambda: short.document.measured())
    assert short.header.after["total"].text() in ("0:22.0", "0:21.9")
    assert short.header.after["pitch"].text() == "−2.00\u00a0st"
    short.header.after["total"].typed.emit("0:02")
    assert "reverb tail" in short.notice.label.text()
    short.header.after["loudness"].typed.emit("very")
    assert "not a number" in short.notice.label.text()
    assert short.document.stages == stages


def test_versions_are_added_copied_renamed_moved_and_deleted(five: Window, qtbot: QtBot) -> None:
    next(action for action in five.version_list.menu.actions() if action.text() == "Sped up").trigger()
    assert five.document.version.name == "Sped up"  # type: ignore[union-attr]
    five.run("duplicate")
    assert five.document.version.name == "Sped up 2"  # type: ignore[union-attr]
    five.run("rename")
    card = five.version_list.cards[five.document.session.chosen]
    card._line.setText("Freeze game")
    qtbot.keyClick(card._line, Qt.Key.Key_Return)
    assert five.document.version.name == "Freeze game"  # type: ignore[union-attr]
    five.run("move_up")
    names = [v.name for v in five.document.session.versions]
    assert names.index("Freeze game") == names.index("Sped up") - 1
    qtbot.mouseClick(five.version_list.cards["relay"], Qt.MouseButton.LeftButton)
    assert five.document.session.chosen == "relay"
    assert five.panels.pages["time"].bars["speed"].value == pytest.approx(1.22)
    five.run("delete")
    assert "relay" not in five.version_list.cards
    five.run("undo")
    assert "relay" in five.version_list.cards


def test_pointing_at_the_waveforms_seeks_loops_and_zooms(read: Window, qtbot: QtBot) -> None:
    waveform_view, player = read.waveform_view, read.playback.player  # type: ignore[union-attr]
    read.run("snap")  # off: here the places themselves are looked at
    bands = waveform_view.bands()
    x = round(waveform_view.scale.x(40.0)) + 12
    qtbot.mouseClick(waveform_view, Qt.MouseButton.LeftButton, pos=QPoint(x, int(bands.before.center().y())))
    wait(qtbot, lambda: abs(player.place()[1] / RATE * 0.85 - 40.0) < 0.3)
    y = int(bands.after.center().y())
    qtbot.mousePress(waveform_view, Qt.MouseButton.LeftButton, pos=QPoint(200, y))
    for end in (230, 300, 400):
        qtbot.mouseMove(waveform_view, QPoint(end, y))
    qtbot.mouseRelease(waveform_view, Qt.MouseButton.LeftButton, pos=QPoint(400, y))
    assert read.transport.loop.isChecked()
    programme = read.playback.programme()  # type: ignore[union-attr]
    assert programme.loop[0] / RATE == pytest.approx(waveform_view.scale.at(188), abs=0.2)
    assert programme.loop[1] / RATE == pytest.approx(waveform_view.scale.at(388), abs=0.2)
    read.run("unmark")
    assert read.playback.programme().loop is None  # type: ignore[union-attr]
    held = waveform_view.scale.at(300)
    waveform_view.zoom(4.0, 300)
    assert waveform_view.scale.at(300) == pytest.approx(held)
    read.run("zoom_fit")
    assert waveform_view.scale.fits


def test_a_session_is_saved_and_opens_again(
    short: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    short.header.after["loudness"].typed.emit("-17")
    assert short.isWindowModified()
    target = tmp_path / "sessions" / "mine.latespin"
    target.parent.mkdir()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target.with_suffix("")), ""))
    assert short.files.save(ask=True)
    assert not short.isWindowModified()
    saved = read_session(target.read_bytes(), "mine")
    assert saved.versions[0].stages.level.target_lufs == -17
    assert saved.track is not None
    assert Path(saved.track.path) == (tmp_path / "short.flac").resolve()
    short.files.open_file(target)
    wait(qtbot, lambda: short.document.path == target)
    assert short.document.stages.level.target_lufs == -17
    assert str(target) in short.settings.recent


def test_a_song_beside_its_session_stays_found_through_saving_elsewhere_and_undo(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    (tmp_path / "a").mkdir()
    (tmp_path / "b").mkdir()
    song = tmp_path / "a" / "tone.wav"
    soundfile.write(song, sine(500, 2.0).T, RATE)
    window.files.open_file(song)
    wait(qtbot, lambda: window.document.loaded)
    window.header.after["loudness"].typed.emit("-15")
    assert window.document.save(tmp_path / "a" / "one.latespin")
    assert read_session((tmp_path / "a" / "one.latespin").read_bytes(), "one").track.path == "tone.wav"  # type: ignore[union-attr]
    window.header.after["loudness"].typed.emit("-16")
    window.run("undo")
    window.run("undo")
    assert window.document.save(tmp_path / "b" / "two.latespin")
    assert read_session((tmp_path / "b" / "two.latespin").read_bytes(), "two").track.path == str(song)  # type: ignore[union-attr]
    window.files.open_file(tmp_path / "a" / "one.latespin")
    wait(qtbot, lambda: window.document.path == tmp_path / "a" / "one.latespin")
    assert not window.document.modified


def test_a_moved_song_is_found_again_and_a_changed_one_noticed(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = tmp_path / "late-session.latespin"
    session.write_bytes(demo_session().read_bytes())
    asked: list[object] = []
    window.document.song_wanted.disconnect()
    window.document.song_wanted.connect(asked.append)
    window.files.open_file(session)
    wait(qtbot, lambda: asked)
    window.document.adopt(asked[0], demo_folder() / "lantern-light.ogg")  # type: ignore[arg-type]
    wait(qtbot, lambda: window.document.loaded)
    assert window.document.modified, "where the song is now has to be saved"
    window.document.forget_changes()
    soundfile.write(tmp_path / "lantern-light.ogg", noise(2.0).T, RATE)
    answers: list[str] = []
    monkeypatch.setattr(QMessageBox, "exec", lambda box: answers.append(box.text()))
    monkeypatch.setattr(QMessageBox, "clickedButton", lambda box: box.buttons()[0])
    window.files.open_file(session)
    wait(qtbot, lambda: answers)
    assert "not the same file" in answers[0]


def test_broken_files_say_what_is_wrong_and_nothing_is_lost(read: Window, qtbot: QtBot, tmp_path: Path) -> None:
    kept = read.document.session
    (tmp_path / "words.mp3").write_text("no song")
    (tmp_path / "empty.wav").write_bytes(b"")
    (tmp_path / "newer.latespin").write_text('{"format": "late-spin session", "format_version": 99}')
    (tmp_path / "odd.latespin").write_text('{"format": "late-spin session", "format_version": 1, "mood": "late"}')
    for name, words in (
        ("words.mp3", "not a sound"),
        ("empty.wav", "empty"),
        ("newer.latespin", "newer"),
        ("odd.latespin", "mood"),
    ):
        read.notice.hide()
        read.files.open_file(tmp_path / name)
        wait(qtbot, read.notice.isVisible)
        assert words in read.notice.label.text()
        assert read.document.session == kept


def test_unsaved_work_is_asked_about(read: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    read.run("duplicate")
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Cancel)
    assert not read.close()
    read.files.open_file(demo_folder() / "eight-wheels-turning.ogg")
    assert read.document.loaded.track.title == "Lantern Light"  # type: ignore[union-attr]


def test_export_refuses_what_cannot_be_and_is_cancelled_without_a_trace(
    five: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    five.run("export")
    dialog = export_dialog(five)
    dialog.folder.setText(str(tmp_path / "none"))
    assert "does not exist" in dialog.problem.text()
    assert not dialog.accept_button.isEnabled()
    dialog.folder.setText(str(tmp_path))
    dialog.every.setChecked(True)
    dialog.kind.format.setCurrentIndex(dialog.kind.format.findData(".mp3"))
    dialog.kind.quality.setCurrentText("192 kbit/s")
    assert {(order.target.suffix, order.encoding.kbps) for order in dialog.orders()} == {(".mp3", 192)}
    assert len({order.target for order in dialog.orders()}) == 5
    dialog.accept()
    assert len(five.work.active("export")) == 5
    wait(qtbot, lambda: any(t.fraction > 0 for t in five.work.active("export")))
    while five.work.active("export"):  # more of them than the list shows at once
        for row in list(five.task_panel.rows.values()):
            qtbot.mouseClick(row.button, Qt.MouseButton.LeftButton)
        qtbot.wait(20)
    assert not list(tmp_path.glob("*.mp3"))
    assert not [p for p in tmp_path.iterdir() if p.name.startswith(".")]


def test_keys_open_panels_and_plain_letters_stay_text_in_a_field(short: Window, qtbot: QtBot) -> None:
    for key, name in (
        (Qt.Key.Key_2, "colour"),
        (Qt.Key.Key_4, "ending"),
        (Qt.Key.Key_5, "level"),
        (Qt.Key.Key_1, "time"),
    ):
        qtbot.keyClick(short, key)
        assert short.panels.currentWidget() is short.panels.pages[name]
    short.run("rename")
    line = short.version_list.cards[short.document.session.chosen]._line
    side = short.playback.side  # type: ignore[union-attr]
    qtbot.keyClicks(line, "Blue job 5")
    assert line.text() == "Blue job 5"
    assert short.playback.side == side  # type: ignore[union-attr]
    assert short.panels.currentWidget() is short.panels.pages["time"]
    assert np.isfinite(short.document.heard_lufs()).all()


def test_killed_at_any_moment_the_work_is_offered_again(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """At most five seconds are lost, no export is half written, and the next start opens it with its changes unsaved."""
    song, rng = tmp_path / "song.flac", random.Random(4)
    soundfile.write(song, noise(6.0, level=0.1).T, RATE)
    for n in range(2):
        assert kill_window(song, tmp_path / f"round {n}", rng) == ""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    version = Version(id="v", name="Slower", stages=Stages(time=Time(speed=0.77)))
    gone = Journal()
    gone.write(Session(track=TrackReference(path=str(song), sha256="x"), versions=(version,), chosen="v"), None, 0.0)
    assert left_behind() == [], "its window still runs"
    assert gone._lock is not None
    os.close(gone._lock)  # as when its process is gone
    left = left_behind()
    assert len(left) == 1
    opened: list[str] = []
    window.controllers.autosave.journal = Journal()
    window.controllers.autosave.offer(lambda: opened.append("other"))
    box = window.controllers.autosave.box
    assert box is not None
    qtbot.mouseClick(next(b for b in box.buttons() if b.text() == "Open it"), Qt.MouseButton.LeftButton)
    wait(qtbot, lambda: window.document.loaded is not None)
    assert window.document.stages == left[0].session.versions[0].stages
    assert window.document.modified
    wait(qtbot, lambda: not left[0].file.exists())
    wait(qtbot, lambda: window.controllers.autosave.journal.file.exists())
    assert left_behind() == [], "what is being worked on is not offered to another window"
    assert window.document.save(tmp_path / "kept.latespin")
    wait(qtbot, lambda: not window.controllers.autosave.journal.file.exists())
    assert not opened
    window.controllers.autosave.offer(lambda: opened.append("other"))
    assert opened == ["other"]


def test_left_work_whose_song_was_moved_is_opened_where_it_is_now(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It stays on offer until the song is found, and is never saved onto what was left."""
    song = tmp_path / "elsewhere" / "song.flac"
    song.parent.mkdir()
    soundfile.write(song, noise(3.0, level=0.1).T, RATE)
    version = Version(id="v", name="Slower", stages=Stages(time=Time(speed=0.77)))
    gone = Journal()
    gone.write(
        Session(track=TrackReference(path=str(tmp_path / "song.flac"), sha256="x"), versions=(version,), chosen="v"),
        None,
        0.0,
    )
    assert gone._lock is not None
    os.close(gone._lock)
    left = left_behind()[0]
    answers = [("", ""), (str(song), "")]
    monkeypatch.setattr("latespin.desktop.controllers.autosave.QFileDialog.getOpenFileName", lambda *_: answers.pop(0))
    window.controllers.autosave.open(left)
    assert window.document.loaded is None
    assert left_behind() == [left]
    window.controllers.autosave.open(left)
    wait(qtbot, lambda: window.document.loaded is not None)
    assert window.document.session.versions == (version,)
    assert window.document.path is None, "saving asks for a place"
    wait(qtbot, lambda: not left.file.exists())


def test_while_it_plays_only_what_moves_is_painted(read: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """And the picture is the one that painting all of it gives."""
    waveform_view, painted = read.waveform_view, []
    real = waveform_view._paint_still
    monkeypatch.setattr(waveform_view, "_paint_still", lambda *args: (painted.append(1), real(*args)))
    read.playback.seek("before", 10.0)  # type: ignore[union-attr]
    waveform_view.grab()
    painted.clear()
    for seconds in (12.0, 30.0, 31.0):
        waveform_view.set_playhead("before", seconds)
        moved = waveform_view.grab().toImage()
    assert not painted
    waveform_view.repaint_all()
    assert waveform_view.grab().toImage() == moved
    assert len(painted) == 1
    waveform_view.show_rulers(in_bars=False)
    assert waveform_view.grab().toImage() != moved


def test_work_leaves_the_processor_to_what_is_heard(read: Window, qtbot: QtBot) -> None:
    """After a change while it plays nothing is measured for a second, and whatever works waits while playing is pressed for time."""
    document, wear = read.document, read.document.stages.time
    read.run("play")
    wait(qtbot, lambda: document.playing)
    document.edit_stages("quicker", replace(document.stages, time=replace(wear, speed=0.9)))
    assert document._measuring._delay.interval() == 1_000
    read.run("play")
    wait(qtbot, lambda: not document.playing)
    document.edit_stages("slower", replace(document.stages, time=replace(wear, speed=0.8)))
    assert document._measuring._delay.interval() == 300
    pressed = [True, True, True, False]
    task = Task("a piece of work", "test", lambda work: None, hold=lambda: pressed.pop(0))
    assert not task.cancelled()
    assert not pressed, "it waited until nothing was pressing any more"
    read.work.submit(task)
    read.work.hold = lambda: True
    assert task.hold()
    task.cancel()
    assert task.cancelled(), "and is stopped all the same"
