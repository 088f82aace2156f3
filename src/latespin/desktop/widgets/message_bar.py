"""Messages in one line at the top of the window."""

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from latespin.desktop.translation import tr

NOTICE_MS = 12_000


class Notice(QWidget):
    """One line at the top for what has to be said; goes by itself, or when it is dismissed."""

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 4, 16, 4)
        self.label = QLabel()
        self.label.setWordWrap(True)
        self.label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        close = QPushButton(tr("Dismiss"))
        close.clicked.connect(self.hide)
        row.addWidget(self.label, 1)
        self.choice = QPushButton()
        self.choice.clicked.connect(self._choose)
        self._chosen: Callable[[], None] = lambda: None
        row.addWidget(self.choice)
        row.addWidget(close)
        self._timer = QTimer(self, singleShot=True, interval=NOTICE_MS)
        self._timer.timeout.connect(self.hide)
        self.hide()

    def say(self, text: str, *, problem: bool, choice: tuple[str, Callable[[], None]] | None = None) -> None:
        """Show a sentence, and what can be done about it; problems stay until they are dismissed."""
        self.choice.setVisible(choice is not None)
        if choice is not None:
            self.choice.setText(choice[0])
            self._chosen = choice[1]
        self.label.setText(text)
        self.label.setProperty("warning", problem)
        self.label.style().polish(self.label)
        self._timer.stop()
        if not problem:
            self._timer.start()
        self.show()

    def _choose(self) -> None:
        self.hide()
        self._chosen()
