"""A line to type in, and below it what fits."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject, QRectF, QSize, Qt
from PySide6.QtGui import QFontMetrics, QKeyEvent, QPainter
from PySide6.QtWidgets import (
    QDialog,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.session.search import Entry, matching
from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label

ENTRY = Qt.ItemDataRole.UserRole
ROW, WIDTH, HEIGHT, TOP = 30, 620, 430, 90


class Finder(QDialog):
    """Shows entries as they are typed for; Return runs the chosen one after the dialog has closed."""

    def __init__(self, entries: Sequence[Entry], hint: str, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Dialog | Qt.WindowType.FramelessWindowHint)
        self._entries = entries
        self.setWindowTitle(tr("Find a command"))
        self.setObjectName("finder")
        self.setStyleSheet(f"#finder {{ border: 1px solid {colour('line').name()}; border-radius: 10px; }}")
        self.resize(WIDTH, HEIGHT)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 12, 12, 12)
        column.setSpacing(8)
        self.line = QLineEdit()
        self.line.setPlaceholderText(hint)
        self.line.setAccessibleName(tr("Find a command"))
        self.line.textChanged.connect(self._show)
        self.line.installEventFilter(self)
        column.addWidget(self.line)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("What fits"))
        self.list.setUniformItemSizes(True)
        self.list.setItemDelegate(_Row(self.list))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.itemClicked.connect(lambda _: self.accept())
        column.addWidget(self.list, 1)
        self._nothing = quiet_label("", 12)
        column.addWidget(self._nothing)
        self._show("")

    def open_over(self, window: QWidget) -> None:
        """Show it in the upper middle of a window."""
        corner = window.mapToGlobal(window.rect().topLeft())
        self.move(corner.x() + (window.width() - WIDTH) // 2, corner.y() + TOP)
        self.show()
        self.line.setFocus()

    def _show(self, typed: str) -> None:
        self.list.clear()
        for entry in matching(self._entries, typed):
            item = QListWidgetItem(self.list)
            item.setData(ENTRY, entry)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{entry.title}, {entry.detail}")
            item.setSizeHint(QSize(0, ROW))
            item.setToolTip(f"{entry.title}. {entry.detail}" if entry.detail else entry.title)
        self.list.setCurrentRow(0)
        found = self.list.count() > 0
        self._nothing.setText("" if found else tr("Nothing is called “{0}”. Try another word.").format(typed.strip()))
        self._nothing.setVisible(not found)

    @property
    def chosen(self) -> Entry | None:
        """The entry that Return would run."""
        item = self.list.currentItem()
        entry: Entry | None = item.data(ENTRY) if item is not None else None
        return entry

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrow keys move in the list while the line keeps the focus."""
        if watched is self.line and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 10, Qt.Key.Key_PageUp: -10}
            step = steps.get(Qt.Key(event.key()))
            if step is not None:
                last = self.list.count() - 1
                self.list.setCurrentRow(min(last, max(0, self.list.currentRow() + step)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self.accept()
                return True
        return super().eventFilter(watched, event)

    def event(self, event: QEvent) -> bool:
        """It closes when something else is clicked."""
        if event.type() == QEvent.Type.WindowDeactivate and self.isVisible():
            self.reject()
        return super().event(event)

    def accept(self) -> None:
        """Close, and do what was chosen."""
        entry = self.chosen
        if entry is None:
            return
        super().accept()
        entry.run()


class _Row(QStyledItemDelegate):
    """A row: title, detail in a softer colour, keys at the right."""

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index) -> None:  # type: ignore[no-untyped-def]
        """Draw an entry."""
        entry: Entry = index.data(ENTRY)
        widget = self.parent()
        assert isinstance(widget, QListWidget)
        area = QRectF(option.rect)
        painter.save()
        if index.row() == widget.currentRow():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("raised"))
            painter.drawRoundedRect(area.adjusted(2, 1, -2, -1), 6, 6)
        text, middle = area.adjusted(12, 0, -12, 0), Qt.AlignmentFlag.AlignVCenter
        large, small = QFontMetrics(font(13)), QFontMetrics(font(12))
        room = text.adjusted(0, 0, -(small.horizontalAdvance(entry.keys) + 14) if entry.keys else 0, 0)
        title = large.elidedText(entry.title, Qt.TextElideMode.ElideRight, int(room.width()))
        painter.setFont(font(13))
        painter.setPen(colour("ink"))
        painter.drawText(room, int(middle | Qt.AlignmentFlag.AlignLeft), title)
        painter.setFont(font(12))
        painter.setPen(colour("ink_soft"))
        after = room.adjusted(large.horizontalAdvance(title) + 14, 0, 0, 0)
        detail = small.elidedText(entry.detail, Qt.TextElideMode.ElideRight, max(0, int(after.width())))
        painter.drawText(after, int(middle | Qt.AlignmentFlag.AlignLeft), detail)
        painter.drawText(text, int(middle | Qt.AlignmentFlag.AlignRight), entry.keys)
        painter.restore()
