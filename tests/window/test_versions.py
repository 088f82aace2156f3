"""Versions: stages and effects go over the clipboard from one to another, and they are marked and noted."""

import os
import subprocess
import sys
from pathlib import Path

import pytest
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QInputDialog
from pytestqt.qtbot import QtBot

from latespin.desktop.shell.main_window import Window
from latespin.desktop.shell.version_list import FIRST_CARDS
from latespin.jobs import Work
from latespin.media.track import Track
from latespin.model.documents.documents import read_recipe, read_session, to_json
from latespin.model.effects.effects import Gain, Vinyl
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering import measure
from tests.window.conftest import RATE, wait
from tests.window.test_trust import open_song

COPY, PASTE = Qt.Key.Key_C, Qt.Key.Key_V
CONTROL_SHIFT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def two(window: Window, qtbot: QtBot, tmp_path: Path) -> Window:
    """A song in two versions; the first has effects and an ending, the second is plain and chosen."""
    open_song(window, qtbot, tmp_path / "first.wav")
    effects = Colour(effects=(Vinyl(id="v"), Gain(id="g", gain_db=-6.0)))
    way = RingOut(at=Position(seconds=3.0), decay_seconds=1.5)
    window.document.edit_stages("Start", Stages(time=Time(speed=0.9), colour=effects, ending=Ending(way=way)))
    window.document.add_version("Plain", Stages())
    return window


def names(window: Window) -> list[str]:
    """The versions, in order."""
    return [version.id for version in window.document.session.versions]


def test_a_stage_goes_to_another_version_and_back_by_undo(two: Window, qtbot: QtBot) -> None:
    document = two.document
    first, plain = names(two)
    document.choose(first)
    source = document.stages
    two.open_panel("colour")
    qtbot.keyClick(two, COPY, CONTROL_SHIFT)
    assert "Effects" in two.notice.label.text()
    document.choose(plain)
    two.open_panel("time")
    qtbot.keyClick(two, PASTE, CONTROL_SHIFT)
    assert document.stages == replace(Stages(), colour=source.colour)
    assert two.panels.currentWidget() is two.panels.pages["colour"], "what was pasted is shown"
    document.undo()
    assert document.stages == Stages()
    assert read_recipe(QApplication.clipboard().text().encode(), "text").stages.colour == source.colour


def test_one_effect_is_added_beside_those_that_are_there(two: Window) -> None:
    document = two.document
    first, plain = names(two)
    document.choose(first)
    two.open_panel("colour")
    two.controllers.effects.choose("g")
    two.run("copy_effect")
    document.choose(plain)
    for _ in range(2):
        two.run("paste_stage")
    effects = document.stages.colour.effects
    assert [(type(effect), effect.gain_db) for effect in effects] == [(Gain, -6.0), (Gain, -6.0)]
    assert effects[0].id != effects[1].id
    assert two.panels.colour.chosen == effects[1].id


def test_on_another_song_an_ending_looks_for_its_place_anew(two: Window, qtbot: QtBot, tmp_path: Path) -> None:
    document = two.document
    document.choose(names(two)[0])
    two.open_panel("ending")
    two.run("copy_stage")
    document.choose(names(two)[1])
    two.run("paste_stage")
    assert document.stages.ending.way.at == Position(seconds=3.0), "on the same song it stays"
    document.forget_changes()
    open_song(two, qtbot, tmp_path / "second.wav", seconds=6.0)
    two.run("paste_stage")
    assert document.stages.ending.way == RingOut(at=None, decay_seconds=1.5)


def test_what_cannot_be_copied_or_pasted_is_said(two: Window) -> None:
    QApplication.clipboard().setText("a shopping list")
    before = two.document.stages
    two.run("paste_stage")
    assert "No stage was copied" in two.notice.label.text()
    assert two.document.stages == before
    two.open_panel("grid")
    two.run("copy_stage")
    assert "belong to the song" in two.notice.label.text()
    two.panels.colour.chosen = ""
    two.run("copy_effect")
    assert "no effect to copy" in two.notice.label.text()


