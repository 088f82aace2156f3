"""Benches and tools are run seldom: what they import of the program must still be there."""

import ast
import importlib
from pathlib import Path

import pytest

PROJECT = Path(__file__).parents[2]
FILES = sorted(path for folder in ("bench", "tools") for path in (PROJECT / folder).rglob("*.py"))


def imports(path: Path) -> list[tuple[str, str]]:
    """Modules of ours that a file imports from, with each name; the name is empty where it imports the module."""
    found: list[tuple[str, str]] = []
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.ImportFrom) and (node.module or "").split(".")[0] == "latespin":
            found += [(node.module or "", alias.name) for alias in node.names]
        elif isinstance(node, ast.Import):
            found += [(alias.name, "") for alias in node.names if alias.name.split(".")[0] == "latespin"]
    return found


def test_there_are_benches_and_tools() -> None:
    assert len(FILES) > 20
    assert ("latespin.media.track", "open_track") in imports(PROJECT / "bench" / "video.py")


@pytest.mark.parametrize("path", FILES, ids=lambda path: f"{path.parent.name}/{path.stem}")
def test_what_it_imports_is_there(path: Path) -> None:
    for module, name in imports(path):
        loaded = importlib.import_module(module)
        if name and not hasattr(loaded, name):
            importlib.import_module(f"{module}.{name}")
