"""The Play along panel: pads, knobs, recording and takes."""

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.panels.playing.knob_row import KnobRow
from latespin.desktop.panels.playing.pad_grid import PadGrid
from latespin.desktop.panels.playing.take_list import TakeList
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label, run_from
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.values.parameters import QUANTISE_STRENGTH
from latespin.model.version import Stages

SIDE_WIDTH = 284
GRIDS = ("", "1/4", "1/8", "1/8t", "1/16", "1/16t", "1/32")


class PlayingPanel(StagePanel):
    """``wanted`` carries a command that a button asks for; ``escaped`` that Escape was pressed while something is ``learning``."""

    wanted = Signal(str)
    quantise_changed = Signal(str, float)
    escaped = Signal()
    learning = False

    def __init__(self) -> None:
        super().__init__("after")
        row = QHBoxLayout()
        row.setSpacing(16)
        self.grid, self.knobs, self.takes = PadGrid(), KnobRow(), TakeList()
        row.addWidget(self.grid, 1)
        self.knobs.setFixedWidth(288)
        row.addWidget(self.knobs)
        side = QWidget()
        side.setFixedWidth(SIDE_WIDTH)
        side.setLayout(self._side())
        row.addWidget(side)
        self.column.addLayout(row, 1)
        self.takes.wanted.connect(self.wanted)

    def _side(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(self._head())
        column.addLayout(self._quantising())
        column.addWidget(self.takes, 1)
        self.latch = QCheckBox(tr("Latch"))
        self.latch.setToolTip(tr("A press holds a pad, the next press lets it go. For all pads."))
        run_from(self.latch, "latch_pads", self.wanted)
        self.status = quiet_label("", 11)
        self.status.setWordWrap(True)
        last = QHBoxLayout()
        last.setSpacing(8)
        last.addWidget(self.latch, 0, Qt.AlignmentFlag.AlignTop)
        last.addWidget(self.status, 1)
        column.addLayout(last)
        return column

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(8)
        self.record = QPushButton(tr("Record"))
        self.record.setCheckable(True)
        self.record.setProperty("recording", True)
        self.record.setMinimumWidth(104)
        self.record.setToolTip(
            tr(
                "While the song plays, keeps every pad and knob you move as a take. Over a loop, each round adds to it (Ctrl+P)."
            )
        )
        run_from(self.record, "record_take", self.wanted)
        head.addWidget(self.record)
        self.surface = QPushButton(tr("Surface"))
        self.surface.setToolTip(tr("Control surfaces, and the map that says what their pads and knobs do."))
        head.addWidget(self.surface)
        head.addStretch()
        return head

    def _quantising(self) -> QHBoxLayout:
        grid = QHBoxLayout()
        grid.setSpacing(6)
        self.quantise = QComboBox()
        self.quantise.setAccessibleName(tr("Quantise"))
        self.quantise.setToolTip(
            tr(
                "Moves recorded moves towards the nearest place of this note value; Off keeps them where you played them."
            )
        )
        for value in GRIDS:
            self.quantise.addItem(value or tr("Off"), value)
        self.quantise.activated.connect(lambda _: self._quantise_changed())
        self.quantise.setFixedWidth(76)
        self.strength = ValueBar(QUANTISE_STRENGTH, "after")
        self.strength.setFixedWidth(100)
        self.strength.changed.connect(lambda _: self._quantise_changed())
        grid.addWidget(quiet_label(tr("Quantise"), 12))
        grid.addWidget(self.quantise)
        grid.addWidget(self.strength)
        return grid

    def event(self, event: QEvent) -> bool:
        """Escape stops learning, even though it is a shortcut elsewhere."""
        if self.learning and isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Escape:
            if event.type() == QEvent.Type.KeyPress:
                self.escaped.emit()
            event.accept()
            return True
        return super().event(event)

    def show_recording(self, on: bool) -> None:
        """Say whether what is played is kept."""
        self.record.setChecked(on)
        self.record.setText(tr("Recording") if on else tr("Record"))

    def show_quantise(self, value: str, strength: float) -> None:
        """Show how recorded moves are quantised; emits nothing."""
        self.quantise.setCurrentIndex(max(0, self.quantise.findData(value)))
        self.strength.set_value(strength)
        self.strength.setEnabled(bool(value))

    def _quantise_changed(self) -> None:
        value = self.quantise.currentData()
        self.strength.setEnabled(bool(value))
        self.quantise_changed.emit(value, self.strength.value)

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        self.takes.show_takes(stages.moments)
