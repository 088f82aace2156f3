"""The benches: where a stage's values are set."""

from collections.abc import Callable
from typing import Any, ClassVar

from msgspec.structs import replace
from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.asking import tail_seconds
from latespin.desktop.controls import Choices, Switch, quiet_label
from latespin.desktop.document import Document
from latespin.desktop.entry import Entry
from latespin.desktop.theme import BOLD, STAGE_TITLES, STAGES, colour, font
from latespin.desktop.valuebar import ValueBar
from latespin.model.parameters import parameters_of
from latespin.model.sentence import shift_semitones
from latespin.model.units import clock, number, with_unit
from latespin.model.version import Hall, Level, Stages, Time


class Bench(QWidget):
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
        title = f"{STAGE_TITLES[self.name]}: {parameter.label.lower()}"
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


class TimeBench(Bench):
    """Speed, whether the pitch follows, and transposition."""

    way_typed = Signal(str, str)

    def __init__(self) -> None:
        super().__init__("time")
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addWidget(self.bar(Time, "speed", lambda s, v: replace(s, time=replace(s.time, on=True, speed=v))), 3)
        pitch = QVBoxLayout()
        pitch.setSpacing(4)
        pitch.addWidget(quiet_label("Pitch when the speed changes", 11))
        self.pitch = Choices(
            "Pitch",
            {
                "linked": ("Linked", "The pitch follows the speed, as on a turntable."),
                "held": ("Held", "The pitch stays; the song is stretched in time."),
            },
            "time",
        )
        self.pitch.chosen.connect(self._choose_pitch)
        pitch.addWidget(self.pitch)
        row.addLayout(pitch, 2)
        row.addWidget(
            self.bar(Time, "semitones", lambda s, v: replace(s, time=replace(s.time, on=True, semitones=v))),
            3,
        )
        self.column.addLayout(row)
        self.column.addLayout(self._other_ways())
        self._result = quiet_label("", 13)
        self._result.setWordWrap(True)
        self.column.addWidget(self._result)
        self.column.addStretch()

    def _other_ways(self) -> QHBoxLayout:
        """The speed as a percentage and a length, the pitch as it is heard: each can be typed."""
        row = QHBoxLayout()
        row.setSpacing(8)
        self.ways: dict[str, Entry] = {}
        for key, title, tip in (
            (
                "percent",
                "Tempo",
                "The speed as a percentage of the track’s tempo. Type one to set the speed.",
            ),
            (
                "length",
                "Music length",
                "How long the music lasts, without a room’s tail. Type a length such as 1:30 to set the speed.",
            ),
            (
                "pitch",
                "Pitch heard",
                "How far the pitch is from the track’s. Type semitones or cents to set the transposition.",
            ),
        ):
            entry = Entry(title, tip, token="time")
            entry.setFixedWidth(104)
            entry.typed.connect(lambda text, k=key: self.way_typed.emit(k, text))
            self.ways[key] = entry
            row.addWidget(quiet_label(title, 12))
            row.addWidget(entry)
            row.addSpacing(16)
        row.addStretch()
        return row

    def _choose_pitch(self, key: str) -> None:
        time = replace(self._stages.time, on=True, pitch=key)
        self.edited.emit("Time: pitch " + key, replace(self._stages, time=time), "")

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        time = stages.time
        self.bars["speed"].set_value(time.speed)
        self.bars["semitones"].set_value(time.semitones)
        self.pitch.choose(time.pitch)
        shown = replace(time, on=True)
        shift = shift_semitones(shown)
        self.ways["percent"].show_text(with_unit(100.0 * time.speed, "%", 1))
        self.ways["pitch"].show_text(with_unit(shift, "st", 2))
        if document.loaded:
            self.ways["length"].show_text(clock(document.loaded.facts.seconds / time.speed, 1))
        self._result.setText(
            self._words(time, shift)
            if time.on
            else "The stage is off: the version plays at the track’s speed and pitch."
        )

    def _words(self, time: Time, shift: float) -> str:
        ratio = f"every frequency is multiplied by {number(2.0 ** (shift / 12.0), 4)}"
        if time.pitch == "linked" and time.speed != 1.0 and time.semitones == 0.0:
            return f"Linked: {ratio}. Holding the pitch equals transposing by {number(-shift, 2, signed=True)} st."
        if abs(shift) < 0.005:
            return "The pitch is the track’s."
        return f"In all, {ratio}."


