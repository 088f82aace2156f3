"""The list of a version's effects in their order, with switches and amounts."""

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QDropEvent, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import AnyEffect, Layer, SmallSpeaker
from latespin.model.text.describe import LAYER_WORDS, SPEAKER_WORDS

IDENT, ON, AMOUNT, PROBLEM = (Qt.ItemDataRole.UserRole + n for n in range(4))
ROW_HEIGHT, LAMP = 30, 22


class EffectList(QListWidget):
    """Drag a row to another place; click its lamp, or press Space, to switch it."""

    effect_chosen = Signal(str)
    switched = Signal(str)
    moved = Signal(str, int)
    delete_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Effects of this version, in order"))
        self.setToolTip(
            tr(
                "Each effect feeds the one below it. Drag a row to move it (or Alt with the arrow keys). Its lamp switches it."
            )
        )
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setItemDelegate(_Row(self))
        self.setMouseTracking(True)
        self._filling = False
        self.currentItemChanged.connect(self._take_choice)

    def show_effects(
        self, effects: tuple[AnyEffect, ...], chosen: str, problems: dict[str, str], *, live: bool
    ) -> None:
        """Show the effects; what did not change is left alone."""
        rows = [
            (e.id, title_of(e), e.on and live, round(e.amount_percent), problems.get(e.id, ""), any(lane.field == "amount_percent" for lane in e.lanes))
            for e in effects
        ]  # fmt: skip
        have = [tuple(self.item(i).data(Qt.ItemDataRole.UserRole + 9)) for i in range(self.count())]
        self._filling = True
        if [row[0] for row in rows] != [row[0] for row in have]:
            self.clear()
            for _ in rows:
                self.addItem(QListWidgetItem())
        for i, row in enumerate(rows):
            if i >= len(have) or row != have[i] or self.item(i).data(IDENT) is None:
                self._fill(self.item(i), row)
        self.setCurrentRow(next((i for i, row in enumerate(rows) if row[0] == chosen), -1))
        self._filling = False

    def _fill(self, item: QListWidgetItem, row: tuple[str, str, bool, int, str, bool]) -> None:
        ident, title, on, amount, problem, moving = row
        item.setText(title)
        item.setData(IDENT, ident)
        item.setData(ON, on)
        item.setData(AMOUNT, -1 if moving else amount)
        item.setData(PROBLEM, bool(problem))
        item.setData(Qt.ItemDataRole.UserRole + 9, row)
        item.setToolTip(problem)
        item.setData(Qt.ItemDataRole.AccessibleDescriptionRole, f"{amount} %, {'on' if on else 'off'}")
        item.setSizeHint(QSize(180, ROW_HEIGHT))

    def _take_choice(self, item: QListWidgetItem | None) -> None:
        if item is not None and not self._filling and item.data(IDENT):
            self.effect_chosen.emit(item.data(IDENT))

    # -- hands ---------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        item = self.itemAt(event.position().toPoint())
        if item is not None and event.position().x() < self.visualItemRect(item).left() + LAMP + 6:
            self.switched.emit(item.data(IDENT))
            return
        super().mousePressEvent(event)

    def dropEvent(self, event: QDropEvent) -> None:
        """Ask for the move; the list is filled anew from what comes of it."""
        item: QListWidgetItem | None = self.currentItem()
        if item is None:
            return
        at = self.indexAt(event.position().toPoint())
        to = at.row() if at.isValid() else self.count()
        if at.isValid() and event.position().y() > self.visualRect(at).center().y():
            to += 1
        if to > self.row(item):
            to -= 1
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        self.moved.emit(item.data(IDENT), to)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        item = self.currentItem()
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if item is not None and event.key() == Qt.Key.Key_Space:
            self.switched.emit(item.data(IDENT))
        elif item is not None and event.key() == Qt.Key.Key_Delete:
            self.delete_wanted.emit()
        elif item is not None and alt and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.moved.emit(item.data(IDENT), max(0, self.currentRow() + (1 if event.key() == Qt.Key.Key_Down else -1)))
        else:
            super().keyPressEvent(event)


class _Row(QStyledItemDelegate):
    """A lamp, a name, and a bar for the amount."""

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(option.rect).adjusted(1, 1, -1, -1)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        if chosen:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("line"))
            painter.drawRoundedRect(body, 6, 6)
        on = bool(index.data(ON))
        lamp = QRectF(body.left() + 7, body.center().y() - 5, 10, 10)
        painter.setPen(QPen(colour("colour") if on else colour("ink_soft"), 1.5))
        painter.setBrush(colour("colour") if on else Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(lamp, 3, 3)
        bar = QRectF(body.right() - 46, body.center().y() - 3, 38, 6)
        painter.setFont(font(13, SEMI_BOLD))
        painter.setPen(colour("warning") if index.data(PROBLEM) else colour("ink") if on else colour("ink_soft"))
        words = QRectF(lamp.right() + 8, body.top(), bar.left() - lamp.right() - 12, body.height())
        text = painter.fontMetrics().elidedText(index.data(), Qt.TextElideMode.ElideRight, int(words.width()))
        painter.drawText(words, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, text)
        self._paint_amount(painter, bar, int(index.data(AMOUNT) or 0), on=on, chosen=chosen)
        painter.restore()

    def _paint_amount(self, painter: QPainter, bar: QRectF, amount: int, *, on: bool, chosen: bool) -> None:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground") if chosen else colour("raised"))
        painter.drawRoundedRect(bar, 3, 3)
        painter.setBrush(colour("colour", 1.0 if on else 0.4))
        if amount < 0:  # it changes over the song: a rising line
            painter.setPen(QPen(colour("colour", 1.0 if on else 0.4), 2))
            painter.drawLine(bar.bottomLeft(), bar.topRight())
        elif amount:
            painter.drawRoundedRect(
                QRectF(bar.left(), bar.top(), max(4.0, bar.width() * amount / 100.0), bar.height()), 3, 3
            )


def title_of(effect: AnyEffect) -> str:
    """An effect's name in the list."""
    if isinstance(effect, Layer):
        return LAYER_WORDS[effect.sound] if effect.sound != "file" else effect.path.rsplit("/", 1)[-1] or tr("Layer")
    if isinstance(effect, SmallSpeaker):
        return SPEAKER_WORDS[effect.speaker]
    return tr(effect_title(effect))
