"""The menu bar, built from the declared commands."""

from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu, QMenuBar

from latespin.desktop.translation import tr

if TYPE_CHECKING:
    from latespin.desktop.session.commands import CommandTable

MENUS = ("&File", "&Edit", "&Version", "&Play", "&Beats", "&Moments", "V&iew", "&Help")


def add_menus(bar: QMenuBar) -> dict[str, QMenu]:
    """Put the menus into the bar, empty; returns them by title."""
    return {title: bar.addMenu(tr(title)) for title in MENUS}


def fill_menus(window: QMainWindow, menus: dict[str, QMenu], table: "CommandTable") -> dict[str, QAction]:
    """Fill the menus with actions; returns them by command."""
    actions: dict[str, QAction] = {}
    for title, menu in menus.items():
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
    return actions
