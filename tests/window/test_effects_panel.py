"""The Colour bench by hand: the list, its forms and pictures, what changes over the song, pads; and what is played."""

import struct
from pathlib import Path

import numpy as np
import pytest
import soundfile
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from latespin.desktop.canvas.waveform_view import MARGIN
from latespin.desktop.plots.registry import PLOTS, plot_of
from latespin.desktop.shell.main_window import Window
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Layer
from latespin.model.values.kinds import kind_of
from tests.window.conftest import Devices, wait


@pytest.fixture
def panel(read: Window) -> Window:
    """The demo's first version on the open Colour bench, its hall taken away."""
    read.open_panel("colour")
    read.panels.colour.wanted.emit("delete_effect")
    assert not read.document.stages.colour.effects
    return read


def kinds(window: Window) -> list[str]:
    """The effects of the version, in order."""
    return [kind_of(effect) for effect in window.document.stages.colour.effects]


def add(window: Window, kind: str) -> None:
    """An effect, through the menu."""
    title = next(a for a in window.panels.colour.add.menu().actions() if a.toolTip() and a.text() == TITLES[kind])
    title.trigger()


TITLES = {
    "vinyl": "Vinyl",
    "orbit": "8D spin",
    "hall": "Hall",
    "underwater": "Underwater",
    "multiband-compressor": "Multiband compressor",
    "eq": "EQ",
}


