"""The catalogues of the window's languages, as files of Qt Linguist.

``python -m tools.catalogue`` gathers every text of the window, brings ``latespin_*.ts`` up to date (new texts come without a
translation, old ones go, what is translated stays) and compiles them with ``pyside6-lrelease``. It gathers by itself, since
``pyside6-lupdate`` finds neither declarations nor tables, where most texts stand.
"""

import ast
import subprocess
import sys
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from pathlib import Path

from tools.visible_texts import is_words

from latespin.desktop.translation import CONTEXT, ENGLISH, LANGUAGES, TEXT_FIELDS
from latespin.model.effects.automation import LanePoint
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.moments.declaration import MOMENTS, moment_info
from latespin.model.moments.endings import ENDINGS, ending_info
from latespin.model.moments.held import TempoPoint
from latespin.model.pad import Pad
from latespin.model.playing.surface_map import RepeatTarget, TempoTarget, practice_map
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.tone_match import Match
from latespin.model.values.key_names import key_names
from latespin.model.values.note_values import KIND_WORDS
from latespin.model.values.parameters import parameters_of
from latespin.model.values.words import COMMON, words_of
from latespin.model.version import Level, Time
from latespin.render.recipes import shipped_recipes

SOURCE = Path(__file__).parents[1] / "src" / "latespin"
FOLDER = SOURCE / "desktop" / "languages"
#: Modules whose literals are names of packages and colours, or words to search by.
WITHOUT_TEXTS = (
    "desktop/shell/finder/synonyms.py",
    "desktop/shell/finder/synonyms_de.py",
    "desktop/theme/",
    "desktop/integration/installer.py",
)
#: What a literal stands in that nobody reads in the window.
HIDDEN_CALLS = (
    "setStyleSheet",
    "TypeVar",
    "debug",
    "warning",
    "exception",
    "cast",
    "Thread",
    "basicConfig",
    "_dress",
    "_say_when",
)
HIDDEN_KEYWORDS = ("keys", "name", "format")
#: Literals that look like texts and are none.
NO_TEXTS = {
    "AnyEffect", "ConvolutionReverb", "DynamicHighShelf", "MidSideCompressor", "MultibandCompressor", "SmallSpeaker", "Spin", "Evening",
    "*.mid *.midi", "AWSEDFTGYHUJKOLP;'", "late-spin recipe", "late-spin session", "late-spin surface", "{title} ({version})",
    "ear cues of plots", "the song’s loudness", "this part’s usual level",
}  # fmt: skip


def gathered() -> list[str]:
    """Every text that may be asked for, sorted."""
    written = {text for path in SOURCE.rglob("*.py") for text in _written(path)}
    return sorted((written - NO_TEXTS) | set(_declared()) | set(_in_tables()))


def _written(path: Path) -> Iterator[str]:
    """Literals of a module that go into a callable that translates, and others of window and model that read like words."""
    name = path.relative_to(SOURCE).as_posix()
    if name.startswith("cli/"):
        return
    tree = ast.parse(path.read_text(encoding="utf-8"))
    parents = {child: parent for parent in ast.walk(tree) for child in ast.iter_child_nodes(parent)}
    tables = (
        name.startswith(("desktop/", "model/"))
        and not name.startswith(WITHOUT_TEXTS)
        and name != "desktop/dialogs/about.py"
    )
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and any(map(str.isalpha, node.value)):
            call = parents[node]
            direct = isinstance(call, ast.Call) and _name(call) == "tr"
            if direct or (tables and is_words(node) and not _is_hidden(node, parents)):
                yield node.value


def _is_hidden(node: ast.AST, parents: dict[ast.AST, ast.AST]) -> bool:
    """Whether a literal is a docstring, an annotation, a shortcut, part of a sentence that is put together, or for the log."""
    if isinstance(parents[node], ast.Expr):
        return True
    while node in parents:
        child, node = node, parents[node]
        if isinstance(node, ast.Raise | ast.JoinedStr | ast.Assert | ast.Compare | ast.arg):
            return True
        if isinstance(node, ast.Call) and _name(node) in HIDDEN_CALLS:
            return True
        if isinstance(node, ast.keyword) and node.arg in HIDDEN_KEYWORDS:
            return True
        if isinstance(node, ast.AnnAssign) and child is node.annotation:
            return True
        if isinstance(node, ast.FunctionDef) and child is node.returns:
            return True
    return False


def _name(call: ast.Call) -> str:
    return call.func.attr if isinstance(call.func, ast.Attribute) else getattr(call.func, "id", "")


