"""The end of the version against time and level: the song's own envelope, and the decay of what follows it."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_levels, paint_panel
from latespin.model.values.units import number

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

LOWEST_DB = -72.0
BEFORE_SECONDS = 4.0
LEFT, BOTTOM = 40, 18
BIN = 256


@dataclass(frozen=True)
class End:
    """The end of a version, seconds of After: ``at`` its place, ``until`` the silence, ``repeats`` of an echo.

    decay : seconds for 60 dB, or None.  says : the length in words.  word : for the place.
    """

    at: float
    until: float
    decay: float | None
    says: str
    word: str = "end"
    repeats: tuple[float, ...] = ()


class TailPlot(QWidget):
    """Nothing can be changed here; the numbers beside it and the waveform can."""

    def __init__(self) -> None:
        super().__init__()
        self._end: End | None = None
        self._peaks: Peaks | None = None
        self._measured = False
        self.setMinimumSize(300, 110)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("Decay of the ending"))
        self.setToolTip(
            tr(
                "Level over time from four seconds before the end: the song, and what follows it, as measured; the line is the decay asked for."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(380, 160)

    def show_end(self, end: End | None, peaks: "Peaks | None", *, measured: bool) -> None:
        """Show an ending; ``peaks`` of After, measured or expected."""
        if (end, peaks, measured) != (self._end, self._peaks, self._measured):
            self._end, self._peaks, self._measured = end, peaks, measured
            self.setAccessibleDescription(end.says if end else "")
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self)
        if self._end is None or self._peaks is None:
            painter.setFont(font(12))
            painter.setPen(colour("ink_soft"))
            painter.drawText(body, Qt.AlignmentFlag.AlignCenter, tr("The end of the version is drawn here."))
            return
        start = max(0.0, self._end.at - BEFORE_SECONDS)
        stop = max(self._end.until, self._end.at + 1.0) + 0.3
        area = body.adjusted(LEFT, 10, -10, -BOTTOM)
        self._paint_axes(painter, area, start, stop)
        self._paint_envelope(painter, area, start, stop)
        self._paint_decay(painter, area, start, stop)

    def _x(self, area: QRectF, seconds: float, start: float, stop: float) -> float:
        return area.left() + (seconds - start) / (stop - start) * area.width()

    def _y(self, area: QRectF, level: float) -> float:
        return area.top() + min(1.0, max(0.0, level / LOWEST_DB)) * area.height()

    def _paint_axes(self, painter: QPainter, area: QRectF, start: float, stop: float) -> None:
        assert self._end is not None
        paint_levels(painter, area, lambda level: self._y(area, level))
        step = next(s for s in (1, 2, 5, 10, 20, 60) if (stop - start) / s <= 10)
        for n in range(int((start - self._end.at) // step) + 1, int((stop - self._end.at) // step) + 1):
            x = self._x(area, self._end.at + n * step, start, stop)
            painter.drawText(
                QRectF(x - 24, area.bottom() + 2, 48, 15),
                Qt.AlignmentFlag.AlignCenter,
                self._end.word if n == 0 else f"{number(n * step, 0, signed=True)} s",
            )

    def _paint_envelope(self, painter: QPainter, area: QRectF, start: float, stop: float) -> None:
        assert self._peaks is not None
        assert self._end is not None
        width = max(2, int(area.width()))
        edges = np.linspace(start, stop, width + 1) * self._peaks.rate / BIN
        energy = np.concatenate(([0.0], np.cumsum(self._peaks.rms.astype(np.float64) ** 2)))
        first = np.clip(edges[:-1].astype(int), 0, len(energy) - 2)
        last = np.clip(np.maximum(edges[1:].astype(int), first + 3), 1, len(energy) - 1)
        level = 10.0 * np.log10(np.maximum(1e-12, (energy[last] - energy[first]) / np.maximum(1, last - first)))
        level[edges[:-1] >= len(energy) - 1] = LOWEST_DB
        xs = area.left() + np.arange(width) + 0.5
        line = [QPointF(x, self._y(area, v)) for x, v in zip(xs.tolist(), level.tolist(), strict=True)]
        split = self._x(area, self._end.at, start, stop)
        for low, high, token in ((area.left(), split, "after"), (split, area.right(), "ending")):
            part = [point for point in line if low - 1 <= point.x() <= high + 1]
            if len(part) < 2:
                continue
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour(token, 0.55 if self._measured else 0.25))
            painter.drawPolygon(
                QPolygonF([QPointF(part[0].x(), area.bottom()), *part, QPointF(part[-1].x(), area.bottom())])
            )
        painter.setPen(QPen(colour("ending"), 2))
        painter.drawLine(QPointF(split, area.top()), QPointF(split, area.bottom()))

    def _paint_decay(self, painter: QPainter, area: QRectF, start: float, stop: float) -> None:
        """The decay asked for, from the level at the end."""
        end, peaks = self._end, self._peaks
        assert end is not None
        assert peaks is not None
        painter.setFont(font(11, SEMI_BOLD))
        painter.setPen(colour("ending"))
        painter.drawText(area.adjusted(0, 0, -4, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, end.says)
        painter.setPen(QPen(colour("ending"), 1.5))
        for seconds in end.repeats:
            x = self._x(area, seconds, start, stop)
            painter.drawLine(QPointF(x, area.bottom() - 10.0), QPointF(x, area.bottom()))
        if end.decay is None:
            return
        at = int(end.at * peaks.rate / BIN)
        near = peaks.rms[at : at + max(4, round(0.15 * peaks.rate / BIN))]
        top = 10.0 * float(np.log10(max(1e-9, float(np.mean(near.astype(np.float64) ** 2))))) if len(near) else -12.0
        reach = end.decay * (LOWEST_DB - top) / -60.0
        painter.setPen(QPen(colour("ink"), 1.5, Qt.PenStyle.DashLine))
        a, b = self._x(area, end.at, start, stop), self._x(area, end.at + reach, start, stop)
        painter.drawLine(QPointF(a, self._y(area, top)), QPointF(b, self._y(area, LOWEST_DB)))
