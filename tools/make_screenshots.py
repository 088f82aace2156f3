"""Takes the pictures in ``docs/screenshots`` anew from the demo session.

Run ``.venv/bin/python tools/make_screenshots.py``; each view is one function below.
"""

import os
import shutil
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["LATESPIN_CONFIG"] = tempfile.mkdtemp(prefix="late-spin-pictures-")
os.environ["XDG_CACHE_HOME"] = os.environ["LATESPIN_CONFIG"]

import soundfile
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from latespin.demo import demo_folder, demo_session
from latespin.desktop.app import make_app
from latespin.desktop.dialogs.finder import Finder
from latespin.desktop.dialogs.video import VideoDialog
from latespin.desktop.movies.pictures import CardPictures, Preview
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.shapes import shape_of
from latespin.desktop.shell.hint_bar import HINTS
from latespin.desktop.shell.main_window import Window
from latespin.media.audio.peaks import find_peaks
from latespin.render.playback.null_device import SilentDevice

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


class Studio:
    """A window and the means to wait and to take pictures."""

    def __init__(self) -> None:
        self.app = make_app()
        self.window = Window(Settings(hints_dismissed=list(HINTS)), lambda player: SilentDevice(player))
        self.window.resize(1280, 800)
        self.window.show()
        self.window.finish_loading()

    def wait(self, condition: Callable[[], object], seconds: float = 90.0) -> None:
        """Until something is so."""
        end = time.monotonic() + seconds
        while not condition() and time.monotonic() < end:
            self.app.processEvents()
            time.sleep(0.01)

    def pause(self, seconds: float) -> None:
        """Let the window live for a while."""
        end = time.monotonic() + seconds
        self.wait(lambda: time.monotonic() > end)

    def take(self, name: str, widget: QWidget | None = None) -> None:
        """Save a picture."""
        (widget or self.window).grab().save(str(TARGET / f"{name}.png"))
        print(name)


def main() -> None:
    """Every main view once."""
    TARGET.mkdir(parents=True, exist_ok=True)
    studio = Studio()
    window = studio.window
    studio.pause(0.5)
    window.setFocus()
    studio.pause(0.1)
    for song in sorted(demo_folder().glob("*.ogg")):
        sound, rate = soundfile.read(song, dtype="float32")
        window.settings.remember_file(Path("/music") / song.name, shape_of(find_peaks(sound.T, rate)))
    window.welcome.show_recent(window.settings.recent, dict(window.settings.recent_shapes))
    studio.pause(0.1)
    studio.take("empty")
    window.settings.recent, window.settings.recent_shapes = [], []
    first_song(studio)
    window.files.open_file(demo_session())
    studio.wait(lambda: window.document.measured())
    studio.wait(lambda: all(window.document.measured(v.stages) for v in window.document.session.versions))
    window.run("loudest")
    window.run("play")
    studio.pause(3.5)
    studio.take("time")
    beats(studio)
    moments(studio)
    effects(studio)
    finishing(studio)
    playing(studio)
    window.document.choose("couples")
    window.work.forget_ended()
    window.notice.hide()
    window.run("daylight")
    window.open_panel("time")
    studio.pause(0.5)
    studio.take("daylight")
    window.document.forget_changes()
    window.close()


def effects(studio: Studio) -> None:
    """The hall's decay, the spin as it turns, a dive drawn over the song, and the pad maker."""
    window = studio.window
    window.open_panel("colour")
    window.waveform_view.set_loop((20.0, 35.0))
    studio.pause(0.3)
    studio.take("effects")
    window.waveform_view.set_loop(None)
    window.document.choose("overhead")
    studio.wait(lambda: window.document.measured())
    for name, ident, seconds in (("spin", "orbit", 37.0),):
        window.controllers.effects.choose(ident)
        window.playback.seek("before", seconds)
        studio.pause(1.6)
        studio.take(name)
    window.play.mark((20.0, 24.0))
    window.controllers.effects.pad()
    dialog = window.controllers.effects.dialog
    studio.wait(lambda: dialog.sound is not None)
    studio.pause(0.3)
    studio.take("pad", dialog)
    dialog.close()
    window.play.mark(None)


def playing(studio: Studio) -> None:
    """Pads and a knob while they are played, and the take of the demo session on the waveforms."""
    window, document = studio.window, studio.window.document
    document.choose("relay")
    window.work.forget_ended()
    window.notice.hide()
    window.resize(1280, 800)
    studio.wait(lambda: document.measured())
    window.waveform_view.show_range(17.0, 65.0)
    window.open_panel("playing")
    window.playback.seek("before", 60.0)
    window.run("record_take")
    window.playback.player.play()
    studio.pause(2.0)
    grid, knobs = window.panels.playing.grid, window.panels.playing.knobs
    for pad in (6, 13):
        grid.pressed.emit(pad)
        studio.pause(0.3)
    knobs.turned.emit(6, -0.2)
    studio.pause(0.4)
    studio.take("playing")
    for pad in (6, 13):
        grid.released.emit(pad)
    window.playback.player.pause()
    studio.pause(0.5)
    document.undo()
    window.run("record_take")
    studio.wait(lambda: document.measured())
    window.open_panel("moments")
    window.controllers.moments.choose("move-1")
    window.waveform_view.show_range(17.0, 37.0)
    studio.pause(0.5)
    studio.take("take")
    window.waveform_view.zoom_to_fit()


