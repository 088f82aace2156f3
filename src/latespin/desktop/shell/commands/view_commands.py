"""Commands for the view: zoom, rulers, snapping, theme."""

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QApplication, QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.menus.ruler_menus import RulerMenus
from latespin.desktop.theme.theme import apply_theme
from latespin.desktop.translation import tr

VIEW, HELP, BEATS = "V&iew", "&Help", "&Beats"
ZOOM_STEP = 1.5
BARS_SHOWN = 4


class ViewCommands(QObject):
    """The View and Help menus. ``place`` gives the playhead in seconds of Before, and whether the song plays."""

    message = Signal(str, bool)
    theme_changed = Signal()

    def __init__(
        self, document: Document, settings: Settings, waveform_view: WaveformView, rulers: RulerMenus,
        place: Callable[[], tuple[float, bool]], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._settings, self._view, self._rulers = document, settings, waveform_view, rulers
        self._place, self._window = place, parent

    @command("snap", "&Snap to beats", menu=BEATS, keys="N", group=2, checkable=True)
    def switch_snapping(self) -> None:
        """Snap to beats, or do not."""
        self._rulers.switch_snapping()

    @command("zoom_in", "Zoom &in", menu=VIEW, keys="+|=")
    def zoom_in(self) -> None:
        """Show less of the song, larger."""
        self._view.zoom(ZOOM_STEP)

    @command("zoom_out", "Zoom &out", menu=VIEW, keys="-")
    def zoom_out(self) -> None:
        """Show more of the song, smaller."""
        self._view.zoom(1.0 / ZOOM_STEP)

    @command("zoom_fit", "&Whole song", menu=VIEW, keys="0")
    def zoom_to_fit(self) -> None:
        """Show the whole song."""
        self._view.zoom_to_fit()

    @command("zoom_bars", "Zoom to four &bars", menu=VIEW, keys="Z")
    def zoom_to_bars(self) -> None:
        """Show four bars from the playhead's bar on."""
        grid, time_map, loaded = self._document.grid, self._document.time_map(), self._document.loaded
        if grid is None or time_map is None or loaded is None:
            self.message.emit(tr("There are no bars yet. Tap along, or type the track’s BPM."), False)
            return
        first = int(grid.number_at(self._place()[0] + 1e-3) // grid.beats_per_bar) * grid.beats_per_bar
        start, end = grid.seconds_of(np.array([first, first + BARS_SHOWN * grid.beats_per_bar])).tolist()
        if self._view.side == "after":
            rate = loaded.track.rate
            start, end = (time_map.after_at(max(0.0, place) * rate) / rate for place in (start, end))
        self._view.show_range(max(0.0, start), end)

    @command("bar_rulers", "&Rulers in bars", menu=VIEW, keys="R", checkable=True)
    def switch_bar_rulers(self) -> None:
        """Count bars on the rulers, or seconds."""
        self._rulers.switch_bars()

    @command("evening", "&Evening", menu=VIEW, group=1, song=False, checkable=True)
    def dress_for_evening(self) -> None:
        """The dark theme."""
        self._dress("Evening")

    @command("daylight", "&Daylight", menu=VIEW, group=1, song=False, checkable=True)
    def dress_for_daylight(self) -> None:
        """The light theme."""
        self._dress("Daylight")

    def _dress(self, name: str) -> None:
        self._settings.theme = name
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, name)
        self.theme_changed.emit()

    @command("about", "&About Late Spin", menu=HELP, song=False)
    def about(self) -> None:
        """Version, licences and the shortcuts."""
        from latespin.desktop.dialogs.about import AboutBox

        box = AboutBox(self._window)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()
