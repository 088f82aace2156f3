"""Autosave, and offering recovered work after a crash."""

import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import OPEN_FILTER, LoadedTrack, load_track, song_path
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.media.storage.autosave import Journal, LeftBehind, drop, left_behind
from latespin.paths import is_file

EVERY_MS = 1_500


class AutosaveController(QObject):
    """Writes at most ``EVERY_MS`` after a change, in the background."""

    def __init__(self, document: Document, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._window = document, parent
        self.journal = Journal()
        self.box: QMessageBox | None = None
        self._soon = QTimer(self, singleShot=True, interval=EVERY_MS)
        self._soon.timeout.connect(self._write)
        document.session_changed.connect(self._follow)

    def _follow(self) -> None:
        if not self._soon.isActive():
            self._soon.start()

    def _write(self) -> None:
        document = self._document
        if document.work.active("journal"):
            self._soon.start()
            return
        session, path, modified = document.session, document.path, document.modified

        def function(_: Task) -> None:
            if modified:
                self.journal.write(session, path, time.time())
            else:
                self.journal.forget()

        task = Task(
            tr("Keeping unsaved work"),
            "journal",
            function,
            on_failed=lambda text: document.problem.emit(text),
            shown=False,
        )
        document.work.submit(task)

    def close(self) -> None:
        """The window closes, its work saved or given up."""
        self._soon.stop()
        self.journal.close()

    def offer(self, otherwise: Callable[[], None] = lambda: None) -> None:
        """Offer work that was left behind, the newest first; ``otherwise`` is done where there is none, or none is taken up."""
        if self.box is None:
            self._offer(left_behind(), otherwise)
        else:
            otherwise()

    def _offer(self, all_left: list[LeftBehind], otherwise: Callable[[], None]) -> None:
        if not all_left:
            otherwise()
            return
        left, *more = all_left
        name = (
            left.path.stem if left.path else Path(left.session.track.path).stem if left.session.track else tr("a song")
        )
        when = time.strftime(tr("%H:%M on %A %d %B"), time.localtime(left.saved_at))
        box = QMessageBox(
            QMessageBox.Icon.Question, tr("Unsaved work"),
            tr("Late Spin ended before the work on “{0}” was saved. It is here as it was at {1}.").format(name, when), parent=self._window,
        )  # fmt: skip
        again = box.addButton(tr("Open it"), QMessageBox.ButtonRole.AcceptRole)
        away = box.addButton(tr("Throw it away"), QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(tr("Ask again next time"), QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(again)

        def answered() -> None:
            self.box = None
            if box.clickedButton() is again:
                self.open(left)
                return
            if box.clickedButton() is away:
                drop(left)
            self._offer(more, otherwise)

        box.finished.connect(answered)
        self.box = box
        box.open()

    def open(self, left: LeftBehind) -> None:
        """Restore the work; its old file is kept until this window has saved it itself."""
        document = self._document
        song = (
            song_path(left.session.track, left.path.parent if left.path else Path("/")) if left.session.track else None
        )
        if song is None or not is_file(song):
            song = self._find_song(song)
        if song is None:
            return

        def done(loaded: LoadedTrack) -> None:
            document.begin(left.session, left.path, loaded)
            document.take_for_unsaved()
            self._write_then_drop(left)

        task = Task(
            tr("Opening {0}").format(song.name),
            "open",
            lambda work: load_track(song, work, left.session.sound_track),
            on_done=done,
            on_failed=document.problem.emit,
        )
        document.work.submit(task)

    def _find_song(self, was: Path | None) -> Path | None:
        """Ask where the song of the unsaved work is now; without an answer the work is offered again next time."""
        text = (
            tr("The song of this work is not where it was: {0}. Show where it is").format(was)
            if was
            else tr("Find the song of this work")
        )
        name, _ = QFileDialog.getOpenFileName(self._window, text, str(was.parent) if was else "", OPEN_FILTER)
        return Path(name) if name else None

    def _write_then_drop(self, left: LeftBehind) -> None:
        session, path = self._document.session, self._document.path

        def function(_: Task) -> None:
            self.journal.write(session, path, time.time())
            drop(left)

        self._document.work.submit(Task(tr("Keeping unsaved work"), "journal", function, shown=False))
