"""Dragging a file out of the window."""

from pathlib import Path

from PySide6.QtCore import QMimeData, Qt, QUrl
from PySide6.QtGui import QDrag
from PySide6.QtWidgets import QWidget


def drag_file(source: QWidget, file: Path) -> None:
    """Hang a file on the pointer, whose button is pressed, until it is dropped on another program, or anywhere."""
    drag = QDrag(source)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(file))])
    drag.setMimeData(data)
    drag.exec(Qt.DropAction.CopyAction)
