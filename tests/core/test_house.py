"""The rules of the house hold, and the check of them can fail."""

from pathlib import Path

import pytest
from tools import house


def test_the_house_is_in_order() -> None:
    assert {rule: found for rule, found in house.broken_rules().items() if found} == {}


@pytest.fixture
def small_house(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A package of its own that breaks every rule."""
    source = tmp_path / "src" / "latespin"
    (source / "crowd").mkdir(parents=True)
    for n in range(16):
        (source / "crowd" / f"m{n}.py").write_text('"""One of many."""\n')
    (source / "long.py").write_text('"""Long."""\n' + "x = 1\n" * 400)
    (source / "function.py").write_text('"""A function."""\n\n\ndef far():\n    """Far."""\n' + "    x = 1\n" * 50)
    (source / "bare.py").write_text("class Bare:\n    def method(self):\n        pass\n")
    (source / "one.py").write_text('"""One."""\n\nfrom latespin.two import x\n')
    (source / "two.py").write_text(
        '"""Two."""\n\nfrom typing import TYPE_CHECKING\n\nif TYPE_CHECKING:\n    from latespin.one import y\n\nx = 1\n'
    )
    monkeypatch.setattr(house, "SOURCE", source)
    monkeypatch.setattr(house, "ROOT", tmp_path)
    return source


def test_each_rule_finds_what_breaks_it(small_house: Path) -> None:
    (small_house.parent.parent / "tests").mkdir()
    assert house.crowded_folders() == ["crowd: 16 modules"]
    assert house.long_files() == ["long.py: 401 lines"]
    assert house.long_functions() == ["function.py:far: 52 lines"]
    assert house.undocumented() == ["bare.py", "bare.py:Bare", "bare.py:Bare.method"]
    assert [set(circle.split(" → ")) for circle in house.import_circles()] == [{"latespin.one", "latespin.two"}]
    assert house.test_share() == 0.0
    assert house.main() == 1


def test_the_median_is_that_of_all_modules(small_house: Path) -> None:
    assert house.median_lines() == 1.0
