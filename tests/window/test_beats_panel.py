"""Beats and bars in the window: shown, put right by mouse and keys, tapped, heard, and carried to files."""

import time
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from latespin.desktop.canvas.ruler_painter import bar_marks
from latespin.desktop.shell.main_window import Window
from latespin.model.timing.beat_grid import Grid
from tests.window.conftest import Devices, wait
from tests.window.test_time_panel import type_entry

LEFT = Qt.MouseButton.LeftButton
RIGHT_GRID = Grid(bpm=92.0, first_beat_seconds=0.25)


def press(qtbot: QtBot, window: Window, name: str) -> None:
    """Press a button of the bench."""
    button: QPushButton = window.panels.grid.buttons[name]
    assert button.isVisible()
    assert button.isEnabled()
    qtbot.mouseClick(button, LEFT)


def test_a_song_without_a_typed_grid_is_read_and_becomes_bar_aware(read: Window, qtbot: QtBot, tmp_path: Path) -> None:
    document = read.document
    document.set_grid("Forget", None)
    assert document.grid is not None
    assert document.grid.bpm == pytest.approx(92.0, rel=1e-4)
    assert read.waveform_view.bars is not None
    assert read.header.before["tempo"].text() == "92.0"
    assert read.header.before["key"].text().split()[1] in ("major", "minor")
    assert document.reading is not None
    before = document.reading.keys[0].tonic
    type_entry(qtbot, read.header.after["key"], "E")
    assert read.header.after["key"].text().startswith(f"E {document.reading.keys[0].mode}")
    low, _ = document.stages.time.pitch_ratios
    assert round(before + 12 * np.log2(low)) % 12 == 4
    place = tmp_path / "kept.latespin"
    assert document.save(place)
    assert '"bpm": 9' in place.read_text()


def test_a_wrong_grid_is_put_right_in_a_few_presses(read: Window, qtbot: QtBot) -> None:
    document = read.document
    document.set_grid("A wrong grid", Grid(bpm=46.0, first_beat_seconds=0.25 + 60 / 92 + 0.02, beats_per_bar=3))
    started = time.monotonic()
    qtbot.keyClick(read, Qt.Key.Key_G)
    press(qtbot, read, "double")
    qtbot.mouseClick(read.panels.grid.metre.button("4"), LEFT)
    press(qtbot, read, "beat_back")
    press(qtbot, read, "nudge_back")
    press(qtbot, read, "nudge_back")
    grid = document.grid
    assert grid is not None
    assert (grid.bpm, grid.beats_per_bar) == (92.0, 4)
    assert grid.seconds_of(np.arange(100.0)) == pytest.approx(RIGHT_GRID.seconds_of(np.arange(100.0)), abs=1e-4)
    assert time.monotonic() - started < 10.0
    for label in ("Nudge beats", "Bars a beat earlier", "Track’s beats", "Double the beats"):
        assert document.undo_label == label
        document.undo()
    assert document.grid.bpm == 46.0
    qtbot.mouseClick(read.panels.grid.ways[0], LEFT)
    assert document.grid.bpm == pytest.approx(92.0, rel=1e-4)
    assert "Detected" in read.panels.grid.says.text()


def test_beats_of_a_shuffle_are_recounted_in_one_press_and_odd_metres_chosen(read: Window, qtbot: QtBot) -> None:
    """Two for three, three for two, each one step of undo; a bar of five or seven is drawn as such."""
    document = read.document
    document.set_grid("Triplets taken for beats", Grid(bpm=138.0, first_beat_seconds=0.25, beats_per_bar=4))
    qtbot.keyClick(read, Qt.Key.Key_G)
    press(qtbot, read, "two_thirds")
    assert document.grid is not None
    assert (document.grid.bpm, document.grid.first_beat_seconds) == (pytest.approx(92.0), 0.25)
    press(qtbot, read, "three_halves")
    assert document.grid.bpm == pytest.approx(138.0)
    for metre in ("5", "7", "12"):
        qtbot.mouseClick(read.panels.grid.metre.button(metre), LEFT)
        assert document.grid.beats_per_bar == int(metre)
        assert read.waveform_view.bars is not None
        assert read.waveform_view.bars.grid.beats_per_bar == int(metre)
    for _ in range(5):
        document.undo()
    assert document.grid.bpm == pytest.approx(138.0)
    assert document.grid.beats_per_bar == 4


