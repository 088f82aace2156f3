"""The gain reduction of compressors, each part by itself."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.plots.effect_plot import Shown, plot_for
from latespin.desktop.plots.trace import SPAN_SECONDS, Trace
from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.model.effects.effects import Compressor, DynamicHighShelf, MidSideCompressor, MultibandCompressor
from latespin.model.values.units import number

LEVELS_DB = (0.0, -3.0, -6.0, -12.0)
PENS = (Qt.PenStyle.SolidLine, Qt.PenStyle.DashLine, Qt.PenStyle.DotLine)
KEY_WIDTH = 20.0


@plot_for(Compressor, MidSideCompressor, MultibandCompressor, DynamicHighShelf)
class ReductionPlot(Trace):
    """The gain reduction of the last seconds, from the processor's history."""

    NAME = "Gain reduction"
    SAYS = "Gain reduction over the last seconds of playback, in dB, as the compressor applied it to each part."

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        area = self.area(body)
        for level in LEVELS_DB:
            self.paint_words(painter, area, area.left(), self._y(area, level), number(level, 0))
        first = self.frame - round(SPAN_SECONDS * shown.context.rate)
        heard = sorted((frame, parts) for frame, parts in self.notes if first <= frame <= self.frame)
        if not heard:
            self.caption(painter, body, tr("Play to see what it takes away."))
            return
        xs = [area.left() + area.width() * (frame - first) / (self.frame - first) for frame, _ in heard]
        for part, values in enumerate(zip(*(parts for _, parts in heard), strict=True)):
            self._paint_part(painter, area, xs, values, part)
        names = shown.effect.parts if len(heard[-1][1]) > 1 else ()
        if names:
            self._paint_key(painter, body, names, heard[-1][1])
            return
        now, most = heard[-1][1][0], min(parts[0] for _, parts in heard)
        self.caption(painter, body, tr("{0} dB now, {1} dB at most").format(number(now, 1), number(most, 1)))

    def _paint_part(
        self, painter: QPainter, area: QRectF, xs: list[float], values: tuple[float, ...], part: int
    ) -> None:
        """One part's reduction hanging from the line of 0 dB."""
        points = [QPointF(x, self._y(area, value)) for x, value in zip(xs, values, strict=True)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("colour", 0.3 if part == 0 else 0.12))
        painter.drawPolygon(QPolygonF([QPointF(xs[0], area.top()), *points, QPointF(xs[-1], area.top())]))
        painter.setPen(QPen(colour("colour"), 2.0, PENS[part]))
        painter.drawPolyline(QPolygonF(points))

    def _paint_key(self, painter: QPainter, body: QRectF, names: tuple[str, ...], now: tuple[float, ...]) -> None:
        """Each part's line, name and reduction now, beside each other."""
        width = (body.width() - 16.0) / len(names)
        painter.setFont(font(11))
        for part, (name, value) in enumerate(zip(names, now, strict=True)):
            left = body.left() + 10.0 + part * width
            painter.setPen(QPen(colour("colour"), 2.0, PENS[part]))
            painter.drawLine(QPointF(left, body.top() + 14.0), QPointF(left + KEY_WIDTH, body.top() + 14.0))
            painter.setPen(colour("ink_soft"))
            text = f"{tr(name)} {number(value, 1)}"
            painter.drawText(
                QRectF(left + KEY_WIDTH + 4.0, body.top() + 6.0, width, 16.0), Qt.AlignmentFlag.AlignVCenter, text
            )

    def _y(self, area: QRectF, db: float) -> float:
        return area.top() + area.height() * min(1.0, db / LEVELS_DB[-1])