def beats(studio: Studio) -> None:
    """The bench of beats and bars."""
    window = studio.window
    studio.wait(lambda: window.document.reading)
    window.open_panel("grid")
    studio.pause(0.5)
    studio.take("beats")


def first_song(studio: Studio) -> None:
    """A song just opened, a recipe being tried on it, and the finder over it."""
    window = studio.window
    window.files.open_file(demo_folder() / "lantern-light.ogg")
    studio.wait(lambda: window.document.measured() and window.document.reading)
    window.versions.try_recipe("8d-spin")
    studio.wait(lambda: window.document.measured())
    studio.pause(1.0)
    studio.take("first-song")
    window.run("find")
    finder = window.findChildren(Finder)[-1]
    finder.line.setText("reverb")
    studio.pause(0.2)
    studio.take("find", finder)
    finder.reject()
    window.play.play()
    window.document.forget_changes()


def moments(studio: Studio) -> None:
    """Every kind of moment, and the ending."""
    window, document = studio.window, studio.window.document
    window.playback.player.pause()
    document.choose("closing")
    studio.wait(lambda: document.measured())
    window.open_panel("moments")
    window.controllers.moments.choose("stop")
    window.playback.seek("before", 60.5)
    studio.pause(0.5)
    studio.take("moments")
    window.open_panel("ending")
    studio.pause(0.5)
    studio.take("ending")
    document.choose("couples")


def finishing(studio: Studio) -> None:
    """Level with what each stage adds, a match, a comparison, and a set on its way."""
    window, level = studio.window, studio.window.panels.level
    window.document.choose("couples")
    window.work.forget_ended()
    window.open_panel("level")
    window.waveform_view.set_loop(None)
    studio.wait(lambda: level.added.text())
    studio.pause(0.5)
    studio.take("level")
    level.turn_to("match")
    window.controllers.level.add_song(demo_folder() / "slow-door-blue-floor.ogg")
    studio.wait(lambda: window.document.session.references and window.document.tone_before)
    studio.wait(lambda: window.document.measured() and level.added.text())
    studio.pause(0.5)
    studio.take("match")
    window.run("compare")
    compare = window.controllers.compare.dialog
    assert compare is not None
    studio.wait(lambda: all("LUFS" in label.text() for label in compare.levels))
    compare.hear(1)
    studio.pause(0.3)
    studio.take("compare", compare)
    compare.close()
    level.turn_to("loudness")
    video(studio)
    make_set(studio)


def video(studio: Studio) -> None:
    """The video dialog, and a frame of what it makes."""
    window = studio.window
    window.run("export_video")
    studio.wait(lambda: any(dialog.isVisible() for dialog in window.findChildren(VideoDialog)))
    dialog = next(dialog for dialog in window.findChildren(VideoDialog) if dialog.isVisible())
    folder = Path(tempfile.mkdtemp(prefix="late-session-"))
    dialog.folder.setText(str(folder))
    dialog.preview.show_moment(31.0)
    studio.pause(0.3)
    studio.take("video", dialog)
    card = dialog.card
    assert card is not None
    Preview(CardPictures(card, (1280, 720), dialog.ribbons())).at(31.0).save(str(TARGET / "movie.png"))
    print("movie")
    dialog.close()
    folder.rmdir()


def make_set(studio: Studio) -> None:
    """Three songs in three versions, some of them written."""
    window, work = studio.window, studio.window.controllers.batch
    folder = Path(tempfile.mkdtemp(prefix="late-session-"))
    window.settings.set_folder = str(folder)
    window.run("batch")
    dialog = work.dialog
    assert dialog is not None
    songs = [path for path in sorted(demo_folder().glob("*.ogg")) if path.stem != "rink-bell"]
    work.add_songs(songs)
    for i in range(dialog.choices.count()):
        item = dialog.choices.item(i)
        if item.text() in ("Relay race", "Recipe: Lo-fi vinyl"):
            item.setCheckState(Qt.CheckState.Checked)
    studio.wait(lambda: len(work.orders) == 9 and dialog.buttons["start_batch"].isEnabled())
    dialog.credit.setText("By leave of the Paper Moths")
    dialog.buttons["start_batch"].click()
    studio.wait(lambda: work.run is not None and work.run.fraction > 0.3)
    studio.pause(0.3)
    studio.take("set", dialog)
    dialog.buttons["stop_batch"].click()
    studio.wait(lambda: not work.dialog.buttons["stop_batch"].isEnabled())
    dialog.close()
    shutil.rmtree(folder)


if __name__ == "__main__":
    main()
