"""Plots that move with the music: wow and flutter, waveshaping curves, repeats."""

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.plots.effect_plot import Shown, plot_for
from latespin.desktop.plots.trace import SPAN_SECONDS, Trace
from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_levels
from latespin.dsp.arrays import Floats
from latespin.dsp.effects.tape import tape_waves
from latespin.dsp.effects.vinyl import vinyl_waves
from latespin.dsp.effects.waveshaper import shaped
from latespin.dsp.effects.worn_playback import Wave, speed_at
from latespin.model.effects.effects import Echo, Saturation, Tape, Vinyl, Wobble
from latespin.model.values.note_values import beats_of
from latespin.model.values.units import number
from latespin.render.effects.channel_part import in_part
from latespin.render.effects.processors.tone import saturation_drive
from latespin.render.effects.processors.worn import tape_wear, vinyl_wear

USUAL_LEVEL = 0.15  # of a song that is not known yet
POINTS = 220


@plot_for(Vinyl, Tape, Wobble)
class SpeedPlot(Trace):
    """Wow and flutter around now, in cents."""

    NAME = "Wow and flutter"
    SAYS = "Pitch deviation in cents, from two seconds ago to two seconds ahead; the line is now."

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        area = self.area(body)
        now = self.frame / shown.context.rate
        seconds = now + np.linspace(-0.5, 0.5, POINTS) * SPAN_SECONDS
        cents = 1200.0 * np.log2(np.maximum(0.5, 1.0 + self.amount * self._strayed(shown, seconds)))
        most = max(2.0, float(np.ceil(self._most(shown))))
        for level in (most, 0.0, -most):
            self.paint_words(painter, area, area.left(), self._y(area, level, most), f"{number(level, 0, signed=True)}")
        xs = np.linspace(area.left(), area.right(), POINTS)
        ys = [self._y(area, c, most) for c in cents.tolist()]
        painter.setPen(QPen(colour("colour"), 2.2))
        painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in zip(xs.tolist(), ys, strict=True)]))
        self.paint_now(painter, area, area.center().x())
        self.caption(painter, body, tr("{0} cents now").format(number(float(cents[POINTS // 2]), 1, signed=True)))

    def _y(self, area: QRectF, cents: float, most: float) -> float:
        return area.center().y() - area.height() / 2.0 * max(-1.05, min(1.05, cents / most))

    def _waves(self, shown: Shown) -> tuple[Wave, ...]:
        effect = shown.effect
        if isinstance(effect, Wobble):
            return (Wave(effect.rate_hz, 2.0 ** (effect.depth_cents / 1200.0) - 1.0),)
        if isinstance(effect, Vinyl):
            return vinyl_waves(vinyl_wear(effect))
        assert isinstance(effect, Tape)
        return tape_waves(tape_wear(effect))

    def _strayed(self, shown: Shown, seconds: Floats) -> Floats:
        return speed_at(self._waves(shown), seconds)

    def _most(self, shown: Shown) -> float:
        return float(1200.0 * np.log2(1.0 + max(1e-6, self.amount * sum(wave.share for wave in self._waves(shown)))))


@plot_for(Saturation)
class TransferCurvePlot(Trace):
    """The waveshaping curve."""

    NAME = "Curve of the saturation"
    SAYS = "Input level across, output level up; the straight line leaves it unchanged. The shaded part is this song’s usual range."
    MOVES = False

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect = shown.effect
        assert isinstance(effect, Saturation)
        area = body.adjusted(12, 26, -12, -12)
        profile = in_part(effect, shown.context).profile if shown.context.known_profile else None
        level = profile.level if profile else USUAL_LEVEL
        drive = saturation_drive(effect, level) * self.amount
        x = np.linspace(-1.0, 1.0, 121)
        y = shaped(x[None], drive, effect.shape)[0]

        def place(a: float, b: float) -> QPointF:
            return QPointF(area.center().x() + a * area.width() / 2, area.center().y() - b * area.height() / 2)

        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("before", 0.2))
        painter.drawRect(QRectF(place(-2 * level, 1.0), place(2 * level, -1.0)))
        painter.setPen(QPen(colour("line"), 1.5, Qt.PenStyle.DotLine))
        painter.drawLine(place(-1, -1), place(1, 1))
        painter.setPen(QPen(colour("colour"), 2.5))
        painter.drawPolyline(QPolygonF([place(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)]))
        self.caption(painter, body, tr("drive {0} dB").format(number(20 * np.log10(max(0.001, drive)), 1, signed=True)))


@plot_for(Echo)
class RepeatsPlot(Trace):
    """The repeats of one beat."""

    NAME = "Repeats"
    SAYS = (
        "The repeats of a single beat: their level and time. With ping-pong, left repeats point up and right ones down."
    )

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect = shown.effect
        assert isinstance(effect, Echo)
        area = self.area(body)
        paint_levels(painter, area, lambda level: self._y(area, level))
        beat = float(shown.context.clock.beat_frames(np.array([float(self.frame)]))[0]) / shown.context.rate
        delay, feedback = beats_of(effect.value) * beat, effect.feedback_percent / 100.0
        span = delay * 9.0
        painter.setPen(QPen(colour("before"), 4.0))
        painter.drawLine(QPointF(area.left() + 2, area.bottom()), QPointF(area.left() + 2, self._y(area, 0.0)))
        lines = []
        for n in range(1, 9):
            level = 20.0 * np.log10(max(1e-4, self.amount * feedback ** (n - 1)))
            x = area.left() + 2 + area.width() * n * delay / span
            if level > -60.0:
                lines.append((QLineF(x, area.bottom(), x, self._y(area, level)), effect.ping_pong and n % 2 == 0))
        for line, other in lines:
            painter.setPen(QPen(colour("moments" if other else "colour"), 4.0))
            painter.drawLine(line)
        painter.setFont(font(11, SEMI_BOLD))
        self.caption(painter, body, tr("every {0} ms").format(number(1000 * delay, 0)))

    def _y(self, area: QRectF, level: float) -> float:
        return area.top() + area.height() * min(1.0, level / -60.0)
