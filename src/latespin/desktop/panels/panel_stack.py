"""The panels: where a stage's values are set."""

from PySide6.QtCore import QSize, Signal
from PySide6.QtWidgets import QStackedWidget, QWidget

from latespin.desktop.panels.beats_panel import BeatsPanel
from latespin.desktop.panels.effects_panel import EffectsPanel
from latespin.desktop.panels.ending_panel import EndingPanel
from latespin.desktop.panels.level_panel import LevelPanel
from latespin.desktop.panels.moments_panel import MomentsPanel
from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.panels.playing.playing_panel import PlayingPanel
from latespin.desktop.panels.time.time_panel import TimePanel
from latespin.desktop.session.document import Document
from latespin.desktop.widgets.controls import SegmentedButton
from latespin.desktop.widgets.inline_edit import InlineEdit

HEIGHT, TALL = 196, 276


class PanelStack(QStackedWidget):
    """One panel for each stage, the chosen one on top. ``opened`` tells that another one is, which may want another height."""

    opened = Signal()

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.time = TimePanel()
        self.colour, self.moments, self.ending = EffectsPanel(), MomentsPanel(), EndingPanel()
        self.level = LevelPanel()
        self.pages: dict[str, StagePanel] = {
            "time": self.time, "colour": self.colour, "moments": self.moments,
            "ending": self.ending, "level": self.level,
        }  # fmt: skip
        self.grid = BeatsPanel()
        self.playing = PlayingPanel()
        self.pages |= {"grid": self.grid, "playing": self.playing}
        for page in self.pages.values():
            page.edited.connect(document.edit_stages)
            page.settled.connect(document.end_drag)
            self.addWidget(page)
        self.setFixedHeight(HEIGHT)
        document.session_changed.connect(self.refresh)
        document.track_changed.connect(self.refresh)
        document.measured_changed.connect(self.refresh)
        document.reading_changed.connect(self.refresh)
        self.refresh()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        for row in self.findChildren(SegmentedButton):
            row.restyle()
        for edit in self.findChildren(InlineEdit):
            edit.restyle()

    @property
    def chosen(self) -> str:
        """The name of the panel on top."""
        return next(name for name, page in self.pages.items() if page is self.currentWidget())

    def open(self, name: str) -> None:
        """Show a stage's panel."""
        self._show(self.pages[name])
        self.setCurrentWidget(self.pages[name])
        self.setFixedHeight(TALL if name in ("colour", "moments", "ending", "level", "playing") else HEIGHT)
        self.opened.emit()

    def minimumSizeHint(self) -> QSize:
        """That of the panel on top, not of the largest one."""
        page = self.currentWidget()
        return QSize(page.minimumSizeHint().width() if page is not None else 0, self.minimumHeight())

    def refresh(self) -> None:
        """Show the chosen version's values, of panels that are not seen when they are opened."""
        enabled = self._document.version is not None and self._document.loaded is not None
        for page in self.pages.values():
            page.setEnabled(enabled)
        self._show(self.currentWidget())

    def _show(self, page: QWidget | None) -> None:
        assert isinstance(page, StagePanel)
        page.show_stages(self._document.stages, self._document)
