"""The real window, offscreen, on the silent device."""

import threading
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import pytest
import soundfile
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from latespin.demo import demo_session
from latespin.desktop.app import make_app
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.main_window import Window
from latespin.media.tags import Tags, write_tags
from latespin.media.track import Track
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.moments import Moments, TapeStop
from latespin.model.timing.positions import Position
from latespin.model.version import Level, Stages, Time
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player

RATE = 44_100
WAIT_MS = 40_000  # against hanging for ever; says nothing of speed


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    """The application, dressed as for a person."""
    return make_app()


class Devices:
    """Makes silent devices and keeps hold of the last."""

    def __init__(self) -> None:
        self.last: SilentDevice | None = None

    def __call__(self, player: Player) -> SilentDevice:
        self.last = SilentDevice(player, pace=2.0, remember_seconds=120.0)
        return self.last

    def listen(self, qtbot: QtBot, seconds: float) -> np.ndarray:
        """What is played from now on, so many seconds of it."""
        assert self.last is not None
        device = self.last
        device.forget()
        wait(qtbot, lambda: device.played().shape[1] >= seconds * 44_100)
        return device.played()


def wait(qtbot: QtBot, condition: Callable[[], object]) -> None:
    """Until a state is reached."""
    qtbot.waitUntil(lambda: bool(condition()), timeout=WAIT_MS)


@pytest.fixture
def devices() -> Devices:
    """Where the window's sound goes."""
    return Devices()


@pytest.fixture
def window(qtbot: QtBot, qapp: QApplication, devices: Devices) -> Iterator[Window]:
    """An empty window, closed afterwards without questions; nothing of it may stay behind."""
    made = Window(Settings(), devices)
    made.show()
    made.finish_loading()
    qtbot.waitExposed(made)
    yield made
    made.document.forget_changes()
    for task in made.work.active():
        task.cancel()
    assert made.close()
    made.deleteLater()
    ours = [t for t in threading.enumerate() if t.name.startswith(("player", "silent", "work"))]
    for thread in ours:
        thread.join(10.0)  # one that loads kernels cannot be interrupted
    left = [thread.name for thread in ours if thread.is_alive()]
    assert not left, f"threads left behind: {left}"


@pytest.fixture
def demo(window: Window, qtbot: QtBot) -> Window:
    """The window with the demo session in it, measured."""
    window.files.open_file(demo_session())
    wait(qtbot, lambda: window.document.measured())
    return window


@pytest.fixture
def read(window: Window, qtbot: QtBot) -> Window:
    """The demo session, its song read; nothing measured yet."""
    window.files.open_file(demo_session())
    wait(qtbot, lambda: window.document.reading)
    return window


@pytest.fixture
def short(window: Window, qtbot: QtBot, lantern: Track, tmp_path: Path) -> Window:
    """Sixteen seconds of a demo song in three versions: slowed, quicker (*Relay race*), and with moments and a ring-out (*Closing time*)."""
    song = tmp_path / "short.flac"
    soundfile.write(song, 0.5 * lantern.sound[:, 30 * RATE : 46 * RATE].T, RATE)
    write_tags(song, Tags({"title": ("Lantern Light",)}))
    window.files.open_file(song)
    wait(qtbot, lambda: window.document.loaded)
    window.document.add_version("Relay race", Stages(time=Time(speed=1.22), level=Level(target_lufs=-12.0)))
    moments = Moments(placed=(TapeStop(id="t", start=Position(seconds=6.0), end=Position(seconds=7.0)),))
    ending = Ending(way=RingOut(at=Position(seconds=14.0)))
    window.document.add_version("Closing time", Stages(time=Time(speed=0.92), moments=moments, ending=ending))
    window.document.choose(window.document.session.versions[0].id)
    wait(qtbot, lambda: window.document.measured())
    return window


def choose(window: Window, name: str) -> None:
    """Work on the version of this name."""
    window.document.choose(next(version.id for version in window.document.session.versions if version.name == name))
