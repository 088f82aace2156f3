"""The recipes that ship with Late Spin, the user's own, and those in files."""

import re
from collections.abc import Sequence
from functools import lru_cache
from importlib import resources
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from latespin.errors import Unreadable, Unusable, shortened
from latespin.language import tr
from latespin.media.files.atomic import write_bytes
from latespin.media.files.regular import all_readable, read_regular
from latespin.media.storage.autosave import data_folder
from latespin.model.arranging.relocation import is_placed, made_on
from latespin.model.documents.documents import MOST_RECIPE_BYTES, PARTS, Recipe, read_recipe, read_what_can_be, to_json
from latespin.model.timing.positions import Layout
from latespin.model.version import Stages
from latespin.paths import is_file

EARLIER_NAMES = {"orbit-8d": "8d-spin"}  # of recipes that ship under another name now


@lru_cache(maxsize=1)
def shipped_recipes() -> tuple[Recipe, ...]:
    """All shipped recipes, by name."""
    folder = resources.files("latespin") / "recipes"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".json")), key=lambda f: f.name)
    return tuple(read_recipe(file.read_bytes(), file.name) for file in files)


def recipe_folder() -> Path:
    """Folder of the user's own recipes; it may not exist yet."""
    return data_folder() / "recipes"


def own_recipes() -> list[Recipe]:
    """The user's own recipes, by title; files that are none are passed over."""
    found = (recipe for recipe, _ in all_readable(recipe_folder(), read_file))
    return sorted(found, key=lambda recipe: recipe.title.casefold())


def all_recipes() -> list[Recipe]:
    """The user's own, then those that ship."""
    return [*own_recipes(), *shipped_recipes()]


def find_recipe(name: str) -> Recipe:
    """A recipe by its name, or one from a ``.json`` file, whatever is wrong with its effects left out. Raises Unreadable."""
    return load_recipe(name)[0]


def load_recipe(name: str) -> tuple[Recipe, tuple[str, ...]]:
    """Like :func:`find_recipe`, with notes on everything left out."""
    if name.lower().endswith(".json"):
        return read_file(Path(name))
    own = recipe_folder() / f"{name}.json"
    if own.name == f"{name}.json" and is_file(own):
        return read_file(own)
    name = EARLIER_NAMES.get(name, name)
    for recipe in shipped_recipes():
        if recipe.name == name:
            return recipe, ()
    known = ", ".join(recipe.name for recipe in all_recipes())
    raise Unreadable(tr("There is no recipe “{0}”. Use one of {1}, or a .json file.").format(shortened(name), known))


def read_file(path: Path) -> tuple[Recipe, tuple[str, ...]]:
    """A recipe from a file, with notes on everything left out. Raises Unreadable."""
    return read_what_can_be(read_regular(path, MOST_RECIPE_BYTES), shortened(path))


def recipe_of(
    stages: Stages, title: str, summary: str = "", parts: Sequence[str] = PARTS, layout: Layout | None = None
) -> Recipe:
    """A recipe from a version on a song of that layout: of the chosen stages, its ending at the last strong bar line of whatever song it is used on."""
    if not title.strip():
        raise Unusable(tr("A recipe needs a name."))
    kept = Stages(**{part: getattr(stages, part) for part in parts})
    if "ending" in parts and hasattr(kept.ending.way, "at"):
        kept = replace(kept, ending=replace(kept.ending, way=replace(kept.ending.way, at=None)))
    ordered = tuple(part for part in PARTS if part in parts)
    return Recipe(
        name=_name_of(title), title=title.strip(), summary=summary.strip(), parts=ordered, stages=kept,
        made_on=made_on(layout) if layout else None,
    )  # fmt: skip


def _name_of(title: str) -> str:
    """A name that a file can have and a command line takes: small letters, digits and hyphens."""
    name = re.sub(r"[^\w]+", "-", title.strip().casefold()).strip("-_")
    return name[:60] or "recipe"


def keep_recipe(recipe: Recipe, *, overwrite: bool = False) -> Path:
    """Keep a recipe among the user's own; returns its file. Raises Unwritable where there is one of that name, unless it may be replaced."""
    folder = recipe_folder()
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{recipe.name}.json"
    write_bytes(file, to_json(recipe), overwrite=overwrite, sources=())
    return file


def drop_recipe(name: str) -> None:
    """Throw one of the user's own recipes away."""
    (recipe_folder() / f"{name}.json").unlink(missing_ok=True)


def applied(recipe: Recipe, stages: Stages, parts: Sequence[str] | None = None) -> Stages:
    """A version's stages, replaced by those of a recipe: all of them, or those named."""
    wanted = [part for part in recipe.parts if parts is None or part in parts]
    return replace(stages, **{part: getattr(recipe.stages, part) for part in wanted})


def load_recipes(names: Sequence[str]) -> tuple[Recipe, tuple[str, ...]]:
    """Recipes laid over one another, the first at the bottom, with notes on everything left out. Raises Unreadable, Unusable."""
    recipes, faults = zip(*map(load_recipe, names), strict=True)
    made, (whole, *more) = {recipe.made_on for recipe in recipes if is_placed(recipe.stages)} - {None}, recipes
    if len(made) > 1:
        raise Unusable(tr("These recipes have moments placed on different songs. Use one of them at a time."))
    for recipe in more:
        whole = replace(whole, stages=laid_over(whole.stages, recipe), title=f"{whole.title} + {recipe.title}")
    return replace(whole, made_on=next(iter(made), None)), tuple(fault for each in faults for fault in each)


def laid_over(below: Stages, recipe: Recipe) -> Stages:
    """Stages with a recipe over them: its effects and moments come after theirs, and its other stages replace theirs where it uses them."""
    above, plain = recipe.stages, Stages()
    used = [
        part for part in ("time", "ending", "level")
        if part in recipe.parts and getattr(above, part) != getattr(plain, part)
    ]  # fmt: skip
    changed: dict[str, Any] = {part: getattr(above, part) for part in used}
    if "colour" in recipe.parts and above.colour.heard:
        effects = (*below.colour.heard, *above.colour.heard)
        changed["colour"] = replace(above.colour, effects=_told_apart(effects, "effect"))
    if "moments" in recipe.parts and above.moments.heard:
        placed = (*below.moments.heard, *above.moments.heard)
        changed["moments"] = replace(above.moments, placed=_told_apart(placed, "moment"), takes=())
    return replace(below, **changed)


def _told_apart(things: Sequence[Any], word: str) -> tuple[Any, ...]:
    """The same with ids that differ."""
    return tuple(replace(thing, id=f"{word}-{number}") for number, thing in enumerate(things, 1))
