"""Copy and paste moments between places, versions, songs and windows."""

from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from latespin.desktop.panels.moments_panel import MomentsPanel
from latespin.desktop.session.clipboard import PLACED, put, taken
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.model.documents.version_edits import new_id
from latespin.model.moments.declaration import moment_title
from latespin.model.moments.moments import AnyMoment, Moments
from latespin.model.moments.moving import begun_at, has_length
from latespin.model.moments.together import moved_along
from latespin.model.version import Stages

if TYPE_CHECKING:
    from latespin.desktop.controllers.moments import MomentController

MENU = "&Moments"


class MomentClipboard(QObject):
    """Works on the moments that are chosen."""

    message = Signal(str, bool)

    def __init__(self, document: Document, panel: MomentsPanel, moments: "MomentController") -> None:
        super().__init__(moments)
        self._document, self._panel, self._moments = document, panel, moments

    @command("copy", "C&opy the moments", menu=MENU, keys="Ctrl+C")
    def copy(self) -> None:
        """Copy the chosen moments, to put them elsewhere."""
        chosen = self._moments.all_chosen
        if chosen:
            put(PLACED, "moments", Stages(moments=Moments(placed=tuple(chosen))), self._document.layout)
            self.message.emit(tr("Copied: {0}. Ctrl+V puts it at the playhead.").format(named(chosen)), False)

    @command("paste", "Pas&te them here", menu=MENU, keys="Ctrl+V")
    def paste(self) -> None:
        """The copied moments once more, the first at the marked range or the beat nearest to the playhead."""
        copied, grid = self.copied(), self._document.grid
        if not copied:
            self.message.emit(tr("No moment was copied yet. Ctrl+C copies the chosen ones."), False)
            return
        lead, start = copied[0], self._moments.where(1.0)[0]
        if not all(has_length(moment, grid) for moment in copied):
            self.message.emit(tr("On these beats the copied moment has no length. Set the length of the copy."), False)
        moved = moved_along(copied, lead, begun_at(lead, start, grid), grid)
        pasted = [replace(moment, id=new_id()) for moment in moved]
        self._panel.chosen, self._panel.others = pasted[0].id, frozenset(moment.id for moment in pasted[1:])
        self._moments.edit_step(
            tr("Paste {0}").format(named(pasted)), self._document.stages.moments.with_all_changed(pasted)
        )
        self._moments.panel_wanted.emit("moments")

    def copied(self) -> list[AnyMoment]:
        """The moments on the clipboard, in order of place."""
        recipe, _ = taken()
        grid = self._document.grid
        placed = recipe.stages.moments.placed if recipe and recipe.name == PLACED else ()
        return sorted(placed, key=lambda moment: moment.start.at(grid))


def named(moments: list[AnyMoment]) -> str:
    """What moments are called in a step of undo."""
    return tr(moment_title(moments[0])).lower() if len(moments) == 1 else tr("{0} moments").format(len(moments))
