"""Recipes: browse and preview them, apply all or some of their stages, or keep a version as your own."""

from collections.abc import Sequence

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.theme.theme import BOLD, STAGE_TITLES, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, WarningLabel, command_button, quiet_label
from latespin.model.documents.documents import PARTS, Part, Recipe
from latespin.model.text.describe import say_colour, say_ending, say_level, say_moments, say_time
from latespin.model.timing.positions import Layout
from latespin.model.version import Stages


class RecipeDialog(QDialog):
    """``wanted`` names what a button asks for; ``heard`` carries the stages to try, or None for the version as it is.

    marked : a recipe's name, and whether it is a favourite.  noted : a recipe's name, and the note on it.
    """

    wanted = Signal(str)
    heard = Signal(object)
    marked = Signal(str, bool)
    noted = Signal(str, str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._favourites: frozenset[str] = frozenset()
        self._notes: dict[str, str] = {}
        self.setWindowTitle(tr("Recipes"))
        self.resize(820, 560)
        self.recipes: list[Recipe] = []
        self._own: frozenset[str] = frozenset()
        self._stages = Stages()
        self._layout: Layout | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        pages = {
            "use": ("Use a recipe", "Browse the recipes there are."),
            "keep": ("Keep this version as a recipe", "Make a recipe of it."),
        }
        self.turn = SegmentedButton("Recipes", pages, "after")
        self.turn.chosen.connect(lambda key: self.turn_to(list(pages).index(key)))
        column.addWidget(self.turn, 0, Qt.AlignmentFlag.AlignLeft)
        self._pages = QStackedWidget()
        self._pages.addWidget(self._browse_page())
        self._pages.addWidget(self._keep_page())
        column.addWidget(self._pages, 1)
        self.turn_to(0)

    def turn_to(self, page: int) -> None:
        """Show a page: 0 to use one, 1 to keep the version as one."""
        self.turn.choose(("use", "keep")[page])
        self._pages.setCurrentIndex(page)

    def _browse_page(self) -> QWidget:
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(0, 8, 0, 0)
        row.setSpacing(16)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Recipes"))
        self.list.currentRowChanged.connect(self._show_chosen)
        row.addWidget(self.list, 2)
        right = QVBoxLayout()
        right.setSpacing(8)
        self._add_head(right)
        right.addSpacing(6)
        right.addWidget(quiet_label(tr("Stages of it to use"), 12))
        self.parts = {part: QCheckBox() for part in PARTS}
        for part, box in self.parts.items():
            box.setToolTip(
                tr("Whether {0} is taken from the recipe; otherwise it stays as the version has it.").format(
                    tr(STAGE_TITLES[part])
                )
            )
            box.toggled.connect(lambda _: self._try_again())
            right.addWidget(box)
        right.addStretch()
        self.hear = QPushButton(tr("Play it on this song"))
        self.hear.setCheckable(True)
        self.hear.setToolTip(
            tr("Play the version as the recipe would make it, at the same place and loudness; nothing is changed yet.")
        )
        self.hear.setAutoDefault(False)
        self.hear.toggled.connect(self._hear)
        right.addWidget(self.hear)
        self.buttons: dict[str, QPushButton] = {}
        for names in (("apply_recipe", "new_from_recipe"), ("import_recipe", "export_recipe", "delete_recipe")):
            line = QHBoxLayout()
            for name in names:
                line.addWidget(self._button(name))
            right.addLayout(line)
        row.addLayout(right, 3)
        return page

    def _add_head(self, right: QVBoxLayout) -> None:
        """The recipe's title and sentence, the mark of a favourite, and the note."""
        self._title, self._summary = QLabel(), QLabel()
        self._title.setFont(font(17, BOLD))
        self._summary.setWordWrap(True)
        head = QHBoxLayout()
        self.favourite = QPushButton(tr("☆ Favourite"))
        self.favourite.setCheckable(True)
        self.favourite.setAutoDefault(False)
        self.favourite.setToolTip(tr("Favourites come first in the list and in the menu of new versions."))
        self.favourite.clicked.connect(self._mark)
        head.addWidget(self._title)
        head.addStretch()
        head.addWidget(self.favourite)
        right.addLayout(head)
        right.addWidget(self._summary)
        self.note = QLineEdit()
        self.note.setPlaceholderText(tr("Note"))
        self.note.setAccessibleName(tr("Note on the recipe"))
        self.note.setToolTip(tr("A note of yours on this recipe, kept on this computer."))
        self.note.editingFinished.connect(self._take_note)
        right.addWidget(self.note)

    def _button(self, name: str) -> QPushButton:
        text, tip = {
            "apply_recipe": (
                "Use on this version",
                "Put the ticked stages of the recipe into the version; undo takes it back.",
            ),
            "new_from_recipe": ("New version with it", "Add a version made by the recipe alone."),
            "import_recipe": ("Import …", "Take a recipe from a file among your own."),
            "export_recipe": ("Export …", "Write the recipe to a file, for others."),
            "delete_recipe": ("Delete", "Delete the recipe, where it is your own."),
            "save_recipe": ("Keep recipe", "Keep it among your own recipes."),
        }[name]
        button = self.buttons[name] = command_button(name, text, tip, self.wanted)
        button.setAutoDefault(name == "apply_recipe")
        button.setDefault(name == "apply_recipe")
        return button

    def _keep_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(8)
        self.name, self.sentence = QLineEdit(), QLineEdit()
        for title, line in (("Name", self.name), ("In a sentence", self.sentence)):
            column.addWidget(quiet_label(tr(title), 12))
            line.setAccessibleName(tr(title))
            column.addWidget(line)
        column.addWidget(quiet_label(tr("Stages to keep"), 12))
        self.kept = {part: QCheckBox() for part in PARTS}
        for box in self.kept.values():
            box.setChecked(True)
            column.addWidget(box)
        note = quiet_label(
            tr(
                "An ending is kept without its bar: on any song it is placed at the last strong bar line. Moments stay on the bars they are on."
            ),
            12,
        )
        note.setWordWrap(True)
        column.addWidget(note)
        self.problem = WarningLabel()
        column.addWidget(self.problem)
        column.addStretch()
        column.addWidget(self._button("save_recipe"), 0, Qt.AlignmentFlag.AlignRight)
        return page

    # -- shown ----------------------------------------------------------------------------------------------------

    def offer(
        self, own: list[Recipe], shipped: Sequence[Recipe], favourites: Sequence[str], notes: dict[str, str]
    ) -> None:
        """Show the recipes there are, favourites first, with the notes on them by name."""
        chosen = self.chosen.name if self.chosen else ""
        self._favourites, self._notes = frozenset(favourites), notes
        self.recipes = sorted([*own, *shipped], key=lambda recipe: recipe.name not in self._favourites)
        self._own = frozenset(recipe.name for recipe in own)
        self.list.blockSignals(True)
        self.list.clear()
        for recipe in self.recipes:
            title = tr("{0}  ·  yours").format(recipe.title) if recipe.name in self._own else tr(recipe.title)
            item = QListWidgetItem(f"★ {title}" if recipe.name in self._favourites else title)
            item.setToolTip("\n".join(text for text in (tr(recipe.summary), notes.get(recipe.name, "")) if text))
            self.list.addItem(item)
        self.list.blockSignals(False)
        names = [recipe.name for recipe in self.recipes]
        self.list.setCurrentRow(names.index(chosen) if chosen in names else 0)
        self._show_chosen()

    def show_version(self, name: str, stages: Stages, layout: Layout | None) -> None:
        """Say what the version that is worked on would be kept as."""
        self._stages, self._layout = stages, layout
        if not self.name.text():
            self.name.setText(name)
        for part, box in self.kept.items():
            box.setText(f"{tr(STAGE_TITLES[part])}:  {say_stage(part, stages, layout)}")

    @property
    def chosen(self) -> Recipe | None:
        """The recipe chosen in the list."""
        row = self.list.currentRow()
        return self.recipes[row] if 0 <= row < len(self.recipes) else None

    @property
    def chosen_is_own(self) -> bool:
        """Whether it is the user's own."""
        return self.chosen is not None and self.chosen.name in self._own

    def ticked(self, boxes: "dict[Part, QCheckBox]") -> "tuple[Part, ...]":
        """Stages that are ticked (and can be)."""
        return tuple(part for part, box in boxes.items() if box.isChecked() and box.isEnabled())

    def tried(self) -> Stages | None:
        """The version as the chosen recipe would make it."""
        from latespin.render.recipes import applied

        return applied(self.chosen.on(self._layout), self._stages, self.ticked(self.parts)) if self.chosen else None

    def _show_chosen(self) -> None:
        recipe = self.chosen
        if recipe is None:
            return
        self._title.setText(tr(recipe.title))
        self._summary.setText(tr(recipe.summary))
        favourite = recipe.name in self._favourites
        self.favourite.setChecked(favourite)
        self.favourite.setText(tr("★ Favourite") if favourite else tr("☆ Favourite"))
        self.note.setText(self._notes.get(recipe.name, ""))
        for part, box in self.parts.items():
            box.blockSignals(True)
            box.setEnabled(part in recipe.parts)
            box.setChecked(part in recipe.parts)
            text = say_stage(part, recipe.stages, self._layout) if part in recipe.parts else tr("not in this recipe")
            box.setText(f"{tr(STAGE_TITLES[part])}:  {text}")
            box.blockSignals(False)
        self.buttons["delete_recipe"].setEnabled(self.chosen_is_own)
        self._try_again()

    def _mark(self, on: bool) -> None:
        if self.chosen is not None:
            self.marked.emit(self.chosen.name, on)

    def _take_note(self) -> None:
        if self.chosen is not None and self.note.isModified():
            self.note.setModified(False)
            self.noted.emit(self.chosen.name, self.note.text())

    def _hear(self, on: bool) -> None:
        self.hear.setText(tr("Play the version as it is") if on else tr("Play it on this song"))
        self.heard.emit(self.tried() if on else None)

    def _try_again(self) -> None:
        if self.hear.isChecked():
            self.heard.emit(self.tried())

    def closeEvent(self, event: QCloseEvent) -> None:
        self.hear.setChecked(False)
        super().closeEvent(event)

    def reject(self) -> None:
        """Escape closes it too, and the version is heard as it is again."""
        self.hear.setChecked(False)
        super().reject()


def say_stage(part: str, stages: Stages, layout: Layout | None) -> str:
    """Describe a stage in words."""
    if part == "ending":
        return say_ending(replace(stages.ending), layout)
    says = {"time": say_time, "colour": say_colour, "moments": say_moments, "level": say_level}[part]
    return str(says(getattr(stages, part)))  # type: ignore[operator]
