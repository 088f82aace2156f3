"""Undo history: the list of former values."""

from dataclasses import dataclass, field
from typing import Generic, TypeVar

Value = TypeVar("Value")
LIMIT = 500


@dataclass
class History(Generic[Value]):
    """A value and its past. Consecutive edits with the same non-empty ``merge`` word are one step."""

    value: Value
    _past: list[tuple[str, Value]] = field(default_factory=list)
    _future: list[tuple[str, Value]] = field(default_factory=list)
    _merge: str = ""

    def edit(self, label: str, value: Value, merge: str = "") -> bool:
        """Take a new value; returns False, and remembers nothing, where it equals the old one."""
        if value == self.value:
            return False
        if not (merge and merge == self._merge):
            self._past.append((label, self.value))
            del self._past[:-LIMIT]
        self._future.clear()
        self._merge = merge
        self.value = value
        return True

    def seal(self) -> None:
        """Start a new step with the next edit."""
        self._merge = ""

    def undo_label(self) -> str:
        """The label of the next undo step; empty if there is none."""
        return self._past[-1][0] if self._past else ""

    def redo_label(self) -> str:
        """The label of the next redo step; empty if there is none."""
        return self._future[-1][0] if self._future else ""

    def undo(self) -> None:
        """Go one step back, if there is one."""
        self._move(self._past, self._future)

    def redo(self) -> None:
        """Go one step forward, if there is one."""
        self._move(self._future, self._past)

    def _move(self, source: list[tuple[str, Value]], target: list[tuple[str, Value]]) -> None:
        if source:
            label, value = source.pop()
            target.append((label, self.value))
            self.value = value
        self._merge = ""
