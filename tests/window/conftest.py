"""The real window, offscreen, on the silent device."""

import subprocess
import threading
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import QCoreApplication, QEvent, QLocale, QTranslator
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from latespin.demo import demo_folder, demo_session
from latespin.desktop.app import make_app
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.hint_bar import HINTS
from latespin.desktop.shell.main_window import Window
from latespin.desktop.translation import install_language, tr
from latespin.jobs import Quietly, Work
from latespin.language import install_translation
from latespin.media import track
from latespin.media.tags import Tags, write_tags
from latespin.media.track import Track
from latespin.model.documents.documents import read_session, to_json
from latespin.model.effects.effects import Hall
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.moments import Moments, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering import measure
from latespin.render.mastering.measure import Measured
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player

RATE = 44_100
GRID = Grid(bpm=92.0, first_beat_seconds=0.25)
WAIT_MS = 40_000  # against hanging for ever; says nothing of speed


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    """The application, dressed as for a person."""
    return make_app()


class Devices:
    """Makes silent devices and keeps hold of the last, which plays freely or stands still until a test plays on."""

    def __init__(self) -> None:
        self.last: SilentDevice | None = None
        self.frames_left: int | None = None  # that may be played; None: any number

    def __call__(self, player: Player) -> SilentDevice:
        self.last = SilentDevice(MeteredPlayer(player, self), pace=2.0, remember_seconds=120.0)  # type: ignore[arg-type]
        return self.last

    def hold(self) -> None:
        """From now on play only as far as ``play_on`` says, however busy the machine is."""
        self.frames_left = 0

    def play_on(self, qtbot: QtBot, seconds: float) -> None:
        """Play so much more."""
        assert self.frames_left == 0, "hold first"
        self.frames_left = round(seconds * RATE)
        wait(qtbot, lambda: self.frames_left == 0)

    def listen(self, qtbot: QtBot, seconds: float) -> np.ndarray:
        """The next ``seconds`` that are played."""
        assert self.last is not None
        device = self.last
        device.forget()
        wait(qtbot, lambda: device.played().shape[1] >= seconds * 44_100)
        return device.played()


class MeteredPlayer:
    """A player of which a device takes no more than a test lets it."""

    def __init__(self, player: Player, devices: Devices) -> None:
        self.rate = player.rate
        self._player, self._devices = player, devices

    def pull(self, frames: int, *, only_ready: bool) -> np.ndarray:
        """The next frames, or none while held."""
        left = self._devices.frames_left
        if left is None:
            return self._player.pull(frames, only_ready=only_ready)
        if left == 0:
            return np.zeros((2, 0), np.float32)
        block = self._player.pull(min(frames, left), only_ready=only_ready)
        self._devices.frames_left = left - block.shape[1]
        return block


def wait(qtbot: QtBot, condition: Callable[[], object]) -> None:
    """Until a state is reached."""
    qtbot.waitUntil(lambda: bool(condition()), timeout=WAIT_MS)


@pytest.fixture
def devices() -> Devices:
    """Where the window's sound goes."""
    return Devices()


@pytest.fixture(scope="session")
def decoded() -> dict[Path, Track]:
    """The demo songs that a window has opened, by path."""
    return {}


