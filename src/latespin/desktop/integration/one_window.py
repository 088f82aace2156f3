"""One window for all files: a second start hands its file to the window that is open."""

import os
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtNetwork import QLocalServer, QLocalSocket

from latespin.integration.hand_over import END, OPEN, TAKEN, socket_place
from latespin.media.local_socket import listening

LONGEST = 1 << 16


class OneWindow(QObject):
    """Listens for files that other starts hand over. asked : the file, or None where the window shall only come forward."""

    asked = Signal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._server = QLocalServer(self)
        self._server.newConnection.connect(self._meet)
        self._path: Path | None = None
        try:
            path = socket_place()
            taken = listening(path, 4)
        except OSError:
            return  # another window listens, or there is no folder for it: this one is by itself
        if self._server.listen(taken.detach()):
            self._path = path

    @property
    def listens(self) -> bool:
        """Whether files come to this window."""
        return self._path is not None

    def _meet(self) -> None:
        while (client := self._server.nextPendingConnection()) is not None:
            client.disconnected.connect(client.deleteLater)
            client.readyRead.connect(lambda client=client: self._hear(client))
            self._hear(client)

    def _hear(self, client: QLocalSocket) -> None:
        """Take what a start has to say once it is whole; nonsense is hung up on."""
        said = bytes(client.peek(LONGEST).data())
        if len(said) < LONGEST and (OPEN.startswith(said) or said.startswith(OPEN)) and END not in said:
            return
        client.readAll()
        name, end, _ = said.removeprefix(OPEN).partition(END)
        if said.startswith(OPEN) and end:
            client.write(TAKEN)
            self.asked.emit(Path(os.fsdecode(name)) if name else None)
        client.disconnectFromServer()

    def close(self) -> None:
        """Listen no more."""
        self._server.close()
        if self._path is not None:
            self._path.unlink(missing_ok=True)
            self._path = None
