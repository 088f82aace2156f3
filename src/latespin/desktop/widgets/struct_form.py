"""A form made from the declaration of a kind: value bars for its parameters, lists and boxes for the rest."""

from typing import Any, Literal, get_args, get_origin, get_type_hints

import msgspec
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.errors import LateSpinError
from latespin.model.moments.moments import MOST_STEPS
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Length, parse_span, say_span
from latespin.model.values.note_values import NOTE_VALUES, say_value
from latespin.model.values.parameters import parameters_of

NO_STEP = "–"
WIDE = ("values",)

#: What fields and their choices are called, and what they do.
WORDS: dict[str, tuple[str, str]] = {
    "time": ("Afterwards", "Where the song goes on: where it would have been by then, or where it stopped, which makes the version longer."),
    "two_stages": ("Two stages", "A second, steeper slow-down over its last part, as when a motor is switched off and then braked."),
    "back": ("And back", "The pitch comes back by the end; otherwise it jumps back there."),
    "values": ("Repeats", "The note value of the repeated slice; several follow one another, each for an equal share."),
    "value": ("Note value", "How long a repeat is."),
    "free": ("In milliseconds", "Repeats of a free length instead of a note value, down to a buzz."),
    "turning": ("Turn every other", "Every second repeat is played backwards."),
    "material": ("Of", "What is repeated: all of the song, or its drums while the rest goes on."),
    "way": ("How", "What is heard instead."),
    "colour": ("Colour", "What comes and goes."),
    "into": ("Into", "What the stretch is thrown into."),
    "muffled": ("Muffled", "Take the highs away from it."),
    "length": ("Length", "How long it takes: bars, beats, a note value or seconds, such as 2 bars, 1/2 or 1.5 s."),
    "room": ("Room", "Which room’s response: one that is made here, or a file of your own."),
    "rpm": ("Turns a minute", "How often the record turns; its wow comes once in every turn."),
    "speed": ("Tape speed", "Centimetres a second: slower is duller, noisier and less even."),
    "bed": ("Water around", "The sound of the water itself, and bubbles."),
    "underwater.muffled": ("Water muffled too", "The water goes through the same low-pass as the music."),
    "splash": ("Splash", "A plunge is heard where the surface is crossed: draw the depth over the song to cross it."),
    "speaker": ("Loudspeaker", "What the song is heard from."),
    "by": ("Goes by", "Whether the way round the head is counted in bars or in seconds."),
    "direction": ("Turns", "Which way round, seen from above."),
    "ears": ("Ears", "A round head, or a listener’s own measured ears from a SOFA file."),
    "mono_safe": ("Mono-safe", "A sum of left and right stays the song; otherwise one side is simply late."),
    "ping_pong": ("From side to side", "Repeats come from the left and the right in turn."),
    "low_slope": ("Low cut’s slope", "How steep the low cut is, decibels an octave."),
    "high_slope": ("High cut’s slope", "How steep the high cut is, decibels an octave."),
    "compressor.way": ("Works on", "One gain for all; one for the middle and one for the sides; or one each for lows, middle and highs."),
    "shape": ("Curve", "How peaks are rounded: evenly, with even overtones too, or late and gently."),
    "uneven": ("Drifts", "The pitch drifts rather than swings."),
    "sound": ("Sound", "What lies beneath the song: one that is made here, or a file of your own."),
    "backwards": ("Backwards", "The slice is turned round before it is smeared."),
    "beside": ("Beside the colours", "It passes none of the other colours; otherwise it passes those below it in the list."),
    "feed": ("Fed by", "How much of the music before the end is heard in the room: bars, beats or seconds."),
}  # fmt: skip
CHOICES: dict[str, str] = {
    "keep": "Keep time", "add": "Add time", "song": "The whole song", "drums": "The drums alone",
    "silence": "Silence", "repeat": "Repeat the slice before", "reverse": "Reverse", "tape-stop": "Short tape stop", "muffle": "Muffle",
    "water": "Under water", "phone": "Telephone", "hall": "A hall", "version-hall": "The version’s hall", "echo": "An echo",
    "room.snug": "Snug", "room.rink": "Roller rink", "room.nave": "Nave", "file": "A file …",
    "rpm.33": "33⅓", "rpm.45": "45", "rpm.78": "78",
    "speed.4.8": "4.8 cm/s", "speed.9.5": "9.5 cm/s", "speed.19": "19 cm/s", "speed.38": "38 cm/s",
    "telephone": "Telephone", "radio": "Pocket radio", "hailer": "Loud-hailer", "newsreel": "Newsreel", "headphones": "Headphones on a table",
    "seconds": "Seconds", "bars": "Bars", "right": "To the right", "left": "To the left", "sphere": "A round head",
    "stereo": "Both as one", "mid-side": "Middle and sides", "bands": "Three bands",
    "shape.soft": "Even", "shape.tube": "Warm", "shape.tape": "Gentle",
    "crackle": "Crackle", "rain": "Rain", "sound.water": "Water", "sound.room": "Room tone", "hiss": "Tape hiss", "rink": "Rink hum",
    **{f"{side}_slope.{slope}": f"{slope} dB" for side in ("low", "high") for slope in (6, 12, 18, 24, 36, 48)},
}  # fmt: skip


class FieldForm(QWidget):
    """``changed`` carries a field's name and its new value; ``settled`` that a drag has ended."""

    changed = Signal(str, object)
    settled = Signal()
    refused = Signal(str)

    def __init__(self, kind: type[msgspec.Struct], accent: str, fields: tuple[str, ...], columns: int) -> None:
        super().__init__()
        self._hints = get_type_hints(kind, include_extras=True)
        self._kind = str(kind.__struct_config__.tag)
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
        hint = self._hints[name]
        if name in self._parameters:
            bar = ValueBar(self._parameters[name], accent)
            bar.changed.connect(lambda value: self.changed.emit(name, value))
            bar.settled.connect(self.settled)
            self.controls[name] = bar
            return bar
        title, tip = WORDS.get(f"{self._kind}.{name}") or WORDS[name]
        if hint is bool:
            return self._box(name, title, tip)
        if name == "values":
            return self._steps(name, title, tip)
        if hint is Length:
            entry = InlineEdit(title, tip, token=accent)
            entry.typed.connect(lambda text: self._take_length(name, text))
            self.controls[name] = entry
            return _titled(title, entry)
        choices = list(get_args(hint)) if get_origin(hint) is Literal else list(NOTE_VALUES)
        words = {
            choice: CHOICES.get(f"{name}.{choice}") or CHOICES.get(choice) or say_value(choice) for choice in choices
        }
        box = _combo(title, tip, words)
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