def test_a_version_is_marked_as_a_favourite_and_noted(
    two: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Drawn on its card, said in its tip, undone, and kept in the session."""
    document, card = two.document, two.version_list.cards[names(two)[1]]
    plain = card.grab().toImage()
    qtbot.keyClick(two, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier)
    assert document.version.favourite  # type: ignore[union-attr]
    monkeypatch.setattr(QInputDialog, "getMultiLineText", lambda *_: ("for the last lap", True))
    two.run("note")
    assert document.version.note == "for the last lap"  # type: ignore[union-attr]
    assert "A favourite." in card.toolTip()
    assert "for the last lap" in card.toolTip()
    assert card.grab().toImage() != plain
    assert document.save(tmp_path / "kept.latespin")
    saved = read_session((tmp_path / "kept.latespin").read_bytes(), "kept").versions[1]
    assert (saved.favourite, saved.note) == (True, "for the last lap")
    for _ in range(2):
        document.undo()
    assert not document.version.favourite  # type: ignore[union-attr]
    assert "favourite" not in card.toolTip()


def test_cards_of_many_versions_come_a_few_at_a_time_and_the_chosen_one_is_scrolled_to(
    two: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    document = two.document
    first = document.session.versions[0]
    many = tuple(replace(first, id=f"v{n}", name=f"Lap {n}") for n in range(40))
    path = tmp_path / "many.latespin"
    path.write_bytes(to_json(replace(document.session, versions=many, chosen="v33")))
    counts = []
    document.session_changed.connect(lambda: counts.append(len(two.version_list.cards)))
    document.forget_changes()
    two.files.open_file(path)
    wait(qtbot, lambda: document.session.chosen == "v33")
    assert counts[0] <= FIRST_CARDS < len(many)
    cards, rows = two.version_list.cards, two.version_list._rows
    wait(qtbot, lambda: len(cards) == len(many))
    assert [rows.itemAt(place).widget().version.id for place in range(len(many))] == names(two)  # type: ignore[union-attr]
    wait(qtbot, lambda: not cards["v33"].visibleRegion().isEmpty())
    document.delete_version("v33")
    assert "v33" not in cards


def test_the_window_is_built_without_anything_that_computes() -> None:
    """Loading it takes half a second and longer, in which the window could not be used."""
    code = (
        "import sys; from latespin.desktop import app as a; app = a.make_app(); window = a.Window(a.load_settings()); window.show()\n"
        "window.finish_building(); print({'numba', 'scipy', 'soundfile', 'av', 'mido'} & set(sys.modules)); window.work.close()"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=environment)
    assert done.stdout.strip() == "set()"


def test_a_program_with_something_copied_ends_without_a_crash() -> None:
    code = (
        "from latespin.desktop import app as a; app = a.make_app(); window = a.Window(a.load_settings()); window.finish_building()\n"
        "window.document.add_version('Plain', Stages()); window.open_panel('time'); window.run('copy_stage'); window.work.close()\n"
        "print(len(app.clipboard().text()) > 100)"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    code = "from latespin.model.version import Stages\n" + code
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False, env=environment)
    assert (done.returncode, done.stdout.strip()) == (0, "True"), done.stderr


def test_a_version_that_does_not_go_by_bars_is_measured_once_though_its_song_is_read_meanwhile(
    window: Window, qtbot: QtBot, lantern: Track, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun = []
    real = measure.measure

    def counted(readers: TrackRenderer, stages: Stages, work: Work) -> measure.Measured:
        begun.append(stages)
        return real(readers, stages, work)

    monkeypatch.setattr(measure, "measure", counted)
    soundfile.write(tmp_path / "song.flac", lantern.sound[:, : 40 * RATE].T, RATE)
    window.files.open_file(tmp_path / "song.flac")
    wait(qtbot, lambda: window.document.reading and window.document.measured())
    assert begun.count(window.document.stages) == 1


def test_waveforms_of_cards_are_drawn_when_they_are_seen_and_on_one_scale(short: Window, qtbot: QtBot) -> None:
    """Of sixty versions those in view; the longest sets the scale for all."""
    document, cards = short.document, short.version_list.cards
    for number in range(57):
        document.add_version(f"Lap {number}", Stages(time=Time(speed=1.0 + 0.01 * number)))
    qtbot.wait(400)
    drawn = [ident for ident, card in cards.items() if card._picture is not None]
    assert 3 <= len(drawn) < 30
    document.choose(document.session.versions[0].id)
    qtbot.wait(400)
    first = cards[document.session.versions[0].id]

    def ink() -> int:
        """Columns of the waveform that are drawn."""
        picture = first._picture.toImage()
        return sum(picture.pixelColor(x, picture.height() // 2).alpha() > 0 for x in range(picture.width()))

    before = ink()
    document.edit_stages("Slower", replace(document.stages, time=replace(document.stages.time, speed=0.5)))
    wait(qtbot, lambda: ink() > before)
