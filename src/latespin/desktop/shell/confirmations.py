"""What the window asks before it does something that cannot be taken back, or when something is missing."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QMessageBox

from latespin.desktop.session.loading import OPEN_FILTER, FoundSession, song_path

if TYPE_CHECKING:
    from latespin.desktop.shell.main_window import Window


def may_leave(window: "Window") -> bool:
    """Whether the session may be replaced or closed: saved, or the person does not mind."""
    if not window.document.modified:
        return True
    apply = QMessageBox.question(
        window, "Unsaved changes", "This session has changes that are not saved.",
        QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel,
    )  # fmt: skip
    if apply == QMessageBox.StandardButton.Save:
        return window.save()
    return apply == QMessageBox.StandardButton.Discard


def ask_about_other_save(window: "Window", path: Path) -> str:
    """The session's file was changed since it was opened here: ``replace`` it, save under ``another`` name, or leave it (empty)."""
    box = QMessageBox(
        QMessageBox.Icon.Warning,
        "The session was changed elsewhere",
        f"{path.name} was saved by another window or program after it was opened here. Saving now would lose those changes.",
        parent=window,
    )
    another = box.addButton("Save under another name …", QMessageBox.ButtonRole.AcceptRole)
    replace = box.addButton("Replace it", QMessageBox.ButtonRole.DestructiveRole)
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.setDefaultButton(another)
    box.exec()
    return {another: "another", replace: "replace"}.get(box.clickedButton(), "")  # type: ignore[arg-type,call-overload]


def ask_for_song(window: "Window", found: FoundSession) -> None:
    """The song of a session is not where it was: show where it is, or leave it."""
    where = song_path(found.session.track, found.path.parent) if found.session.track else None
    box = QMessageBox(
        QMessageBox.Icon.Question,
        "The song is not there",
        f"The song of {found.path.name} is not where it was:\n{where}\n\nIf it was moved, show where it is now.",
        parent=window,
    )
    find = box.addButton("Find the song …", QMessageBox.ButtonRole.AcceptRole)
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.exec()
    if box.clickedButton() is find:
        name, _ = QFileDialog.getOpenFileName(window, "Find the song", str(found.path.parent), OPEN_FILTER)
        if name:
            window.document.adopt(found, Path(name))


def ask_about_change(window: "Window", found: FoundSession) -> None:
    """The song of a session is another file than it was: use it, or find another."""
    assert found.loaded is not None
    box = QMessageBox(
        QMessageBox.Icon.Question,
        "The song has changed",
        f"{found.loaded.track.path} is not the same file as when {found.path.name} was saved.",
        parent=window,
    )
    use = box.addButton("Use it as it is now", QMessageBox.ButtonRole.AcceptRole)
    other = box.addButton("Find another …", QMessageBox.ButtonRole.ActionRole)
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.exec()
    if box.clickedButton() is use:
        window.document.begin(found.session, found.path, found.loaded, found.digest)
    elif box.clickedButton() is other:
        ask_for_song(window, found)


def may_stop_exports(window: "Window") -> bool:
    """Whether exports on their way may be stopped."""
    running = [*window.work.active("export"), *window.work.active("set")]
    if not running:
        return True
    text = f"{len(running)} export{'s are' if len(running) > 1 else ' is'} still being written. Stop and leave no file?"
    return QMessageBox.question(window, "Export is running", text) == QMessageBox.StandardButton.Yes
