"""Undo, and what can be done with versions as a whole."""

from dataclasses import dataclass

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QInputDialog, QWidget

from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.version_list import VersionList
from latespin.desktop.theme.theme import STAGE_TITLES
from latespin.desktop.translation import tr
from latespin.model.documents.version_edits import with_changed
from latespin.model.version import UNTOUCHED, Stages

EDIT, VERSION = "&Edit", "&Version"


@dataclass(frozen=True)
class Trial:
    """A recipe that is being tried, and the version it is tried as."""

    ident: str
    recipe: str
    stages: Stages


class VersionCommands(QObject):
    """The Edit and Version menus, and trying recipes. hear_wanted : After is to be played."""

    hear_wanted = Signal()

    def __init__(self, document: Document, version_list: VersionList, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._list, self._settings = document, version_list, settings
        self._trial: Trial | None = None
        version_list.strip.tried.connect(self.try_recipe)
        version_list.strip.kept.connect(self.keep_trial)
        document.session_changed.connect(self._follow_trial)
        document.track_changed.connect(self.keep_trial)

    def add(self, recipe: str) -> None:
        """Add a version made from a recipe, or an unprocessed one for an empty name."""
        if not recipe:
            level = replace(UNTOUCHED.level, on=True)
            self._document.add_version(tr("As it is"), replace(UNTOUCHED, level=level))
            return
        from latespin.render.recipes import find_recipe

        found = find_recipe(recipe)
        self._document.add_version(found.title, found.on(self._document.layout).stages)

    def try_recipe(self, name: str) -> None:
        """Play a recipe on the song, as a version that the next one tried takes the place of until it is kept or changed."""
        from latespin.render.recipes import find_recipe

        document, found = self._document, find_recipe(name)
        stages, trial = found.on(document.layout).stages, self._trial
        kept = document.session.version(trial.ident) if trial is not None else None
        self._trial = None  # what follows is not for it
        if kept is None:
            document.add_version(found.title, stages)
            ident = document.session.chosen
        else:
            ident = kept.id
            label = tr("Try {0}").format(found.title)
            changed = with_changed(document.session, replace(kept, name=found.title, stages=stages))
            document.edit_session(label, replace(changed, chosen=ident), f"trial {ident}")
        self._trial = Trial(ident, name, stages)
        self._list.strip.show_trying(name)
        self.hear_wanted.emit()

    def keep_trial(self) -> None:
        """What is being tried is a version like others from now on."""
        self._trial = None
        self._list.strip.show_trying("")

    def _follow_trial(self) -> None:
        """A trial that was changed, renamed away or left for another version is kept; one that was undone is gone."""
        trial = self._trial
        if trial is not None:
            version = self._document.session.version(trial.ident)
            if version is None or version.stages != trial.stages or self._document.session.chosen != trial.ident:
                self.keep_trial()

    def offer_recipes(self) -> None:
        """List the recipes in the menu of new versions."""
        from latespin.render.recipes import all_recipes

        favourites = self._settings.favourite_recipes
        recipes = sorted(all_recipes(), key=lambda recipe: recipe.name not in favourites)
        self._list.offer_recipes(
            [(r.name, f"★ {r.title}" if r.name in favourites else r.title, r.summary) for r in recipes]
        )

    def switch_stage(self, name: str, on: bool) -> None:
        """Switch a stage of the chosen version on or off."""
        stages = self._document.stages
        stage = replace(getattr(stages, name), on=on)
        self._document.edit_stages(
            tr("Switch {0} on" if on else "Switch {0} off").format(tr(STAGE_TITLES[name])),
            replace(stages, **{name: stage}),
        )

    @command("undo", "&Undo", menu=EDIT, keys="Ctrl+Z")
    def undo(self) -> None:
        """One step back."""
        self._document.undo()

    @command("redo", "&Redo", menu=EDIT, keys="Ctrl+Shift+Z|Ctrl+Y")
    def redo(self) -> None:
        """One step forward."""
        self._document.redo()

    @command("duplicate", "&Duplicate", menu=VERSION, keys="Ctrl+D")
    def duplicate(self) -> None:
        """Copy the chosen version."""
        self._document.duplicate_version()

    @command("rename", "&Rename", menu=VERSION, keys="F2")
    def rename(self) -> None:
        """Type another name on the chosen version's card."""
        card = self._list.cards.get(self._document.session.chosen)
        if card:
            card.rename()

    @command("favourite", "Mark as a &favourite, or not", menu=VERSION, keys="Ctrl+M")
    def toggle_favourite(self) -> None:
        """Mark the chosen version as a favourite, or take the mark away."""
        version = self._document.version
        if version is not None:
            self._document.favour_version(version.id, not version.favourite)

    @command("note", "&Note …", menu=VERSION, keys="Ctrl+Shift+N")
    def write_note(self) -> None:
        """Write a note to the chosen version."""
        version = self._document.version
        if version is None:
            return
        title, label = (
            tr("Note to “{0}”").format(version.name),
            tr("It is kept in the session and shown on the version’s card:"),
        )
        text, accepted = QInputDialog.getMultiLineText(self._list, title, label, version.note)
        if accepted:
            self._document.note_version(version.id, text)

    @command("move_up", "Move &up", menu=VERSION, keys="Ctrl+Up", group=2)
    def move_up(self) -> None:
        """Move the chosen version up the list."""
        self._document.move_version(self._document.session.chosen, -1)

    @command("move_down", "Move do&wn", menu=VERSION, keys="Ctrl+Down", group=2)
    def move_down(self) -> None:
        """Move the chosen version down the list."""
        self._document.move_version(self._document.session.chosen, 1)

    @command("delete", "De&lete", menu=VERSION, keys="Ctrl+Backspace", group=3)
    def delete(self) -> None:
        """Delete the chosen version; undo brings it back."""
        self._document.delete_version(self._document.session.chosen)
