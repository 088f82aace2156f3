"""The tones of Before, After and a reference, and the match filter."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.analysis.tone import CENTRES, Spectrum, decibels_of
from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_frequencies, paint_gains, paint_panel, x_of_hz
from latespin.dsp.arrays import Floats
from latespin.model.tone_match import Match, powers_of

SPAN_DB, FILTER_DB, TILT_DB = 48.0, 12.0, 3.0
NAMED = ((50.0, "50"), (200.0, "200"), (1_000.0, "1k"), (5_000.0, "5k"))
LEFT, TOP, BOTTOM = 34, 26, 18
TITLES = {"before": "Before", "after": "After", "ink": "Reference", "level": "Filter"}


class MatchPlot(QWidget):
    """Either mid or side; levels tilted so that a usual song is nearly level."""

    def __init__(self, part: str) -> None:
        super().__init__()
        self.part = part
        self._before: Spectrum | None = None
        self._after: Spectrum | None = None
        self._match, self._rate = Match(), 44_100
        self.setMinimumSize(200, 120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        title = tr("Mid") if part == "mid" else tr("Side")
        self.setAccessibleName(tr("{0}: the tone of Before, After and the reference, and the filter").format(title))
        self.setToolTip(
            tr(
                "{0}: Before, After without the match, and the reference (dashed), on their fullest passages, at the same loudness; lines fall by {1:g} dB an octave less than they do. The filter (yellow) goes from −{2:g} to +{3:g} dB around the middle line."
            ).format(title, TILT_DB, FILTER_DB, FILTER_DB)
        )

    def sizeHint(self) -> QSize:
        return QSize(260, 180)

    def show_tones(self, before: Spectrum | None, after: Spectrum | None, match: Match, rate: int) -> None:
        """Show the tones known so far."""
        given = (before, after, match, rate)
        if given != (self._before, self._after, self._match, self._rate):
            self._before, self._after, self._match, self._rate = given
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self)
        area = body.adjusted(LEFT, TOP, -10, -BOTTOM)
        self._paint_axes(painter, area)
        curves: list[tuple[str, Floats]] = []
        for token, spectrum in (("before", self._before), ("after", self._after)):
            if spectrum is not None:
                curves.append((token, _level(getattr(spectrum, self.part), spectrum.mid + spectrum.side)))
        if self._match.reference is not None:
            mid, side = powers_of(self._match.reference)
            curves.append(("ink", _level(mid if self.part == "mid" else side, mid + side)))
        for token, level in curves:
            dashed = Qt.PenStyle.DashLine if token == "ink" else Qt.PenStyle.SolidLine
            self._paint_line(painter, area, 1.0 - (level + SPAN_DB / 2.0) / SPAN_DB, QPen(colour(token), 1.5, dashed))
        shown = [token for token, _ in curves]
        if self._after is not None and self._match.heard:
            from latespin.render.mastering.tone_match import match_gains

            gains = match_gains(self._after, self._match, self._rate)[0 if self.part == "mid" else 1]
            self._paint_line(painter, area, 0.5 - gains / (2.0 * FILTER_DB), QPen(colour("level"), 2.5))
            shown.append("level")
        self._paint_words(painter, body, shown)

    def _paint_axes(self, painter: QPainter, area: QRectF) -> None:
        paint_frequencies(painter, area, NAMED)
        paint_gains(
            painter, area, (6, 0, -6), lambda gain: area.center().y() - area.height() * gain / (2.0 * FILTER_DB)
        )

    def _paint_line(self, painter: QPainter, area: QRectF, heights: Floats, pen: QPen) -> None:
        """A line through the bands; 0 is the area's top, 1 its bottom."""
        ys = area.top() + area.height() * np.clip(heights, 0.0, 1.0)
        points = [QPointF(x, y) for x, y in zip(x_of_hz(area, CENTRES).tolist(), ys.tolist(), strict=True)]
        painter.setPen(pen)
        painter.drawPolyline(QPolygonF(points))

    def _paint_words(self, painter: QPainter, body: QRectF, shown: list[str]) -> None:
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        title = tr("Mid") if self.part == "mid" else tr("Side")
        painter.drawText(body.adjusted(10, 6, 0, 0), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, title)
        x = body.right() - 10.0
        named = ("before", "after") if self.part == "mid" else ("ink", "level")  # shared out, as both lie side by side
        for token in [token for token in reversed(shown) if token in named]:
            width = painter.fontMetrics().horizontalAdvance(TITLES[token])
            painter.setPen(colour(token))
            painter.drawText(
                QRectF(x - width, body.top() + 6, width + 2, 15), Qt.AlignmentFlag.AlignLeft, TITLES[token]
            )
            x -= width + 10


def _level(power: Floats, whole: Floats) -> Floats:
    """DB of bands over half an octave, tilted so that the whole song is around 0 between 100 Hz and 10 kHz."""
    kernel = np.ones(5) / 5.0
    even = np.convolve(np.pad(power, 2, mode="edge"), kernel, mode="valid")
    tilt = TILT_DB * np.log2(CENTRES / 1_000.0)
    inside = (CENTRES > 100.0) & (CENTRES < 10_000.0)
    return np.asarray(decibels_of(even) + tilt - np.mean((decibels_of(whole) + tilt)[inside]))
