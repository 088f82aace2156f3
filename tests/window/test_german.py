"""German: every text is translated, fits, and reaches the window with its numbers and keys."""

import re
from pathlib import Path

import msgspec
import pytest
from PySide6.QtCore import Qt, QTranslator
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QDialog,
    QLabel,
    QLineEdit,
    QMenu,
    QTableWidget,
)
from pytestqt.qtbot import QtBot
from tools.catalogue import FOLDER, gathered, translations_in

from latespin.desktop.shell.main_window import Window
from latespin.desktop.translation import CONTEXT, LANGUAGES, language_for, tr
from latespin.errors import LateSpinError
from latespin.language import localised
from latespin.media.track import open_track
from latespin.model.documents.documents import Recipe, read_session, read_what_can_be, to_json
from latespin.model.effects.effects import Echo, Hall
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import parse_place, parse_span, say_place, say_span
from latespin.model.timing.tempo_curve import CurvePoint, check_curve
from latespin.model.values.key_names import key_names, parse_key
from latespin.model.values.units import clock, parse_value, with_unit
from latespin.model.version import Colour, Stages, Time
from tests.window.conftest import wait

PLACEHOLDER = re.compile(r"\{[^}]*\}")
CODES = list(LANGUAGES)[1:]


@pytest.mark.parametrize("code", CODES)
def test_every_text_is_translated_as_it_is_built(code: str, qapp: QApplication) -> None:
    """With the same placeholders, a letter for the keyboard, dots that promise a dialog, and spaces; and the compiled file is this one."""
    spoken = translations_in(FOLDER / f"latespin_{code}.ts")
    texts = gathered()
    assert sorted(set(texts) - set(spoken)) == [], "python -m tools.catalogue lists new texts; translate them"
    assert sorted(set(spoken) - set(texts)) == []
    compiled = QTranslator()
    assert compiled.load(str(FOLDER / f"latespin_{code}.qm"))
    for text in texts:
        other = spoken[text]
        assert sorted(PLACEHOLDER.findall(other)) == sorted(PLACEHOLDER.findall(text)), text
        assert (text.count("&"), text.endswith("…"), text[:1].isspace(), text[-1].isspace()) == (
            other.count("&"), other.endswith("…"), other[:1].isspace(), other[-1].isspace(),
        ), text  # fmt: skip
        assert ("\n" in text) == ("\n" in other), text
        assert compiled.translate(CONTEXT, text) == other


def test_the_window_speaks_german_with_a_letter_for_each_entry_of_its_menus(
    german: None, demo: Window, qtbot: QtBot
) -> None:
    english = {text for text, other in translations_in(FOLDER / "latespin_de.ts").items() if text != other}
    songs = {version.name for version in demo.document.session.versions}
    for panel in ("time", "colour", "moments", "ending", "level", "grid", "playing"):
        demo.open_panel(panel)
        qtbot.wait(20)
        for kind in (QLabel, QAbstractButton):
            for widget in demo.findChildren(kind):
                assert widget.text() not in english - songs, f"{panel}: {widget.text()}"
                assert widget.toolTip() not in english
                assert widget.accessibleName() not in english - songs
    for command in ("export", "export_video", "recipes", "batch", "find", "compare", "about"):
        demo.run(command)
        wait(qtbot, lambda: any(child.isVisible() for child in demo.findChildren(QDialog)))
        dialog = next(child for child in demo.findChildren(QDialog) if child.isVisible())
        said = [widget.text() for kind in (QLabel, QAbstractButton) for widget in dialog.findChildren(kind)]
        said += [line.placeholderText() for line in dialog.findChildren(QLineEdit)]
        for box in dialog.findChildren(QComboBox):
            said += [box.itemText(i) for i in range(box.count())]
        for view in dialog.findChildren(QAbstractItemView):
            model = view.model()
            said += [model.index(row, 0).data() or "" for row in range(model.rowCount())]
            if isinstance(view, QTableWidget):
                said += [str(model.headerData(i, Qt.Orientation.Horizontal)) for i in range(model.columnCount())]
        assert {text for text in said if text in english - songs} == set()
        dialog.reject()
    assert demo.header.after["total"].text() == "2:00,0"
    assert demo.header.after["key"].text().startswith("A-Dur")
    assert demo.header.after["loudness"].text().split() == ["−14,0", "LUFS"]
    for menu in (*demo.findChildren(QMenu), demo.menuBar()):
        letters = [re.search("&(.)", action.text()) for action in menu.actions()]
        found = [match[1].casefold() for match in letters if match]
        assert sorted(found) == sorted(set(found)), menu.actions()[0].text()


