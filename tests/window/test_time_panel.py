"""The Time bench, the tempo curve on the waveform, and the track's beats, by mouse and keys."""

import numpy as np
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtWidgets import QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from latespin.desktop.canvas.waveform_view import MARGIN
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.tempo_curve import factor_at
from latespin.model.version import Time
from tests.conftest import sine, track_of
from tests.window.conftest import Devices, wait

LEFT = Qt.MouseButton.LeftButton


def type_entry(qtbot: QtBot, entry: InlineEdit, text: str) -> None:
    """Press a value and type another."""
    qtbot.mouseClick(entry.findChild(QPushButton), LEFT)
    line = entry.findChild(QLineEdit)
    line.selectAll()
    qtbot.keyClicks(line, text)
    qtbot.keyClick(line, Qt.Key.Key_Return)


def forget_beats(window: Window, qtbot: QtBot) -> None:
    """As if no beat had been found in the song."""
    wait(qtbot, lambda: window.document.reading)
    window.document._read_grid = None
    window.document.set_grid("Unknown tempo", None)


def open_page(qtbot: QtBot, window: Window, name: str) -> None:
    """Press a page's button."""
    qtbot.mouseClick(window.panels.time.choices.button(name), LEFT)
    assert window.panels.time.stack.currentWidget() is window.panels.time.pages[name]


def test_linked_speed_offers_to_hold_the_pitch(read: Window, qtbot: QtBot) -> None:
    page = read.panels.time.speed
    type_entry(qtbot, page.entries["percent"], "125 %")
    assert read.document.stages.time.speed == 1.25
    assert page.hold.text() == "Hold pitch (equivalent to −3.86\u00a0st)"
    qtbot.mouseClick(page.hold, LEFT)
    time = read.document.stages.time
    assert (time.pitch, time.semitones, time.speed) == ("held", 0.0, 1.25)
    assert not page.hold.isVisible()
    assert read.panels.time.strain.words() == "Natural"
    type_entry(qtbot, page.entries["ratio"], "2")
    assert read.document.stages.time.semitones == pytest.approx(12.0)
    assert read.panels.time.strain.words() == "Voices will sound smaller"


def test_tempo_is_set_in_bpm_once_the_tracks_is_known(read: Window, qtbot: QtBot) -> None:
    before, known = read.document.stages, read.document.session.grid
    assert known == Grid(bpm=92.0, first_beat_seconds=0.25)
    forget_beats(read, qtbot)
    type_entry(qtbot, read.panels.time.speed.entries["tempo"], "80")
    assert read.document.stages == before
    assert "track’s own BPM" in read.notice.label.text()
    type_entry(qtbot, read.header.before["tempo"], "92")  # type: ignore[arg-type]
    assert read.header.after["tempo"].text() == "78.2"
    type_entry(qtbot, read.header.after["tempo"], "80 bpm")
    assert read.document.stages.time.speed == pytest.approx(80 / 92)
    for _ in range(3):
        read.document.undo()
    assert read.document.session.grid == known
    assert read.document.stages == before


def test_a_curve_is_drawn_dragged_and_deleted_on_the_waveform(read: Window, qtbot: QtBot) -> None:
    open_page(qtbot, read, "curve")
    waveform_view = read.waveform_view
    line = waveform_view.curve.line()
    assert line is not None
    middle = line.band.center().toPoint()
    above = QPoint(middle.x(), middle.y() - 20)
    qtbot.mouseDClick(waveform_view, LEFT, pos=above)
    curve = read.document.stages.time.curve
    assert len(curve) == 3
    assert curve[1].speed > 1.0
    assert waveform_view.curve.point == 1
    line = waveform_view.curve.line()
    assert line is not None
    grip = line.at(curve[1]).toPoint() + QPoint(12, 0)
    qtbot.mousePress(waveform_view, LEFT, pos=grip)
    for step in range(1, 6):
        qtbot.mouseMove(waveform_view, grip + QPoint(8 * step, 6 * step))
    qtbot.mouseRelease(waveform_view, LEFT, pos=grip + QPoint(40, 30))
    dragged = read.document.stages.time.curve[1]
    assert dragged.place > curve[1].place
    assert dragged.speed < curve[1].speed
    read.document.undo()
    assert read.document.stages.time.curve == curve, "a drag is one step of undo"
    read.document.redo()
    edge = line.band.top() + 1
    held = waveform_view.curve.line()
    assert held is not None
    qtbot.mousePress(waveform_view, LEFT, pos=held.at(dragged).toPoint() + QPoint(12, 0))
    reached = []
    for x in range(5):
        qtbot.mouseMove(waveform_view, QPoint(middle.x() + x, int(edge)))
        reached.append(read.document.stages.time.curve[1].speed)
    assert max(reached) == min(reached), "a hand that stays at one height leaves the speed alone"
    qtbot.mouseRelease(waveform_view, LEFT, pos=QPoint(middle.x(), int(edge)))
    read.document.undo()
    waveform_view.setFocus()
    qtbot.keyClick(waveform_view, Qt.Key.Key_Up)
    assert read.document.stages.time.curve[1].speed == pytest.approx(dragged.speed * 1.01)
    qtbot.keyClick(waveform_view, Qt.Key.Key_Delete)
    assert read.document.stages.time.curve == ()


