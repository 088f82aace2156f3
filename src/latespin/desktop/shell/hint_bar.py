"""One-time hints: a line above a panel that is open for the first time, until it is dismissed."""

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from latespin.desktop.panels.panel_stack import PanelStack
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label

HINTS = {
    "time": "Type what you want in the table above: a length such as 2:30, a tempo or a key. Speed and pitch follow.",
    "colour": "Each effect feeds the one below it. Switch one off and on to compare: the version stays as loud.",
    "moments": "Drag along a waveform to mark a range, then choose what happens there.",
    "ending": "Choose how the version finishes, then press one of the strong bar lines, or drag the ending on After.",
    "level": "Choose a target. Before and After play equally loud while you listen, so louder never passes for better.",
    "grid": "Are the beats wrong? Press another reading of them, or play the song and tap along with T.",
    "playing": "Play the song and hold a pad. Switch Record on to keep what you play as a take.",
}


class HintBar(QWidget):
    """Shows the hint of the open panel once a song is open. Which ones were dismissed is remembered."""

    def __init__(self, panels: PanelStack, document: Document, settings: Settings) -> None:
        super().__init__()
        self._panels, self._document, self._settings = panels, document, settings
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 4, 4, 4)
        row.setSpacing(8)
        self.label = quiet_label("", 12)
        self.label.setWordWrap(True)
        self.dismiss, self.dismiss_all = QPushButton(tr("Got it")), QPushButton(tr("No hints"))
        self.dismiss.setToolTip(tr("Do not show this hint again."))
        self.dismiss_all.setToolTip(tr("Show no hints at all."))
        self.dismiss.clicked.connect(lambda: self._forget(panels.chosen))
        self.dismiss_all.clicked.connect(lambda: self._forget(*HINTS))
        row.addWidget(self.label, 1)
        for button in (self.dismiss, self.dismiss_all):
            button.setAutoDefault(False)
            row.addWidget(button)
        panels.opened.connect(self.refresh)
        document.track_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the hint of the open panel, unless it was dismissed."""
        panel = self._panels.chosen
        shown = self._document.loaded is not None and panel not in self._settings.hints_dismissed
        if shown:
            self.label.setText(tr(HINTS[panel]))
        self.setVisible(shown)

    def _forget(self, *panels: str) -> None:
        self._settings.hints_dismissed = sorted({*self._settings.hints_dismissed, *panels})
        self.refresh()
