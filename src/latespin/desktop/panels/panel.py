"""The basis of all panels."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import STAGE_TITLES, colour
from latespin.desktop.translation import tr
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Stages


class StagePanel(QWidget):
    """A stage's page. ``edited`` carries the label of the step, the new stages, and what to merge with."""

    edited = Signal(str, object, str)
    settled = Signal()

    def __init__(self, name: str) -> None:
        super().__init__()
        self.name = name
        self._stages = Stages()
        self.bars: dict[str, ValueBar] = {}
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(16, 12, 16, 12)
        self.column.setSpacing(10)

    def bar(self, kind: type[Any], field: str, put: Callable[[Stages, float], Stages]) -> ValueBar:
        """A value bar for a declared parameter; ``put`` puts its value into the stages."""
        parameter = parameters_of(kind)[field]
        bar = ValueBar(parameter, self.name)
        bar.setObjectName(field)
        title = f"{tr(STAGE_TITLES[self.name])}: {tr(parameter.label).lower()}"
        bar.changed.connect(lambda value: self.edited.emit(title, put(self._stages, value), field))
        bar.settled.connect(self.settled)
        self.bars[field] = bar
        return bar

    def show_stages(self, stages: Stages, document: Document) -> None:
        """Show what the version has."""
        self._stages = stages

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour(self.name), 1))
        painter.setBrush(colour("raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 10, 10)
