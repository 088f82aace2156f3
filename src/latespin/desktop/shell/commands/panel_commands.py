"""Switches panels, with the commands that depend on the panel shown."""

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.panels.panel_stack import PanelStack
from latespin.desktop.session.commands import command
from latespin.desktop.shell.controllers import Controllers


class PanelCommands(QObject):
    """panel : the stage whose panel is shown, or ``grid`` for beats and bars."""

    opened = Signal(str)

    def __init__(self, panels: PanelStack, controllers: Controllers, parent: QWidget) -> None:
        super().__init__(parent)
        self._panels, self._controllers = panels, controllers
        self.panel = "time"

    def show(self, name: str) -> None:
        """Show a panel."""
        self.panel = name
        self._panels.open(name)
        self._controllers.show_panel(name)

    @command("beats", "Beats and &bars", menu="&Beats", keys="G")
    def show_beats(self) -> None:
        """Show the panel of beats and bars."""
        self.opened.emit("grid")

    @command("play_along", "Play alon&g", menu="&Play", keys="P", group=2)
    def show_playing(self) -> None:
        """Show the panel of pads and knobs; again, leave it."""
        self.opened.emit("moments" if self.panel == "playing" else "playing")

    @command("audition", "P&lay the moment, or the ending", menu="&Moments", keys="A")
    def audition(self) -> None:
        """Play what the panel shows: the ending on its panel, else the chosen moment."""
        if self.panel == "ending":
            self._controllers.ending.audition()
        else:
            self._controllers.moments.audition()
