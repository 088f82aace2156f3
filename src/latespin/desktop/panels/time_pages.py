"""The pages of the Time bench: speed and pitch, character and formants, tempo curve, halftime."""

from typing import Any, ClassVar

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.model.text.describe import bpm_text, held_shift, shift_text, speed_text
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.tempo_curve import Curve, added, factor_at, removed
from latespin.model.values.parameters import SPEED, parameters_of
from latespin.model.values.units import NO_VALUE, clock, number, with_unit
from latespin.model.version import HALFTIME_BARS, Stages, Time, speed_limits


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
        self.edited.emit(f"Time: {label}", replace(self._stages, time=time), merge)

    def bar(self, field: str) -> ValueBar:
        """A value bar for a number of the Time stage."""
        parameter = parameters_of(Time)[field]
        bar = ValueBar(parameter, "time")
        bar.setObjectName(field)
        bar.changed.connect(lambda value: self.change(parameter.label.lower(), field, **{field: value}))
        bar.settled.connect(self.settled)
        return bar

    def entry(self, row: QHBoxLayout, key: str, title: str, tip: str, width: int = 104) -> InlineEdit:
        """A result that can be typed."""
        entry = InlineEdit(title or "Length of the range", tip, token="time")
        entry.setFixedWidth(width)
        entry.typed.connect(lambda text: self.asked.emit(key, text))
        self.entries[key] = entry
        if title:
            row.addWidget(quiet_label(title, 12))
        row.addWidget(entry)
        row.addSpacing(12)
        return entry


def titled(title: str, widget: QWidget) -> QVBoxLayout:
    """A control under its quiet title."""
    column = QVBoxLayout()
    column.setSpacing(4)
    column.addWidget(quiet_label(title, 11))
    column.addWidget(widget)
    return column


class SpeedPage(TimePage):
    """Speed, whether the pitch follows, and transposition."""

    def __init__(self) -> None:
        super().__init__()
        row = self.row()
        self.speed, self.semitones = self.bar("speed"), self.bar("semitones")
        self.pitch = SegmentedButton(
            "Pitch",
            {
                "linked": ("Linked", "The pitch follows the speed, as on a turntable."),
                "held": ("Held", "The pitch stays; the song is stretched in time."),
            },
            "time",
        )
        self.pitch.chosen.connect(self._choose_pitch)
        row.addWidget(self.speed, 3)
        row.addLayout(titled("Pitch when the speed changes", self.pitch), 2)
        row.addWidget(self.semitones, 3)
        ways = self.row()
        self.entry(ways, "percent", "Tempo", "The speed as a percentage of the track’s. Type one to set the speed.", 84)
        self.entry(
            ways,
            "tempo",
            "BPM",
            "The version’s tempo. Type one to set the speed; the track’s own is set in the header.",
            84,
        )
        self.entry(
            ways,
            "length",
            "Music length",
            "Length of the music without the reverb tail. Type a length such as 1:30 to set the speed.",
        )
        self.entry(
            ways,
            "pitch",
            "Pitch heard",
            "Pitch relative to the track. Type semitones or cents to set the transposition.",
            150,
        )
        self.entry(ways, "ratio", "Ratio", "Frequency ratio to the track. Type a number to set the transposition.", 84)
        ways.addStretch()
        self.hold = QPushButton()
        self.hold.setToolTip(
            "Keep this speed and bring the pitch back to the track’s; the song is stretched instead of turned."
        )
        self.hold.clicked.connect(lambda: self.change("hold pitch", pitch="held", semitones=0.0))
        self.hold.setSizePolicy(self.hold.sizePolicy().Policy.Fixed, self.hold.sizePolicy().Policy.Fixed)
        last = self.row()
        last.addWidget(self.hold)
        last.addStretch()
        self.column.addStretch()

    def _choose_pitch(self, key: str) -> None:
        speed = self._stages.time.speed
        self.change(f"pitch {key}", pitch=key, speed=SPEED.clamp(speed) if key == "linked" else speed)

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        time = stages.time
        self.speed.take_limits(speed_limits(time))
        self.speed.set_value(time.speed)
        self.semitones.set_value(time.semitones)
        self.pitch.choose(time.pitch)
        shown = replace(time, on=True)
        self.entries["percent"].show_text(with_unit(100.0 * time.speed, "%", 1))
        self.entries["pitch"].show_text(shift_text(shown, 2))
        self.entries["ratio"].show_text(number(shown.pitch_ratios[0], 4))
        self.entries["tempo"].show_text(bpm_text(shown, document.grid))
        music = music_seconds(document, replace(stages, time=shown))
        self.entries["length"].show_text(clock(music, 1) if music else NO_VALUE)
        turned = held_shift(shown)
        self.hold.setVisible(time.pitch == "linked" and turned != 0.0)
        equal = f" (equivalent to {with_unit(turned, 'st', 2)})" if turned is not None else ""
        self.hold.setText("Hold pitch" + equal)


