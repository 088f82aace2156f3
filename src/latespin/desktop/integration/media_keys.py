"""The window as a player of the desktop: media keys run its commands, and panels show what it plays."""

import contextlib
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlparse

from PySide6.QtCore import QObject, QTimer, Signal

from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.shell.commands.play_commands import PlayCommands
from latespin.desktop.translation import tr
from latespin.integration.mpris import MediaPlayer, NowPlaying
from latespin.media.files.atomic import write_bytes
from latespin.memory import cache_folder

SETTLE_MS = 150
JUMP_SECONDS = 0.7
ENDINGS = {"image/png": ".png", "image/webp": ".webp"}


class MediaKeys(QObject):
    """raise_wanted, quit_wanted, open_wanted : of the window.  ``start`` takes the name on the session bus."""

    raise_wanted = Signal()
    quit_wanted = Signal()
    open_wanted = Signal(object)
    found = Signal(bool)  # whether the desktop knows of it now
    _asked = Signal(str, object)  # from the bus's thread to the window's

    def __init__(self, document: Document, play: PlayCommands, parent: QObject) -> None:
        super().__init__(parent)
        self._document, self._play = document, play
        self._place, self._number, self._cover = 0.0, 0, ""
        self.player = MediaPlayer(lambda command, value: self._asked.emit(command, value), lambda: self._place)
        self._asked.connect(self._run)
        self._soon = QTimer(self, singleShot=True, interval=SETTLE_MS)
        self._soon.timeout.connect(self._show)
        document.track_changed.connect(self._take_song)
        document.session_changed.connect(self._soon.start)

    def start(self) -> None:
        """Be found by the desktop, where there is a session bus."""
        self._play.started.connect(self._follow)
        if self._play.playback is not None:
            self._follow(self._play.playback)
        self._take_song()
        self.player.start(self.found.emit)

    def stop(self) -> None:
        """Leave the bus."""
        self.player.stop()

    def _follow(self, playback: Any) -> None:
        playback.playing_changed.connect(lambda _: self._show())
        playback.place_changed.connect(self._take_place)

    def _take_place(self, _: str, seconds: float) -> None:
        jumped = abs(seconds - self._place) > JUMP_SECONDS
        self._place = seconds
        if jumped:
            self.player.show_jump(seconds)

    def _take_song(self) -> None:
        loaded = self._document.loaded
        if loaded is not None:
            self._number, self._cover = self._number + 1, ""
            tags, name = loaded.track.tags, loaded.track.sha256
            keep = Task(
                tr("Keeping the cover"), "cover", lambda _: _cover_file(tags.cover, tags.cover_type, name), on_done=self._take_cover, shown=False
            )  # fmt: skip
            self._document.work.submit(keep)
        self._show()

    def _take_cover(self, address: str) -> None:
        self._cover = address
        self._show()

    def _show(self) -> None:
        """Tell the desktop what plays."""
        loaded, player = self._document.loaded, self._play.player
        if loaded is None:
            return
        version, made = self._document.version, self._document.arrangement()
        title = f"{loaded.track.title} – {version.name}" if version is not None else loaded.track.title
        seconds = made.map.after_frames / loaded.track.rate if made is not None else loaded.track.seconds
        playing = player is not None and player.playing
        tags = loaded.track.tags
        self.player.show(
            NowPlaying(playing, title, tags.first("artist"), tags.first("album"), seconds, self._cover, self._number)
        )

    # -- what the desktop asks for ---------------------------------------------------------------------------------

    def _run(self, command: str, value: Any) -> None:
        playing = self._play.player is not None and self._play.player.playing
        if command in ("raise", "quit"):
            (self.raise_wanted if command == "raise" else self.quit_wanted).emit()
        elif command == "toggle" or (command == "play" and not playing) or (command in ("pause", "stop") and playing):
            self._play.play()
        elif command == "volume":
            self._play.set_volume(100.0 * value)
        elif command in ("next", "previous"):
            self._choose(1 if command == "next" else -1)
        elif command == "open":
            address = urlparse(value)
            if address.scheme == "file":
                self.open_wanted.emit(Path(unquote(address.path)))
        elif command in ("seek", "place") and self._play.playback is not None:
            wanted = max(0.0, value + (self._place if command == "seek" else 0.0))
            self._play.seek(self._play.playback.side, wanted)
        if command == "stop":
            self._play.to_start()

    def _choose(self, by: int) -> None:
        """The next version, or the one before."""
        versions = self._document.session.versions
        place = next((i for i, v in enumerate(versions) if v.id == self._document.session.chosen), 0) + by
        if 0 <= place < len(versions):
            self._document.choose(versions[place].id)


def _cover_file(data: bytes, kind: str, name: str) -> str:
    """The address of a file with the cover, for panels; empty where there is none."""
    if not data:
        return ""
    file = cache_folder() / "covers" / f"{name[:32]}{ENDINGS.get(kind, '.jpg')}"
    with contextlib.suppress(OSError):
        if not file.exists():
            file.parent.mkdir(parents=True, exist_ok=True)
            write_bytes(file, data, overwrite=True, sources=())
        return file.as_uri()
    return ""
