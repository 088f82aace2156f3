"""The folder files are written to: typed, or chosen."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QPushButton, QWidget

from latespin.desktop.translation import tr


class FolderField(QWidget):
    """A line with a folder, and a button to choose another."""

    changed = Signal()

    def __init__(self, folder: str = "") -> None:
        super().__init__()
        self._line = QLineEdit(folder)
        self._line.setAccessibleName(tr("Folder"))
        self._line.textChanged.connect(self.changed)
        browse = QPushButton(tr("Choose …"))
        browse.setAutoDefault(False)
        browse.clicked.connect(self._choose)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(self._line, 1)
        row.addWidget(browse)
        self.setFocusProxy(self._line)

    def text(self) -> str:
        """The folder as it was typed."""
        return self._line.text()

    def setText(self, folder: str) -> None:
        """Name another folder."""
        self._line.setText(folder)

    def _choose(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, tr("Folder for the files"), self.text())
        if chosen:
            self.setText(chosen)
