"""The list of a song's markers: labelled positions and ranges."""

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import command_button
from latespin.model.moments.markers import Marker
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import say_place


class MarkerPage(QWidget):
    """Several can be chosen at once; a double click (or F2) edits a label."""

    wanted = Signal(str)
    renamed = Signal(str, str)
    jumped = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Markers of the song"))
        self.list.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.list.setToolTip(tr("X marks the playhead, or the marked range. Double-click a label to change it."))
        self.list.itemChanged.connect(self._rename)
        self.list.currentItemChanged.connect(self._jump)
        column.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.setSpacing(4)
        for name, text, tip in (
            ("mark", "Mark", "Mark the playhead, or the marked range (X)."),
            ("cover_markers", "Cover", "Make a cover of every chosen range; all of them if none is chosen."),
            ("unmark_markers", "Remove", "Take the chosen markers away."),
        ):
            row.addWidget(command_button(name, text, tip, self.wanted, dense=True))
        row.addStretch()
        column.addLayout(row)
        self._filling = False

    def chosen(self) -> list[str]:
        """Ids of the chosen markers."""
        return [item.data(Qt.ItemDataRole.UserRole) for item in self.list.selectedItems()]

    def show_chosen(self, ident: str) -> None:
        """Choose a marker without going to it."""
        self._filling = True
        row = next(
            (i for i in range(self.list.count()) if self.list.item(i).data(Qt.ItemDataRole.UserRole) == ident), -1
        )
        self.list.setCurrentRow(row)
        self._filling = False

    def show_markers(self, markers: tuple[Marker, ...], grid: Grid | None) -> None:
        """Show markers in order of place."""
        rows = sorted(markers, key=lambda m: m.start.at(grid))
        shown = [(m.id, m.label or "–", _where(m, grid)) for m in rows]
        have = [
            (item.data(Qt.ItemDataRole.UserRole), item.text(), item.data(Qt.ItemDataRole.UserRole + 1))
            for item in (self.list.item(i) for i in range(self.list.count()))
        ]
        if shown == have:
            return
        self._filling = True
        chosen = self.chosen()
        self.list.clear()
        for ident, label, where in shown:
            item = QListWidgetItem(label)
            item.setData(Qt.ItemDataRole.UserRole, ident)
            item.setData(Qt.ItemDataRole.UserRole + 1, where)
            item.setToolTip(where)
            item.setSizeHint(QSize(200, 24))
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsEditable)
            self.list.addItem(item)
            item.setSelected(ident in chosen)
        self._filling = False

    def _rename(self, item: QListWidgetItem) -> None:
        if not self._filling:
            self.renamed.emit(item.data(Qt.ItemDataRole.UserRole), item.text())

    def _jump(self, item: QListWidgetItem | None) -> None:
        if item is not None and not self._filling:
            self.jumped.emit(item.data(Qt.ItemDataRole.UserRole))


def _where(marker: Marker, grid: Grid | None) -> str:
    start = say_place(marker.start, grid)
    return f"{start} to {say_place(marker.end, grid)}" if marker.end is not None else start
