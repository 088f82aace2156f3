"""Two menus: what dragging snaps to, and what the rulers count."""

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.language import localised

VIDEO_RATES = (24.0, 25.0, 30000.0 / 1001.0, 30.0, 50.0, 60.0)
SNAPS = (("beats", "&Beats"), ("bars", "B&ars"), ("strong", "&Strong beats"))


class RulerMenus(QObject):
    """Holds both menus, and applies remembered settings to the waveform view."""

    changed = Signal()

    def __init__(self, settings: Settings, waveform_view: WaveformView, parent: QWidget) -> None:
        super().__init__(parent)
        self._settings, self._view = settings, waveform_view
        rates = [
            (0.0, "&No video"),
            *((rate, tr("{0} frames a second").format(localised(f"{rate:.5g}"))) for rate in VIDEO_RATES),
        ]
        self.snaps = _menu(tr("Snap &to"), SNAPS, self.snap_to, parent)
        self.rates = _menu(tr("Rulers in &video frames"), rates, self.count_frames, parent)

    def snap_to(self, key: str) -> None:
        """Snap to beats, bars or strong beats."""
        self._settings.snap_to, self._settings.snapping = key, True
        self.show()

    def switch_snapping(self) -> None:
        """Snap, or do not."""
        self._settings.snapping = not self._settings.snapping
        self.show()

    def count_frames(self, rate: float) -> None:
        """Have rulers count the frames of a video; 0 for none."""
        self._settings.video_rate = rate
        self.show()

    def switch_bars(self) -> None:
        """Have rulers count bars, or seconds."""
        self._settings.video_rate = 0.0
        self._settings.rulers_in_bars = not self._settings.rulers_in_bars
        self.show()

    def show(self) -> None:
        """Apply the settings to the view and tick them in the menus."""
        settings, view = self._settings, self._view
        view.snapping, view.snap_to = settings.snapping, settings.snap_to
        view.frames_per_second = settings.video_rate or None
        view.show_rulers(in_bars=settings.rulers_in_bars and not settings.video_rate)
        for menu, chosen in ((self.snaps, settings.snap_to), (self.rates, settings.video_rate)):
            for action in menu.actions():
                action.setChecked(action.data() == chosen)
        self.changed.emit()


def _menu(title: str, choices: Sequence[tuple[Any, str]], call: Callable[[Any], None], parent: QWidget) -> QMenu:
    """A menu of which one entry holds."""
    menu = QMenu(title, parent)
    group = QActionGroup(menu)
    for key, text in choices:
        action = QAction(tr(text), group)
        action.setCheckable(True)
        action.setData(key)
        action.triggered.connect(lambda _=False, k=key: call(k))
        menu.addAction(action)
    return menu
