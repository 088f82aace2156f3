"""The takes of a version: each can be switched off, renamed, deleted, or merged with others."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import command_button
from latespin.model.moments.held import Held
from latespin.model.moments.moments import Moments

IDENT = Qt.ItemDataRole.UserRole


class TakeList(QWidget):
    """``switched`` carries a take's id and whether it is on, ``renamed`` an id and a name, ``wanted`` a command."""

    switched = Signal(str, bool)
    renamed = Signal(str, str)
    wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.list = _List()
        self.list.setAccessibleName(tr("Takes of this version"))
        self.list.setToolTip(
            tr("A tick is a take that is heard. Double-click renames it; Ctrl or Shift and a click choose several.")
        )
        self.list.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemChanged.connect(self._change)
        self.list.delete_wanted.connect(lambda: self.wanted.emit("delete_takes"))
        column.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, tip in (
            ("delete_takes", "Delete", "Deletes the chosen takes, with their moves and knobs."),
            ("merge_takes", "Merge", "Makes the chosen takes one."),
            ("quantise_takes", "Quantise", "Moves the chosen takes’ moves towards the grid chosen above."),
        ):
            self.buttons[name] = command_button(name, text, tip, self.wanted, dense=True)
            row.addWidget(self.buttons[name])
        self.more = QPushButton("…")
        self.more.setAccessibleName(tr("More for takes"))
        self.more.setToolTip(tr("Takes as MIDI files."))
        self.more.setStyleSheet("QPushButton { padding: 4px 9px; }")
        menu = QMenu(self)
        self.more.setMenu(menu)
        menu.addAction(tr("Import a take …"), lambda: self.wanted.emit("import_take"))
        self.export = menu.addAction(tr("Export the take …"), lambda: self.wanted.emit("export_take"))
        row.addWidget(self.more)
        row.addStretch()
        column.addLayout(row)
        self._filling = False
        self.list.itemSelectionChanged.connect(self._enable)

    @property
    def chosen(self) -> list[str]:
        """Ids of the chosen takes, in order; all where none is chosen and there is just one."""
        idents = [self.list.item(i).data(IDENT) for i in range(self.list.count()) if self.list.item(i).isSelected()]
        return idents or ([self.list.item(0).data(IDENT)] if self.list.count() == 1 else [])

    def show_takes(self, moments: Moments) -> None:
        """List a version's takes."""
        rows = [(take.id, take.name, take.on, _words(moments, take.id, len(take.rides))) for take in moments.takes]
        shown = [self.list.item(i).data(IDENT + 1) for i in range(self.list.count())]
        if rows == shown:
            return
        chosen = set(self.chosen)
        self._filling = True
        self.list.clear()
        for row in rows:
            ident, name, on, words = row
            item = QListWidgetItem(name)
            item.setToolTip(words)
            item.setData(IDENT, ident)
            item.setData(IDENT + 1, row)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable | Qt.ItemFlag.ItemIsEditable)
            item.setCheckState(Qt.CheckState.Checked if on else Qt.CheckState.Unchecked)
            self.list.addItem(item)
            item.setSelected(ident in chosen)
        self._filling = False
        self._enable()

    def _enable(self) -> None:
        chosen = len(self.chosen)
        for name, button in self.buttons.items():
            button.setEnabled(chosen > (1 if name == "merge_takes" else 0))
        self.export.setEnabled(chosen > 0)

    def _change(self, item: QListWidgetItem) -> None:
        if self._filling:
            return
        ident, name, on, _ = item.data(IDENT + 1)
        checked = item.checkState() == Qt.CheckState.Checked
        if checked != on:
            self.switched.emit(ident, checked)
        elif item.text() != name:
            self.renamed.emit(ident, item.text())


class _List(QListWidget):
    """Delete deletes."""

    delete_wanted = Signal()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.count() == 0:
            painter = QPainter(self.viewport())
            painter.setPen(colour("ink_soft"))
            painter.setFont(font(12))
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            words = tr("No takes yet. Switch Record on, play, and hold pads.")
            painter.drawText(self.viewport().rect().adjusted(8, 4, -8, -4), int(flags), words)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete:
            self.delete_wanted.emit()
        else:
            super().keyPressEvent(event)


def _words(moments: Moments, ident: str, rides: int) -> str:
    """``12 moves · 2 knobs``."""
    moves = sum(isinstance(m, Held) and m.take == ident for m in moments.placed)
    parts = [tr("{0} moves").format(moves) if moves != 1 else tr("1 move")] if moves else []
    parts += [tr("{0} knobs").format(rides) if rides != 1 else tr("1 knob")] if rides else []
    return " · ".join(parts)
