"""Listening to a song while it is being opened."""

import threading
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr

if TYPE_CHECKING:  # loaded with the first song: the first window does not wait for it
    from latespin.desktop.session.audio_output import Device, DeviceMaker
    from latespin.memory import Growing
    from latespin.render.playback.opening_player import OpeningPlayer

FRAME_MS = 33


class Listening(QObject):
    """Plays what has been decoded, from the first press on until the song is open.

    place_changed : seconds, and whether it plays.
    """

    place_changed = Signal(float, bool)

    def __init__(
        self, work: WorkQueue, settings: Settings, device_maker: "DeviceMaker | None", parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._work, self._settings, self._maker = work, settings, device_maker
        self._sound: Growing | None = None
        self._rate = 0
        self._player: OpeningPlayer | None = None
        self._device: Device | None = None
        self._timer = QTimer(self, interval=FRAME_MS)
        self._timer.timeout.connect(self._tell)

    def follow(self, sound: "Growing", rate: int) -> None:
        """Be ready to play sound that is being decoded; what was played before ends if it is another."""
        if sound is not self._sound:
            self.end()
            self._sound, self._rate = sound, rate

    def toggle(self) -> None:
        """Play or pause."""
        player = self._started()
        if player is not None:
            player.playing = not player.playing
            self._tell()

    def play_at(self, seconds: float) -> None:
        """Play from a place, as far as there is sound."""
        player = self._started()
        if player is not None:
            player.seek(round(seconds * player.rate))
            player.playing = True
            self._tell()

    def end(self) -> tuple[float, bool]:
        """Stop: the seconds at which it was, and whether it played."""
        player, device = self._player, self._device
        self._sound = self._player = self._device = None
        self._timer.stop()
        if player is None:
            return 0.0, False
        playing, player.playing = player.playing, False
        if device is not None:  # which may take a while to close
            threading.Thread(target=device.close, name="device ends").start()
        return player.frame / player.rate, playing

    def _started(self) -> "OpeningPlayer | None":
        if self._player is None and self._sound is not None:
            from latespin.render.playback.opening_player import OpeningPlayer

            self._player = OpeningPlayer(self._sound, self._rate)
            self._player.gain = (self._settings.volume_percent / 100.0) ** 2
            self._timer.start()
            self._find_device()
        return self._player

    def _find_device(self) -> None:
        if self._maker is not None:
            self._take(self._maker)
            return

        def find(_: Task) -> "DeviceMaker":
            from latespin.desktop.session.audio_output import find_output

            return find_output(self._settings.output_device)

        self._work.submit(Task(tr("Looking for a sound device"), "device", find, on_done=self._take, shown=False))

    def _take(self, maker: "DeviceMaker") -> None:
        self._maker = maker
        if self._player is not None and self._device is None:
            self._device = maker(self._player)

    def _tell(self) -> None:
        if self._player is not None:
            self.place_changed.emit(self._player.frame / self._player.rate, self._player.playing)
