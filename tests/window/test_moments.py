"""Moments, endings and markers in the window: placed, dragged, snapped, bent, undone, seen and heard."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from latespin.desktop.shell.main_window import Window
from latespin.desktop.theme.theme import colour
from latespin.model.effects.effects import Gain
from latespin.model.moments.declaration import MOMENTS, moment_title
from latespin.model.moments.endings import CleanStop, EchoEnd, NoEnding, RingOut
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.markers import Marker
from latespin.model.moments.moments import Cover, Moments, Reverse, Stutter, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Length, Position
from latespin.model.version import Time
from tests.window.conftest import Devices, wait
from tests.window.test_time_panel import type_entry

LEFT = Qt.MouseButton.LeftButton
SHIFT = Qt.KeyboardModifier.ShiftModifier
MARGIN = QPointF(12, 0)
GRID = Grid(bpm=92.0, first_beat_seconds=0.25)


@pytest.fixture
def placed(read: Window, qtbot: QtBot) -> Window:
    """A dry version at its own speed with a tape stop over bar 5 and a reverse over bar 8, the tape stop chosen."""
    document = read.document
    moments = (
        TapeStop(id="stop", start=Position(beat=16.0), end=Position(beat=20.0)),
        Reverse(id="back", start=Position(beat=28.0), end=Position(beat=30.0)),
    )
    stages = replace(document.stages, time=Time(), colour=replace(document.stages.colour, on=False))
    document.edit_stages("Start", replace(stages, moments=Moments(placed=moments)))
    read.open_panel("moments")
    read.controllers.moments.choose("stop")
    read.waveform_view.show_range(8.0, 24.0)
    read.setFocus()
    return read


def stop_of(window: Window) -> TapeStop:
    """The tape stop as it is now."""
    found = window.document.stages.moments.find("stop")
    assert isinstance(found, TapeStop)
    return found


def shape_of(window: Window, ident: str):  # type: ignore[no-untyped-def]
    """A moment as it is drawn."""
    return next(shape for shape in window.waveform_view.moments.shapes if shape.id == ident)


def drag(
    qtbot: QtBot,
    window: Window,
    start: QPointF,
    by: QPoint,
    modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
) -> None:
    """Drag something of the waveforms in four steps; places as layers have them."""
    at = (start + MARGIN).toPoint()
    qtbot.mousePress(window.waveform_view, LEFT, modifier, at)
    for step in range(1, 5):
        qtbot.mouseMove(window.waveform_view, at + QPoint(by.x() * step // 4, by.y() * step // 4))
        if modifier:
            window.waveform_view._held.drag(QPointF(at + by) - MARGIN, free=True)  # type: ignore[union-attr]
    qtbot.mouseRelease(window.waveform_view, LEFT, modifier, at + by)


def test_every_kind_can_be_added_seen_and_taken_back(read: Window, qtbot: QtBot) -> None:
    read.open_panel("moments")
    read.document.edit_stages("Dry", replace(read.document.stages, time=Time()))
    read.play.mark((20.0, 22.0))
    before = read.document.stages
    for kind in MOMENTS:
        if kind == "drop-in":
            continue
        read.controllers.moments.add(kind)
        moment = read.controllers.moments.chosen
        assert moment is not None
        seconds = [place.seconds_in(read.document.grid) for place in (moment.start, moment.end)]
        assert seconds == pytest.approx([20.0, 22.0], abs=1e-6)
        assert read.panels.moments.title.text()
        assert not read.panels.moments.problem.isVisible()
        assert read.stage_row.cards["moments"].sentence == moment_title(moment)
        band = read.waveform_view.bands().after
        read.waveform_view.set_loop(None)
        x = read.waveform_view.scale.x(shape_of(read, moment.id).ends[0]) + 16
        pixel = read.waveform_view.grab().toImage().pixelColor(round(x), round(band.bottom() - 5))
        assert pixel == colour("moments")
        read.run("undo")
        assert read.document.stages == before


def test_an_end_is_dragged_to_a_beat_and_with_shift_off_it(placed: Window, qtbot: QtBot) -> None:
    layer, scale = placed.waveform_view.moments, placed.waveform_view.scale
    before = placed.document.stages
    beat = 60 / 92 * scale.px_per_second
    drag(qtbot, placed, layer.grip(shape_of(placed, "stop"), 1).center(), QPoint(round(2 * beat) + 3, 0))
    assert stop_of(placed).end == Position(beat=22.0)
    assert stop_of(placed).start == Position(beat=16.0)
    placed.run("undo")
    assert placed.document.stages == before, "a whole drag is one step, and taken back exactly"
    placed.run("redo")
    drag(qtbot, placed, layer.grip(shape_of(placed, "stop"), 0).center(), QPoint(-round(beat) - 2, 0))
    assert stop_of(placed).start == Position(beat=15.0)
    drag(qtbot, placed, layer.grip(shape_of(placed, "stop"), 0).center(), QPoint(17, 0), SHIFT)
    start = stop_of(placed).start
    assert start.beat is None
    assert start.seconds == pytest.approx(0.25 + 15 * 60 / 92 + 17 / scale.px_per_second, abs=0.005)


def test_a_moment_is_moved_by_its_name_only(placed: Window, qtbot: QtBot) -> None:
    layer, scale = placed.waveform_view.moments, placed.waveform_view.scale
    beat = 60 / 92 * scale.px_per_second
    body = QPointF(
        layer.grip(shape_of(placed, "stop"), 0).right() + 60, placed.waveform_view.bands().after.center().y() - 20
    )
    before = placed.document.stages
    drag(qtbot, placed, body, QPoint(40, 0))
    assert placed.document.stages == before, "a grab at the shape itself moves nothing"
    tab = layer._tab(shape_of(placed, "back")).center()
    qtbot.mouseClick(placed.waveform_view, LEFT, pos=(tab + MARGIN).toPoint())
    assert placed.panels.moments.chosen == "back"
    assert placed.document.stages == before, "a click chooses"
    drag(qtbot, placed, tab, QPoint(round(4 * beat) + 2, 0))
    moved = placed.document.stages.moments.find("back")
    assert moved is not None
    assert (moved.start, moved.end) == (Position(beat=32.0), Position(beat=34.0))


def test_the_curve_is_bent_on_the_waveform_in_the_editor_and_by_keys(placed: Window, qtbot: QtBot) -> None:
    layer = placed.waveform_view.moments
    ring = layer.handle(shape_of(placed, "stop"))
    assert ring is not None
    drag(qtbot, placed, ring, QPoint(0, -12))
    assert stop_of(placed).tension > 0.3
    editor = placed.panels.moments.curve
    bent, place = stop_of(placed).tension, editor.handle()
    assert place is not None
    at = place.toPoint()
    qtbot.mousePress(editor, LEFT, pos=at)
    qtbot.mouseMove(editor, at + QPoint(0, 30))
    qtbot.mouseRelease(editor, LEFT, pos=at + QPoint(0, 30))
    assert stop_of(placed).tension < bent
    diamond = editor.diamond()
    assert diamond is not None
    qtbot.mousePress(editor, LEFT, pos=diamond.toPoint())
    qtbot.mouseMove(editor, diamond.toPoint() - QPoint(30, 0))
    qtbot.mouseRelease(editor, LEFT, pos=diamond.toPoint() - QPoint(30, 0))
    assert stop_of(placed).second_percent > 40.0
    bent = stop_of(placed).tension
    editor.setFocus()
    qtbot.keyClick(editor, Qt.Key.Key_Up)
    assert stop_of(placed).tension == pytest.approx(bent + 0.05)


def test_the_silence_is_dragged_on_quarters_of_a_beat(placed: Window, qtbot: QtBot) -> None:
    editor = placed.panels.moments.curve
    square = editor.square()
    assert square is not None
    a_beat = (editor.square().x() - editor._area().left()) / 4.0  # type: ignore[union-attr]
    qtbot.mousePress(editor, LEFT, pos=square.toPoint())
    qtbot.mouseMove(editor, square.toPoint() - QPoint(round(1.2 * a_beat), 0))
    qtbot.mouseRelease(editor, LEFT, pos=square.toPoint())
    assert stop_of(placed).gap_percent == pytest.approx(31.25)
    placed.run("undo")
    assert stop_of(placed).gap_percent == 0.0


def test_moments_are_copied_stepped_through_and_asked_for_by_a_menu(placed: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(placed, Qt.Key.Key_BracketRight)
    assert placed.panels.moments.chosen == "back"
    qtbot.keyClick(placed, Qt.Key.Key_BracketLeft)
    assert placed.panels.moments.chosen == "stop"
    qtbot.keyClick(placed, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    seconds = 0.25 + 40 * 60 / 92
    menu = placed.controllers.moments.menu("before", seconds + 0.1, "")
    texts = [action.text() for action in menu.actions()]
    assert texts == ["Add here", "Paste here", "Mark here"]
    menu.actions()[1].trigger()
    pasted = placed.controllers.moments.chosen
    assert pasted is not None
    assert pasted.id != "stop"
    assert (pasted.start, pasted.end) == (Position(beat=40.0), Position(beat=44.0))
    x = placed.waveform_view.moments._tab(shape_of(placed, "back")).center()
    assert placed.waveform_view.moments.named_at(x) == "back"
    menu = placed.controllers.moments.menu("after", 1.0, "back")
    next(action for action in menu.actions() if action.text() == "Switch it off").trigger()
    assert not placed.document.stages.moments.find("back").on  # type: ignore[union-attr]


def test_keys_nudge_and_delete_and_numbers_are_typed(placed: Window, qtbot: QtBot) -> None:
    placed.waveform_view.setFocus()
    qtbot.keyClick(placed.waveform_view, Qt.Key.Key_Right)
    assert stop_of(placed).start == Position(beat=17.0)
    qtbot.keyClick(placed.waveform_view, Qt.Key.Key_Left, SHIFT)
    assert stop_of(placed).start.seconds == pytest.approx(0.25 + 17 * 60 / 92 - 0.01, abs=1e-4)
    panel = placed.panels.moments
    type_entry(qtbot, panel.entries["start"], "6.2")
    type_entry(qtbot, panel.entries["end"], "bar 8")
    assert (stop_of(placed).start, stop_of(placed).end) == (Position(beat=21.0), Position(beat=28.0))
    type_entry(qtbot, panel.entries["length"], "1/2")
    assert stop_of(placed).end == Position(beat=23.0)
    type_entry(qtbot, panel.entries["end"], "bar 900.7")
    assert "counted from" in placed.notice.label.text()
    placed.waveform_view.setFocus()
    qtbot.keyClick(placed.waveform_view, Qt.Key.Key_Delete)
    assert placed.document.stages.moments.find("stop") is None


def test_an_overlap_is_shown_and_said(placed: Window, qtbot: QtBot) -> None:
    late = Stutter(id="late", start=Position(beat=18.0), end=Position(beat=21.0))
    stages = placed.document.stages
    placed.document.edit_stages("Overlap", replace(stages, moments=stages.moments.with_changed(late)))
    placed.controllers.moments.choose("late")
    assert shape_of(placed, "late").problem
    assert not shape_of(placed, "stop").problem
    assert "cannot overlap" in placed.panels.moments.problem.text()
    assert placed.panels.moments.problem.isVisible()
    type_entry(qtbot, placed.panels.moments.entries["start"], "6.1")
    assert not shape_of(placed, "late").problem


def test_what_is_heard_follows_a_moment(placed: Window, qtbot: QtBot, devices: Devices) -> None:
    placed.document.edit_stages(
        "Level", replace(placed.document.stages, level=replace(placed.document.stages.level, on=False))
    )
    qtbot.keyClick(placed, Qt.Key.Key_A)
    assert placed.waveform_view.loop == pytest.approx((0.25 + 12 * 60 / 92, 0.25 + 24 * 60 / 92), abs=1e-6)
    wait(qtbot, lambda: placed.playback.player.playing)  # type: ignore[union-attr]
    heard = devices.listen(qtbot, 8.5)
    level = np.sqrt(np.mean(heard[:, : heard.shape[1] // 441 * 441].reshape(2, -1, 441) ** 2, axis=(0, 2)))
    assert np.any(level[20:] < 0.05 * np.median(level)), "the stop is heard"
    placed.document.edit_stages("Silence", replace(placed.document.stages, moments=Moments()))
    wait(qtbot, lambda: placed.playback.player.place()[0].stages.moments == Moments())  # type: ignore[union-attr]
    heard = devices.listen(qtbot, 8.5)
    level = np.sqrt(np.mean(heard[:, : heard.shape[1] // 441 * 441].reshape(2, -1, 441) ** 2, axis=(0, 2)))
    assert not np.any(level < 0.02 * np.median(level)), "and no longer, once it is gone"


def test_moments_stay_on_their_beats_when_the_grid_is_put_right(placed: Window) -> None:
    document = placed.document
    document.set_grid("Twice as many", (document.grid or GRID).doubled())
    assert stop_of(placed).start == Position(beat=32.0)
    document.undo()
    assert stop_of(placed).start == Position(beat=16.0)
    document.set_grid("A beat later", (document.grid or GRID).counted_from(1))
    assert stop_of(placed).start == Position(beat=15.0)
    document.set_grid("Nudged", (document.grid or GRID).shifted(0.02))
    assert stop_of(placed).start == Position(beat=15.0)


def test_markers_are_set_while_playing_named_dragged_covered_and_carried(
    placed: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    document = placed.document
    placed.playback.seek("before", 14.0)  # type: ignore[union-attr]
    placed.run("play")
    qtbot.wait(60)
    qtbot.keyClick(placed, Qt.Key.Key_X)
    wait(qtbot, lambda: placed.play.place()[0] > 14.4)
    qtbot.keyClick(placed, Qt.Key.Key_X, SHIFT)
    placed.run("play")
    marker = document.session.markers[0]
    assert marker.end is not None
    assert 14.0 <= (marker.start.seconds or 0.0) < (marker.end.seconds or 0.0) < 16.0
    page = placed.panels.moments.markers
    page.list.item(0).setText("oh no")
    assert document.session.markers[0].label == "oh no"
    placed.waveform_view.snapping = False
    flag = placed.waveform_view.markers.rect(placed.waveform_view.markers.flags[0], "start").center()
    drag(qtbot, placed, flag, QPoint(-20, 0))
    assert (document.session.markers[0].start.seconds or 0.0) < (marker.start.seconds or 0.0)
    for name in ("words.csv", "words.wav"):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a, n=name, **_k: (str(tmp_path / n), ""))
        monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_a, n=name, **_k: (str(tmp_path / n), ""))
        kept = document.session.markers
        placed.actions_by_name["export_markers"].trigger()
        wait(qtbot, lambda n=name: (tmp_path / n).exists() and not placed.work.active("export"))
        placed.actions_by_name["import_markers"].trigger()
        new = document.session.markers[-1]
        assert new.label == "oh no"
        assert new.end is not None
        assert new.start.seconds == pytest.approx(kept[0].start.seconds, abs=1e-4)
        document.undo()
    placed.actions_by_name["cover_markers"].trigger()
    covers = [m for m in document.stages.moments.placed if isinstance(m, Cover)]
    assert [m.label for m in covers] == ["oh no"]
    assert covers[0].start == document.session.markers[0].start
    placed.panels.moments.changed.emit("way", "reverse")
    placed.actions_by_name["cover_markers"].trigger()
    again = [m for m in document.stages.moments.placed if isinstance(m, Cover)]
    assert [(m.id, m.way) for m in again] == [(covers[0].id, "reverse")], "the covers that are there change"
    document.undo()
    document.undo()
    document.undo()
    assert not any(isinstance(m, Cover) for m in document.stages.moments.placed)
    placed.panels.moments.open_page("markers")
    page.list.selectAll()
    placed.controllers.moments.add("reverse")
    made = document.stages.moments.placed[-1]
    assert isinstance(made, Reverse)
    assert (made.label, made.end) == ("oh no", document.session.markers[0].end)


def test_an_ending_is_chosen_placed_dragged_and_heard(placed: Window, qtbot: QtBot, devices: Devices) -> None:
    document, panel = placed.document, placed.panels.ending
    qtbot.keyClick(placed, Qt.Key.Key_4)
    qtbot.mouseClick(panel.choices.button("ring-out"), LEFT)
    assert isinstance(document.stages.ending.way, RingOut)
    assert placed.stage_row.cards["ending"].sentence.startswith("Ring-out, 4.5")
    found = panel.at.text()
    assert found.startswith("bar ")
    assert panel.suggestions[0].text() == found.removeprefix("bar ")
    qtbot.mouseClick(panel.suggestions[1], LEFT)
    assert panel.at.text() == f"bar {panel.suggestions[1].text()}"
    type_entry(qtbot, panel.at, "9")
    assert document.stages.ending.way.at == Position(beat=32.0)
    grip = placed.waveform_view.end.grip()
    assert grip is not None
    beat = 60 / 92 * placed.waveform_view.scale.px_per_second
    before = document.stages
    drag(qtbot, placed, grip.center(), QPoint(-round(4 * beat) + 3, 0))
    assert document.stages.ending.way.at == Position(beat=28.0)
    placed.run("undo")
    assert document.stages == before
    qtbot.mouseClick(panel.choices.button("echo"), LEFT)
    assert isinstance(document.stages.ending.way, EchoEnd)
    assert document.stages.ending.way.at == Position(beat=32.0), "the place is kept"
    entry = panel._form("echo").controls["length"]
    type_entry(qtbot, entry, "1 bar")  # type: ignore[arg-type]
    assert document.stages.ending.way.length == Length(beats=4.0)
    qtbot.mouseClick(panel.choices.button("stop"), LEFT)
    assert isinstance(document.stages.ending.way, CleanStop)
    qtbot.mouseClick(panel.audition, LEFT)
    place = placed.play.place()[0]
    assert place == pytest.approx(0.25 + 24 * 60 / 92, abs=0.3)
    wait(qtbot, lambda: not placed.playback.player.playing)  # type: ignore[union-attr]
    assert placed.play.place()[0] == pytest.approx(0.25 + 32 * 60 / 92, abs=0.01)
    qtbot.keyClick(placed, Qt.Key.Key_4, SHIFT)
    assert not document.stages.ending.on
    qtbot.mouseClick(panel.choices.button("none"), LEFT)
    assert isinstance(document.stages.ending.way, NoEnding)


def test_a_colour_dip_has_its_form_and_rulers_count_video_frames(placed: Window, qtbot: QtBot) -> None:
    dip = ColourDip(id="dip", start=Position(beat=20.0), end=Position(beat=28.0))
    stages = placed.document.stages
    placed.document.edit_stages("Dip", replace(stages, moments=stages.moments.with_changed(dip)))
    placed.controllers.moments.choose("dip")
    form = placed.panels.moments.form("colour-dip")
    box = form.controls["colour"]
    box.setCurrentIndex(1)  # type: ignore[attr-defined]
    box.activated.emit(1)  # type: ignore[attr-defined]
    assert placed.document.stages.moments.find("dip").colour == "phone"  # type: ignore[union-attr]
    form.controls["amount_percent"].setFocus()
    qtbot.keyClick(form.controls["amount_percent"], Qt.Key.Key_Up)
    assert placed.document.stages.moments.find("dip").amount_percent == 71.0  # type: ignore[union-attr]
    placed.rulers.count_frames(25.0)
    assert placed.waveform_view.frames_per_second == 25.0
    numbers = placed.waveform_view.scale.video_frames(84, 25.0)
    assert all(n % 25 == 0 for n in numbers)
    placed.run("bar_rulers")
    assert placed.waveform_view.frames_per_second is None


def test_several_moments_are_chosen_on_the_waveform_and_in_the_list_and_change_together(
    placed: Window, qtbot: QtBot
) -> None:
    """Moved, nudged, switched and deleted as one step each; a control is set in those that have it."""
    more = (
        ColourDip(id="dive", start=Position(beat=24.0), end=Position(beat=26.0)),
        Reverse(id="last", start=Position(beat=33.0), end=Position(beat=34.0)),
    )
    stages = placed.document.stages
    placed.document.edit_stages("More", replace(stages, moments=stages.moments.with_all_changed(more)))
    view, panel = placed.waveform_view, placed.panels.moments
    control = Qt.KeyboardModifier.ControlModifier

    def tab(ident: str) -> QPoint:
        return (view.moments._tab(shape_of(placed, ident)).center() + MARGIN).toPoint()

    def place(ident: str) -> float | None:
        return placed.document.stages.moments.find(ident).start.beat  # type: ignore[union-attr]

    qtbot.mouseClick(view, LEFT, pos=tab("stop"))
    qtbot.mouseClick(view, LEFT, control, tab("back"))
    qtbot.mouseClick(view, LEFT, control, tab("last"))
    assert panel.chosen == "last"
    assert panel.others == {"stop", "back"}
    assert sorted(item.text().split(" · ")[1] for item in panel.list.selectedItems()) == [
        "Reverse",
        "Reverse",
        "Tape stop",
    ]
    assert panel.together.text() == "and 2 more"
    qtbot.mouseClick(view, LEFT, control, tab("stop"))
    assert panel.others == {"back"}
    qtbot.mouseClick(view, LEFT, control, tab("stop"))
    view.setFocus()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert [place(i) for i in ("stop", "back", "last", "dive")] == [17.0, 29.0, 34.0, 24.0]
    placed.controllers.moments.choose("back", frozenset({"back", "stop", "last"}))
    a_beat = round(view.geometry_now.scale.px_per_second * 60.0 / 92.0)
    drag(qtbot, placed, view.moments._tab(shape_of(placed, "back")).center(), QPoint(2 * a_beat, 0))
    assert [place(i) for i in ("stop", "back", "last", "dive")] == [19.0, 31.0, 36.0, 24.0]
    type_entry(qtbot, panel.entries["start"], "9.1")
    assert [place(i) for i in ("stop", "back", "last", "dive")] == [20.0, 32.0, 37.0, 24.0]
    type_entry(qtbot, panel.entries["length"], "3 beats")
    lengths = [placed.document.stages.moments.find(i) for i in ("stop", "back", "last", "dive")]
    assert [m.end.beat - m.start.beat for m in lengths] == [3.0, 3.0, 3.0, 2.0]  # type: ignore[union-attr,operator]
    panel.changed.emit("time", "add")
    panel.settled.emit()
    assert [placed.document.stages.moments.find(i).time for i in ("stop", "back", "last")] == ["add"] * 3  # type: ignore[union-attr]
    qtbot.mouseClick(panel.switch, LEFT)
    assert [moment.id for moment in placed.document.stages.moments.heard] == ["dive"]
    for _ in range(6):
        placed.run("undo")
    assert [place(i) for i in ("stop", "back", "last")] == [16.0, 28.0, 33.0]
    panel.list.setFocus()
    panel.list.clearSelection()
    for row in (0, 2):
        qtbot.mouseClick(
            panel.list.viewport(),
            LEFT,
            control if row else Qt.KeyboardModifier.NoModifier,
            panel.list.visualItemRect(panel.list.item(row)).center(),
        )
    chosen = {panel.chosen} | panel.others
    assert len(chosen) == 2
    qtbot.keyClick(panel.list, Qt.Key.Key_Delete)
    assert not chosen & {moment.id for moment in placed.document.stages.moments.placed}
    assert len(placed.document.stages.moments.placed) == 2


def test_chosen_moments_go_to_another_version_by_the_clipboard(placed: Window, qtbot: QtBot) -> None:
    placed.controllers.moments.choose("stop", frozenset({"stop", "back"}))
    control = Qt.KeyboardModifier.ControlModifier
    qtbot.keyClick(placed, Qt.Key.Key_C, control)
    assert "2 moments" in placed.notice.label.text()
    placed.run("duplicate")
    placed.document.edit_stages("Empty", replace(placed.document.stages, moments=Moments()))
    placed.play.mark(None)
    placed.play.seek("before", 0.25 + 4 * 60 / 92)
    wait(qtbot, lambda: abs(placed.play.place()[0] - (0.25 + 4 * 60 / 92)) < 0.01)
    qtbot.keyClick(placed, Qt.Key.Key_V, control)
    pasted = placed.document.stages.moments.placed
    assert [(type(m), m.start.beat, m.end.beat) for m in pasted] == [(TapeStop, 4.0, 8.0), (Reverse, 16.0, 18.0)]
    assert {m.id for m in pasted} == {placed.panels.moments.chosen} | placed.panels.moments.others
    QApplication.clipboard().setText("a shopping list")
    qtbot.keyClick(placed, Qt.Key.Key_V, control)
    assert "No moment was copied" in placed.notice.label.text()
    assert len(placed.document.stages.moments.placed) == 2


def test_an_effect_over_a_range_is_chosen_set_up_and_heard(placed: Window, qtbot: QtBot, devices: Devices) -> None:
    placed.document.edit_stages(
        "Level",
        replace(placed.document.stages, level=replace(placed.document.stages.level, on=False), moments=Moments()),
    )
    placed.play.mark((10.0, 16.0))
    placed.controllers.moments.add("effect")
    panel = placed.panels.moments
    page = panel.page("effect echo")
    assert panel.title.text() == "Echo"
    page.kinds.setCurrentIndex(page.kinds.findData("gain"))
    page.kinds.activated.emit(page.kinds.currentIndex())
    assert panel.title.text() == "Gain"
    page = panel.page("effect gain")
    assert page.isVisible()
    assert not page.keep.isVisible(), "the level is what it is for"
    page.settings.controls["gain_db"].changed.emit(-60.0)
    page.form.controls["attack_percent"].changed.emit(0.0)
    effect = placed.controllers.moments.chosen
    assert isinstance(effect, EffectRange)
    assert (effect.effect, effect.attack_percent) == (Gain(gain_db=-60.0), 0.0)
    placed.play.mark(None)
    placed.play.seek("after", 9.0)
    placed.run("play")
    wait(qtbot, lambda: placed.playback.player.playing)  # type: ignore[union-attr]
    heard = devices.listen(qtbot, 5.0)
    level = np.sqrt(np.mean(heard[:, : heard.shape[1] // 441 * 441].reshape(2, -1, 441) ** 2, axis=(0, 2)))
    assert level[150:].max() < 0.005 * level[:50].max()
    placed.run("undo")
    placed.run("undo")
    assert isinstance(placed.controllers.moments.chosen.effect, Gain)  # type: ignore[union-attr]


def test_keys_step_through_the_markers(placed: Window, qtbot: QtBot) -> None:
    markers = tuple(Marker(id=str(at), label=str(at), start=Position(seconds=at)) for at in (20.0, 5.0, 12.0))
    placed.document.edit_session("Markers", replace(placed.document.session, markers=markers))
    placed.play.seek("before", 6.0)
    wait(qtbot, lambda: abs(placed.play.place()[0] - 6.0) < 0.01)
    for key, wanted in (
        (Qt.Key.Key_Period, 12.0),
        (Qt.Key.Key_Period, 20.0),
        (Qt.Key.Key_Comma, 12.0),
        (Qt.Key.Key_Comma, 5.0),
    ):
        qtbot.keyClick(placed, key)
        wait(qtbot, lambda w=wanted: abs(placed.play.place()[0] - w) < 0.01)
        assert placed.panels.moments.markers.chosen() == [str(wanted)]
    qtbot.keyClick(placed, Qt.Key.Key_Comma)
    assert "no marker before" in placed.notice.label.text()
