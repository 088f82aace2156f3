"""Which string literals of the window are visible: those given to a widget, a message or a step of undo.

``python -m tools.visible_texts`` prints every one that bypasses translation. A test holds that there is none.
"""

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

DESKTOP = Path(__file__).parents[1] / "src" / "latespin" / "desktop"
#: Callables and the places of the arguments that are shown; None for all of them.
SINKS: dict[str, tuple[int, ...] | None] = {
    "QLabel": (0,), "QPushButton": (0,), "QCheckBox": (0,), "QAction": (0,), "QMenu": (0,), "quiet_label": (0,),
    "setText": (0,), "setToolTip": (0,), "setWindowTitle": (0,), "setAccessibleName": (0,), "setAccessibleDescription": (0,),
    "setPlaceholderText": (0,), "addAction": (0,), "addMenu": (0,), "addSection": (0,), "addTab": (1,), "setTitle": (0,),
    "Switch": (0, 2), "InlineEdit": (0, 1), "Task": (0,), "say": (0,), "question": (1, 2), "choose": (1, 2),
    "getOpenFileName": (1,), "getOpenFileNames": (1,), "getSaveFileName": (1,), "getExistingDirectory": (1,),
    "edit_stages": (0,), "edit_session": (0,), "set_grid": (0,), "_edit": (0,), "_button": (1, 2), "entry": (2, 3),
    "_ended": (0,), "_say": (0,), "caption": (2,), "addButton": (0,), "set_state": (0,), "drawText": None,
}  # fmt: skip
EMITTERS = ("message", "problem", "notice", "refused", "offered")
SHORTEST = 2


def bare_texts(path: Path) -> Iterator[tuple[int, ast.expr]]:
    """Line and node of each visible literal of a module that does not go through ``tr``."""
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        for shown in _shown(node):
            yield from ((literal.lineno, literal) for literal in _literals(shown))


def _shown(node: ast.AST) -> list[ast.expr]:
    """What is shown of a call's arguments, or of a sentence that a function returns."""
    if isinstance(node, ast.Return) and node.value is not None:
        return [literal for literal in _literals(node.value) if " " in ast.unparse(literal)]
    return _shown_of_call(node) if isinstance(node, ast.Call) else []


def _shown_of_call(call: ast.Call) -> list[ast.expr]:
    name = call.func.attr if isinstance(call.func, ast.Attribute) else getattr(call.func, "id", "")
    if name == "emit" and isinstance(call.func, ast.Attribute) and isinstance(call.func.value, ast.Attribute):
        return call.args if call.func.value.attr in EMITTERS else []
    if name not in SINKS:
        return []
    places = SINKS[name]
    return [a for i, a in enumerate(call.args) if places is None or i in places]


def _literals(node: ast.expr) -> Iterator[ast.expr]:
    """Literal texts within an expression, those inside other calls left out."""
    if (isinstance(node, ast.Constant) and isinstance(node.value, str) and is_text(node.value)) or (
        isinstance(node, ast.JoinedStr) and is_text("".join(_constant(v) for v in node.values))
    ):
        yield node
    elif isinstance(node, ast.IfExp):
        yield from _literals(node.body)
        yield from _literals(node.orelse)
    elif isinstance(node, ast.BinOp):
        yield from _literals(node.left)
        yield from _literals(node.right)


def _constant(node: ast.expr) -> str:
    return node.value if isinstance(node, ast.Constant) and isinstance(node.value, str) else ""


def is_text(value: str) -> bool:
    """Whether a literal is something to read: at least a word that begins with a capital or has a space beside it."""
    letters = [c for c in value if c.isalpha()]
    return len(letters) >= SHORTEST and (value[:1].isupper() or " " in value.strip() or value.startswith("&"))


def main() -> int:
    """Print every bare text."""
    found = [(path, line) for path in sorted(DESKTOP.rglob("*.py")) for line, _ in bare_texts(path)]
    for path, line in found:
        print(f"{path.relative_to(DESKTOP)}:{line}")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
