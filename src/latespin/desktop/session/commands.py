"""Commands: named methods that menus, keys and buttons run.

A method declares itself with ``@command("ident", …)``. A command with a menu appears there; one without is only run by a
button. Menus, shortcuts, ``docs/keys.md`` and the tests are all made from these declarations.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, TypeVar

Method = TypeVar("Method", bound=Callable[..., None])
_MARK = "__command__"


@dataclass(frozen=True)
class Command:
    """A command: its title, and where it appears.

    menu : the title of its menu, empty for none.  keys : as Qt writes them, alternatives separated by ``|``.
    group : commands of one group stand together in a menu, lower groups first.  song : needs an open song.
    """

    ident: str
    title: str = ""
    menu: str = ""
    keys: str = ""
    group: int = 0
    song: bool = True
    checkable: bool = False

    @property
    def shortcuts(self) -> tuple[str, ...]:
        """Each of its keys."""
        return tuple(self.keys.split("|")) if self.keys else ()


def command(
    ident: str,
    title: str = "",
    *,
    menu: str = "",
    keys: str = "",
    group: int = 0,
    song: bool = True,
    checkable: bool = False,
) -> Callable[[Method], Method]:
    """Declare a method, which takes no arguments, as a command."""

    def declare(method: Method) -> Method:
        setattr(method, _MARK, Command(ident, title, menu, keys, group, song, checkable))
        return method

    return declare


def declared(kind: type) -> Iterator[tuple[Command, str]]:
    """The commands of a class and the names of their methods, in the order in which they are written."""
    for name, method in vars(kind).items():
        made = getattr(method, _MARK, None)
        if isinstance(made, Command):
            yield made, name


def run(source: Any, ident: str) -> None:
    """Run one command of an object. Raises KeyError where its class declares none of that name."""
    for made, name in declared(type(source)):
        if made.ident == ident:
            getattr(source, name)()
            return
    raise KeyError(f"{type(source).__name__} has no command “{ident}”")


class CommandTable:
    """The commands of several objects, which together are the window's."""

    def __init__(self, *sources: Any) -> None:
        self._methods: dict[str, Callable[[], None]] = {}
        self.commands: list[Command] = []
        for source in sources:
            for made, name in declared(type(source)):
                if made.ident in self._methods:
                    raise ValueError(f"two commands are called “{made.ident}”")
                self._methods[made.ident] = getattr(source, name)
                self.commands.append(made)

    def run(self, ident: str) -> None:
        """Run a command. Raises KeyError for a name that is not declared."""
        self._methods[ident]()

    def in_menu(self, menu: str) -> list[Command]:
        """The commands of a menu, by group."""
        return sorted((c for c in self.commands if c.menu == menu), key=lambda c: c.group)
