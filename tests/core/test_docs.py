"""The pages that are made from the program are those it makes now, and every link and picture is there."""

import re
from pathlib import Path

import pytest
from tools.make_reference import PAGES, declared_commands

ROOT = Path(__file__).resolve().parents[2]
MARKDOWN = [ROOT / "README.md", ROOT / "CHANGELOG.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").glob("*.md"))]
SOURCES = ROOT / "src" / "latespin"
MOST_PICTURES = 20


@pytest.mark.parametrize("name", PAGES)
def test_made_pages_are_up_to_date(name: str) -> None:
    """If not, run ``python -m tools.make_reference``."""
    assert (ROOT / "docs" / name).read_text(encoding="utf-8") == PAGES[name]()


@pytest.mark.parametrize("page", MARKDOWN, ids=lambda path: path.name)
def test_every_link_leads_somewhere(page: Path) -> None:
    text = page.read_text(encoding="utf-8")
    for target in re.findall(r"\]\(([^)#\s]+)", text):
        if "://" not in target:
            assert (page.parent / target).exists(), target


@pytest.mark.parametrize("page", MARKDOWN, ids=lambda path: path.name)
def test_every_module_that_is_named_is_there(page: Path) -> None:
    text = page.read_text(encoding="utf-8")
    for path in re.findall(r"`((?:dsp|analysis|model|media|render|cli|desktop)/[\w/]+\.py)`", text):
        assert (ROOT / "src" / "latespin" / path).exists(), path
    for path in re.findall(r"`((?:tests|tools|bench)/[\w/]+\.py)`", text):
        assert (ROOT / path).exists(), path


def test_pictures_are_few_and_all_are_linked() -> None:
    pictures = {path.name for path in (ROOT / "docs" / "screenshots").glob("*.png")}
    linked = {
        Path(t).name for page in MARKDOWN for t in re.findall(r"\(([^)]+\.png)\)", page.read_text(encoding="utf-8"))
    }
    assert len(pictures) <= MOST_PICTURES
    assert pictures == linked


def test_the_page_of_keys_has_every_menu_command() -> None:
    text = (ROOT / "docs" / "keys.md").read_text(encoding="utf-8")
    commands = declared_commands()
    assert len(commands) > 50
    for made in commands:
        assert f"| {made.title.replace('&', '').removesuffix(' …')} |" in text
        assert all(key in text for key in made.shortcuts)


def test_the_glossary_is_in_order_and_defines_each_word_once() -> None:
    text = (ROOT / "docs" / "glossary.md").read_text(encoding="utf-8")
    words = [row.split(" | ")[0].strip("| ") for row in text.splitlines() if row.startswith("| ")][1:]
    assert words == sorted(words, key=str.casefold)
    single = [word.strip() for entry in words for word in entry.split(",")]
    assert len(single) == len(set(single))


def test_the_note_of_each_package_names_modules_that_are_there() -> None:
    """``__init__.py`` says what to read first; paths in it are relative to its folder, to another room or to the package."""
    notes = {path: path.read_text(encoding="utf-8") for path in SOURCES.rglob("__init__.py")}
    named = [(path, name) for path, note in notes.items() for name in re.findall(r"``([a-z_/]+\.py)``", note)]
    assert len(named) > 40
    gone = [
        (str(path), name) for path, name in named if not any(SOURCES.rglob(name)) and not (path.parent / name).exists()
    ]
    assert gone == []
    pages = {name for note in notes.values() for name in re.findall(r"docs/([a-z-]+\.md)", note)}
    assert {page for page in pages if not (SOURCES.parents[1] / "docs" / page).exists()} == set()
