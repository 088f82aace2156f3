"""Export many songs: the order on top, the files and their progress below."""

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QDragEnterEvent, QDropEvent, QKeyEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QDialog,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.dialogs.folder_field import FolderField
from latespin.desktop.dialogs.format_chooser import FormatChooser
from latespin.desktop.dialogs.part_chooser import PartChooser
from latespin.desktop.session.settings import Settings
from latespin.desktop.theme.theme import colour
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import command_button, heading, quiet_label
from latespin.media.audio.decode import SONG_SUFFIXES
from latespin.model.values.file_names import FIELDS
from latespin.model.values.units import clock, number
from latespin.render.batch.plan import BatchItem

SONGS = f"Songs ({' '.join('*' + suffix for suffix in SONG_SUFFIXES)});;All files (*)"
COLUMNS = ("File", "Version", "Length", "BPM", "Key", "Loudness", "Size", "State")


class SongList(QListWidget):
    """Songs and folders can be dropped on it; Delete takes the chosen ones away."""

    dropped = Signal(list)
    removed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setAccessibleName(tr("Songs to export"))
        self.setToolTip(tr("Drop songs or folders here. Delete takes the chosen ones away."))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragEnterEvent) -> None:  # type: ignore[override]
        event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        event.acceptProposedAction()
        self.dropped.emit([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete:
            self.removed.emit()
        else:
            super().keyPressEvent(event)


class BatchDialog(QDialog):
    """``wanted`` names what a button asks for; ``changed`` that the plan has to be made anew."""

    wanted = Signal(str)
    changed = Signal()
    songs_given = Signal(list)

    def __init__(self, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._settings = settings
        self.tags: tuple[tuple[str, str], ...] = ()
        self.setWindowTitle(tr("Export many songs"))
        self.resize(1180, 720)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.setSpacing(12)
        column.addWidget(heading(tr("These songs, each in these versions")))
        top = QHBoxLayout()
        top.setSpacing(16)
        top.addLayout(self._songs_part(), 3)
        top.addLayout(self._choices_part(), 3)
        top.addLayout(self._form(), 6)
        column.addLayout(top, 2)
        self.table = self._made_table()
        column.addWidget(self.table, 3)
        self.says = quiet_label("", 12)
        self.says.setWordWrap(True)
        column.addWidget(self.says)
        column.addLayout(self._bottom())

    def _songs_part(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        column.addWidget(quiet_label(tr("Songs"), 12))
        self.songs = SongList()
        self.songs.dropped.connect(self.songs_given)
        self.songs.removed.connect(lambda: self.wanted.emit("remove_songs"))
        column.addWidget(self.songs, 1)
        row = QHBoxLayout()
        for text, call in (("Add songs …", self._ask_for_songs), ("Add folder …", self._ask_for_folder)):
            button = QPushButton(tr(text))
            button.setAutoDefault(False)
            button.clicked.connect(call)
            row.addWidget(button)
        column.addLayout(row)
        return column

    def _choices_part(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        column.addWidget(quiet_label(tr("Versions and recipes"), 12))
        self.choices = QListWidget()
        self.choices.setAccessibleName(tr("Versions and recipes to export"))
        self.choices.setToolTip(tr("Tick what is made of every song: versions of this session, and recipes."))
        self.choices.itemChanged.connect(lambda _: self.changed.emit())
        column.addWidget(self.choices, 1)
        return column

    def _form(self) -> QGridLayout:
        form = QGridLayout()
        form.setHorizontalSpacing(10)
        form.setVerticalSpacing(8)
        self.folder, self.pattern, self.credit = FolderField(), QLineEdit(), QLineEdit()
        self.kind, self.part = FormatChooser(self._settings), PartChooser(None)
        self.overwrite = QCheckBox(tr("Replace files that are already there"))
        self.pattern.setToolTip(
            "\n".join(
                [
                    "What files are called. Fields:",
                    *(f"{{{name}}}  {says}" for name, says in FIELDS.items()),
                    "A slash makes folders.",
                ]
            )
        )
        self.credit.setToolTip(tr("A line of credits or permission, written into the tags of all files."))
        self.credit.setPlaceholderText(tr("none"))
        self.tags_button = QPushButton(tr("Tags …"))
        self.tags_button.setToolTip(tr("Change title, album and other tags of all files before they are written."))
        self.tags_button.setAutoDefault(False)
        self.tags_button.clicked.connect(self.open_tags)
        for row, (title, field, more) in enumerate(
            (
                ("To folder", self.folder, None),
                ("Named", self.pattern, None),
                ("Format", self.kind, None),
                ("Range", self.part, None),
                ("Credits", self.credit, self.tags_button),
            )
        ):
            label = quiet_label(tr(title), 12)
            label.setBuddy(field)
            field.setAccessibleName(tr(title))
            form.addWidget(label, row, 0)
            form.addWidget(field, row, 1, 1, 1 if more else 2)
            if more:
                form.addWidget(more, row, 2)
        form.addWidget(self.overwrite, 5, 1, 1, 2)
        form.setColumnStretch(1, 1)
        form.setRowStretch(6, 1)
        self.folder.changed.connect(self.changed)
        self.pattern.textChanged.connect(lambda _: self.changed.emit())
        self.kind.changed.connect(self.changed)
        self.part.changed.connect(self.changed)
        self.overwrite.toggled.connect(lambda _: self.changed.emit())
        return form

    def _made_table(self) -> QTableWidget:
        table = QTableWidget(0, len(COLUMNS))
        table.setHorizontalHeaderLabels([tr(title) for title in COLUMNS])
        table.setAccessibleName(tr("What will be written"))
        table.verticalHeader().hide()
        table.setShowGrid(False)
        table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        header = table.horizontalHeader()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setSectionResizeMode(len(COLUMNS) - 1, QHeaderView.ResizeMode.Stretch)
        for i, width in ((0, 324), (1, 136), (2, 64), (3, 64), (4, 118), (5, 94), (6, 66)):
            table.setColumnWidth(i, width)
        return table

    def _bottom(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        self.progress = QProgressBar()
        self.progress.setRange(0, 1000)
        self.progress.setTextVisible(False)
        row.addWidget(self.progress, 1)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, tip in (
            ("stop_one", "Stop chosen", "Stop the files chosen in the table; the rest goes on."),
            ("retry_batch", "Try again", "Make those that failed or were stopped once more."),
            ("stop_batch", "Stop all", "Stop the export. Files already written stay, and the export can resume later."),
            ("start_batch", "Start", "Write all files."),
        ):
            button = self.buttons[name] = command_button(name, text, tip, self.wanted)
            button.setAutoDefault(name == "start_batch")
            button.setDefault(name == "start_batch")
            row.addWidget(button)
        close = QPushButton(tr("Close"))
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        row.addWidget(close)
        return row

    # -- asked for ------------------------------------------------------------------------------------------------

    def _ask_for_songs(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self, tr("Add songs"), "", SONGS)
        self.songs_given.emit([Path(name) for name in names])

    def open_tags(self) -> None:
        """Let the tags of all files be changed, by patterns."""
        from latespin.desktop.dialogs.tags import FIELDS as TAGS
        from latespin.desktop.dialogs.tags import TagsDialog
        from latespin.media.tags import TagEdits, Tags

        names = tuple(name for name in TAGS if name not in ("bpm", "initialkey", "credits"))
        says = tr("The same for all files. Fields are filled in for each: {0}").format(
            ", ".join(f"{{{name}}}" for name in FIELDS)
        )
        dialog = TagsDialog(Tags(), TagEdits(self.tags), None, names, parent=self, patterns=says)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

        def taken() -> None:
            self.tags = dialog.edits.text
            self.changed.emit()

        dialog.accepted.connect(taken)
        dialog.open()

    def _ask_for_folder(self) -> None:
        name = QFileDialog.getExistingDirectory(self, tr("Add a folder of songs"))
        if name:
            self.songs_given.emit([Path(name)])

    def ticked(self) -> list[str]:
        """The keys of the chosen versions and recipes."""
        items = [self.choices.item(i) for i in range(self.choices.count())]
        return [item.data(Qt.ItemDataRole.UserRole) for item in items if item.checkState() == Qt.CheckState.Checked]

    def rows_chosen(self) -> list[int]:
        """The rows chosen in the table."""
        return sorted({index.row() for index in self.table.selectedIndexes()})

    # -- shown ----------------------------------------------------------------------------------------------------

    def offer(self, choices: list[tuple[str, str, str, bool]]) -> None:
        """The versions and recipes there are: key, title, sentence, ticked."""
        self.choices.blockSignals(True)
        self.choices.clear()
        for key, title, says, ticked in choices:
            item = QListWidgetItem(title)
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setToolTip(says)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if ticked else Qt.CheckState.Unchecked)
            self.choices.addItem(item)
        self.choices.blockSignals(False)

    def show_songs(self, songs: list[tuple[str, str, str]]) -> None:
        """The songs: path, text shown, and problem."""
        self.songs.clear()
        for path, text, wrong in songs:
            item = QListWidgetItem(f"{text}: {wrong}" if wrong else text)
            item.setData(Qt.ItemDataRole.UserRole, path)
            item.setToolTip(wrong or path)
            if wrong:
                item.setForeground(colour("warning"))
            self.songs.addItem(item)

    def show_orders(self, orders: list[BatchItem], folder: Path) -> None:
        """The files that will be written."""
        self.table.setRowCount(len(orders))
        for row, order in enumerate(orders):
            target = Path(order.target)
            name = str(target.relative_to(folder)) if target.is_relative_to(folder) else target.name
            loud = tr("as it is") if order.target_lufs is None else f"{number(order.target_lufs, 1)} LUFS"
            texts = (
                name,
                order.choice,
                clock(order.seconds),
                order.bpm,
                order.key,
                loud,
                f"{order.bytes / 1e6:.0f} MB",
            )
            for at, text in enumerate(texts):
                self._put(row, at, text, f"{order.target}\n{order.song}" if at == 0 else text)
            message = order.conflict or " ".join(order.warnings)
            self.show_state(
                row,
                order.conflict or (tr("Planned. {0}").format(message) if message else tr("Planned")),
                wrong=bool(order.conflict),
            )

    def show_state(self, row: int, text: str, *, wrong: bool = False) -> None:
        """State of a file."""
        self._put(row, len(COLUMNS) - 1, text, text, colour("warning") if wrong else colour("ink"))

    def _put(self, row: int, at: int, text: str, tip: str, ink: QColor | None = None) -> None:
        item = self.table.item(row, at)
        if item is None:
            item = QTableWidgetItem()
            self.table.setItem(row, at, item)
        if item.text() != text:
            item.setText(text)
            item.setToolTip(tr(tip))
        if ink is not None:
            item.setForeground(ink)
