"""Opening, saving and exporting."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QFileDialog, QInputDialog, QWidget

from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import OPEN_FILTER
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.shell.confirmations import ask_about_other_save, ask_about_unsaved
from latespin.desktop.translation import tr
from latespin.media.audio.sound_tracks import sound_tracks

if TYPE_CHECKING:  # loaded when the dialog is first opened
    from latespin.desktop.dialogs.export import ExportOrder
    from latespin.desktop.dialogs.video import Shown

SESSION_SUFFIX = ".latespin"
SESSION_FILTER = f"Sessions (*{SESSION_SUFFIX})"
FILE = "&File"


class FileCommands(QObject):
    """The File menu.

    message : a sentence, and whether it is a problem.  offered : a sentence, the words of a button, and what it does.  exported : a version whose file has been written.  many_given : songs and folders for an export of many.
    """

    message = Signal(str, bool)
    offered = Signal(str, str, object)
    recent_changed = Signal()
    exported = Signal(object)
    quit_wanted = Signal()
    many_given = Signal(list)

    def __init__(
        self, document: Document, settings: Settings, marked: Callable[[], tuple[float, float] | None], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._document, self._settings, self._marked, self._window = document, settings, marked, parent
        document.sound_tracks_found.connect(self._offer_sound_tracks)

    def open_file(self, path: Path) -> None:
        """Open a song or a session, after asking what becomes of unsaved work."""
        if not self.may_leave():
            return
        if path.suffix.lower() == SESSION_SUFFIX:
            self._document.open_session(path)
        else:
            self._document.open_song(path)

    def take_dropped(self, files: list[Path]) -> None:
        """Open a song or a session; several songs, or a folder of them, are given on for an export of many."""
        if len(files) == 1 and not files[0].is_dir():
            self.open_file(files[0])
        else:
            self.many_given.emit(files)

    def may_leave(self) -> bool:
        """True where the session may be replaced or closed: nothing is unsaved, or the user saved or discarded it."""
        if not self._document.modified:
            return True
        answer = ask_about_unsaved(self._window)
        return self.save() if answer == "save" else answer == "discard"

    def save(self, *, ask: bool = False) -> bool:
        """Save the session, asking for a path if there is none. False if it was not saved."""
        path = self._document.path
        if path is None or ask:
            path = self._ask_for_session(tr("Save the session"), path)
            if path is None:
                return False
        if self._document.changed_elsewhere(path):
            answer = ask_about_other_save(self._window, path)
            if answer != "replace":
                return self.save(ask=True) if answer == "another" else False
        if not self._document.save(path):
            return False
        self._settings.remember_file(path)
        self.recent_changed.emit()
        self.message.emit(tr("Saved {0}").format(path), False)
        return True

    def _ask_for_session(self, title: str, path: Path | None = None) -> Path | None:
        """The path to save a session to, with its suffix; None if the user cancels."""
        loaded = self._document.loaded
        start = path or (loaded.track.path.with_suffix(SESSION_SUFFIX) if loaded else "")
        name, _ = QFileDialog.getSaveFileName(self._window, title, str(start), SESSION_FILTER)
        if not name:
            return None
        chosen = Path(name)
        return chosen if chosen.suffix.lower() == SESSION_SUFFIX else chosen.with_name(chosen.name + SESSION_SUFFIX)

    @command("open", "&Open song or session …", menu=FILE, keys="Ctrl+O", song=False)
    def open(self) -> None:
        """Ask for a file and open it."""
        folder = str(Path(self._settings.recent[0]).parent) if self._settings.recent else ""
        name, _ = QFileDialog.getOpenFileName(self._window, tr("Open a song or a session"), folder, OPEN_FILTER)
        if name:
            self.open_file(Path(name))

    @command("sound_track", "Sound &track …", menu=FILE)
    def choose_sound_track(self) -> None:
        """Choose which sound track of a video is the song."""
        loaded = self._document.loaded
        if loaded is None:
            return
        path, several = loaded.track.path, loaded.track.sound_tracks > 1
        if not several:
            self.message.emit(tr("{0} has no other sound track.").format(path.name), False)
            return
        task = Task(
            tr("Looking for sound tracks"), "look", lambda _: sound_tracks(path), self._ask_for_sound_track,
            lambda text: self.message.emit(text, True), shown=False,
        )  # fmt: skip
        self._document.work.submit(task)

    def _ask_for_sound_track(self, known: tuple[str, ...]) -> None:
        loaded = self._document.loaded
        if loaded is None:
            return
        now = loaded.track.sound_track
        title, question = (
            tr("Sound track"),
            tr("Which sound track is the song?\nVersions stay, but earlier steps can then not be undone."),
        )
        chosen, answered = QInputDialog.getItem(self._window, title, question, list(known), now - 1, False)
        if answered and chosen in known and known.index(chosen) + 1 != now:
            self._document.use_sound_track(known.index(chosen) + 1)

    def _offer_sound_tracks(self) -> None:
        assert self._document.loaded is not None
        track = self._document.loaded.track
        sentence = tr("{0} has {1} sound tracks; number {2} is the song.").format(
            track.path.name, track.sound_tracks, track.sound_track
        )
        self.offered.emit(sentence, tr("Choose another …"), self.choose_sound_track)

    @command("save", "&Save session", menu=FILE, keys="Ctrl+S", group=1)
    def save_session(self) -> None:
        """Save to the session's file."""
        self.save()

    @command("save_as", "Save session &as …", menu=FILE, keys="Ctrl+Shift+S", group=1)
    def save_session_as(self) -> None:
        """Save under another name."""
        self.save(ask=True)

    @command("collect", "Save with &copies of its files …", menu=FILE, group=1)
    def collect(self) -> None:
        """Save the session and copy every file it uses beside it."""
        path = self._ask_for_session(tr("Save the session with copies of its files"), self._document.path)
        if path is not None:
            self._document.collect(path)

    @command("export", "&Export …", menu=FILE, keys="Ctrl+E", group=2)
    def export(self) -> None:
        """Open the export dialog."""
        from latespin.desktop.dialogs.export import ExportDialog

        if self._document.loaded is None or self._document.version is None:
            return
        dialog = ExportDialog(self._document, self._settings, self._marked(), self._window)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.accepted.connect(lambda: self._export(dialog.orders()))
        dialog.open()

    @command("export_video", "Export a &video …", menu=FILE, keys="Ctrl+Alt+E", group=2)
    def export_video(self) -> None:
        """Open the video dialog, once it is known whether the song has pictures."""
        from latespin.desktop.controllers.publishing.video import look_task

        if self._document.loaded is not None and self._document.version is not None:
            self._document.work.submit(look_task(self._document.loaded.track, self._open_video))

    def _open_video(self, shown: "Shown") -> None:
        from latespin.desktop.controllers.publishing.video import video_task
        from latespin.desktop.dialogs.video import VideoDialog

        document = self._document
        if (
            document.loaded is None
            or document.version is None
            or any(d.isVisible() for d in self._window.findChildren(VideoDialog))
        ):
            return
        dialog = VideoDialog(document, self._settings, self._marked(), shown, self._window)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def accepted() -> None:
            order = dialog.order()
            document.work.submit(video_task(document, order, partial(self.exported.emit, order.version)))

        dialog.accepted.connect(accepted)
        dialog.open()

    def _export(self, orders: "list[ExportOrder]") -> None:
        from latespin.desktop.controllers.publishing.export import export_task

        document = self._document
        assert document.loaded is not None
        for order in orders:
            written = partial(self.exported.emit, order.version)
            document.work.submit(export_task(document.loaded.readers, order, document.sources, written))

    @command("quit", "&Quit", menu=FILE, keys="Ctrl+Q", group=3, song=False)
    def quit(self) -> None:
        """Close the window."""
        self.quit_wanted.emit()
