"""The export dialog: which versions, where to, and as what."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtWidgets import (
    QCheckBox,
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

from latespin.desktop.dialogs.format_chooser import FormatChooser
from latespin.desktop.dialogs.part_chooser import PartChooser
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.theme.theme import BOLD, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.errors import LateSpinError
from latespin.media.audio.formats import Encoding
from latespin.model.text.describe import say_version, title_suffix
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
from latespin.paths import resolved
from latespin.render.export.export import check_export_target
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch


@dataclass(frozen=True)
class ExportOrder:
    """One file to be written."""

    version: Version
    target: Path
    encoding: Encoding
    overwrite: bool
    excerpt: Excerpt | ExcerptSearch | None = None


class ExportDialog(QDialog):
    """The export dialog; ``orders`` holds the files decided on."""

    def __init__(
        self, document: Document, settings: Settings, marked: tuple[float, float] | None = None, parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(parent)
        assert document.loaded is not None
        assert document.version is not None
        self._document, self._settings, self._marked = document, settings, marked
        self._track, self._sources = document.loaded.track, document.session.files()
        self.setWindowTitle(tr("Export"))
        self.setMinimumWidth(740)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(16)
        head = QLabel(tr("Export “{0}”").format(document.version.name))
        head.setFont(font(18, BOLD))
        column.addWidget(head)
        column.addWidget(quiet_label(say_version(document.stages), 13))
        column.addLayout(self._form())
        self._title = quiet_label("", 12)
        self._title.setWordWrap(True)
        column.addWidget(self._title)
        self._problem = QLabel()
        self._problem.setProperty("warning", True)
        self._problem.setWordWrap(True)
        column.addWidget(self._problem)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.accept_button = self.buttons.addButton(tr("Export"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.accept_button.setDefault(True)
        self.buttons.button(QDialogButtonBox.StandardButton.Cancel).setAutoDefault(False)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        column.addWidget(self.buttons)
        self._refresh()

    def _form(self) -> QFormLayout:
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(12)
        self.name = QLineEdit(safe_name(f"{self._track.title} - {self._document.version.name}"))  # type: ignore[union-attr]
        self.name.textChanged.connect(self._refresh)
        form.addRow(tr("&File name"), self.name)
        folder = QHBoxLayout()
        folder.setSpacing(8)
        kept = self._settings.export_folder
        self.folder = QLineEdit(kept if kept and Path(kept).is_dir() else str(resolved(self._track.path).parent))
        self.folder.textChanged.connect(self._refresh)
        browse = QPushButton(tr("Choose …"))
        browse.setAutoDefault(False)
        browse.clicked.connect(self._browse)
        folder.addWidget(self.folder, 1)
        folder.addWidget(browse)
        label = QLabel(tr("Fol&der"))
        label.setBuddy(self.folder)
        form.addRow(label, folder)
        self.kind = FormatChooser(self._settings)
        self.kind.changed.connect(self._refresh)
        label = QLabel(tr("F&ormat"))
        label.setBuddy(self.kind)
        form.addRow(label, self.kind)
        self.part = PartChooser(self._document, self._marked)
        self.part.changed.connect(self._refresh)
        label = QLabel(tr("&What"))
        label.setBuddy(self.part)
        form.addRow(label, self.part)
        count = len(self._document.session.versions)
        self.every = QCheckBox(tr("All {0} versions, each named after itself").format(count))
        self.every.setEnabled(count > 1)
        self.every.toggled.connect(self._refresh)
        form.addRow("", self.every)
        self.overwrite = QCheckBox(tr("Replace files that are already there"))
        self.overwrite.toggled.connect(self._refresh)
        form.addRow("", self.overwrite)
        return form

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, tr("Folder for the export"), self.folder.text())
        if chosen:
            self.folder.setText(chosen)

    def orders(self) -> list[ExportOrder]:
        """The files to be written."""
        folder = Path(self.folder.text()).expanduser()
        suffix, encoding, overwrite = self.kind.suffix, self.kind.encoding, self.overwrite.isChecked()
        if not self.every.isChecked():
            assert self._document.version is not None
            name = safe_name(self.name.text()) + suffix
            version = self._document.version
            return [ExportOrder(version, folder / name, encoding, overwrite, self.part.part(version.stages))]
        orders, taken = [], set()
        for version in self._document.session.versions:
            stem = safe_name(f"{self._track.title} - {version.name}")
            name = next(n for n in (stem, *(f"{stem} {i}" for i in range(2, 1000))) if n.casefold() not in taken)
            taken.add(name.casefold())
            part = self.part.part(version.stages)
            orders.append(ExportOrder(version, folder / (name + suffix), encoding, overwrite, part))
        return orders

    def _refresh(self) -> None:
        self.name.setEnabled(not self.every.isChecked())
        self._title.setText(
            tr("Each file’s tags will say what was done.") if self.every.isChecked() else self._promise()
        )
        problem = self._first_problem()
        self._problem.setText(problem)
        self._problem.setVisible(bool(problem))
        self.accept_button.setEnabled(not problem)

    def _promise(self) -> str:
        """The title the file gets, and the parts of the version that it will lack."""
        problems = self._document.problems()
        suffix = title_suffix(self._document.stages, {problem.id for problem in problems if problem.left_out})
        title = f"{self._track.title} ({suffix})" if suffix else self._track.title
        message = [f"Its tags will say “{title}”; artist, album and cover are carried over."]
        return "\n".join([*message, *(f"⚠ {problem.says}" for problem in problems)])

    def _first_problem(self) -> str:
        if not self.name.text().strip() and not self.every.isChecked():
            return tr("Give the file a name.")
        for order in self.orders():
            try:
                check_export_target(order.target, overwrite=order.overwrite, sources=self._sources)
            except (LateSpinError, OSError) as error:
                return str(error)
        return ""

    def accept(self) -> None:
        """Remember the choices and close."""
        self._settings.export_folder = self.folder.text()
        self.kind.remember()
        super().accept()
