"""The menu of sound devices: chosen while a song plays, and left for another one when a device goes away."""

import os
from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import DEFAULT_DEVICE, SILENT_DEVICE, Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.shell.commands.play_commands import PlayCommands
from latespin.desktop.translation import tr


class DeviceMenu(QObject):
    """``menu`` lists the devices there are. What is chosen is remembered; a device that is not there gives way to the default one."""

    message = Signal(str, bool)

    def __init__(self, document: Document, play: PlayCommands, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._play, self._settings = document, play, settings
        self._outputs: tuple[tuple[str, str], ...] = ()
        self._watch: Any = None
        self.menu = QMenu(tr("Sound &device"), parent)
        self.menu.aboutToShow.connect(self.look)
        self._show()
        play.started.connect(self._begin)

    def _begin(self, playback: Any) -> None:
        playback.wanted_device = self._settings.output_device
        playback.device_changed.connect(lambda _: self._start_watching())

    def _start_watching(self) -> None:
        """Hear of devices that come and go, once Qt's part for them has been loaded."""
        if self._watch is None and os.environ.get("LATESPIN_DEVICE") != SILENT_DEVICE:
            from PySide6.QtMultimedia import QMediaDevices

            self._watch = QMediaDevices(self)
            self._watch.audioOutputsChanged.connect(self.look)
        self.look()

    def look(self) -> None:
        """Find out in the background which devices there are."""

        def function(_: Task) -> list[tuple[str, str]]:
            from latespin.desktop.session.audio_output import outputs  # what plays is loaded after the first picture

            return outputs()

        task = Task(tr("Looking for sound devices"), "device", function, on_done=self.take_outputs, shown=False)
        self._document.work.submit(task)

    def take_outputs(self, outputs: Sequence[tuple[str, str]]) -> None:
        """The devices there are: id and description of each. The one in use is left if it is gone."""
        if tuple(outputs) == self._outputs:
            return  # the menu may be open
        before, self._outputs = dict(self._outputs), tuple(outputs)
        chosen = self._settings.output_device
        if chosen in before and chosen not in dict(outputs):
            self.message.emit(tr("{0} is gone; the sound goes to the system’s device.").format(before[chosen]), True)
            self._open(DEFAULT_DEVICE)
        elif (
            chosen == DEFAULT_DEVICE
            and before
            and self._in_use() in before.values()
            and self._in_use() not in dict(outputs).values()
        ):
            self.message.emit(tr("{0} is gone; the sound goes to the system’s device.").format(self._in_use()), True)
            self._open(DEFAULT_DEVICE)
        elif chosen in dict(outputs) and before and chosen not in before:
            self.message.emit(tr("{0} is back; the sound goes there.").format(dict(outputs)[chosen]), False)
            self._open(chosen)
        self._show()

    def _in_use(self) -> str:
        """What the device that plays is called."""
        device = self._play.playback.device if self._play.playback is not None else None
        return device.description if device is not None else ""

    def choose(self, ident: str) -> None:
        """Play through a device from now on."""
        self._settings.output_device = ident
        self._open(ident)
        self._show()

    def _open(self, ident: str) -> None:
        if self._play.playback is not None:
            self._play.playback.use_device(ident)

    def _show(self) -> None:
        chosen = self._settings.output_device
        self.menu.clear()
        group = QActionGroup(self.menu)
        for ident, text in (
            (DEFAULT_DEVICE, tr("The &system’s device")),
            *self._outputs,
            (SILENT_DEVICE, tr("&None: play silently")),
        ):
            action = QAction(text if ident in (DEFAULT_DEVICE, SILENT_DEVICE) else text.replace("&", "&&"), group)
            action.setCheckable(True)
            action.setChecked(ident == chosen)
            action.triggered.connect(lambda _=False, key=ident: self.choose(key))
            self.menu.addAction(action)
