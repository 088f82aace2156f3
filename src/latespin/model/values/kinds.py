"""Registries of kinds: structs that files tell apart by their tag, such as effects, moments and endings."""

from collections.abc import Callable, Iterable
from typing import Any, Generic, TypeVar

import msgspec

Kind = TypeVar("Kind", bound=type)
Info = TypeVar("Info")


def kind_of(value: "msgspec.Struct | type[Any]") -> str:
    """The tag of a struct, its word in files: ``hall``, ``tape-stop``, ``ring-out`` …"""
    return str(value.__struct_config__.tag)


class Kinds(Generic[Info]):
    """The declared kinds, ``by_tag``, with their declarations.  noun : names one of them in an error."""

    def __init__(self, noun: str) -> None:
        self._noun = noun
        self._infos: dict[str, Info] = {}
        self.by_tag: dict[str, Any] = {}

    def declare(self, info: Info) -> Callable[[Kind], Kind]:
        """A decorator that declares a struct. Raises ValueError for a tag that is declared already."""

        def declare(kind: Kind) -> Kind:
            tag = kind_of(kind)
            if tag in self.by_tag:
                raise ValueError(f"the {self._noun} “{tag}” is declared twice")
            self.by_tag[tag], self._infos[tag] = kind, info
            return kind

        return declare

    def order(self, kinds: Iterable[type]) -> None:
        """List the kinds in this order, whichever module was loaded first."""
        sorted_kinds = {kind_of(kind): kind for kind in kinds}
        self.by_tag.clear()
        self.by_tag.update(sorted_kinds)

    def info(self, tag: str) -> Info:
        """The declaration of a kind. Raises KeyError for one that is not declared."""
        return self._infos[tag]
