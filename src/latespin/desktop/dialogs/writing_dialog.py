"""What the dialogs share that have files written: a heading, a file name and a folder, what is wrong, and two buttons."""

from pathlib import Path

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.dialogs.part_chooser import PartChooser
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.theme.theme import BOLD, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.model.text.describe import say_version
from latespin.model.values.file_names import safe_name
from latespin.paths import resolved


class WritingDialog(QDialog):
    """A dialog about the chosen version. Subclasses fill ``column`` between the two calls, and have ``refresh`` and ``first_problem``."""

    def __init__(
        self, document: Document, settings: Settings, title: str, heading: str, parent: QWidget | None
    ) -> None:
        super().__init__(parent)
        assert document.loaded is not None
        assert document.version is not None
        self.document, self.settings, self.version = document, settings, document.version
        self.track, self.sources = document.loaded.track, document.session.files()
        self.setWindowTitle(title)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(24, 20, 24, 20)
        self.column.setSpacing(16)
        head = QLabel(heading.format(self.version.name))
        head.setFont(font(18, BOLD))
        self.column.addWidget(head)
        self.column.addWidget(quiet_label(say_version(document.stages), 13))

    def add_end(self, action: str) -> None:
        """What is wrong, and the button that has the files written."""
        self.problem = QLabel()
        self.problem.setProperty("warning", True)
        self.problem.setWordWrap(True)
        self.column.addWidget(self.problem)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.accept_button = buttons.addButton(action, QDialogButtonBox.ButtonRole.AcceptRole)
        self.accept_button.setDefault(True)
        buttons.button(QDialogButtonBox.StandardButton.Cancel).setAutoDefault(False)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        self.column.addWidget(buttons)

    def add_file(self, form: QFormLayout, name_label: str) -> None:
        """The file name and the folder."""
        self.name = QLineEdit(safe_name(f"{self.track.title} - {self.version.name}"))
        self.name.textChanged.connect(self.refresh)
        form.addRow(name_label, self.name)
        kept = self.settings.export_folder
        self.folder = QLineEdit(kept if kept and Path(kept).is_dir() else str(resolved(self.track.path).parent))
        self.folder.textChanged.connect(self.refresh)
        browse = QPushButton(tr("Choose …"))
        browse.setAutoDefault(False)
        browse.clicked.connect(self._browse)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.folder, 1)
        row.addWidget(browse)
        label = QLabel(tr("Fol&der"))
        label.setBuddy(self.folder)
        form.addRow(label, row)

    def add_part(self, form: QFormLayout, marked: tuple[float, float] | None) -> None:
        """The range of the version."""
        self.part = PartChooser(self.document, marked)
        self.part.changed.connect(self.refresh)
        add_labelled(form, tr("Ran&ge"), self.part)

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, tr("Folder for the files"), self.folder.text())
        if chosen:
            self.folder.setText(chosen)

    def refresh(self) -> None:
        """Follow what was chosen."""
        problem = self.first_problem()
        self.problem.setText(problem)
        self.problem.setVisible(bool(problem))
        self.accept_button.setEnabled(not problem)

    def first_problem(self) -> str:
        """What stands in the way; empty where nothing does."""
        return ""

    def accept(self) -> None:
        """Remember the folder and close."""
        self.settings.export_folder = self.folder.text()
        super().accept()


def add_labelled(form: QFormLayout, text: str, field: QWidget) -> None:
    """A row whose label leads to a field of several parts."""
    label = QLabel(text)
    label.setBuddy(field)
    form.addRow(label, field)
