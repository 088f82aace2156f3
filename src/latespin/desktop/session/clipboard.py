"""The clipboard: the JSON of a recipe as text, which can be kept as a file.

A QMimeData of ours would crash the program when it ends: Qt destroys it after Python has gone.
"""

from PySide6.QtWidgets import QApplication

from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.arranging.relocation import made_on
from latespin.model.documents.documents import MOST_RECIPE_BYTES, Part, Recipe, read_what_can_be, to_json
from latespin.model.moments.moments import AnyMoment
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout
from latespin.model.version import Stages

STAGE, EFFECT, PLACED = "copied-stage", "copied-effect", "copied-moments"


def put(name: str, part: Part, stages: Stages, layout: Layout | None) -> None:
    """Copy what a stage holds. name : what it is, one of STAGE, EFFECT, PLACED."""
    made = made_on(layout) if layout else None
    recipe = Recipe(name=name, title=name, parts=(part,), stages=stages, made_on=made)
    QApplication.clipboard().setText(to_json(recipe).decode())


def moments_taken(grid: Grid | None) -> list[AnyMoment]:
    """The moments that were copied, in order of place."""
    recipe, _ = taken()
    placed = recipe.stages.moments.placed if recipe and recipe.name == PLACED else ()
    return sorted(placed, key=lambda moment: moment.start.at(grid))


def taken() -> tuple[Recipe | None, tuple[str, ...]]:
    """What was copied, None where it was nothing of ours; and why parts of it are left out."""
    text = QApplication.clipboard().text()
    if len(text) > MOST_RECIPE_BYTES:
        return None, ()
    try:
        recipe, left_out = read_what_can_be(text.encode("utf-8", "replace"), tr("The clipboard"))
    except LateSpinError:
        return None, ()
    return (recipe if len(recipe.parts) == 1 else None), left_out
