"""The benches: where a stage's values are set."""

from PySide6.QtWidgets import QStackedWidget, QWidget

from latespin.desktop.panels.beats_panel import GridBench
from latespin.desktop.panels.effects_panel import ColourBench
from latespin.desktop.panels.ending_panel import EndingBench
from latespin.desktop.panels.level_panel import LevelBench
from latespin.desktop.panels.moments_panel import MomentsBench
from latespin.desktop.panels.panel import Bench
from latespin.desktop.panels.time_panel import TimeBench
from latespin.desktop.session.document import Document
from latespin.desktop.widgets.controls import Choices
from latespin.desktop.widgets.inline_edit import Entry

HEIGHT, TALL = 196, 276


class Benches(QStackedWidget):
    """One bench for each stage, the chosen one on top."""

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.time = TimeBench()
        self.colour, self.moments, self.ending = ColourBench(), MomentsBench(), EndingBench()
        self.level = LevelBench()
        self.pages: dict[str, Bench] = {
            "time": self.time, "colour": self.colour, "moments": self.moments,
            "ending": self.ending, "level": self.level,
        }  # fmt: skip
        self.grid = GridBench()
        self.pages["grid"] = self.grid
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
        for part in (*self.findChildren(Choices), *self.findChildren(Entry)):
            part.restyle()

    def open(self, name: str) -> None:
        """Show a stage's bench."""
        self._show(self.pages[name])
        self.setCurrentWidget(self.pages[name])
        self.setFixedHeight(TALL if name in ("colour", "moments", "ending", "level") else HEIGHT)

    def refresh(self) -> None:
        """Show the chosen version's values, of benches that are not seen when they are opened."""
        enabled = self._document.version is not None and self._document.loaded is not None
        for page in self.pages.values():
            page.setEnabled(enabled)
        self._show(self.currentWidget())

    def _show(self, page: QWidget | None) -> None:
        assert isinstance(page, Bench)
        page.show_stages(self._document.stages, self._document)