class CharacterPage(TimePage):
    """What stretching keeps best, passages to judge it by, and formants."""

    CHARACTERS: ClassVar = {
        "full-mix": ("Full mix", "Whole songs: steady tones and sharp drums at once."),
        "drums": ("Drums", "Short windows: hits keep their body; low tones waver."),
        "voice": ("Voice", "Windows of a few pitch periods: words stay crisp; dense chords may roughen."),
        "smear": ("Smear", "Long windows, noise scattered: pads up to 32 times as long. Words and drums melt."),
    }
    audition_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        row = self.row()
        self.character = SegmentedButton("Character", self.CHARACTERS, "time")
        self.character.chosen.connect(self._choose_character)
        row.addLayout(titled("Character of the stretch", self.character))
        row.addSpacing(16)
        self.formants = SegmentedButton(
            "Formants",
            {
                "moved": ("Moved", "Voices change their size with the pitch, as on a turntable."),
                "kept": ("Kept", "Voices keep their formants while their pitch moves."),
            },
            "time",
        )
        self.formants.chosen.connect(lambda key: self.change(f"formants {key}", formants=key))
        row.addLayout(titled("Formants when the pitch moves", self.formants))
        self.formant_shift = self.bar("formant_semitones")
        row.addWidget(self.formant_shift, 1)
        listen = self.row()
        listen.addWidget(quiet_label("Judge it on", 12))
        self.auditions: dict[str, QPushButton] = {}
        for key, text, tip in (
            ("drums", "Loudest drums", "Loop the passage in which the drums are loudest."),
            ("voice", "Fullest voice", "Loop the passage in which a voice’s range is fullest."),
        ):
            button = QPushButton(text)
            button.setToolTip(tip + " Press B to switch between Before and After.")
            button.clicked.connect(lambda _=False, k=key: self.audition_wanted.emit(k))
            self.auditions[key] = button
            listen.addWidget(button)
        self._says = quiet_label("", 12)
        listen.addSpacing(8)
        listen.addWidget(self._says, 1)
        self._unheard = quiet_label("", 12)
        self.column.addWidget(self._unheard)
        self.column.addStretch()

    def _choose_character(self, key: str) -> None:
        speed = self._stages.time.speed
        self.change(f"character {key}", character=key, speed=speed if key == "smear" else SPEED.clamp(speed))

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        self.character.choose(stages.time.character)
        self.formants.choose(stages.time.formants)
        self.formant_shift.set_value(stages.time.formant_semitones)
        time_map = document.time_map(replace(stages, time=replace(stages.time, on=True)))
        turned = time_map is not None and all(span.turns_only for span in time_map.spans)
        words = self.CHARACTERS[stages.time.character][1]
        self._says.setText(words)
        self._unheard.setText("Not heard now: nothing is stretched while the pitch is linked." if turned else "")


