"""The basis of plots with seconds across."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from latespin.desktop.plots.effect_plot import EffectPlot
from latespin.desktop.theme.theme import colour, font

SPAN_SECONDS = 4.0
LEFT, BOTTOM, TOP = 34, 18, 26


class Trace(EffectPlot):
    """Seconds across, the place of the music in the middle."""

    def area(self, body: QRectF) -> QRectF:
        """Area of the trace."""
        return body.adjusted(LEFT, TOP, -8, -BOTTOM)

    def paint_now(self, painter: QPainter, area: QRectF, x: float) -> None:
        """A line at the place of the music."""
        painter.setPen(QPen(colour("after"), 1.5))
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))

    def paint_words(self, painter: QPainter, area: QRectF, x: float, y: float, text: str) -> None:
        """A level's name, to the left."""
        painter.setFont(font(11))
        painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        painter.setPen(colour("ink_soft"))
        painter.drawText(
            QRectF(x - LEFT, y - 8, LEFT - 5, 16), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text
        )
