"""Comparing, recipes of one's own, and sets, in the real window."""

import json
from pathlib import Path

import mutagen
import numpy as np
import pytest
import soundfile
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMessageBox
from pytestqt.qtbot import QtBot

from latespin.analysis.facts import facts_of
from latespin.demo import demo_folder
from latespin.desktop.session.settings import load_settings
from latespin.desktop.shell.main_window import Window
from latespin.media.track import open_track
from latespin.render.recipes import own_recipes, recipe_folder
from tests.conftest import noise
from tests.window.conftest import Devices, choose, wait

LEFT = Qt.MouseButton.LeftButton
RATE = 44_100


def tick(window: Window, *names: str) -> None:
    """Tick just these in the dialog of a set."""
    dialog = window.controllers.batch.dialog
    assert dialog is not None
    for i in range(dialog.choices.count()):
        item = dialog.choices.item(i)
        item.setCheckState(Qt.CheckState.Checked if item.text() in names else Qt.CheckState.Unchecked)


# -- compare -----------------------------------------------------------------------------------------------------------


@pytest.mark.measures_all
def test_four_sounds_on_keys_are_equally_loud_and_at_the_same_place(
    short: Window, qtbot: QtBot, devices: Devices
) -> None:
    """Before, two versions and a reference at another rate; each is what it should be, and none is louder than the quietest."""
    document = short.document
    wait(qtbot, lambda: all(document.measured(v.stages) for v in document.session.versions))
    short.controllers.level.add_song(demo_folder() / "slow-door-blue-floor.ogg")
    wait(qtbot, lambda: document.session.references)
    wait(qtbot, lambda: document.measured() is not None)
    short.run("compare")
    compare = short.controllers.compare
    dialog = compare.dialog
    assert dialog is not None
    assert [key.split(":")[0] for key in dialog.in_slots()] == ["before", "version", "reference", "version"]
    wait(qtbot, lambda: all("LUFS" in level.text() for level in dialog.levels))
    assert [level.text().split(", ")[1] for level in dialog.levels].count("as it is") == 1, "the quietest"
    lufs = [compare._lufs(key) for key in dialog.in_slots()]
    quietest = min(lufs)
    short.playback.seek("before", 4.0)  # type: ignore[union-attr]
    short.run("play")
    for number, key in enumerate(dialog.in_slots()):
        qtbot.keyClick(dialog, Qt.Key(Qt.Key.Key_1 + number))
        assert dialog.current == key
        programme = short.playback.programme()  # type: ignore[union-attr]
        assert programme is not None
        assert programme.trim_db == pytest.approx(quietest - lufs[number], abs=0.01)
        assert programme.trim_db <= 0.0
        wait(qtbot, lambda p=programme: short.playback.player.place()[0] == p)  # type: ignore[misc,union-attr]
        heard = devices.listen(qtbot, 2.0)
        assert abs(facts_of(heard, RATE).loudness.integrated_lufs - quietest) < 3.0
        assert np.abs(np.diff(heard)).max() < 0.9
    place, _ = short.play.place()
    assert place > 4.0
    qtbot.keyClick(dialog, Qt.Key.Key_4)
    short.playback.seek("before", 3.0)  # type: ignore[union-attr]
    other = document.session.versions[1].stages
    wait(qtbot, lambda: short.playback.player.place()[0].stages == other)  # type: ignore[union-attr]
    assert 3.0 <= short.play.place()[0] < 8.0, "a place of Before, whatever the speed of what is heard"
    dialog.close()
    assert short.playback.programme().stages == document.stages  # type: ignore[union-attr]


def test_blind_names_are_hidden_and_preferences_noted(short: Window, qtbot: QtBot) -> None:
    short.run("compare")
    dialog = short.controllers.compare.dialog
    assert dialog is not None
    dialog.random = np.random.default_rng(3)
    qtbot.mouseClick(dialog.blind_button, LEFT)
    assert not any(box.isVisible() for box in dialog.boxes)
    assert {level.text() for level in dialog.levels} == {""}
    heard = []
    for _ in range(6):
        heard.append(dialog.current)
        qtbot.mouseClick(dialog.best_button, LEFT)
    assert len(set(heard)) > 1, "the keys are shuffled each time"
    gain_history = short.document.session.preferences
    assert len(gain_history) == 6
    assert all(preference.blind for preference in gain_history)
    assert "Leave blind mode" in dialog.tally.text()
    qtbot.mouseClick(dialog.blind_button, LEFT)
    assert "Liked best, in 6 choices (6 of them blind)" in dialog.tally.text()
    short.document.undo()
    assert len(short.document.session.preferences) == 5


