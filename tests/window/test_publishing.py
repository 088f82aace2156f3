"""Excerpts, formats and videos, exported through the real dialogs."""

import contextlib
import shutil
import threading
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from jeepney import MessageType, new_error, new_method_return
from jeepney.bus_messages import message_bus
from jeepney.io.blocking import open_dbus_connection
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QColor, QDrag, QDropEvent, QImage, QMouseEvent
from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QWidget
from pytestqt.qtbot import QtBot

from latespin.desktop.dialogs.export import ExportDialog
from latespin.desktop.dialogs.format_chooser import FormatChooser
from latespin.desktop.dialogs.part_chooser import LOUDEST, MARKED
from latespin.desktop.dialogs.tags import TagsDialog
from latespin.desktop.dialogs.video import CARD, OWN, PICTURE, VideoDialog
from latespin.desktop.movies.card import Card
from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.main_window import Window
from latespin.integration import desktop_wishes
from latespin.integration.desktop_wishes import motion_is_reduced
from latespin.media.tags import TagEdits, Tags
from latespin.media.track import open_track
from latespin.media.video.clip import clip_of
from latespin.model.version import Stages, Time
from tests.clips import HUM_HZ, apart_ms, beeps, flashes, hum_hz, make_clip
from tests.window.conftest import wait

RATE = 44_100


def opened(window: Window, qtbot: QtBot, command: str, kind: type[QDialog]) -> QDialog:
    """The dialog that a command opens."""
    window.run(command)
    wait(qtbot, lambda: any(dialog.isVisible() for dialog in window.findChildren(kind)))
    return next(dialog for dialog in window.findChildren(kind) if dialog.isVisible())


def choose(box, data: object) -> None:  # type: ignore[no-untyped-def]
    """Choose an entry by what it stands for."""
    assert box.findData(data) >= 0
    box.setCurrentIndex(box.findData(data))


def test_the_marked_range_becomes_a_file_of_its_length(short: Window, qtbot: QtBot, tmp_path: Path) -> None:
    short.play.mark((4.0, 9.0))
    dialog = opened(short, qtbot, "export", ExportDialog)
    assert isinstance(dialog, ExportDialog)
    speed = short.document.stages.time.speed
    choose(dialog.part.what, MARKED)
    assert "of the version" in dialog.part.says.text()
    assert not dialog.part.lengths.isVisibleTo(dialog)
    choose(dialog.part.fade, 1.0)
    choose(dialog.kind.format, ".m4a")
    dialog.kind.quality.setCurrentText("Lossless (ALAC), 24 bit, dithered")
    choose(dialog.kind.rate, 48_000)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("ring")
    dialog.accept()
    wait(qtbot, lambda: (tmp_path / "ring.m4a").exists())
    track = open_track(tmp_path / "ring.m4a")
    assert track.rate == 48_000
    assert track.seconds == pytest.approx(5.0 / speed, abs=0.001)
    assert np.abs(track.sound[:, :48]).max() < 0.001, "it fades in"
    assert short.settings.export_encodings[".m4a"] == ("Lossless (ALAC), 24 bit, dithered", 48_000)


def test_exports_go_where_the_last_one_went_or_beside_the_song(tmp_path: Path) -> None:
    settings, song = Settings(), tmp_path / "songs" / "a.flac"
    assert settings.folder_for(song) == tmp_path / "songs"
    settings.export_folder = str(tmp_path)
    assert settings.folder_for(song) == tmp_path
    settings.export_folder = str(tmp_path / "gone")
    assert settings.folder_for(song) == tmp_path / "songs"


def test_choices_of_quality_are_kept_for_each_format(qtbot: QtBot) -> None:
    settings = Settings()
    first = FormatChooser(settings)
    qtbot.addWidget(first)
    choose(first.format, ".mp3")
    first.quality.setCurrentText("192 kbit/s")
    first.remember()
    choose(first.format, ".wav")
    assert first.encoding.depth == "float"
    first.remember()
    again = FormatChooser(settings)
    qtbot.addWidget(again)
    assert again.suffix == ".wav"
    choose(again.format, ".mp3")
    assert again.encoding.kbps == 192
    assert again.rate.findData(96_000) < 0, "MP3 has no such rate"


