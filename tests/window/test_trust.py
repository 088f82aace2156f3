"""The window says what is not as asked, and loses nothing that another window saved."""

from pathlib import Path

import numpy as np
import pytest
import soundfile
from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from latespin.desktop.window import Window
from latespin.media.tags import read_tags
from latespin.model.documents import read_session
from latespin.model.version import Stages, Time
from tests.conftest import noise
from tests.window.conftest import RATE, wait
from tests.window.test_grid import type_entry

LEFT = Qt.MouseButton.LeftButton


def open_song(window: Window, qtbot: QtBot, path: Path, seconds: float = 4.0) -> Path:
    """A song of noise, in which there is no beat, opened."""
    soundfile.write(path, 0.3 * noise(seconds).T, RATE)
    window.open_file(path)
    wait(qtbot, lambda: window.document.loaded and window.document.reading)
    return path


def answer_next_box(words: str) -> list[str]:
    """Press the button of that name in the next message box; returns what the box says, once it has."""
    said: list[str] = []

    def press() -> None:
        box = QApplication.activeModalWidget()
        if not isinstance(box, QMessageBox):
            QTimer.singleShot(20, press)
            return
        said.append(box.text())
        next(button for button in box.buttons() if words in button.text().replace("&", "")).click()

    QTimer.singleShot(0, press)
    return said


def test_what_a_stage_cannot_do_is_said_on_its_card_and_in_the_file(
    window: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    open_song(window, qtbot, tmp_path / "Ice machine.wav")
    window.document.add_version("Halved", Stages(time=Time(halftime="bar")))
    card = window.stage_row.cards["time"]
    assert card.sentence.startswith("⚠ ")
    assert "no bars" in card.toolTip()
    assert "no bars" in card.accessibleDescription()
    from tests.window.test_session import export_dialog

    window.actions_by_name["export"].trigger()
    dialog = export_dialog(window)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("halved")
    qtbot.mouseClick(dialog.accept_button, LEFT)
    wait(qtbot, (tmp_path / "halved.flac").exists)
    wait(qtbot, lambda: "no bars" in next(iter(window.panel.rows.values())).task.message)
    assert read_tags(tmp_path / "halved.flac")[0].first("title") == "Ice machine"
    window.document.edit_stages("Whole", Stages(time=Time(halftime="song")))
    assert "⚠" not in card.sentence


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


@pytest.mark.parametrize("answer", ["Replace it", "Cancel"])
def test_what_another_window_saved_is_not_lost_unasked(
    window: Window, qtbot: QtBot, tmp_path: Path, answer: str
) -> None:
    open_song(window, qtbot, tmp_path / "song.wav", 1.0)
    place = tmp_path / "work.latespin"
    assert window.document.save(place)
    window.document.rename_version(window.document.session.chosen, "Mine")
    assert window.save(), "what was saved here itself is no one else's"
    theirs = place.read_bytes().replace(b"Mine", b"Theirs")
    place.write_bytes(theirs)
    window.document.rename_version(window.document.session.chosen, "Mine again")
    said = answer_next_box(answer)
    assert window.save() == (answer == "Replace it")
    assert "another window" in said[0]
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
    window.open_file(tmp_path / "near" / "song.wav")
    wait(qtbot, lambda: window.document.loaded is not loaded)
    assert window.document.save(tmp_path / "near" / "w.latespin")
    beside = read_session((tmp_path / "far" / "w.latespin").read_bytes(), "s")
    assert beside.track is not None
    assert beside.track.path == "song.wav"
