"""Files saved by earlier releases open as they did: ``tests/golden`` holds them beside what each becomes when it is saved again."""

from pathlib import Path

import pytest

from latespin.model.documents.documents import read_recipe, read_session, to_json

GOLDEN = Path(__file__).parent.parent / "golden"
SAVED_AGAIN = "as-format-3"
SESSIONS = [("oldest", 1), ("demo", 2)]
RECIPES = sorted(path.name.removesuffix("-format-2.json") for path in (GOLDEN / "recipes").glob("*-format-2.json"))


@pytest.mark.parametrize(("name", "version"), SESSIONS)
def test_sessions_of_every_format_open_with_every_value(name, version):
    session = read_session((GOLDEN / f"{name}-format-{version}.latespin").read_bytes(), name)
    assert to_json(session).decode() == (GOLDEN / f"{name}-{SAVED_AGAIN}.latespin").read_text()


@pytest.mark.parametrize("name", RECIPES)
def test_shipped_recipes_of_earlier_releases_open_with_every_value(name):
    recipe = read_recipe((GOLDEN / "recipes" / f"{name}-format-2.json").read_bytes(), name)
    assert to_json(recipe).decode() == (GOLDEN / "recipes" / f"{name}-{SAVED_AGAIN}.json").read_text()


@pytest.mark.parametrize(
    "path",
    [*GOLDEN.glob(f"*-{SAVED_AGAIN}.*"), *(GOLDEN / "recipes").glob(f"*-{SAVED_AGAIN}.json")],
    ids=lambda p: p.stem,
)
def test_files_in_the_present_format_are_saved_as_they_were(path):
    read = read_session if path.suffix == ".latespin" else read_recipe
    assert to_json(read(path.read_bytes(), path.name)) == path.read_bytes()


def test_there_are_thirteen_golden_recipes():
    assert len(RECIPES) == 13
