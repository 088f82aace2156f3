"""Loudness over the song: the course of Before and After, and their histograms."""

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_panel
from latespin.dsp.arrays import Floats
from latespin.model.values.units import clock, number

if TYPE_CHECKING:  # imported where it is used: the first window does not wait for it
    from latespin.analysis.facts import Facts

SPAN_LU, ABOVE_LU, HISTOGRAM, BINS = 30.0, 3.0, 84, 30
LEFT, TOP, BOTTOM = 34, 26, 18
STEP_SECONDS = 0.1


class LoudnessPlot(QWidget):
    """Short-term loudness (3 s) of Before and After on one scale of time, the target across; at the right, how often each level is there."""

    def __init__(self) -> None:
        super().__init__()
        self._sides: list[tuple[str, Floats]] = []
        self._target: float | None = None
        self._words = ""
        self.setMinimumSize(280, 120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("Loudness over the song, Before and After"))
        self.setToolTip(
            tr(
                "Short-term loudness (3 s, EBU R 128) over the song: Before and After in their own colours, on one time scale; the dashed line is the target.\n"
                "At the right, how often the song is how loud. PLR is the true peak above the loudness: the more, the more lively."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(440, 200)

    def show_facts(self, before: "Facts | None", after: "Facts | None", target: float | None) -> None:
        """Show the measurements so far; After may be missing."""
        from latespin.dsp.metering.loudness import to_lufs

        given = (("before", before), ("after", after))
        self._sides = [(side, to_lufs(facts.loudness.windows)) for side, facts in given if facts is not None]
        self._target = target
        message = [number(f.true_peak_dbtp - f.loudness.integrated_lufs, 1) for _, f in given if f is not None]
        self._words = tr("PLR {0} LU").format(" → ".join(message)) if message else ""
        self.setAccessibleDescription(self._words)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self)
        curves = [(side, curve) for side, curve in self._sides if np.any(np.isfinite(curve))]
        if not curves:
            return
        area = body.adjusted(LEFT, TOP, -HISTOGRAM - 12, -BOTTOM)
        top = float(np.ceil(max(float(curve.max()) for _, curve in curves) + ABOVE_LU))
        top = top if self._target is None else max(top, float(np.ceil(self._target + ABOVE_LU)))
        longest = max(len(curve) for _, curve in curves)
        self._paint_axes(painter, area, top, longest * STEP_SECONDS)
        for side, curve in curves:
            self._paint_curve(painter, area, side, curve, top, longest)
            self._paint_histogram(painter, area, side, curve, top)
        self._paint_words(painter, body, area)

    def _y(self, area: QRectF, lufs: Floats, top: float) -> Floats:
        return area.top() + area.height() * np.clip((top - lufs) / SPAN_LU, 0.0, 1.0)

    def _paint_axes(self, painter: QPainter, area: QRectF, top: float, seconds: float) -> None:
        painter.setFont(font(11))
        for level in range(int(top) - int(top) % 6, int(top - SPAN_LU), -6):
            y = float(self._y(area, np.array([float(level)]), top)[0])
            painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right() + HISTOGRAM, y))
            painter.setPen(colour("ink_soft"))
            place = QRectF(0, y - 8, area.left() - 5, 16)
            painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, number(level, 0))
        for part in (0.0, 0.5, 1.0):
            x = area.left() + part * area.width()
            align = {0.0: Qt.AlignmentFlag.AlignLeft, 1.0: Qt.AlignmentFlag.AlignRight}.get(
                part, Qt.AlignmentFlag.AlignHCenter
            )
            left = {0.0: x, 1.0: x - 60}.get(part, x - 30)
            painter.drawText(QRectF(left, area.bottom() + 2, 60, 15), align, clock(part * seconds))
        if self._target is not None:
            y = float(self._y(area, np.array([self._target]), top)[0])
            painter.setPen(QPen(colour("level"), 1.5, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right() + HISTOGRAM, y))

    def _paint_curve(self, painter: QPainter, area: QRectF, side: str, curve: Floats, top: float, longest: int) -> None:
        count = max(2, int(area.width() / 2))
        places = np.linspace(0, len(curve) - 1, min(count, len(curve))).astype(np.int64)
        xs = area.left() + area.width() * places / max(1, longest - 1)
        ys = self._y(area, np.maximum(curve[places], -200.0), top)
        painter.setPen(QPen(colour(side), 2.0 if side == "after" else 1.5))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in zip(xs.tolist(), ys.tolist(), strict=True)]))

    def _paint_histogram(self, painter: QPainter, area: QRectF, side: str, curve: Floats, top: float) -> None:
        """Bars for After; an outline for Before."""
        shares, edges = np.histogram(curve[np.isfinite(curve)], BINS, (top - SPAN_LU, top))
        widths = (HISTOGRAM - 8) * shares / max(1, shares.max())
        ys = self._y(area, edges, top)
        left = area.right() + 8
        if side == "after":
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour(side, 0.55))
            for i, width in enumerate(widths.tolist()):
                painter.drawRect(QRectF(left, ys[i + 1], width, ys[i] - ys[i + 1] - 0.5))
            return
        points = []
        for i, width in enumerate(widths.tolist()):
            points += [QPointF(left + width, ys[i]), QPointF(left + width, ys[i + 1])]
        painter.setPen(QPen(colour(side), 1.5))
        painter.drawPolyline(QPolygonF(points))

    def _paint_words(self, painter: QPainter, body: QRectF, area: QRectF) -> None:
        painter.setFont(font(11))
        x = area.left()
        for side, _ in self._sides:
            painter.setPen(colour(side))
            text = tr("Before") if side == "before" else tr("After")
            painter.drawText(QRectF(x, body.top() + 6, 60, 15), Qt.AlignmentFlag.AlignLeft, text)
            x += painter.fontMetrics().horizontalAdvance(text) + 14
        painter.setPen(colour("ink_soft"))
        painter.drawText(
            body.adjusted(0, 6, -12, 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop, self._words
        )
