"""Undo, and what can be done with versions as a whole."""

from msgspec.structs import replace
from PySide6.QtCore import QObject
from PySide6.QtWidgets import QInputDialog, QWidget

from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.version_list import VersionList
from latespin.desktop.theme.theme import STAGE_TITLES
from latespin.desktop.translation import tr
from latespin.model.version import UNTOUCHED

EDIT, VERSION = "&Edit", "&Version"


class VersionCommands(QObject):
    """The Edit and Version menus."""

    def __init__(self, document: Document, version_list: VersionList, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._list, self._settings = document, version_list, settings

    def add(self, recipe: str) -> None:
        """Add a version made from a recipe, or an unprocessed one for an empty name."""
        if not recipe:
            level = replace(UNTOUCHED.level, on=True)
            self._document.add_version(tr("As it is"), replace(UNTOUCHED, level=level))
            return
        from latespin.render.recipes import find_recipe

        found = find_recipe(recipe)
        self._document.add_version(found.title, found.on(self._document.layout).stages)

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
