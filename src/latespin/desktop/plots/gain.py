"""The gain over the whole version."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.dsp.effects.gain import SILENT_DB
from latespin.model.effects.effects import Gain
from latespin.model.values.units import NBSP, clock, number
from latespin.render.effects.context import amount_of, control_of

LEFT, TOP, RIGHT, BOTTOM = 40, 30, 12, 24
POINTS = 257
LEAST_SPAN_DB = 12.0  # above and below nothing that is always shown


@plot_for(Gain)
class GainPlot(EffectPlot):
    """Gain in dB from the start to the end of the version, with the playhead on it."""

    NAME = "Gain over the version"
    SAYS = "Gain over the whole version, in dB, and its value at the playhead."

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        area = body.adjusted(LEFT, TOP, -RIGHT, -BOTTOM)
        frames = np.linspace(0.0, float(max(1, shown.context.frames)), POINTS)
        gains = self._gains(shown, frames)
        low, high = _limits(gains)
        self._paint_scale(painter, area, low, high, shown.context.frames / shown.context.rate)
        x = area.left() + area.width() * np.linspace(0.0, 1.0, POINTS)
        y = area.bottom() - area.height() * (np.clip(gains, low, high) - low) / (high - low)
        painter.setPen(QPen(colour("colour"), 2))
        painter.drawPolyline(QPolygonF([QPointF(*point) for point in zip(x.tolist(), y.tolist(), strict=True)]))
        now = float(self._gains(shown, np.array([float(self.frame)]))[0])
        at = area.left() + area.width() * min(1.0, self.frame / max(1, shown.context.frames))
        painter.setPen(QPen(colour("ink"), 1))
        painter.drawLine(QPointF(at, area.top()), QPointF(at, area.bottom()))
        painter.setFont(font(12, SEMI_BOLD))
        painter.drawText(body.adjusted(10, 7, -RIGHT, 0), Qt.AlignmentFlag.AlignRight, _words(now))

    def _gains(self, shown: Shown, frames: np.ndarray) -> np.ndarray:
        clock_ = shown.context.clock
        amounts = amount_of(shown.effect, clock_).at_places(frames)
        return amounts * control_of(shown.effect, "gain_db", clock_).at_places(frames)

    def _paint_scale(self, painter: QPainter, area: QRectF, low: float, high: float, seconds: float) -> None:
        painter.setFont(font(11))
        for level in np.arange(low, high + 1e-6, (high - low) / 4.0).tolist():
            y = area.bottom() - area.height() * (level - low) / (high - low)
            painter.setPen(QPen(colour("ink_soft", 0.6 if level == 0.0 else 0.25), 1))
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
            painter.setPen(colour("ink_soft"))
            place = QRectF(area.left() - 38, y - 8, 32, 16)
            painter.drawText(
                place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, number(level, 0, signed=True)
            )
        below = QRectF(area.left(), area.bottom() + 4, area.width(), 16)
        painter.drawText(below, Qt.AlignmentFlag.AlignLeft, clock(0.0))
        painter.drawText(below, Qt.AlignmentFlag.AlignRight, clock(seconds))


def _limits(gains: np.ndarray) -> tuple[float, float]:
    """Whole multiples of 12 dB around all gains, nothing among them."""
    low = min(-LEAST_SPAN_DB, 12.0 * np.floor(float(gains.min()) / 12.0))
    high = max(LEAST_SPAN_DB, 12.0 * np.ceil(float(gains.max()) / 12.0))
    return float(low), float(high)


def _words(gain_db: float) -> str:
    return "−∞" if gain_db <= SILENT_DB else f"{number(gain_db, 1, signed=True)}{NBSP}dB"