class Portal(threading.Thread):
    """The desktop's settings, as its portal tells them."""

    def __init__(self, settings: dict[tuple[str, str], tuple[str, object]]) -> None:
        super().__init__(daemon=True)
        self._settings = settings
        self._bus = open_dbus_connection("SESSION")
        self._bus.send_and_get_reply(message_bus.RequestName(desktop_wishes.BUS_NAME))
        self.start()

    def run(self) -> None:
        """Answer until the bus is gone."""
        with contextlib.closing(self._bus), contextlib.suppress(OSError):
            while True:
                message = self._bus.receive()
                if message.header.message_type is not MessageType.method_call:
                    continue
                value = self._settings.get(message.body)
                answer = new_method_return(message, "v", (("v", value),)) if value else new_error(message, "org.none")
                self._bus.send(answer)


@pytest.mark.parametrize(
    ("settings", "still"),
    [
        ({}, False),
        ({("org.freedesktop.appearance", "reduced-motion"): ("u", 0)}, False),
        ({("org.freedesktop.appearance", "reduced-motion"): ("u", 1)}, True),
        ({("org.gnome.desktop.interface", "enable-animations"): ("b", False)}, True),
        ({("org.gnome.desktop.interface", "enable-animations"): ("b", True)}, False),
    ],
)
def test_the_desktop_says_whether_things_may_move(bus: str, settings: dict[Any, Any], still: bool) -> None:
    assert not motion_is_reduced(), "there is no portal"
    Portal(settings)
    assert motion_is_reduced() == still


def test_the_preview_stands_still_where_the_desktop_wishes_and_moves_when_pressed(
    bus: str, short: Window, qtbot: QtBot
) -> None:
    Portal({("org.freedesktop.appearance", "reduced-motion"): ("u", 1)})
    dialog = opened(short, qtbot, "export_video", VideoDialog)
    assert isinstance(dialog, VideoDialog)
    dialog.moving.setChecked(True)
    preview = dialog.preview
    wait(qtbot, lambda: not preview._timer.isActive())
    before = preview.grab().toImage()
    qtbot.wait(200)
    assert preview.grab().toImage() == before
    qtbot.mouseClick(preview, dialog_left())
    wait(qtbot, lambda: preview.grab().toImage() != before)
    preview.setFocus()
    qtbot.keyClick(preview, Qt.Key.Key_Space)
    assert not preview._timer.isActive()
    dialog.reject()


def test_a_card_that_moves_becomes_a_video(short: Window, qtbot: QtBot, tmp_path: Path) -> None:
    dialog = opened(short, qtbot, "export_video", VideoDialog)
    assert isinstance(dialog, VideoDialog)
    assert dialog.picture.findData(OWN) < 0
    assert dialog.title.text() == "Lantern Light"
    qtbot.mouseClick(dialog.shape.button("1:1"), dialog_left())
    choose(dialog.lines, 720)
    choose(dialog.part.what, LOUDEST)
    qtbot.mouseClick(dialog.part.lengths.button("15"), dialog_left())
    before = dialog.preview.grab().toImage()
    wait(qtbot, lambda: dialog.preview.grab().toImage() != before)  # it moves
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("ring")
    dialog.accept()
    wait(qtbot, lambda: (tmp_path / "ring.mp4").exists())
    with av.open(str(tmp_path / "ring.mp4")) as container:
        shown, heard = container.streams.video[0], container.streams.audio[0]
        assert (shown.width, shown.height, shown.average_rate) == (720, 720, 30)
        assert float(shown.duration * shown.time_base) == pytest.approx(
            float(heard.duration * heard.time_base), abs=0.04
        )
    wait(qtbot, lambda: not short.work.active("export"))
    assert open_track(tmp_path / "ring.mp4").tags.first("title").startswith("Lantern Light (")
    assert (short.settings.movie_shape, short.settings.movie_size) == ("1:1", 720)


def dialog_left():  # type: ignore[no-untyped-def]
    """The left button."""
    return Qt.MouseButton.LeftButton


