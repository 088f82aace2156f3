"""Playing along in the window: by mouse, keys and the practice surface; heard, recorded, listed, drawn and exported."""

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QFileDialog, QInputDialog
from pytestqt.qtbot import QtBot

from latespin.desktop.panels.playing.pad_grid import TYPED
from latespin.desktop.shell.main_window import Window
from latespin.desktop.surface.surface_window import SurfaceWindow
from latespin.media.storage.config import surface_folder
from latespin.model.effects.effects import Echo, Hall
from latespin.model.moments.held import Held, HeldEffect, HeldRepeat, HeldReverse, HeldSilence
from latespin.model.playing.surface_map import EffectTarget, Source
from latespin.model.timing.positions import Position
from latespin.model.version import Colour
from latespin.render.playback.player import Player
from tests.window.conftest import GRID, Devices, wait

LEFT = Qt.MouseButton.LeftButton
SILENCE, MUFFLE, REVERSE = 15, 10, 7


@pytest.fixture
def surface(along: Window, qtbot: QtBot) -> Iterator[SurfaceWindow]:
    """The practice surface, connected."""
    made = SurfaceWindow()
    qtbot.addWidget(made)
    made.show()
    wait(qtbot, lambda: along.controllers.playing.surfaces.status.startswith("Practice surface"))
    wait(qtbot, lambda: made.status.text() == "Connected to Late Spin")
    yield made
    made.close()


def at(grid, number: int) -> QPoint:  # type: ignore[no-untyped-def]
    """The middle of a pad."""
    return grid.pad_rect(number).center().toPoint()


def play_until_exact(player: Player, devices: Devices, qtbot: QtBot) -> None:
    """An exact stream takes over from a draft some way ahead: play up to there in small steps."""
    while not player.exact:
        devices.play_on(qtbot, 0.1)
        qtbot.wait(50)


def held_in(window: Window) -> list[Held]:
    """The held moments of the version, in order of place."""
    placed = [m for m in window.document.stages.moments.placed if isinstance(m, Held)]
    return sorted(placed, key=lambda m: m.start.at(GRID))


def take_from(window: Window, devices: Devices, qtbot: QtBot, *pads: int) -> None:
    """Record a take in which each pad is held for a fifth of a second."""
    grid = window.panels.playing.grid
    window.run("record_take")
    window.run("play")
    devices.play_on(qtbot, 0.5)
    for number in pads:
        qtbot.mousePress(grid, LEFT, pos=at(grid, number))
        devices.play_on(qtbot, 0.2)
        qtbot.mouseRelease(grid, LEFT, pos=at(grid, number))
        devices.play_on(qtbot, 0.2)
    window.run("play")
    wait(qtbot, lambda: len(held_in(window)) >= len(pads))
    window.run("record_take")


def test_a_take_played_on_the_practice_surface_is_heard_in_the_model_the_picture_and_the_export(
    along: Window, surface: SurfaceWindow, devices: Devices, qtbot: QtBot
) -> None:
    player, document = along.play.player, along.document
    assert player is not None
    assert devices.last is not None
    along.run("play")
    along.run("record_take")
    play_until_exact(player, devices, qtbot)
    devices.play_on(qtbot, 1.0)
    devices.last.forget()
    qtbot.mousePress(surface.grid, LEFT, pos=at(surface.grid, SILENCE))
    wait(qtbot, lambda: SILENCE in along.panels.playing.grid.held)
    wait(qtbot, lambda: SILENCE in surface.grid.held)
    devices.play_on(qtbot, 0.5)
    qtbot.mouseRelease(surface.grid, LEFT, pos=at(surface.grid, SILENCE))
    devices.play_on(qtbot, 0.3)
    qtbot.keyPress(surface.grid, TYPED[MUFFLE])
    devices.play_on(qtbot, 0.4)
    qtbot.keyRelease(surface.grid, TYPED[MUFFLE])
    for _ in range(12):
        surface.knobs.turned.emit(2, 0.05)
        devices.play_on(qtbot, 0.05)
    controls = along.controllers.playing.session.controls  # type: ignore[union-attr]
    while not any(way.last > 45.0 for way in controls._ways.values()):
        devices.play_on(qtbot, 0.05)  # the last turns may still be on their way
    along.run("play")
    wait(qtbot, lambda: document.stages.moments.takes)
    silence, muffle = held_in(along)
    assert isinstance(silence, HeldSilence)
    assert isinstance(muffle, HeldEffect)
    assert [m.label for m in (silence, muffle)] == ["Silence", "Muffle"]
    (take,) = document.stages.moments.takes
    assert take.name == "Take 1"
    hall = document.stages.colour.find("hall")
    assert hall is not None
    (lane,) = hall.lanes
    assert lane.points[0].value == pytest.approx(20.0)
    assert lane.points[-1].value > 45.0, "the knob was picked up at 20 % and went on to 60 %"

    spots = {spot.id: spot for spot in document.arrangement().spots}  # type: ignore[union-attr]
    shapes = {shape.id: shape for shape in along.waveform_view.moments.shapes}
    for moment in (silence, muffle):
        assert shapes[moment.id].ends == pytest.approx(
            (spots[moment.id].start / 44_100, spots[moment.id].stop / 44_100)
        )
    heard = np.abs(devices.last.played()).max(axis=0)
    quiet = np.flatnonzero(heard == 0.0)
    assert len(quiet) > 0.3 * 44_100, "the pad was heard"
    loaded = document.loaded
    assert loaded is not None
    exported = loaded.readers.chain(document.stages).read(20 * 44_100)
    spot = spots[silence.id]
    assert not exported[:, spot.start + 200 : spot.stop].any()
    assert exported[:, spot.stop + 400 : spot.stop + 2000].any()

    along.run("undo")
    assert not document.stages.moments.placed
    assert not document.stages.moments.takes
    assert not document.stages.colour.find("hall").lanes  # type: ignore[union-attr]


