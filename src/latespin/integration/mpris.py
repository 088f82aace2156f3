"""Media keys and the desktop's panels: a player on the session bus, after the MPRIS D-Bus Interface Specification 2.2.

Spoken with ``jeepney`` rather than Qt's own D-Bus module, whose Python side cannot say that a number has 64 bits, as positions must.
"""

import contextlib
import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any
from xml.sax.saxutils import quoteattr

from latespin.integration import APP_ID

LOG = logging.getLogger(__name__)
BUS_NAME, PATH = "org.mpris.MediaPlayer2.latespin", "/org/mpris/MediaPlayer2"
ROOT, PLAYER, PROPERTIES = "org.mpris.MediaPlayer2", "org.mpris.MediaPlayer2.Player", "org.freedesktop.DBus.Properties"
INTROSPECTABLE, PEER = "org.freedesktop.DBus.Introspectable", "org.freedesktop.DBus.Peer"
SONG = "/org/latespin/song"
MICRO = 1_000_000
WAIT_SECONDS, BUS_SECONDS = 0.5, 2.0
TAKE_NAME_AT_ONCE = 4  # and do not wait for it where another player of ours has it

#: Methods by interface: name, and what it is given.
METHODS = {
    ROOT: {"Raise": "", "Quit": ""},
    PLAYER: {
        "Next": "", "Previous": "", "Pause": "", "PlayPause": "", "Stop": "", "Play": "", "Seek": "x", "SetPosition": "ox",
        "OpenUri": "s",
    },
}  # fmt: skip


@dataclass(frozen=True)
class NowPlaying:
    """What plays. seconds : its length.  cover : the address of a picture file, or empty.  number : changes with the song."""

    playing: bool = False
    title: str = ""
    artist: str = ""
    album: str = ""
    seconds: float = 0.0
    cover: str = ""
    number: int = 0

    @property
    def status(self) -> str:
        """As the specification has it."""
        return "Stopped" if not self.number else "Playing" if self.playing else "Paused"

    def metadata(self) -> dict[str, tuple[str, Any]]:
        """As the specification has it; empty without a song."""
        if not self.number:
            return {}
        found: dict[str, tuple[str, Any]] = {
            "mpris:trackid": ("o", f"{SONG}/{self.number}"), "mpris:length": ("x", round(self.seconds * MICRO)), "xesam:title": ("s", self.title),
        }  # fmt: skip
        if self.artist:
            found["xesam:artist"] = ("as", [self.artist])
        if self.album:
            found["xesam:album"] = ("s", self.album)
        if self.cover:
            found["mpris:artUrl"] = ("s", self.cover)
        return found


