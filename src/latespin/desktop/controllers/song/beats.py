"""Correcting beats and bars: requests of the panel, the waveforms and the keys become undo steps."""

from collections.abc import Callable
from pathlib import Path
from time import monotonic

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from latespin.desktop.canvas.beat_lines import BarLines
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.beats_panel import BeatsPanel
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.timing.beat_grid import Grid, last_series, tapped
from latespin.model.values.units import number

NUDGE_SECONDS = 0.01
FORGET_SECONDS = 3.0  # after which another tap begins anew
FILTER = "MIDI tempo map (*.mid *.midi);;Beats as CSV (*.csv)"

BEATS = "&Beats"


class BeatsController(QObject):
    """``place`` gives the playhead in seconds of Before, and whether the song plays."""

    wanted = Signal(str)  # what the panel's buttons ask for
    message = Signal(str, bool)  # a sentence, and whether it is a problem

    def __init__(
        self,
        document: Document,
        waveform_view: WaveformView,
        panel: BeatsPanel,
        place: Callable[[], tuple[float, bool]],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._document, self._view, self._panel, self._place, self._window = (
            document,
            waveform_view,
            panel,
            place,
            parent,
        )
        self._taps: list[float] = []
        self._last_tap = 0.0
        self._tapped_playing = False
        self._editing = False
        panel.wanted.connect(lambda name: self.wanted.emit(name))
        waveform_view.beats.beat_moved.connect(self._move_beat)
        waveform_view.beats.drag_finished.connect(document.end_drag)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    def edit(self, on: bool) -> None:
        """True while the panel is open, so that beats can be dragged."""
        self._editing = on
        self.show()

    def show(self) -> None:
        """Draw the grid on the waveforms."""
        grid, loaded = self._document.grid, self._document.loaded
        bars = BarLines(grid, loaded.facts.seconds, self._document.reading) if grid and loaded else None
        self._view.beats.show(bars, editing=self._editing and bars is not None and not bars.grid.locked)

    # -- the grid as a whole ---------------------------------------------------------------------------------

    def change(self, label: str, change: Callable[[Grid], Grid], merge: str = "") -> None:
        """One step: the grid becomes another, unless it is locked or that cannot be."""
        grid = self._document.grid
        if grid is None:
            self.message.emit(tr("There are no beats yet. Tap along, or type the track’s BPM."), False)
        elif grid.locked:
            self.message.emit(tr("Beats and bars are locked. Unlock them in their panel first (G)."), False)
        else:
            try:
                self._document.set_grid(label, change(grid), merge)
            except (ValueError, LateSpinError) as error:
                self.message.emit(str(error), True)

    @command("halve", "&Halve the beats", menu=BEATS, group=1)
    def halve(self) -> None:
        self.change(tr("Halve the beats"), Grid.halved)

    @command("double", "Do&uble the beats", menu=BEATS, group=1)
    def double(self) -> None:
        self.change(tr("Double the beats"), Grid.doubled)

    @command("two_thirds", "Beats at t&wo thirds of the tempo", menu=BEATS, group=1)
    def two_thirds(self) -> None:
        self.change(tr("Beats at two thirds of the tempo"), lambda grid: grid.recounted(2, 3))

    @command("three_halves", "Beats at one and a half times the te&mpo", menu=BEATS, group=1)
    def three_halves(self) -> None:
        self.change(tr("Beats at one and a half times the tempo"), lambda grid: grid.recounted(3, 2))

    @command("beat_back", "Bars a beat &earlier", menu=BEATS, keys="Alt+Left", group=1)
    def beat_back(self) -> None:
        self.change(tr("Bars a beat earlier"), lambda grid: grid.counted_from(-1))

    @command("beat_on", "Bars a beat &later", menu=BEATS, keys="Alt+Right", group=1)
    def beat_on(self) -> None:
        self.change(tr("Bars a beat later"), lambda grid: grid.counted_from(1))

    @command("nudge_back", "All beats 10 ms earlier", menu=BEATS, keys="Alt+Shift+Left", group=1)
    def nudge_back(self) -> None:
        self.change(tr("Nudge beats"), lambda grid: grid.shifted(-NUDGE_SECONDS), "nudge")

    @command("nudge_on", "All beats 10 ms later", menu=BEATS, keys="Alt+Shift+Right", group=1)
    def nudge_on(self) -> None:
        self.change(tr("Nudge beats"), lambda grid: grid.shifted(NUDGE_SECONDS), "nudge")

    @command("bar_one", "Bar &1 is here", menu=BEATS, keys="Ctrl+B", group=1)
    def bar_one(self) -> None:
        seconds = self._place()[0]
        self.change(tr("Bar 1 here"), lambda grid: grid.begun_at(seconds))

    @command("lock")
    def lock(self) -> None:
        grid = self._document.grid
        if grid is not None:
            word = tr("Unlock") if grid.locked else tr("Lock")
            self._document.set_grid(tr("{0} beats and bars").format(word), replace(grid, locked=not grid.locked))

    @command("as_read", "Use the &detected beats", menu=BEATS, group=3)
    def as_read(self) -> None:
        grid = self._document.grid
        if grid is not None and grid.locked:
            self.change(tr("Detected beats"), lambda grid: grid)
        else:
            self._document.set_grid(tr("Detected beats"), None)

    @command("read_anew", "Detect a&gain", menu=BEATS, group=3)
    def read_anew(self) -> None:
        self._document.read(anew=True)

    def _move_beat(self, number: int, seconds: float) -> None:
        loaded = self._document.loaded
        if loaded is not None:
            length = loaded.facts.seconds
            self.change(tr("Move a beat"), lambda grid: grid.with_beat_at(number, seconds, length), f"beat {number}")

    # -- tapping ---------------------------------------------------------------------------------------------

    @command("tap", "&Tap the tempo", menu=BEATS, keys="T", group=1)
    def tap(self) -> None:
        """One more tap: in the song's time while it plays; otherwise only the tempo is tapped."""
        seconds, playing = self._place()
        now = monotonic()
        if now - self._last_tap > FORGET_SECONDS or playing != self._tapped_playing:
            self._taps = []
        self._last_tap, self._tapped_playing = now, playing
        self._taps = [*self._taps, seconds if playing else now]
        grid = self._document.grid
        if grid is not None and grid.locked:
            self.change(tr("Tap"), lambda grid: grid)
            return
        made = tapped(self._taps, grid.beats_per_bar if grid else 4, grid if playing else None)
        if made is None:
            left = 4 - len(last_series(self._taps))
            self.message.emit(
                tr("Keep tapping on the beats: {0} more.").format(left) if left > 0 else tr("Keep tapping."), False
            )
            return
        if not playing:
            made = grid.steady(made.bpm) if grid else replace(made, first_beat_seconds=0.0)
        self._document.set_grid(tr("Tap the tempo"), made, "tap")
        where = "" if playing else tr(" Play the song and tap along to place the beats, too.")
        self.message.emit(
            tr("Tapped {0} BPM from {1} taps.{2}").format(number(made.bpm, 1), len(last_series(self._taps)), where),
            False,
        )

    # -- files -----------------------------------------------------------------------------------------------

    @command("export_grid", "E&xport …", menu=BEATS, group=4)
    def export_grid(self) -> None:
        grid, loaded = self._document.grid, self._document.loaded
        if grid is None or loaded is None:
            return
        start = loaded.track.path.with_suffix(".mid")
        name, kind = QFileDialog.getSaveFileName(self._window, tr("Export beats and bars"), str(start), FILTER)
        if name:
            self.export_to(_with_suffix(Path(name), kind))

    def export_to(self, path: Path) -> None:
        """Write the grid to a file; the dialog has asked about overwriting."""
        from latespin.media.exchange.grid_files import write_grid

        grid, loaded = self._document.grid, self._document.loaded
        if grid is None or loaded is None:
            return
        try:
            write_grid(grid, loaded.facts.seconds, path, overwrite=True, sources=self._document.sources)
            self.message.emit(tr("Wrote {0}").format(path), False)
        except LateSpinError as error:
            self.message.emit(str(error), True)

    @command("import_grid", "&Import …", menu=BEATS, group=4)
    def import_grid(self) -> None:
        loaded = self._document.loaded
        folder = str(loaded.track.path.parent) if loaded else ""
        name, _ = QFileDialog.getOpenFileName(
            self._window, tr("Import beats and bars"), folder, tr("Beats (*.mid *.midi *.csv)")
        )
        if name:
            self.import_from(Path(name))

    def import_from(self, path: Path) -> None:
        """Take the grid of a file."""
        from latespin.media.exchange.grid_files import read_grid

        try:
            grid = read_grid(path)
        except (ValueError, LateSpinError) as error:
            self.message.emit(str(error), True)
            return
        if self._document.grid is None:
            self._document.set_grid(tr("Import beats"), grid)
        else:
            self.change(tr("Import beats"), lambda _: grid)


def _with_suffix(path: Path, kind: str) -> Path:
    """A file name with the suffix of the chosen kind, unless it has one of them."""
    known = path.suffix.lower() in (".mid", ".midi", ".csv")
    return path if known else path.with_name(path.name + (".csv" if "csv" in kind else ".mid"))