def test_a_curve_in_numbers_and_a_range_fitted_to_a_length(short: Window, qtbot: QtBot) -> None:
    open_page(qtbot, short, "curve")
    page, document = short.panels.time.curve, short.document
    type_entry(qtbot, page.entries["start"], "0.9")
    type_entry(qtbot, page.entries["end"], "1.15")
    time = document.stages.time
    assert time.speed * time.curve[0].speed == pytest.approx(0.9)
    assert time.speed * time.curve[-1].speed == pytest.approx(1.15)
    qtbot.mouseClick(page.shape.button("smooth"), LEFT)
    assert document.stages.time.curve[0].shape == "smooth"
    short.play.mark((4.0, 12.0))
    type_entry(qtbot, page.entries["fit"], "0:10.5")
    time_map = document.time_map()
    assert time_map is not None
    lasts = time_map.after_at(12.0 * 44_100) - time_map.after_at(4.0 * 44_100)
    assert lasts / 44_100 == pytest.approx(10.5, abs=1e-6)
    assert page.entries["fit"].text() == "0:10.50"
    kept = document.stages
    type_entry(qtbot, page.entries["fit"], "9:00")
    assert document.stages == kept
    assert "can last" in short.notice.label.text()
    assert factor_at(document.stages.time.curve, 0.0) * time.speed == pytest.approx(0.9)
    wait(qtbot, document.measured)
    qtbot.mouseClick(page.clear, LEFT)
    assert document.stages.time.curve == ()


def test_halftime_needs_bars_and_is_heard_anew_when_they_move(short: Window, qtbot: QtBot, devices: Devices) -> None:
    open_page(qtbot, short, "halftime")
    page, document = short.panels.time.halftime, short.document
    forget_beats(short, qtbot)
    qtbot.mouseClick(page.halftime.button("bar"), LEFT)
    assert "type its BPM" in short.panels.time.problem.text()
    type_entry(qtbot, page.entries["source-bpm"], "92")
    assert document.time_map() is not None
    assert len(document.time_map().spans) > 5  # type: ignore[union-attr]
    wait(qtbot, document.measured)
    short.run("play")
    assert np.abs(devices.listen(qtbot, 1.0)).max() > 0.01
    short.run("play")
    old = document.measured()
    type_entry(qtbot, page.entries["first-beat"], "0:00.25")
    assert document.measured() is None, "what depends on the bars is measured again"
    wait(qtbot, document.measured)
    assert document.measured() is not old
    type_entry(qtbot, page.entries["beats"], "13")
    assert document.session.grid is not None
    assert document.session.grid.beats_per_bar == 4
    assert "1.00 to 12.00" in short.notice.label.text()


def test_smearing_reaches_further_and_going_back_is_safe(read: Window, qtbot: QtBot) -> None:
    open_page(qtbot, read, "character")
    document, page = read.document, read.panels.time.character
    document.edit_stages("held", replace(document.stages, time=replace(document.stages.time, pitch="held")))
    qtbot.mouseClick(page.character.button("smear"), LEFT)
    assert read.panels.time.strain.words() == "Words and drums will melt"
    type_entry(qtbot, read.panels.time.speed.entries["percent"], "5 %")
    assert document.stages.time.speed == 0.05
    qtbot.mouseClick(page.character.button("drums"), LEFT)
    assert document.stages.time.speed == 0.25
    qtbot.mouseClick(page.formants.button("kept"), LEFT)
    assert document.stages.time.formants == "kept"