def test_keys_and_numbers_are_written_and_understood(german: None) -> None:
    for name, key in key_names().items():
        assert parse_key(tr(name)) == key
    assert (tr("B♭ major"), tr("B minor"), tr("C♯ minor")) == ("B-Dur", "h-Moll", "cis-Moll")
    assert (with_unit(-2.5, "dB", 1), clock(61.25, 2)) == ("−2,5\u00a0dB", "1:01,25")
    grid = Grid(bpm=120.0, beats_per_bar=4)
    for text in ("Takt 17.3.08", "1:02,345"):
        assert say_place(parse_place(text, grid), grid) == text
    for text in ("2 Takte", "3 Beats", "2,25 Beats", "1,5 s"):
        assert say_span(parse_span(text, grid), grid).split() == text.split()
    assert parse_value("0,85", "×") == parse_value("0.85", "×") == 0.85


def test_errors_of_the_core_are_german_with_german_numbers(german: None, tmp_path: Path) -> None:
    empty, text = tmp_path / "leer.wav", tmp_path / "bahn.wav"
    empty.touch()
    text.write_text("kein Ton")
    session = {"format": "late-spin session", "format_version": 99}
    curve = (CurvePoint(place=0.5, speed=1.0), CurvePoint(place=0.25, speed=1.0))
    for fails, says in (
        (lambda: open_track(empty), "leer.wav ist leer (0 Bytes). Wählen Sie eine andere Datei."),
        (lambda: open_track(text), "bahn.wav ist keine lesbare Ton- oder Videodatei. Wählen Sie eine andere Datei."),
        (lambda: read_session(b"{", "Nacht"), "Nacht lässt sich nicht als Sitzung lesen: Das ist kein JSON ("),
        (lambda: read_session(msgspec.json.encode(session), "Nacht"), "Nacht wurde von einem neueren Late Spin"),
        (lambda: Time(speed=0.001), "speed ist 0,001 ×; möglich ist 0,03125 bis 4 ×."),
        (lambda: check_curve(curve), "Die Tempokurve geht von 0,5 auf 0,25 zurück"),
        (lambda: parse_value("schnell", "s"), "„schnell“ ist keine Zahl. Tippen Sie eine, mit oder ohne s oder"),
    ):
        with pytest.raises((LateSpinError, ValueError), match=f"^{re.escape(says)}"):
            fails()
    assert localised("44,100.5") == "44.100,5"


def test_a_recipe_keeps_its_valid_effects_in_german_too(german: None) -> None:
    """What is wrong with the others is read from the message, in any language."""
    recipe = Recipe(name="bahn", title="Bahn", stages=Stages(colour=Colour(effects=(Hall(id="a"), Echo(id="b")))))
    broken = to_json(recipe).replace(b'"decay_seconds": 3.2', b'"decay_seconds": 900.5', 1)
    recipe, (fault,) = read_what_can_be(broken, "Bahn.json")
    assert [effect.id for effect in recipe.stages.colour.effects] == ["b"]
    assert fault.startswith("Bahn.json, hall: In stages.colour.effects[0]")
    assert fault.endswith(" Das bleibt weg; das Übrige wird verwendet.")
    assert "Berichtigen" not in fault


def test_a_language_is_chosen_in_the_menu_for_the_next_start(window: Window) -> None:
    (german,) = (action for action in window.languages.menu.actions() if action.text() == "Deutsch")
    german.trigger()
    assert "next start" in window.notice.label.text()
    assert window.settings.language == "de"
    assert language_for("de") == "de"
    assert language_for("xx") in LANGUAGES
