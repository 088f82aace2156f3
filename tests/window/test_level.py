"""The Level bench: targets, what each stage adds, references measured, the match heard and undone."""

from pathlib import Path

import numpy as np
import pytest
import soundfile
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from latespin.demo import demo_folder
from latespin.desktop.controllers.level import parse_passages
from latespin.desktop.shell.main_window import Window
from latespin.dsp.filters.cascade import FilterCascade, high_pass, low_pass
from latespin.media.tags import Tags, write_tags
from latespin.model.text.describe import bpm_text, shift_semitones
from tests.conftest import noise
from tests.window.conftest import choose

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def level(short: Window) -> Window:
    """A short song with the Level bench open, its chosen version measured."""
    short.open_panel("level")
    return short


def measured(window: Window, qtbot: QtBot) -> float:
    """The loudness of the version, once it has been measured."""
    qtbot.waitUntil(lambda: window.document.measured() is not None, timeout=60_000)
    found = window.document.measured()
    assert found is not None
    return found.facts.loudness.integrated_lufs


def test_named_targets_are_reached_and_said(level: Window, qtbot: QtBot) -> None:
    panel = level.panels.level
    before = level.document.loaded.facts.loudness.integrated_lufs  # type: ignore[union-attr]
    for key, lufs, message in (
        ("broadcast", -23.0, "−23.0 LUFS"),
        ("podcast", -16.0, "−16.0 LUFS"),
        ("loud", -9.0, "−9.0 LUFS"),
        ("before", before, "As loud as before"),
    ):
        qtbot.mouseClick(panel.targets.button(key), LEFT)
        assert measured(level, qtbot) == pytest.approx(lufs, abs=0.1)
        assert panel.bars["target_lufs"].value == pytest.approx(lufs, abs=0.05)
        assert message in level.stage_row.cards["level"].sentence.replace("\u00a0", " ")
    qtbot.mouseClick(panel.targets.button("none"), LEFT)
    assert level.document.stages.level.target_lufs is None
    panel.bars["target_lufs"].changed.emit(-18.0)
    assert level.document.stages.level.target_lufs == -18.0
    assert not any(panel.targets.button(key).isChecked() for key in panel.targets._buttons)


def test_what_each_stage_adds_comes_to_the_whole(level: Window, qtbot: QtBot) -> None:
    panel = level.panels.level
    qtbot.waitUntil(lambda: "Level" in panel.added.text(), timeout=60_000)
    added = level.controllers.level._added[next(iter(level.controllers.level._added))]
    document = level.document
    found, loaded = document.measured(), document.loaded
    assert found is not None
    assert loaded is not None
    total = sum(added.values())
    assert total == pytest.approx(
        found.before_level.loudness.integrated_lufs - loaded.facts.loudness.integrated_lufs, abs=1e-6
    )
    assert added["moments"] == 0.0
    assert added["colour"] != 0.0
    picture = panel.picture.grab().toImage()
    colours = {
        picture.pixelColor(x, y).name() for x in range(0, picture.width(), 2) for y in range(0, picture.height(), 2)
    }
    assert len(colours) > 12, "curves, bars and lines are drawn"


