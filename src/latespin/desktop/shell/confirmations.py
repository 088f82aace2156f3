"""Questions the window asks before something cannot be undone, or when a file is missing."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QMessageBox, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import OPEN_FILTER, FoundSession, song_path
from latespin.desktop.translation import tr

Role = QMessageBox.ButtonRole


def choose(
    parent: QWidget, title: str, text: str, choices: dict[str, tuple[str, QMessageBox.ButtonRole]], *,
    icon: QMessageBox.Icon = QMessageBox.Icon.Question,
) -> str:  # fmt: skip
    """Ask with a button for each choice and Cancel; returns the key of the chosen one, empty for Cancel. The first is the default."""
    box = QMessageBox(icon, title, text, parent=parent)
    buttons = {key: box.addButton(words, role) for key, (words, role) in choices.items()}
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.setDefaultButton(next(iter(buttons.values())))
    box.exec()
    return next((key for key, button in buttons.items() if button is box.clickedButton()), "")


def ask_about_unsaved(parent: QWidget) -> str:
    """The session has unsaved changes: ``save`` them, ``discard`` them, or stay (empty)."""
    answer = QMessageBox.question(
        parent, tr("Unsaved changes"), tr("This session has changes that are not saved."),
        QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel,
    )  # fmt: skip
    return {QMessageBox.StandardButton.Save: "save", QMessageBox.StandardButton.Discard: "discard"}.get(answer, "")


def ask_about_other_save(parent: QWidget, path: Path) -> str:
    """Another program has saved the session's file: ``replace`` it, save under ``another`` name, or cancel (empty)."""
    text = tr(
        "{0} was saved by another window or program after it was opened here. Saving now would lose those changes."
    ).format(path.name)
    choices = {
        "another": ("Save under another name …", Role.AcceptRole), "replace": ("Replace it", Role.DestructiveRole),
    }  # fmt: skip
    return choose(parent, tr("The session was changed elsewhere"), text, choices, icon=QMessageBox.Icon.Warning)


def ask_for_song(parent: QWidget, document: Document, found: FoundSession) -> None:
    """The song of a session is missing: let the user find it."""
    where = song_path(found.session.track, found.path.parent) if found.session.track else None
    text = tr("The song of {0} is not where it was:\n{1}\n\nIf it was moved, show where it is now.").format(
        found.path.name, where
    )
    if choose(parent, tr("The song is not there"), text, {"find": ("Find the song …", Role.AcceptRole)}):
        name, _ = QFileDialog.getOpenFileName(parent, tr("Find the song"), str(found.path.parent), OPEN_FILTER)
        if name:
            document.adopt(found, Path(name))


def ask_about_change(parent: QWidget, document: Document, found: FoundSession) -> None:
    """The song of a session is no longer the same file: use it, or find another."""
    assert found.loaded is not None
    text = tr("{0} is not the same file as when {1} was saved.").format(found.loaded.track.path, found.path.name)
    choices = {"use": ("Use it as it is now", Role.AcceptRole), "other": ("Find another …", Role.ActionRole)}
    answer = choose(parent, tr("The song has changed"), text, choices)
    if answer == "use":
        document.begin(found.session, found.path, found.loaded, found.digest)
    elif answer == "other":
        ask_for_song(parent, document, found)


def may_stop_exports(parent: QWidget, running: int) -> bool:
    """True where no export is running, or the user agrees to stop those that are."""
    if not running:
        return True
    counted = tr("One export is") if running == 1 else tr("{0} exports are").format(running)
    text = tr("{0} still being written. Stop and leave no file?").format(counted)
    return QMessageBox.question(parent, tr("Export is running"), text) == QMessageBox.StandardButton.Yes
