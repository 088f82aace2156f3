"""What the dialogs share that have files written: a heading, a file name and a folder, what is wrong, and two buttons."""

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.dialogs.folder_field import FolderField
from latespin.desktop.dialogs.part_chooser import PartChooser
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import WarningLabel, heading, quiet_label
from latespin.model.text.describe import say_version
from latespin.model.values.file_names import safe_name


class WritingDialog(QDialog):
    """A dialog about the chosen version. Subclasses add to it from top to bottom, and have ``refresh`` and ``first_problem``."""

    def __init__(self, document: Document, settings: Settings, title: str, parent: QWidget | None) -> None:
        super().__init__(parent)
        assert document.loaded is not None
        assert document.version is not None
        self.document, self.settings, self.version = document, settings, document.version
        self.track, self.sources = document.loaded.track, document.session.files()
        self.setWindowTitle(title)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(24, 20, 24, 20)
        self.column.setSpacing(16)

    def add_heading(self, text: str) -> None:
        """The heading, and the version in words."""
        self.column.addWidget(heading(text))
        self.column.addWidget(quiet_label(say_version(self.document.stages), 13))

    def add_end(self, action: str) -> None:
        """What is wrong, and the button that has the files written."""
        self.problem = WarningLabel()
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
        self.folder = FolderField(str(self.settings.folder_for(self.track.path)))
        self.folder.changed.connect(self.refresh)
        add_labelled(form, tr("Fol&der"), self.folder)

    def add_part(self, form: QFormLayout, marked: tuple[float, float] | None) -> None:
        """The range of the version."""
        self.part = PartChooser(self.document, marked)
        self.part.changed.connect(self.refresh)
        add_labelled(form, tr("Ran&ge"), self.part)

    def refresh(self) -> None:
        """Follow what was chosen."""
        problem = self.first_problem()
        self.problem.say(problem)
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
