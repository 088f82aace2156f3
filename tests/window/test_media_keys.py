"""Media keys and panels, over a session bus of the test's own, by another program's means."""

import queue
import threading
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from jeepney import DBusAddress, MessageType, new_method_call
from jeepney.bus_messages import MatchRule, message_bus
from jeepney.io.blocking import DBusConnection, open_dbus_connection
from pytestqt.qtbot import QtBot

from latespin.demo import demo_folder
from latespin.desktop.integration.media_keys import MediaKeys, _cover_file
from latespin.desktop.shell.main_window import Window
from latespin.integration.mpris import BUS_NAME, INTROSPECTABLE, PATH, PLAYER, PROPERTIES, ROOT, MediaPlayer, NowPlaying
from tests.window.conftest import wait


class Panel:
    """Another program on the bus."""

    def __init__(self, qtbot: QtBot) -> None:
        self._qtbot = qtbot
        self._bus: DBusConnection = open_dbus_connection("SESSION")
        self.signals: list[tuple[str, Any]] = []
        self._ears: DBusConnection = open_dbus_connection("SESSION")  # who waits for an answer passes over signals
        self._ears.send_and_get_reply(message_bus.AddMatch(MatchRule(type="signal", path=PATH)))

    def call(self, interface: str, name: str, signature: str | None = None, *values: Any) -> Any:
        """Call a method while the window lives on; what comes back, or the name of an error."""
        message = new_method_call(DBusAddress(PATH, BUS_NAME, interface), name, signature, values)
        found: list[Any] = []
        thread = threading.Thread(target=lambda: found.append(self._bus.send_and_get_reply(message, timeout=10.0)))
        thread.start()
        wait(self._qtbot, lambda: not thread.is_alive())
        self._hear()
        if found[0].header.message_type is MessageType.error:
            return found[0].header.fields[4]
        return found[0].body[0] if found[0].body else None

    def get(self, name: str, interface: str = PLAYER) -> Any:
        """A property: its signature and value."""
        return self.call(PROPERTIES, "Get", "ss", interface, name)

    def _hear(self) -> None:
        while True:
            try:
                message = self._ears.receive(timeout=0.02)
            except TimeoutError:
                return
            if message.header.message_type is MessageType.signal:
                self.signals.append((message.header.fields[3], message.body))

    def heard(self, name: str) -> Callable[[], list[Any]]:
        """The bodies of signals of a name."""

        def look() -> list[Any]:
            self._hear()
            return [body for each, body in self.signals if each == name]

        return look

    def close(self) -> None:
        """Leave."""
        self._bus.close()
        self._ears.close()


@pytest.fixture
def panel(bus: str, qtbot: QtBot) -> Iterator[Panel]:
    """A panel of the desktop."""
    made = Panel(qtbot)
    yield made
    made.close()


@pytest.fixture
def keys(short: Window, qtbot: QtBot, panel: Panel) -> Iterator[MediaKeys]:
    """A window on the bus."""
    made = MediaKeys(short.document, short.play, short)
    with qtbot.waitSignal(made.found) as found:
        made.start()
    assert found.args == [True]
    yield made
    made.stop()


def test_what_plays_is_shown_with_its_length_in_microseconds(keys: MediaKeys, short: Window, panel: Panel) -> None:
    assert panel.get("Identity", ROOT) == ("s", "Late Spin")
    assert panel.get("DesktopEntry", ROOT) == ("s", "org.latespin.LateSpin")
    signature, metadata = panel.get("Metadata")
    assert signature == "a{sv}"
    assert metadata["xesam:title"] == ("s", f"Lantern Light – {short.document.version.name}")  # type: ignore[union-attr]
    kind, length = metadata["mpris:length"]
    speed = short.document.stages.time.speed
    assert kind == "x", "64 bits, as the specification asks"
    assert length == pytest.approx(16e6 / speed, abs=2e4)
    assert panel.get("PlaybackStatus") == ("s", "Paused")
    assert panel.get("Position")[0] == "x"
    everything = panel.call(PROPERTIES, "GetAll", "s", PLAYER)
    assert {"CanControl", "CanSeek", "Volume", "Rate"} <= set(everything)


