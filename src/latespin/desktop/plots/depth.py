"""The depth under water."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QLinearGradient, QPainter, QPainterPath, QPen

from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.dsp.effects.underwater import CROSSING, corners
from latespin.model.effects.effects import Underwater
from latespin.model.values.units import number, with_unit
from latespin.render.effects.processors.underwater import underwater_settings

MARKS = (0, 25, 50, 75, 100)


@plot_for(Underwater)
class DepthPlot(EffectPlot):
    """Water with the song in it, and the highs that remain."""

    NAME = "Depth under water"
    SAYS = "Depth and cut-off frequency at the playhead, with their drift."

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect = shown.effect
        assert isinstance(effect, Underwater)
        seconds, depth = self.frame / shown.context.rate, self.amount
        surface = body.top() + 34.0
        water = self._surface(body, surface, seconds)
        ramp = QLinearGradient(0.0, surface, 0.0, body.bottom())
        ramp.setColorAt(0.0, colour("ending", 0.40))
        ramp.setColorAt(1.0, colour("ending", 0.10))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ramp)
        painter.save()
        clip = QPainterPath()
        clip.addRoundedRect(body, 8, 8)
        painter.setClipPath(clip)
        painter.drawPath(water)
        painter.restore()
        self._paint_scale(painter, body, surface)
        y = self._y(body, surface, depth)
        x = body.center().x() + 10.0 * np.sin(2 * np.pi * 0.11 * seconds)
        painter.setPen(QPen(colour("colour"), 1.5, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(body.left() + 44, y), QPointF(body.right() - 10, y))
        painter.setPen(QPen(colour("ground"), 2))
        painter.setBrush(colour("colour"))
        painter.drawEllipse(QPointF(x, y), 9, 9)
        settings = underwater_settings(effect, 0.1)
        corner = float(corners(settings, np.array([depth]), np.array([seconds]))[0])
        painter.setFont(font(12, SEMI_BOLD))
        painter.setPen(colour("ink"))
        words = tr("above the surface") if depth < CROSSING else tr("highs to {0}").format(with_unit(corner, "Hz", 0))
        painter.drawText(
            body.adjusted(10, 0, -10, -7), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight, words
        )
        self.caption(painter, body, tr("{0} % deep").format(number(100 * depth, 0)))

    def _surface(self, body: QRectF, surface: float, seconds: float) -> QPainterPath:
        path = QPainterPath(QPointF(body.left(), body.bottom()))
        for x in np.linspace(body.left(), body.right(), 40).tolist():
            wave = 2.0 * np.sin(x / 22.0 + 1.7 * seconds) + 1.2 * np.sin(x / 13.0 - 1.1 * seconds)
            path.lineTo(x, surface + wave)
        path.lineTo(body.right(), body.bottom())
        path.closeSubpath()
        return path

    def _y(self, body: QRectF, surface: float, depth: float) -> float:
        return surface + (body.bottom() - 30.0 - surface) * depth

    def _paint_scale(self, painter: QPainter, body: QRectF, surface: float) -> None:
        painter.setFont(font(11))
        for mark in MARKS:
            y = self._y(body, surface, mark / 100.0)
            painter.setPen(QPen(colour("ink_soft", 0.6), 1))
            painter.drawLine(QPointF(body.left() + 36, y), QPointF(body.left() + 42, y))
            painter.setPen(colour("ink_soft"))
            painter.drawText(
                QRectF(body.left(), y - 8, 32, 16),
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                str(mark),
            )