@pytest.fixture(autouse=True)
def _demo_songs_are_decoded_once(decoded: dict[Path, Track], monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing changes a track, so all windows can share those of the demo; other files are decoded each time."""
    decode = track.open_track

    def opened(path: Path, work: Work | None = None, **more: Any) -> Track:
        if path.parent != demo_folder():
            return decode(path, work or Quietly(), **more)
        if path not in decoded:
            decoded[path] = decode(path, work or Quietly())
        return decoded[path]

    monkeypatch.setattr(track, "open_track", opened)


@pytest.fixture(scope="session")
def measured() -> dict[object, Measured]:
    """What windows have measured, by song and version."""
    return {}


@pytest.fixture(autouse=True)
def _a_version_of_a_song_is_measured_once(measured: dict[object, Measured], monkeypatch: pytest.MonkeyPatch) -> None:
    """The same song in the same version measures the same, in whichever window; how, other tests see to."""
    really = measure.measure

    def remembered(readers: TrackRenderer, stages: Stages, work: Work) -> Measured:
        sound = readers.track.sound
        key = sound.shape, float(np.sum(sound[:, ::97])), readers.layout, stages
        if key not in measured:
            measured[key] = really(readers, stages, work)
        return measured[key]

    monkeypatch.setattr(measure, "measure", remembered)


@pytest.fixture(autouse=True)
def _only_what_is_looked_at_is_measured(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """Unless a test is marked ``measures_all``: other versions, and stages switched off, would take the processors from all tests."""
    if request.node.get_closest_marker("measures_all") is None:
        looked_at = lambda self: [s for s in (self._tried, self.stages) if s is not None] if self.version else []  # noqa: E731
        monkeypatch.setattr(Document, "_to_measure", looked_at)


@pytest.fixture
def window(qtbot: QtBot, qapp: QApplication, devices: Devices) -> Iterator[Window]:
    """An empty window, closed afterwards without questions; nothing of it may stay behind."""
    made = Window(Settings(hints_dismissed=list(HINTS)), devices)
    made.show()
    made.finish_loading()
    qtbot.waitExposed(made)
    yield made
    made.controllers.playing.edit(on=False)  # what was played until now is a change, too
    made.document.forget_changes()
    for task in made.work.active():
        task.cancel()
    for lane in ("export", "set"):  # a test that failed may have left one, which would be asked about
        wait(qtbot, lambda lane=lane: not made.work.active(lane))
    assert made.close()
    made.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)  # the next one is dressed without it
    ours = [t for t in threading.enumerate() if t.name.startswith(("player", "silent", "work"))]
    for thread in ours:
        thread.join(60.0)  # one that loads kernels cannot be interrupted
    left = [thread.name for thread in ours if thread.is_alive()]
    assert not left, f"threads left behind: {left}"


@pytest.fixture
def demo(window: Window, qtbot: QtBot) -> Window:
    """The window with the demo session in it, measured."""
    window.files.open_file(demo_session())
    wait(qtbot, lambda: window.document.measured())
    return window


@pytest.fixture
def five(window: Window, qtbot: QtBot) -> Window:
    """The demo session with its five versions, its song read; nothing measured yet."""
    window.files.open_file(demo_session())
    wait(qtbot, lambda: window.document.reading)
    return window


@pytest.fixture
def read(window: Window, qtbot: QtBot, tmp_path: Path) -> Window:
    """The first version of the demo session, its song read; nothing measured yet."""
    session = read_session(demo_session().read_bytes(), "demo")
    assert session.track is not None
    track = replace(session.track, path=str(demo_folder() / session.track.path))
    path = tmp_path / "first version.latespin"
    path.write_bytes(
        to_json(replace(session, track=track, versions=session.versions[:1], chosen=session.versions[0].id))
    )
    window.files.open_file(path)
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


@pytest.fixture
def along(short: Window, devices: Devices, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Window:
    """A version with a hall, and Play along open; it is heard no further than a test plays on."""
    devices.hold()
    (tmp_path / "run").mkdir(mode=0o700)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path / "run"))
    document = short.document
    document.set_grid("Beats", GRID)
    document.edit_stages("Hall", Stages(colour=Colour(effects=(Hall(id="hall", amount_percent=20.0),))))
    short.run("play_along")
    assert short.panel_commands.panel == "playing"
    return short


def choose(window: Window, name: str) -> None:
    """Work on the version of this name."""
    window.document.choose(next(version.id for version in window.document.session.versions if version.name == name))


@pytest.fixture
def german(qapp: QApplication) -> Iterator[None]:
    """German for one test."""
    before = QLocale()
    install_language(qapp, "de")
    yield
    for translator in qapp.findChildren(QTranslator):
        qapp.removeTranslator(translator)
        translator.deleteLater()
    QLocale.setDefault(before)
    install_translation(tr)


@pytest.fixture
def bus(monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    """A session bus that nobody else is on."""
    daemon = subprocess.Popen(
        ["dbus-daemon", "--session", "--nofork", "--print-address"],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
    )
    assert daemon.stdout is not None
    address = daemon.stdout.readline().strip()
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", address)
    yield address
    daemon.terminate()
    daemon.wait()
    daemon.stdout.close()
