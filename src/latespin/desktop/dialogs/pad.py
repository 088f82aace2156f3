"""The pad maker: a slice of the song stretched into a pad; play it, save it, add it as a layer, or stretch it again."""

import itertools
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, Signal
from PySide6.QtGui import QCloseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import heading, quiet_label
from latespin.desktop.widgets.keyboard import Keyboard
from latespin.desktop.widgets.plot_panel import paint_panel
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.errors import LateSpinError
from latespin.media.files.guard import Sources
from latespin.model.effects.effects import AnyEffect
from latespin.model.pad import Pad
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.units import clock, number
from latespin.paths import resolved

if TYPE_CHECKING:
    from latespin.dsp.arrays import Audio
    from latespin.render.playback.pad_instrument import PadInstrument

FIELDS = (
    "smear", "semitones", "root", "backwards",
    "hall_percent", "width_percent", "echo_percent", "echo_value",
    "low_cut_hz", "high_cut_hz", "low_shelf_db", "high_shelf_db",
    "evenness_percent", "low_even_percent", "mid_even_percent", "high_even_percent",
    "fade_seconds", "effects_here",
)  # fmt: skip
COLUMNS = 480


class Outline(QWidget):
    """The pad's level over its length, twice, so that its seam can be seen in the middle."""

    def __init__(self) -> None:
        super().__init__()
        self._levels = np.zeros(0)
        self.setFixedHeight(96)
        self.setAccessibleName(tr("The pad, looped once"))
        self.setToolTip(tr("The pad, played twice: the loop point is in the middle."))

    def show_sound(self, sound: "Audio | None") -> None:
        """Show a pad, or none yet."""
        if sound is None:
            self._levels = np.zeros(0)
        else:
            edges = np.linspace(0, sound.shape[1], COLUMNS // 2 + 1).astype(int)
            level = np.array([np.sqrt(np.mean(sound[:, a:b] ** 2)) for a, b in itertools.pairwise(edges)])
            self._levels = np.tile(level / max(1e-9, float(level.max())), 2)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self).adjusted(8, 8, -8, -8)
        if not len(self._levels):
            return
        xs = np.linspace(body.left(), body.right(), len(self._levels)).tolist()
        heights = (0.5 * body.height() * self._levels).tolist()
        middle = body.center().y()
        above = [QPointF(x, middle - h) for x, h in zip(xs, heights, strict=True)]
        below = [QPointF(x, middle + h) for x, h in zip(xs, heights, strict=True)]
        painter.setPen(colour("colour"))
        painter.setBrush(colour("colour", 0.45))
        painter.drawPolygon(QPolygonF([*above, *reversed(below)]))
        painter.setPen(colour("after"))
        painter.drawLine(QPointF(body.center().x(), body.top()), QPointF(body.center().x(), body.bottom()))
        painter.setFont(font(11))
        painter.drawText(QRectF(body.center().x() + 6, body.top(), 80, 14), "seam")


