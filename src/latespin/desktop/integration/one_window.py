"""One window for all files: a second start hands its file to the window that is open."""

import contextlib
import os
import socket
from pathlib import Path

from PySide6.QtCore import QObject, QSocketNotifier, Signal

from latespin.integration.hand_over import END, OPEN, TAKEN, WAIT_SECONDS, socket_place
from latespin.media.local_socket import listening

LONGEST = 1 << 16


class OneWindow(QObject):
    """Listens for files that other starts hand over. asked : the file, or None where the window shall only come forward."""

    asked = Signal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._socket: socket.socket | None = None
        self._path = Path()
        try:
            self._path = socket_place()
            self._socket = listening(self._path, 4)
        except OSError:
            return  # another window listens, or there is no folder for it: this one is by itself
        self._notifier = QSocketNotifier(self._socket.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._hear)

    @property
    def listens(self) -> bool:
        """Whether files come to this window."""
        return self._socket is not None

    def _hear(self) -> None:
        assert self._socket is not None
        with contextlib.suppress(OSError):
            client, _ = self._socket.accept()
            with client:
                client.settimeout(WAIT_SECONDS / 4)
                said = b""
                while not said.endswith(END) and len(said) < LONGEST:
                    part = client.recv(4096)
                    if not part:
                        return
                    said += part
                if not said.startswith(OPEN):
                    return
                client.sendall(TAKEN)
            name = said.removeprefix(OPEN).removesuffix(END)
            self.asked.emit(Path(os.fsdecode(name)) if name else None)

    def close(self) -> None:
        """Listen no more."""
        if self._socket is not None:
            self._notifier.setEnabled(False)
            self._path.unlink(missing_ok=True)
            self._socket.close()
            self._socket = None