def _declared() -> Iterator[str]:
    """Texts of all effects, moments, endings, recipes and keys."""
    for kinds, info in ((EFFECTS, effect_info), (MOMENTS, moment_info), (ENDINGS, ending_info)):
        for tag, kind in kinds.items():  # type: ignore[attr-defined]
            for declared in (info(tag), *parameters_of(kind).values(), *words_of(kind).values()):  # type: ignore[operator]
                yield from _texts_of(declared)
    for kind in (Match, Pad, Time, Level, CurvePoint, LanePoint, TempoPoint):
        for declared in (*parameters_of(kind).values(), *words_of(kind).values()):
            yield from _texts_of(declared)
    yield from COMMON.values()
    yield from (pad.title for pad in practice_map().pads if pad.title)
    yield from (word for target in (RepeatTarget, TempoTarget) for word in target.words if word)
    for recipe in shipped_recipes():
        yield from _texts_of(recipe)
    yield from key_names()


def _texts_of(declared: object) -> Iterator[str]:
    choices = getattr(declared, "choices", {})
    fields = (getattr(declared, field, "") for field in TEXT_FIELDS)
    for text in (*fields, *(choices.values() if isinstance(choices, dict) else ())):
        if isinstance(text, str) and any(map(str.isalpha, text)):
            yield text


def _in_tables() -> Iterator[str]:
    """Short texts in lower case, which only their tables tell from identifiers."""
    from latespin.desktop.plots.spin import BEARINGS
    from latespin.desktop.shell.header import FACTS
    from latespin.desktop.shell.task_panel import WORDS as STATES
    from latespin.desktop.shell.version_list import CHANGED, EXPORTED
    from latespin.desktop.theme.theme import STAGE_TITLES
    from latespin.model.text.describe import (
        CHARACTER_WORDS,
        HALFTIME_WORDS,
        LAYER_WORDS,
        PITCH_WORDS,
        SPEAKER_WORDS,
        TITLE_WORDS,
    )
    from latespin.model.timing.song_sections import KIND_NAMES

    for table in (
        STATES,
        KIND_WORDS,
        STAGE_TITLES,
        CHARACTER_WORDS,
        PITCH_WORDS,
        HALFTIME_WORDS,
        LAYER_WORDS,
        SPEAKER_WORDS,
        TITLE_WORDS,
        KIND_NAMES,
    ):
        yield from (text for text in table.values() if text)
    yield from (EXPORTED, CHANGED, *(word for _, word in BEARINGS))
    yield from (text for fact in FACTS for text in (fact.title, fact.tip, fact.asked) if text)


def translations_in(path: Path) -> dict[str, str]:
    """The finished translations of a catalogue, by their source."""
    root = ET.parse(path).getroot() if path.exists() else ET.Element("TS")
    return {
        message.findtext("source", ""): message.findtext("translation", "")
        for message in root.iter("message")
        if message.findtext("translation")
    }


def write(path: Path, code: str, texts: list[str]) -> int:
    """Bring a catalogue up to date; returns how many texts have no translation yet."""
    known = translations_in(path)
    root = ET.Element("TS", version="2.1", language=code, sourcelanguage="en")
    context = ET.SubElement(root, "context")
    ET.SubElement(context, "name").text = CONTEXT
    for text in texts:
        message = ET.SubElement(context, "message")
        ET.SubElement(message, "source").text = text
        translation = ET.SubElement(message, "translation")
        if text in known:
            translation.text = known[text]
        else:
            translation.set("type", "unfinished")
    ET.indent(root, " ")
    path.write_text(
        f"<?xml version='1.0' encoding='utf-8'?>\n<!DOCTYPE TS>\n{ET.tostring(root, encoding='unicode')}\n",
        encoding="utf-8",
    )
    return sum(text not in known for text in texts)


def main() -> int:
    """Bring all catalogues up to date and compile them."""
    texts, missing = gathered(), 0
    for code in set(LANGUAGES) - {ENGLISH}:
        path = FOLDER / f"latespin_{code}.ts"
        left = write(path, code, texts)
        release = Path(sys.executable).with_name("pyside6-lrelease")
        subprocess.run([release, "-silent", path, "-qm", path.with_suffix(".qm")], check=True)
        print(f"{LANGUAGES[code]}: {len(texts)} texts, {left} without a translation")
        missing += left
    return 1 if missing else 0


if __name__ == "__main__":
    sys.exit(main())
