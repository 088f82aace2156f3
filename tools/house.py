"""The rules of the house: how large folders, files and functions may be, what is documented, and no import circles.

Run ``python -m tools.house``; it prints what breaks a rule and ends with 1 if anything does.
"""

import ast
import functools
import statistics
import sys
from collections import defaultdict
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "latespin"
MOST_MODULES, MOST_LINES, MOST_FUNCTION_LINES, MEDIAN_LINES = 15, 400, 50, 130
LEAST_TEST_SHARE = 0.22
#: Kernels that would only be slower or harder to follow in pieces, each with its reason.
LONG_KERNELS = {
    "dsp/stretching/chirps.py:redraw_chirps": "one pass over all peaks; every value is used at once",
}


def modules() -> list[Path]:
    """All modules of the package, without ``__init__``."""
    return sorted(path for path in SOURCE.rglob("*.py") if path.name not in ("__init__.py", "__main__.py"))


def crowded_folders() -> list[str]:
    """Folders with more modules than fit in one view."""
    counts: dict[Path, int] = defaultdict(int)
    for path in modules():
        counts[path.parent] += 1
    return [f"{_name(folder)}: {n} modules" for folder, n in sorted(counts.items()) if n > MOST_MODULES]


def long_files() -> list[str]:
    """Files longer than one sitting."""
    lines = {path: _lines(path) for path in modules()}
    return [f"{_name(path)}: {n} lines" for path, n in lines.items() if n > MOST_LINES]


def median_lines() -> float:
    """The median length of a file."""
    return statistics.median(_lines(path) for path in modules())


def long_functions() -> list[str]:
    """Functions that do not fit on a screen, but for the kernels named above."""
    found = []
    for path in modules():
        for node in _nodes(path):
            if isinstance(node, ast.FunctionDef):
                lines = (node.end_lineno or node.lineno) - node.lineno + 1
                key = f"{_name(path)}:{node.name}"
                if lines > MOST_FUNCTION_LINES and key not in LONG_KERNELS:
                    found.append(f"{key}: {lines} lines")
    return found


def undocumented() -> list[str]:
    """Public modules, classes and functions without a docstring. A method that overrides another needs none."""
    found = []
    for path in modules():
        tree = _tree(path)
        if not ast.get_docstring(tree):
            found.append(_name(path))
        for node in tree.body:
            if isinstance(node, ast.ClassDef | ast.FunctionDef) and not node.name.startswith("_"):
                if not ast.get_docstring(node):
                    found.append(f"{_name(path)}:{node.name}")
                if isinstance(node, ast.ClassDef):
                    found += _bare_methods(path, node)
    return found


def _bare_methods(path: Path, kind: ast.ClassDef) -> list[str]:
    """Public methods without a docstring in a class that overrides nothing."""
    if kind.bases or kind.decorator_list:
        return []
    methods = [
        node
        for node in kind.body
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_") and not _is_setter(node)
    ]
    return [f"{_name(path)}:{kind.name}.{node.name}" for node in methods if not ast.get_docstring(node)]


def _is_setter(node: ast.FunctionDef) -> bool:
    return any(isinstance(d, ast.Attribute) and d.attr == "setter" for d in node.decorator_list)


def import_circles() -> list[str]:
    """Modules that import each other, directly or by way of others, imports for types only included."""
    graph = {_dotted(path): _imports(path) for path in [*modules(), *SOURCE.rglob("__init__.py")]}
    known = set(graph)
    graph = {name: {other for other in others if other in known} - {name} for name, others in graph.items()}
    return [" → ".join(circle) for circle in _components(graph) if len(circle) > 1]


def _imports(path: Path) -> set[str]:
    found: set[str] = set()
    for node in _nodes(path):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("latespin"):
            found.add(node.module)
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


def _components(graph: dict[str, set[str]]) -> list[list[str]]:
    """Strongly connected components (Tarjan, "Depth-first search and linear graph algorithms", 1972)."""
    order: dict[str, int] = {}
    low: dict[str, int] = {}
    stack: list[str] = []
    found: list[list[str]] = []

    def visit(name: str) -> None:
        order[name] = low[name] = len(order)
        stack.append(name)
        for other in sorted(graph[name]):
            if other not in order:
                visit(other)
                low[name] = min(low[name], low[other])
            elif other in stack:
                low[name] = min(low[name], order[other])
        if low[name] == order[name]:
            component = []
            while not component or component[-1] != name:
                component.append(stack.pop())
            found.append(component)

    sys.setrecursionlimit(10_000)
    for name in sorted(graph):
        if name not in order:
            visit(name)
    return found


def test_share() -> float:
    """Lines of tests over all Python lines of the project."""
    counts = {
        folder: sum(_lines(path) for path in (ROOT / folder).rglob("*.py"))
        for folder in ("src", "tests", "tools", "bench")
    }
    return counts["tests"] / sum(counts.values())


def _lines(path: Path) -> int:
    return len(path.read_text(encoding="utf-8").splitlines())


@functools.cache
def _tree(path: Path) -> ast.Module:
    return ast.parse(path.read_text(encoding="utf-8"))


@functools.cache
def _nodes(path: Path) -> tuple[ast.AST, ...]:
    """What rules look at, of all that is in a module."""
    return tuple(node for node in ast.walk(_tree(path)) if isinstance(node, ast.FunctionDef | ast.ImportFrom))


def _name(path: Path) -> str:
    return str(path.relative_to(SOURCE)) if path != SOURCE else "latespin"


def _dotted(path: Path) -> str:
    parts = path.relative_to(SOURCE.parent).with_suffix("").parts
    return ".".join(parts[:-1] if parts[-1] == "__init__" else parts)


def broken_rules() -> dict[str, list[str]]:
    """Each rule and what breaks it."""
    median, share = median_lines(), test_share()
    return {
        f"more than {MOST_MODULES} modules in a folder": crowded_folders(),
        f"files over {MOST_LINES} lines": long_files(),
        f"functions over {MOST_FUNCTION_LINES} lines": long_functions(),
        f"median file over {MEDIAN_LINES} lines": [f"{median:.0f}"] if median > MEDIAN_LINES else [],
        "public names without a docstring": undocumented(),
        "import circles": import_circles(),
        f"tests below {LEAST_TEST_SHARE:.0%} of all lines": [f"{share:.1%}"] if share < LEAST_TEST_SHARE else [],
    }


def main() -> int:
    """Print every broken rule."""
    broken = {rule: found for rule, found in broken_rules().items() if found}
    for rule, found in broken.items():
        print(f"{rule}:", *found, sep="\n  ")
    print(f"{len(modules())} modules, median {median_lines():.0f} lines, tests {test_share():.1%} of all lines")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
