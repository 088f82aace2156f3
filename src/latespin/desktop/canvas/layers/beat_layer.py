"""Beats and bars on both waveforms, and dragging single beats."""

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QObject, QPointF, Qt, Signal
from PySide6.QtGui import QPainter

from latespin.desktop.canvas.beat_lines import HANDLE_PX, BarLines, paint_handles, paint_ticks
from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_PX, Layer


class BeatLayer(Layer):
    """``bars`` is None where no beats are known.  beat_moved : a beat's number and its second of Before."""

    beat_moved = Signal(int, float)

    def __init__(self, geometry: Callable[[], CanvasGeometry], parent: QObject | None = None) -> None:
        super().__init__(geometry, parent)
        self.bars: BarLines | None = None
        self.editing = False
        self._held: int | None = None

    def show(self, bars: BarLines | None, *, editing: bool) -> None:
        """Show beats and bars; in the beats panel, with handles for dragging."""
        if (bars, editing) != (self.bars, self.editing):
            self.bars, self.editing = bars, editing
            self.changed.emit()

    def beat_at(self, at: QPointF) -> int | None:
        """The number of the beat whose handle is under the pointer."""
        band, scale = self.geometry.bands.before, self.geometry.scale
        if self.bars is None or not self.editing or not band.bottom() - 30 <= at.y() <= band.bottom() + 4:
            return None
        number = self.bars.nearest(scale.at(at.x()), GRIP_PX / scale.px_per_second)
        seen = self.bars.beats_seen(scale, 0.0, self.bars.seconds, HANDLE_PX)
        return number if number is not None and number in seen else None

    def press(self, at: QPointF) -> bool:
        self._held = self.beat_at(at)
        return self._held is not None

    def drag(self, at: QPointF, *, free: bool) -> None:
        assert self._held is not None
        self.beat_moved.emit(self._held, self.geometry.scale.at(at.x()))

    def release(self) -> None:
        self._held = None
        self.drag_finished.emit()

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        return Qt.CursorShape.SizeHorCursor if self.beat_at(at) is not None else None

    def paint(self, painter: QPainter) -> None:
        """Draw ticks on both waveforms, and handles."""
        bars, geometry = self.bars, self.geometry
        if bars is None:
            return
        bands, scale = geometry.bands, geometry.scale
        numbers = bars.beats_seen(scale, *geometry.before_in_view())
        times = bars.grid.seconds_of(numbers)
        strong, sure = bars.strengths(numbers, times), bars.sure(times)
        before = (times - scale.start) * scale.px_per_second
        after = (geometry.to_after_all(times) - scale.start) * scale.px_per_second
        ahead = np.concatenate((np.diff(after) > 0.5, [True])) if len(after) else np.zeros(0, bool)
        paint_ticks(painter, bands.before, before, strong, sure, "before", up=True)
        paint_ticks(painter, bands.after, after[ahead], strong[ahead], sure[ahead], "after", up=False)
        if self.editing:
            paint_handles(painter, bands.before, scale, bars)
