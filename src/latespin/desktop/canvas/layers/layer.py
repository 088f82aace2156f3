"""A layer of the canvas: something drawn over the waveforms that can be dragged."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QPointF, Qt, Signal

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry

GRIP_PX = 7  # to each side of what is taken hold of
GRIP_TALL = 34.0


class Layer(QObject):
    """Positions are pixels of the geometry. A layer that accepts a press gets every move until the release.

    changed : it has to be painted again.  drag_finished : the next edit is a step of undo of its own.
    """

    changed = Signal()
    drag_finished = Signal()

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._geometry = geometry
        self.adding = False  # Ctrl was held at the last press: what is chosen stays chosen

    @property
    def geometry(self) -> CanvasGeometry:
        """Current layout of the view."""
        return self._geometry()

    def press(self, at: QPointF) -> bool:
        """Start dragging the item under the pointer; False if there is none."""
        return False

    def drag(self, at: QPointF, *, free: bool) -> None:
        """Move what is held; ``free`` of snapping."""

    def release(self) -> None:
        """Let go."""

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        """The pointer's shape over something that can be dragged."""
        return None