class PadDialog(QDialog):
    """Begins with the settings of a ``pad``; ``here`` are the version's effects at the slice.

    heard : a pad to be played round and round, None for silence.  keyed : an instrument to be played on keys, or None.
    laid : the file of a pad to lie beneath the song.  kept : the settings, when the dialog closes and they were changed.
    """

    heard = Signal(object)
    keyed = Signal(object)
    laid = Signal(str)
    kept = Signal(object)

    def __init__(
        self, slice_: "Audio", rate: int, grid: Grid | None, pad: Pad, here: tuple[AnyEffect, ...], work: WorkQueue,
        sources: Sources, parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._sources, self._here = sources, here
        self._slice, self._rate, self._grid, self._work = slice_, rate, grid, work
        self.pad = self._offered = pad
        self.instrument: PadInstrument | None = None
        self.sound: Audio | None = None
        self._task: Task | None = None
        self.setWindowTitle(tr("Pad maker – Late Spin"))
        self.setMinimumWidth(680)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.setSpacing(10)
        column.addWidget(heading(tr("A pad from this slice"), 16))
        self.says = quiet_label("", 13)
        self.says.setWordWrap(True)
        column.addWidget(self.says)
        self.outline = Outline()
        column.addWidget(self.outline)
        self.form = FieldForm(Pad, "colour", FIELDS, 4)
        self.form.changed.connect(self._change)
        self.form.settled.connect(self.make)
        column.addWidget(self.form)
        self.keyboard = Keyboard()
        self.keyboard.pressed.connect(self._press)
        self.keyboard.released.connect(self._release)
        column.addWidget(self.keyboard)
        self._show_values()
        column.addLayout(self._buttons())
        self._describe()
        self.make()

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        self.hear = QPushButton(tr("Play it"))
        self.hear.setCheckable(True)
        self.again, self.lay, self.save = (
            QPushButton(tr("Smear again")),
            QPushButton(tr("Lay beneath the song …")),
            QPushButton(tr("Save …")),
        )
        for button, tip, slot in (
            (self.hear, "Play the pad round and round.", self._hear),
            (self.again, "Take this pad for the slice, and make another of it.", self._smear_again),
            (self.lay, "Save the pad and add it as a layer of this version.", lambda: self._save(then=self.laid.emit)),
            (self.save, "Save the pad as WAV with its loop points.", lambda: self._save()),
        ):
            button.setToolTip(tr(tip))
            button.clicked.connect(slot)
            row.addWidget(button)
        row.insertStretch(1)
        return row

    # -- making --------------------------------------------------------------------------------------------------

    def _change(self, name: str, value: object) -> None:
        self.pad = replace(self.pad, **{name: value})
        self._describe()
        self._show_values()

    def _show_values(self) -> None:
        self.form.show_values(self.pad, self._grid)
        for name, acts in self.pad.active_fields().items():
            self.form.enable(name, acts)
        self.form.enable("effects_here", bool(self._here))

    def _release(self, note: int) -> None:
        if self.instrument is not None:
            self.instrument.release(note)

    def _press(self, note: int) -> None:
        if self.instrument is not None:
            self.instrument.press(note)

    def _describe(self) -> None:
        seconds = self._slice.shape[1] / self._rate
        made = (
            tr(", which makes {0}").format(clock(self.sound.shape[1] / self._rate, 1)) if self.sound is not None else ""
        )
        self.says.setText(
            tr("{0} s of the song, smeared to about {1}{2}.").format(
                number(seconds, 2), clock(seconds * self.pad.smear, 1), made
            )
        )

    def make(self) -> None:
        """Make the pad in the background; cancels an earlier one."""
        if self._task is not None:
            self._task.cancel()
        slice_, rate, pad, grid, here = self._slice, self._rate, self.pad, self._grid, self._here

        def function(work: Task) -> "Audio":
            from latespin.render.pads import make_pad

            return make_pad(slice_, rate, pad, work, grid, here)

        self._enable(False)
        self._task = self._work.submit(
            Task(tr("Making a pad"), "pad", function, on_done=self._made, on_failed=self._failed)
        )

    def _made(self, sound: "Audio") -> None:
        self.sound = sound
        self.outline.show_sound(sound)
        self._tune(sound)
        self._enable(True)
        self._describe()
        if self.hear.isChecked():
            self.heard.emit(sound)

    def _tune(self, sound: "Audio | None") -> None:
        """Have the keys play a pad, or nothing."""
        from latespin.render.playback.pad_instrument import PadInstrument

        self.instrument = PadInstrument(sound, self._rate, self.pad.note) if sound is not None else None
        self.keyed.emit(self.instrument)

    def _failed(self, text: str) -> None:
        self.sound = None
        self.outline.show_sound(None)
        self.says.setText(text)

    def _enable(self, on: bool) -> None:
        for button in (self.again, self.lay, self.save):
            button.setEnabled(on)

    # -- what becomes of it --------------------------------------------------------------------------------------

    def _hear(self, on: bool) -> None:
        self.hear.setText(tr("Stop") if on else tr("Play it"))
        if self.sound is not None:
            self.heard.emit(self.sound if on else None)

    def _smear_again(self) -> None:
        if self.sound is not None:
            self._slice = self.sound
            self.make()

    def _save(self, then: Callable[[str], None] | None = None) -> None:
        from latespin.render.pads import write_pad

        name, _ = QFileDialog.getSaveFileName(self, tr("Save the pad"), "pad.wav", tr("WAV (*.wav)"))
        if not name or self.sound is None:
            return
        target = Path(name).with_suffix(".wav")
        try:
            note = self.pad.note  # the file dialog has asked whether to overwrite
            write_pad(self.sound, self._rate, target, overwrite=True, sources=self._sources, note=note)
        except LateSpinError as error:
            self.says.setText(str(error))
            return
        self.says.setText(tr("Saved as {0}.").format(target.name))
        if then is not None:
            then(str(resolved(target)))

    def closeEvent(self, event: QCloseEvent) -> None:
        self.done(0)
        super().closeEvent(event)

    def done(self, result: int) -> None:
        """Stop making and playing, and free the pad: it may hold ten minutes of sound."""
        if self._task is not None:
            self._task.cancel()
        self.heard.emit(None)
        self._tune(None)
        if self.pad != self._offered:
            self.kept.emit(self.pad)
        super().done(result)
        self.sound, self._slice = None, self._slice[:, :0]
