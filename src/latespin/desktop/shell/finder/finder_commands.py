"""Finding anything by a word, and the keys of the panel in use."""

from importlib import import_module

from PySide6.QtCore import QObject, Qt
from PySide6.QtWidgets import QWidget

from latespin.desktop.session.commands import command
from latespin.desktop.session.search import Entry
from latespin.desktop.translation import tr

HELP = "&Help"


class FinderCommands(QObject):
    """Two lists over the window. What is in them is found out when they open, by a module that knows the whole window."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._window = window

    @command("find", "&Find a command …", menu=HELP, keys="Ctrl+K", song=False)
    def find(self) -> None:
        """Find a command, a recipe, an effect, a moment or a setting, and do it."""
        self._open("entries_of", tr("A command, a recipe, an effect or a setting: reverb, 8D, nightcore, fade out …"))

    @command("panel_keys", "&What can I press here?", menu=HELP, keys="?", song=False)
    def show_keys(self) -> None:
        """List the keys of the panel in use, then those that work everywhere."""
        self._open("keys_of", tr("What you can press here"))

    def _open(self, function: str, hint: str) -> None:
        from latespin.desktop.dialogs.finder import Finder

        entries: list[Entry] = getattr(import_module("latespin.desktop.shell.finder.entries"), function)(self._window)
        finder = Finder(entries, hint, self._window)
        finder.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        finder.open_over(self._window)
