"""Compare: up to four sounds on the keys 1 to 4, level-matched, at the same position; open or blind."""

import numpy as np
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent, QKeyEvent
from PySide6.QtWidgets import QComboBox, QDialog, QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, font, theme
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import heading, quiet_label

SLOTS = 4
NOTHING = ""


class CompareDialog(QDialog):
    """``chosen`` carries the key of what is to be heard (empty for the version as always); ``preferred`` the key liked best, and all keys.

    Keys are given by whoever fills the lists.
    """

    chosen = Signal(str)
    preferred = Signal(str, list)
    filled = Signal()
    play_wanted = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Compare"))
        self.setMinimumWidth(560)
        self.blind = False
        self._order = list(range(SLOTS))  # which slot each key plays
        self._current = -1
        self.random = np.random.default_rng()
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.setSpacing(10)
        column.addWidget(heading(tr("Compare, equally loud")))
        explained = quiet_label(
            tr(
                "Press 1 to 4 to switch while it plays. All are turned down to the quietest, so that none wins by being louder."
            ),
            12,
        )
        explained.setWordWrap(True)
        column.addWidget(explained)
        column.addLayout(self._slots())
        column.addLayout(self._choices())
        self.tally = quiet_label("", 12)
        self.tally.setWordWrap(True)
        column.addWidget(self.tally)
        self._show()

    def _slots(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(8)
        self.keys: list[QPushButton] = []
        self.boxes: list[QComboBox] = []
        self.levels: list[QLabel] = []
        self._hidden: list[QLabel] = []
        for slot in range(SLOTS):
            self._add_slot(grid, slot)
        grid.setColumnStretch(1, 1)
        return grid

    def _add_slot(self, grid: QGridLayout, slot: int) -> None:
        key = QPushButton(str(slot + 1))
        key.setCheckable(True)
        key.setAutoDefault(False)
        key.setFixedSize(44, 36)
        key.setFont(font(16, SEMI_BOLD))
        key.setAccessibleName(tr("Play number {0}").format(slot + 1))
        key.clicked.connect(lambda _=False, s=slot: self.hear(s))
        box = QComboBox()
        box.setAccessibleName(tr("Number {0}").format(slot + 1))
        box.setMinimumWidth(260)
        box.activated.connect(lambda _: self._follow())
        level = quiet_label("", 12)
        level.setMinimumWidth(150)
        hidden = quiet_label(tr("One of the chosen sounds"), 13)
        for at, widget in enumerate((key, box, level)):
            grid.addWidget(widget, slot, at)
        grid.addWidget(hidden, slot, 1)
        self._hidden.append(hidden)
        self.keys.append(key)
        self.boxes.append(box)
        self.levels.append(level)

    def _choices(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.blind_button = QPushButton(tr("Blind"))
        self.blind_button.setCheckable(True)
        self.blind_button.setToolTip(
            tr("Shuffle what the keys play and hide the names, until you say which you like best.")
        )
        self.best_button = QPushButton(tr("I like this best"))
        self.best_button.setToolTip(tr("Note the one that is heard now, and shuffle again (Return)."))
        self.blind_button.clicked.connect(self.set_blind)
        self.best_button.clicked.connect(self.prefer)
        for button in (self.blind_button, self.best_button):
            button.setAutoDefault(False)
            row.addWidget(button)
        row.addStretch()
        return row

    def offer(self, items: list[tuple[str, str]], defaults: list[str]) -> None:
        """The sounds that can be compared: keys and names. Slots keep what they have if it is still there, else take the defaults."""
        known = [key for key, _ in items]
        for slot, box in enumerate(self.boxes):
            kept = box.currentData()
            box.blockSignals(True)
            box.clear()
            box.addItem("–", NOTHING)
            for key, name in items:
                box.addItem(name, key)
            wanted = kept if kept in known else defaults[slot] if kept is None and slot < len(defaults) else NOTHING
            box.setCurrentIndex(max(0, box.findData(wanted)))
            box.blockSignals(False)
        self._follow()

    def in_slots(self) -> list[str]:
        """The key of each slot."""
        return [str(box.currentData() or NOTHING) for box in self.boxes]

    @property
    def current(self) -> str:
        """The key of the version heard; empty for none."""
        return self.in_slots()[self._order[self._current]] if self._current >= 0 else NOTHING

    def hear(self, number: int) -> None:
        """Switch to a key's sound."""
        if self.in_slots()[self._order[number]] != NOTHING:
            self._current = number
            self.chosen.emit(self.current)
        self._show()

    def set_blind(self, on: bool) -> None:
        """Hide or show which version is which."""
        self.blind = on
        self.blind_button.setChecked(on)
        if on:
            self._shuffle()
        else:
            playing = self._order[self._current] if self._current >= 0 else -1
            self._order, self._current = list(range(SLOTS)), playing
        self._show()

    def _shuffle(self) -> None:
        """Another order of the keys; filled ones come first, so that none is silent."""
        filled = [slot for slot, key in enumerate(self.in_slots()) if key != NOTHING]
        filled = [filled[i] for i in self.random.permutation(len(filled)).tolist()]
        self._order = [*filled, *(slot for slot in range(SLOTS) if slot not in filled)]
        if filled:
            self._current = 0
            self.chosen.emit(self.current)

    def prefer(self) -> None:
        """Mark the version heard now as the best."""
        if self.current != NOTHING:
            self.preferred.emit(self.current, [key for key in self.in_slots() if key != NOTHING])
            if self.blind:
                self._shuffle()
                self._show()

    def show_levels(self, texts: dict[str, str]) -> None:
        """The loudness and the gain of each."""
        self._texts = texts
        self._show()

    def show_tally(self, text: str) -> None:
        """The choices so far."""
        self.tally.setText(text)

    def _follow(self) -> None:
        self.filled.emit()
        if self._current >= 0:
            self.hear(self._current)
        self._show()

    def _show(self) -> None:
        texts = getattr(self, "_texts", {})
        self.setStyleSheet(f"QPushButton:checked {{ background: {theme().after}; color: {theme().ground}; }}")
        for number, (key, box, level) in enumerate(zip(self.keys, self.boxes, self.levels, strict=True)):
            sound = self.in_slots()[self._order[number]]
            key.setEnabled(sound != NOTHING)
            key.setChecked(number == self._current)
            box.setVisible(not self.blind)
            self._hidden[number].setVisible(self.blind and sound != NOTHING)
            level.setText("" if self.blind else texts.get(sound, ""))
        self.best_button.setEnabled(self._current >= 0)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < SLOTS and not event.modifiers():
            self.hear(number)
        elif event.key() == Qt.Key.Key_Space:
            self.play_wanted.emit()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.prefer()
        else:
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        self._leave()
        super().closeEvent(event)

    def reject(self) -> None:
        """Escape closes it too."""
        self._leave()
        super().reject()

    def _leave(self) -> None:
        self._current = -1
        self.set_blind(False)
        self.chosen.emit(NOTHING)