def test_another_sound_track_of_a_clip_is_offered_chosen_and_kept(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, asked = window.document, []

    def answer(
        parent: QWidget, title: str, question: str, items: list[str], now: int, editable: bool
    ) -> tuple[str, bool]:
        asked.append((items[now], editable))
        return items[1], True

    monkeypatch.setattr(QInputDialog, "getItem", answer)
    window.files.open_file(make_clip(tmp_path / "rink.mkv", 3, sounds=2))
    wait(qtbot, lambda: document.loaded)
    assert window.notice.label.text() == "rink.mkv has 2 sound tracks; number 1 is the song."
    document.add_version("Closing", Stages(time=Time(speed=0.8)))
    versions = document.session.versions
    window.settings.recent = []
    qtbot.mouseClick(window.notice.choice, dialog_left())
    wait(qtbot, lambda: document.loaded.track.sound_track == 2)  # type: ignore[union-attr]
    track = document.loaded.track  # type: ignore[union-attr]
    assert hum_hz(track.sound, track.rate) == pytest.approx(2 * HUM_HZ, abs=3)
    assert [what.split(",")[0] for what, _ in asked] == ["1: Hum 1"]
    assert document.session.versions == versions
    assert document.modified, "an edit that was never saved is asked about still"
    saved = tmp_path / "rink.latespin"
    assert document.save(saved)
    window.files.open_file(saved)
    before = document.loaded
    wait(qtbot, lambda: document.loaded is not before)
    assert document.loaded.track.sound_track == 2  # type: ignore[union-attr]
    assert not document.modified
    window.run("sound_track")
    wait(qtbot, lambda: len(asked) == 2)
    other = make_clip(tmp_path / "other.mkv", 3)
    document.use_sound_track(1)
    document.open_song(other)
    wait(qtbot, lambda: document.loaded.track.path == other)  # type: ignore[union-attr]
    document.open_song(saved.with_suffix(".mkv"))
    document.use_sound_track(1)
    wait(qtbot, lambda: not window.work.active("open"))
    assert document.loaded.track.path == other, (
        "what was asked for last is opened, and no song gets into another's session"
    )  # type: ignore[union-attr]
    assert asked[1][0].startswith("2: Hum 2"), "it is the one already"


def test_a_clip_keeps_its_pictures(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """Opened, slowed by the first recipe, exported: the flashes of the clip fall on its beeps."""
    window.files.open_file(make_clip(tmp_path / "skate.mp4", 6))
    wait(qtbot, lambda: window.document.loaded)
    dialog = opened(window, qtbot, "export_video", VideoDialog)
    assert isinstance(dialog, VideoDialog)
    assert dialog.picture.currentData() == OWN
    assert dialog.format.currentData() == ".mp4"
    assert not dialog.shape.isEnabled()
    assert dialog.follow.isEnabled()
    assert not dialog.preview._still.isNull()
    choose(dialog.picture, CARD)
    assert dialog.shape.isEnabled()
    choose(dialog.picture, OWN)
    dialog.name.setText("slowed")
    dialog.accept()
    out = tmp_path / "slowed.mp4"
    wait(qtbot, out.exists)
    wait(qtbot, lambda: not window.work.active("export"))
    assert len(flashes(out)) == 5
    assert apart_ms(flashes(out), beeps(out)).max() < 1.0
    assert clip_of(out) is not None


def test_a_picture_of_ones_own_and_what_is_wrong_with_it(
    short: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    dialog = opened(short, qtbot, "export_video", VideoDialog)
    assert isinstance(dialog, VideoDialog)
    (tmp_path / "none.png").write_bytes(b"none")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "none.png"), ""))
    choose(dialog.picture, PICTURE)
    wait(qtbot, lambda: "not a picture" in dialog.problem.text())
    assert not dialog.accept_button.isEnabled()
    image = QImage(400, 400, QImage.Format.Format_RGB32)
    image.fill(QColor("#22aa44"))
    image.save(str(tmp_path / "rink.png"))
    dialog.take_picture(tmp_path / "rink.png")
    assert not dialog.accept_button.isEnabled(), "it is read in the background"
    dialog.moving.setChecked(False)
    wait(qtbot, dialog.accept_button.isEnabled)
    seen = dialog.preview.grab().toImage().pixelColor(240, 20)
    assert (seen.red(), seen.green(), seen.blue()) == pytest.approx((0x22, 0xAA, 0x44), abs=2)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "none.png"), ""))
    qtbot.mouseClick(dialog.another, dialog_left())
    wait(qtbot, lambda: "not a picture" in dialog.problem.text())
    dialog.reject()


