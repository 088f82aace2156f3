"""The Time panel on the waveforms: the tempo curve, the first beat, passages to loop, and strain."""

from typing import TYPE_CHECKING, TypeVar

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.time.time_panel import TimePanel
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr
from latespin.model.text.stretch_warnings import may_be_strained
from latespin.model.timing.tempo_curve import Curve

if TYPE_CHECKING:
    from collections.abc import Callable

    from latespin.analysis.content import SongContent
    from latespin.analysis.passages import Passages
    from latespin.desktop.session.loading import LoadedTrack
    from latespin.render.strain_along import StrainAlong

Found = TypeVar("Found")


class TempoController(QObject):
    """Carries what a hand does on one of them to the document and to the other."""

    passage_found = Signal(float, float)  # start and end, seconds of Before
    seek_wanted = Signal(str, float)
    message = Signal(str, bool)

    def __init__(
        self,
        document: Document,
        waveform_view: WaveformView,
        panel: TimePanel,
        work: WorkQueue,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._document, self._view, self._panel, self._work = document, waveform_view, panel, work
        self._open = "time"
        self._place = 0.0
        self._passages: Passages | None = None
        self._content: SongContent | None = None
        self._looking = False
        self._along: StrainAlong | None = None
        panel.wanted.connect(lambda name: run(self, name))
        document.track_changed.connect(self._forget)
        document.session_changed.connect(self._show_strain)
        panel.page_opened.connect(self._open_page)
        panel.character.audition_wanted.connect(self._audition)
        panel.halftime.first_beat_wanted.connect(self._put_first_beat)
        waveform_view.curve.curve_changed.connect(self._change_curve)
        waveform_view.curve.drag_finished.connect(document.end_drag)
        waveform_view.curve.point_chosen.connect(self._choose_point)

    def show_curve(self, panel: str) -> None:
        """Draw the curve, to be edited while its page is open. panel : the stage whose panel it is."""
        self._open = panel
        time = self._document.stages.time
        editing = panel == "time" and self._panel.page == "curve" and time.on
        self._view.curve.show(time.heard.curve, time.heard.speed, editing=editing)

    def _open_page(self) -> None:
        self.show_curve(self._open)
        self.show_marked(self._panel.curve.marked)

    def show_marked(self, marked: tuple[float, float] | None) -> None:
        """Say how long the marked range, seconds of Before, lasts in After."""
        self._panel.curve.marked = marked
        self._panel.curve.show_place(self._document, self._panel.curve.place)

    def _change_curve(self, curve: Curve, merge: str) -> None:
        stages = self._document.stages
        self._document.edit_stages(
            tr("Time: tempo curve"), replace(stages, time=replace(stages.time, curve=curve)), merge
        )

    def _choose_point(self, which: int) -> None:
        self._panel.curve.chosen = which
        self._panel.curve.show_stages(self._document.stages, self._document)

    def _put_first_beat(self) -> None:
        """The first beat of a bar at the playhead."""
        loaded, time_map, grid = self._document.loaded, self._document.time_map(), self._document.grid
        if loaded is None or time_map is None or grid is None:
            return
        seconds = self._view.playhead
        if self._view.side == "after":
            seconds = time_map.before_at(seconds * loaded.track.rate) / loaded.track.rate
        self._document.set_grid(tr("First beat"), replace(grid, first_beat_seconds=round(seconds, 4)))

    def _audition(self, kind: str) -> None:
        """Find the passage in which a character is judged best."""

        def find(loaded: "LoadedTrack") -> "Passages":
            from latespin.analysis.passages import find_passages

            return find_passages(loaded.track.sound, loaded.track.rate, loaded.readers.attacks)

        def found(passages: "Passages") -> None:
            self._passages = passages
            loaded = self._document.loaded
            if loaded is not None:
                start, end = passages.drums if kind == "drums" else passages.voice
                self.passage_found.emit(start / loaded.track.rate, end / loaded.track.rate)

        if self._passages is not None:
            found(self._passages)
        else:
            self._look(tr("Finding passages"), "load", find, found, shown=True)

    def _look(
        self, title: str, lane: str, find: "Callable[[LoadedTrack], Found]", found: "Callable[[Found], None]", *,
        shown: bool,
    ) -> None:  # fmt: skip
        """Find something about the open song in the background; dropped if another song is open by then."""
        loaded = self._document.loaded
        if loaded is None:
            return

        def done(result: Found) -> None:
            if self._document.loaded is loaded:
                found(result)

        self._work.submit(Task(title, lane, lambda _: find(loaded), done, self._document.problem.emit, shown=shown))

    def _forget(self) -> None:
        """Another song is open."""
        self._passages = self._content = None
        self._looking = False
        self._show_strain()

    # -- strain ----------------------------------------------------------------------------------------------------

    def _find_content(self) -> None:
        """Look in the background, once, for what the song has that can be strained."""
        if self._looking:
            return
        self._looking = True

        def find(loaded: "LoadedTrack") -> "SongContent":
            from latespin.analysis.content import content_of

            return content_of(loaded.track.sound, loaded.track.rate, loaded.readers.attacks)

        def found(content: "SongContent") -> None:
            self._content = content
            self._show_strain()

        self._look(tr("Looking for strain"), "strain", find, found, shown=False)

    def _show_strain(self) -> None:
        """Draw the strain of the version along the song."""
        loaded, made, time = self._document.loaded, self._document.arrangement(), self._document.stages.time
        self._along = None
        if loaded is not None and made is not None and may_be_strained(time):
            if self._content is None:
                self._find_content()
            else:
                from latespin.render.strain_along import strain_along

                rate = loaded.track.rate
                along = strain_along(time, made.music, self._content, rate)
                if along.worst_seconds is not None:
                    self._along = along
                    edges = np.minimum(self._content.edges, loaded.track.seconds)
                    self._view.strain.show(made.map.after_of_all(edges * rate) / rate, along.amounts)
        if self._along is None:
            self._view.strain.show(np.zeros(1), np.zeros(0))
        self.show_place(self._place)

    def show_place(self, seconds: float) -> None:
        """Say what is strained at a place of Before."""
        self._place = seconds
        self._panel.show_here(self._along.words_at(seconds) if self._along else None)

    @command("worst_strain", "Jump to the m&ost strained place", menu="&Play", keys="V", group=2)
    def to_worst(self) -> None:
        """Go to where stretching or shifting is heard the most."""
        worst = self._along.worst_seconds if self._along else None
        if worst is None:
            self.message.emit(tr("Nothing in this version is strained."), False)
        else:
            self.seek_wanted.emit("before", worst)
