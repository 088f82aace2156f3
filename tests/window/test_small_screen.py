"""A laptop of 1024 by 640: the window fits, and what has no room is reached by scrolling."""

import pytest
from PySide6.QtCore import QEvent, QPoint
from PySide6.QtGui import QHelpEvent
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QScrollArea, QToolTip, QWidget
from pytestqt.qtbot import QtBot

from latespin.desktop.shell.main_window import Window
from latespin.desktop.shell.panel_area import PanelArea
from latespin.desktop.widgets.elided_label import ElidedLabel
from tests.window.conftest import wait
from tests.window.test_access import PANELS, focusable

SIZE = (1024, 640)
LINE = 4  # around the letters of a button


def scroll_to(widget: QWidget) -> None:
    """As Qt does when a widget gets the keyboard."""
    parent = widget.parentWidget()
    while parent is not None:
        if isinstance(parent, QScrollArea):
            parent.ensureWidgetVisible(widget)
        parent = parent.parentWidget()


@pytest.fixture(params=["en", "de"])
def language(request: pytest.FixtureRequest) -> None:
    if request.param == "de":
        request.getfixturevalue("german")


def too_low(window: Window) -> list[QLabel | QAbstractButton]:
    """Visible labels and buttons whose letters are cut at their foot."""
    found: list[QLabel | QAbstractButton] = [*window.findChildren(QLabel), *window.findChildren(QAbstractButton)]
    return [
        w
        for w in found
        if w.isVisible() and w.text() and w.height() < min(w.sizeHint().height(), LINE + w.fontMetrics().height())
    ]


@pytest.mark.usefixtures("language")
def test_every_panel_fits_and_what_does_not_can_be_scrolled_to(demo: Window, qtbot: QtBot) -> None:
    for panel in PANELS:
        demo.open_panel(panel)
        demo.resize(*SIZE)
        qtbot.wait(20)
        assert (demo.width(), demo.height()) == SIZE, panel
        area = demo.findChild(PanelArea)
        assert isinstance(area, PanelArea)
        page = demo.panels.currentWidget()
        assert isinstance(page, QWidget)
        controls = [widget for widget in focusable(page) if not widget.focusProxy()]
        assert controls
        for widget in (controls[0], controls[-1]):
            scroll_to(widget)
            seen = widget.visibleRegion().boundingRect()
            assert seen.width() * seen.height() > 0.5 * min(widget.height(), area.height()) * widget.width(), panel
        wait(qtbot, lambda: too_low(demo) == [])


def test_a_panel_is_as_high_as_it_wants_where_there_is_room(demo: Window, qtbot: QtBot) -> None:
    area = demo.findChild(PanelArea)
    assert isinstance(area, PanelArea)
    demo.resize(1400, 900)
    for panel in PANELS:
        demo.open_panel(panel)
        qtbot.wait(20)
        assert area.height() == demo.panels.height()
        bars = area.horizontalScrollBar(), area.verticalScrollBar()
        assert not any(bar.isVisible() for bar in bars), (panel, area.viewport().size(), demo.panels.size())


def test_a_label_that_is_cut_tells_the_rest(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    told: list[str] = []
    monkeypatch.setattr(QToolTip, "showText", lambda _, text, __: told.append(text))
    label = ElidedLabel("The Paper Moths · 44.1 kHz stereo · lantern-light.ogg")
    qtbot.addWidget(label)
    label.show()
    assert label.minimumSizeHint().width() < 60
    asked = QHelpEvent(QEvent.Type.ToolTip, QPoint(5, 5), QPoint(5, 5))
    for width, shown, heard in ((90, "The Paper", [label.text()]), (900, label.text(), [])):
        told.clear()
        label.resize(width, 20)
        assert label.shown().startswith(shown)
        assert not label.grab().isNull()
        QApplication.sendEvent(label, asked)
        assert told == heard
