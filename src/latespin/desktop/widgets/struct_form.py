"""A form made from the declaration of a kind: value bars for its parameters, lists and boxes for the rest."""

from typing import Any, get_args, get_type_hints

import msgspec
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from latespin.desktop.translation import translated
from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.errors import LateSpinError
from latespin.model.moments.moments import MOST_STEPS
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Length, parse_span, say_span
from latespin.model.values.note_values import NOTE_VALUES, say_value
from latespin.model.values.parameters import parameters_of
from latespin.model.values.words import words_of

NO_STEP = "–"
WIDE = ("values",)


class FieldForm(QWidget):
    """``changed`` carries a field's name and its new value; ``settled`` that a drag has ended."""

    changed = Signal(str, object)
    settled = Signal()
    refused = Signal(str)

    def __init__(self, kind: type[msgspec.Struct], accent: str, fields: tuple[str, ...], columns: int) -> None:
        super().__init__()
        self._hints = get_type_hints(kind, include_extras=True)
        self._words = {name: translated(words) for name, words in words_of(kind).items()}
        self._parameters = parameters_of(kind)
        self._grid: Grid | None = None
        self.controls: dict[str, QWidget] = {}
        layout = QGridLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(8)
        cell = 0
        for name in fields:
            wide = 2 if name in WIDE else 1
            layout.addWidget(self._control(name, accent), cell // columns, cell % columns, 1, wide)
            cell += wide
        for column in range(columns):
            layout.setColumnStretch(column, 1)
        layout.setRowStretch(cell // columns + 1, 1)

    def _control(self, name: str, accent: str) -> QWidget:
        hint = get_args(self._hints[name])[0]
        if name in self._parameters:
            bar = ValueBar(self._parameters[name], accent)
            bar.changed.connect(lambda value: self.changed.emit(name, value))
            bar.settled.connect(self.settled)
            self.controls[name] = bar
            return bar
        words = self._words[name]
        title, tip = words.label, words.sentence
        if hint is bool:
            return self._box(name, title, tip)
        if name == "values":
            return self._steps(name, title, tip)
        if hint is Length:
            entry = InlineEdit(title, tip, token=accent)
            entry.typed.connect(lambda text: self._take_length(name, text))
            self.controls[name] = entry
            return _titled(title, entry)
        choices = words.choices or {value: say_value(value) for value in NOTE_VALUES}
        box = _combo(title, tip, choices)
        box.activated.connect(lambda _: self._choose(name, box.currentData()))
        self.controls[name] = box
        return _titled(title, box)

    def _box(self, name: str, title: str, tip: str) -> QWidget:
        box = QCheckBox(title)
        box.setToolTip(tip)
        box.clicked.connect(lambda on: self._choose(name, on))
        self.controls[name] = box
        return box

    def _steps(self, name: str, title: str, tip: str) -> QWidget:
        """Up to four note values one after the other."""
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self._step_boxes = []
        for i in range(MOST_STEPS):
            words = {value: say_value(value) for value in NOTE_VALUES}
            box = _combo(f"{title} {i + 1}", tip, words if i == 0 else {NO_STEP: NO_STEP, **words})
            box.setMinimumWidth(58)
            box.setStyleSheet("QComboBox { padding: 6px 2px 6px 8px; } QComboBox::drop-down { width: 18px; }")
            box.activated.connect(lambda _: self._choose(name, self._chosen_steps()))
            self._step_boxes.append(box)
            row.addWidget(box)
        self.controls[name] = holder
        return _titled(title, holder)

    def _chosen_steps(self) -> tuple[str, ...]:
        return tuple(box.currentData() for box in self._step_boxes if box.currentData() != NO_STEP)

    def _choose(self, name: str, value: object) -> None:
        self.changed.emit(name, value)
        self.settled.emit()

    def _take_length(self, name: str, text: str) -> None:
        try:
            self._choose(name, parse_span(text, self._grid))
        except (LateSpinError, ValueError, ZeroDivisionError) as error:
            self.refused.emit(str(error))

    def show_values(self, thing: Any, grid: Grid | None) -> None:
        """Show what a moment or an ending has."""
        self._grid = grid
        for name, control in self.controls.items():
            value = getattr(thing, name)
            if isinstance(control, ValueBar):
                control.set_value(value)
            elif isinstance(control, QCheckBox):
                control.setChecked(value)
            elif isinstance(control, QComboBox):
                control.setCurrentIndex(control.findData(value))
            elif isinstance(control, InlineEdit):
                control.show_text(say_span(value, grid))
            else:
                for i, box in enumerate(self._step_boxes):
                    box.setCurrentIndex(box.findData(value[i] if i < len(value) else NO_STEP))

    def enable(self, name: str, on: bool) -> None:
        """Let a field be set, or not while it does nothing."""
        if name in self.controls:
            self.controls[name].setEnabled(on)


def _combo(title: str, tip: str, words: dict[str, str]) -> QComboBox:
    box = QComboBox()
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    box.setMinimumContentsLength(4)
    box.setAccessibleName(title)
    box.setToolTip(tip)
    for key, text in words.items():
        box.addItem(text, key)
    return box


def _titled(title: str, control: QWidget) -> QWidget:
    """A control below its name."""
    holder = QWidget()
    column = QVBoxLayout(holder)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(2)
    column.addWidget(quiet_label(title, 11))
    column.addWidget(control)
    return holder
