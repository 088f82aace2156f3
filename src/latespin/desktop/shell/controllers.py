"""All controllers of a window, made and connected to one another."""

from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.controllers.automation import AutomationController
from latespin.desktop.controllers.autosave import AutosaveController
from latespin.desktop.controllers.batch import BatchController
from latespin.desktop.controllers.compare import CompareController
from latespin.desktop.controllers.effects import EffectController
from latespin.desktop.controllers.ending import EndingController
from latespin.desktop.controllers.level import LevelController
from latespin.desktop.controllers.moments import MomentController
from latespin.desktop.controllers.playing.playing_controller import PlayingController
from latespin.desktop.controllers.publishing.range_file import RangeFileController
from latespin.desktop.controllers.recipes import RecipeController
from latespin.desktop.controllers.results import ResultController
from latespin.desktop.controllers.song.beats import BeatsController
from latespin.desktop.controllers.song.markers import MarkerController
from latespin.desktop.controllers.song.sections import SectionController
from latespin.desktop.controllers.tempo import TempoController
from latespin.desktop.panels.panel_stack import PanelStack
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.commands.play_commands import PlayCommands

CLOCK_BPM = 0.15  # by which the version's tempo may differ from that of MIDI clock


class Controllers(QObject):
    """play : knows the playhead, the marked range and the player.

    wanted : a command that a panel's button asks for.  panel_wanted : the stage whose panel is to be shown.
    """

    wanted = Signal(str)
    panel_wanted = Signal(str)

    def __init__(
        self, document: Document, settings: Settings, view: WaveformView, panels: PanelStack, play: PlayCommands, parent: QWidget
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document = document
        place = play.place

        def marked() -> tuple[float, float] | None:
            return play.marked

        self.tempo = TempoController(document, view, panels.time, document.work, self)
        self.beats = BeatsController(document, view, panels.grid, place, parent)
        self.sections = SectionController(document, view, place, parent)
        self.moments = MomentController(document, view, panels.moments, place, marked, parent)
        self.markers = MarkerController(document, view, panels.moments, place, marked, parent)
        self.effects = EffectController(document, panels.colour, place, marked, parent)
        self.automation = AutomationController(document, view, panels.colour, place, marked, parent)
        self.ending = EndingController(document, view, panels.ending, parent)
        self.level = LevelController(document, panels.level, parent)
        self.results = ResultController(document, marked, parent)
        self.range_file = RangeFileController(document, settings, view, marked, parent)
        self.recipes = RecipeController(document, settings, parent)
        self.compare = CompareController(document, parent)
        self.batch = BatchController(document, settings, parent)
        self.playing = PlayingController(
            document, settings, panels.playing, lambda: play.player, self._chosen_moments, parent
        )
        self.autosave = AutosaveController(document, parent)
        self.beats.wanted.connect(self.wanted)
        self.markers.wanted.connect(self.wanted)
        self.moments.mark_wanted.connect(self.markers.mark)
        self.moments.panel_wanted.connect(self.panel_wanted)
        self.markers.panel_wanted.connect(self.panel_wanted)
        self.effects.chosen_changed.connect(self.automation.show)

    def _chosen_moments(self) -> set[str]:
        return {moment.id for moment in self.moments.all_chosen}

    def _follow_clock(self, bpm: float) -> None:
        """Bring the version to the tempo of MIDI clock, unless it is there."""
        grid, stages = self._document.grid, self._document.stages
        if grid is not None and abs(grid.bpm * stages.time.heard.speed - bpm) > CLOCK_BPM:
            self.results.ask("tempo", f"{bpm:g} BPM")

    def connect_play(self, play: PlayCommands) -> None:
        """Connect what the controllers want to be heard."""
        self.tempo.passage_found.connect(play.loop_and_play)
        self.tempo.seek_wanted.connect(play.seek)
        self.moments.audition_wanted.connect(play.loop_and_play)
        self.moments.seek_wanted.connect(play.seek)
        self.markers.seek_wanted.connect(lambda seconds: play.seek("before", seconds))
        self.effects.audition_wanted.connect(play.audition)
        self.effects.keys_wanted.connect(play.set_keys)
        self.sections.range_wanted.connect(play.mark)
        self.ending.audition_wanted.connect(play.play_from)
        self.recipes.tried.connect(play.try_stages)
        self.compare.wanted.connect(play.compare)
        self.compare.play_wanted.connect(play.play)
        self.playing.side_wanted.connect(play.set_side)
        self.playing.surfaces.tempo_followed.connect(self._follow_clock)

    def close(self) -> None:
        """The window closes."""
        self.playing.close()
        self.autosave.close()

    def show_panel(self, name: str) -> None:
        """Tell those that draw on the waveforms which stage's panel is shown."""
        self.tempo.show_curve(name)
        self.beats.edit(name == "grid")
        self.moments.edit(name == "moments")
        self.ending.edit(name == "ending")
        self.automation.edit(name == "colour")
        self.level.edit(name == "level")
        self.playing.edit(name == "playing")

    @property
    def sources(self) -> tuple[Any, ...]:
        """Those with commands in the menus."""
        return (
            self.tempo,
            self.beats,
            self.sections,
            self.moments,
            self.markers,
            self.recipes,
            self.compare,
            self.playing,
            self.playing.takes,
            self.batch,
        )

    @property
    def speaking(self) -> tuple[Any, ...]:
        """Those with messages for the user."""
        return (
            self.tempo, self.beats, self.sections, self.moments, self.markers, self.effects, self.automation, self.ending, self.level, self.recipes,
            self.compare, self.playing, self.batch, self.range_file,
        )  # fmt: skip