def test_tags_are_changed_before_they_are_written(short: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """Title, comment and a drawn cover of one file; for all versions only what they share."""
    dialog = opened(short, qtbot, "export", ExportDialog)
    assert isinstance(dialog, ExportDialog)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("ring")
    dialog.open_tags()
    tags = next(child for child in dialog.findChildren(TagsDialog) if child.isVisible())
    assert tags.lines["title"].text().startswith("Lantern Light (")
    assert tags.lines["bpm"].text().isdigit()
    tags.lines["title"].setText("Couples only")
    tags.lines["comment"].setText("Slow")
    tags.draw_cover()
    tags.accept()
    assert "“Couples only”, with your changes" in dialog._title.text()
    dialog.every.setChecked(True)
    assert [order.edits.text for order in dialog.orders()] == [(("comment", "Slow"),)] * 3
    dialog.every.setChecked(False)
    dialog.accept()
    wait(qtbot, lambda: (tmp_path / "ring.flac").exists())
    written = open_track(tmp_path / "ring.flac").tags
    assert (written.first("title"), written.first("comment")) == ("Couples only", "Slow")
    cover, problem = read_picture(written.cover)
    assert not problem
    assert (cover.width(), cover.height()) == (1400, 1400)
    wait(qtbot, lambda: not short.work.active("export"))


def test_the_tags_dialog_undoes_and_says_what_is_wrong(qtbot: QtBot, tmp_path: Path) -> None:
    tags = Tags({"title": ("Lantern Light",), "date": ("2026",)})
    dialog = TagsDialog(tags, TagEdits((("title", "Mine"), ("date", "")), (b"", "")), Card("Lantern Light"))
    qtbot.addWidget(dialog)
    dialog.show()
    assert (dialog.lines["title"].text(), dialog.lines["date"].text()) == ("Mine", "")
    assert dialog.edits == TagEdits((("title", "Mine"), ("date", "")), (b"", ""))
    (tmp_path / "none.jpg").write_bytes(b"none")
    dialog.take_cover(tmp_path / "none.jpg")
    assert "not a picture" in dialog._problem.text()
    QImage(1600, 800, QImage.Format.Format_RGB32).save(str(tmp_path / "wide.png"))
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(tmp_path / "wide.png"))])
    middle, left = QPointF(100, 100), Qt.MouseButton.LeftButton
    drop = QDropEvent(middle, Qt.DropAction.CopyAction, data, left, Qt.KeyboardModifier.NoModifier)
    dialog.cover.dropEvent(drop)
    assert drop.isAccepted()
    assert not dialog._problem.text()
    assert dialog.edits.cover is not None
    cover, _ = read_picture(dialog.edits.cover[0])
    assert (cover.width(), cover.height()) == (1400, 700)
    assert dialog.cover.pixmap().width() == round(200 * dialog.devicePixelRatioF())
    dialog.reset()
    assert dialog.edits == TagEdits()


def test_tags_of_a_set_follow_patterns(short: Window, qtbot: QtBot, tmp_path: Path) -> None:
    short.run("batch")
    batch = short.controllers.batch
    dialog = batch.dialog
    assert dialog is not None
    dialog.folder.setText(str(tmp_path))
    dialog.open_tags()
    tags = next(child for child in dialog.findChildren(TagsDialog) if child.isVisible())
    assert "bpm" not in tags.lines
    tags.lines["title"].setText("{title}, {version}")
    tags.lines["album"].setText("Late Session")
    tags.accept()
    wait(qtbot, lambda: batch.orders and batch.orders[0].edits.text)
    assert dict(batch.orders[0].edits.text) == {
        "title": f"Lantern Light, {batch.orders[0].choice}",
        "album": "Late Session",
    }
    dialog.close()