class CurvePage(TimePage):
    """The tempo curve in numbers; its line is drawn and dragged on the Before ribbon."""

    def __init__(self) -> None:
        super().__init__()
        self.place = 0.0  # of the playhead, 0 to 1 of the song
        self.chosen = 0
        self.marked: tuple[float, float] | None = None  # seconds of Before
        row = self.row()
        self.entry(row, "start", "Starts at", "The speed at the start of the song. Type one, such as 0.9.", 76)
        self.entry(row, "end", "Ends at", "The speed at the end of the song. Type one, such as 1.15.", 76)
        self.shape = SegmentedButton(
            "Way to the next point",
            {
                "straight": ("Straight", "The speed changes evenly from the chosen point to the next."),
                "smooth": ("Smooth", "The speed changes softly from the chosen point to the next."),
            },
            "time",
        )
        self.shape.chosen.connect(self._choose_shape)
        row.addWidget(quiet_label("After the chosen point", 12))
        row.addWidget(self.shape)
        row.addStretch()
        buttons = self.row()
        self.add, self.remove, self.clear = (
            QPushButton("Add point here"),
            QPushButton("Remove point"),
            QPushButton("Clear curve"),
        )
        self.add.setToolTip("Add a point at the playhead. Double-click the Before waveform to add one anywhere.")
        self.remove.setToolTip("Take the chosen point away. Delete does it, too.")
        self.clear.setToolTip("One speed throughout.")
        self.add.clicked.connect(
            lambda: self._put(added(self._stages.time.curve, self.place), "add a point of the curve")
        )
        self.remove.clicked.connect(
            lambda: self._put(removed(self._stages.time.curve, self.chosen), "remove a point of the curve")
        )
        self.clear.clicked.connect(lambda: self._put((), "clear the tempo curve"))
        for button in (self.add, self.remove, self.clear):
            buttons.addWidget(button)
        buttons.addSpacing(16)
        self.fit_title = quiet_label("", 12)
        buttons.addWidget(self.fit_title)
        self.entry(
            buttons,
            "fit",
            "",
            "Type how long the marked range, or the whole song if none is marked, shall last in After.",
            96,
        )
        buttons.addStretch()
        self.says = quiet_label("", 12)
        self.column.addWidget(self.says)
        self.column.addStretch()

    def _put(self, curve: Curve, label: str) -> None:
        self.change(label, curve=curve)

    def _choose_shape(self, key: str) -> None:
        curve = list(self._stages.time.curve)
        if self.chosen < len(curve):
            curve[self.chosen] = replace(curve[self.chosen], shape=key)
            self._put(tuple(curve), f"{key} tempo curve")

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        time = replace(stages.time, on=True)
        self.chosen = min(self.chosen, max(0, len(time.curve) - 1))
        self.entries["start"].show_text(speed_text(time.speed * factor_at(time.curve, 0.0)))
        self.entries["end"].show_text(speed_text(time.speed * (time.curve[-1].speed if time.curve else 1.0)))
        if time.curve:
            self.shape.choose(time.curve[self.chosen].shape)
        self.shape.setEnabled(len(time.curve) > 1)
        self.remove.setEnabled(bool(time.curve))
        self.clear.setEnabled(bool(time.curve))
        self.show_place(document, self.place)

    def show_place(self, document: Document, place: float) -> None:
        """Say what the curve has at a place, 0 to 1 of the song, while the page is seen."""
        self.place = place
        time_map = document.time_map()
        if document.loaded is None or time_map is None or not self.isVisible():
            return
        rate = document.loaded.track.rate
        after = time_map.after_at(place * document.loaded.track.frames)
        speed, grid = time_map.speed_at(after), document.grid
        here = place * document.loaded.facts.seconds
        tempo = f", {number(grid.bpm_at(here) * speed, 1)} BPM" if grid else ""
        points = len(self._stages.time.curve)
        drawn = f"{points} points" if points else "No points yet: double-click the Before waveform to add one"
        whole = self.marked is None
        first, last = self.marked or (0.0, document.loaded.facts.seconds)
        lasts = (time_map.after_at(last * rate) - time_map.after_at(first * rate)) / rate
        self.fit_title.setText("Whole song lasts" if whole else "Marked range lasts")
        self.entries["fit"].show_text(clock(lasts, 2))
        self.says.setText(
            f"{drawn}.  At the playhead {speed_text(speed)}{tempo}.  In all {clock(time_map.after_frames / rate, 2)}."
        )


