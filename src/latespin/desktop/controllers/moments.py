"""Moments: requests of the panel, the waveforms and the keys become undo steps."""

from collections.abc import Callable

import numpy as np
from msgspec.structs import replace
from PySide6.QtCore import QObject, QPoint, Qt, Signal
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from latespin.desktop.canvas.layers.moment_layer import Shape
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.controllers.effects import ask_for_file
from latespin.desktop.panels.moments_panel import MomentsPanel, length_of, named
from latespin.desktop.session.clipboard import moments_taken
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.errors import LateSpinError
from latespin.model.documents.version_edits import new_id
from latespin.model.moments.curves import bendable_tension, outline
from latespin.model.moments.declaration import MOMENTS, moment_info, moment_title
from latespin.model.moments.markers import Marker, moment_over
from latespin.model.moments.moments import AnyMoment, Cover, DropIn, EffectMoment, Moments
from latespin.model.moments.moving import begun_at, lasting, nudged
from latespin.model.moments.together import moved_along, with_field
from latespin.model.timing.positions import Position, parse_place, parse_span, snapped_place
from latespin.model.values.words import label_of
from latespin.paths import resolved

MENU = "&Moments"
NUDGE_SECONDS = 0.01


class MomentController(QObject):
    """``place`` gives the playhead in seconds of Before, and whether the song plays; ``marked`` the range marked on the waveforms."""

    message = Signal(str, bool)
    audition_wanted = Signal(float, float)
    panel_wanted = Signal(str)
    seek_wanted = Signal(str, float)
    mark_wanted = Signal()
    command_wanted = Signal(str)

    def __init__(
        self, document: Document, waveform_view: WaveformView, panel: MomentsPanel,
        place: Callable[[], tuple[float, bool]], marked: Callable[[], tuple[float, float] | None], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._view, self._panel = document, waveform_view, panel
        self._place, self._marked, self._window = place, marked, parent
        self._editing = False
        self._held: tuple[AnyMoment, ...] = ()  # as they were when a drag began
        panel.add_wanted.connect(self.add)
        panel.wanted.connect(lambda name: run(self, name))
        panel.moment_chosen.connect(self.choose)
        panel.changed.connect(self._change_field)
        panel.place_typed.connect(self._take_place)
        panel.refused.connect(lambda text: self.message.emit(text, True))
        waveform_view.moments.picked.connect(self._choose_on_waveform)
        waveform_view.moments.moved.connect(self._move)
        waveform_view.moments.bent.connect(self._bend)
        waveform_view.moments.command_wanted.connect(lambda name: run(self, name))
        waveform_view.moments.drag_finished.connect(self._let_go)
        waveform_view.menu_wanted.connect(self.open_menu)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    # -- showing ---------------------------------------------------------------------------------------------------

    def edit(self, on: bool) -> None:
        """Whether the panel is open, so that the chosen moment has handles."""
        self._editing = on
        self.show()

    def show(self) -> None:
        """Draw the moments on the waveforms."""
        self._view.moments.show(self._shapes(), self._panel.chosen, self._panel.others, editing=self._editing)

    def _shapes(self) -> tuple[Shape, ...]:
        document, layout = self._document, self._document.layout
        made = document.arrangement()
        if made is None or layout is None:
            return ()
        spots = {spot.id: spot for spot in made.spots}
        problems = {problem.id for problem in document.problems()}
        shapes = []
        for moment in document.stages.moments.placed:
            ends = tuple(place.at(layout.grid) for place in (moment.start, moment.end))
            source = ends[0], max(ends[0] + 0.01, ends[1])
            spot = spots.get(moment.id)
            if spot is not None:
                after = spot.start / layout.rate, spot.stop / layout.rate
            else:
                there = made.map.after_of_all(np.array(source) * layout.rate) / layout.rate
                after = float(there[0]), float(there[1])
            beats = length_of(moment, document).beats or 2.0 * (source[1] - source[0])
            heights = outline(moment, beats, after[1] - after[0])
            shapes.append(
                Shape(
                    moment.id, moment.label or tr(moment_title(moment)), after, source, tuple(heights.tolist()),
                    bendable_tension(moment), moment.id in problems, moment.on and document.stages.moments.on,
                )
            )  # fmt: skip
        return tuple(shapes)

    # -- steps -----------------------------------------------------------------------------------------------------

    def choose(self, ident: str, together: frozenset[str] = frozenset()) -> None:
        """Work on a moment, and on others with it."""
        others = together - {ident}
        if (ident, others) != (self._panel.chosen, self._panel.others):
            self._panel.chosen, self._panel.others = ident, others
            self._document.end_drag()
            self._panel.show_stages(self._document.stages, self._document)
            self.show()

    def _choose_on_waveform(self, ident: str, adding: bool) -> None:
        all_chosen = self._panel.others | {self._panel.chosen}
        if adding and ident in all_chosen and len(all_chosen) > 1:
            left = all_chosen - {ident}
            self.choose(self._panel.chosen if self._panel.chosen in left else min(left), left)
        else:
            self.choose(ident, all_chosen if adding or ident in all_chosen else frozenset())
        if not self._editing:
            self.panel_wanted.emit("moments")

    @property
    def _moments(self) -> Moments:
        return self._document.stages.moments

    @property
    def chosen(self) -> AnyMoment | None:
        """The moment being worked on."""
        return self._moments.find(self._panel.chosen)

    def choose_next(self, pasted: list[AnyMoment]) -> None:
        """Work on moments that the next step brings."""
        self._panel.chosen, self._panel.others = pasted[0].id, frozenset(moment.id for moment in pasted[1:])

    @property
    def all_chosen(self) -> list[AnyMoment]:
        """Those being worked on, in order of place."""
        idents, grid = self._panel.others | {self._panel.chosen}, self._document.grid
        return sorted((m for m in self._moments.placed if m.id in idents), key=lambda m: m.start.at(grid))

    def edit_step(self, label: str, moments: Moments, merge: str = "") -> None:
        """Put other moments in place of the version's, as a step of undo."""
        self._document.edit_stages(label, replace(self._document.stages, moments=moments), merge)

    def add(self, kind: str) -> None:
        """A moment over every chosen marker that is a range, else over the range marked on a waveform, else at the playhead."""
        ranges = self._chosen_ranges()
        if ranges and kind != "drop-in":
            self._over_ranges(ranges, MOMENTS[kind](start=Position(seconds=0.0), end=Position(seconds=1.0)))  # type: ignore[arg-type]
            return
        start, end = self.where(moment_info(kind).beats)
        moment: AnyMoment = MOMENTS[kind](id=new_id(), start=start, end=end)  # type: ignore[assignment]
        if isinstance(moment, DropIn):
            path = self._ask_for_sound()
            if not path:
                return
            moment = replace(moment, path=path)
        self._panel.chosen = moment.id
        self.edit_step(
            tr("Add {0}").format(translated(moment_info(kind)).title.lower()), self._moments.with_changed(moment)
        )
        self.panel_wanted.emit("moments")
        self._panel.open_page("moments")

    def where(self, beats: float) -> tuple[Position, Position]:
        """The marked range, or ``beats`` from the beat nearest to the playhead."""
        marked, grid = self._marked(), self._document.grid
        if marked is not None:
            return snapped_place(marked[0], grid), snapped_place(marked[1], grid)
        here = self._place()[0]
        layout = self._document.layout
        latest = max(0.0, (layout.seconds if layout else 1.0) - 0.05)
        if grid is None:
            self.message.emit(
                tr(
                    "This song has no bars yet, so the moment is placed in seconds. Tap the tempo to place it on beats."
                ),
                False,
            )
            return Position(seconds=min(here, latest)), Position(seconds=min(here, latest) + beats * 0.5)
        beat = float(round(float(grid.number_at(min(here, latest)))))
        return Position(beat=beat), Position(beat=beat + beats)

    def _change_field(self, name: str, value: object) -> None:
        moment = self.chosen
        if moment is None:
            return
        try:
            changed = with_field(self.all_chosen, moment, name, value)
        except (LateSpinError, ValueError) as error:
            self.message.emit(str(error), True)
            return
        self.edit_step(
            f"{tr(moment_title(moment))}: {tr(label_of(type(moment), name)).lower()}",
            self._moments.with_all_changed(changed),
            f"{moment.id} {name}",
        )

    def _take_place(self, name: str, text: str) -> None:
        moment, grid = self.chosen, self._document.grid
        if moment is None:
            return
        try:
            if name == "length":
                length = parse_span(text, grid)
                changed = [lasting(each, length, grid) for each in self.all_chosen]
            elif name == "start":
                changed = moved_along(self.all_chosen, moment, begun_at(moment, parse_place(text, grid), grid), grid)
            else:
                changed = [replace(moment, end=parse_place(text, grid))]
        except (LateSpinError, ValueError, ZeroDivisionError) as error:
            self.message.emit(str(error), True)
            return
        label = tr("Move {0}").format(tr(moment_title(moment)).lower())
        self.edit_step(label, self._moments.with_all_changed(changed))

    def _move(self, ident: str, part: str, seconds: float, snapped: bool) -> None:
        moment, grid = self._moments.find(ident), self._document.grid
        if moment is None:
            return
        place = snapped_place(seconds, grid) if snapped else Position(seconds=round(seconds, 4))
        if part == "whole":
            self._held = self._held or tuple(self.all_chosen)
            lead = next((held for held in self._held if held.id == ident), moment)
            changed = moved_along(self._held, lead, begun_at(lead, place, grid), grid)
        else:
            changed = [replace(moment, **{part: place})]
            ends = [end.at(grid) for end in (changed[0].start, changed[0].end)]
            if ends[1] - ends[0] < 0.005:
                return
        self.edit_step(
            tr("Move {0}").format(tr(moment_title(moment)).lower()),
            self._moments.with_all_changed(changed),
            f"{ident} {part}",
        )

    def _let_go(self) -> None:
        self._held = ()
        self._document.end_drag()

    def _bend(self, ident: str, tension: float) -> None:
        moment = self._moments.find(ident)
        if moment is not None:
            changed = replace(moment, tension=tension)
            self.edit_step(
                tr("Curve of {0}").format(tr(moment_title(moment)).lower()),
                self._moments.with_changed(changed),
                f"{ident} tension",
            )

    def _nudge(self, *, seconds: float = 0.0, beats: float = 0.0) -> None:
        """Move the chosen moments by beats, or, finely, by seconds off them."""
        moment = self.chosen
        if moment is not None:
            changed = [nudged(each, self._document.grid, beats=beats, seconds=seconds) for each in self.all_chosen]
            label = tr("Nudge {0}").format(tr(moment_title(moment)).lower())
            self.edit_step(label, self._moments.with_all_changed(changed), f"{moment.id} nudge")

    @command("moment_earlier")
    def earlier(self) -> None:
        self._nudge(beats=-1.0)

    @command("moment_later")
    def later(self) -> None:
        self._nudge(beats=1.0)

    @command("fine_moment_earlier")
    def earlier_finely(self) -> None:
        self._nudge(seconds=-NUDGE_SECONDS)

    @command("fine_moment_later")
    def later_finely(self) -> None:
        self._nudge(seconds=NUDGE_SECONDS)

    @command("delete_moment", "&Delete the moments", menu=MENU)
    def delete_moment(self) -> None:
        chosen = self.all_chosen
        if chosen:
            self.edit_step(tr("Delete {0}").format(named(chosen)), self._moments.without(*(m.id for m in chosen)))

    @command("next_moment", "&Next moment", menu=MENU, keys="]")
    def next_moment(self) -> None:
        self._choose_beside(1)

    @command("previous_moment", "&Previous moment", menu=MENU, keys="[")
    def previous_moment(self) -> None:
        self._choose_beside(-1)

    def _choose_beside(self, by: int) -> None:
        """Work on the moment after or before the chosen one, in order of place."""
        grid = self._document.grid
        order = sorted(self._moments.placed, key=lambda m: m.start.at(grid))
        if order:
            at = next((i for i, m in enumerate(order) if m.id == self._panel.chosen), -1 if by > 0 else 0)
            self.choose(order[(at + by) % len(order)].id)
            self.panel_wanted.emit("moments")

    def open_menu(self, side: str, seconds: float, ident: str, at: QPoint) -> None:
        """Offer what can be done at a place on a waveform."""
        menu = self.menu(side, seconds, ident)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)

    def menu(self, side: str, seconds: float, ident: str) -> QMenu:
        """A menu for a place on a waveform: what can be done with the moment there, or which can be added."""
        menu = QMenu(self._window)
        if ident:
            self.choose(ident)
            moment = self.chosen
            assert moment is not None
            menu.addAction(tr("Play it"), self.audition)
            menu.addAction(
                tr("Switch it off") if moment.on else tr("Switch it on"),
                lambda: self._change_field("on", not moment.on),
            )
            menu.addAction(tr("Copy"), lambda: self.command_wanted.emit("copy"))
            menu.addAction(tr("Delete"), self.delete_moment)
        else:
            self.seek_wanted.emit(side, seconds)
            menu.addMenu(self._panel.kinds_menu(menu)).setText(tr("Add here"))
            paste = menu.addAction(tr("Paste here"), lambda: self.command_wanted.emit("paste"))
            paste.setEnabled(bool(moments_taken(self._document.grid)))
            menu.addAction(tr("Mark here"), lambda: self.mark_wanted.emit())
        return menu

    @command("audition_moment")
    def audition(self) -> None:
        """From a bar before the chosen moment to a bar after it, round and round."""
        moment, grid, layout = self.chosen, self._document.grid, self._document.layout
        if moment is None or layout is None:
            self.message.emit(tr("Choose a moment to play. Add one in the Moments panel (3)."), False)
            return
        bar = grid.bar_seconds if grid else 2.0
        start, end = (place.at(grid) for place in (moment.start, moment.end))
        self.audition_wanted.emit(max(0.0, start - bar), min(layout.seconds, end + bar))

    @command("choose_moment_file")
    def choose_file(self) -> None:
        moment = self.chosen
        if isinstance(moment, EffectMoment):
            path = ask_for_file(self._window, moment.effect)
            if path:
                self._change_field("effect", replace(moment.effect, path=path))
        elif path := self._ask_for_sound():
            self._change_field("path", path)

    def _ask_for_sound(self) -> str:
        name, _ = QFileDialog.getOpenFileName(
            self._window,
            tr("Choose the sound to drop in"),
            "",
            tr("Sounds (*.wav *.flac *.ogg *.opus *.mp3 *.aif *.aiff *.m4a);;All files (*)"),
        )
        return str(resolved(name)) if name else ""

    # -- over markers ------------------------------------------------------------------------------------------------

    @command("cover_markers", "&Cover all marked ranges", menu=MENU, group=1)
    def cover_markers(self) -> None:
        """A cover over every chosen range, in one step."""
        ranges = self._chosen_ranges() or [m for m in self._document.session.markers if m.end is not None]
        if not ranges:
            self.message.emit(
                tr("Mark ranges first: drag along a waveform and press X, or X at the start and Shift+X at the end."),
                False,
            )
            return
        pattern = (
            self.chosen
            if isinstance(self.chosen, Cover)
            else Cover(start=Position(seconds=0.0), end=Position(seconds=1.0))
        )
        self._over_ranges(ranges, pattern)

    def _chosen_ranges(self) -> list[Marker]:
        """The chosen markers that are ranges, while their page is open."""
        if self._panel.lists.currentWidget() is not self._panel.markers:
            return []
        chosen = self._panel.markers.chosen()
        return [m for m in self._document.session.markers if m.end is not None and m.id in chosen]

    def _over_ranges(self, ranges: list[Marker], pattern: AnyMoment) -> None:
        """A moment like ``pattern`` over each of some ranges, in one step; those of its kind that are there already change."""
        there = {(m.start, m.end): m.id for m in self._moments.placed if type(m) is type(pattern)}
        made = tuple(moment_over(m, pattern, there.get((m.start, m.end or m.start)) or new_id()) for m in ranges)
        again = {moment.id for moment in made}
        others = tuple(moment for moment in self._moments.placed if moment.id not in again)
        self._panel.chosen = made[0].id
        title = tr(moment_title(pattern)).lower()
        label = tr("Add {0}").format(title) if len(made) == 1 else tr("Add {0} × {1}").format(len(made), title)
        self.edit_step(label, replace(self._moments, placed=(*others, *made)))
        self._panel.open_page("moments")
