"""Knobs by mouse, wheel and keys; maps that are kept, exchanged and refused; learning that is stopped; MIDI clock; the tempo."""

import time
from pathlib import Path

import mido
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QInputDialog, QMenu
from pytestqt.qtbot import QtBot

from latespin.desktop.shell.main_window import Window
from latespin.media.storage.config import load_surface, surface_folder
from latespin.model.effects.effects import Hall
from latespin.model.moments.held import HeldReverse, HeldTempo
from latespin.model.moments.moments import Moments
from latespin.model.playing.surface_map import practice_map, to_json
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages
from tests.window.conftest import GRID, Devices, wait
from tests.window.test_playing import LEFT, held_in

TEMPO, HALL, REPEAT = 6, 2, 7


def knob_at(window: Window, number: int) -> QPoint:
    """The middle of a knob."""
    return window.panels.playing.knobs.knob_rect(number).center().toPoint()


def test_knobs_are_turned_by_drag_wheel_and_keys(along: Window, qtbot: QtBot) -> None:
    knobs = along.panels.playing.knobs
    place = knob_at(along, HALL)

    def share() -> float:
        wait(qtbot, lambda: knobs.shown[HALL].share is not None)
        along.controllers.playing._show_knobs()
        return knobs.shown[HALL].share  # type: ignore[return-value]

    assert share() == pytest.approx(0.2)
    qtbot.mousePress(knobs, LEFT, pos=place)
    qtbot.mouseMove(knobs, place - QPoint(0, 40))
    qtbot.mouseRelease(knobs, LEFT, pos=place)
    assert share() == pytest.approx(0.45, abs=0.01)
    event = QWheelEvent(
        QPointF(place), QPointF(knobs.mapToGlobal(place)), QPoint(), QPoint(0, -240), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(knobs, event)
    assert share() == pytest.approx(0.40, abs=0.01)
    knobs.setFocus()
    assert knobs.chosen == HALL
    qtbot.keyClick(knobs, Qt.Key.Key_Up)
    assert share() == pytest.approx(0.425, abs=0.01)
    qtbot.keyClick(knobs, Qt.Key.Key_Right)
    assert knobs.chosen == HALL + 1
    wait(qtbot, lambda: along.document.stages.colour.find("hall").amount_percent == pytest.approx(42.5, abs=1.0))  # type: ignore[union-attr]


def test_the_tempo_is_ridden_recorded_and_makes_the_version_longer(
    along: Window, devices: Devices, qtbot: QtBot
) -> None:
    document = along.document
    length = document.time_map().after_frames  # type: ignore[union-attr]
    along.run("record_take")
    along.run("play")
    devices.play_on(qtbot, 0.5)
    along.panels.playing.knobs.turned.emit(TEMPO, -0.25)
    devices.play_on(qtbot, 1.0)
    assert along.panels.playing.knobs.shown[TEMPO].text == "−4.0\u00a0%"
    along.run("play")
    wait(qtbot, lambda: held_in(along))
    (ride,) = held_in(along)
    assert isinstance(ride, HeldTempo)
    assert ride.points[-1].percent == pytest.approx(-4.0)
    longer = document.time_map().after_frames - length  # type: ignore[union-attr]
    assert 0.02 * 44_100 < longer < 0.2 * 44_100
    wait(qtbot, lambda: along.panels.playing.knobs.shown[TEMPO].text == "0.0\u00a0%")


def test_the_length_of_a_held_repeat_is_turned(along: Window, devices: Devices, qtbot: QtBot) -> None:
    along.run("record_take")
    along.run("play")
    devices.play_on(qtbot, 1.5)
    along.panels.playing.grid.pressed.emit(0)
    devices.play_on(qtbot, 0.3)
    along.panels.playing.knobs.turned.emit(REPEAT, 0.6)
    devices.play_on(qtbot, 0.3)
    assert along.panels.playing.knobs.shown[REPEAT].text == "1/16"
    along.panels.playing.grid.released.emit(0)
    devices.play_on(qtbot, 0.2)
    along.run("play")
    wait(qtbot, lambda: len(held_in(along)) == 2)
    long, short = held_in(along)
    assert [long.value, short.value] == ["1/4", "1/16"]  # type: ignore[attr-defined]
    first = [m.start.beat - m.back * beats for m, beats in ((long, 1.0), (short, 0.25))]  # type: ignore[attr-defined, operator]
    assert first[0] == pytest.approx(first[1], abs=0.01), "it begins where it began"


def test_maps_are_kept_under_a_name_exported_imported_and_refused(
    along: Window,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    surfaces, said = along.controllers.playing.surfaces, []
    surfaces.message.connect(lambda text, _: said.append(text))
    menu = QMenu(along)

    def choose(title: str) -> None:
        surfaces.fill(menu)
        next(action for action in menu.actions() if action.text() == title).trigger()

    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("The rink", True))
    choose("Keep this map as …")
    assert surfaces.surface.title == "The rink"
    assert load_surface("the-rink") == surfaces.surface
    choose("Keep this map as …")
    assert "the-rink" in said[-1], "it is there already, and not overwritten"
    file = tmp_path / "passed on.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    choose("Export this map …")
    assert file.read_bytes() == to_json(surfaces.surface)
    choose("Practice surface")
    assert along.settings.surface == "practice"
    (surface_folder() / "the-rink.json").unlink()
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    choose("Import a map …")
    assert surfaces.surface.name == "the-rink"
    file.write_text("{}")
    choose("Import a map …")
    assert "not a map of a control surface" in said[-1]
    surfaces.use(practice_map())


def test_a_map_that_cannot_be_read_is_said_and_the_users_maps_are_left_alone(
    short: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A damaged map of one's own: the practice map plays, and changing that makes another map."""
    (tmp_path / "run").mkdir(mode=0o700)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path / "run"))
    damaged = surface_folder() / "my-surface.json"
    damaged.parent.mkdir(parents=True)
    damaged.write_text("{}")
    surfaces, said = short.controllers.playing.surfaces, []
    surfaces.message.connect(lambda text, error: said.append((text, error)))
    surfaces.surface = surfaces._load("my-surface")
    short.run("play_along")
    ((text, error),) = said
    assert error
    assert "my-surface.json" in text
    assert "practice surface is used instead" in text
    for title in ("My surface 2", "My surface 3"):
        surfaces.use(practice_map())
        surfaces.change(practice_map().with_knob(0, practice_map().knobs[1]))
        assert surfaces.surface.title == title
    surfaces.change(surfaces.surface.with_knob(0, practice_map().knobs[2]))
    assert surfaces.surface.title == "My surface 3", "one's own is changed where it is"
    assert damaged.read_text() == "{}"


