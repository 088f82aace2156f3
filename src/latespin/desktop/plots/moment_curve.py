"""The curve of the chosen moment: speed and pitch as heard, with a handle for the tension."""

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QAccessible, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_panel
from latespin.dsp.timing.speed_by_time import ease_down, tension_of
from latespin.model.moments.curves import dip_of, gain_height, gain_of, glide_of, outline, speeds_of
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.moments import AnyMoment, Dip, GainChange, PitchGlide, SpinUp, TapeStop
from latespin.model.timing.positions import Length, say_span
from latespin.model.values.units import number

POINTS = 241
LEFT, RIGHT, TOP, BOTTOM = 44, 58, 12, 20
REACH_PX = 12.0
STEP = 0.05


class CurveEditor(QWidget):
    """Drag the ring up or down, or press the arrow keys, to bend the curve; ``bent`` carries the tension."""

    ACCESS_ROLE = QAccessible.Role.Graphic

    bent = Signal(float)
    staged = Signal(float)  # where the second stage begins, as its share in per cent
    hushed = Signal(float)  # from where on there is silence, as its share in per cent
    settled = Signal()

    def __init__(self, accent: str) -> None:
        super().__init__()
        self._accent = accent
        self._moment: AnyMoment | None = None
        self._length = Length(beats=4.0)
        self._lasts = 1.0
        self._speed = 1.0
        self._held: tuple[str, float, float] | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(280, 120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMouseTracking(True)
        self.setAccessibleName(tr("Curve of the moment"))
        self.setToolTip(
            tr(
                "Speed and pitch over the moment. Drag the ring to change the curve, the diamond to move the second stage, the square to move the silence. They snap to quarter beats; hold Shift to place them freely."
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(360, 180)

    def show_moment(self, moment: AnyMoment | None, length: Length, seconds: float, speed: float) -> None:
        """Show a moment that lasts so long in After; ``speed`` is the version's own there."""
        if (moment, length, seconds, speed) != (self._moment, self._length, self._lasts, self._speed):
            self._moment, self._length, self._lasts, self._speed = moment, length, seconds, speed
            self.update()

    # -- what is drawn -------------------------------------------------------------------------------------------

    def _values(self, x: np.ndarray) -> tuple[np.ndarray, str]:
        """Heights 0 to 1 and what they are: speed, pitch, amount or shape."""
        moment = self._moment
        assert moment is not None
        speeds = speeds_of(moment, x)
        if speeds is not None:
            return speeds / self._top_speed(), "speed"
        if isinstance(moment, PitchGlide):
            return 0.5 + glide_of(moment, x) / (2.0 * self._widest()), "pitch"
        if isinstance(moment, ColourDip | EffectRange):
            return dip_of(moment, x), "amount"
        if isinstance(moment, GainChange):
            gains = gain_of(moment, x, self._length.beats or 2.0 * self._lasts, self._lasts)
            return gain_height(gains, _widest_db(moment)), "gain"
        shape = outline(moment, self._length.beats or 2.0 * self._lasts, self._lasts)
        return np.interp(x, np.linspace(0.0, 1.0, len(shape)), shape), "shape"

    def _top_speed(self) -> float:
        speeds = speeds_of(self._moment, np.linspace(0.0, 1.0, 33)) if self._moment else None
        return max(1.0, float(speeds.max())) * 1.04 if speeds is not None else 1.04

    def _widest(self) -> float:
        assert isinstance(self._moment, PitchGlide)
        return max(2.0, 1.15 * abs(self._moment.semitones))

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(LEFT, TOP, -RIGHT, -BOTTOM)

    def _at(self, x: float) -> QPointF:
        area = self._area()
        height = float(self._values(np.array([x]))[0][0])
        return QPointF(area.left() + x * area.width(), area.bottom() - height * area.height())

    def handle(self) -> QPointF | None:
        """The handle of the curve's tension."""
        moment = self._moment
        if moment is None or not hasattr(moment, "tension"):
            return None
        return self._at(self._handle_share())

    def _handle_share(self) -> float:
        """The middle of the first way of the curve."""
        moment = self._moment
        if isinstance(moment, ColourDip | EffectRange):
            shrink = max(1.0, (moment.attack_percent + moment.release_percent) / 100.0)
            return max(0.01, 0.5 * moment.attack_percent / 100.0 / shrink)
        if isinstance(moment, TapeStop):
            return 0.5 * _still_at(moment)
        if isinstance(moment, Dip):
            return 0.5 * moment.lowest_percent / 100.0 * (1.0 - moment.hold_percent / 100.0)
        return 0.25 if getattr(moment, "back", False) else 0.5

    def diamond(self) -> QPointF | None:
        """The handle of the second stage."""
        moment = self._moment
        if not isinstance(moment, TapeStop) or not moment.two_stages:
            return None
        return self._at((1.0 - moment.second_percent / 100.0) * _still_at(moment))

    def square(self) -> QPointF | None:
        """The handle of the silence."""
        moment = self._moment
        if not isinstance(moment, TapeStop):
            return None
        area = self._area()
        return QPointF(area.left() + _still_at(moment) * area.width(), area.bottom())

    def _gap_at(self, x: float, *, free: bool) -> float:
        """The share of silence, in per cent, that begins at a pixel: whole quarters of a beat, or any."""
        area = self._area()
        slows = 1.0 - self._moment.spins_up if isinstance(self._moment, TapeStop) else 1.0
        share = min(0.95, max(0.0, 1.0 - (x - area.left()) / max(1.0, area.width() * slows)))
        beats = self._length.beats * slows if self._length.beats is not None else None
        if beats is not None and not free:
            share = min(0.95, round(share * beats * 4.0) / 4.0 / beats)
        return round(100.0 * share, 3)

    # -- the hand ------------------------------------------------------------------------------------------------

    def _under(self, at: QPointF) -> str:
        for name, place in (("ring", self.handle()), ("diamond", self.diamond()), ("square", self.square())):
            if place is not None and math.hypot(*(place - at).toTuple()) <= REACH_PX:
                return name
        return ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        name = self._under(event.position())
        if name and event.button() == Qt.MouseButton.LeftButton:
            self._held = name, event.position().y(), getattr(self._moment, "tension", 0.0)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            self.setCursor(
                {
                    "ring": Qt.CursorShape.SizeVerCursor,
                    "diamond": Qt.CursorShape.SizeHorCursor,
                    "square": Qt.CursorShape.SizeHorCursor,
                }.get(self._under(event.position()), Qt.CursorShape.ArrowCursor)
            )
            return
        name, y, tension = self._held
        area = self._area()
        if name == "square":
            free = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.hushed.emit(self._gap_at(event.position().x(), free=free))
            return
        if name == "ring":
            inverted = self._rises() and not isinstance(
                self._moment, SpinUp
            )  # up is then a curve that gives way sooner
            moved = (y - event.position().y()) / max(1.0, area.height()) * (-1.0 if inverted else 1.0)
            self.bent.emit(round(tension_of(float(ease_down(0.5, tension)) + moved), 3))
        else:
            assert isinstance(self._moment, TapeStop)
            share = (
                (event.position().x() - area.left()) / max(1.0, area.width()) / (1.0 - self._moment.gap_percent / 100.0)
            )
            self.staged.emit(round(min(90.0, max(5.0, 100.0 * (1.0 - share))), 0))

    def _rises(self) -> bool:
        """Whether the curve goes up from its start."""
        values = self._values(np.array([0.0, self._handle_share()]))[0]
        return bool(values[1] >= values[0])

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self._held = None
            self.settled.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Up: STEP, Qt.Key.Key_Down: -STEP}
        if self.handle() is not None and Qt.Key(event.key()) in steps:
            tension = getattr(self._moment, "tension", 0.0) + steps[Qt.Key(event.key())]
            self.bent.emit(round(min(1.0, max(-1.0, tension)), 3))
            self.settled.emit()
        else:
            super().keyPressEvent(event)

    # -- looks ---------------------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self)
        if self._moment is None:
            painter.setFont(font(12))
            painter.setPen(colour("ink_soft"))
            painter.drawText(body, Qt.AlignmentFlag.AlignCenter, tr("The curve of the chosen moment is drawn here."))
            return
        if self._flat():
            painter.setFont(font(12))
            painter.setPen(colour("ink_soft"))
            painter.drawText(body, Qt.AlignmentFlag.AlignCenter, tr("This one has no curve."))
            return
        self._paint_axes(painter)
        x = np.linspace(0.0, 1.0, POINTS)
        heights, _ = self._values(x)
        area = self._area()
        line = [
            QPointF(area.left() + a * area.width(), area.bottom() - h * area.height())
            for a, h in zip(x.tolist(), heights.tolist(), strict=True)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(self._accent, 0.18))
        painter.drawPolygon(
            QPolygonF([QPointF(area.left(), area.bottom()), *line, QPointF(area.right(), area.bottom())])
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(
            QPen(colour(self._accent), 2.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
        )
        painter.drawPolyline(QPolygonF(line))
        self._paint_handles(painter)

    def _flat(self) -> bool:
        """Whether nothing changes over the moment's length."""
        heights, what = self._values(np.linspace(0.0, 1.0, 9))
        return what == "shape" and float(np.ptp(heights)) < 1e-6

    def _marks(self) -> list[tuple[float, str, str]]:
        """Speed, pitch, amount or gain heard in the version: height, left label, right label."""
        _, what = self._values(np.array([0.0]))
        if what == "speed":
            top = self._top_speed()
            return [
                (
                    part / top,
                    f"{round(100 * part * self._speed)} %",
                    f"{number(12 * math.log2(part), 1, signed=True)} st" if part else tr("stop"),
                )
                for part in ((0.0, 0.25, 0.5, 1.0) if top < 1.5 else (0.0, 0.5, 1.0, (top / 1.04)))
            ]
        if what == "pitch":
            assert isinstance(self._moment, PitchGlide)
            far = self._moment.semitones
            return [
                (
                    0.5 + st / (2.0 * self._widest()),
                    f"{number(2.0 ** (st / 12.0), 2)}×",
                    f"{number(st, 1, signed=True)} st",
                )
                for st in (far, far / 2.0, 0.0)
            ]
        if what == "amount":
            return [(part, f"{round(100 * part)} %", "") for part in (0.0, 0.5, 1.0)]
        if what == "gain":
            assert isinstance(self._moment, GainChange)
            widest = _widest_db(self._moment)
            return [
                (float(gain_height(np.array(gain), widest)), f"{number(gain, 1 if gain else 0, signed=True)} dB", "")
                for gain in dict.fromkeys((0.0, self._moment.gain_db))
            ]
        return []

    def _paint_axes(self, painter: QPainter) -> None:
        area = self._area()
        painter.setFont(font(11))
        for height, left, right in self._marks():
            y = area.bottom() - height * area.height()
            painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
            painter.setPen(colour("ink_soft"))
            painter.drawText(
                QRectF(2, y - 8, LEFT - 6, 16), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, left
            )
            painter.drawText(QRectF(area.right() + 4, y - 8, RIGHT - 6, 16), Qt.AlignmentFlag.AlignVCenter, right)
        painter.setPen(colour("ink_soft"))
        foot = QRectF(area.left(), area.bottom() + 2, area.width(), 16)
        painter.drawText(foot, Qt.AlignmentFlag.AlignLeft, "0")
        painter.drawText(foot, Qt.AlignmentFlag.AlignRight, f"{number(self._lasts, 2)} s")
        if self._length.beats is not None:
            painter.drawText(foot, Qt.AlignmentFlag.AlignHCenter, say_span(self._length, None))

    def _paint_handles(self, painter: QPainter) -> None:
        ring, diamond, square = self.handle(), self.diamond(), self.square()
        if square is not None:
            painter.setPen(QPen(colour(self._accent), 2))
            painter.setBrush(colour("panel"))
            painter.drawRect(QRectF(square.x() - 5.0, square.y() - 5.0, 10.0, 10.0))
        painter.setFont(font(11, SEMI_BOLD))
        if diamond is not None:
            painter.setPen(QPen(colour(self._accent), 2))
            painter.setBrush(colour("panel"))
            painter.drawPolygon(QPolygonF([diamond + QPointF(*d) for d in ((0, -7), (7, 0), (0, 7), (-7, 0))]))
        if ring is not None:
            painter.setPen(QPen(colour(self._accent), 2.5))
            painter.setBrush(colour("ground"))
            painter.drawEllipse(ring, 7.0, 7.0)


def _still_at(moment: TapeStop) -> float:
    """The share of a tape stop's length after which it stands still."""
    return (1.0 - moment.spins_up) * (1.0 - moment.gap_percent / 100.0)


def _widest_db(moment: GainChange) -> float:
    """The gain at the top, and less of it at the bottom, of a gain's picture."""
    return max(6.0, 1.15 * abs(moment.gain_db))
