"""Finding entries by words: those that begin with what was typed first, then those that hold it, then those that mean it."""

import unicodedata
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

NOTHING = 1 << 20
SHOWN = 40


@dataclass(frozen=True)
class Entry:
    """Something that can be found and done. detail : where it is, or what it does.  keys : its shortcut.  also : other words for it.

    minor : a part of another entry, which comes after what fits as well.
    """

    title: str
    detail: str
    run: Callable[[], None]
    keys: str = ""
    also: str = ""
    minor: bool = False

    @cached_property
    def _names(self) -> tuple[str, tuple[str, ...], tuple[str, ...]]:
        title = folded(self.title)
        return title, tuple(title.split()), tuple(folded(f"{self.also} {self.detail}").split())

    def rank(self, typed: Sequence[str]) -> int:
        """How well it fits folded words, lower is better; NOTHING where one of them is nowhere."""
        title, own, others = self._names
        if title.startswith(" ".join(typed)):
            return 0 if title == " ".join(typed) else 1
        return max((_rank_of(word, own, others) for word in typed), default=1)


def _rank_of(word: str, own: tuple[str, ...], others: tuple[str, ...]) -> int:
    if word in own:
        return 2
    if word in others:
        return 3
    if any(name.startswith(word) for name in own):
        return 4
    if any(name.startswith(word) for name in others):
        return 5
    if len(word) > 2 and any(word in name for name in (*own, *others)):
        return 6
    return NOTHING


def folded(text: str) -> str:
    """Without case, accents and marks, words apart by one space."""
    plain = unicodedata.normalize("NFKD", text.casefold().replace("&", ""))
    kept = "".join(c if c.isalnum() or c in "+-./" else " " for c in plain if not unicodedata.combining(c))
    return " ".join(kept.split())


def matching(entries: Sequence[Entry], typed: str) -> list[Entry]:
    """The entries that fit what was typed, the best first and otherwise in their order; the first of all for nothing."""
    words = folded(typed).split()
    if not words:
        return list(entries[:SHOWN])
    ranked = [(entry.rank(words), place, entry) for place, entry in enumerate(entries)]
    fitting = sorted((r for r in ranked if r[0] < NOTHING), key=lambda r: (r[2].minor and r[0] > 1, r[0], r[1]))
    return [entry for _, _, entry in fitting[:SHOWN]]
