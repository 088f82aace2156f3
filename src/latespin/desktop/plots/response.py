"""Response curves of filters with the song's spectrum behind, and what an effect makes of that spectrum."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.analysis.profile import CENTRES, Profile
from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import colour
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import HIGH_HZ, LOW_HZ, paint_frequencies, paint_gains, x_of_hz
from latespin.dsp.arrays import Floats
from latespin.dsp.effects.small_speaker import speaker_band
from latespin.dsp.filters.cascade import response
from latespin.model.effects.effects import ConvolutionReverb, Eq, SmallSpeaker
from latespin.render.effects.factory import factory_of
from latespin.render.effects.processors.convolution import ConvolutionFactory
from latespin.render.effects.processors.tone import eq_sections
from latespin.render.effects.processors.worn import speaker_settings

SPAN_DB, SPECTRUM_DB = 24.0, 48.0
NAMED = ((100.0, "100"), (1_000.0, "1k"), (10_000.0, "10k"))
LEFT, BOTTOM, TOP = 32, 18, 12


class _Plane(EffectPlot):
    """Frequency across, level up; the song's spectrum behind."""

    def area(self, body: QRectF) -> QRectF:
        """Area of the curves."""
        return body.adjusted(LEFT, TOP, -8, -BOTTOM)

    def paint_bars(self, painter: QPainter, area: QRectF, power: Floats, top: float, token: str, alpha: float) -> None:
        """Third octaves as bars; ``top`` is the power at the area's top."""
        levels = 10.0 * np.log10(power / top + 1e-12)
        xs = x_of_hz(area, CENTRES)
        width = area.width() / 31.0 - 1.5
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(token, alpha))
        for x, level in zip(xs.tolist(), levels.tolist(), strict=True):
            height = area.height() * max(0.0, 1.0 + level / SPECTRUM_DB)
            if height > 0.5 and area.left() <= x <= area.right():
                painter.drawRect(QRectF(x - width / 2, area.bottom() - height, width, height))


@plot_for(Eq, SmallSpeaker)
class ResponsePlot(_Plane):
    """The curve of a filter's gain."""

    NAME = "Response, with the song’s spectrum behind"
    SAYS = "Frequency response at the playhead, in dB; behind it, the song’s spectrum."

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        area = self.area(body)
        profile = shown.context.known_profile
        if profile is not None:
            power = profile.mid + profile.side
            self.paint_bars(painter, area, power, float(power.max()), "before", 0.3)
        paint_frequencies(painter, area, NAMED)
        paint_gains(painter, area, (18, 0, -18), lambda gain: float(self._y(area, np.array([gain]))[0]))
        hz = np.geomspace(LOW_HZ, HIGH_HZ, 160)
        gains = 20.0 * np.log10(np.abs(response(self._sections(shown), hz, shown.context.rate)) + 1e-6)
        ys = self._y(area, np.clip(gains, -SPAN_DB - 6.0, SPAN_DB))
        points = [QPointF(x, y) for x, y in zip(x_of_hz(area, hz).tolist(), ys.tolist(), strict=True)]
        painter.setClipRect(area.adjusted(0, -2, 0, 2))
        painter.setPen(QPen(colour("colour"), 2.5))
        painter.drawPolyline(QPolygonF(points))

    def _sections(self, shown: Shown):  # type: ignore[no-untyped-def]
        effect, rate = shown.effect, shown.context.rate
        if isinstance(effect, SmallSpeaker):
            return speaker_band(speaker_settings(effect), rate, self.amount)
        assert isinstance(effect, Eq)
        return eq_sections(effect, self.amount, rate)

    def _y(self, area: QRectF, gains: Floats) -> Floats:
        return area.center().y() - area.height() / 2.0 * gains / SPAN_DB


class SpectrumPlot(_Plane):
    """The song's spectrum without and with the effect: what it adds and takes."""

    NAME = "The song’s spectrum without and with this effect"
    SAYS = "Third-octave spectrum of the song without the effect (filled) and with it (outline), predicted from the effect’s settings."
    MOVES = False

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        area = self.area(body)
        before = shown.context.known_profile
        paint_frequencies(painter, area, NAMED)
        waits = isinstance(shown.effect, ConvolutionReverb) and not ConvolutionFactory().known(
            shown.effect, shown.context
        )
        if before is None or waits:
            self.caption(painter, body, tr("Being worked out …"))
            return
        after: Profile = factory_of(shown.effect).predict_profile(shown.effect, shown.context, before, self.amount)
        top = float(max((before.mid + before.side).max(), (after.mid + after.side).max()))
        self.paint_bars(painter, area, before.mid + before.side, top, "before", 0.35)
        levels = np.clip(1.0 + 10.0 * np.log10((after.mid + after.side) / top + 1e-12) / SPECTRUM_DB, 0.0, 1.0)
        points = [
            QPointF(x, area.bottom() - area.height() * level)
            for x, level in zip(x_of_hz(area, CENTRES).tolist(), levels.tolist(), strict=True)
            if x <= area.right()
        ]
        painter.setPen(QPen(colour("colour"), 2.5))
        painter.drawPolyline(QPolygonF(points))
        sides = [10.0 * np.log10(max(1e-9, p.side.sum()) / max(1e-9, p.mid.sum())) for p in (before, after)]
        self.caption(painter, body, tr("sides {0:.0f} dB → {1:.0f} dB").format(sides[0], sides[1]).replace("-", "−"))
