"""What has to be said, in one line at the top of the window."""

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

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
        close = QPushButton("Dismiss")
        close.clicked.connect(self.hide)
        row.addWidget(self.label, 1)
        row.addWidget(close)
        self._timer = QTimer(self, singleShot=True, interval=NOTICE_MS)
        self._timer.timeout.connect(self.hide)
        self.hide()

    def say(self, text: str, *, problem: bool) -> None:
        """Show a sentence; problems stay until they are dismissed."""
        self.label.setText(text)
        self.label.setProperty("warning", problem)
        self.label.style().polish(self.label)
        self._timer.stop()
        if not problem:
            self._timer.start()
        self.show()
