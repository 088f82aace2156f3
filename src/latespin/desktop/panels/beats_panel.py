"""The panel of beats and bars: the detected grid, and tools to correct it."""

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton

from latespin.analysis.results import SAME_TEMPO, Beats, Reading
from latespin.analysis.rhythm.held_tempi import held_tempi
from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, command_button, quiet_label, run_from
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.model.timing.beat_grid import Grid, grid_of_beats
from latespin.model.values.key_names import say_runners_up
from latespin.model.values.units import NO_VALUE, clock, number
from latespin.model.version import Stages

PARTS_LATER = ((1 / 4, "¼"), (1 / 3, "⅓"), (1 / 2, "½"), (2 / 3, "⅔"), (3 / 4, "¾"))
METRES = ("2", "3", "4", "5", "6", "7", "9", "12")


class BeatsPanel(StagePanel):
    """``wanted`` carries what a button asks for; ``asked`` which value was typed, and the text."""

    wanted = Signal(str)
    asked = Signal(str, str)

    def __init__(self) -> None:
        super().__init__("before")
        self.buttons: dict[str, QPushButton] = {}
        self.entries: dict[str, InlineEdit] = {}
        self.ways = tuple(QPushButton() for _ in range(3))
        self.ways_say = quiet_label(tr("Detected"), 12)
        self.column.setSpacing(6)
        self._build_tempo()
        self._build_place()
        self._build_detected()
        self.says, self.key_says, self.sections_say = (quiet_label("", 12) for _ in range(3))
        for label in (self.says, self.key_says, self.sections_say):
            self.column.addWidget(label)
        self.column.addStretch()

    def _build_tempo(self) -> None:
        row = self._row()
        self._button(
            row,
            "tap",
            "Tap along",
            "Tap on the beats while the song plays (T): tempo and place are fitted to your taps.",
        )
        self._button(row, "halve", "Half", "Halve the beats, where the detected tempo is twice too fast.")
        self._button(row, "double", "Double", "Double the beats, where the detected tempo is twice too slow.")
        self._button(
            row, "two_thirds", "× ⅔", "Two beats instead of three, where triplets or dotted notes were taken for beats."
        )
        self._button(
            row,
            "three_halves",
            "× 1½",
            "Three beats instead of two, where dotted beats were detected instead of plain ones.",
        )
        self._entry(
            row, "source-bpm", "BPM", "Beats per minute of the track as it came. Type them to space beats evenly.", 88
        )
        row.addWidget(quiet_label(tr("Beats to a bar"), 12))
        choices = {metre: (metre, tr("Bars of {0} beats.").format(metre)) for metre in METRES}
        self.metre = SegmentedButton("Beats to a bar", choices, "before")
        self.metre.chosen.connect(lambda key: self.asked.emit("beats", key))
        row.addWidget(self.metre)
        row.addStretch()

    def _build_place(self) -> None:
        row = self._row()
        self._button(
            row,
            "bar_one",
            "Bar 1 is here",
            "Bar 1 begins at the playhead: at the beat next to it, or all beats move there (Ctrl+B).",
        )
        self._entry(
            row,
            "first-beat",
            "Bar 1 at",
            "Where bar 1 begins in the track. Type a time such as 0:01.25; all beats move along.",
            92,
        )
        for name, text, tip in (
            ("beat_back", "Beat earlier", "Bars begin one beat earlier (Alt+Left)."),
            ("beat_on", "Beat later", "Bars begin one beat later (Alt+Right)."),
            ("nudge_back", "−10 ms", "All beats 10 ms earlier (Alt+Shift+Left)."),
            ("nudge_on", "+10 ms", "All beats 10 ms later (Alt+Shift+Right)."),
        ):
            self._button(row, name, text, tip)
        row.addSpacing(12)
        self._button(row, "import_grid", "Import …", "Take beats and bars from a MIDI file’s tempo map or a CSV file.")
        self._button(row, "export_grid", "Export …", "Write beats and bars as a MIDI file’s tempo map or a CSV file.")
        row.addStretch()

    def _build_detected(self) -> None:
        row = self._row()
        self.click = self._box(
            row, "click", "Click", "Plays a click on every beat, over Before and After (K). Exports never contain it."
        )
        self.snap = self._box(row, "snap", "Snap", "Ranges snap to beats and bars (N); hold Shift for a free hand.")
        self.lock = self._box(row, "lock", "Lock", "Keep beats and bars from being changed by accident.")
        row.addSpacing(12)
        row.addWidget(self.ways_say)
        for which, button in enumerate(self.ways):
            button.setCheckable(True)
            button.setProperty("detected", True)
            button.clicked.connect(lambda _=False, which=which: self._take_way(which))
            row.addWidget(button)
        self._button(row, "read_anew", "Detect again", "Read the song once more.")
        row.addStretch()

    def _take_way(self, which: int) -> None:
        """Put the beats where another way to hear them has them, and let them be heard."""
        if which:
            self.asked.emit("beats-as", str(which))
        else:
            self.wanted.emit("as_read")
        if not self.click.isChecked():
            self.wanted.emit("click")

    def _row(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(8)
        self.column.addLayout(row)
        return row

    def _button(self, row: QHBoxLayout, name: str, text: str, tip: str) -> None:
        self.buttons[name] = command_button(name, text, tip, self.wanted)
        row.addWidget(self.buttons[name])

    def _entry(self, row: QHBoxLayout, key: str, title: str, tip: str, width: int) -> None:
        entry = InlineEdit(tr(title), tr(tip), token="before")
        entry.setFixedWidth(width)
        entry.typed.connect(lambda text: self.asked.emit(key, text))
        self.entries[key] = entry
        row.addSpacing(4)
        row.addWidget(quiet_label(tr(title), 12))
        row.addWidget(entry)

    def _box(self, row: QHBoxLayout, name: str, text: str, tip: str) -> QCheckBox:
        box = QCheckBox(tr(text))
        box.setToolTip(tr(tip))
        run_from(box, name, self.wanted)
        row.addWidget(box)
        return box

    def _show_ways(self, reading: Reading | None, grid: Grid | None) -> None:
        ways = reading.ways if reading is not None else ()
        self.ways_say.setVisible(bool(ways))
        for which, button in enumerate(self.ways):
            button.setVisible(which < len(ways))
            button.setEnabled(grid is None or not grid.locked)
            if which < len(ways):
                button.setText(_way_words(ways[which], ways[0], first=which == 0))
                button.setChecked(grid == grid_of_beats(ways[which]))
                button.setToolTip(
                    tr(
                        "{0} beats to a bar; how likely it is. Puts the beats there and switches the click on (K)."
                    ).format(ways[which].beats_per_bar)
                )

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        grid = document.grid
        for name in (
            "halve",
            "double",
            "two_thirds",
            "three_halves",
            "bar_one",
            "beat_back",
            "beat_on",
            "nudge_back",
            "nudge_on",
            "export_grid",
        ):
            self.buttons[name].setEnabled(grid is not None)
        self.lock.setEnabled(grid is not None)
        self.lock.setChecked(grid is not None and grid.locked)
        self.entries["source-bpm"].show_text(number(grid.bpm, 2) if grid else NO_VALUE)
        self.entries["first-beat"].show_text(clock(grid.first_beat_seconds, 3) if grid else NO_VALUE)
        self.metre.choose(str(grid.beats_per_bar) if grid else "")
        self.metre.setEnabled(grid is not None)
        self._show_ways(document.reading, grid)
        self.says.setText(_beat_words(document, grid))
        self.key_says.setText(_key_words(document))
        self.sections_say.setText(_section_words(document))


def _way_words(way: Beats, likeliest: Beats, *, first: bool) -> str:
    """A way to hear the beats, others against the likeliest."""
    chance = round(100 * way.confidence)
    if first or abs(way.bpm / likeliest.bpm - 1.0) > SAME_TEMPO:
        return tr("{0} BPM ({1} %)").format(number(way.bpm, 1), chance)
    period = 60.0 / likeliest.bpm
    later = (way.times[len(way.times) // 2] - likeliest.times[0]) / period % 1.0
    name = min(PARTS_LATER, key=lambda part: abs(part[0] - later))[1]
    return tr("{0} beat later ({1} %)").format(name, chance)


def _tempo_words(grid: Grid | None) -> str:
    """The tempi of a song whose tempo jumps, and where each begins."""
    held = held_tempi(np.array(grid.beats)) if grid is not None else ()
    if len(held) < 2:
        return ""
    later = [tr("{0} from {1}").format(number(tempo.bpm, 1), clock(tempo.start, 1)) for tempo in held[1:]]
    return tr(" {0} BPM, {1}.").format(number(held[0].bpm, 1), ", ".join(later))


def _swing_words(document: Document) -> str:
    """The swing of the song: where in the beat off-beats fall, 50 % being straight and 67 % triplets."""
    swing = document.reading.beats.swing if document.reading and document.reading.beats else None
    return "" if swing is None else tr(" Swing {0} %.").format(round(100 * swing))


def _beat_words(document: Document, grid: Grid | None) -> str:
    """The state of the beat grid, in words."""
    if document.is_reading and document.reading is None and document.session.grid is None:
        return tr("Reading the song …")
    read = document.reading.beats if document.reading else None
    if document.session.grid is not None:
        kept = grid is not None and bool(grid.beats)
        pins = tr(" {0} beats pinned.").format(len(grid.pinned)) if grid is not None and grid.pinned else ""
        return tr("Corrected by hand: {0}.{1}{2} Drag the rings on the Before waveform to move single beats.").format(
            tr("the tempo moves with the song") if kept else tr("evenly spaced"), _tempo_words(grid), pins
        )
    if document.reading is None:
        return tr("No beats detected yet. Detect again, tap along, or type the BPM.")
    if read is None:
        return tr("No steady beat found. Play the song and tap along, or type its BPM.")
    manner = tr("evenly spaced") if read.steady else tr("the tempo moves with the song")
    return tr(
        "Detected: {0}; tempo {1} % sure, bars {2} %.{3}{4} Drag the rings on the Before waveform to move single beats."
    ).format(
        manner,
        round(100 * read.bpm_confidence),
        round(100 * read.metre_confidence),
        _tempo_words(grid),
        _swing_words(document),
    )


def _key_words(document: Document) -> str:
    reading = document.reading
    if reading is None:
        return ""
    if not reading.keys:
        return tr("No key found.")
    return tr("Key: {0}.  Tuned {1} cents from A = 440 Hz.").format(
        say_runners_up(reading.keys), number(reading.tuning_cents, 0, signed=True)
    )


def _section_words(document: Document) -> str:
    if not document.sections:
        return ""
    count = len(document.sections)
    corrected = bool(document.session.sections)
    return " ".join((
        tr("Sections corrected by hand: {0}.").format(count) if corrected else tr("Sections detected: {0}.").format(count),
        tr("Drag their borders along the top of Before, double-click one to rename it, right-click for its kind."),
    ))  # fmt: skip
