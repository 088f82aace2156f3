"""Copy and paste a stage, the chosen effect or moments, between versions, songs and windows: as a recipe on the clipboard."""

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.controllers.moments import MomentController
from latespin.desktop.panels.effects_panel import EffectsPanel
from latespin.desktop.panels.moments_panel import named
from latespin.desktop.session.clipboard import EFFECT, PLACED, STAGE, moments_taken, put, taken
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.shell.commands.panel_commands import PanelCommands
from latespin.desktop.theme.theme import STAGE_TITLES
from latespin.desktop.translation import tr
from latespin.model.arranging.relocation import made_on
from latespin.model.documents.documents import PARTS, Recipe
from latespin.model.documents.version_edits import new_id
from latespin.model.effects.declaration import effect_title
from latespin.model.moments.endings import NoEnding
from latespin.model.moments.moments import Moments
from latespin.model.moments.moving import begun_at, has_length
from latespin.model.moments.together import moved_along
from latespin.model.version import Colour, Stages

EDIT, MOMENTS = "&Edit", "&Moments"


class ClipboardCommands(QObject):
    """Copies to and pastes from the clipboard, see :mod:`latespin.desktop.session.clipboard`."""

    message = Signal(str, bool)

    def __init__(
        self,
        document: Document,
        panels: PanelCommands,
        effects: EffectsPanel,
        moments: MomentController,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._moments = moments
        self._document, self._panels, self._effects = document, panels, effects

    @command("copy_stage", "Copy the &stage", menu=EDIT, keys="Ctrl+Shift+C", group=1)
    def copy_stage(self) -> None:
        """Copy the stage whose panel is open."""
        part = self._panels.panel
        if part not in PARTS:
            self.message.emit(tr("Open the panel of a stage first: beats and bars belong to the song."), False)
            return
        stage = getattr(self._document.stages, part)
        put(STAGE, part, replace(Stages(), **{part: stage}), self._document.layout)
        self.message.emit(
            tr("Copied: {0}. Ctrl+Shift+V puts it into another version.").format(tr(STAGE_TITLES[part])), False
        )

    @command("copy_effect", "Copy the &effect", menu=EDIT, keys="Ctrl+Alt+C", group=1)
    def copy_effect(self) -> None:
        """Copy the chosen effect."""
        effect = self._document.stages.colour.find(self._effects.chosen)
        if effect is None:
            self.message.emit(tr("There is no effect to copy. Choose one in the Effects panel."), False)
            return
        put(EFFECT, "colour", Stages(colour=Colour(effects=(effect,))), self._document.layout)
        title = tr(effect_title(effect))
        self.message.emit(tr("Copied: {0}. Ctrl+Shift+V adds it to a version.").format(title), False)

    @command("paste_stage", "&Paste the stage or effect", menu=EDIT, keys="Ctrl+Shift+V", group=1)
    def paste_stage(self) -> None:
        """Replace the stage by the copied one, or add the copied effect."""
        recipe = self._copied()
        if recipe is None:
            self.message.emit(tr("No stage was copied yet. Ctrl+Shift+C copies the one whose panel is open."), False)
            return
        part, stages = recipe.parts[0], recipe.on(self._document.layout).stages
        if recipe.name == EFFECT:
            self._add_effects(stages.colour)
        else:
            pasted = replace(self._document.stages, **{part: getattr(self._here(recipe, stages), part)})
            self._document.edit_stages(tr("Paste {0}").format(tr(STAGE_TITLES[part])), pasted)
        self._panels.opened.emit(part)

    @command("copy", "C&opy the moments", menu=MOMENTS, keys="Ctrl+C")
    def copy_moments(self) -> None:
        """Copy the chosen moments, to put them elsewhere."""
        chosen = self._moments.all_chosen
        if chosen:
            put(PLACED, "moments", Stages(moments=Moments(placed=tuple(chosen))), self._document.layout)
            self.message.emit(tr("Copied: {0}. Ctrl+V puts it at the playhead.").format(named(chosen)), False)

    @command("paste", "Pas&te them here", menu=MOMENTS, keys="Ctrl+V")
    def paste_moments(self) -> None:
        """The copied moments once more, the first at the marked range or the beat nearest to the playhead."""
        copied, grid = moments_taken(self._document.grid), self._document.grid
        if not copied:
            self.message.emit(tr("No moment was copied yet. Ctrl+C copies the chosen ones."), False)
            return
        lead, start = copied[0], self._moments.where(1.0)[0]
        if not all(has_length(moment, grid) for moment in copied):
            self.message.emit(tr("On these beats the copied moment has no length. Set the length of the copy."), False)
        moved = moved_along(copied, lead, begun_at(lead, start, grid), grid)
        pasted = [replace(moment, id=new_id()) for moment in moved]
        self._moments.choose_next(pasted)
        self._moments.edit_step(
            tr("Paste {0}").format(named(pasted)), self._document.stages.moments.with_all_changed(pasted)
        )
        self._moments.panel_wanted.emit("moments")

    def _copied(self) -> Recipe | None:
        recipe, left_out = taken()
        if left_out:
            self.message.emit(" ".join(left_out), True)
        return recipe if recipe and recipe.name != PLACED and self._document.session.chosen else None

    def _here(self, recipe: Recipe, stages: Stages) -> Stages:
        """On another song an ending looks for its place anew."""
        layout, way = self._document.layout, stages.ending.way
        if layout is None or isinstance(way, NoEnding) or recipe.made_on == made_on(layout):
            return stages
        return replace(stages, ending=replace(stages.ending, way=replace(way, at=None)))

    def _add_effects(self, copied: Colour) -> None:
        colour = self._document.stages.colour
        effects = tuple(replace(effect, id=new_id()) for effect in copied.effects)
        if not effects:
            return
        self._effects.chosen = effects[-1].id
        added = replace(colour, on=True, effects=(*colour.effects, *effects))
        label = tr("Paste {0}").format(tr(effect_title(effects[-1])))
        self._document.edit_stages(label, replace(self._document.stages, colour=added))
