"""From an empty window to a finished file, and trying recipes on the way."""

import threading
import time
from pathlib import Path

import numpy as np
import pytest
import soundfile
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QEnterEvent
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.shapes import peaks_of
from latespin.desktop.shell.hint_bar import HINTS, HintBar
from latespin.desktop.shell.main_window import Window
from latespin.desktop.shell.recipe_strip import MOST_VERSIONS
from latespin.desktop.shell.welcome.page import Welcome
from latespin.media.audio import decode
from latespin.media.track import open_track
from latespin.render.hearing import Hearing
from latespin.render.recipes import find_recipe
from tests.conftest import noise
from tests.window.conftest import Devices, wait

LEFT = Qt.MouseButton.LeftButton
RATE = 44_100


@pytest.fixture
def song(tmp_path: Path) -> Path:
    """Twenty seconds, loud in the second half."""
    sound = noise(20.0, RATE, level=0.02)
    sound[:, 10 * RATE :] *= 4.0
    soundfile.write(tmp_path / "rink.flac", sound.T, RATE)
    return tmp_path / "rink.flac"


@pytest.fixture
def fresh(window: Window, qtbot: QtBot, song: Path) -> Window:
    """A song just opened."""
    window.files.open_file(song)
    wait(qtbot, lambda: window.document.loaded and window.version_list.strip.rows)
    return window


def press(window: Window, qtbot: QtBot, name: str) -> None:
    """Press a recipe of the strip."""
    qtbot.mouseClick(window.version_list.strip.rows[name], LEFT)


def names(window: Window) -> list[str]:
    """The versions."""
    return [version.name for version in window.document.session.versions]


