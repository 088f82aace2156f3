"""Finding anything by a word, and the keys of the panel in use."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt

from latespin.desktop.session.commands import command
from latespin.desktop.translation import tr

if TYPE_CHECKING:
    from latespin.desktop.session.search import Entry
    from latespin.desktop.shell.main_window import Window

HELP = "&Help"


class FinderCommands(QObject):
    """Two lists over the window. What is in them is found out when they open."""

    def __init__(self, window: "Window") -> None:
        super().__init__(window)
        self._window = window

    @command("find", "&Find a command …", menu=HELP, keys="Ctrl+K", song=False)
    def find(self) -> None:
        """Find a command, a recipe, an effect, a moment or a setting, and do it."""
        from latespin.desktop.shell.finder.entries import entries_of

        self._open(
            entries_of(self._window),
            tr("A command, a recipe, an effect or a setting: reverb, 8D, nightcore, fade out …"),
        )

    @command("panel_keys", "&What can I press here?", menu=HELP, keys="?", song=False)
    def show_keys(self) -> None:
        """List the keys of the panel in use, then those that work everywhere."""
        from latespin.desktop.shell.finder.entries import keys_of

        self._open(keys_of(self._window), tr("What you can press here"))

    def _open(self, entries: "list[Entry]", hint: str) -> None:
        from latespin.desktop.dialogs.finder import Finder

        finder = Finder(entries, hint, self._window)
        finder.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        finder.open_over(self._window)
