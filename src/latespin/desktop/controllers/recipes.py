"""Recipes: applying, keeping, importing, exporting and previewing them."""

from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from latespin.desktop.dialogs.recipes import RecipeDialog
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings, save_settings
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError

FILES = "Recipes (*.json)"


class RecipeController(QObject):
    """``tried`` carries stages to be heard in place of the version's, or None; ``listed`` that there are other recipes now."""

    message = Signal(str, bool)
    tried = Signal(object)
    listed = Signal()

    def __init__(self, document: Document, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._settings, self._window = document, settings, parent
        self.dialog: RecipeDialog | None = None
        document.session_changed.connect(self._show_version)

    @command("recipes", "R&ecipes …", menu="&Version", keys="Ctrl+R", group=1)
    def open_recipes(self) -> None:
        """Show the recipes."""
        self.open()

    @command("keep_recipe", "&Keep as a recipe …", menu="&Version", group=1)
    def open_keeping(self) -> None:
        """Show the page that keeps the chosen version as a recipe."""
        self.open(1)

    def open(self, page: int = 0) -> None:
        """Show the dialog."""
        if self.dialog is None:
            self.dialog = RecipeDialog(self._window)
            self.dialog.wanted.connect(lambda name: run(self, name))
            self.dialog.heard.connect(self.tried)
            self.dialog.marked.connect(self._mark)
            self.dialog.noted.connect(self._note)
        self._list()
        self._show_version()
        self.dialog.turn_to(page)
        self.dialog.show()
        self.dialog.raise_()

    def _list(self) -> None:
        from latespin.render.recipes import own_recipes, shipped_recipes

        if self.dialog is not None:
            marks = self._settings.favourite_recipes, self._settings.recipe_notes
            self.dialog.offer(own_recipes(), shipped_recipes(), *marks)

    def _mark(self, name: str, favourite: bool) -> None:
        """A recipe is a favourite, or no longer."""
        self._settings.mark_recipe(name, favourite=favourite)
        self._keep_marks()

    def _note(self, name: str, note: str) -> None:
        self._settings.note_recipe(name, note)
        self._keep_marks()

    def _keep_marks(self) -> None:
        save_settings(self._settings)
        self._list()
        self.listed.emit()

    def _show_version(self) -> None:
        version = self._document.version
        if self.dialog is not None and version is not None:
            self.dialog.show_version(version.name, version.stages, self._document.layout)

    @command("apply_recipe")
    def apply(self) -> None:
        dialog = self.dialog
        assert dialog is not None
        stages, recipe = dialog.tried(), dialog.chosen
        if stages is not None and recipe is not None:
            dialog.hear.setChecked(False)
            self._document.edit_stages(tr("Recipe {0}").format(recipe.title), stages)

    @command("new_from_recipe")
    def add_version(self) -> None:
        dialog = self.dialog
        assert dialog is not None
        if dialog.chosen is not None:
            dialog.hear.setChecked(False)
            self._document.add_version(dialog.chosen.title, dialog.chosen.on(self._document.layout).stages)

    @command("save_recipe")
    def keep(self) -> None:
        from latespin.render.recipes import keep_recipe, own_recipes, recipe_of, shipped_recipes

        dialog = self.dialog
        assert dialog is not None
        try:
            recipe = recipe_of(
                self._document.stages,
                dialog.name.text(),
                dialog.sentence.text(),
                dialog.ticked(dialog.kept),
                self._document.layout,
            )
            taken = {other.name for other in own_recipes()}
            if recipe.name in {other.name for other in shipped_recipes()}:
                recipe = replace(recipe, name=f"{recipe.name}-own")
            if recipe.name in taken and not self._may_replace(recipe.title):
                return
            keep_recipe(recipe, overwrite=True)
        except LateSpinError as error:
            dialog.problem.say(str(error))
            return
        dialog.problem.say("")
        self._list()
        self.listed.emit()
        self.message.emit(
            tr("The recipe “{0}” is kept. On the command line it is called {1}.").format(recipe.title, recipe.name),
            False,
        )

    def _may_replace(self, title: str) -> bool:
        question = tr("There is a recipe “{0}” of yours already. Replace it?").format(title)
        return QMessageBox.question(self._window, tr("Replace the recipe"), question) == QMessageBox.StandardButton.Yes

    @command("import_recipe")
    def import_recipe(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self._window, tr("Import a recipe"), "", FILES)
        if name:
            self.import_file(Path(name))

    def import_file(self, path: Path) -> None:
        """Take a recipe from a file among the user's own."""
        from latespin.render.recipes import keep_recipe, own_recipes, read_file

        try:
            recipe, faults = read_file(path)
            names = {other.name for other in own_recipes()}
            free = next(n for n in (recipe.name, *(f"{recipe.name}-{i}" for i in range(2, 1000))) if n not in names)
            keep_recipe(replace(recipe, name=free))
        except LateSpinError as error:
            self.message.emit(str(error), True)
            return
        self._list()
        self.listed.emit()
        self.message.emit(
            " ".join(faults) or tr("The recipe “{0}” is among your own now.").format(recipe.title), bool(faults)
        )

    @command("export_recipe")
    def export_recipe(self) -> None:
        dialog = self.dialog
        assert dialog is not None
        if dialog.chosen is None:
            return
        name, _ = QFileDialog.getSaveFileName(
            self._window, tr("Export the recipe"), f"{dialog.chosen.name}.json", FILES
        )
        if name:
            from latespin.media.files.atomic import write_bytes
            from latespin.model.documents.documents import to_json

            try:
                write_bytes(Path(name), to_json(dialog.chosen), overwrite=True, sources=self._document.session.files())
            except LateSpinError as error:
                self.message.emit(str(error), True)

    @command("delete_recipe")
    def drop(self) -> None:
        from latespin.render.recipes import drop_recipe

        dialog = self.dialog
        assert dialog is not None
        recipe = dialog.chosen
        if recipe is None or not dialog.chosen_is_own:
            return
        question = tr("Delete your recipe “{0}”? Versions made with it stay.").format(recipe.title)
        if QMessageBox.question(self._window, tr("Delete the recipe"), question) == QMessageBox.StandardButton.Yes:
            drop_recipe(recipe.name)
            self._list()
            self.listed.emit()