def test_five_actions_lead_from_the_first_start_to_a_file(
    window: Window, qtbot: QtBot, song: Path, devices: Devices
) -> None:
    """Drop, press a recipe, open the export, confirm: four; nothing else has to be read or typed."""
    actions = 0
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(song))])
    drop = QDropEvent(QPointF(400, 300), Qt.DropAction.CopyAction, data, LEFT, Qt.KeyboardModifier.NoModifier)
    window.dropEvent(drop)
    actions += 1
    strip = window.version_list.strip
    wait(qtbot, lambda: window.document.loaded and strip.rows and strip.isVisible())
    press(window, qtbot, "sped-up")
    actions += 1
    player = window.play.player
    assert player is not None
    wait(
        qtbot,
        lambda: player.playing and devices.last is not None and np.abs(devices.last.played()).max(initial=0.0) > 0.001,
    )
    qtbot.keyClick(window, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    actions += 1
    wait(qtbot, lambda: any(dialog.isVisible() for dialog in window.findChildren(ExportDialog)))
    dialog = next(dialog for dialog in window.findChildren(ExportDialog) if dialog.isVisible())
    assert dialog.accept_button.isDefault()
    qtbot.keyClick(dialog, Qt.Key.Key_Return)
    actions += 1
    target = song.with_name("rink - Sped up.flac")
    wait(qtbot, target.exists)
    assert actions <= 5
    speed = find_recipe("sped-up").stages.time.speed
    assert open_track(target).seconds == pytest.approx(20.0 / speed, abs=0.01)


def test_each_recipe_takes_the_place_of_the_one_before_at_the_same_place(fresh: Window, qtbot: QtBot) -> None:
    press(fresh, qtbot, "underwater")
    player = fresh.play.player
    assert player is not None
    assert names(fresh) == ["Slowed + reverb", "Underwater"]
    wait(qtbot, lambda: player.playing)
    rate = player.rate
    made = fresh.document.arrangement()
    assert made is not None
    assert made.map.before_at(player.place()[1]) > 9.0 * rate, (
        "a song that has not begun is heard from its loudest part"
    )
    player.pause()
    fresh.play.seek("before", 12.0)
    wait(qtbot, lambda: player.exact)
    press(fresh, qtbot, "sped-up")
    programme, frame = player.place()
    assert programme is not None
    assert programme.to_before(frame) / rate == pytest.approx(12.0, abs=1.0)
    assert names(fresh) == ["Slowed + reverb", "Sped up"]
    wait(qtbot, lambda: player.playing)
    strip = fresh.version_list.strip
    assert [name for name, row in strip.rows.items() if row.isChecked()] == ["sped-up"]
    fresh.run("undo")
    assert names(fresh) == ["Slowed + reverb", "Underwater"]
    fresh.run("undo")
    assert names(fresh) == ["Slowed + reverb"]


def test_what_is_kept_or_changed_stays_beside_the_next_one(fresh: Window, qtbot: QtBot) -> None:
    strip = fresh.version_list.strip
    press(fresh, qtbot, "underwater")
    assert strip.keep.isVisible()
    qtbot.mouseClick(strip.keep, LEFT)
    assert not strip.keep.isVisible()
    press(fresh, qtbot, "lofi-vinyl")
    assert names(fresh) == ["Slowed + reverb", "Underwater", "Lo-fi vinyl"]
    stages = fresh.document.stages
    fresh.document.edit_stages("Slower", type(stages)(time=type(stages.time)(speed=0.9)))
    assert not strip.keep.isVisible(), "a recipe that was changed is a version"
    press(fresh, qtbot, "halftime")
    assert names(fresh)[:3] == ["Slowed + reverb", "Underwater", "Lo-fi vinyl"]
    assert len(names(fresh)) == 4 > MOST_VERSIONS
    assert not strip.isVisible(), "now the versions need the room"


def test_hovering_says_what_a_recipe_does(fresh: Window, qtbot: QtBot) -> None:
    strip = fresh.version_list.strip
    assert "Press a recipe" in strip.summary.text()
    row = strip.rows["8d-spin"]
    place = QPointF(5, 5)
    QApplication.sendEvent(row, QEnterEvent(place, place, place))
    assert strip.summary.text() == find_recipe("8d-spin").summary
    assert row.accessibleDescription() == find_recipe("8d-spin").summary
    QApplication.sendEvent(row, QEvent(QEvent.Type.Leave))
    assert "Press a recipe" in strip.summary.text()
    row.setFocus()
    qtbot.keyClick(row, Qt.Key.Key_Return)
    assert "8D spin" in names(fresh), "the keyboard does the same"


def test_a_song_is_drawn_while_it_is_being_decoded(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Its waveform grows from the left; what is not decoded yet is empty."""
    path = tmp_path / "long.wav"
    soundfile.write(path, noise(30.0).T, 44_100)
    monkeypatch.setattr(decode, "BLOCK_FRAMES", 1 << 15)
    really = Hearing.hear

    def slowly(self: Hearing, block: np.ndarray, rate: int) -> None:
        really(self, block, rate)
        time.sleep(0.05)

    monkeypatch.setattr(Hearing, "hear", slowly)
    window.files.open_file(path)
    shown = window.welcome.waveform
    wait(qtbot, lambda: shown.peaks is not None and 0.1 < shown.share < 0.8)
    assert shown.peaks is not None
    share, image = shown.share, shown.grab().toImage()
    drawn = [x for x in range(image.width()) if image.pixelColor(x, image.height() // 2).lightness() > 90]
    assert drawn[0] < 0.02 * image.width()
    assert abs(max(drawn) / image.width() - share) < 0.15
    wait(qtbot, lambda: window.document.loaded)
    assert window.document.loaded is not None
    assert window.document.loaded.peaks.frames == 30 * 44_100


def test_a_song_is_heard_while_it_is_being_decoded(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, devices: Devices
) -> None:
    """From a press of Space, from where its waveform is clicked on, and on from there once it is open."""
    sound, path = noise(30.0, level=0.1), tmp_path / "long.wav"
    soundfile.write(path, sound.T, RATE, subtype="FLOAT")
    monkeypatch.setattr(decode, "BLOCK_FRAMES", 1 << 15)
    really, go_on = Hearing.hear, threading.Event()

    def slowly(self: Hearing, block: np.ndarray, rate: int) -> None:
        really(self, block, rate)
        if block.shape[1] and self._frames > 12 * RATE:
            go_on.wait(20.0)

    monkeypatch.setattr(Hearing, "hear", slowly)
    window.settings.volume_percent = 100.0
    window.files.open_file(path)
    page, listening = window.welcome, window.opening.listening
    wait(qtbot, lambda: page.listen.isEnabled() and page.waveform.share > 0.3)
    assert page.listen.text() == "Listen  0:00"
    qtbot.keyClick(page, Qt.Key.Key_Space)
    wait(qtbot, lambda: devices.last is not None and devices.last.played().shape[1] > RATE)
    assert devices.last is not None
    heard = devices.last.played()
    assert np.array_equal(heard[:, :RATE], sound[:, :RATE])
    assert page.listen.text().startswith("Pause")
    there = QPoint(round(page.waveform.width() * 0.3), 20)
    qtbot.mouseClick(page.waveform, LEFT, pos=there)
    assert page.waveform.seconds == pytest.approx(9.0, abs=1.5)
    wait(qtbot, lambda: page.waveform.seconds > 10.0)
    qtbot.keyClick(page, Qt.Key.Key_Space)
    assert page.listen.text().startswith("Listen")
    qtbot.keyClick(page, Qt.Key.Key_Space)
    place = page.waveform.seconds
    page.waveform.repaint()
    drawn: list[object] = []
    monkeypatch.setattr(page.waveform, "_drawn", drawn.append)
    for step in range(5):
        page.waveform.show_place(11.0 + 0.1 * step)
        page.waveform.repaint()
    assert not drawn, "only the playhead moves"
    (task,) = window.work.active("open")
    go_on.set()
    while task.active:
        time.sleep(0.01)
    window.opening.show()  # as a timer may, before the song that is open is delivered
    wait(qtbot, lambda: window.document.loaded)
    assert not page.isVisible()
    assert window.playback is not None
    assert window.playback.side == "before"
    assert window.play.place()[1], "it goes on"
    assert place - 0.1 <= window.play.place()[0] < place + 15.0
    assert listening.end() == (0.0, False), "nothing plays beside it"


def test_space_presses_the_buttons_of_an_empty_window(window: Window, qtbot: QtBot) -> None:
    """There is nothing to listen to yet."""
    page, pressed = Welcome(), []
    qtbot.addWidget(page)
    page.show_recent([], {})
    page.demo_wanted.connect(lambda: pressed.append("demo"))
    page.listen_wanted.connect(lambda: pressed.append("listen"))
    page.show()
    page.activateWindow()
    qtbot.waitUntil(page.isActiveWindow)
    page.demo.setFocus()
    qtbot.keyClick(page.demo, Qt.Key.Key_Space)
    assert pressed == ["demo"]


def test_what_is_heard_of_a_song_ends_with_it(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, devices: Devices
) -> None:
    """Cancelled in the list of work while it is listened to."""
    path, go_on = tmp_path / "long.wav", threading.Event()
    soundfile.write(path, noise(20.0).T, RATE)
    monkeypatch.setattr(Hearing, "hear", lambda *_: go_on.wait(20.0))
    window.files.open_file(path)
    page = window.welcome
    wait(qtbot, page.listen.isEnabled)
    qtbot.mouseClick(page.listen, LEFT)
    wait(qtbot, lambda: devices.last is not None and devices.last.played().shape[1] > 0)
    (task,) = window.work.active("open")
    task.cancel()
    go_on.set()
    wait(qtbot, lambda: not window.work.active("open"))
    assert not page.listen.isVisible()
    assert page.waveform.seconds == 0.0
    assert window.opening.listening.end() == (0.0, False)


def test_each_panel_has_a_hint_until_it_is_dismissed(window: Window, qtbot: QtBot, song: Path) -> None:
    """Nothing waits for it; which ones were dismissed is remembered, and one press ends them all."""
    made, settings = window, window.settings
    settings.hints_dismissed = []
    hints = made.findChild(HintBar)
    assert isinstance(hints, HintBar)
    assert not hints.isVisible(), "there is nothing to do yet"
    made.files.open_file(song)
    wait(qtbot, lambda: made.document.loaded)
    for panel, hint in HINTS.items():
        made.open_panel(panel)
        assert hints.isVisible()
        assert hints.label.text() == hint
    made.open_panel("moments")
    qtbot.mouseClick(hints.dismiss, LEFT)
    assert not hints.isVisible()
    made.open_panel("ending")
    assert hints.isVisible()
    made.open_panel("moments")
    assert not hints.isVisible()
    assert settings.hints_dismissed == ["moments"]
    made.open_panel("time")
    qtbot.mouseClick(hints.dismiss_all, LEFT)
    for panel in HINTS:
        made.open_panel(panel)
        assert not hints.isVisible()


def test_files_opened_last_are_offered_with_their_shapes(window: Window, qtbot: QtBot, song: Path) -> None:
    """Quiet, loud, quiet: so is the small picture beside the name; a broken shape is none."""
    sound = noise(9.0) * np.repeat([0.1, 1.0, 0.1], 3 * 44_100).astype(np.float32)
    soundfile.write(song, sound.T / np.abs(sound).max(), 44_100)
    window.files.open_file(song)
    wait(qtbot, lambda: window.document.loaded)
    (name, shape), *_ = window.settings.recent_shapes
    assert name == str(song)
    peaks = peaks_of(shape)
    assert peaks is not None
    heights = peaks.highest.tolist()
    assert len(heights) == 96
    assert max(heights[:31]) < 0.2
    assert min(heights[33:63]) > 0.6
    again = Welcome()
    qtbot.addWidget(again)
    again.resize(900, 600)
    again.show_recent([str(song), "/gone/other.flac"], {str(song): shape, "/gone/other.flac": "no shape"})
    again.show()
    known, other = (
        button for button in again.findChildren(QPushButton) if button.toolTip() in (str(song), "/gone/other.flac")
    )
    image, empty = (button.icon().pixmap(button.iconSize()).toImage() for button in (known, other))
    tall = [sum(image.pixelColor(x, y).alpha() > 0 for y in range(image.height())) for x in range(image.width())]
    assert max(tall[:28]) < 0.4 * min(tall[36:60])
    assert not any(empty.pixelColor(x, empty.height() // 2).alpha() for x in range(empty.width()))
    again.show_recent([str(song), "/gone/other.flac"], {str(song): shape, "/gone/other.flac": "no shape"})
    assert known in again.findChildren(QPushButton), "what is shown already is not made anew beneath the pointer"
    asked: list[str] = []
    again.recent_wanted.connect(asked.append)
    qtbot.mouseClick(known, LEFT)
    assert asked == [str(song)]


def test_the_first_picture_is_that_of_the_whole_window(devices: Devices, qtbot: QtBot) -> None:
    """What is built after it moves nothing; a window that is closed at once ends as any other."""
    whole, hasty = (Window(Settings(), devices) for _ in range(2))
    qtbot.addWidget(whole)
    whole.show()
    whole.activateWindow()
    wait(qtbot, whole.isActiveWindow)
    qtbot.wait(20)
    first = whole.grab().toImage()
    assert not hasattr(whole, "controllers")
    whole.finish_building()
    panels = whole.panels
    qtbot.wait(20)
    assert whole.grab().toImage() == first
    whole.finish_building()
    assert whole.panels is panels
    assert whole.close()
    assert hasty.close()
    hasty.deleteLater()


def test_a_song_is_read_once_its_first_picture_is_there(window: Window, song: Path, qtbot: QtBot) -> None:
    """Both need Python's lock. Until then it counts as being read."""
    document, seen = window.document, []
    document.session_changed.connect(lambda: seen.append((document.is_reading, document.work.active("read"))))
    window.files.open_file(song)
    qtbot.waitUntil(lambda: document.loaded is not None, timeout=60_000)
    assert seen[0] == (True, [])
    qtbot.waitUntil(lambda: document.reading is not None and not document.is_reading, timeout=60_000)
