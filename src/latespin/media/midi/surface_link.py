"""The practice surface's end of its connection: ports of the ALSA sequencer, or a local socket to a running Late Spin."""

import contextlib
import socket
import threading
from collections.abc import Callable
from typing import Any

import mido

from latespin.media.midi.ports import sequencer_problem
from latespin.media.midi.surface_socket import NAME, connect

RETRY_SECONDS = 0.5


class SurfaceLink:
    """heard : takes messages that come back, in a thread of its own.  changed : is called when it connects or is cut off."""

    def __init__(self, heard: Callable[[mido.Message], None], changed: Callable[[], None]) -> None:
        self._heard, self._changed = heard, changed
        self._socket: socket.socket | None = None
        self._ports: tuple[Any, Any] | None = None
        self._stopping = threading.Event()
        self._thread: threading.Thread | None = None
        if not sequencer_problem():
            self._open_ports()
        else:
            self._thread = threading.Thread(target=self._stay_connected, name="surface link", daemon=True)
            self._thread.start()

    @property
    def connected(self) -> bool:
        """Whether messages reach anybody, as far as can be known."""
        return self._ports is not None or self._socket is not None

    def send(self, message: mido.Message) -> None:
        """Send a message; without a connection it is lost."""
        if self._ports is not None:
            self._ports[1].send_message(message.bytes())
        link = self._socket
        if link is not None:
            with contextlib.suppress(OSError):
                link.sendall(message.bin())

    def close(self) -> None:
        """Disconnect; waits up to two seconds."""
        self._stopping.set()
        link = self._socket
        if link is not None:
            with contextlib.suppress(OSError):
                link.shutdown(socket.SHUT_RDWR)
        if self._thread is not None:
            self._thread.join(2.0)
        for port in self._ports or ():
            port.close_port()
            port.delete()

    def _open_ports(self) -> None:
        """Ports that any program can connect to, Late Spin among them."""
        import rtmidi

        heard, sent = (kind(rtmidi.API_LINUX_ALSA, NAME) for kind in (rtmidi.MidiIn, rtmidi.MidiOut))
        parser = mido.Parser()

        def hear(event: tuple[list[int], float], _: Any) -> None:
            parser.feed(event[0])
            for message in parser:
                self._heard(message)

        heard.open_virtual_port(NAME)
        heard.set_callback(hear)
        sent.open_virtual_port(NAME)
        self._ports = heard, sent

    def _stay_connected(self) -> None:
        while not self._stopping.is_set():
            try:
                link = connect()
            except OSError:
                self._stopping.wait(RETRY_SECONDS)
                continue
            self._socket = link
            self._changed()
            parser = mido.Parser()
            with link, contextlib.suppress(OSError):
                while data := link.recv(4096):
                    parser.feed(data)
                    for message in parser:
                        self._heard(message)
            self._socket = None
            self._changed()
