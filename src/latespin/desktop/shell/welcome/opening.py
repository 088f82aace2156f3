"""The welcome page kept up to date: what was opened last, or the song that is being opened."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import DECODING_SHARE
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.shell.welcome.listening import Listening
from latespin.desktop.shell.welcome.page import Welcome

if TYPE_CHECKING:  # loaded with the first song: the first window does not wait for it
    from latespin.desktop.session.audio_output import DeviceMaker
    from latespin.desktop.shell.commands.play_commands import PlayCommands


class Opening(QObject):
    """Shows on the page how far a song is, plays it if asked, and leaves it to the playback once it is open."""

    def __init__(
        self, page: Welcome, document: Document, settings: Settings, device_maker: "DeviceMaker | None"
    ) -> None:
        super().__init__(page)
        self._page, self._document, self._settings = page, document, settings
        self.listening = Listening(document.work, settings, device_maker, self)
        page.listen_wanted.connect(self.listening.toggle)
        page.place_wanted.connect(self.listening.play_at)
        self.listening.place_changed.connect(lambda seconds, on: page.show_place(seconds, playing=on))
        document.work.changed.connect(self.show)

    def show(self) -> None:
        """Show the song that is being opened, otherwise what was opened last."""
        if self._document.loaded is not None:
            return
        opening = self._opening()
        if not opening:
            self.listening.end()
            self._page.show_place(0.0, playing=False)
            self._page.show_recent(self._settings.recent, dict(self._settings.recent_shapes))
            return
        task = opening[-1]
        so_far = task.so_far()
        if so_far is not None:
            self.listening.follow(so_far.sound, so_far.rate)
        self._page.show_opening(f"{task.title} …", so_far, task.fraction / DECODING_SHARE)

    def _opening(self) -> list[Task]:
        """Songs on their way, those too that are open already and wait to be delivered."""
        tasks = [task for task in self._document.work.tasks if task.lane == "open" and task.shown]
        return [task for task in tasks if task.active or task.result is not None]

    def leave_to(self, play: "PlayCommands") -> None:
        """The song is open: go on with Before where it was being listened to."""
        seconds, playing = self.listening.end()
        if seconds > 0.0:
            play.set_side("before")
            play.seek("before", seconds)
        if playing:
            play.play()