def test_typing_keys_play_pads_and_nothing_but_space_escape_and_the_panels_key(along: Window, qtbot: QtBot) -> None:
    grid, player = along.panels.playing.grid, along.play.player
    assert player is not None
    along.activateWindow()
    wait(qtbot, grid.hasFocus)
    qtbot.keyPress(grid, Qt.Key.Key_1)
    wait(qtbot, lambda: grid.held == {0})
    qtbot.keyPress(grid, Qt.Key.Key_R)
    wait(qtbot, lambda: grid.held == {0, 7})
    qtbot.keyRelease(grid, Qt.Key.Key_1)
    wait(qtbot, lambda: grid.held == {7})
    qtbot.keyClick(grid, Qt.Key.Key_B)
    qtbot.keyClick(grid, Qt.Key.Key_M)
    assert along.play.playback is not None
    assert along.play.playback.side == "after", "letters belong to the pads"
    qtbot.keyClick(grid, Qt.Key.Key_Space)
    wait(qtbot, lambda: player.playing)
    along.header.setFocus()
    along.version_list.setFocus(Qt.FocusReason.MouseFocusReason)
    grid.clearFocus()
    wait(qtbot, lambda: not grid.held)
    grid.setFocus()
    qtbot.keyClick(grid, Qt.Key.Key_P)
    assert along.panel_commands.panel == "moments"
    assert along.controllers.playing.session is None


def test_takes_are_switched_renamed_quantised_merged_and_deleted_as_steps_of_undo(
    along: Window, devices: Devices, qtbot: QtBot
) -> None:
    takes, document = along.panels.playing.takes, along.document
    take_from(along, devices, qtbot, REVERSE, 1)
    take_from(along, devices, qtbot, SILENCE)
    assert [takes.list.item(i).text() for i in range(takes.list.count())] == ["Take 1", "Take 2"]
    assert [type(m) for m in sorted(held_in(along), key=lambda m: m.take != document.stages.moments.takes[0].id)] == [
        HeldReverse, HeldRepeat, HeldSilence,
    ]  # fmt: skip
    takes.list.item(0).setCheckState(Qt.CheckState.Unchecked)
    assert [take.on for take in document.stages.moments.takes] == [False, True]
    assert [type(m) for m in document.stages.moments.heard] == [HeldSilence]
    along.run("undo")
    takes.list.item(1).setText("Clean")
    assert [take.name for take in document.stages.moments.takes] == ["Take 1", "Clean"]
    panel = along.panels.playing
    panel.quantise.setCurrentIndex(panel.quantise.findData("1/8"))
    panel.quantise.activated.emit(panel.quantise.currentIndex())
    takes.list.selectAll()
    qtbot.mouseClick(takes.buttons["quantise_takes"], LEFT)
    assert [round(2.0 * (m.start.beat or 0.0), 6) % 1.0 for m in held_in(along)] == [0.0, 0.0, 0.0]
    along.run("undo")
    takes.list.selectAll()
    qtbot.mouseClick(takes.buttons["merge_takes"], LEFT)
    assert [take.name for take in document.stages.moments.takes] == ["Take 1"]
    assert len({m.take for m in held_in(along)}) == 1
    takes.list.setFocus()
    qtbot.keyClick(takes.list, Qt.Key.Key_Delete)
    assert not document.stages.moments.placed
    assert not document.stages.moments.takes
    along.run("undo")
    assert len(held_in(along)) == 3


