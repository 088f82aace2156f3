"""Control surfaces: what is connected, the map of what they do, learning it, and MIDI clock."""

import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMenu, QWidget

from latespin.desktop.panels.playing.playing_panel import PlayingPanel
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.language import localised
from latespin.media.files.guard import Sources
from latespin.media.midi.surface_reader import KnobEvent, PadEvent, SurfaceReader, learnt, light
from latespin.media.storage.config import all_surfaces, keep_surface, load_surface, load_surface_file, surface_folder
from latespin.model.playing.surface_map import PRACTICE, Source, SurfaceMap, practice_map
from latespin.model.values.file_names import safe_name

if TYPE_CHECKING:
    import mido

    from latespin.media.midi.clock import MidiClock
    from latespin.media.midi.ports import Surfaces

LEARN_MS = 500  # after its first message, in which more of them tell what a knob is
FILTER = "*.json"
OWN = "my-surface"


class SurfaceController(QObject):
    """sources : gives the files that nothing may be written to.  handle : takes what pads and knobs do, from any thread.  knob_moved : a knob of a surface or of the panel was turned."""

    message = Signal(str, bool)
    map_changed = Signal()
    connected_changed = Signal()
    knob_moved = Signal()
    tempo_followed = Signal(float)
    _heard_more = Signal()
    _came_or_went = Signal()

    def __init__(
        self, settings: Settings, handle: Callable[[PadEvent | KnobEvent], None], sources: Callable[[], Sources], parent: QObject
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._sources = sources
        self._settings, self._handle = settings, handle
        self._broken = ""  # why the map that was used last cannot be, until that is said
        self.surface: SurfaceMap = self._load(settings.surface)
        self._reader = SurfaceReader(self.surface)
        self._surfaces: Surfaces | None = None
        self._clock: MidiClock | None = None
        self._learning: tuple[bool, int] | None = None
        self._learnt_from: list[mido.Message] = []
        self._pressed: dict[str, set[int]] = {}
        self._names: tuple[str, ...] = ()
        self.following = False
        self._learn_timer = QTimer(self, singleShot=True, interval=LEARN_MS)
        self._learn_timer.timeout.connect(self._finish_learning)
        self._clock_timer = QTimer(self, interval=500)
        self._clock_timer.timeout.connect(self._look_at_clock)
        self._heard_more.connect(self._start_learn_timer)
        self._came_or_went.connect(self._see_who_is_there)

    def _load(self, name: str) -> SurfaceMap:
        try:
            return load_surface(name)
        except (LateSpinError, OSError) as error:
            self._broken = tr("{0} The map of the practice surface is used instead.").format(error)
            return practice_map()

    def open(self, panel: PlayingPanel) -> None:
        """Listen to control surfaces from now on, and offer their maps in the panel."""
        if self._surfaces is None:
            from latespin.media.midi.clock import MidiClock
            from latespin.media.midi.ports import Surfaces

            self._clock = MidiClock()
            self._surfaces = Surfaces(self._hear, self._came_or_went.emit)
            self._clock_timer.start()
            menu = QMenu(panel)
            menu.setToolTipsVisible(True)
            menu.aboutToShow.connect(lambda: self.fill(menu))
            panel.surface.setMenu(menu)
        if self._broken:
            self.message.emit(self._broken, True)
            self._broken = ""
        self.connected_changed.emit()

    def close(self) -> None:
        """Listen no longer."""
        self._clock_timer.stop()
        if self._surfaces is not None:
            self._surfaces.close()
            self._surfaces = None

    @property
    def learning(self) -> bool:
        """Whether the next message says which pad or knob is meant."""
        return self._learning is not None

    @property
    def status(self) -> str:
        """What is connected, in a few words, or what to do."""
        if self._learning is not None:
            knob = self._learning[0]
            return (
                tr("Turn a knob of your control surface. Esc stops.")
                if knob
                else tr("Press a pad of your control surface. Esc stops.")
            )
        bpm = self._clock.bpm(time.monotonic()) if self._clock is not None else None
        beat = tr("MIDI clock {0} BPM").format(localised(f"{bpm:g}")) if bpm is not None else ""
        if self._names:
            return " · ".join((*self._names, *([beat] if beat else [])))
        problems = (self._surfaces.problem, self._surfaces.socket.problem) if self._surfaces is not None else ()
        return next(filter(None, problems), tr("No control surface is connected."))

    # -- messages, in threads of the surfaces ------------------------------------------------------------------

    def _hear(self, name: str, message: "mido.Message") -> None:
        if message.type == "clock":
            assert self._clock is not None
            self._clock.tick(time.monotonic())
            return
        if self._learning is not None:
            self._learnt_from.append(message)
            self._heard_more.emit()
            return
        for event in self._reader.read(message):
            if isinstance(event, PadEvent):
                pressed = self._pressed.setdefault(name, set())
                (pressed.add if event.held else pressed.discard)(event.pad)
            self._handle(event)

    # -- connections -------------------------------------------------------------------------------------------

    def _see_who_is_there(self) -> None:
        """A surface has come or gone: what one that has gone held is let go."""
        if self._surfaces is None:
            return
        names = self._surfaces.names
        for name in self._names:
            if name not in names:
                for pad in self._pressed.pop(name, set()):
                    self._handle(PadEvent(pad, held=False))
        self._names = names
        self.connected_changed.emit()

    def light(self, held: frozenset[int]) -> None:
        """Light the pads that are held, on all surfaces."""
        if self._surfaces is None:
            return
        for number, pad in enumerate(self.surface.pads):
            message = light(pad.source, number in held) if pad.source is not None else None
            for name in self._surfaces.names if message is not None else ():
                self._surfaces.send(name, message)

    # -- the map -----------------------------------------------------------------------------------------------

    def use(self, surface: SurfaceMap) -> None:
        """Go by another map."""
        self.surface, self._reader = surface, SurfaceReader(surface)
        self._settings.surface = surface.name
        self.map_changed.emit()

    def change(self, surface: SurfaceMap) -> None:
        """Change the map, and keep it; the one that ships is copied first."""
        copied = surface.name == PRACTICE
        if copied:
            surface = _named_anew(surface)
        try:
            keep_surface(surface, overwrite=not copied)
        except (LateSpinError, OSError) as error:
            self.message.emit(str(error), True)
        self.use(surface)

    def fill(self, menu: QMenu) -> None:
        """Offer the maps, and what can be done with them."""
        menu.clear()
        group = QActionGroup(menu)
        for surface in all_surfaces():
            action = QAction(surface.title.replace("&", "&&"), menu, checkable=True)
            action.setChecked(surface.name == self.surface.name)
            action.triggered.connect(lambda _=False, s=surface: self.use(s))
            group.addAction(action)
            menu.addAction(action)
        menu.addSeparator()
        menu.addAction(tr("Keep this map as …"), lambda: self._keep_as(menu))
        menu.addAction(tr("Import a map …"), lambda: self._import(menu))
        menu.addAction(tr("Export this map …"), lambda: self._export(menu))
        menu.addSeparator()
        follow = menu.addAction(tr("Follow the tempo of MIDI clock"), self._follow_clock)
        follow.setCheckable(True)
        follow.setChecked(self.following)

    def _keep_as(self, parent: QWidget) -> None:
        title, yes = QInputDialog.getText(parent, tr("Keep this map"), tr("Name of the map:"), text=self.surface.title)
        name = safe_name(title.strip().casefold().replace(" ", "-"))
        if yes and name and name != PRACTICE:
            try:
                keep_surface(replace(self.surface, name=name, title=title.strip()))
            except (LateSpinError, OSError) as error:
                self.message.emit(str(error), True)
            else:
                self.use(replace(self.surface, name=name, title=title.strip()))

    def _import(self, parent: QWidget) -> None:
        path, _ = QFileDialog.getOpenFileName(
            parent, tr("Import a map"), "", tr("Maps of control surfaces ({0})").format(FILTER)
        )
        if path:
            try:
                surface = load_surface_file(Path(path))
                keep_surface(surface)
            except (LateSpinError, OSError) as error:
                self.message.emit(str(error), True)
            else:
                self.use(surface)

    def _export(self, parent: QWidget) -> None:
        from latespin.media.files.atomic import write_bytes
        from latespin.model.playing.surface_map import to_json

        path, _ = QFileDialog.getSaveFileName(
            parent,
            tr("Export this map"),
            f"{self.surface.name}.json",
            tr("Maps of control surfaces ({0})").format(FILTER),
        )
        if path:
            try:
                write_bytes(Path(path), to_json(self.surface), overwrite=True, sources=self._sources())
            except (LateSpinError, OSError) as error:
                self.message.emit(str(error), True)

    # -- learning ----------------------------------------------------------------------------------------------

    def learn(self, number: int, *, knob: bool) -> None:
        """Take the next pad or knob that is moved on a surface for a pad or knob of the panel."""
        self._learnt_from = []
        self._learning = knob, number
        self.connected_changed.emit()

    def stop_learning(self) -> None:
        """Learn nothing."""
        self._learning = None
        self.connected_changed.emit()

    def _start_learn_timer(self) -> None:
        if not self._learn_timer.isActive():
            self._learn_timer.start()

    def _finish_learning(self) -> None:
        if self._learning is None:
            return
        knob, number = self._learning
        source = learnt(self._learnt_from, knob=knob)
        self._learning = None
        if source is None:
            self.message.emit(tr("That sends nothing that can be learnt. Try another pad or knob."), False)
        else:
            self._assign(source, number, knob=knob)
        self.connected_changed.emit()

    def _assign(self, source: Source, number: int, *, knob: bool) -> None:
        surface = self.surface
        if knob:
            self.change(surface.with_knob(number, replace(surface.knobs[number], source=source)))
        else:
            self.change(surface.with_pad(number, replace(surface.pads[number], source=source)))

    # -- MIDI clock --------------------------------------------------------------------------------------------

    def _follow_clock(self) -> None:
        self.following = not self.following

    def _look_at_clock(self) -> None:
        bpm = self._clock.bpm(time.monotonic()) if self._clock is not None else None
        if bpm is not None:
            self.connected_changed.emit()
            if self.following:
                self.tempo_followed.emit(bpm)


def _named_anew(surface: SurfaceMap) -> SurfaceMap:
    """A map under a name of the user's own that no map has yet."""
    name, title, number = OWN, tr("My surface"), 1
    while (surface_folder() / f"{name}.json").exists():
        number += 1
        name, title = f"{OWN}-{number}", tr("My surface {0}").format(number)
    return replace(surface, name=name, title=title)
