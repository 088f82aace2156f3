"""The 8D spin unrolled over time: what each ear gets over the past and the coming turn."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen

from latespin.caches import MEGABYTE, Cache
from latespin.desktop.plots.effect_plot import EffectPlot, Shown, plot_for
from latespin.desktop.theme.theme import BOLD, SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.dsp.arrays import Floats
from latespin.dsp.effects.hrtf import EarCues, ear_cues
from latespin.model.effects.effects import Spin
from latespin.model.values.units import number
from latespin.render.effects.processors.spin import ear_tables, turn_frames, turns_of

POINTS = 192
STRENGTHS = 32
RIBBON = 20.0
WORDS = 18.0
SHIFT_PX = 12.0  # for the largest delay between two ears
LARGEST_DELAY = 700e-6
QUIET_DB, LOUD_DB = -12.0, 6.0  # of an ear against the loudness of both from ahead
BEARINGS = ((0.0, "ahead"), (0.25, "right"), (0.5, "behind"), (0.75, "left"))


@plot_for(Spin)
class SpinPlot(EffectPlot):
    """Two traces, one per ear, lifted by level and shifted by the delay between the ears; above them the bearing."""

    NAME = "What each ear gets over the turn"
    SAYS = (
        "The past and the coming turn; the line is now. Above, the bearing of the song and its bars.\n"
        "Each ear’s trace rises with its level and moves aside by the delay between the ears. For headphones."
    )

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        effect = shown.effect
        assert isinstance(effect, Spin)
        turn = max(1.0, turn_frames(effect, shown.context, self.frame))
        frames = self.frame + turn * np.linspace(-1.0, 1.0, POINTS)
        turns = turns_of(effect, shown.context)
        bearing = turns(frames) % 1.0
        cues = _cues(effect, shown, round(self.amount * STRENGTHS) / STRENGTHS)
        inner = body.adjusted(10, 8, -10, -6)
        self._paint_bearing(painter, QRectF(inner.left(), inner.top(), inner.width(), RIBBON), bearing)
        self._paint_bars(painter, inner, frames, shown)
        ears = QRectF(inner.left(), inner.top() + RIBBON, inner.width(), inner.height() - RIBBON - 2 * WORDS)
        for ear, name in ((0, "L"), (1, "R")):
            lane = QRectF(ears.left(), ears.top() + ear * ears.height() / 2, ears.width(), ears.height() / 2)
            self._paint_ear(painter, lane, name, *_trace(cues, bearing, ear))
        middle = inner.center().x()
        painter.setPen(QPen(colour("ink"), 1.5))
        painter.drawLine(QPointF(middle, ears.top()), QPointF(middle, ears.bottom()))
        now = float(turns(np.array([float(self.frame)]))[0] % 1.0)
        self._paint_numbers(painter, inner, cues, now, turn / shown.context.rate)

    def _paint_bearing(self, painter: QPainter, ribbon: QRectF, bearing: Floats) -> None:
        """Words where the song is ahead, right, behind and left, and a line that follows it from side to side."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("raised"))
        painter.drawRoundedRect(ribbon, 6, 6)
        painter.setFont(font(10, SEMI_BOLD))
        painter.setPen(colour("ink_soft"))
        for at, word in BEARINGS:
            distance = (bearing - at + 0.5) % 1.0 - 0.5
            crossings = np.flatnonzero((distance[:-1] * distance[1:] <= 0.0) & (np.abs(distance[:-1]) < 0.25))
            last = -100.0
            for i in crossings.tolist():
                x = ribbon.left() + ribbon.width() * i / (POINTS - 1)
                place = QRectF(x - 24, ribbon.top(), 48, ribbon.height())
                if x - last > 40 and ribbon.left() <= place.left() and place.right() <= ribbon.right():
                    painter.drawText(place, Qt.AlignmentFlag.AlignCenter, tr(word))
                    last = x

    def _paint_bars(self, painter: QPainter, inner: QRectF, frames: Floats, shown: Shown) -> None:
        """A tick for each bar line."""
        bars = np.floor(shown.context.clock.bars(frames))
        painter.setPen(QPen(colour("line"), 1))
        for i in np.flatnonzero(np.diff(bars) != 0.0).tolist():
            x = inner.left() + inner.width() * (i + 1) / (POINTS - 1)
            painter.drawLine(QPointF(x, inner.top() + RIBBON), QPointF(x, inner.bottom() - 2 * WORDS))

    def _paint_ear(self, painter: QPainter, lane: QRectF, name: str, level: Floats, shift: Floats) -> None:
        xs = lane.left() + lane.width() * np.linspace(0.0, 1.0, POINTS) + SHIFT_PX * shift
        ys = lane.bottom() - 3.0 - (lane.height() - 8.0) * level
        path = QPainterPath(QPointF(xs[0], ys[0]))
        for x, y in zip(xs[1:].tolist(), ys[1:].tolist(), strict=True):
            path.lineTo(x, y)
        painter.save()
        painter.setClipRect(lane)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("colour"), 1.8))
        painter.drawPath(path)
        painter.restore()
        painter.setFont(font(11, BOLD))
        painter.setPen(colour("ink_soft"))
        painter.drawText(lane.adjusted(2, 2, 0, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, tr(name))

    def _paint_numbers(self, painter: QPainter, inner: QRectF, cues: EarCues, now: float, seconds: float) -> None:
        """Delay and level differences at the line, and how long a turn takes."""
        delay, low, high = (_at(values, now) for values in (cues.delay_seconds * 1e6, cues.low_db, cues.high_db))
        first = QRectF(inner.left(), inner.bottom() - 2 * WORDS, inner.width(), WORDS)
        painter.setFont(font(11, SEMI_BOLD))
        painter.setPen(colour("ink"))
        words = (
            tr("{0} µs {1} first").format(number(abs(delay), 0), tr("right") if delay < 0 else tr("left"))
            if abs(delay) >= 5.0
            else tr("both at once")
        )
        painter.drawText(first, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words)
        painter.drawText(
            first,
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
            tr("one turn {0} s").format(number(seconds, 1)),
        )
        painter.setPen(colour("ink_soft"))
        painter.setFont(font(11))
        second = first.translated(0, WORDS)
        levels = tr("R−L  500 Hz {0} dB · 6 kHz {1} dB").format(
            number(low, 1, signed=True), number(high, 1, signed=True)
        )
        painter.drawText(second, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, levels)


def _at(values: Floats, bearing: float) -> float:
    """A value between the places of a table, at a bearing in turns."""
    places = len(values)
    return float(np.interp(bearing * places, np.arange(places + 1), np.append(values, values[0])))


def _trace(cues: EarCues, bearing: Floats, ear: int) -> tuple[Floats, Floats]:
    """Height, 0 to 1, and shift, −1 to 1, of an ear's trace at bearings in turns."""
    places = len(cues.delay_seconds)
    at = np.arange(places + 1)
    level = cues.level_db[ear] - np.mean(cues.level_db[:, 0])
    height = np.interp(bearing * places, at, np.append(level, level[0]))
    delay = np.interp(bearing * places, at, np.append(cues.delay_seconds, cues.delay_seconds[0]))
    sign = 0.5 if ear else -0.5
    return np.clip((height - QUIET_DB) / (LOUD_DB - QUIET_DB), 0.0, 1.0), np.clip(
        sign * delay / LARGEST_DELAY, -1.0, 1.0
    )


_CUES: Cache[tuple[object, ...], EarCues] = Cache("ear cues of plots", 2 * MEGABYTE)


def _cues(effect: Spin, shown: Shown, strength: float) -> EarCues:
    """The cues of the filters that the processor uses at this amount and elevation."""
    context = shown.context
    key = context.rate, effect.file, effect.elevation_degrees, strength
    return _CUES.get_or_make(
        key, lambda: ear_cues(ear_tables(effect, context)(strength, effect.elevation_degrees), context.rate)
    )