class HalftimePage(TimePage):
    """Half speed: the whole song, or the first half of each cell of bars over the whole cell."""

    first_beat_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        row = self.row()
        self.halftime = SegmentedButton(
            "Halftime",
            {
                "off": ("Off", "The song goes at its speed."),
                "song": ("Whole song", "The whole song at half speed, twice the length."),
                "bar": ("Each bar", "The first half of each bar over the whole bar; the length stays."),
                "2bar": ("Each 2 bars", "The first bar of each two over both; the length stays."),
                "4bar": ("Each 4 bars", "The first two bars of each four over all four; the length stays."),
            },
            "time",
        )
        self.halftime.chosen.connect(lambda key: self.change(f"halftime {key}", halftime=key))
        row.addWidget(self.halftime)
        row.addSpacing(12)
        self.down = QCheckBox("An octave down")
        self.down.setToolTip("Let the pitch fall with the speed where it is halved; otherwise it stays.")
        self.down.clicked.connect(lambda on: self.change("octave down" if on else "pitch kept", octave_down=on))
        row.addWidget(self.down)
        row.addStretch()
        grid = self.row()
        self.entry(
            grid, "source-bpm", "Track’s BPM", "Beats per minute of the track as it came. Type it to lay the bars.", 84
        )
        self.entry(
            grid,
            "first-beat",
            "First beat at",
            "Where the first beat of a bar is in the track. Type a time such as 0:01.25.",
            90,
        )
        self.here = QPushButton("First beat here")
        self.here.setToolTip("Put the first beat of a bar at the playhead.")
        self.here.clicked.connect(self.first_beat_wanted)
        grid.addWidget(self.here)
        grid.addSpacing(12)
        self.entry(grid, "beats", "Beats to a bar", "How many beats a bar has, 1 to 12.", 48)
        grid.addStretch()
        self.says = quiet_label("", 12)
        self.column.addWidget(self.says)
        self.column.addStretch()

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        time, grid = stages.time, document.grid
        self.halftime.choose(time.halftime)
        self.down.setChecked(time.octave_down)
        self.down.setEnabled(time.halftime != "off")
        self.entries["source-bpm"].show_text(number(grid.bpm, 2) if grid else NO_VALUE)
        self.entries["first-beat"].show_text(clock(grid.first_beat_seconds, 3) if grid else NO_VALUE)
        self.entries["beats"].show_text(str(grid.beats_per_bar) if grid else NO_VALUE)
        self.here.setEnabled(grid is not None)
        self.says.setText(self._words(time, grid))

    def _words(self, time: Time, grid: Grid | None) -> str:
        if time.halftime in HALFTIME_BARS:
            if grid is None:
                return ""  # the bench says what is missing
            cell = grid.bar_seconds * HALFTIME_BARS[time.halftime]
            return f"Cells of {number(cell, 2)} s of the track; each one’s downbeat stays where it is."
        if time.halftime == "song":
            return "Twice the length at half the tempo" + (
                ", an octave lower." if time.octave_down else "; the pitch stays."
            )
        return "Half speed for bars or the whole song, on top of the version’s speed."


def music_seconds(document: Document, stages: Stages) -> float:
    """How long the music of a version lasts; 0 without a song."""
    time_map = document.time_map(stages)
    return time_map.after_frames / document.loaded.track.rate if document.loaded and time_map else 0.0
