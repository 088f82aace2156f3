"""Before and After as two waveforms on one time scale, with connectors between them."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from latespin.desktop.canvas.beat_lines import BarLines
from latespin.desktop.canvas.canvas_geometry import Bands, CanvasGeometry
from latespin.desktop.canvas.connectors import paint_jumps, paint_threads, thread_places
from latespin.desktop.canvas.layers.automation_layer import AutomationLayer
from latespin.desktop.canvas.layers.beat_layer import BeatLayer
from latespin.desktop.canvas.layers.ending_layer import EndingLayer
from latespin.desktop.canvas.layers.layer import Layer
from latespin.desktop.canvas.layers.marker_layer import MarkerLayer
from latespin.desktop.canvas.layers.moment_layer import MomentLayer
from latespin.desktop.canvas.layers.range_handle_layer import RangeHandleLayer
from latespin.desktop.canvas.layers.section_layer import SECTIONS_TALL, SectionLayer
from latespin.desktop.canvas.layers.strain_band import StrainBand
from latespin.desktop.canvas.layers.tempo_curve_layer import TempoCurveLayer
from latespin.desktop.canvas.marked_range import end_at, range_between, with_end_at
from latespin.desktop.canvas.playhead import Playhead, paint_hover, paint_loop
from latespin.desktop.canvas.ruler_painter import paint_name, paint_rulers, ruler_marks
from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.canvas.waveform_image import WaveformPictures
from latespin.desktop.theme.theme import colour
from latespin.desktop.translation import tr
from latespin.model.timing.time_map import TimeMap

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

MARGIN, LEAST_HEIGHT = 12, 120
DRAG_PX = 5
FOLLOW_SHARE = 0.05  # of the view, that stays behind the playhead when the view follows it


class WaveformView(QWidget):
    """Shows a track and a version of it, and reports where the user points. Its layers report what is dragged.

    Loops are seconds of Before, so that they keep their musical place.
    """

    ACCESS_ROLE = QAccessible.Role.Graphic

    seek_wanted = Signal(str, float)  # side, seconds on that side
    loop_changed = Signal(object)  # (start, end) seconds of Before, or None
    section_menu_wanted = Signal(int, QPoint)  # its number, where on the screen
    menu_wanted = Signal(str, float, str, QPoint)  # side, seconds on it, the moment there, where on the screen

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumHeight(LEAST_HEIGHT)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # it fills itself: nothing beneath needs to be drawn
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Before and After waveforms"))
        self._rate = 44_100
        self._map: TimeMap | None = None
        self._before: Peaks | None = None
        self._after: Peaks | None = None
        self._measured = False
        self.scale = TimeScale.fitted(100, 1)
        self._pictures = WaveformPictures()
        self._still: tuple[object, QPixmap] | None = None
        self._playhead = Playhead()
        self.loop: tuple[float, float] | None = None
        self._pressed: tuple[str, float, float] | None = None
        self._grip: int | None = None
        self._hover: QPointF | None = None
        self._held: Layer | None = None
        self._free = False
        self.in_bars, self.snapping, self.snap_to = True, True, "beats"
        self.frames_per_second: float | None = None
        self._make_layers()

    def _make_layers(self) -> None:
        def now() -> CanvasGeometry:
            return self.geometry_now

        self.curve, self.beats = TempoCurveLayer(now, self), BeatLayer(now, self)
        self.moments, self.end = MomentLayer(now, self), EndingLayer(now, self)
        self.markers, self.lanes = MarkerLayer(now, self), AutomationLayer(now, self)
        self.sections, self.strain = SectionLayer(now, self), StrainBand(now, self)
        self.range_handle = RangeHandleLayer(now, lambda: self.loop, self)
        self._layers: tuple[Layer, ...] = (
            self.range_handle, self.lanes, self.end, self.moments, self.curve, self.beats, self.sections, self.markers, self.strain,
        )  # fmt: skip
        for layer in self._layers:
            layer.changed.connect(self.repaint_all)
        self.lanes.focus_wanted.connect(self.setFocus)

    # -- what to show -------------------------------------------------------------------------------------------------

    @property
    def geometry_now(self) -> CanvasGeometry:
        """Layout at the current size, zoom and scroll position."""
        return CanvasGeometry(
            self.scale, self.bands(), self._rate, self._map, self.before_seconds, self.bars,
            self.snap_to if self.snapping else "",
        )  # fmt: skip

    def bands(self) -> Bands:
        """Current layout of the parts."""
        return Bands.of(self.width(), self.height())

    def show_track(self, peaks: "Peaks | None", rate: int) -> None:
        """Show another track (None for an empty window)."""
        self._before, self._rate, self._after, self.loop = peaks, rate, None, None
        self._pictures.clear()
        self.scale = TimeScale.fitted(self._inner_width(), 1.0)
        self.repaint_all()

    def show_version(self, time_map: TimeMap, peaks: "Peaks", *, measured: bool) -> None:
        """Show a version by its peaks, measured or expected."""
        assert self._before is not None
        self._map, self._after, self._measured = time_map, peaks, measured
        total = max(self._before.frames, self._after.frames) / self._rate
        self.scale = self.scale.resized(self._inner_width(), total)
        self._pictures.drop("after")
        self.repaint_all()

    @property
    def bars(self) -> BarLines | None:
        """Beats and bars, where they are known."""
        return self.beats.bars

    @property
    def before_seconds(self) -> float:
        """Length of Before in seconds; 0 without a song."""
        return self._before.frames / self._rate if self._before else 0.0

    @property
    def _after_seconds(self) -> float:
        return self._after.frames / self._rate if self._after else 0.0

    @property
    def side(self) -> str:
        """The side that is heard."""
        return self._playhead.side

    @property
    def playhead(self) -> float:
        """Seconds of the side that is heard."""
        return self._playhead.seconds

    def show_rulers(self, *, in_bars: bool) -> None:
        """Count bars, where they are known, or seconds."""
        self.in_bars = in_bars
        self.repaint_all()

    def set_playhead(self, side: str, seconds: float) -> None:
        """Move the playhead, following it where only a part is in view."""
        if side == self.side and abs(seconds - self.playhead) * self.scale.px_per_second < 0.2:
            return
        old = self._playhead_strip()
        self._playhead = Playhead(side, seconds)
        x = self.scale.x(seconds)
        if not self.scale.fits and not 0 <= x <= self.scale.width and self._pressed is None:
            self._set_scale(self.scale.scrolled(seconds - self.scale.start - FOLLOW_SHARE * self.scale.seconds))
        self.update(old.united(self._playhead_strip()))

    def set_loop(self, loop: tuple[float, float] | None) -> None:
        """Show a loop range (seconds of Before)."""
        self.loop = loop
        self.repaint_all()

    # -- zoom and scroll ------------------------------------------------------------------------------------

    def zoom(self, factor: float, x: float | None = None) -> None:
        """Nearer or farther, around a pixel (the playhead, or the middle, if none is given)."""
        if x is None:
            x = self.scale.x(self.playhead)
            x = x if 0 <= x <= self.scale.width else self.scale.width / 2
        self._set_scale(self.scale.zoomed(factor, x))

    def zoom_to_fit(self) -> None:
        """All of both waveforms."""
        self._set_scale(TimeScale.fitted(self.scale.width, self.scale.total))

    def show_range(self, start: float, end: float) -> None:
        """Zoom to a range of the side that is heard, seconds."""
        span = max(0.05, end - start)
        scale = TimeScale(self.scale.width, self.scale.total, 0.0, min(self.scale.total, span))
        self._set_scale(scale.starting(start))

    def _set_scale(self, scale: TimeScale) -> None:
        if scale != self.scale:
            self.scale = scale
            self._pictures.clear()
            self.repaint_all()

    def wheelEvent(self, event: QWheelEvent) -> None:
        steps = event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(1.25 ** (steps.y() / 120.0), event.position().x() - MARGIN)
        else:
            amount = steps.x() or steps.y()
            self._set_scale(self.scale.scrolled(-amount / 120.0 * 0.1 * self.scale.seconds))
        event.accept()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.scale = self.scale.resized(self._inner_width(), self.scale.total)
        self._pictures.clear()
        super().resizeEvent(event)

    def _inner_width(self) -> float:
        return max(10.0, self.width() - 2.0 * MARGIN)

    # -- pointing -------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._map is None or event.button() != Qt.MouseButton.LeftButton:
            return
        at = self._inner(event.position())
        for layer in self._layers:
            layer.adding = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        self._held = next((layer for layer in self._layers if layer.press(at)), None)
        if self._held is None:
            self._grip = end_at(self.loop, self.geometry_now, at)
            self._pressed = (self.geometry_now.side_at(at.y()), at.x(), at.x())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._hover = event.position()
        at = self._inner(event.position())
        self._free = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if self._held is not None:
            self._held.drag(at, free=self._free)
            return
        if self._pressed is not None:
            side, start, _ = self._pressed
            self._pressed = (side, start, at.x())
            if self._grip is not None and self.loop is not None:
                self.loop = with_end_at(self.loop, self._grip, self._snapped_at(side, at.x()))
            elif abs(at.x() - start) > DRAG_PX:
                self.loop = range_between(self._snapped_at(side, start), self._snapped_at(side, at.x()))
        self._show_cursor(event.position())
        self.repaint_all()

    def let_go(self) -> None:
        """Release what is held: the button has been released, here or over another window."""
        if self._held is not None:
            held, self._held = self._held, None
            held.release()
            self.repaint_all()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            self.let_go()
            return
        if self._pressed is None or event.button() != Qt.MouseButton.LeftButton:
            return
        side, start, end = self._pressed
        self._pressed = None
        if self._grip is not None or abs(end - start) > DRAG_PX:
            self._grip = None
            self.loop_changed.emit(self.loop)
        else:
            self.seek_wanted.emit(side, self.scale.at(start))
        self.repaint_all()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self._inner(event.position())
        if not (self.sections.rename(at) or self.curve.add(at) or self.lanes.add(at)):
            super().mouseDoubleClickEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        at = self._inner(QPointF(event.pos()))
        section = self.sections.number_at(at)
        if self._map is not None and section is not None:
            self.section_menu_wanted.emit(section, event.globalPos())
        elif self._map is not None:
            self.menu_wanted.emit(
                self.geometry_now.side_at(at.y()), self.scale.at(at.x()), self.moments.named_at(at), event.globalPos()
            )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not (
            self.curve.key(event.key())
            or self.lanes.key(event.key())
            or self.moments.key(event.key(), event.modifiers())
        ):
            super().keyPressEvent(event)

    def _show_cursor(self, at: QPointF) -> None:
        """Set the cursor for the part under the pointer."""
        shapes = (layer.cursor(self._inner(at)) for layer in self._layers)
        shape = next((shape for shape in shapes if shape is not None), Qt.CursorShape.ArrowCursor)
        if shape == Qt.CursorShape.ArrowCursor and end_at(self.loop, self.geometry_now, self._inner(at)) is not None:
            shape = Qt.CursorShape.SizeHorCursor
        self.setCursor(shape)
        self.setToolTip(
            tr("Drag this range to another program, or to a folder.")
            if self.range_handle.holds(self._inner(at))
            else ""
        )

    def _inner(self, at: QPointF) -> QPointF:
        return QPointF(at.x() - MARGIN, at.y())

    def on_widget(self, rect: QRectF) -> QRectF:
        """A rectangle of the geometry, in pixels of the widget."""
        return rect.translated(MARGIN, 0.0)

    def leaveEvent(self, event: QEvent) -> None:
        self._hover = None
        self.repaint_all()
        super().leaveEvent(event)

    def _snapped_at(self, side: str, x: float) -> float:
        """The second of Before at a pixel of one side, snapped unless Shift is held."""
        geometry = self.geometry_now
        return geometry.snapped(geometry.to_before(side, self.scale.at(x)), free=self._free)

    # -- painting -----------------------------------------------------------------------------------------------------

    def repaint_all(self) -> None:
        """Repaint everything, not only what moves during playback."""
        self._still = None
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(0, 0, self._still_picture())
        if self._map is None or self._before is None or self._after is None:
            return
        geometry = self.geometry_now
        painter.translate(MARGIN, 0)
        painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))
        self._playhead.paint(painter, geometry)
        if self._hover is not None and self._pressed is None:
            paint_hover(painter, geometry, self._inner(self._hover), self._after_seconds, curved=bool(self.curve.curve))

    def _still_picture(self) -> QPixmap:
        """Everything that does not move during playback, kept until it changes."""
        ratio = self.devicePixelRatioF()
        key = (self.size().toTuple(), ratio, colour("ground").rgba())
        if self._still is None or self._still[0] != key:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            with QPainter(picture) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.fillRect(self.rect(), colour("ground"))
                self._paint_still(painter, self.geometry_now)
            self._still = key, picture
        return self._still[1]

    def _paint_still(self, painter: QPainter, geometry: CanvasGeometry) -> None:
        if self._before is None or self._map is None or self._after is None:
            return
        bands, scale = geometry.bands, geometry.scale
        painter.translate(MARGIN, 0)
        marks = ruler_marks(geometry, in_bars=self.in_bars, frames_per_second=self.frames_per_second)
        paint_rulers(painter, geometry, marks, MARGIN)
        inside = QRectF(-1, 0, scale.width + 2, self.height())
        painter.setClipRect(inside)
        ratio, faint = self.devicePixelRatioF(), 1.0 if self._measured else 0.5
        self._pictures.paint(painter, bands.before, "before", self._before, scale, 1.0, ratio)
        self._pictures.paint(painter, bands.after, "after", self._after, scale, faint, ratio)
        for layer in (self.strain, self.moments, self.end, self.beats, self.sections, self.markers):
            layer.paint(painter)
        if self.loop is not None:
            paint_loop(painter, geometry, self.loop)
            self.range_handle.paint(painter)
        painter.setClipRect(inside.adjusted(1 - MARGIN, 0, MARGIN - 1, 0))
        self.curve.paint(painter)
        self.moments.paint_handles(painter)
        self.lanes.paint(painter)
        painter.setClipRect(inside)
        below = SECTIONS_TALL if self.sections.bands else 0.0
        paint_name(painter, bands.before.adjusted(0.0, below, 0.0, 0.0), "before", tr("Before"))
        paint_name(painter, bands.after, "after", tr("After"))
        places = thread_places(scale, self.bars, *geometry.before_in_view())
        paint_threads(painter, bands.threads, scale, self._map, self._rate, places)
        paint_jumps(painter, bands.threads, scale, self._map, self._rate)

    def _playhead_strip(self) -> QRect:
        xs = self._playhead.places(self.geometry_now)
        return QRectF(min(xs) + MARGIN - 6, 0, abs(xs[0] - xs[1]) + 12, self.height()).toAlignedRect()