def test_learning_is_stopped_by_escape_and_learns_nothing_from_what_says_nothing(
    along: Window,
    qtbot: QtBot,
) -> None:
    surfaces, panel, said = along.controllers.playing.surfaces, along.panels.playing, []
    surfaces.message.connect(lambda text, _: said.append(text))
    along.play.mark((1.0, 2.0))
    surfaces.learn(3, knob=False)
    assert "Press a pad" in panel.status.text()
    qtbot.keyClick(panel.grid, Qt.Key.Key_Escape)
    assert not surfaces.learning
    assert along.play.marked == (1.0, 2.0), "Escape did nothing else"
    surfaces.learn(3, knob=False)
    surfaces._hear("x", mido.Message("pitchwheel", pitch=5))
    wait(qtbot, lambda: said)
    assert "nothing that can be learnt" in said[-1]
    assert surfaces.surface == practice_map()


def test_the_tempo_follows_midi_clock_where_that_is_wanted(along: Window, qtbot: QtBot) -> None:
    surfaces, document = along.controllers.playing.surfaces, along.document
    surfaces._follow_clock()
    now = time.monotonic()
    clock = surfaces._clock
    assert clock is not None
    for i in range(49):
        clock.tick(now + (i - 48) * 60.0 / 100.0 / 24.0)
    wait(qtbot, lambda: document.stages.time.speed == pytest.approx(100.0 / 92.0, abs=0.002))


def test_held_moments_are_placed_by_hand_and_quantised_from_the_menu(along: Window) -> None:
    document, settings = along.document, along.settings
    settings.quantise, settings.quantise_strength = "1/4", 50.0
    move = HeldReverse(id="r", start=Position(beat=4.4), end=Position(beat=5.4))
    document.edit_stages("Start", Stages(moments=Moments(placed=(move,)), colour=Colour(effects=(Hall(id="hall"),))))
    along.open_panel("moments")
    along.controllers.moments.choose("r")
    along.run("quantise_moments")
    assert held_in(along)[0].start.beat == pytest.approx(4.2)
    assert GRID.bpm == 92.0
    along.run("undo")
    assert held_in(along)[0].start.beat == 4.4


def test_what_is_heard_while_a_pad_is_held_is_not_the_song(along: Window, qtbot: QtBot, devices: Devices) -> None:
    """A pad that mutes, latched: silence until the second press."""
    grid = along.panels.playing.grid
    along.panels.playing.latch.click()
    assert all(pad.latched for pad in along.controllers.playing.surfaces.surface.pads)
    along.run("play")
    devices.play_on(qtbot, 0.5)
    for pressed in (True, False):
        qtbot.mouseClick(grid, LEFT, pos=grid.pad_rect(15).center().toPoint())
        wait(qtbot, lambda on=pressed: (15 in grid.held) == on)
        devices.play_on(qtbot, 0.2)
        devices.last.forget()
        devices.play_on(qtbot, 0.2)
        heard = devices.last.played()
        assert bool(heard.any()) != pressed
