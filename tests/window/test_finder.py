"""Finding commands, recipes, effects and settings by words of the trade, and the keys of a panel."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from latespin.desktop.dialogs.finder import Finder
from latespin.desktop.session.search import Entry, folded, matching
from latespin.desktop.shell.finder import synonyms
from latespin.desktop.shell.finder.entries import entries_of, keys_of
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Hall
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import ENDINGS
from latespin.model.values.kinds import kind_of
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Level, Time
from latespin.render.recipes import shipped_recipes
from tests.window.conftest import wait


def opened(window: Window, qtbot: QtBot, command: str = "find") -> Finder:
    """The list over the window."""
    window.run(command)
    wait(qtbot, lambda: any(child.isVisible() for child in window.findChildren(Finder)))
    return next(child for child in window.findChildren(Finder) if child.isVisible())


def titles(window: Window, typed: str) -> list[str]:
    """What is found, the best first."""
    return [entry.title for entry in matching(entries_of(window), typed)]


def test_every_synonym_is_of_something_that_exists(window: Window) -> None:
    names = {
        "COMMANDS": {command.ident for command in window.commands.commands},
        "RECIPES": {recipe.name for recipe in shipped_recipes()},
        "EFFECTS": set(EFFECTS), "MOMENTS": set(MOMENTS), "ENDINGS": set(ENDINGS),
        "PARAMETERS": {field for kind in (*EFFECTS.values(), Time, Level) for field in parameters_of(kind)},
    }  # fmt: skip
    for table, known in names.items():
        for language in (synonyms, *synonyms.OTHERS.values()):
            assert set(getattr(language, table)) <= known, table


def test_words_of_the_trade_find_what_they_mean(demo: Window) -> None:
    for typed, first in (
        ("reverb", {"Slowed + reverb", "Hall", "Convolution reverb"}), ("8d", {"8D spin"}), ("nightcore", {"Sped up"}),
        ("daycore", {"Slowed + reverb"}), ("vinyl brake", {"Tape stop", "Tape-stop ending"}), ("censor", {"Clean edit", "Cover"}),
        ("lufs", {"Loudness"}), ("metronome", {"Click on every beat"}), ("mp4", {"Export a video"}), ("delay", {"Echo"}),
        ("fade out", {"Fade"}), ("hall dec", {"Hall: Decay"}), ("transpose", {"Transpose"}), ("locked groove", {"Stuck record"}),
    ):  # fmt: skip
        found = titles(demo, typed)
        assert found, typed
        assert found[0].split(" “")[0] in first or set(found[:3]) & first, (typed, found[:5])


def test_german_words_find_what_they_mean_and_english_ones_too(german: None, demo: Window) -> None:
    for typed, first in (
        ("nachhall", {"Langsam + Hall", "Hall"}), ("bandstopp", {"Tape-Stop"}), ("rückwärts", {"Rückwärts"}), ("ausblenden", {"Ausblenden"}),
        ("metronom", {"Klick auf jedem Beat"}), ("reverb", {"Hall"}), ("nightcore", {"Sped up"}), ("schneller", {"Geschwindigkeit"}),
        ("lautheit", {"Lautheit"}), ("hänger", {"Hängende Platte"}),
    ):  # fmt: skip
        assert set(titles(demo, typed)[:6]) & first, typed
    assert not titles(demo, "tonhoehenverstellung")


def test_everything_declared_is_found_by_its_own_name_first(demo: Window) -> None:
    """All commands of the menus, recipes, effects, moments, endings and parameters; names that several things have give all of them."""
    entries = entries_of(demo)
    for entry in entries:
        same = [other for other in entries if folded(other.title) == folded(entry.title)]
        assert matching(entries, entry.title)[: len(same)] == same or set(
            matching(entries, entry.title)[: len(same)]
        ) == set(same)
    for recipe in shipped_recipes():
        assert any(entry.title == recipe.title for entry in entries)


@given(typed=st.text(max_size=12), words=st.lists(st.text("abcdeé Ä.8", max_size=8), min_size=1, max_size=6))
def test_searching_never_fails_and_only_finds_what_holds_every_word(typed: str, words: list[str]) -> None:
    entries = [Entry(word, "detail", lambda: None) for word in words]
    found = matching(entries, typed)
    assert set(found) <= set(entries)
    for entry in found:
        assert all(part in folded(f"{entry.title} detail") for part in folded(typed).split())
    assert matching(entries, words[0].upper()) == matching(entries, words[0])


def test_a_setting_is_found_with_the_keyboard_alone(demo: Window, qtbot: QtBot) -> None:
    """Ctrl+K, a few letters, Return: the panel is open, the effect chosen, its control has the focus; Escape changes nothing."""
    hall = next(effect for effect in demo.document.stages.colour.effects if isinstance(effect, Hall))
    finder = opened(demo, qtbot)
    qtbot.keyClicks(finder.line, "hall decay")
    assert finder.chosen is not None
    assert finder.chosen.title == "Hall: Decay"
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert demo.panel_commands.panel == "colour"
    assert demo.panels.colour.chosen == hall.id
    focused = QApplication.focusWidget()
    assert isinstance(focused, ValueBar)
    assert focused.parameter is parameters_of(Hall)["decay_seconds"] or focused.parameter.label == "Decay"
    before = demo.document.session
    finder = opened(demo, qtbot)
    qtbot.keyClicks(finder.line, "zzz")
    assert finder.chosen is None
    assert "zzz" in finder._nothing.text()
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert finder.isVisible(), "there is nothing to do"
    qtbot.keyClick(finder.line, Qt.Key.Key_Escape)
    assert demo.document.session == before


def test_arrow_keys_choose_and_what_is_missing_is_added(demo: Window, qtbot: QtBot) -> None:
    versions = len(demo.document.session.versions)
    finder = opened(demo, qtbot)
    qtbot.keyClicks(finder.line, "sped")
    qtbot.keyClick(finder.line, Qt.Key.Key_Down)
    qtbot.keyClick(finder.line, Qt.Key.Key_Up)
    qtbot.keyClick(finder.line, Qt.Key.Key_Return)
    assert len(demo.document.session.versions) == versions + 1
    assert demo.document.stages.time.speed > 1.0
    for typed, kind in (("bitcrush", "crush"), ("ping pong", "echo")):
        finder = opened(demo, qtbot)
        finder.line.setText(typed)
        qtbot.keyClick(finder.line, Qt.Key.Key_Return)
        assert any(kind_of(effect) == kind for effect in demo.document.stages.colour.effects)
    finder = opened(demo, qtbot)
    finder.line.setText("ring-out")
    entry = next(e for e in entries_of(demo) if e.title == "Ring-out" and "Ending" in e.detail)
    entry.run()
    finder.reject()
    assert kind_of(demo.document.stages.ending.way) == "ring-out"


def test_without_a_song_only_what_works_is_found(window: Window) -> None:
    assert titles(window, "open song")
    assert not titles(window, "undo")
    assert not titles(window, "reverb")


@pytest.mark.parametrize(
    ("panel", "first"),
    [("moments", "Nudge the chosen moment"), ("grid", "Click on every beat"), ("colour", "Nudge the chosen point")],
)
def test_the_keys_of_the_panel_come_first(demo: Window, qtbot: QtBot, panel: str, first: str) -> None:
    demo.open_panel(panel)
    entries = keys_of(demo)
    assert entries[0].title.startswith(first)
    shown = {entry.keys for entry in entries}
    declared = {command.shortcuts[0] for command in demo.commands.commands if command.menu and command.shortcuts}
    enabled = {
        c.shortcuts[0]
        for c in demo.commands.commands
        if c.menu and c.shortcuts and demo.actions_by_name[c.ident].isEnabled()
    }
    assert len(shown) >= len(enabled) - 1
    assert len(declared) > 20
    finder = opened(demo, qtbot, "panel_keys")
    assert finder.list.count() > 20
    finder.reject()
