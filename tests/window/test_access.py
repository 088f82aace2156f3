"""What screen readers are told, and that the keyboard reaches everything; walked through every panel and dialog."""

from collections.abc import Iterator

from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QAbstractButton, QApplication, QDialog, QScrollArea, QWidget
from pytestqt.qtbot import QtBot

from latespin.desktop.dialogs.about import AboutBox
from latespin.desktop.dialogs.batch import BatchDialog
from latespin.desktop.dialogs.compare import CompareDialog
from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.dialogs.finder import Finder
from latespin.desktop.dialogs.recipes import RecipeDialog
from latespin.desktop.dialogs.tags import TagsDialog
from latespin.desktop.dialogs.video import VideoDialog
from latespin.desktop.movies.card import Card
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.media.tags import TagEdits, Tags
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Hall
from latespin.model.values.parameters import parameters_of
from latespin.model.values.units import with_unit
from latespin.model.version import Level, Time
from tests.window.conftest import wait

PANELS = ("time", "colour", "moments", "ending", "level", "grid", "playing")
WORDLESS = (QAccessible.Role.Client, QAccessible.Role.NoRole, QAccessible.Role.Window)


def focusable(root: QWidget) -> Iterator[QWidget]:
    """All visible widgets that can have the focus."""
    for widget in root.findChildren(QWidget):
        if widget.isVisible() and widget.isEnabled() and widget.focusPolicy() != Qt.FocusPolicy.NoFocus:
            yield widget


def told(widget: QWidget, kind: QAccessible.Text) -> str:
    """What a screen reader is told."""
    interface = QAccessible.queryAccessibleInterface(widget)
    assert interface is not None
    return interface.text(kind)


def nameless(root: QWidget) -> list[str]:
    """Widgets of which nothing is said, or no role."""
    found = []
    for widget in focusable(root):
        interface = QAccessible.queryAccessibleInterface(widget)
        role = interface.role() if interface is not None else QAccessible.Role.NoRole
        scrolls = isinstance(widget, QScrollArea)
        if not told(widget, QAccessible.Text.Name).strip() or (role in WORDLESS and not scrolls):
            found.append(f"{type(widget).__name__} in {type(widget.parent()).__name__}: {role}")
    return found


def test_every_control_has_a_name_and_a_role_and_values_are_spoken_with_their_unit(demo: Window, qtbot: QtBot) -> None:
    for panel in PANELS:
        demo.open_panel(panel)
        qtbot.wait(50)
        assert nameless(demo) == []
        for bar in demo.findChildren(ValueBar):
            interface = QAccessible.queryAccessibleInterface(bar)
            assert interface is not None
            assert interface.role() == QAccessible.Role.Slider
            assert told(bar, QAccessible.Text.Value) == bar.parameter.text(bar.value)
            assert bar.parameter.sentence in told(bar, QAccessible.Text.Description)


def test_every_effect_is_spoken_of(demo: Window, qtbot: QtBot) -> None:
    demo.open_panel("colour")
    for kind in EFFECTS:
        form = demo.panels.colour.form(kind)
        qtbot.addWidget(form)
        form.show()
        assert nameless(form) == []


def by_arrows(widget: QWidget, met: set[QWidget]) -> bool:
    """Whether it is one of several choices, of which Tab reaches the chosen one and arrow keys the others."""
    group = widget.group() if isinstance(widget, QAbstractButton) else None
    return group is not None and group.exclusive() and any(button in met for button in group.buttons())


def test_the_tab_key_reaches_every_control_and_comes_round(demo: Window) -> None:
    for panel in PANELS:
        demo.open_panel(panel)
        demo.activateWindow()
        wanted = {widget for widget in focusable(demo) if widget.focusPolicy() & Qt.FocusPolicy.TabFocus}
        start = demo.version_list.new_button
        start.setFocus()
        met, widget = set[QWidget](), start
        for _ in range(3 * len(wanted)):
            met.add(widget)
            demo.focusNextChild()
            now = QApplication.focusWidget() or demo.focusWidget()
            assert now is not None
            widget = now
            if widget is start:
                break
        assert widget is start, "it comes round"
        left = {
            f"{type(w).__name__} {told(w, QAccessible.Text.Name)}"
            for w in wanted - met
            if not w.focusProxy() and not by_arrows(w, met)
        }
        assert not left


def test_dialogs_are_spoken_of(demo: Window, qtbot: QtBot) -> None:
    for command, kind in (
        ("export", ExportDialog), ("export_video", VideoDialog), ("find", Finder), ("batch", BatchDialog),
        ("compare", CompareDialog), ("recipes", RecipeDialog), ("about", AboutBox),
    ):  # fmt: skip
        demo.run(command)
        wait(qtbot, lambda kind=kind: any(dialog.isVisible() for dialog in demo.findChildren(kind)))
        dialog: QDialog = next(dialog for dialog in demo.findChildren(kind) if dialog.isVisible())
        assert nameless(dialog) == []
        dialog.reject()
    demo.play.mark((20.0, 21.0))
    demo.controllers.effects.pad()
    assert nameless(demo.controllers.effects.dialog) == []
    demo.controllers.effects.dialog.reject()
    tags = TagsDialog(Tags(), TagEdits(), Card("Lantern Light"), parent=demo)
    tags.show()
    assert nameless(tags) == []
    tags.close()


@given(value=st.floats(0.0, 100.0))
def test_a_changed_value_is_told_as_it_is_shown(value: float) -> None:
    parameter = parameters_of(Hall)["amount_percent"]
    bar = ValueBar(parameter, "colour")
    bar.set_value(value)
    assert told(bar, QAccessible.Text.Value) == with_unit(value, parameter.unit, parameter.decimals)
    bar.deleteLater()


def test_units_are_those_of_the_trade() -> None:
    for kind, field, unit in (
        (Time, "speed", "×"),
        (Time, "semitones", "st"),
        (Level, "target_lufs", "LUFS"),
        (Level, "ceiling_dbtp", "dBTP"),
    ):
        parameter = parameters_of(kind)[field]
        bar = ValueBar(parameter, "time")
        assert told(bar, QAccessible.Text.Value).endswith(unit)
        bar.deleteLater()
