"""Which texts of the window bypass translation.

``python -m tools.visible_texts`` prints every literal inside a function that reads like words and goes neither through
``tr`` nor into a helper that translates what it is given. Declarations (literals of modules, of classes and in tables)
are translated where they are shown, which the test with a made-up language holds. A test holds that there is none.
"""

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path

DESKTOP = Path(__file__).parents[1] / "src" / "latespin" / "desktop"
#: Callables that translate what they are given.
TRANSLATING = ("tr", "command", "SegmentedButton", "titled", "_button", "_box", "_entry", "entry", "command_button")
#: Callables whose texts nobody reads in the window, or which are names.
UNSEEN = (
    "setStyleSheet", "setApplicationName", "setStyle", "exception", "debug", "warning", "basicConfig", "write", "_say_when", "_dress",
    "Thread",
)  # fmt: skip
#: Errors whose message a person reads.
ERRORS = ("LateSpinError", "Unusable", "Unreadable", "Unwritable", "Unreachable")
SILENT = (ast.JoinedStr, ast.Raise, ast.Assert, ast.Compare, ast.Subscript, ast.Tuple, ast.List, ast.Dict, ast.Set)
LEAST_LETTERS = 3
NAME = re.compile(r"[A-Z_]+|\w+\.\w+")  # of a unit, a variable of the environment, a file


def bare_texts(path: Path) -> Iterator[tuple[int, ast.expr]]:
    """Line and node of each literal of a module that reads like words and bypasses translation."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    parents = {child: parent for parent in ast.walk(tree) for child in ast.iter_child_nodes(parent)}
    for node in ast.walk(tree):
        if is_words(node) and not isinstance(parents[node], ast.Expr) and _is_shown(node, parents):
            assert isinstance(node, ast.expr)
            yield node.lineno, node


def bare_errors(path: Path) -> Iterator[tuple[int, ast.expr]]:
    """Line and node of each literal in an error for people that bypasses translation, of any module."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    parents = {child: parent for parent in ast.walk(tree) for child in ast.iter_child_nodes(parent)}
    for call in ast.walk(tree):
        if isinstance(call, ast.Call) and _name(call) in ERRORS:
            for node in ast.walk(call):
                if is_words(node) and not _is_translated(node, call, parents):
                    assert isinstance(node, ast.expr)
                    yield node.lineno, node


def _is_translated(node: ast.AST, outermost: ast.AST, parents: dict[ast.AST, ast.AST]) -> bool:
    while node is not outermost:
        node = parents[node]
        if isinstance(node, ast.Call) and _name(node) == "tr":
            return True
    return False


def is_words(node: ast.AST) -> bool:
    """Whether a node is a literal to read: some letters that begin with a capital or have a space beside them."""
    if isinstance(node, ast.JoinedStr):
        text = "".join(v.value for v in node.values if isinstance(v, ast.Constant))
    elif isinstance(node, ast.Constant) and isinstance(node.value, str):
        text = node.value
    else:
        return False
    if sum(c.isalpha() for c in text) < LEAST_LETTERS or NAME.fullmatch(text.strip(" ,.:")):
        return False
    return text[:1].isupper() or " " in text.strip() or text.startswith("&")


def _is_shown(node: ast.AST, parents: dict[ast.AST, ast.AST]) -> bool:
    """Whether a literal lies in the body of a function, outside of everything that translates or hides it."""
    while node in parents:
        child, node = node, parents[node]
        if isinstance(node, SILENT):
            return False
        if isinstance(node, ast.Call) and _name(node) in (*TRANSLATING, *UNSEEN):
            return False
        if isinstance(node, ast.AnnAssign | ast.arg) and child is node.annotation:
            return False
        if isinstance(node, ast.FunctionDef | ast.Lambda):
            return isinstance(node, ast.Lambda) or child in node.body
    return False


def _name(call: ast.Call) -> str:
    return call.func.attr if isinstance(call.func, ast.Attribute) else getattr(call.func, "id", "")


def main() -> int:
    """Print every bare text."""
    found = [
        (path, line, node)
        for path in sorted(DESKTOP.rglob("*.py"))
        for line, node in sorted(bare_texts(path), key=lambda f: f[0])
    ]
    for path, line, node in found:
        print(f"{path.relative_to(DESKTOP)}:{line}: {ast.unparse(node)}")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
