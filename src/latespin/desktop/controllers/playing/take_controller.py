"""Takes: switched, renamed, quantised, merged, deleted, and exchanged as MIDI files, each as a step of undo."""

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from latespin.desktop.panels.playing.take_list import TakeList
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.documents.take_edits import deleted, merged, muted, quantised
from latespin.model.moments.held import Held
from latespin.model.playing.surface_map import SurfaceMap
from latespin.model.version import Stages
from latespin.paths import resolved

FILTER = "*.mid *.midi"


class TakeController(QObject):
    """surface : gives the map by which files are read and written.  chosen_moments : ids of the moments being worked on."""

    message = Signal(str, bool)

    def __init__(
        self, document: Document, settings: Settings, takes: TakeList, surface: Callable[[], SurfaceMap],
        chosen_moments: Callable[[], set[str]], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._settings, self._takes, self._surface = document, settings, takes, surface
        self._chosen_moments, self._window = chosen_moments, parent
        takes.switched.connect(self._switch)
        takes.renamed.connect(self._rename)

    def run(self, name: str) -> None:
        """Run a command of the panel."""
        run(self, name)

    def _edit(self, label: str, stages: Stages) -> None:
        self._document.end_drag()
        self._document.edit_stages(label, stages)

    def _switch(self, ident: str, on: bool) -> None:
        self._edit(tr("Take on") if on else tr("Take off"), muted(self._document.stages, ident, on))

    def _rename(self, ident: str, name: str) -> None:
        moments = self._document.stages.moments
        takes = tuple(replace(t, name=name.strip() or t.name) if t.id == ident else t for t in moments.takes)
        self._edit(tr("Rename take"), replace(self._document.stages, moments=replace(moments, takes=takes)))

    @command("delete_takes")
    def delete(self) -> None:
        chosen, stages = self._takes.chosen, self._document.stages
        for ident in chosen:
            stages = deleted(stages, ident)
        if chosen:
            self._edit(tr("Delete takes") if len(chosen) > 1 else tr("Delete take"), stages)

    @command("merge_takes")
    def merge(self) -> None:
        chosen = self._takes.chosen
        if len(chosen) > 1:
            self._edit(tr("Merge takes"), merged(self._document.stages, chosen))

    @command("quantise_takes")
    def quantise(self) -> None:
        """Quantise the moves of the chosen takes."""
        chosen = self._takes.chosen
        self._quantise(lambda moment: moment.take in chosen)

    @command("quantise_moments", "&Quantise the chosen held moments", menu="&Moments", group=1)
    def quantise_moments(self) -> None:
        """Quantise those among the chosen moments that are held ones, by the note value and strength of Play along."""
        chosen = self._chosen_moments()
        self._quantise(lambda moment: moment.id in chosen)

    def _quantise(self, wanted: Callable[[Held], bool]) -> None:
        document, value = self._document, self._settings.quantise
        if document.grid is None:
            self.message.emit(tr("This song has no bars to quantise to. Tap its tempo first."), False)
        elif not value:
            self.message.emit(tr("Choose a note value to quantise to in Play along (P)."), False)
        else:
            moments, strength, grid = document.stages.moments, self._settings.quantise_strength / 100.0, document.grid
            placed = tuple(
                quantised(m, value, strength, grid) if isinstance(m, Held) and wanted(m) else m for m in moments.placed
            )
            if placed != moments.placed:
                self._edit(tr("Quantise"), replace(document.stages, moments=replace(moments, placed=placed)))

    @command("import_take", "Import &a take …", menu="&Moments", group=1)
    def import_take(self) -> None:
        """Play a MIDI file on the version, by the map that is in use."""
        name, _ = QFileDialog.getOpenFileName(
            self._window, tr("Import a take"), "", tr("MIDI files ({0})").format(FILTER)
        )
        if name:
            self._import(resolved(name))

    def _import(self, path: Path) -> None:
        """Import in the background; once more where the version has changed meanwhile."""
        document, surface = self._document, self._surface()
        loaded, version, stages = document.loaded, document.version, document.stages
        if loaded is None or version is None:
            return

        def play(_: Task) -> Stages:
            from latespin.media.midi.midi_files import read_performance
            from latespin.render.playing.performance import TimedMessage, performed

            messages = [TimedMessage(seconds, message) for seconds, message in read_performance(path)]
            return performed(stages, loaded.readers, messages, surface, path.stem)

        def done(played: Stages) -> None:
            now = document.version
            if document.loaded is not loaded or now is None or now.id != version.id:
                self.message.emit(tr("{0} was not imported: another version is open now.").format(path.name), True)
            elif document.stages != stages:
                self._import(path)
            else:
                self._edit(tr("Import {0}").format(path.name), played)

        title = tr("Importing {0}").format(path.name)
        document.work.submit(Task(title, "take", play, done, lambda text: self.message.emit(text, True)))

    @command("export_take")
    def export_take(self) -> None:
        """Write the chosen take as a MIDI file."""
        loaded, chosen = self._document.loaded, self._takes.chosen
        take = next((take for take in self._document.stages.moments.takes if take.id in chosen), None)
        if loaded is None or take is None:
            return
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Export the take"), f"{take.name}.mid", tr("MIDI files ({0})").format(FILTER)
        )
        if not name:
            return
        from latespin.media.midi.midi_files import write_performance
        from latespin.render.playing.take_files import messages_of

        messages, missing = messages_of(self._document.stages, loaded.readers, self._surface(), take.id)
        try:
            write_performance(Path(name), messages, take.name, overwrite=True, sources=self._document.sources)
        except (LateSpinError, OSError) as error:
            self.message.emit(str(error), True)
            return
        if missing:
            says = tr(
                "{0} of the take’s moves and knobs are not in the file: this map has no pad or knob for them."
            ).format(missing)
            self.message.emit(says, False)