def test_another_way_to_hear_the_beats_is_one_press(read: Window, qtbot: QtBot) -> None:
    """All ways say what they are and how likely; a press takes one and lets it be heard, undo goes back; locked beats stay."""
    document = read.document
    document.set_grid("As detected", None)
    assert document.reading is not None
    beats = document.reading.beats
    assert beats is not None
    slow = replace(beats, times=beats.times[::2], bpm=beats.bpm / 2, bar_one=beats.bar_one // 2, confidence=0.21)
    late = replace(beats, times=tuple(t + 30.0 / beats.bpm for t in beats.times), confidence=0.07)
    kept, document.reading = document.reading, replace(document.reading, other_beats=(slow, late))
    qtbot.keyClick(read, Qt.Key.Key_G)
    panel = read.panels.grid
    panel.show_stages(document.stages, document)
    first = f"92.0 BPM ({100 * beats.confidence:.0f} %)"
    assert [button.text() for button in panel.ways] == [first, "46.0 BPM (21 %)", "½ beat later (7 %)"]
    assert [button.isChecked() for button in panel.ways] == [True, False, False]
    assert not read.play.clicking
    qtbot.mouseClick(panel.ways[2], LEFT)
    assert read.play.clicking
    assert [button.isChecked() for button in panel.ways] == [False, False, True]
    assert document.grid is not None
    assert document.grid.bpm == pytest.approx(92.0, rel=1e-3)
    assert document.grid.first_beat_seconds == pytest.approx(beats.times[beats.bar_one] + 30.0 / 92.0, abs=1e-3)
    qtbot.mouseClick(panel.ways[1], LEFT)
    assert read.play.clicking
    assert document.grid.bpm == pytest.approx(46.0, rel=1e-3)
    document.undo()
    assert document.grid.bpm == pytest.approx(92.0, rel=1e-3)
    qtbot.mouseClick(panel.lock, LEFT)
    assert not any(button.isEnabled() for button in panel.ways)
    document.reading = kept
    panel.show_stages(document.stages, document)
    assert [button.isHidden() for button in panel.ways] == [number > len(kept.other_beats) for number in range(3)]


def test_bar_one_is_where_the_playhead_is(read: Window, qtbot: QtBot) -> None:
    document = read.document
    document.set_grid("A beat off", Grid(bpm=92.0, first_beat_seconds=0.25 + 60 / 92))
    read.run("beats")
    assert read.playback is not None
    read.playback.seek("before", 0.25 + 16 * 60 / 92 + 0.004)
    wait(qtbot, lambda: abs(read.play.place()[0] - 10.68) < 0.05)
    qtbot.keyClick(read, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    grid = document.grid
    assert grid is not None
    bars = grid.bars_between(0.0, 60.0)
    assert np.abs(bars - (0.25 + 16 * 60 / 92)).min() < 1e-3
    assert read.waveform_view.bars.grid == grid


def test_tapping_along_while_it_plays_sets_tempo_and_place(
    read: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, work = read.document, read.controllers.beats
    document.set_grid("Wrong", Grid(bpm=70.0, first_beat_seconds=0.1))
    places = iter((0.25 + 60 / 92 * np.arange(8, 17) + 0.008 * np.sin(np.arange(9))).tolist())
    monkeypatch.setattr(work, "_place", lambda: (next(places), True))
    read.run("beats")
    for _ in range(9):
        qtbot.keyClick(read, Qt.Key.Key_T)
    grid = document.grid
    assert grid is not None
    assert grid.bpm == pytest.approx(92.0, rel=0.005)
    assert np.abs(grid.bars_between(4.0, 7.0) - (0.25 + 8 * 60 / 92)).min() < 0.02
    assert "Tapped" in read.notice.label.text()
    document.undo()
    assert document.grid.bpm == 70.0, "all taps are one step"


def test_tapping_while_it_is_still_sets_the_tempo_only(
    read: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = iter(np.arange(100.0, 110.0, 0.5).tolist())
    monkeypatch.setattr("latespin.desktop.controllers.song.beats.monotonic", lambda: next(now))
    read.run("beats")
    for _ in range(5):
        press(qtbot, read, "tap")
    assert read.document.grid == Grid(bpm=120.0, first_beat_seconds=0.25)


def test_a_single_beat_is_dragged_and_pinned_and_the_lock_holds(read: Window, qtbot: QtBot) -> None:
    document, waveform_view = read.document, read.waveform_view
    read.run("beats")
    waveform_view.show_range(10.0, 16.0)
    seconds = float(document.grid.seconds_of(20))
    band = waveform_view.bands().before
    start = QPoint(round(waveform_view.scale.x(seconds)) + 12, round(band.bottom()) - 18)
    assert waveform_view.beats.beat_at(start.toPointF() - QPointF(12, 0)) == 20
    drag(qtbot, waveform_view, start, 30)
    grid = document.grid
    assert grid.pinned == (20,)
    moved = float(grid.seconds_of(20)) - seconds
    assert moved == pytest.approx(30 / waveform_view.scale.px_per_second, abs=0.01)
    assert float(grid.seconds_of(0)) == pytest.approx(0.25, abs=1e-6)
    assert document.undo_label == "Move a beat"
    document.undo()
    assert document.grid == RIGHT_GRID
    qtbot.mouseClick(read.panels.grid.lock, LEFT, pos=QPoint(8, 8))
    assert document.grid.locked
    assert waveform_view.beats.beat_at(start.toPointF() - QPointF(12, 0)) is None
    press(qtbot, read, "double")
    assert document.grid.bpm == 92.0
    assert "locked" in read.notice.label.text()


def drag(qtbot: QtBot, widget: object, start: QPoint, by: int) -> None:
    """Press, move in steps, release."""
    qtbot.mousePress(widget, LEFT, pos=start)
    for part in range(1, 6):
        qtbot.mouseMove(widget, start + QPoint(by * part // 5, 0))
    qtbot.mouseRelease(widget, LEFT, pos=start + QPoint(by, 0))


def test_ranges_snap_to_bars_unless_shift_or_the_switch_says_otherwise(read: Window, qtbot: QtBot) -> None:
    waveform_view, grid = read.waveform_view, read.document.grid
    waveform_view.show_range(20.0, 40.0)
    middle = waveform_view.bands().before.center().toPoint().y() - 10
    beats = grid.seconds_of(grid.numbers_between(0.0, 60.0))
    x = round(waveform_view.scale.x(float(beats[40]))) + 12 + 4
    drag(qtbot, waveform_view, QPoint(x, middle), round(5 * 60 / 92 * waveform_view.scale.px_per_second) - 3)
    assert waveform_view.loop == pytest.approx((beats[40], beats[45]), abs=1e-4)
    qtbot.keyClick(read, Qt.Key.Key_N)
    assert not waveform_view.snapping
    drag(qtbot, waveform_view, QPoint(x, middle + 4), 200)
    assert abs(waveform_view.loop[0] - beats[40]) > 0.02
    qtbot.keyClick(read, Qt.Key.Key_N)
    assert waveform_view.snapping
    waveform_view.set_playhead("before", 21.0)
    qtbot.keyClick(read, Qt.Key.Key_Z)
    assert waveform_view.scale.seconds < 20.0
    marks = bar_marks(waveform_view.geometry_now)
    assert all("." in text for _, _, text in marks), "beats have room here"
    read.run("zoom_fit")
    assert all("." not in text for _, _, text in bar_marks(waveform_view.geometry_now))


def test_the_click_is_heard_over_both_sides_and_never_exported(read: Window, qtbot: QtBot, devices: Devices) -> None:
    qtbot.keyClick(read, Qt.Key.Key_K)
    assert read.panels.grid.click.isChecked()
    for side in ("before", "after"):
        read.play.set_side(side)
        programme = read.playback.programme()
        assert programme.click == read.document.grid
    read.run("play")
    devices.listen(qtbot, 1.0)
    wait(qtbot, lambda: read.playback.player.place()[0].click)
    read.run("click")
    assert read.playback.programme().click is None


def test_grids_go_to_files_and_come_back(read: Window, tmp_path: Path) -> None:
    work, document = read.controllers.beats, read.document
    for suffix in (".mid", ".csv"):
        work.export_to(tmp_path / f"lantern{suffix}")
        document.set_grid("Other", Grid(bpm=70.0))
        work.import_from(tmp_path / f"lantern{suffix}")
        assert document.grid.seconds_of(np.arange(140.0)) == pytest.approx(
            RIGHT_GRID.seconds_of(np.arange(140.0)), abs=1e-4
        )
    (tmp_path / "bad.csv").write_text("nothing")
    work.import_from(tmp_path / "bad.csv")
    assert "needs the columns" in read.notice.label.text()


def test_sections_are_jumped_to(read: Window, qtbot: QtBot) -> None:
    starts = [part.start for part in read.document.reading.sections]
    qtbot.keyClick(read, Qt.Key.Key_PageDown)
    wait(qtbot, lambda: abs(read.play.place()[0] - starts[1]) < 0.1)
    qtbot.keyClick(read, Qt.Key.Key_PageUp)
    wait(qtbot, lambda: read.play.place()[0] < 0.1)


def test_the_panel_tells_swing_and_where_each_tempo_holds(read: Window) -> None:
    """A song at 90 and, from its 40th beat on, 120 BPM."""
    document = read.document
    document.set_grid("As detected", None)
    assert document.reading is not None
    assert document.reading.beats is not None
    read.run("beats")
    says = read.panels.grid.says
    assert "Swing" not in says.text()
    times = np.concatenate((np.arange(40) / 1.5, 40 / 1.5 + np.arange(80) / 2.0))
    jumpy = replace(
        document.reading.beats,
        times=tuple(times.tolist()),
        steady=False,
        bar_one=0,
        swing=0.62,
        found=(0, 120),
        strong=(0.5,) * 120,
        sure=(1.0,) * 120,
    )
    document.reading = replace(document.reading, beats=jumpy)
    document.set_grid("Jumpy", Grid(bpm=120.0, beats=jumpy.times))
    assert " 90.0 BPM, 120.0 from 0:26.7." in says.text()
    document._read_grid = document.grid
    document.set_grid("As detected", None)
    assert " 90.0 BPM, 120.0 from 0:26.7. Swing 62 %." in says.text()


def test_where_no_beat_is_found_tapping_is_offered(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    import soundfile

    soundfile.write(tmp_path / "hush.wav", np.random.default_rng(1).standard_normal((44_100 * 10, 2)) * 0.05, 44_100)
    window.files.open_file(tmp_path / "hush.wav")
    wait(qtbot, lambda: window.document.reading)
    assert window.document.grid is None
    window.run("beats")
    assert "No steady beat found" in window.panels.grid.says.text()
    assert "No key found" in window.panels.grid.key_says.text()
    assert window.waveform_view.bars is None
    press(qtbot, window, "tap")
    assert "Keep tapping" in window.notice.label.text()
