"""The export dialog: which versions, where to, and as what."""

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
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
from latespin.media.tags import AS_THEY_ARE, TagEdits, Tags
from latespin.model.text.describe import say_version, title_suffix
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
from latespin.paths import resolved
from latespin.render.export.export import check_export_target
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

if TYPE_CHECKING:
    from latespin.desktop.movies.card import Card


@dataclass(frozen=True)
class ExportOrder:
    """One file to be written."""

    version: Version
    target: Path
    encoding: Encoding
    overwrite: bool
    excerpt: Excerpt | ExcerptSearch | None = None
    edits: TagEdits = AS_THEY_ARE


#: Tags that are the same in all versions of a song.
SHARED = ("artist", "album", "date", "tracknumber", "genre", "comment", "credits")


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
        self.edits = AS_THEY_ARE
        self._title = quiet_label("", 12)
        self._title.setWordWrap(True)
        self.tags_button = QPushButton(tr("Ta&gs …"))
        self.tags_button.setToolTip(tr("Change title, artist, cover and other tags before they are written."))
        self.tags_button.setAutoDefault(False)
        self.tags_button.clicked.connect(self.open_tags)
        said = QHBoxLayout()
        said.setSpacing(12)
        said.addWidget(self._title, 1)
        said.addWidget(self.tags_button, 0, Qt.AlignmentFlag.AlignTop)
        column.addLayout(said)
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
            part = self.part.part(version.stages)
            return [ExportOrder(version, folder / name, encoding, overwrite, part, self.edits)]
        orders, taken, shared = (
            [],
            set(),
            TagEdits(tuple(e for e in self.edits.text if e[0] in SHARED), self.edits.cover),
        )
        for version in self._document.session.versions:
            stem = safe_name(f"{self._track.title} - {version.name}")
            name = next(n for n in (stem, *(f"{stem} {i}" for i in range(2, 1000))) if n.casefold() not in taken)
            taken.add(name.casefold())
            part = self.part.part(version.stages)
            orders.append(ExportOrder(version, folder / (name + suffix), encoding, overwrite, part, shared))
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
        title = self.edits.applied(self._tags()).first("title")
        message = [tr("Its tags will say “{0}”; artist, album and cover are carried over.").format(title)]
        if self.edits != AS_THEY_ARE:
            message = [tr("Its tags will say “{0}”, with your changes.").format(title)]
        return "\n".join([*message, *(f"⚠ {problem.says}" for problem in problems)])

    def _tags(self) -> Tags:
        """What the tags of the chosen version would be."""
        from latespin.render.export.tags import version_tags

        loaded, measured = self._document.loaded, self._document.measured()
        assert loaded is not None
        facts = measured.facts if measured else loaded.facts
        return version_tags(loaded.readers, self._document.stages, self._document.reading, facts, Path("a.flac"))

    def open_tags(self) -> None:
        """Let the tags be changed."""
        from latespin.desktop.dialogs.tags import FIELDS, TagsDialog

        fields = tuple(name for name in FIELDS if name in SHARED or not self.every.isChecked())
        dialog = TagsDialog(self._tags(), self.edits, self._card(), fields, parent=self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def taken() -> None:
            kept = tuple(edit for edit in self.edits.text if edit[0] not in fields)
            self.edits = TagEdits((*kept, *dialog.edits.text), dialog.edits.cover)
            self._refresh()

        dialog.accepted.connect(taken)
        dialog.open()

    def _card(self) -> "Card":
        from latespin.desktop.movies.card import Card

        suffix = title_suffix(self._document.stages, set())
        return Card(self._track.title, self._track.tags.first("artist"), suffix)

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
