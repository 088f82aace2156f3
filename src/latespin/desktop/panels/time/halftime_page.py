"""Half speed, for the song or for bars."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QPushButton

from latespin.desktop.panels.time.page import TimePage
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.units import NO_VALUE, clock, number
from latespin.model.version import HALFTIME_BARS, Stages, Time


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
        self.down = QCheckBox(tr("An octave down"))
        self.down.setToolTip(tr("Let the pitch fall with the speed where it is halved; otherwise it stays."))
        self.down.clicked.connect(lambda on: self.change(tr("octave down") if on else tr("pitch kept"), octave_down=on))
        row.addWidget(self.down)
        row.addStretch()
        grid = self.row()
        self.entry(
            grid,
            "source-bpm",
            "Track’s BPM",
            "Beats per minute of the track as it came. Type it to lay the bars.",
            84,
        )
        self.entry(
            grid,
            "first-beat",
            "First beat at",
            "Where the first beat of a bar is in the track. Type a time such as 0:01.25.",
            90,
        )
        self.here = QPushButton(tr("First beat here"))
        self.here.setToolTip(tr("Put the first beat of a bar at the playhead."))
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
                return ""  # the panel says what is missing
            cell = grid.bar_seconds * HALFTIME_BARS[time.halftime]
            return tr("Cells of {0} s of the track; each one’s downbeat stays where it is.").format(number(cell, 2))
        if time.halftime == "song":
            return tr("Twice the length at half the tempo") + (
                tr(", an octave lower.") if time.octave_down else tr("; the pitch stays.")
            )
        return tr("Half speed for bars or the whole song, on top of the version’s speed.")