def test_a_reference_is_measured_matched_heard_of_and_undone(level: Window, qtbot: QtBot, tmp_path: Path) -> None:
    panel, document = level.panels.level, level.document
    qtbot.mouseClick(panel.pages.button("match"), LEFT)
    plain = document.measured()
    level.controllers.level.add_song(demo_folder() / "slow-door-blue-floor.ogg")
    qtbot.waitUntil(lambda: document.stages.level.matched is not None, timeout=30_000)
    assert document.session.references[0].title == "Slow Door, Blue Floor"
    assert panel.references.currentText() == "Slow Door, Blue Floor"
    assert measured(level, qtbot) == pytest.approx(-14.0, abs=0.1)
    found = document.measured()
    assert found is not None
    assert plain is not None
    assert found.plan.match is not None
    assert "Match 60\u00a0%" in level.stage_row.cards["level"].sentence
    qtbot.mouseClick(panel.sides.button("leave"), LEFT)
    assert document.stages.level.match.sides == "leave"  # type: ignore[union-attr]
    qtbot.mouseClick(panel.switch, LEFT)
    assert document.stages.level.matched is None
    panel.passages.typed.emit("0:40-0:50")
    qtbot.waitUntil(lambda: document.session.references[0].passages == ((40.0, 50.0),), timeout=30_000)
    old = FilterCascade(
        [*high_pass(300.0, 44_100, 48), *low_pass(5_000.0, 44_100, 48), *low_pass(5_000.0, 44_100, 48)]
    ).process(np.tile(noise(8.0)[:1], (2, 1)))
    soundfile.write(tmp_path / "old.flac", old.T, 44_100)
    write_tags(tmp_path / "old.flac", Tags({"title": ("Old record",)}))
    level.controllers.level.add_song(tmp_path / "old.flac")
    qtbot.waitUntil(lambda: len(document.session.references) == 2, timeout=30_000)
    assert "practically mono" in panel.warning.text()
    if not document.stages.level.match.on:
        qtbot.mouseClick(panel.switch, LEFT)
    qtbot.mouseClick(panel.sides.button("match"), LEFT)
    qtbot.waitUntil(lambda: "dB narrower." in panel.warning.text(), timeout=30_000)
    assert "nothing above" in panel.warning.text()
    qtbot.mouseClick(panel.reference_buttons["average_references"], LEFT)
    assert panel.references.currentText() == "Average of 2 songs"
    assert document.stages.level.match.reference == document.session.references[2]  # type: ignore[union-attr]
    qtbot.mouseClick(panel.reference_buttons["average_references"], LEFT)
    assert len(document.session.references) == 3, "an average of songs, not of averages"
    level.run("undo")
    remove = panel.findChild(QPushButton, "remove_reference")
    assert remove is not None
    qtbot.mouseClick(remove, LEFT)
    assert len(document.session.references) == 1
    assert document.stages.level.match.reference is None  # type: ignore[union-attr]
    while document.undo_label:
        document.undo()
    assert document.session.references == ()
    assert document.stages.level.match is None


def test_short_references_and_wrong_passages_are_said(level: Window, qtbot: QtBot, tmp_path: Path) -> None:
    soundfile.write(tmp_path / "short.wav", noise(1.0).T, 44_100)
    level.controllers.level.add_song(tmp_path / "short.wav")
    qtbot.waitUntil(lambda: "too little" in level.notice.label.text(), timeout=30_000)
    assert level.document.session.references == ()
    assert parse_passages("0:32–0:51, 1:04-1:20.5") == ((32.0, 51.0), (64.0, 80.5))
    for wrong in ("0:32", "0:50-0:40", "soon-later"):
        with pytest.raises(ValueError, match=r"."):
            parse_passages(wrong)


def test_what_was_asked_for_is_given_and_its_cost_said_with_a_choice(level: Window, qtbot: QtBot) -> None:
    """A tempo moves a linked pitch, which can be held; a loudness beyond the limiter's allowance says what it would take."""
    document, notice = level.document, level.notice
    choose(level, "Relay race")
    qtbot.waitUntil(lambda: document.reading is not None, timeout=60_000)
    before = shift_semitones(document.stages.time)[0]
    level.header.asked.emit("tempo", "80")
    assert "semitones lower than before" in notice.label.text()
    assert notice.choice.text() == "Hold the pitch"
    qtbot.mouseClick(notice.choice, LEFT)
    assert shift_semitones(document.stages.time)[0] == pytest.approx(before, abs=0.01)
    assert bpm_text(document.stages.time, document.grid) == "80.0"
    level.panels.level.bars["allowance_db"].changed.emit(2.0)
    level.header.asked.emit("loudness", "-7")
    qtbot.waitUntil(lambda: "more than 2.0 dB" in notice.label.text(), timeout=60_000)
    assert notice.choice.text().startswith("Allow ")
    limited = measured(level, qtbot)
    qtbot.mouseClick(notice.choice, LEFT)
    assert document.stages.level.allowance_db > 4.0
    assert measured(level, qtbot) > limited + 1.0
    level.header.asked.emit("loudness", "-70")
    assert "it can be −40.00 to −5.00" in notice.label.text()
    assert not notice.choice.isVisible()
