"""The basis of the pages of the Time panel."""

from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Stages, Time


class TimePage(QWidget):
    """One page. ``edited``: label, stages, what to merge with. ``asked``: which result, and the text typed."""

    edited = Signal(str, object, str)
    settled = Signal()
    asked = Signal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._stages = Stages()
        self.entries: dict[str, InlineEdit] = {}
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(8)

    def show_stages(self, stages: Stages, document: Document) -> None:
        """Show what the version has."""
        self._stages = stages

    def row(self) -> QHBoxLayout:
        """Another row."""
        row = QHBoxLayout()
        row.setSpacing(8)
        self.column.addLayout(row)
        return row

    def change(self, label: str, merge: str = "", **values: Any) -> None:
        """Change the Time stage, switching it on."""
        time = replace(self._stages.time, on=True, **values)
        self.edited.emit(tr("Time: {0}").format(label), replace(self._stages, time=time), merge)

    def bar(self, field: str) -> ValueBar:
        """A value bar for a number of the Time stage."""
        parameter = parameters_of(Time)[field]
        bar = ValueBar(parameter, "time")
        bar.setObjectName(field)
        bar.changed.connect(lambda value: self.change(bar.parameter.label.lower(), field, **{field: value}))
        bar.settled.connect(self.settled)
        return bar

    def entry(self, row: QHBoxLayout, key: str, title: str, tip: str, width: int = 104) -> InlineEdit:
        """A result that can be typed."""
        entry = InlineEdit(tr(title or "Length of the range"), tr(tip), token="time")
        entry.setFixedWidth(width)
        entry.typed.connect(lambda text: self.asked.emit(key, text))
        self.entries[key] = entry
        if title:
            row.addWidget(quiet_label(tr(title), 12))
        row.addWidget(entry)
        row.addSpacing(12)
        return entry


def titled(title: str, widget: QWidget) -> QVBoxLayout:
    """A control under its quiet title."""
    column = QVBoxLayout()
    column.setSpacing(4)
    column.addWidget(quiet_label(tr(title), 11))
    column.addWidget(widget)
    return column


def music_seconds(document: Document, stages: Stages) -> float:
    """The length of a version's music; 0 without a song."""
    time_map = document.time_map(stages)
    return time_map.after_frames / document.loaded.track.rate if document.loaded and time_map else 0.0
