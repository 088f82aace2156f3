"""A cover as it is shown in a dialog; a picture file can be dropped onto it."""

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QPixmap
from PySide6.QtWidgets import QLabel

from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.translation import tr

SIDE = 200


class CoverView(QLabel):
    """``dropped`` tells the path of a picture file that was dropped."""

    dropped = Signal(Path)

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(SIDE, SIDE)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setAccessibleName(tr("Cover picture"))
        self.setAcceptDrops(True)

    def show_picture(self, data: bytes) -> None:
        """Show an encoded picture, or say that there is none."""
        ratio = self.devicePixelRatioF()
        image = read_picture(data, round(SIDE * ratio))[0] if data else None
        if image is None or image.isNull():
            self.setPixmap(QPixmap())
            self.setText(tr("no cover"))
            return
        shown = QPixmap.fromImage(image)
        shown.setDevicePixelRatio(ratio)
        self.setPixmap(shown)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Accept one local file."""
        if _file_in(event) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Tell which file it is."""
        path = _file_in(event)
        if path is not None:
            event.acceptProposedAction()
            self.dropped.emit(path)


def _file_in(event: QDropEvent) -> Path | None:
    urls = event.mimeData().urls()
    return Path(urls[0].toLocalFile()) if len(urls) == 1 and urls[0].isLocalFile() else None
