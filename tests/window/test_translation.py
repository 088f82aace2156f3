"""A made-up language, 1.4 times as long: every text goes through it, and no layout cuts the longer words."""

import ast
import math
from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QTranslator
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QMenu, QWidget
from pytestqt.qtbot import QtBot
from tools.visible_texts import DESKTOP, bare_texts

from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.dialogs.recipes import RecipeDialog
from latespin.desktop.shell.main_window import Window
from latespin.desktop.theme.theme import STAGES
from latespin.desktop.translation import CONTEXT, tr, translated
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.values.parameters import parameters_of

MARK = "ǁ"
LONGER = 0.4
LAPTOP = 1440
LEAST_LETTERS = 3


class LongLanguage(QTranslator):
    """Each text with a mark and two fifths more letters; placeholders and mnemonics stay."""

    def isEmpty(self) -> bool:  # noqa: N802 - Qt's name
        return False

    def translate(self, context: str, text: str, disambiguation: str | None = None, n: int = -1) -> str:
        if context != CONTEXT:
            return text
        return text + MARK + "o" * (math.ceil(LONGER * len(text)) - 1)


@pytest.fixture
def long_language(qapp: QApplication) -> Iterator[None]:
    translator = LongLanguage()
    qapp.installTranslator(translator)
    yield
    qapp.removeTranslator(translator)


def texts(root: QWidget) -> Iterator[tuple[QWidget, str]]:
    """Labels and buttons with words on them."""
    for kind in (QLabel, QAbstractButton):
        for widget in root.findChildren(kind):
            if sum(c.isalpha() for c in widget.text()) >= LEAST_LETTERS:
                yield widget, widget.text()


def cut(widget: QWidget) -> bool:
    """Whether its words need more room than it has."""
    if isinstance(widget, QLabel) and widget.wordWrap():
        return widget.heightForWidth(widget.width()) > widget.height()
    return widget.sizeHint().width() > widget.width()


@pytest.mark.parametrize("panel", [*STAGES, "grid"])
def test_each_panel_speaks_the_language_and_cuts_nothing(
    long_language: None, read: Window, qtbot: QtBot, panel: str
) -> None:
    read.resize(1280, 800)
    read.open_panel(panel)
    shown = read.panels.currentWidget()
    assert shown is not None
    qtbot.waitUntil(lambda: shown.isVisible() and shown.height() > 0)
    values = {
        widget.text() for widget in shown.findChildren(QAbstractButton) if isinstance(widget.parent(), InlineEdit)
    }
    bare = [text for _, text in texts(shown) if MARK not in text and text not in values]
    assert bare == []
    assert [text for widget, text in texts(read) if widget.isVisible() and cut(widget)] == []
    assert read.width() <= LAPTOP


def test_menus_bars_and_dialogs_speak_it_too(long_language: None, read: Window) -> None:
    entries = [a for menu in read.findChildren(QMenu) for a in menu.actions() if a.text() and not a.isSeparator()]
    files = {action.text() for action in read.recent_menu.actions()}
    assert [a.text() for a in entries if MARK not in a.text() and a.text() not in files] == []
    for bar in read.findChildren(ValueBar):
        assert MARK in bar.accessibleName()
        assert MARK in bar.toolTip()
    for command, kind in (("export", ExportDialog), ("recipes", RecipeDialog)):
        read.run(command)
        (dialog,) = read.findChildren(kind)
        assert [text for widget, text in texts(dialog) if widget.isVisible() and cut(widget)] == []
        dialog.reject()


def test_declarations_are_translated_whole(long_language: None) -> None:
    for kind, effect in EFFECTS.items():
        info = translated(effect_info(kind))
        assert MARK in info.title
        assert MARK in info.summary
        for parameter in parameters_of(effect).values():
            spoken = translated(parameter)
            assert MARK in spoken.label
            assert (spoken.low, spoken.high, spoken.default) == (parameter.low, parameter.high, parameter.default)
    assert tr("") == ""


def test_no_visible_literal_bypasses_translation(tmp_path: Path) -> None:
    bare = {f"{path.name}:{line}" for path in DESKTOP.rglob("*.py") for line, _ in bare_texts(path)}
    assert bare == set()
    module = tmp_path / "made_up.py"
    module.write_text(
        "label = QLabel('Skate rental')\n"
        "label.setText(f'{n} pairs left')\n"
        "label.setToolTip(tr('Pairs') if n else 'No pairs')\n"
        "panel.message.emit('Closed early', False)\n"
        "label.setProperty('state', 'Closed early')\n"
        "def words(n):\n    return 'All of them are out.'\n"
    )
    found = [(line, ast.unparse(node)) for line, node in bare_texts(module)]
    assert [line for line, _ in sorted(found)] == [1, 2, 3, 4, 7]
