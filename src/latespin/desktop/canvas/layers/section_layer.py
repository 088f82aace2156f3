"""The song's sections: a band for each along the top of Before, and dragging their borders."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import Layer
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font

SECTIONS_TALL = 18.0
REACH = 5.0  # to each side of a border
PADDING = 6.0
STRENGTHS = {"chorus": 0.42, "verse": 0.26, "bridge": 0.26}  # of a band's colour; others are fainter
FAINT = 0.13


@dataclass(frozen=True)
class SectionBand:
    """A section as it is drawn: seconds of Before, its name, its letter (empty where the name says it), its kind."""

    start: float
    end: float
    name: str
    letter: str
    kind: str


class SectionLayer(Layer):
    """moved : a section's number, the second of Before at which it is to start, and whether that snapped.  rename_wanted : the number of one to be renamed."""

    moved = Signal(int, float, bool)
    rename_wanted = Signal(int)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.bands: tuple[SectionBand, ...] = ()
        self._held: int | None = None

    def show(self, bands: tuple[SectionBand, ...]) -> None:
        """Show the sections of a song."""
        if bands != self.bands:
            self.bands = bands
            self.changed.emit()

    def rect(self, number: int) -> QRectF:
        """The band of a section, as far as it is in view."""
        band, scale, top = self.bands[number], self.geometry.scale, self.geometry.bands.before.top()
        left, right = max(0.0, scale.x(band.start)), min(scale.width, scale.x(band.end))
        return QRectF(left, top, max(0.0, right - left), SECTIONS_TALL)

    def number_at(self, at: QPointF) -> int | None:
        """The section whose band is under the pointer."""
        return next((number for number in range(len(self.bands)) if self.rect(number).contains(at)), None)

    def _border_at(self, at: QPointF) -> int | None:
        """The section, not the first, whose start is under the pointer."""
        top, scale = self.geometry.bands.before.top(), self.geometry.scale
        if not top <= at.y() <= top + SECTIONS_TALL:
            return None
        away = {number: abs(scale.x(band.start) - at.x()) for number, band in enumerate(self.bands) if number}
        nearest = min(away, key=lambda number: away[number], default=None)
        return nearest if nearest is not None and away[nearest] <= REACH else None

    def press(self, at: QPointF) -> bool:
        self._held = self._border_at(at)
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        assert self._held is not None
        seconds = self.geometry.scale.at(at.x())
        snapped = self.geometry.snapped(seconds, free=free)
        self.moved.emit(self._held, snapped, snapped != seconds)

    def release(self) -> None:
        self._held = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        return Qt.CursorShape.SizeHorCursor if self._border_at(at) is not None else None

    def rename(self, at: QPointF) -> bool:
        """Ask for another name of the section under the pointer; False if there is none."""
        number = self.number_at(at)
        if number is not None:
            self.rename_wanted.emit(number)
        return number is not None

    def paint(self, painter: QPainter) -> None:
        """Draw bands with their names, and a line down the waveform at each border."""
        before, scale = self.geometry.bands.before, self.geometry.scale
        for number, band in enumerate(self.bands):
            rect = self.rect(number)
            if rect.width() <= 0.0:
                continue
            painter.fillRect(rect, colour("ground", 0.92))
            painter.fillRect(rect.adjusted(1.0, 0.0, -1.0, -1.0), colour("before", STRENGTHS.get(band.kind, FAINT)))
            if number and scale.x(band.start) > 0.0:
                painter.setPen(QPen(colour("ink", 0.45), 1, Qt.PenStyle.DashLine))
                painter.drawLine(QPointF(rect.left(), rect.bottom()), QPointF(rect.left(), before.bottom()))
            self._write(painter, rect.adjusted(PADDING, 0.0, -PADDING, 0.0), band)

    def _write(self, painter: QPainter, rect: QRectF, band: SectionBand) -> None:
        """The name and the letter, or as much of them as there is room for."""
        painter.setFont(font(11, SEMI_BOLD))
        text, wide = band.name or band.letter, painter.fontMetrics().horizontalAdvance
        if wide(text) > rect.width():
            text = band.letter if band.letter and wide(band.letter) <= rect.width() else ""
        painter.setPen(colour("ink"))
        painter.drawText(rect, Qt.AlignmentFlag.AlignVCenter, text)
        if band.letter and text == band.name:
            rest = rect.adjusted(wide(text) + PADDING, 0.0, 0.0, 0.0)
            painter.setFont(font(11))
            painter.setPen(colour("ink", 0.7))
            if wide(band.letter) <= rest.width():
                painter.drawText(rest, Qt.AlignmentFlag.AlignVCenter, band.letter)
