"""Sections on the Before waveform: seen as bands, corrected by hand, and used by jumps, endings and the marked range."""

from itertools import pairwise

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QMenu
from pytestqt.qtbot import QtBot

from latespin.desktop.canvas.layers.section_layer import SECTIONS_TALL
from latespin.desktop.canvas.waveform_view import MARGIN
from latespin.desktop.shell.main_window import Window
from latespin.model.documents.documents import read_session
from latespin.model.timing.positions import Position, end_suggestions
from tests.window.conftest import wait

LEFT = Qt.MouseButton.LeftButton


def on_band(window: Window, seconds: float) -> QPoint:
    """The pixel of a second of Before, in the middle of the bands' height."""
    geometry = window.waveform_view.geometry_now
    y = geometry.bands.before.top() + SECTIONS_TALL / 2
    return QPointF(geometry.scale.x(seconds) + MARGIN, y).toPoint()


def names(window: Window) -> list[str]:
    """What the bands say."""
    return [f"{band.name} {band.letter}".strip() for band in window.waveform_view.sections.bands]


def pick(menu: QMenu, text: str) -> None:
    """Choose an entry of a menu."""
    next(action for action in menu.actions() if action.text() == text).trigger()


def test_every_section_has_a_band_with_what_it_probably_is(read: Window) -> None:
    read.run("beats")
    bands = read.waveform_view.sections.bands
    assert names(read) == ["Intro A", "Intro B", "Verse C", "Chorus D", "Verse C", "Chorus D", "Outro E"]
    assert (bands[0].start, bands[-1].end) == (0.0, pytest.approx(98.2, abs=0.1))
    assert all(here.end == after.start for here, after in pairwise(bands))
    picture = read.waveform_view.grab().toImage()
    top = on_band(read, 0.0).y() - 6
    chorus, verse = (picture.pixelColor(on_band(read, (bands[i].start + bands[i].end) / 2).x(), top) for i in (3, 2))
    assert chorus.lightness() > verse.lightness() + 10, "the chorus stands out, quietly"
    assert "Sections detected: 7." in read.panels.grid.sections_say.text()


def test_a_border_is_dragged_to_a_bar_and_the_edge_of_a_neighbour_stops_it(read: Window, qtbot: QtBot) -> None:
    view, document = read.waveform_view, read.document
    grid = document.grid
    assert grid is not None
    border = view.sections.bands[3].start
    target = float(grid.bars_between(border + 1.0, border + 6.0)[0])
    qtbot.mousePress(view, LEFT, pos=on_band(read, border))
    qtbot.mouseMove(view, on_band(read, target + 0.1))
    qtbot.mouseRelease(view, LEFT, pos=on_band(read, target + 0.1))
    start = document.session.sections[3].start
    assert start.beat is not None
    assert start.at(grid) == pytest.approx(target, abs=1e-3)
    assert view.sections.bands[2].end == pytest.approx(target, abs=1e-3)
    assert document.undo_label == "Move section"
    far = view.sections.bands[4].start + 4.0
    qtbot.mousePress(view, LEFT, pos=on_band(read, target))
    qtbot.mouseMove(view, on_band(read, far))
    qtbot.mouseRelease(view, LEFT, pos=on_band(read, far))
    assert view.sections.bands[3].start <= view.sections.bands[4].start - 0.5
    document.undo()
    document.undo()
    assert document.session.sections == ()
    assert view.sections.bands[3].start == border


def test_splitting_joining_renaming_and_marking_with_the_keyboard(read: Window, qtbot: QtBot) -> None:
    view, document, grid = read.waveform_view, read.document, read.document.grid
    assert grid is not None
    middle = float(grid.bars_between(view.sections.bands[3].start + 4.0, 60.0)[0])
    read.play.seek("before", middle + 0.05)
    view.setFocus()
    qtbot.keyClick(view, "B", Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert names(read)[3:5] == ["Chorus D", "Chorus D"]
    assert view.sections.bands[4].start == pytest.approx(middle, abs=1e-3)
    read.run("split_section")
    assert "begins or ends here already" in read.notice.label.text()
    read.run("rename_section")
    editor = view.focusWidget()
    assert editor is not None
    qtbot.keyClicks(editor, "The bells")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert names(read)[4] == "The bells"
    assert view.hasFocus()
    read.run("rename_section")
    qtbot.keyClicks(view.focusWidget(), "Not this")
    qtbot.keyClick(view.focusWidget(), Qt.Key.Key_Escape)
    assert names(read)[4] == "The bells"
    read.run("mark_section")
    assert read.play.marked == (view.sections.bands[4].start, view.sections.bands[4].end)
    read.run("join_section")
    assert names(read)[3] == "Chorus D"
    assert len(names(read)) == 7
    read.run("sections_as_read")
    assert document.session.sections == ()
    for _ in range(4):
        document.undo()
    assert document.session.sections == ()
    assert names(read)[3] == "Chorus D"


def test_a_sections_menu_changes_its_kind_and_a_double_click_its_name(read: Window, qtbot: QtBot) -> None:
    view, document = read.waveform_view, read.document
    sections = read.controllers.sections
    read.run("beats")
    ring = view.sections.bands[2]
    menu = sections.menu(2)
    assert [action.text() for action in menu.actions() if action.isChecked()] == ["Verse"]
    pick(menu, "Bridge")
    assert names(read)[2] == "Bridge C"
    pick(sections.menu(2), "Join with the one before")
    assert names(read)[:3] == ["Intro A", "Intro B", "Chorus D"]
    first = sections.menu(0)
    assert not next(a for a in first.actions() if a.text() == "Join with the one before").isEnabled()
    pick(sections.menu(1), "Mark as the range")
    assert read.play.marked is not None
    assert read.play.marked[1] == pytest.approx(ring.end, abs=0.05)
    qtbot.mouseDClick(view, LEFT, pos=on_band(read, ring.start + 3.0))
    editor = view.focusWidget()
    assert editor is not None
    qtbot.keyClicks(editor, "Everybody skate")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert names(read)[1] == "Everybody skate"
    assert "Sections corrected by hand: 6." in read.panels.grid.sections_say.text()
    pick(sections.menu(1), "Verse")
    assert names(read)[1] == "Verse B"
    pick(sections.menu(1), "Use the detected sections")
    assert len(names(read)) == 7
    assert document.session.sections == ()


def test_jumps_and_endings_follow_corrections_and_the_session_keeps_them(
    read: Window, qtbot: QtBot, tmp_path_factory: pytest.TempPathFactory
) -> None:
    document, grid = read.document, read.document.grid
    assert grid is not None
    bar = float(grid.bars_between(70.0, 76.0)[0])
    read.play.seek("before", bar)
    read.run("split_section")
    last = len(document.sections) - 1
    for number in (last - 1, last):
        pick(read.controllers.sections.menu(number), "Outro")
    read.play.seek("before", bar - 2.0)
    read.run("next_section")
    wait(qtbot, lambda: abs(read.play.place()[0] - bar) < 0.05)
    layout = document.layout
    assert layout is not None
    at = Position(beat=float(round(float(grid.number_at(bar)))))
    assert at in end_suggestions(layout, 4)
    path = tmp_path_factory.mktemp("sections") / "corrected.latespin"
    assert document.save(path)
    assert read_session(path.read_bytes(), "corrected").sections == document.sections
