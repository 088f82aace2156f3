"""The export dialog: which versions, where to, and as what."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QFormLayout, QHBoxLayout, QPushButton, QWidget

from latespin.desktop.dialogs.format_chooser import FormatChooser
from latespin.desktop.dialogs.writing_dialog import WritingDialog, add_labelled
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.errors import LateSpinError
from latespin.media.audio.formats import Encoding
from latespin.media.tags import AS_THEY_ARE, TagEdits, Tags
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
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
    edits: TagEdits = AS_THEY_ARE


#: Tags that are the same in all versions of a song.
SHARED = ("artist", "album", "date", "tracknumber", "genre", "comment", "credits")


class ExportDialog(WritingDialog):
    """The export dialog; ``orders`` holds the files decided on."""

    def __init__(
        self, document: Document, settings: Settings, marked: tuple[float, float] | None = None, parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(document, settings, tr("Export"), parent)
        self.add_heading(tr("Export “{0}”").format(self.version.name))
        self.setMinimumWidth(740)
        self.column.addLayout(self._form(marked))
        self.edits = AS_THEY_ARE
        self._title = quiet_label("", 12)
        self._title.setWordWrap(True)
        self.tags_button = QPushButton(tr("&Tags …"))
        self.tags_button.setToolTip(tr("Change title, artist, cover and other tags before they are written."))
        self.tags_button.setAutoDefault(False)
        self.tags_button.clicked.connect(self.open_tags)
        said = QHBoxLayout()
        said.setSpacing(12)
        said.addWidget(self._title, 1)
        said.addWidget(self.tags_button, 0, Qt.AlignmentFlag.AlignTop)
        self.column.addLayout(said)
        self.add_end(tr("Export"))
        self.refresh()

    def _form(self, marked: tuple[float, float] | None) -> QFormLayout:
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(12)
        self.add_file(form, tr("&File name"))
        self.kind = FormatChooser(self.settings)
        self.kind.changed.connect(self.refresh)
        add_labelled(form, tr("F&ormat"), self.kind)
        self.add_part(form, marked)
        count = len(self.document.session.versions)
        self.every = QCheckBox(tr("All {0} versions, each named after itself").format(count))
        self.every.setEnabled(count > 1)
        self.every.toggled.connect(self.refresh)
        form.addRow("", self.every)
        self.overwrite = QCheckBox(tr("Replace files that are already there"))
        self.overwrite.toggled.connect(self.refresh)
        form.addRow("", self.overwrite)
        return form

    def orders(self) -> list[ExportOrder]:
        """The files to be written."""
        if not self.every.isChecked():
            return [self._order(self.version, safe_name(self.name.text()), self.edits)]
        shared = TagEdits(tuple(edit for edit in self.edits.text if edit[0] in SHARED), self.edits.cover)
        orders, taken = [], set()
        for version in self.document.session.versions:
            stem = safe_name(f"{self.track.title} - {version.name}")
            name = next(n for n in (stem, *(f"{stem} {i}" for i in range(2, 1000))) if n.casefold() not in taken)
            taken.add(name.casefold())
            orders.append(self._order(version, name, shared))
        return orders

    def _order(self, version: Version, name: str, edits: TagEdits) -> ExportOrder:
        target = Path(self.folder.text()).expanduser() / (name + self.kind.suffix)
        part = self.part.part(version.stages)
        return ExportOrder(version, target, self.kind.encoding, self.overwrite.isChecked(), part, edits)

    def refresh(self) -> None:
        self.name.setEnabled(not self.every.isChecked())
        self._title.setText(
            tr("Each file’s tags will say what was done.") if self.every.isChecked() else self._promise()
        )
        super().refresh()

    def _promise(self) -> str:
        """The title the file gets, and the parts of the version that it will lack."""
        problems = self.document.problems()
        title = self.edits.applied(self._tags()).first("title")
        message = [tr("Its tags will say “{0}”; artist, album and cover are carried over.").format(title)]
        if self.edits != AS_THEY_ARE:
            message = [tr("Its tags will say “{0}”, with your changes.").format(title)]
        return "\n".join([*message, *(f"⚠ {problem.says}" for problem in problems)])

    def _tags(self) -> Tags:
        """What the tags of the chosen version would be."""
        from latespin.render.export.tags import version_tags

        loaded, measured = self.document.loaded, self.document.measured()
        assert loaded is not None
        facts = measured.facts if measured else loaded.facts
        return version_tags(loaded.readers, self.document.stages, self.document.reading, facts, Path("a.flac"))

    def open_tags(self) -> None:
        """Let the tags be changed."""
        from latespin.desktop.dialogs.tags import FIELDS, TagsDialog
        from latespin.desktop.movies.card import Card

        fields = tuple(name for name in FIELDS if name in SHARED or not self.every.isChecked())
        card = Card(self.track.title, self.track.tags.first("artist"), self.document.title_words())
        dialog = TagsDialog(self._tags(), self.edits, card, fields, parent=self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def taken() -> None:
            kept = tuple(edit for edit in self.edits.text if edit[0] not in fields)
            self.edits = TagEdits((*kept, *dialog.edits.text), dialog.edits.cover)
            self.refresh()

        dialog.accepted.connect(taken)
        dialog.open()

    def first_problem(self) -> str:
        if not self.name.text().strip() and not self.every.isChecked():
            return tr("Give the file a name.")
        for order in self.orders():
            try:
                check_export_target(order.target, order.encoding, overwrite=order.overwrite, sources=self.sources)
            except (LateSpinError, OSError) as error:
                return str(error)
        return ""

    def accept(self) -> None:
        """Remember the choices and close."""
        self.kind.remember()
        super().accept()