def test_takes_are_exchanged_as_midi_files(
    along: Window, devices: Devices, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    take_from(along, devices, qtbot, SILENCE, REVERSE)
    before, controller = held_in(along), along.controllers.playing.takes
    file = tmp_path / "take.mid"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    along.panels.playing.takes.wanted.emit("export_take")
    controller.delete()
    assert not held_in(along)
    along.panels.playing.takes.wanted.emit("import_take")
    wait(qtbot, lambda: held_in(along))
    after = held_in(along)
    assert [type(m) for m in after] == [type(m) for m in before]
    assert [m.start.at(GRID) for m in after] == pytest.approx([m.start.at(GRID) for m in before], abs=0.001)
    assert along.document.stages.moments.takes[0].name == "take"
    along.run("undo")
    controller.import_take()
    echo = Colour(effects=(Echo(id="echo"),))
    along.document.edit_stages("Echo", replace(along.document.stages, colour=echo))
    wait(qtbot, lambda: held_in(along))
    assert along.document.stages.colour == echo, "it is played on the version there is by then"
    said: list[str] = []
    controller.message.connect(lambda text, _: said.append(text))
    song = along.document.loaded.track.path  # type: ignore[union-attr]
    whole = song.read_bytes()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(song), ""))
    controller.export_take()
    along.controllers.playing.surfaces._export(along)
    assert song.read_bytes() == whole, "the song is never written to"
    assert len(said) == 1
    file.write_bytes(b"MThd, or is it?")
    controller.import_take()
    wait(qtbot, lambda: "not a Standard MIDI File" in said[-1])


def test_over_a_loop_each_round_adds_to_the_take(along: Window, devices: Devices, qtbot: QtBot) -> None:
    grid, document = along.panels.playing.grid, along.document
    along.play.mark((2.0, 3.5))
    along.run("start")
    along.run("record_take")
    along.run("play")
    player = along.play.player
    assert player is not None
    for found, number in enumerate((SILENCE, REVERSE), 1):
        devices.play_on(qtbot, 0.3)
        qtbot.mousePress(grid, LEFT, pos=at(grid, number))
        devices.play_on(qtbot, 0.1)
        qtbot.mouseRelease(grid, LEFT, pos=at(grid, number))
        devices.play_on(qtbot, 1.1)
        wait(qtbot, lambda count=found: len(held_in(along)) >= count)
    along.run("play")
    wait(qtbot, lambda: not player.playing)
    assert len(document.stages.moments.takes) == 1
    assert all(1.9 < m.start.at(GRID) < 3.5 for m in held_in(along))
    along.run("undo")
    assert not held_in(along), "one take is one step"


def test_a_knob_turned_without_recording_sets_the_control_and_automation_is_not_lost(
    along: Window, qtbot: QtBot
) -> None:
    document, knobs = along.document, along.panels.playing.knobs
    assert knobs.shown[2].text == "20\u00a0%"
    along.run("play")
    knobs.turned.emit(2, 0.3)
    wait(qtbot, lambda: document.stages.colour.find("hall").amount_percent == pytest.approx(50.0))  # type: ignore[union-attr]
    assert document.undo_label == "Turn knobs"
    changed = replace(document.stages.colour.find("hall"), amount_percent=10.0)  # type: ignore[type-var]
    document.edit_stages("Amount", replace(document.stages, colour=document.stages.colour.with_changed(changed)))
    wait(qtbot, lambda: knobs.shown[2].text == "10\u00a0%")
    document.edit_stages("Echo", replace(document.stages, colour=Colour(effects=(changed, Echo(id="echo")))))
    wait(qtbot, lambda: knobs.shown[3].share is not None)


def test_what_a_pad_plays_is_chosen_from_its_menu_and_learnt_from_a_surface(
    along: Window, surface: SurfaceWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    playing = along.controllers.playing

    def choose(menu, *titles: str) -> None:  # type: ignore[no-untyped-def]
        for title in titles[:-1]:
            menu = next(action.menu() for action in menu.actions() if action.text() == title)
        next(action for action in menu.actions() if action.text() == titles[-1]).trigger()

    choose(playing.menus.pad_menu(0), "Repeat the drums", "1/16 triplet")
    assert playing.surfaces.surface.name == "my-surface", "the map that ships is copied first"
    assert (surface_folder() / "my-surface.json").exists()
    pad = playing.surfaces.surface.pads[0]
    assert (pad.name, pad.move.value, pad.move.material) == ("Drums 1/16 triplet", "1/16t", "drums")  # type: ignore[union-attr]
    choose(playing.menus.pad_menu(1), "Effect", "Hall, as in this version")
    move = playing.surfaces.surface.pads[1].move
    assert isinstance(move, HeldEffect)
    assert isinstance(move.effect, Hall)
    assert move.effect.amount_percent == 20.0
    choose(playing.menus.pad_menu(2), "Catch what comes")
    choose(playing.menus.pad_menu(3), "Latch")
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("Last lap", True))
    choose(playing.menus.pad_menu(4), "Rename …")
    assert playing.surfaces.surface.pads[4].name == "Last lap"
    choose(playing.menus.knob_menu(0), "Hall", "Decay")
    assert playing.surfaces.surface.knobs[0].target == EffectTarget(effect="hall", field="decay_seconds")
    choose(playing.menus.knob_menu(0), "Learn from a control surface")
    assert "Turn a knob" in playing.surfaces.status
    for value in (70, 80, 90, 95):
        surface.fader.setValue(value)
    wait(qtbot, lambda: playing.surfaces.surface.knobs[0].source == Source(kind="control", number=8, channel=1))
    choose(playing.menus.pad_menu(5), "Learn from a control surface")
    qtbot.mouseClick(surface.grid, LEFT, pos=at(surface.grid, 9))
    wait(qtbot, lambda: playing.surfaces.surface.pads[5].source == Source(kind="note", number=45, channel=1))
    assert along.settings.surface == "my-surface"