def test_auditions_loop_a_passage_and_play_it(read: Window, qtbot: QtBot) -> None:
    open_page(qtbot, read, "character")
    for kind in ("drums", "voice"):
        qtbot.mouseClick(read.panels.time.character.auditions[kind], LEFT)
        wait(qtbot, lambda: read.waveform_view.loop is not None)
        assert read.waveform_view.loop is not None
        start, end = read.waveform_view.loop
        assert end - start == pytest.approx(6.0, abs=0.1)
        assert read.playback is not None
        assert read.playback.player is not None
        assert read.playback.player.playing
        read.play.mark(None)


def test_the_curve_line_keeps_to_its_limits() -> None:
    from PySide6.QtCore import QRectF

    from latespin.desktop.canvas.layers.tempo_curve_line import CurveLine
    from latespin.desktop.canvas.time_axis import TimeScale
    from latespin.model.timing.tempo_curve import CurvePoint

    curve = (CurvePoint(place=0.0, speed=1.0), CurvePoint(place=0.5, speed=1.0), CurvePoint(place=1.0, speed=1.0))
    line = CurveLine(curve, 0.8, 100.0, QRectF(0, 20, 1000, 120), TimeScale.fitted(1000, 100.0))
    moved = line.dragged(1, QPointF(5000.0, -9000.0))[1]
    assert 0.5 < moved.place < 1.0
    assert moved.speed * 0.8 == pytest.approx(4.0, abs=0.001) or moved.speed == 4.0
    assert line.under(QPointF(500.0, line.y(0.8))) == 1
    assert line.under(QPointF(250.0, line.y(0.8))) is None


def test_a_short_track_has_passages_too() -> None:
    from latespin.analysis.passages import find_passages
    from latespin.dsp.onsets.transient_map import TransientMap

    track = track_of(sine(440, 1.0))
    found = find_passages(track.sound, track.rate, TransientMap(track.sound, track.rate))
    assert found.drums[1] <= track.frames
    assert found.voice[0] == 0


def test_strain_is_drawn_along_the_song_said_at_the_playhead_and_jumped_to(read: Window, qtbot: QtBot) -> None:
    read.open_panel("time")
    stages = read.document.stages
    read.document.edit_stages("Natural", replace(stages, time=Time(speed=0.9)))
    panel, band = read.panels.time, read.waveform_view.strain
    assert not band.amounts.any()
    assert not panel.worst.isVisible()
    assert read.controllers.tempo._content is None, "a natural version costs no search for attacks"
    assert panel.strain.text() == panel.strain.words()
    read.document.edit_stages("Higher", replace(stages, time=Time(speed=1.5, pitch="held", semitones=6.0)))
    wait(qtbot, lambda: band.amounts.any())
    assert band.amounts.max() > 0.3
    assert (band.amounts == 0.0).any(), "the quiet end is natural"
    worst = int(np.argmax(band.amounts))
    view = read.waveform_view
    x = view.scale.x(float(band.edges[worst : worst + 2].mean())) + MARGIN
    picture = view.grab().toImage()
    pixel = picture.pixelColor(round(x), round(view.bands().after.top() + 2))
    assert pixel.red() > pixel.blue() + 20, "drawn in the colour of warnings"
    quiet = int(np.flatnonzero(band.amounts == 0.0)[0])
    read.play.seek("after", float(band.edges[quiet : quiet + 2].mean()))
    wait(qtbot, lambda: "natural" in panel.strain.text())
    qtbot.mouseClick(panel.worst, Qt.MouseButton.LeftButton)
    wait(qtbot, lambda: "voices will sound smaller" in panel.strain.text())
    assert panel.strain.text().startswith("At the playhead")
    read.document.edit_stages("Natural", replace(stages, time=Time(speed=0.9)))
    qtbot.keyClick(read, Qt.Key.Key_V)
    assert "Nothing in this version is strained" in read.notice.label.text()
