"""The hall, drawn from its own numbers: how each octave of it decays, and its early reflections."""

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import EVENING, colour, theme
from latespin.desktop.widgets.plot_panel import paint_levels
from latespin.dsp.reverb.hall_design import OCTAVES, early_taps, octave_decays
from latespin.model.effects.effects import Hall
from latespin.model.values.units import number, with_unit
from latespin.render.effects.processors.hall import hall_settings

LOWEST_DB = -60.0
LEFT, BOTTOM, TOP = 34, 18, 10
NAMED = (125.0, 1000.0, 8000.0)  # Hz, whose decays are written down


@plot_for(Hall)
class HallPlot(EffectPlot):
    """Level over time: sticks for early reflections, a line for each octave from 125 Hz (dark) to 8 kHz (light)."""

    NAME = "Decay of the hall"
    SAYS = (
        "The reverb of a single clap: its early reflections, then a line for each octave, 125 Hz darkest, 8 kHz lightest,\n"
        "down to −60 dB. Dimmed while it is not heard."
    )
    MOVES = False

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect, rate = shown.effect, shown.context.rate
        assert isinstance(effect, Hall)
        settings = hall_settings(effect, 1.0)
        decays = octave_decays(settings, rate)
        area = body.adjusted(LEFT, TOP, -10, -BOTTOM)
        begins = settings.pre_delay_seconds
        total = begins + float(decays.max())
        self._paint_axes(painter, area, total)
        delays, gains = early_taps(rate, settings.size)
        self._paint_early(painter, area, total, begins + delays / rate, gains)
        for i, (hz, decay) in enumerate(zip(OCTAVES, decays.tolist(), strict=True)):
            shade = _shade(i)
            painter.setPen(QPen(shade, 2.0))
            painter.drawLine(
                QPointF(self._x(area, begins, total), self._y(area, 0.0)),
                QPointF(self._x(area, begins + decay, total), area.bottom()),
            )
            if hz in NAMED:
                self._paint_name(painter, area, NAMED.index(hz), f"{with_unit(hz, 'Hz', 0)}  {number(decay, 2)} s")

    def _paint_name(self, painter: QPainter, area: QRectF, row: int, words: str) -> None:
        """An octave's decay in the legend, with a piece of its line; the pen has the line's colour."""
        place = area.adjusted(0, 2 + 16 * row, -4, 0)
        left = place.right() - painter.fontMetrics().horizontalAdvance(words)
        middle = place.top() + 0.5 * painter.fontMetrics().height()
        painter.drawLine(QPointF(left - 20, middle), QPointF(left - 6, middle))
        painter.setPen(colour("ink"))
        painter.drawText(place, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight, words)

    def _x(self, area: QRectF, seconds: float, total: float) -> float:
        return area.left() + area.width() * seconds / total

    def _y(self, area: QRectF, level: float) -> float:
        return area.top() + 8.0 + (area.height() - 8.0) * min(1.0, level / LOWEST_DB)

    def _paint_axes(self, painter: QPainter, area: QRectF, total: float) -> None:
        paint_levels(painter, area, lambda level: self._y(area, level))
        step = next(s for s in (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0) if total / s <= 6)
        for n in range(int(total / step) + 1):
            place = QRectF(self._x(area, n * step, total) - 30, area.bottom() + 2, 60, 15)
            painter.drawText(place, Qt.AlignmentFlag.AlignCenter, f"{number(n * step, 0 if step >= 1.0 else 1)} s")

    def _paint_early(self, painter: QPainter, area: QRectF, total: float, times: np.ndarray, gains: np.ndarray) -> None:
        strength = np.sqrt(np.sum(gains.astype(float) ** 2, axis=2))
        levels = 20.0 * np.log10(strength / strength.max())
        lines = [
            QLineF(self._x(area, t, total), area.bottom(), self._x(area, t, total), self._y(area, level))
            for t, level in zip(times.ravel().tolist(), levels.ravel().tolist(), strict=True)
        ]
        painter.setPen(QPen(colour("ink_soft", 0.4), 1.0))
        painter.drawLines(lines)


def _shade(octave: int) -> QColor:
    """The stage's hue, lighter for higher octaves; all of them dark enough on a light ground."""
    low, step = (70, 11) if theme() is EVENING else (60, 8)
    return QColor(colour("colour")).lighter(low + step * octave)
