"""A head from above, and the song on its way round it."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen

from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.model.effects.effects import Spin
from latespin.model.values.units import number
from latespin.render.effects.processors.spin import turns_of

TRAIL = 48
TRAIL_SECONDS = 1.6


@plot_for(Spin)
class SpinPlot(EffectPlot):
    """Where the song is now, where it came from, and how high."""

    NAME = "The way round the head"
    SAYS = (
        "The head from above, its nose ahead. The dot is where the song is now: larger above, smaller below the ears."
    )

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect = shown.effect
        assert isinstance(effect, Spin)
        centre = QPointF(body.center().x(), body.center().y() + 6)
        radius = min(body.width(), body.height()) * 0.38
        self._paint_head(painter, centre, radius * 0.36)
        reach = radius * (0.36 + 0.64 * self.amount)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("line"), 1.5, Qt.PenStyle.DashLine))
        painter.drawEllipse(centre, reach, reach)
        turns = turns_of(effect, shown.context)
        back = max(1, round(TRAIL_SECONDS * shown.context.rate))
        angles = 2.0 * np.pi * turns(np.linspace(self.frame - back, self.frame, TRAIL))
        points = [QPointF(centre.x() + reach * np.sin(a), centre.y() - reach * np.cos(a)) for a in angles.tolist()]
        for i in range(1, TRAIL):
            painter.setPen(QPen(colour("colour", 0.7 * i / TRAIL), 3.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(points[i - 1], points[i])
        height = np.sin(angles[-1]) * effect.elevation_degrees / 60.0
        size = 8.0 + 3.5 * height
        painter.setPen(QPen(colour("ground"), 2))
        painter.setBrush(colour("colour"))
        painter.drawEllipse(points[-1], size, size)
        self._paint_words(painter, body, angles[-1], effect, shown)

    def _paint_head(self, painter: QPainter, centre: QPointF, radius: float) -> None:
        painter.setPen(QPen(colour("ink_soft"), 1.5))
        painter.setBrush(colour("raised"))
        nose = QPainterPath(QPointF(centre.x() - radius * 0.22, centre.y() - radius * 0.92))
        nose.lineTo(centre.x(), centre.y() - radius * 1.28)
        nose.lineTo(centre.x() + radius * 0.22, centre.y() - radius * 0.92)
        painter.drawPath(nose)
        for side in (-1, 1):
            painter.drawEllipse(QPointF(centre.x() + side * radius * 1.02, centre.y()), radius * 0.16, radius * 0.3)
        painter.drawEllipse(centre, radius, radius)

    def _paint_words(self, painter: QPainter, body: QRectF, angle: float, effect: Spin, shown: Shown) -> None:
        self.caption(painter, body, "For headphones")
        degrees = (np.degrees(angle) + 180.0) % 360.0 - 180.0
        side = "right" if degrees > 0 else "left"
        words = (
            f"{number(abs(degrees), 0)}° {side}"
            if 5.0 < abs(degrees) < 175.0
            else "ahead"
            if abs(degrees) < 90
            else "behind"
        )
        painter.setFont(font(12, SEMI_BOLD))
        painter.setPen(colour("ink"))
        painter.drawText(
            body.adjusted(10, 0, -10, -7), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, words
        )
        period = effect.period_seconds
        if effect.by == "bars":
            beats = shown.context.clock.grid.beats_per_bar if shown.context.clock.grid else 4
            period = (
                effect.period_bars
                * beats
                * float(shown.context.clock.beat_frames(np.array([float(self.frame)]))[0])
                / shown.context.rate
            )
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        painter.drawText(
            body.adjusted(10, 0, -10, -7),
            Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight,
            f"{number(period, 1)} s round",
        )
