"""The waveform of a song that is being opened, as far as it has been decoded."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.canvas.waveform_image import draw_waveform
from latespin.desktop.theme.theme import colour
from latespin.desktop.translation import tr

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

HEIGHT, WIDEST = 96, 900


class OpeningWaveform(QWidget):
    """Grows from the left; it keeps its room while it is empty. place_wanted : the second that was clicked on."""

    place_wanted = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(HEIGHT)
        self.setMaximumWidth(WIDEST)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("The song as far as it has been read"))
        self.peaks: Peaks | None = None
        self.share = self.decoded = self.seconds = 0.0
        self._picture: QImage | None = None  # the waveform, which the playhead moves across thirty times a second

    def sizeHint(self) -> QSize:
        return QSize(WIDEST, HEIGHT)

    def show_so_far(self, peaks: "Peaks | None", share: float, decoded: float) -> None:
        """Show peaks of the first ``decoded`` seconds, a share (0 to 1) of the whole song. None clears the picture."""
        if peaks is None or not len(peaks.highest):
            peaks, share = None, 0.0
        if (peaks is None) != (self.peaks is None) or share != self.share:
            self.peaks, self.share, self.decoded = peaks, share, decoded
            self._picture = None
            self.update()

    def show_place(self, seconds: float) -> None:
        """Show where the song is heard; 0 shows nothing."""
        if seconds != self.seconds:
            self.seconds = seconds
            self.update()

    @property
    def _px_per_second(self) -> float:
        return self.width() * self.share / self.decoded if self.decoded else 0.0

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._px_per_second and event.button() == Qt.MouseButton.LeftButton:
            self.place_wanted.emit(event.position().x() / self._px_per_second)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._picture = None

    def _drawn(self, peaks: "Peaks") -> QImage:
        ratio = self.devicePixelRatioF()
        width, height = max(1, round(self.width() * ratio)), max(1, round(self.height() * ratio))
        scale = TimeScale.fitted(self.width(), peaks.frames / peaks.rate / min(1.0, self.share))
        return draw_waveform(peaks, scale, width, height, colour("before"))

    def paintEvent(self, event: QPaintEvent) -> None:
        if self.peaks is None or self.share <= 0.0:
            return
        self._picture = self._picture or self._drawn(self.peaks)
        painter = QPainter(self)
        painter.drawImage(QRectF(self.rect()), self._picture)
        if self.seconds > 0.0:
            x = self.seconds * self._px_per_second
            painter.setPen(QPen(colour("ink"), 2))
            painter.drawLine(QPointF(x, 0), QPointF(x, self.height()))
