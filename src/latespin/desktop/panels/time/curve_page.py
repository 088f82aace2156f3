"""The tempo curve in numbers."""

from msgspec.structs import replace
from PySide6.QtWidgets import QPushButton

from latespin.desktop.panels.time.page import TimePage
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.model.text.describe import speed_text
from latespin.model.timing.tempo_curve import Curve, added, factor_at, removed
from latespin.model.values.units import clock, number
from latespin.model.version import Stages


class CurvePage(TimePage):
    """The tempo curve in numbers; its line is drawn and dragged on the Before waveform."""

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
        row.addWidget(quiet_label(tr("After the chosen point"), 12))
        row.addWidget(self.shape)
        row.addStretch()
        self._add_buttons()
        self.says = quiet_label("", 12)
        self.column.addWidget(self.says)
        self.column.addStretch()

    def _add_buttons(self) -> None:
        buttons = self.row()
        self.add, self.remove, self.clear = (
            QPushButton(tr("Add point here")),
            QPushButton(tr("Remove point")),
            QPushButton(tr("Clear curve")),
        )
        self.add.setToolTip(tr("Add a point at the playhead. Double-click the Before waveform to add one anywhere."))
        self.remove.setToolTip(tr("Take the chosen point away. Delete does it, too."))
        self.clear.setToolTip(tr("One speed throughout."))
        self.add.clicked.connect(
            lambda: self._put(added(self._stages.time.curve, self.place), tr("add a point of the curve"))
        )
        self.remove.clicked.connect(
            lambda: self._put(removed(self._stages.time.curve, self.chosen), tr("remove a point of the curve"))
        )
        self.clear.clicked.connect(lambda: self._put((), tr("clear the tempo curve")))
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

    def _put(self, curve: Curve, label: str) -> None:
        self.change(label, curve=curve)

    def _choose_shape(self, key: str) -> None:
        curve = list(self._stages.time.curve)
        if self.chosen < len(curve):
            curve[self.chosen] = replace(curve[self.chosen], shape=key)
            self._put(tuple(curve), tr("{0} tempo curve").format(key))

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
        tempo = tr(", {0} BPM").format(number(grid.bpm_at(here) * speed, 1)) if grid else ""
        points = len(self._stages.time.curve)
        drawn = (
            tr("{0} points").format(points)
            if points
            else tr("No points yet: double-click the Before waveform to add one")
        )
        whole = self.marked is None
        first, last = self.marked or (0.0, document.loaded.facts.seconds)
        lasts = (time_map.after_at(last * rate) - time_map.after_at(first * rate)) / rate
        self.fit_title.setText(tr("Whole song lasts") if whole else tr("Marked range lasts"))
        self.entries["fit"].show_text(clock(lasts, 2))
        self.says.setText(
            tr("{0}.  At the playhead {1}{2}.  In all {3}.").format(
                drawn, speed_text(speed), tempo, clock(time_map.after_frames / rate, 2)
            )
        )
