"""The preview of a video, which moves unless the desktop asks for little motion."""

import math

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QAccessible, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from latespin.desktop.movies.pictures import CardPictures, Preview
from latespin.desktop.theme.theme import colour
from latespin.desktop.translation import tr

PREVIEW = QSize(480, 440)
PREVIEW_MS = 50


class PreviewPane(QWidget):
    """The picture of the video. A press stops it, or lets it go on."""

    ACCESS_ROLE = QAccessible.Role.Animation

    def __init__(self, still: QImage) -> None:
        super().__init__()
        self.setFixedSize(PREVIEW)
        self.setAccessibleName(tr("Preview of the video"))
        self._preview: Preview | None = None
        self._still = still
        self._seconds, self._length = 0.0, math.inf
        self._moves = True
        self._timer = QTimer(self, interval=PREVIEW_MS)
        self._timer.timeout.connect(self._go_on)

    def show_pictures(self, pictures: CardPictures | None) -> None:
        """Preview a card; None where there is none to draw."""
        self._preview = Preview(pictures) if pictures is not None else None
        ribbons = pictures.ribbons if pictures is not None else None
        self._length = ribbons.after.frames / ribbons.after.rate if ribbons is not None else math.inf
        self.set_moving(self._moves)
        self.update()

    def show_moment(self, seconds: float) -> None:
        """Go on from a second of the version."""
        self._seconds = seconds
        self.update()

    def set_moving(self, on: bool) -> None:
        """Let it move, where there is anything that moves, or stand still."""
        self._moves = on
        can_move = self._length < math.inf
        (self._timer.start if on and can_move else self._timer.stop)()
        self.setToolTip(tr("Press to stop the preview, or to let it go on (Space).") if can_move else "")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if can_move else Qt.FocusPolicy.NoFocus)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.set_moving(not self._moves)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space is a press."""
        if event.key() == Qt.Key.Key_Space:
            self.set_moving(not self._moves)
        else:
            super().keyPressEvent(event)

    def _go_on(self) -> None:
        self._seconds = (self._seconds + PREVIEW_MS / 1000) % max(1.0, self._length)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the picture in the middle."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        image = self._still if self._preview is None else self._preview.at(self._seconds)
        if image.isNull():
            painter.setPen(colour("ink_soft"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("The song’s own pictures"))
            return
        scale = min(self.width() / image.width(), self.height() / image.height())
        place = QRectF(0, 0, image.width() * scale, image.height() * scale)
        place.moveLeft((self.width() - place.width()) / 2)
        painter.drawImage(place, image)
        painter.setPen(colour("after" if self.hasFocus() else "line"))
        painter.drawRect(place.adjusted(0.5, 0.5, -0.5, -0.5))
