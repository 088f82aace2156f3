"""A local socket over which control surfaces send MIDI where there is no sequencer: plain MIDI bytes, both ways."""

import contextlib
import logging
import socket
import threading
from collections.abc import Callable
from pathlib import Path

import mido

from latespin.language import tr
from latespin.media.local_socket import connected, listening, place

LOG = logging.getLogger(__name__)
NAME = "Practice surface"
MOST_CLIENTS = 4
WAIT_SECONDS = 0.25


def socket_path() -> Path:
    """Where the socket is, in the user's runtime folder. Raises OSError where there is no safe one."""
    return place("surface.sock")


class SurfaceSocket:
    """Listens for surfaces. heard : is called with a name and a message; changed : when a surface comes or goes.

    problem : why it does not listen, or an empty sentence.
    """

    def __init__(self, heard: Callable[[str, mido.Message], None], changed: Callable[[], None]) -> None:
        self._heard, self._changed = heard, changed
        self._clients: dict[str, socket.socket] = {}
        self._stopping = threading.Event()
        self.problem = ""
        self._socket = self._listen()
        self._threads: list[threading.Thread] = []
        if self._socket is not None:
            self._start(self._accept, "surface socket")

    @property
    def names(self) -> tuple[str, ...]:
        """The surfaces that are connected."""
        return tuple(self._clients)

    def send(self, name: str, message: mido.Message) -> None:
        """Send a message to a surface; to one that has gone, nothing happens."""
        client = self._clients.get(name)
        if client is not None:
            with contextlib.suppress(OSError):
                client.sendall(message.bin())

    def close(self) -> None:
        """Stop listening, and disconnect all; waits for the threads, which end at once."""
        self._stopping.set()
        if self._socket is not None:
            self._path.unlink(missing_ok=True)
        for end in (self._socket, *self._clients.values()):
            if end is not None:
                with contextlib.suppress(OSError):
                    end.shutdown(socket.SHUT_RDWR)
        for thread in self._threads:
            thread.join(2.0)
        if self._socket is not None:
            self._socket.close()

    def _start(self, target: Callable[..., None], name: str, *args: object) -> None:
        self._threads = [thread for thread in self._threads if thread.is_alive()]
        self._threads.append(threading.Thread(target=target, name=name, args=args, daemon=True))
        self._threads[-1].start()

    def _listen(self) -> socket.socket | None:
        """A listening socket; None where another Late Spin listens, or it cannot be made."""
        try:
            self._path = socket_path()
            made = listening(self._path, MOST_CLIENTS)
        except OSError as error:
            LOG.info("no surface can connect: %s", error)
            self.problem = tr("The practice surface cannot be connected: {0}.").format(error.strerror or error)
            return None
        made.settimeout(WAIT_SECONDS)
        return made

    def _accept(self) -> None:
        assert self._socket is not None
        while not self._stopping.is_set():
            try:
                client, _ = self._socket.accept()
            except TimeoutError:
                continue
            except OSError:
                return
            client.settimeout(None)
            name = next(n for i in range(1, 100) if (n := NAME if i == 1 else f"{NAME} {i}") not in self._clients)
            self._clients[name] = client
            self._start(self._serve, name, name, client)
            self._changed()

    def _serve(self, name: str, client: socket.socket) -> None:
        """Hear a surface until it goes. Bytes that are no message are passed over."""
        parser = mido.Parser()
        with client, contextlib.suppress(OSError):
            while data := client.recv(4096):
                parser.feed(data)
                for message in parser:
                    self._heard(name, message)
        self._clients.pop(name, None)
        if not self._stopping.is_set():
            self._changed()


def connect() -> socket.socket:
    """A connection to a running Late Spin. Raises OSError where there is none."""
    return connected(socket_path())
