"""The session being edited: its history, and edits of its versions and its beat grid."""

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal

from latespin.desktop.translation import tr
from latespin.model.documents import version_edits
from latespin.model.documents.documents import Session
from latespin.model.documents.history import History
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import LONGEST_NOTE, Stages, Version


class EditedSession(QObject):
    """Main thread only. An edit replaces the session by another value and is a step of undo."""

    session_changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._history: History[Session] = History(Session())
        self._saved = self._history.value
        self._read_grid: Grid | None = None

    @property
    def session(self) -> Session:
        """The session as it is now."""
        return self._history.value

    @property
    def version(self) -> Version | None:
        """The version being worked on."""
        return self.session.version(self.session.chosen)

    @property
    def stages(self) -> Stages:
        """The stages of the version being worked on."""
        return self.version.stages if self.version else Stages()

    @property
    def modified(self) -> bool:
        """Whether there is anything that is not in the session's file."""
        return self.session != self._saved

    def edit_stages(self, label: str, stages: Stages, merge: str = "") -> None:
        """Change the version being worked on; equal ``merge`` words in a row are one step of undo."""
        if self.version:
            self._edit_version(label, replace(self.version, stages=stages), merge)

    @property
    def grid(self) -> Grid | None:
        """The track's grid: as corrected in this session, otherwise as read."""
        return self.session.grid or self._read_grid

    def set_grid(self, label: str, grid: Grid | None, merge: str = "") -> None:
        """Set the track's grid; positions in beats stay on their beats."""
        moved = self.session.on_grid(self.grid, grid or self._read_grid)
        self._edit(label, replace(moved, grid=grid), merge)

    def edit_session(self, label: str, session: Session, merge: str = "") -> None:
        """Change the session as a whole: its markers, or several versions at once."""
        self._edit(label, session, merge)

    def _edit_version(self, label: str, version: Version, merge: str = "") -> None:
        self._edit(label, version_edits.with_changed(self.session, version), merge)

    def _edit(self, label: str, session: Session, merge: str = "") -> None:
        if self._history.edit(label, session, merge):
            self.session_changed.emit()

    def end_drag(self) -> None:
        """Start a new undo step with the next edit."""
        self._history.seal()

    def choose(self, ident: str) -> None:
        """Work on another version. Choosing is not a step of undo."""
        if ident != self.session.chosen and self.session.version(ident):
            was_modified = self.modified
            self._history.value = replace(self.session, chosen=ident)
            if not was_modified:
                self._saved = self._history.value
            self._history.seal()
            self.session_changed.emit()

    def add_version(self, name: str, stages: Stages) -> None:
        """Add a version after the chosen one and choose it."""
        version = Version(id="", name=name, stages=stages)
        self._edit(tr("Add version"), version_edits.with_version(self.session, version))

    def duplicate_version(self) -> None:
        """Add a copy of the chosen version and choose it."""
        if self.version:
            self._edit(tr("Duplicate version"), version_edits.with_version(self.session, self.version))

    def rename_version(self, ident: str, name: str) -> None:
        """Give a version another name; an empty one is ignored."""
        version = self.session.version(ident)
        if version and name.strip():
            self._edit_version(tr("Rename version"), replace(version, name=name.strip()))

    def favour_version(self, ident: str, on: bool) -> None:
        """Mark a version as a favourite, or take the mark away."""
        version = self.session.version(ident)
        if version and version.favourite != on:
            label = tr("Mark as a favourite") if on else tr("Remove the favourite mark")
            self._edit_version(label, replace(version, favourite=on))

    def note_version(self, ident: str, note: str) -> None:
        """Give a version a note, at most as long as one can be."""
        version, note = self.session.version(ident), note.strip()[:LONGEST_NOTE]
        if version and version.note != note:
            self._edit_version(tr("Note of a version"), replace(version, note=note))

    def delete_version(self, ident: str) -> None:
        """Delete a version; undo brings it back."""
        self._edit(tr("Delete version"), version_edits.without_version(self.session, ident))

    def move_version(self, ident: str, by: int) -> None:
        """Move a version up (−1) or down (+1) the list."""
        self._edit(tr("Move version"), version_edits.with_version_moved(self.session, ident, by))

    def undo(self) -> None:
        """One step back."""
        self._history.undo()
        self._mend_choice()

    def redo(self) -> None:
        """One step forward."""
        self._history.redo()
        self._mend_choice()

    def _mend_choice(self) -> None:
        self._history.value = version_edits.with_valid_choice(self.session)
        self.session_changed.emit()

    @property
    def undo_label(self) -> str:
        """The label of the next undo step."""
        return self._history.undo_label()

    @property
    def redo_label(self) -> str:
        """The label of the next redo step."""
        return self._history.redo_label()