def test_a_surface_that_is_pulled_out_lets_go_of_what_it_held(
    along: Window, surface: SurfaceWindow, qtbot: QtBot
) -> None:
    grid = along.panels.playing.grid
    qtbot.mousePress(surface.grid, LEFT, pos=at(surface.grid, 3))
    wait(qtbot, lambda: grid.held == {3})
    surface.close()
    wait(qtbot, lambda: not grid.held)
    assert (
        "sequencer" in along.panels.playing.status.text() or "No control surface" in along.panels.playing.status.text()
    )


def test_recording_asks_for_the_panel_and_quantising_for_bars(short: Window) -> None:
    said: list[str] = []
    short.controllers.playing.message.connect(lambda text, _: said.append(text))
    short.run("record_take")
    short.document.set_grid("None", None)
    short.run("quantise_takes")
    assert "Play along" in said[0]
    assert "bars" in said[-1] or "note value" in said[-1]


def test_pads_stay_held_and_knobs_stay_turned_while_effects_are_added(
    along: Window, devices: Devices, qtbot: QtBot
) -> None:
    """Another effect makes other controls live; nothing that is held, turned or recorded gets lost, and nothing gets stuck."""
    document, playing, grid = along.document, along.controllers.playing, along.panels.playing.grid
    session, player = playing.session, along.play.player
    assert session is not None
    assert player is not None
    along.run("record_take")
    along.run("play")
    play_until_exact(player, devices, qtbot)
    devices.play_on(qtbot, 0.5)
    qtbot.mousePress(grid, LEFT, pos=at(grid, SILENCE))
    along.panels.playing.knobs.turned.emit(2, 0.3)
    devices.play_on(qtbot, 0.3)
    wait(qtbot, lambda: player.live.hand.held)
    before = session.controls
    wait(qtbot, lambda: any(way.last > 45.0 for way in before._ways.values()))
    hall = document.stages.colour.find("hall")
    assert hall is not None
    document.edit_stages("Echo", replace(document.stages, colour=Colour(effects=(hall, Echo(id="echo")))))
    assert session.controls is not before
    assert session.controls.value(("hall", "amount_percent")) == pytest.approx(50.0)
    wait(qtbot, lambda: SILENCE in grid.held)
    devices.play_on(qtbot, 0.3)
    qtbot.mouseRelease(grid, LEFT, pos=at(grid, SILENCE))
    devices.play_on(qtbot, 0.1)
    wait(qtbot, lambda: not player.live.hand.held)
    along.run("play")
    wait(qtbot, lambda: document.stages.moments.takes)
    assert [type(m) for m in held_in(along)] == [HeldSilence]
    (lane,) = document.stages.colour.find("hall").lanes  # type: ignore[union-attr]
    assert lane.points[0].value == pytest.approx(20.0)
    assert max(point.value for point in lane.points) == pytest.approx(50.0)


def test_a_moment_of_a_take_is_edited_like_any_other(along: Window, devices: Devices, qtbot: QtBot) -> None:
    document = along.document
    take_from(along, devices, qtbot, 1)
    (repeat,) = held_in(along)
    along.open_panel("moments")
    along.controllers.moments.choose(repeat.id)
    page = along.panels.moments.forms.currentWidget()
    page.changed.emit("value", "1/16")  # type: ignore[attr-defined]
    moved = replace(held_in(along)[0], start=Position(beat=8.0), end=Position(beat=9.0))
    document.edit_stages("Move", replace(document.stages, moments=document.stages.moments.with_changed(moved)))
    (changed,) = held_in(along)
    assert isinstance(changed, HeldRepeat)
    assert (changed.value, changed.start.beat, changed.take) == ("1/16", 8.0, repeat.take)
