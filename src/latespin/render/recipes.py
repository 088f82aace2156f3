"""The recipes that ship with Late Spin, and those in files."""

from importlib import resources
from pathlib import Path

from latespin.errors import Unreadable
from latespin.model.documents import Recipe, read_recipe, read_what_can_be


def shipped_recipes() -> list[Recipe]:
    """All shipped recipes, by name."""
    folder = resources.files("latespin") / "recipes"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".json")), key=lambda f: f.name)
    return [read_recipe(file.read_bytes(), file.name) for file in files]


def find_recipe(name: str) -> Recipe:
    """A shipped recipe by its name, or one from a ``.json`` file, whatever is wrong with its colours left out. Raises Unreadable."""
    return load_recipe(name)[0]


def load_recipe(name: str) -> tuple[Recipe, tuple[str, ...]]:
    """As :func:`find_recipe`, and what was left out of it and why."""
    if name.lower().endswith(".json"):
        try:
            data = Path(name).read_bytes()
        except OSError as error:
            raise Unreadable(f"The recipe {name} could not be read: {error.strerror}.") from error
        return read_what_can_be(data, name)
    recipes = shipped_recipes()
    for recipe in recipes:
        if recipe.name == name:
            return recipe, ()
    known = ", ".join(recipe.name for recipe in recipes)
    raise Unreadable(f"There is no recipe “{name}”. Use one of {known}, or a .json file.")
