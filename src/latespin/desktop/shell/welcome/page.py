"""The page of an empty window."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QIcon, QPainter, QPaintEvent, QPen, QPixmap, QShortcut
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.canvas.waveform_image import draw_waveform
from latespin.desktop.session.shapes import peaks_of
from latespin.desktop.shell.welcome.opening_waveform import OpeningWaveform
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import icon, quiet_label
from latespin.model.values.units import clock

if TYPE_CHECKING:
    from latespin.render.hearing import SoFar

RECENT_SHOWN, RECENT_WIDTH = 4, 420
SHAPE = QSize(96, 20)


class Welcome(QWidget):
    """A place to drop a song, two buttons, and the songs opened last; or the song that is being opened, which can be played already.

    listen_wanted : play or pause it.  place_wanted : play it from a second on.
    """

    open_wanted = Signal()
    demo_wanted = Signal()
    recent_wanted = Signal(str)
    listen_wanted = Signal()
    place_wanted = Signal(float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        column = QVBoxLayout(self)
        column.setSpacing(12)
        column.addStretch(3)
        self._title = QLabel(tr("Drop a song here"))
        self._title.setFont(font(24, SEMI_BOLD))
        self._words = quiet_label("", 14)
        for label in (self._title, self._words):
            label.setAlignment(Qt.AlignmentFlag.AlignCenter)
            column.addWidget(label)
        self.choose = QPushButton(tr("Choose a song …"))
        self.choose.setToolTip(tr("Open a song or a saved session (Ctrl+O)."))
        self.choose.clicked.connect(self.open_wanted)
        self.demo = QPushButton(tr("Open the demo"))
        self.demo.setToolTip(tr("A made-up song with four versions, to look around in."))
        self.demo.clicked.connect(self.demo_wanted)
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addStretch()
        row.addWidget(self.choose)
        row.addWidget(self.demo)
        row.addStretch()
        column.addSpacing(8)
        column.addLayout(row)
        column.addSpacing(16)
        self._offered: tuple[list[str], dict[str, str], str] | None = None
        self.waveform = OpeningWaveform()
        self.waveform.place_wanted.connect(self.place_wanted)
        around = QHBoxLayout()
        around.setContentsMargins(48, 0, 48, 0)
        around.addWidget(self.waveform)
        column.addLayout(around)
        self.listen = QPushButton()
        self.listen.setToolTip(tr("Hear the song while it is being opened (Space)."))
        self.listen.clicked.connect(self.listen_wanted)
        self._space = QShortcut(Qt.Key.Key_Space, self)
        self._space.activated.connect(self.listen.click)
        column.addWidget(self.listen, 0, Qt.AlignmentFlag.AlignCenter)
        self.show_place(0.0, playing=False)
        self._show_song(on=False)
        self._recent = QVBoxLayout()
        self._recent.setSpacing(2)
        column.addLayout(self._recent)
        column.addStretch(4)

    def show_place(self, seconds: float, *, playing: bool) -> None:
        """Show where the song that is being opened is heard."""
        self.listen.setText(f"{tr('Pause') if playing else tr('Listen')}  {clock(seconds)}")
        self.listen.setIcon(icon("pause" if playing else "play"))
        self.waveform.show_place(seconds)

    def _show_song(self, *, on: bool) -> None:
        if on:
            words = tr("Space plays it while it is being read. Click on the waveform to hear it from there.")
        else:
            words = tr("Sound and video files are welcome. The song itself is never changed.")
        self._words.setText(words)
        self.waveform.setVisible(on)
        self.listen.setVisible(on)
        self.listen.setEnabled(on)
        self._space.setEnabled(on)  # else Space presses the button that has the focus

    def show_opening(self, says: str, so_far: "SoFar | None", share: float) -> None:
        """Show which song is being opened, and the share of it that has been read."""
        self._title.setText(says)
        self._empty_recent()
        self._offered = None
        self._show_song(on=True)
        self.listen.setEnabled(so_far is not None)
        if so_far is None:
            self.waveform.show_so_far(None, 0.0, 0.0)
        else:
            self.waveform.show_so_far(so_far.peaks, share, so_far.sound.frames / so_far.rate)

    def show_recent(self, recent: list[str], shapes: dict[str, str]) -> None:
        """Show the songs and sessions opened last, with their shapes where they are known."""
        offered = list(recent), dict(shapes), colour("before").name()
        if offered == self._offered:
            return  # the buttons stay, so that none goes while it is pressed
        self._offered = offered
        self._title.setText(tr("Drop a song here"))
        self._empty_recent()
        self._show_song(on=False)
        for name in recent[:RECENT_SHOWN]:
            button = QPushButton(Path(name).name)
            button.setToolTip(name)
            button.setFlat(True)
            button.setStyleSheet(
                "QPushButton { background: transparent; border-color: transparent; text-align: left; }"
            )
            button.setIconSize(SHAPE)
            button.setIcon(_shape_icon(shapes.get(name, ""), self.devicePixelRatioF()))
            button.setMinimumWidth(RECENT_WIDTH)
            button.clicked.connect(lambda _=False, n=name: self.recent_wanted.emit(n))
            self._recent.addWidget(button, 0, Qt.AlignmentFlag.AlignCenter)

    def _empty_recent(self) -> None:
        while self._recent.count():
            item = self._recent.takeAt(0)
            widget = item.widget() if item else None
            if widget:
                widget.deleteLater()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(colour("line"), 2, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(16, 8, -16, -8), 16, 16)


def _shape_icon(shape: str, ratio: float) -> QIcon:
    """A small waveform; empty where no shape is known, so that names stay below one another."""
    pixmap, peaks = QPixmap(SHAPE * ratio), peaks_of(shape)
    pixmap.fill(Qt.GlobalColor.transparent)
    if peaks is not None:
        scale = TimeScale.fitted(SHAPE.width(), peaks.frames / peaks.rate)
        pixmap = QPixmap.fromImage(draw_waveform(peaks, scale, pixmap.width(), pixmap.height(), colour("before")))
    pixmap.setDevicePixelRatio(ratio)
    return QIcon(pixmap)