@pytest.fixture
def dragged(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The files that are dragged out of a window; each is dropped at once."""
    files: list[str] = []
    monkeypatch.setattr(
        QDrag, "exec", lambda drag, *_: files.extend(url.toLocalFile() for url in drag.mimeData().urls())
    )
    return files


def pull_at_the_handle(window: Window, qtbot: QtBot) -> QPoint:
    """Press the handle of the marked range and move away; where the pointer then is."""
    view = window.waveform_view
    rect = view.range_handle.rect()
    assert rect is not None
    at = view.on_widget(rect).center().toPoint()
    qtbot.mousePress(view, dialog_left(), pos=at)
    qtbot.mouseMove(view, at + QPoint(2, 0))
    qtbot.mouseMove(view, at + QPoint(0, 60))
    return at + QPoint(0, 60)


def test_the_marked_range_is_dragged_out_as_a_file(
    short: Window, qtbot: QtBot, tmp_path: Path, dragged: list[str]
) -> None:
    """It hangs from the pointer that still holds the handle; the range stays as it was, and nothing is written twice into one file."""
    short.settings.export_folder, short.settings.export_suffix = str(tmp_path), ".wav"
    short.play.mark((4.0, 6.0))
    pull_at_the_handle(short, qtbot)
    wait(qtbot, lambda: dragged)
    file = Path(dragged[0])
    assert file.parent == tmp_path
    assert file.name.endswith(f"{short.document.version.name} 0m04s–0m06s.wav")
    assert open_track(file).seconds == pytest.approx(2.0 / short.document.stages.time.speed, abs=0.001)
    assert short.play.marked == (4.0, 6.0)
    assert short.waveform_view._held is None, "the button was released over another window"
    pull_at_the_handle(short, qtbot)
    wait(qtbot, lambda: len(dragged) == 2)
    assert Path(dragged[1]).name.endswith("0m06s 2.wav")


def test_a_range_let_go_too_early_waits_in_the_list(
    short: Window, qtbot: QtBot, tmp_path: Path, dragged: list[str]
) -> None:
    short.settings.export_folder = str(tmp_path)
    short.play.mark((4.0, 6.0))
    at = pull_at_the_handle(short, qtbot)
    qtbot.mouseRelease(short.waveform_view, dialog_left(), pos=at)
    wait(qtbot, lambda: any(row.task.file for row in short.task_panel.rows.values()))
    qtbot.wait(50)
    assert not dragged
    assert short.play.marked == (4.0, 6.0), "no other range was marked"


def test_a_range_that_is_too_short_is_not_written(short: Window, qtbot: QtBot, tmp_path: Path) -> None:
    short.settings.export_folder = str(tmp_path)
    short.play.mark((4.0, 4.06))
    pull_at_the_handle(short, qtbot)
    wait(qtbot, lambda: any(task.state == "failed" for task in short.work.tasks))
    assert not list(tmp_path.glob("*0m04s*"))


def test_a_finished_file_can_be_dragged_elsewhere(
    short: Window, qtbot: QtBot, tmp_path: Path, dragged: list[str]
) -> None:
    short.play.mark((4.0, 6.0))
    dialog = opened(short, qtbot, "export", ExportDialog)
    assert isinstance(dialog, ExportDialog)
    choose(dialog.part.what, MARKED)
    dialog.folder.setText(str(tmp_path))
    dialog.name.setText("ring")
    dialog.accept()
    wait(qtbot, lambda: any(row.task.file for row in short.task_panel.rows.values()))
    row = next(row for row in short.task_panel.rows.values() if row.task.file)
    wait(qtbot, lambda: "ring.flac" in row.toolTip())
    middle = row.rect().center()
    qtbot.mousePress(row, dialog_left(), pos=middle)
    qtbot.mouseMove(row, middle + QPoint(2, 0))
    assert not dragged, "a click is no drag"
    far = QPointF(middle + QPoint(60, 0))
    event = QMouseEvent(
        QMouseEvent.Type.MouseMove, far, far, dialog_left(), dialog_left(), Qt.KeyboardModifier.NoModifier
    )
    row.mouseMoveEvent(event)
    assert dragged == [str(tmp_path / "ring.flac")]


def test_several_songs_and_folders_that_are_dropped_are_for_an_export_of_many(
    short: Window, qtbot: QtBot, tmp_path: Path
) -> None:
    song = short.document.loaded.track.path  # type: ignore[union-attr]
    (tmp_path / "songs").mkdir()
    shutil.copy(song, tmp_path / "songs" / "other.flac")
    short.files.take_dropped([tmp_path / "songs"])
    batch = short.controllers.batch
    wait(qtbot, lambda: batch.dialog is not None and len(batch._surveys) == 2 and all(batch._surveys.values()))
    assert batch.dialog is not None
    assert batch.dialog.isVisible()
    assert short.document.loaded.track.path == song, "the open song stays"  # type: ignore[union-attr]
    batch.dialog.close()