class ColourBench(Bench):
    """The hall."""

    FIELDS = ("amount_percent", "decay_seconds", "size_percent", "pre_delay_ms", "tone_hz", "width_percent")

    def __init__(self) -> None:
        super().__init__("colour")
        head = QHBoxLayout()
        head.setSpacing(8)
        self.switch = Switch("Hall on", "colour", "Put the song in a hall, or take it out.")
        self.switch.clicked.connect(self._switch_hall)
        title = QLabel("Hall")
        title.setFont(font(14, BOLD))
        self._says = quiet_label()
        head.addWidget(self.switch)
        head.addWidget(title)
        head.addWidget(self._says, 1)
        self.column.addLayout(head)
        grid = QGridLayout()
        grid.setSpacing(12)
        for i, field in enumerate(self.FIELDS):
            grid.addWidget(self.bar(Hall, field, lambda s, v, f=field: _with_hall(s, on=True, **{f: v})), i // 3, i % 3)
        self.column.addLayout(grid)
        self.column.addStretch()

    def _switch_hall(self, on: bool) -> None:
        self.edited.emit(f"Colour: hall {'on' if on else 'off'}", _with_hall(self._stages, on=on), "")

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        hall = stages.colour.hall
        self.switch.setChecked(hall.on)
        for field in self.FIELDS:
            self.bars[field].set_value(getattr(hall, field))
        self._says.setText(self._words(stages, document))

    def _words(self, stages: Stages, document: Document) -> str:
        if not stages.colour.on:
            return "The stage is off."
        if not stages.colour.hall_heard:
            return "Not heard: switch it on and give it an amount."
        tail = number(tail_seconds(document), 1) if document.loaded else "a few"
        return f"The version rings on for {tail} s after the music; the tail is never cut."


def _with_hall(stages: Stages, **changes: Any) -> Stages:
    colour_stage = replace(stages.colour, on=True, hall=replace(stages.colour.hall, **changes))
    return replace(stages, colour=colour_stage)


class LevelBench(Bench):
    """Target loudness, ceiling, and how much the limiter may do."""

    def __init__(self) -> None:
        super().__init__("level")
        row = QHBoxLayout()
        row.setSpacing(12)
        for field in ("target_lufs", "ceiling_dbtp", "allowance_db"):
            row.addWidget(self.bar(Level, field, lambda s, v, f=field: _with_level(s, on=True, **{f: v})))
        self.column.addLayout(row)
        self.keep = QCheckBox("Keep the loudness as it is and only hold the ceiling")
        self.keep.setToolTip(
            "No target: the version is as loud as its stages make it, and true peaks stay below the ceiling."
        )
        self.keep.clicked.connect(self._keep_loudness)
        self.column.addWidget(self.keep)
        self._result = QLabel()
        self._result.setWordWrap(True)
        self.column.addWidget(self._result)
        self.column.addStretch()

    def _keep_loudness(self, on: bool) -> None:
        target = None if on else self.bars["target_lufs"].value
        self.edited.emit(
            "Level: keep loudness" if on else "Level: loudness",
            _with_level(self._stages, on=True, target_lufs=target),
            "",
        )

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        level = stages.level
        if level.target_lufs is not None:
            self.bars["target_lufs"].set_value(level.target_lufs)
        self.bars["target_lufs"].setEnabled(level.target_lufs is not None)
        self.keep.setChecked(level.target_lufs is None)
        for field in ("ceiling_dbtp", "allowance_db"):
            self.bars[field].set_value(getattr(level, field))
        self._result.setText(self._words(stages, document))

    def _words(self, stages: Stages, document: Document) -> str:
        if document.loaded is None:
            return ""
        if not stages.level.on:
            return "The stage is off: the version is as loud as its other stages make it."
        measured = document.measured()
        if measured is None:
            return "Measuring the whole version …"
        plan = measured.plan
        limiter = (
            f"the limiter takes off {number(plan.reduction_db, 1)} dB at most"
            if plan.reduction_db > 0.05
            else "the limiter has nothing to do"
        )
        return f"Gain {number(plan.gain_db, 1, signed=True)} dB; {limiter}. {plan.note}"


def _with_level(stages: Stages, **changes: Any) -> Stages:
    return replace(stages, level=replace(stages.level, **changes))


class EmptyBench(Bench):
    """A stage that cannot do anything yet, and says so."""

    WORDS: ClassVar = {
        "moments": ("No moments yet", "Tape stops, stutters, reversed words and dips will be placed on the song here. This release cannot place any."),
        "ending": ("The version ends as the track does", "Ring-outs, tape stops and fades will be chosen here. This release has none; a hall’s tail always rings out in full."),
    }  # fmt: skip

    def __init__(self, name: str) -> None:
        super().__init__(name)
        title, words = self.WORDS[name]
        head = QLabel(title)
        head.setFont(font(15, BOLD))
        text = quiet_label(words, 13)
        text.setWordWrap(True)
        self.column.addWidget(head)
        self.column.addWidget(text)
        self.column.addStretch()


class Benches(QStackedWidget):
    """One bench for each stage, the chosen one on top."""

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.pages: dict[str, Bench] = {
            "time": TimeBench(), "colour": ColourBench(), "moments": EmptyBench("moments"),
            "ending": EmptyBench("ending"), "level": LevelBench(),
        }  # fmt: skip
        for name in STAGES:
            page = self.pages[name]
            page.edited.connect(document.edit_stages)
            page.settled.connect(document.end_drag)
            self.addWidget(page)
        self.setFixedHeight(176)
        document.session_changed.connect(self.refresh)
        document.track_changed.connect(self.refresh)
        document.measured_changed.connect(self.refresh)
        self.refresh()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        for part in (*self.findChildren(Choices), *self.findChildren(Entry)):
            part.restyle()

    def open(self, name: str) -> None:
        """Show a stage's bench."""
        self.setCurrentWidget(self.pages[name])

    def refresh(self) -> None:
        """Show the chosen version's values."""
        enabled = self._document.version is not None and self._document.loaded is not None
        for page in self.pages.values():
            page.setEnabled(enabled)
            page.show_stages(self._document.stages, self._document)
