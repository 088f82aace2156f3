"""Files saved by earlier releases open as they did: ``tests/golden`` holds them beside what each becomes when it is saved again."""

import re
from pathlib import Path

import pytest

from latespin.model.documents.documents import FORMAT_VERSION, read_recipe, read_session, to_json

GOLDEN = Path(__file__).parent.parent / "golden"
FILES = sorted(path for path in GOLDEN.rglob("*-format-*") if path.is_file())


def saved_again(path: Path) -> Path:
    """Where a file is in the present format."""
    name = re.sub(r"(-as)?-format-\d+", "", path.stem)
    return path.with_name(f"{name}-as-format-{FORMAT_VERSION}{path.suffix}")


@pytest.mark.parametrize("path", FILES, ids=lambda path: path.stem)
def test_files_of_every_format_open_with_every_value(path: Path) -> None:
    """Those in the present format are saved as they were."""
    read = read_session if path.suffix == ".latespin" else read_recipe
    assert to_json(read(path.read_bytes(), path.name)).decode() == saved_again(path).read_text()


def test_there_is_every_format_and_every_recipe_of_earlier_releases() -> None:
    formats = {int(path.stem.rsplit("-", 1)[1]) for path in FILES}
    assert formats == set(range(1, FORMAT_VERSION + 1))
    assert len({saved_again(path) for path in FILES if path.suffix == ".json"}) == 13
