"""Moments on the After waveform: their shapes, and dragging their ends, curve and name."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen, QPolygonF

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_PX, GRIP_TALL, Layer
from latespin.desktop.theme.theme import BOLD, SEMI_BOLD, colour, font
from latespin.dsp.timing.speed_by_time import ease_down, tension_of

TAB = 18.0  # height of the name a moment is chosen and moved by
GRIP_WIDE = 8.0
LEAST_TAB = 26.0
DRAG_PX = 4.0
LOW, HIGH = 0.12, 0.8  # of the waveform's height, between which a shape is drawn


@dataclass(frozen=True)
class Shape:
    """One moment as it is drawn. ``ends`` in seconds of After, ``source`` of Before.

    heights : 0 to 1 over its length.  tension : that of its curve where that can be taken hold of here, or None.
    problem : not heard as asked.  live : switched on.
    """

    id: str
    title: str
    ends: tuple[float, float]
    source: tuple[float, float]
    heights: tuple[float, ...]
    tension: float | None = None
    problem: bool = False
    live: bool = True


@dataclass
class _Hold:
    """A drag of a moment: the part held, where it was pressed, and the offset in pixels."""

    shape: Shape
    part: str
    at: QPointF
    moved: bool = False
    off: float = 0.0


class MomentLayer(Layer):
    """``chosen`` is the id of the moment being edited, which alone has handles; ``others`` are those chosen with it.

    picked : id, and whether it is chosen in addition.  moved : id, ``start``, ``end`` or ``whole``, seconds of Before, whether they snapped.  bent : id and tension.
    """

    picked = Signal(str, bool)
    moved = Signal(str, str, float, bool)
    bent = Signal(str, float)
    command_wanted = Signal(str)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.shapes: tuple[Shape, ...] = ()
        self.chosen, self.others = "", frozenset[str]()
        self.editing = False
        self._hold: _Hold | None = None

    def show(self, shapes: tuple[Shape, ...], chosen: str, others: frozenset[str], *, editing: bool) -> None:
        """Show the moments of a version."""
        if (shapes, chosen, others, editing) != (self.shapes, self.chosen, self.others, self.editing):
            self.shapes, self.chosen, self.others, self.editing = shapes, chosen, others, editing
            self.changed.emit()

    # -- the hand -------------------------------------------------------------------------------------------

    def press(self, at: QPointF) -> bool:
        part, shape = self._under(at)
        self._hold = None
        if shape is None:
            return False
        self._hold = _Hold(shape, part, at, off=at.x() - self._xs(shape)[1 if part == "end" else 0])
        self.picked.emit(shape.id, self.adding)
        return True

    def drag(self, at: QPointF, *, free: bool) -> None:
        hold = self._hold
        if hold is None or (not hold.moved and (at - hold.at).manhattanLength() < DRAG_PX):
            return
        hold.moved = True
        if hold.part == "curve":
            height = float(ease_down(0.5, hold.shape.tension or 0.0)) + (hold.at.y() - at.y()) / max(
                1.0, self._body().height()
            )
            self.bent.emit(hold.shape.id, round(tension_of(height), 3))
            return
        seconds = self._seconds_at(hold.shape, at.x() - hold.off)
        snapped = self.geometry.snapped(seconds, free=free)
        self.moved.emit(hold.shape.id, hold.part, max(0.0, snapped), snapped != seconds)

    def release(self) -> None:
        self._hold = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        part, shape = self._under(at)
        if shape is None:
            return None
        if part in ("start", "end"):
            return Qt.CursorShape.SizeHorCursor
        return Qt.CursorShape.SizeVerCursor if part == "curve" else Qt.CursorShape.PointingHandCursor

    def key(self, key: int, modifiers: Qt.KeyboardModifier) -> bool:
        """Keys for the chosen moment; False for any other."""
        if not self.editing or not self.chosen:
            return False
        names = {
            Qt.Key.Key_Left: "moment_earlier",
            Qt.Key.Key_Right: "moment_later",
            Qt.Key.Key_Delete: "delete_moment",
            Qt.Key.Key_Backspace: "delete_moment",
        }
        name = names.get(Qt.Key(key))
        if name is None:
            return False
        fine = "fine_" if modifiers & Qt.KeyboardModifier.ShiftModifier and name != "delete_moment" else ""
        self.command_wanted.emit(f"{fine}{name}")
        return True

    def named_at(self, at: QPointF) -> str:
        """The id of the moment whose name or shape lies under the pointer, or an empty one."""
        shape = self._under(at)[1]
        if shape is None and self.geometry.side_at(at.y()) == "after":
            shape = next((s for s in reversed(self.shapes) if self._xs(s)[0] <= at.x() <= self._xs(s)[1]), None)
        return shape.id if shape else ""

    def _under(self, at: QPointF) -> tuple[str, Shape | None]:
        """The part under the pointer: handles of the chosen moment first, then any name."""
        chosen = next((shape for shape in self.shapes if shape.id == self.chosen), None)
        if chosen is not None and self.editing:
            handle = self.handle(chosen)
            if handle is not None and math.hypot(*(at - handle).toTuple()) <= GRIP_PX + 3:
                return "curve", chosen
            for part, rect in (("end", self.grip(chosen, 1)), ("start", self.grip(chosen, 0))):
                if rect.adjusted(-4, -4, 4, 4).contains(at):
                    return part, chosen
        for shape in reversed(self.shapes):
            if self._tab(shape).contains(at):
                return "whole", shape
        return "", None

    def _seconds_at(self, shape: Shape, x: float) -> float:
        """Seconds of Before by the song's clock, counted on from the moment's start."""
        return self.geometry.clock_at(
            shape.source[0], self.geometry.scale.start + x / self.geometry.scale.px_per_second - shape.ends[0]
        )

    # -- where things lie -----------------------------------------------------------------------------------

    def _body(self) -> QRectF:
        band = self.geometry.bands.after
        return QRectF(0, band.top() + (1 - HIGH) * band.height(), 0, (HIGH - LOW) * band.height())

    def _xs(self, shape: Shape) -> tuple[float, float]:
        a, b = (self.geometry.scale.x(seconds) for seconds in shape.ends)
        return a, max(b, a + 2.0)

    def _tab(self, shape: Shape) -> QRectF:
        a, _ = self._xs(shape)
        later = [x for other in self.shapes if (x := self._xs(other)[0]) > a + 1.0]
        wide = max(LEAST_TAB, min(self._name_width(shape), min(later, default=math.inf) - a - 2.0))
        return QRectF(a, self.geometry.bands.after.bottom() - TAB, wide, TAB)

    def _name_width(self, shape: Shape) -> float:
        return 7.2 * len(shape.title) + 16.0

    def grip(self, shape: Shape, which: int) -> QRectF:
        """The handle of an end: 0 the start, 1 the end."""
        x = self._xs(shape)[which]
        middle = self._body().center().y()
        left = x - GRIP_WIDE if which == 0 else x
        return QRectF(left, middle - GRIP_TALL / 2, GRIP_WIDE, GRIP_TALL)

    def handle(self, shape: Shape) -> QPointF | None:
        """The handle in the middle of the curve."""
        if shape.tension is None:
            return None
        a, b = self._xs(shape)
        if b - a < 4 * GRIP_WIDE:
            return None
        middle = shape.heights[len(shape.heights) // 2]
        body = self._body()
        return QPointF((a + b) / 2, body.bottom() - middle * body.height())

    # -- painting -------------------------------------------------------------------------------------------

    def paint(self, painter: QPainter) -> None:
        """Draw the shapes over After, and what they are made of below Before."""
        for shape in self.shapes:
            a, b = self._xs(shape)
            if b >= 0 and a <= self.geometry.scale.width:
                self._paint_shape(painter, shape, a, b)

    def _paint_shape(self, painter: QPainter, shape: Shape, a: float, b: float) -> None:
        chosen = self.editing and (shape.id == self.chosen or shape.id in self.others)
        token = "warning" if shape.problem else "moments"
        strength = (1.0 if chosen else 0.7) if shape.live else 0.3
        body = self._body()
        xs = np.linspace(a, b, len(shape.heights))
        outline = [
            QPointF(x, body.bottom() - y * body.height()) for x, y in zip(xs.tolist(), shape.heights, strict=True)
        ]
        polygon = QPolygonF([QPointF(a, body.bottom()), *outline, QPointF(b, body.bottom())])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(token, (0.42 if chosen else 0.26) * strength))
        painter.drawPolygon(polygon)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(
            QPen(colour(token, strength), 2.0, Qt.PenStyle.DashLine if shape.problem else Qt.PenStyle.SolidLine)
        )
        painter.drawPolyline(QPolygonF(outline))
        self._paint_source(painter, shape, token, strength)
        self._paint_tab(painter, shape, token, chosen=chosen)

    def _paint_source(self, painter: QPainter, shape: Shape, token: str, strength: float) -> None:
        """A bracket below Before over the stretch a moment takes up there."""
        band = self.geometry.bands.before
        a, b = (self.geometry.scale.x(seconds) for seconds in shape.source)
        y = band.bottom() - 2.0
        painter.setPen(QPen(colour(token, strength), 3.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(QPointF(a, y), QPointF(max(b, a + 2.0), y))

    def _paint_tab(self, painter: QPainter, shape: Shape, token: str, *, chosen: bool) -> None:
        tab = self._tab(shape)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(token) if chosen else colour("raised"))
        painter.drawRoundedRect(tab, 5, 5)
        painter.setFont(font(11, BOLD if chosen else SEMI_BOLD))
        painter.setPen(colour("ground") if chosen else colour(token if shape.live else "ink_soft"))
        text = painter.fontMetrics().elidedText(shape.title, Qt.TextElideMode.ElideRight, int(tab.width() - 8))
        painter.drawText(tab.adjusted(5, 0, -3, 0), Qt.AlignmentFlag.AlignVCenter, text)

    def paint_handles(self, painter: QPainter) -> None:
        """Draw what the chosen moment is taken hold of by."""
        shape = next((shape for shape in self.shapes if shape.id == self.chosen), None)
        if shape is None or not self.editing:
            return
        for which in (0, 1):
            grip = self.grip(shape, which)
            painter.setPen(QPen(colour("ground"), 1.5))
            painter.setBrush(colour("moments"))
            painter.drawRoundedRect(grip, 4, 4)
            painter.setPen(QPen(colour("ground"), 1.5))
            x = grip.center().x()
            painter.drawLine(QPointF(x, grip.top() + 10), QPointF(x, grip.bottom() - 10))
        handle = self.handle(shape)
        if handle is not None:
            painter.setPen(QPen(colour("moments"), 2.5))
            painter.setBrush(colour("ground"))
            painter.drawEllipse(handle, 7.0, 7.0)