def test_media_keys_play_pause_seek_and_choose_versions(
    keys: MediaKeys, short: Window, qtbot: QtBot, panel: Panel
) -> None:
    player = short.play.player
    assert player is not None
    panel.call(PLAYER, "PlayPause")
    wait(qtbot, lambda: player.playing)
    changed = panel.heard("PropertiesChanged")
    wait(qtbot, lambda: any(body[1].get("PlaybackStatus") == ("s", "Playing") for body in changed()))
    panel.call(PLAYER, "Play")
    qtbot.wait(50)
    assert player.playing, "it plays already"
    track = panel.get("Metadata")[1]["mpris:trackid"][1]
    panel.call(PLAYER, "SetPosition", "ox", track, 9_000_000)
    wait(qtbot, lambda: panel.get("Position")[1] >= 8_900_000)
    assert panel.heard("Seeked")()
    place = panel.get("Position")[1]
    panel.call(PLAYER, "Seek", "x", -5_000_000)
    wait(qtbot, lambda: panel.get("Position")[1] < place - 2_000_000)
    panel.call(PLAYER, "SetPosition", "ox", "/org/latespin/song/99", 0)
    panel.call(PLAYER, "Pause")
    wait(qtbot, lambda: not player.playing)
    assert panel.get("Position")[1] > 1_000_000, "a place in another song is passed over"
    names = [version.name for version in short.document.session.versions]
    panel.call(PLAYER, "Next")
    wait(qtbot, lambda: short.document.version.name == names[1])  # type: ignore[union-attr]
    wait(qtbot, lambda: panel.get("Metadata")[1]["xesam:title"][1].endswith(names[1]))
    panel.call(PLAYER, "Previous")
    wait(qtbot, lambda: short.document.version.name == names[0])  # type: ignore[union-attr]
    panel.call(PLAYER, "Stop")
    wait(qtbot, lambda: panel.get("Position")[1] == 0)


def test_volume_and_the_window_are_the_desktops_too(keys: MediaKeys, short: Window, qtbot: QtBot, panel: Panel) -> None:
    said: list[str] = []
    keys.raise_wanted.connect(lambda: said.append("raise"))
    keys.quit_wanted.connect(lambda: said.append("quit"))
    opened: list[Path] = []
    keys.open_wanted.connect(opened.append)
    panel.call(PROPERTIES, "Set", "ssv", PLAYER, "Volume", ("d", 0.5))
    wait(qtbot, lambda: short.settings.volume_percent == 50.0)
    panel.call(ROOT, "Raise")
    panel.call(ROOT, "Quit")
    song = demo_folder() / "lantern-light.ogg"
    panel.call(PLAYER, "OpenUri", "s", song.as_uri())
    panel.call(PLAYER, "OpenUri", "s", "https://example.org/song.mp3")
    wait(qtbot, lambda: len(said) == 2 and opened)
    assert said == ["raise", "quit"]
    assert opened == [song]


def test_nonsense_is_an_error_and_nothing_else(keys: MediaKeys, panel: Panel) -> None:
    assert panel.call(PLAYER, "Rewind").endswith("UnknownMethod")
    assert panel.call("org.example.None", "Play").endswith("UnknownMethod")
    assert panel.get("Colour").endswith("UnknownMethod")
    assert panel.call(PROPERTIES, "Set", "ssv", PLAYER, "Rate", ("d", 2.0)).endswith("InvalidArgs")
    assert panel.call(PLAYER, "Seek").endswith("InvalidArgs")
    page = panel.call(INTROSPECTABLE, "Introspect")
    for words in (
        '<method name="PlayPause">',
        '<property name="Position" type="x" access="read"/>',
        'name="Volume" type="d" access="readwrite"',
    ):
        assert words in page
    assert panel.get("PlaybackStatus") == ("s", "Paused")


def test_without_a_bus_and_beside_another_window_there_are_no_media_keys(
    bus: str, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    def player() -> MediaPlayer:
        return MediaPlayer(lambda *_: None, lambda: 0.0)

    def starts(player: MediaPlayer) -> bool:
        said: queue.Queue[bool] = queue.Queue()
        player.start(said.put)
        return said.get(timeout=10.0)

    first, second = player(), player()
    assert starts(first)
    assert not starts(second)
    second.show(NowPlaying(True, "A", number=1))
    first.stop()
    third = player()
    assert starts(third)
    third.stop()
    monkeypatch.setenv("DBUS_SESSION_BUS_ADDRESS", f"unix:path={tmp_path / 'none'}")
    assert not starts(player())
    monkeypatch.delenv("DBUS_SESSION_BUS_ADDRESS")
    assert not starts(player())


def test_a_cover_is_a_file_that_panels_can_read(tmp_path: Path) -> None:
    address = _cover_file(b"picture", "image/png", "a" * 64)
    assert address.startswith("file://")
    assert address.endswith(".png")
    assert Path(address.removeprefix("file://")).read_bytes() == b"picture"
    assert _cover_file(b"", "", "b") == ""
    assert not NowPlaying().metadata()
