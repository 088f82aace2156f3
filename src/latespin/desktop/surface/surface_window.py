"""The window of the practice surface: sixteen pads, eight knobs and a crossfader."""

import mido
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QHBoxLayout, QSlider, QVBoxLayout, QWidget

from latespin.desktop.panels.playing.knob_row import KnobRow, Shown
from latespin.desktop.panels.playing.pad_grid import PadGrid
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.media.midi.surface_link import SurfaceLink
from latespin.model.playing.surface_map import KNOBS, practice_map

FIRST_PAD, FIRST_KNOB, CROSSFADER, VELOCITY = 36, 20, 8, 100


class SurfaceWindow(QWidget):
    """Sends notes 36 to 51 from its pads, control changes 20 to 27 from its knobs, and 8 from its crossfader; pads are lit by notes."""

    _lit = Signal(int, bool)
    _linked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle(tr("Practice surface"))
        self.resize(720, 360)
        self.grid, self.knobs = PadGrid(), KnobRow()
        self.grid.show_pads(practice_map().pads)
        self.grid.pressed.connect(lambda number: self._send_pad(number, VELOCITY))
        self.grid.released.connect(lambda number: self._send_pad(number, 0))
        self.knobs.turned.connect(self._turn)
        self.values = [0.0] * KNOBS
        self.fader = QSlider(Qt.Orientation.Horizontal)
        self.fader.setRange(0, 127)
        self.fader.setValue(64)
        self.fader.setAccessibleName(tr("Crossfader"))
        self.fader.setToolTip(tr("Sends control change 8. Learn it for a knob in Late Spin."))
        self.fader.valueChanged.connect(lambda value: self._send_control(CROSSFADER, value))
        self.status = quiet_label("", 12)
        self._lay_out()
        self._lit.connect(self._light)
        self._linked.connect(self._show_link)
        self._held: frozenset[int] = frozenset()
        self.link = SurfaceLink(self._hear, self._linked.emit)
        self._show_knobs()
        self._show_link()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 12)
        column.setSpacing(12)
        row = QHBoxLayout()
        row.setSpacing(16)
        row.addWidget(self.grid, 1)
        self.knobs.setFixedWidth(300)
        row.addWidget(self.knobs)
        column.addLayout(row, 1)
        last = QHBoxLayout()
        last.setSpacing(12)
        last.addWidget(self.status, 1)
        last.addWidget(quiet_label(tr("Crossfader"), 12))
        self.fader.setFixedWidth(300)
        last.addWidget(self.fader)
        column.addLayout(last)

    def _send_pad(self, number: int, velocity: int) -> None:
        self.link.send(mido.Message("note_on", note=FIRST_PAD + number, velocity=velocity))

    def _send_control(self, control: int, value: int) -> None:
        self.link.send(mido.Message("control_change", control=control, value=value))

    def _turn(self, number: int, by: float) -> None:
        before = round(127.0 * self.values[number])
        self.values[number] = min(1.0, max(0.0, self.values[number] + by))
        if round(127.0 * self.values[number]) != before:
            self._send_control(FIRST_KNOB + number, round(127.0 * self.values[number]))
        self._show_knobs()

    def _show_knobs(self) -> None:
        self.knobs.show_knobs(
            [
                Shown(tr("Knob {0}").format(i + 1), str(round(127.0 * value)), value)
                for i, value in enumerate(self.values)
            ]
        )

    def _hear(self, message: mido.Message) -> None:
        """A light; called in the link's thread."""
        if message.type in ("note_on", "note_off"):
            self._lit.emit(message.note - FIRST_PAD, message.type == "note_on" and message.velocity > 0)

    def _light(self, number: int, on: bool) -> None:
        self._held = self._held | {number} if on else self._held - {number}
        self.grid.show_held(self._held)

    def _show_link(self) -> None:
        connected = self.link.connected
        self.status.setText(
            tr("Connected to Late Spin") if connected else tr("Waiting for Late Spin: open Play along there (P).")
        )
        if not connected:
            self._held = frozenset()
            self.grid.show_held(self._held)

    def closeEvent(self, event: QCloseEvent) -> None:
        self.link.close()
        event.accept()
