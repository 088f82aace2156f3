"""Markers: requests of the list, the waveforms and the keys become undo steps."""

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from latespin.desktop.canvas.layers.marker_layer import Flag
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.moments_panel import MomentsPanel
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.documents.version_edits import new_id
from latespin.model.moments.markers import Marker
from latespin.model.timing.positions import Position, snapped_place

MARKER_FILTER = "Markers as CSV (*.csv);;The song as WAV with cue points (*.wav)"

MOMENTS = "&Moments"
JUST_PASSED = 1.0  # seconds


class MarkerController(QObject):
    """``place`` gives the playhead in seconds of Before, and whether the song plays; ``marked`` the range marked on the waveforms."""

    message = Signal(str, bool)
    wanted = Signal(str)  # what the list's buttons ask for
    seek_wanted = Signal(float)
    panel_wanted = Signal(str)

    def __init__(
        self, document: Document, waveform_view: WaveformView, panel: MomentsPanel,
        place: Callable[[], tuple[float, bool]], marked: Callable[[], tuple[float, float] | None], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._view, self._panel = document, waveform_view, panel
        self._place, self._marked, self._window = place, marked, parent
        panel.markers.wanted.connect(lambda name: self.wanted.emit(name))
        panel.markers.renamed.connect(self._rename)
        panel.markers.jumped.connect(self._jump)
        waveform_view.markers.moved.connect(self._move_marker)
        waveform_view.markers.drag_finished.connect(document.end_drag)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    def show(self) -> None:
        """Draw the markers on the waveforms."""
        grid = self._document.grid
        self._view.markers.show(
            tuple(
                Flag(m.id, m.label, m.start.at(grid), m.end.seconds_in(grid) if m.end else None)
                for m in self._document.session.markers
            )
        )

    @command("mark", "&Mark this place, or the marked range", menu=MOMENTS, keys="X", group=1)
    def mark(self) -> None:
        """Mark the range marked on a waveform, or the playhead."""
        marked, grid = self._marked(), self._document.grid
        seconds, playing = self._place()
        count = len(self._document.session.markers) + 1
        if marked is not None and not playing:
            marker = Marker(
                id=new_id(),
                label=tr("Marker {0}").format(count),
                start=snapped_place(marked[0], grid),
                end=snapped_place(marked[1], grid),
            )
        else:
            marker = Marker(
                id=new_id(), label=tr("Marker {0}").format(count), start=Position(seconds=round(seconds, 4))
            )
        self._put_markers(tr("Add marker"), (*self._document.session.markers, marker))

    @command("mark_end", "&End the last mark here", menu=MOMENTS, keys="Shift+X", group=1)
    def mark_end(self) -> None:
        """The last marker before the playhead becomes a range that ends there."""
        seconds, _ = self._place()
        grid, markers = self._document.grid, self._document.session.markers
        before = [m for m in markers if m.start.at(grid) < seconds - 0.005]
        if not before:
            self.message.emit(tr("There is no marker before the playhead whose end this could be. X sets one."), False)
            return
        last = max(before, key=lambda m: m.start.at(grid))
        ended = replace(last, end=Position(seconds=round(seconds, 4)))
        self._put_markers(tr("End marker"), tuple(ended if m.id == last.id else m for m in markers))

    def _put_markers(self, label: str, markers: tuple[Marker, ...]) -> None:
        self._document.edit_session(label, replace(self._document.session, markers=markers))

    def _move_marker(self, ident: str, part: str, seconds: float, snapped: bool) -> None:
        grid, markers = self._document.grid, self._document.session.markers
        marker = next((m for m in markers if m.id == ident), None)
        if marker is None:
            return
        place = snapped_place(seconds, grid) if snapped else Position(seconds=round(seconds, 4))
        moved = replace(marker, **{part: place})
        if moved.end is not None and moved.end.at(grid) - moved.start.at(grid) < 0.005:
            return
        changed = tuple(moved if m.id == ident else m for m in markers)
        self._document.edit_session(
            tr("Move marker"), replace(self._document.session, markers=changed), f"{ident} {part}"
        )

    def _rename(self, ident: str, label: str) -> None:
        markers = self._document.session.markers
        self._put_markers(tr("Rename marker"), tuple(replace(m, label=label) if m.id == ident else m for m in markers))

    def _jump(self, ident: str) -> None:
        marker = next((m for m in self._document.session.markers if m.id == ident), None)
        if marker is not None and not self._place()[1]:
            self.seek_wanted.emit(marker.start.at(self._document.grid))

    @command("next_marker", "Next mar&ker", menu=MOMENTS, keys=".", group=1)
    def next_marker(self) -> None:
        """Go to the next marker."""
        self._go(1)

    @command("previous_marker", "Pre&vious marker", menu=MOMENTS, keys=",", group=1)
    def previous_marker(self) -> None:
        """Go to the marker before; while the song plays, a marker just passed does not count."""
        self._go(-1)

    def _go(self, way: int) -> None:
        """To the marker after or before the playhead, and choose it in the list."""
        grid, (here, playing) = self._document.grid, self._place()
        margin = JUST_PASSED if playing and way < 0 else 0.005
        places = sorted((marker.start.at(grid) * way, marker.id) for marker in self._document.session.markers)
        found = next(((place * way, ident) for place, ident in places if place > here * way + margin), None)
        if found is None:
            self.message.emit(
                tr("There is no marker after this place.") if way > 0 else tr("There is no marker before this place."),
                False,
            )
            return
        self._panel.markers.show_chosen(found[1])
        self.seek_wanted.emit(found[0])

    @command("unmark_markers")
    def unmark_markers(self) -> None:
        gone = set(self._panel.markers.chosen())
        self._put_markers(tr("Remove markers"), tuple(m for m in self._document.session.markers if m.id not in gone))

    @command("import_markers", "&Import markers …", menu=MOMENTS, group=2)
    def import_markers(self) -> None:
        from latespin.media.exchange.marker_files import read_marks

        name, _ = QFileDialog.getOpenFileName(
            self._window, tr("Import markers"), "", tr("Markers (*.csv *.wav);;All files (*)")
        )
        if not name:
            return
        try:
            marks = read_marks(Path(name))
        except LateSpinError as error:
            self.message.emit(str(error), True)
            return
        grid, loaded = self._document.grid, self._document.loaded
        inside = [mark for mark in marks if loaded is None or mark[1] < loaded.track.seconds]
        if len(inside) < len(marks):
            left = len(marks) - len(inside)
            self.message.emit(
                tr("{0} of {1} markers lie past the song’s end and are left out.").format(left, len(marks)), False
            )
        new = tuple(
            Marker(
                id=new_id(),
                label=label,
                start=snapped_place(start, grid),
                end=None if end is None else snapped_place(end, grid),
            )
            for label, start, end in inside
        )
        self._put_markers(tr("Import {0} markers").format(len(new)), (*self._document.session.markers, *new))
        self.panel_wanted.emit("moments")
        self._panel.open_page("markers")

    @command("export_markers", "E&xport markers …", menu=MOMENTS, group=2)
    def export_markers(self) -> None:
        from latespin.media.exchange.marker_files import write_marks

        loaded, grid = self._document.loaded, self._document.grid
        markers = sorted(self._document.session.markers, key=lambda m: m.start.at(grid))
        if loaded is None or not markers:
            self.message.emit(tr("There are no markers to export. X sets one."), False)
            return
        name, kind = QFileDialog.getSaveFileName(
            self._window, tr("Export markers"), f"{loaded.track.path.stem} markers.csv", MARKER_FILTER
        )
        if not name:
            return
        path = Path(name) if Path(name).suffix else Path(name + (".wav" if "wav" in kind else ".csv"))
        marks = [(m.label, m.start.at(grid), m.end.seconds_in(grid) if m.end else None) for m in markers]
        track, sources = loaded.track, self._document.sources

        def written(changed: int) -> None:
            message = tr("Markers written to {0}.").format(path)
            if changed:
                message += " " + tr(
                    "{0} did not fit the beats: ranges turned over became positions, starts before the song moved to its start."
                ).format(changed)
            self.message.emit(message, False)

        task = Task(
            tr("Writing markers"),
            "export",
            lambda _: write_marks(marks, path, track, overwrite=True, sources=sources),
            written,
            self._document.problem.emit,
        )
        self._document.work.submit(task)
