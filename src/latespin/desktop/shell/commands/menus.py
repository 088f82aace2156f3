"""The menu bar, built from the declared commands."""

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

from latespin.desktop.session.commands import CommandTable
from latespin.desktop.translation import tr

MENUS = ("&File", "&Edit", "&Version", "&Play", "&Beats", "&Moments", "V&iew", "&Help")


def build_menus(window: QMainWindow, table: CommandTable) -> tuple[dict[str, QAction], dict[str, QMenu]]:
    """Fill the menu bar; returns the actions by command and the menus by title."""
    actions: dict[str, QAction] = {}
    menus: dict[str, QMenu] = {}
    for title in MENUS:
        menu = menus[title] = window.menuBar().addMenu(tr(title))
        group = None
        for command in table.in_menu(title):
            if group is not None and command.group != group:
                menu.addSeparator()
            group = command.group
            action = QAction(tr(command.title), window)
            action.setShortcuts([QKeySequence(keys) for keys in command.shortcuts])
            action.setCheckable(command.checkable)
            action.triggered.connect(lambda _=False, ident=command.ident: table.run(ident))
            menu.addAction(action)
            actions[command.ident] = action
    return actions, menus
