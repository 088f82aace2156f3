"""The tempo curve on the Before waveform, and dragging its points."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QPointF, Qt, Signal
from PySide6.QtGui import QPainter

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import Layer
from latespin.desktop.canvas.layers.tempo_curve_line import CurveLine
from latespin.model.timing.tempo_curve import Curve, added, removed


class TempoCurveLayer(Layer):
    """``point`` is the chosen one.  curve_changed : the curve, and what to merge the step of undo with."""

    curve_changed = Signal(object, str)
    point_chosen = Signal(int)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.curve: Curve = ()
        self.speed = 1.0
        self.editing = False
        self.point = 0
        self._held: int | None = None
        self._octaves: float | None = None

    def show(self, curve: Curve, speed: float, *, editing: bool) -> None:
        """Show a tempo curve, its points where it is being edited."""
        if (curve, speed, editing) != (self.curve, self.speed, self.editing):
            self.curve, self.speed, self.editing = curve, speed, editing
            self.point = min(self.point, max(0, len(curve) - 1))
            self.changed.emit()

    def line(self) -> CurveLine | None:
        """The line as it lies now."""
        seconds = self.geometry.before_seconds
        if seconds == 0.0:
            return None
        return CurveLine(
            self.curve, self.speed, seconds, self.geometry.bands.before, self.geometry.scale, self._octaves
        )

    def press(self, at: QPointF) -> bool:
        line = self.line() if self.editing else None
        self._held = line.under(at) if line else None
        if line is not None and self._held is not None:
            self._octaves = line.octaves
            self.choose(self._held)
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        line = self.line()
        assert line is not None
        assert self._held is not None
        self.curve_changed.emit(line.dragged(self._held, at), "curve")

    def release(self) -> None:
        self._held = self._octaves = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        line = self.line() if self.editing else None
        return Qt.CursorShape.SizeAllCursor if line is not None and line.under(at) is not None else None

    def add(self, at: QPointF) -> bool:
        """A new point where there is none."""
        line = self.line()
        if line is None or not self.editing or not line.band.contains(at):
            return False
        if line.under(at) is None:
            place = line.place_of(at.x())
            curve = added(self.curve, place, line.factor_of(at.y()))
            self.choose(next(i for i, point in enumerate(curve) if point.place == place))
            self.curve_changed.emit(curve, "")
        return True

    def key(self, key: int) -> bool:
        """Keys for the chosen point; False for any other."""
        line = self.line()
        if line is None or not self.editing or not self.curve:
            return False
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.curve_changed.emit(removed(self.curve, self.point), "")
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            factor = 1.01 if key == Qt.Key.Key_Up else 1 / 1.01
            self.curve_changed.emit(line.nudged(self.point, factor), "curve-key")
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            by = 1 if key == Qt.Key.Key_Right else -1
            self.choose((self.point + by) % len(self.curve))
        else:
            return False
        return True

    def choose(self, which: int) -> None:
        """Work on a point."""
        self.point = which
        self.point_chosen.emit(which)
        self.changed.emit()

    def paint(self, painter: QPainter) -> None:
        """Draw the line over Before."""
        line = self.line()
        if line is not None:
            line.paint(painter, self.point, editable=self.editing)