# -- recipes -----------------------------------------------------------------------------------------------------------


def test_a_version_is_kept_heard_used_by_stage_and_passed_on(
    short: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, recipes = short.document, short.controllers.recipes
    choose(short, "Closing time")
    recipes.open(1)
    dialog = recipes.dialog
    assert dialog is not None
    dialog.name.setText("My closing time!")
    dialog.sentence.setText("For the last song.")
    dialog.kept["level"].setChecked(False)
    qtbot.mouseClick(dialog.buttons["save_recipe"], LEFT)
    assert (recipe_folder() / "my-closing-time.json").is_file()
    own = own_recipes()[0]
    assert own.parts == ("time", "colour", "moments", "ending")
    assert own.stages.ending.way.at is None  # type: ignore[union-attr]
    assert "My closing time!" in [action.text() for action in short.version_list.menu.actions()]
    choose(short, "Relay race")
    before = document.stages
    dialog.turn_to(0)
    dialog.list.setCurrentRow(0)
    assert not dialog.parts["level"].isEnabled()
    dialog.parts["time"].setChecked(False)
    qtbot.mouseClick(dialog.hear, LEFT)
    programme = short.playback.programme()  # type: ignore[union-attr]
    assert programme is not None
    assert programme.stages.colour == own.stages.colour
    assert programme.stages.time == before.time
    assert document.stages == before, "nothing is changed by listening"
    qtbot.mouseClick(dialog.buttons["apply_recipe"], LEFT)
    assert document.stages.ending == own.stages.ending
    assert document.stages.time == before.time
    assert document.stages.level == before.level
    document.undo()
    assert document.stages == before
    out = tmp_path / "passed-on.json"
    monkeypatch.setattr("latespin.desktop.controllers.recipes.QFileDialog.getSaveFileName", lambda *_: (str(out), ""))
    qtbot.mouseClick(dialog.buttons["export_recipe"], LEFT)
    assert json.loads(out.read_text())["title"] == "My closing time!"
    monkeypatch.setattr(QMessageBox, "question", lambda *_: QMessageBox.StandardButton.Yes)
    qtbot.mouseClick(dialog.buttons["delete_recipe"], LEFT)
    assert own_recipes() == []
    recipes.import_file(out)
    assert own_recipes()[0].stages == own.stages
    recipes.import_file(tmp_path / "gone.json")
    assert "does not exist" in short.notice.label.text()
    dialog.close()


# -- sets --------------------------------------------------------------------------------------------------------------


def test_a_folder_becomes_files_with_conflicts_named_first_and_a_stopped_set_resumes(
    short: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    songs, out = tmp_path / "songs", tmp_path / "out"
    songs.mkdir()
    for n in (1, 2):
        soundfile.write(songs / f"{n}.flac", noise(4.0, level=0.1, seed=n).T, RATE)
        file = mutagen.File(songs / f"{n}.flac")
        file["title"] = f"Lap {n}"
        file.save()
    (songs / "broken.ogg").write_bytes(b"nothing")
    short.run("batch")
    work = short.controllers.batch
    dialog = work.dialog
    assert dialog is not None
    dialog.folder.setText(str(out))
    wait(qtbot, lambda: dialog.songs.count() == 1)
    dialog.songs.selectAll()
    qtbot.keyClick(dialog.songs, Qt.Key.Key_Delete)
    dialog.songs.dropped.emit([songs])
    wait(qtbot, lambda: short.work.active("survey"))
    assert not short.work.active("set"), "closing the window now asks about no export"
    wait(
        qtbot,
        lambda: (
            work._surveys and all(known is not None for known in work._surveys.values()) and len(work._surveys) == 3
        ),
    )
    tick(short, "Relay race", "Recipe: Sped up")
    wait(qtbot, lambda: len(work.orders) == 4)
    assert any("broken.ogg" in dialog.songs.item(i).text() for i in range(3))
    dialog.pattern.setText("{version}")
    wait(qtbot, lambda: work.orders and all(order.conflict for order in work.orders))
    assert not dialog.buttons["start_batch"].isEnabled()
    assert "4 cannot be written as planned" in dialog.says.text()
    dialog.pattern.setText("../{title}")
    wait(qtbot, lambda: "out of its folder" in dialog.says.text())
    dialog.pattern.setText("{title} {version}")
    wait(qtbot, lambda: len(work.orders) == 4 and not any(order.conflict for order in work.orders))
    wait(qtbot, lambda: dialog.buttons["start_batch"].isEnabled())
    assert dialog.table.item(0, 0).text() == "Lap 1 Relay race.flac"
    qtbot.mouseClick(dialog.buttons["start_batch"], LEFT)
    wait(qtbot, lambda: work.run is not None and any(job.state == "done" for job in work.run.jobs))
    qtbot.mouseClick(dialog.buttons["stop_batch"], LEFT)
    wait(qtbot, lambda: "were stopped" in dialog.says.text())
    before = {path.name: path.stat().st_mtime_ns for path in out.glob("[!.]*.flac")}
    assert 1 <= len(before) < 4
    dialog.changed.emit()
    wait(qtbot, lambda: len(work.orders) == 4 and dialog.buttons["start_batch"].isEnabled())
    assert not any(order.conflict for order in work.orders), "files of the stopped run are no obstacle"
    stopped = work.run
    qtbot.mouseClick(dialog.buttons["start_batch"], LEFT)
    wait(qtbot, lambda: work.run is not stopped)
    missing = [row for row in range(4) if dialog.table.item(row, 0).text() not in before]
    work.run.jobs[missing[-1]].cancel()  # type: ignore[union-attr]
    wait(qtbot, lambda: dialog.buttons["retry_batch"].isEnabled())
    states = [dialog.table.item(row, 7).text().split(",")[0] for row in range(4)]
    wanted = ["Written" if row in missing else "Written before" for row in range(4)]
    wanted[missing[-1]] = "Stopped"
    assert states == wanted
    qtbot.mouseClick(dialog.buttons["retry_batch"], LEFT)
    wait(qtbot, lambda: "4 of 4 files are written" in dialog.says.text())
    for name, moment in before.items():
        assert (out / name).stat().st_mtime_ns == moment, "it is not made again"
    report = json.loads((out / "set-report.json").read_text())["files"]
    assert report[0]["state"] == "failed"
    assert {row["state"] for row in report[1:]} <= {"done", "kept"}
    for row in report[1:]:
        track = open_track(Path(row["file"]))
        assert facts_of(track.sound, track.rate).loudness.integrated_lufs == pytest.approx(
            row["integrated_lufs"], abs=0.01
        )


def test_favourite_recipes_come_first_and_notes_on_them_are_kept(short: Window, qtbot: QtBot) -> None:
    """In the dialog, in the menu of new versions, and in the settings, for recipes that ship as for one's own."""
    short.run("recipes")
    dialog = short.controllers.recipes.dialog
    first = [dialog.list.item(i).text() for i in range(dialog.list.count())]
    dialog.list.setCurrentRow(4)
    name = dialog.chosen.name
    qtbot.mouseClick(dialog.favourite, Qt.MouseButton.LeftButton)
    assert dialog.list.item(0).text() == f"★ {first[4]}"
    assert dialog.chosen.name == name, "it stays chosen"
    assert dialog.favourite.text() == "★ Favourite"
    dialog.note.setFocus()
    qtbot.keyClicks(dialog.note, "for the last hour")
    qtbot.keyClick(dialog.note, Qt.Key.Key_Return)
    assert "for the last hour" in dialog.list.item(0).toolTip()
    kept = load_settings()
    assert (kept.favourite_recipes, kept.recipe_notes) == ([name], {name: "for the last hour"})
    titles = [action.text() for action in short.version_list.menu.actions() if action.text()]
    assert titles.index(f"★ {first[4]}") < titles.index(first[0])
    dialog.list.setCurrentRow(1)
    assert dialog.note.text() == ""
    dialog.list.setCurrentRow(0)
    assert dialog.note.text() == "for the last hour"
    qtbot.mouseClick(dialog.favourite, Qt.MouseButton.LeftButton)
    assert [dialog.list.item(i).text() for i in range(dialog.list.count())] == first
    short.settings.note_recipe(name, "  ")
    assert not short.settings.recipe_notes
    dialog.close()