@dataclass(eq=False)
class MediaPlayer:
    """Answers the bus on a thread of its own.

    asked : is called there with a command and its argument: play, pause, toggle, stop, next, previous, raise, quit; seek (seconds on), place
    (seconds from the start), open (an address), volume (0 to 1).  position : where the song is, in seconds.
    """

    asked: Callable[[str, Any], None]
    position: Callable[[], float]
    now: NowPlaying = NowPlaying()
    volume: float = 1.0
    _connection: Any = None
    _sending: threading.Lock = field(default_factory=threading.Lock)
    _stopping: threading.Event = field(default_factory=threading.Event)
    _thread: threading.Thread | None = None

    def start(self, known: Callable[[bool], None] = lambda _: None) -> None:
        """Take the name on the bus, on the thread that answers from then on. known : called there, with whether that is done.

        It is not where there is no bus, or another player of ours has the name.
        """

        def run() -> None:
            there = self._connect()
            known(there)
            if there:
                self._serve()

        self._thread = threading.Thread(target=run, name="media keys", daemon=True)
        self._thread.start()

    def _connect(self) -> bool:
        from jeepney import DBusErrorResponse
        from jeepney.bus_messages import message_bus
        from jeepney.io.blocking import open_dbus_connection

        try:
            connection = open_dbus_connection("SESSION")
        except (OSError, KeyError, ValueError) as error:
            LOG.info("no media keys: %s", error)
            return False
        try:
            request = message_bus.RequestName(BUS_NAME, TAKE_NAME_AT_ONCE)
            taken = connection.send_and_get_reply(request, timeout=BUS_SECONDS).body[0] == 1
        except (OSError, DBusErrorResponse) as error:
            LOG.info("no media keys: %s", error)
            taken = False
        if not taken:
            connection.close()
            return False
        self._connection = connection
        return True

    def stop(self) -> None:
        """Leave the bus."""
        self._stopping.set()
        if self._thread is not None:
            self._thread.join(BUS_SECONDS)
        if self._connection is not None:
            with contextlib.suppress(OSError):
                self._connection.close()
            self._connection = None

    def show(self, now: NowPlaying) -> None:
        """What plays from now on; the bus is told what has changed."""
        before, self.now = self.now, now
        changed: dict[str, tuple[str, Any]] = {}
        if now.status != before.status:
            changed["PlaybackStatus"] = ("s", now.status)
        if now.metadata() != before.metadata():
            changed["Metadata"] = ("a{sv}", now.metadata())
        if bool(now.number) != bool(before.number):
            changed |= {name: value for name, value in self._player().items() if name.startswith("Can")}
        if changed:
            self._signal(PROPERTIES, "PropertiesChanged", "sa{sv}as", (PLAYER, changed, []))

    def show_jump(self, seconds: float) -> None:
        """The song went on elsewhere than it would have by itself."""
        self._signal(PLAYER, "Seeked", "x", (round(seconds * MICRO),))

    def _signal(self, interface: str, name: str, signature: str, body: tuple[Any, ...]) -> None:
        from jeepney import DBusAddress, new_signal

        if self._connection is not None:
            self._send(new_signal(DBusAddress(PATH, interface=interface), name, signature, body))

    def _send(self, message: Any) -> None:
        with self._sending, contextlib.suppress(OSError):
            if self._connection is not None:
                self._connection.send(message)

    # -- the bus ---------------------------------------------------------------------------------------------------

    def _serve(self) -> None:
        from jeepney import MessageType

        while not self._stopping.is_set():
            try:
                message = self._connection.receive(timeout=WAIT_SECONDS)
            except TimeoutError:
                continue
            except (OSError, ValueError):
                return
            if message.header.message_type is MessageType.method_call:
                self._answer(message)

    def _answer(self, message: Any) -> None:
        from jeepney import HeaderFields, new_error, new_method_return

        fields = message.header.fields
        interface, name = fields.get(HeaderFields.interface, ""), fields[HeaderFields.member]
        try:
            signature, body = self._reply_to(interface, name, message.body)
        except (LookupError, TypeError, ValueError) as error:
            kind = "UnknownMethod" if isinstance(error, KeyError) else "InvalidArgs"
            self._send(new_error(message, f"org.freedesktop.DBus.Error.{kind}", "s", (f"{interface}.{name}: {error}",)))
            return
        self._send(new_method_return(message, signature or None, body))

    def _reply_to(self, interface: str, name: str, given: tuple[Any, ...]) -> tuple[str, tuple[Any, ...]]:
        """The signature and the values of a reply. Raises KeyError for what there is not, ValueError for wrong arguments."""
        if interface == PROPERTIES:
            return self._property(name, given)
        if (interface, name) == (INTROSPECTABLE, "Introspect"):
            return "s", (self._introspection(),)
        if interface == PEER and name == "Ping":
            return "", ()
        if name not in METHODS[interface]:
            raise KeyError(name)
        self._run(name, given)
        return "", ()

    def _run(self, name: str, given: tuple[Any, ...]) -> None:
        plain = {
            "Raise": "raise", "Quit": "quit", "Next": "next", "Previous": "previous", "Pause": "pause", "PlayPause": "toggle", "Stop": "stop",
            "Play": "play",
        }  # fmt: skip
        if name in plain:
            self.asked(plain[name], None)
        elif name == "Seek":
            self.asked("seek", given[0] / MICRO)
        elif name == "SetPosition":
            if given[0] == f"{SONG}/{self.now.number}" and 0 <= given[1] <= self.now.seconds * MICRO:
                self.asked("place", given[1] / MICRO)
        else:
            self.asked("open", str(given[0]))

    def _property(self, name: str, given: tuple[Any, ...]) -> tuple[str, tuple[Any, ...]]:
        known = {ROOT: self._root, PLAYER: self._player}[given[0]]()
        if name == "GetAll":
            return "a{sv}", (known,)
        if name == "Get":
            return "v", (known[given[1]],)
        if name != "Set" or given[1] != "Volume":
            raise ValueError(f"{given[1:2]} cannot be set")
        self.volume = min(1.0, max(0.0, float(given[2][1])))
        self.asked("volume", self.volume)
        return "", ()

    def _root(self) -> dict[str, tuple[str, Any]]:
        return {
            "CanQuit": ("b", True), "CanRaise": ("b", True), "HasTrackList": ("b", False), "Identity": ("s", "Late Spin"),
            "DesktopEntry": ("s", APP_ID), "SupportedUriSchemes": ("as", ["file"]), "SupportedMimeTypes": ("as", ["audio/flac", "audio/x-wav"]),
        }  # fmt: skip

    def _player(self) -> dict[str, tuple[str, Any]]:
        there = bool(self.now.number)
        can = {f"Can{name}": ("b", there) for name in ("GoNext", "GoPrevious", "Play", "Pause", "Seek")}
        return {
            "PlaybackStatus": ("s", self.now.status), "Metadata": ("a{sv}", self.now.metadata()), "Position": ("x", round(self.position() * MICRO)),
            "Rate": ("d", 1.0), "MinimumRate": ("d", 1.0), "MaximumRate": ("d", 1.0), "Volume": ("d", self.volume), **can, "CanControl": ("b", True),
        }  # fmt: skip

    def _introspection(self) -> str:
        parts = ['<!DOCTYPE node PUBLIC "-//freedesktop//DTD D-BUS Object Introspection 1.0//EN" "">\n<node>']
        for interface, properties in ((ROOT, self._root()), (PLAYER, self._player())):
            parts.append(f"<interface name={quoteattr(interface)}>")
            for name, given in METHODS[interface].items():
                arguments = "".join(f'<arg direction="in" type="{each}"/>' for each in given)
                parts.append(f'<method name="{name}">{arguments}</method>')
            for name, (signature, _) in properties.items():
                access = "readwrite" if name == "Volume" else "read"
                parts.append(f'<property name="{name}" type="{signature}" access="{access}"/>')
            if interface == PLAYER:
                parts.append('<signal name="Seeked"><arg name="Position" type="x"/></signal>')
            parts.append("</interface>")
        return "".join((*parts, "</node>"))