def test_effects_are_added_moved_switched_doubled_and_taken_away(panel: Window, qtbot: QtBot) -> None:
    for kind in ("vinyl", "orbit", "hall"):
        add(panel, kind)
    assert kinds(panel) == ["vinyl", "orbit", "hall"]
    rows = panel.panels.colour.list
    assert [rows.item(i).text() for i in range(3)] == ["Vinyl", "8D spin", "Hall"]
    qtbot.keyClick(rows, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert kinds(panel) == ["vinyl", "hall", "orbit"]
    lamp = rows.visualItemRect(rows.item(0))
    qtbot.mouseClick(rows.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(lamp.left() + 10, lamp.center().y()))
    assert not panel.document.stages.colour.effects[0].on
    assert "Vinyl" not in panel.stage_row.cards["colour"].sentence
    qtbot.mouseClick(
        rows.viewport(),
        Qt.MouseButton.LeftButton,
        pos=QPoint(lamp.left() + 80, rows.visualItemRect(rows.item(1)).center().y()),
    )
    assert panel.panels.colour.title.text() == "Hall"
    qtbot.mouseClick(panel.panels.colour.duplicate, Qt.MouseButton.LeftButton)
    assert kinds(panel) == ["vinyl", "hall", "hall", "orbit"]
    qtbot.keyClick(rows, Qt.Key.Key_Delete)
    assert kinds(panel) == ["vinyl", "hall", "orbit"]
    panel.run("undo")
    panel.run("undo")
    panel.run("undo")
    assert panel.document.stages.colour.effects[0].on


def test_a_row_is_dragged_to_another_place(panel: Window) -> None:
    for kind in ("vinyl", "orbit", "hall"):
        add(panel, kind)
    rows = panel.panels.colour.list
    top = rows.visualItemRect(rows.item(0))
    event = QDropEvent(
        QPointF(top.left() + 60, top.top() + 4), Qt.DropAction.MoveAction, QMimeData(), Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    rows.dropEvent(event)
    assert kinds(panel) == ["hall", "vinyl", "orbit"]
    assert rows.item(0).text() == "Hall"
    assert rows.currentRow() == 0


def test_every_effect_has_its_form_and_its_picture(panel: Window, qtbot: QtBot) -> None:
    """All its controls are there, the finer ones behind More, and the picture draws something of its own."""
    for kind in EFFECTS:
        panel.controllers.effects.add(kind)
        form = panel.panels.colour.form(kind)
        shown = {name for part in form.forms for name in part.controls}
        hidden = {"id", "on", "keep_level", "lanes", "path"}
        assert shown | hidden >= set(EFFECTS[kind].__struct_fields__), kind
        if len(form.forms) > 1:
            assert not form.forms[1].isVisible(), kind
            qtbot.mouseClick(form.more, Qt.MouseButton.LeftButton)
            assert form.forms[1].isVisible(), kind
        picture = panel.panels.colour.pictures.currentWidget()
        assert type(picture) is type(plot_of(kind)), kind
        image = picture.grab().toImage()
        seen = {image.pixel(x, y) for x in range(0, image.width(), 3) for y in range(0, image.height(), 3)}
        assert len(seen) > (4 if EFFECTS[kind] in PLOTS else 2), kind
        panel.run("undo")


def test_the_spin_is_heard_and_its_picture_goes_round(panel: Window, qtbot: QtBot, devices: Devices) -> None:
    add(panel, "orbit")
    panel.controllers.effects.change("amount_percent", 100.0)
    panel.controllers.effects.change("by", "seconds")
    panel.controllers.effects.change("period_seconds", 3.0)
    panel.run("play")
    qtbot.waitUntil(lambda: panel.playback.player.playing, timeout=20_000)
    heard = devices.listen(qtbot, 7.0)
    half = round(0.75 * 44_100)
    sides = [
        np.sum(heard[:, at : at + half // 2] ** 2, axis=1) for at in range(44_100, heard.shape[1] - half, half // 2)
    ]
    swing = [10 * np.log10(right / left) for left, right in sides if left > 0 and right > 0]
    assert max(swing) > 1.0
    assert min(swing) < -1.0
    picture = panel.panels.colour.pictures.currentWidget()
    before = picture.frame
    wait(qtbot, lambda: picture.frame != before)


def loudness_of(heard: np.ndarray, part: str) -> float:
    """Of mid or side, dB."""
    wave = heard[0] + heard[1] if part == "mid" else heard[0] - heard[1]
    return float(10.0 * np.log10(np.mean(np.square(wave, dtype=np.float64)) + 1e-12))


def test_the_compressors_picture_shows_what_it_did_to_each_part(panel: Window, qtbot: QtBot) -> None:
    add(panel, "multiband-compressor")
    for part, threshold in (("low", 12.0), ("mid", -20.0), ("high", 12.0)):
        panel.controllers.effects.change(f"{part}_threshold_db", threshold)
    panel.run("play")
    picture = panel.panels.colour.pictures.currentWidget()
    wait(qtbot, lambda: any(mid < -6.0 and min(low, high) > -3.0 for _, (low, mid, high) in picture.notes))
    notes = picture.notes
    pictures = []
    for part in range(4):  # the fourth is as it was
        picture.show_place(notes[-1][0], tuple((at, (*dbs[:part], -11.0, *dbs[part + 1 :])[:3]) for at, dbs in notes))
        pictures.append(picture.grab().toImage())
    assert all(pictures[part] != pictures[3] for part in range(3)), "each part has its line"


def test_solo_is_heard_and_said_until_there_is_nothing_to_hear_alone(
    panel: Window, devices: Devices, qtbot: QtBot
) -> None:
    add(panel, "eq")
    panel.controllers.effects.change("channels", "side")
    panel.show()
    panel.run("loudest")
    panel.run("play")
    qtbot.waitUntil(lambda: panel.playback.player.playing, timeout=20_000)
    row, banner = panel.panels.colour.solo, panel.solo_banner
    assert [button.isVisible() for button in row.buttons] == [True, True, False]
    assert not banner.isVisible()
    whole = devices.listen(qtbot, 1.0)
    assert loudness_of(whole, "mid") > loudness_of(whole, "side") + 3.0
    for part, other in ((1, "mid"), (0, "side")):
        qtbot.mouseClick(row.buttons[part], Qt.MouseButton.LeftButton)
        wait(qtbot, lambda: panel.playback.player.exact)
        devices.listen(qtbot, 0.6)
        assert loudness_of(devices.listen(qtbot, 0.5), other) < -80.0
        assert banner.label.text() == f"Solo: {('Mid', 'Side')[part]} of EQ"
        assert [button.isChecked() for button in row.buttons[:2]] == [part == 0, part == 1]
    panel.playback.set_side("before")
    assert not banner.isVisible(), "the song as it came has no effects"
    panel.playback.set_side("after")
    qtbot.mouseClick(row.buttons[0], Qt.MouseButton.LeftButton)
    assert banner.isVisible()
    panel.controllers.effects.change("channels", "stereo")
    wait(qtbot, lambda: not banner.isVisible())
    assert panel.playback.solo is None
    assert not row.isVisible()


def test_a_colour_opens_over_the_marked_range_and_its_points_are_moved_by_hand(panel: Window, qtbot: QtBot) -> None:
    add(panel, "underwater")
    panel.play.mark((20.0, 30.0))
    panel.controllers.automation.open_over()
    effect = panel.document.stages.colour.effects[0]
    assert [point.value for point in effect.lanes[0].points] == [45.0, 0.0]
    assert not panel.panels.colour.form("underwater").forms[0].controls["amount_percent"].isEnabled()
    waveform_view, layer = panel.waveform_view, panel.waveform_view.lanes
    assert layer.shape is not None

    def at(spot: QPointF) -> QPoint:
        return QPoint(round(spot.x() + MARGIN), round(spot.y()))

    spot = layer.spot(0)
    qtbot.mousePress(waveform_view, Qt.MouseButton.LeftButton, pos=at(spot))
    qtbot.mouseMove(waveform_view, at(spot + QPointF(0, -30)))
    qtbot.mouseRelease(waveform_view, Qt.MouseButton.LeftButton, pos=at(spot + QPointF(0, -30)))
    points = panel.document.stages.colour.effects[0].lanes[0].points
    assert points[0].value > 55.0
    way = layer.way_spot(0)
    assert way is not None
    qtbot.mousePress(waveform_view, Qt.MouseButton.LeftButton, pos=at(way))
    qtbot.mouseMove(waveform_view, at(way + QPointF(0, -12)))
    qtbot.mouseRelease(waveform_view, Qt.MouseButton.LeftButton, pos=at(way + QPointF(0, -12)))
    assert panel.document.stages.colour.effects[0].lanes[0].points[0].tension > 0.2
    far = QPointF(waveform_view.scale.x(60.0), layer.spot(1).y() - 25)
    qtbot.mouseDClick(waveform_view, Qt.MouseButton.LeftButton, pos=at(far))
    assert len(panel.document.stages.colour.effects[0].lanes[0].points) == 3
    layer.point = 2
    qtbot.keyClick(waveform_view, Qt.Key.Key_Delete)
    assert len(panel.document.stages.colour.effects[0].lanes[0].points) == 2
    for _ in range(4):
        panel.run("undo")
    assert [point.value for point in panel.document.stages.colour.effects[0].lanes[0].points] == [45.0, 0.0]
    panel.controllers.automation.fill(panel.panels.colour.lanes_menu)
    words = [action.text() for action in panel.panels.colour.lanes_menu.actions()]
    assert any(text.startswith("Dip over the marked range") for text in words)
    next(a for a in panel.panels.colour.lanes_menu.actions() if a.text().startswith("All stay")).trigger()
    assert not panel.document.stages.colour.effects[0].lanes


def test_a_pad_is_made_heard_saved_with_its_loop_and_laid_beneath(
    panel: Window, qtbot: QtBot, devices: Devices, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    panel.controllers.effects.pad()
    assert "Mark a range" in panel.notice.label.text()
    panel.play.mark((20.0, 20.4))
    panel.controllers.effects.pad()
    dialog = panel.controllers.effects.dialog
    wait(qtbot, lambda: dialog.sound is not None)
    first = dialog.sound.shape[1]
    qtbot.mouseClick(dialog.hear, Qt.MouseButton.LeftButton)
    heard = devices.listen(qtbot, 1.0)
    assert np.abs(heard[:, -20_000:]).max() > 0.01
    qtbot.mouseClick(dialog.again, Qt.MouseButton.LeftButton)
    wait(qtbot, lambda: dialog.sound is not None and dialog.sound.shape[1] > 3 * first)
    target = tmp_path / "cloud.wav"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    qtbot.mouseClick(dialog.lay, Qt.MouseButton.LeftButton)
    layer = panel.document.stages.colour.effects[-1]
    assert isinstance(layer, Layer)
    assert Path(layer.path) == target
    data = target.read_bytes()
    begin, end = struct.unpack_from("<2I", data, data.index(b"smpl") + 8 + 36 + 8)
    assert (begin, end) == (0, soundfile.info(target).frames - 1)
    dialog.close()
    assert dialog.sound is None, "minutes of sound are let go of"
    assert panel.controllers.effects.dialog is None
    wait(qtbot, lambda: not panel.playback.player.playing)


def test_a_pad_is_played_on_keys_and_its_settings_are_offered_again(
    panel: Window, qtbot: QtBot, devices: Devices
) -> None:
    wait(qtbot, lambda: panel.document.reading is not None)
    panel.play.mark((20.0, 20.4))
    panel.controllers.effects.pad()
    dialog = panel.controllers.effects.dialog
    assert dialog.pad.root == "C", "the song is in C major"
    assert not dialog.form.controls["effects_here"].isEnabled(), "this version has no effects"
    wait(qtbot, lambda: dialog.instrument is not None)
    keyboard, device = dialog.keyboard, devices.last
    keyboard.setFocus()
    device.forget()
    qtbot.keyPress(keyboard, Qt.Key.Key_D)
    assert keyboard.held == {64}
    wait(qtbot, lambda: device.played().shape[1] > 8_000)
    assert np.abs(device.played()[:, 2_000:]).max() > 0.01, "heard though the song is paused"
    qtbot.keyPress(keyboard, Qt.Key.Key_PageUp)
    qtbot.keyPress(keyboard, Qt.Key.Key_A)
    assert keyboard.held == {64, 72}
    qtbot.keyRelease(keyboard, Qt.Key.Key_D)
    assert keyboard.held == {72}
    keyboard.clearFocus()
    assert not keyboard.held
    wait(qtbot, lambda: not panel.playback.player.keys.sounding)
    middle_key = keyboard.key_rect(4).center().toPoint()
    qtbot.mousePress(keyboard, Qt.MouseButton.LeftButton, pos=middle_key)
    assert keyboard.held == {76}
    qtbot.mouseRelease(keyboard, Qt.MouseButton.LeftButton, pos=middle_key)
    dialog.form.changed.emit("smear", 3.0)
    dialog.form.changed.emit("echo_value", "1/8")
    dialog.close()
    assert panel.playback.player.keys is None
    assert (panel.document.session.pad.smear, panel.document.session.pad.echo_value) == (3.0, "1/8")
    panel.controllers.effects.pad()
    assert panel.controllers.effects.dialog.pad.smear == 3.0
    before = panel.document.session
    panel.controllers.effects.dialog.close()
    assert panel.document.session is before, "nothing was changed: there is no step of undo"


def test_a_missing_file_is_named_on_the_bench(panel: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: ("/nowhere/room.wav", ""))
    panel.controllers.effects.add("room")
    panel.controllers.effects.change("room", "file")
    assert "/nowhere/room.wav is not there" in panel.panels.colour.problem.text()
    assert panel.panels.colour.file.text() == "room.wav"
