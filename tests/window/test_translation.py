"""A made-up language, 1.4 times as long: every text goes through it, and no layout cuts the longer words."""

import ast
import math
import string
from collections.abc import Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QTranslator
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QMenu, QWidget
from pytestqt.qtbot import QtBot
from tools.visible_texts import DESKTOP, bare_errors, bare_texts

from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.dialogs.recipes import RecipeDialog
from latespin.desktop.plots.effect_plot import EffectPlot
from latespin.desktop.shell.main_window import Window
from latespin.desktop.theme.theme import STAGES
from latespin.desktop.translation import CONTEXT, LANGUAGES, tr, translated
from latespin.desktop.widgets.elided_label import ElidedLabel
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.values.parameters import parameters_of
from tests.window.conftest import choose

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


def tips(root: QWidget) -> list[str]:
    """Tooltips and accessible names of the controls below."""
    controls = [
        w for w in root.findChildren(QWidget) if isinstance(w, QAbstractButton | ValueBar | QComboBox | EffectPlot)
    ]
    return [
        text
        for w in controls
        for text in (w.toolTip(), w.accessibleName())
        if sum(map(str.isalpha, text)) >= LEAST_LETTERS
    ]


def cut(widget: QWidget) -> bool:
    """Whether its words need more room than it has, and are not cut on purpose."""
    if isinstance(widget, ElidedLabel):
        return False
    if isinstance(widget, QLabel) and widget.wordWrap():
        return widget.heightForWidth(widget.width()) > widget.height()
    return widget.sizeHint().width() > widget.width()


def test_panels_speak_the_language_and_cut_nothing(long_language: None, read: Window, qtbot: QtBot) -> None:
    read.resize(1280, 800)
    for panel in (*STAGES, "grid"):
        read.open_panel(panel)
        shown = read.panels.currentWidget()
        assert shown is not None
        qtbot.waitUntil(lambda shown=shown: shown.isVisible() and shown.height() > 0)
        values = {
            widget.text() for widget in shown.findChildren(QAbstractButton) if isinstance(widget.parent(), InlineEdit)
        }
        assert [text for _, text in texts(shown) if MARK not in text and text not in values] == []
        assert [tip for tip in tips(shown) if MARK not in tip] == []
        assert [text for widget, text in texts(read) if widget.isVisible() and cut(widget)] == []
    for name in ("time", "colour", "moments", "ending"):
        assert MARK in read.stage_row.cards[name].sentence
    assert read.width() <= LAPTOP


def test_menus_bars_and_dialogs_speak_it_too(long_language: None, read: Window) -> None:
    entries = [a for menu in read.findChildren(QMenu) for a in menu.actions() if a.text() and not a.isSeparator()]
    files = {action.text() for action in read.recent_menu.actions()} | set(LANGUAGES.values())
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


def test_steps_of_undo_are_named_in_the_language_by_the_labels_of_what_was_changed(
    long_language: None, five: Window
) -> None:
    choose(five, "Wheels overhead")
    five.open_panel("colour")
    document = five.document
    for change, words in (
        (lambda: five.controllers.effects.change("keep_level", False), "keep level"),
        (lambda: five.controllers.effects.change("amount_percent", 12.0), "amount"),
        (lambda: five.versions.switch_stage("colour", False), "Effects"),
        (lambda: document.rename_version(document.session.chosen, "Third lap"), "Rename version"),
        (lambda: five.run("double"), "Double the beats"),
    ):
        before = document.undo_label
        change()
        assert document.undo_label != before
        assert words in document.undo_label
        assert MARK in document.undo_label


def test_no_visible_literal_bypasses_translation(tmp_path: Path) -> None:
    bare = {f"{path.name}:{line}" for path in DESKTOP.rglob("*.py") for line, _ in bare_texts(path)}
    assert bare == set()
    module = tmp_path / "made_up.py"
    module.write_text(
        'RENTAL = "Skate rental, translated where it is shown"\n'
        "def show(label, n: 'Pairs of skates'):\n"
        '    """Nobody reads this in the window."""\n'
        "    label.setText(f'{n} pairs left')\n"
        "    label.setToolTip(tr('Pairs') if n else 'No pairs')\n"
        "    words = 'Closed early'\n"
        "    label.setStyleSheet('QLabel { color: red }')\n"
        "    label.setText(tr('Open until {0}').format(words))\n"
        "    log.debug('Closed early')\n"
        "    if words == 'Closed early' or TABLE['All of them']:\n"
        "        raise ValueError('Closed early')\n"
        "    return 'All of them are out.' if n else 'LUFS'\n"
    )
    assert sorted(line for line, _ in bare_texts(module)) == [4, 5, 6, 12]


def test_every_error_goes_through_the_translation() -> None:
    """The command line's own are English."""
    modules = [path for path in DESKTOP.parent.rglob("*.py") if "cli" not in path.parts]
    assert [f"{path.name}:{line}: {ast.unparse(node)}" for path in modules for line, node in bare_errors(path)] == []


def placeholders(text: str) -> set[int]:
    """The numbers of the placeholders in a text."""
    return {int(name.split(".")[0].split("[")[0]) for _, name, _, _ in string.Formatter().parse(text) if name}


def test_each_placeholder_gets_its_value_and_no_text_is_put_together_before_it_is_translated() -> None:
    """``tr("… {0}").format(value)``: a value per placeholder, and a literal text, which a translator can find."""
    seen = 0
    for path in DESKTOP.rglob("*.py"):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        formatted = {id(n.func.value): n for n in ast.walk(tree) if is_format(n)}
        for node in ast.walk(tree):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "tr":
                (text,) = node.args
                assert not isinstance(text, ast.JoinedStr), f"{path.name}:{node.lineno} translates an f-string"
                if isinstance(text, ast.Constant) and id(node) in formatted:
                    values = len(formatted[id(node)].args)
                    assert placeholders(text.value) == set(range(values)), f"{path.name}:{node.lineno}"
                    seen += 1
                elif isinstance(text, ast.Constant):
                    assert "{0}" not in text.value, f"{path.name}:{node.lineno} is never filled"
    assert seen > 60


def is_format(node: ast.AST) -> bool:
    """Whether a node calls ``format`` of something."""
    return isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "format"
