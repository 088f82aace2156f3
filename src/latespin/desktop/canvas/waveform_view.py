"""Before and After, tied together: two ribbons on one time scale with threads between them."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from latespin.desktop.canvas.automation_layer import AutomationLayer
from latespin.desktop.canvas.beat_layer import BeatLayer
from latespin.desktop.canvas.beat_lines import LABEL_PX, BarLines
from latespin.desktop.canvas.connectors import paint_jumps, paint_threads, thread, thread_places
from latespin.desktop.canvas.ending_layer import EndLayer
from latespin.desktop.canvas.layer import GRIP_PX, Layer
from latespin.desktop.canvas.marker_layer import MarkerLayer
from latespin.desktop.canvas.moment_layer import MomentLayer
from latespin.desktop.canvas.tempo_curve_layer import CurveLayer
from latespin.desktop.canvas.time_axis import TimeScale, tick_text, timecode
from latespin.desktop.canvas.waveform_image import ribbon_image
from latespin.desktop.theme.theme import BOLD, SEMI_BOLD, colour, font
from latespin.model.text.describe import speed_text
from latespin.model.timing.time_map import TimeMap
from latespin.model.values.units import clock, number

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

RULER = 22
MARGIN = 12
DRAG_PX = 5


@dataclass(frozen=True)
class Bands:
    """Where the parts lie, top to bottom: ruler, Before, threads, After, ruler."""

    before: QRectF
    threads: QRectF
    after: QRectF

    @classmethod
    def of(cls, width: float, height: float) -> "Bands":
        """For a widget of this size."""
        inner = max(60.0, height - 2 * RULER)
        ribbon = inner * 0.38
        gap = inner - 2 * ribbon
        return cls(
            QRectF(0, RULER, width, ribbon),
            QRectF(0, RULER + ribbon, width, gap),
            QRectF(0, RULER + ribbon + gap, width, ribbon),
        )


class WaveformView(QWidget):
    """Shows a track and a version of it; says where the person points.

    Times are seconds: of Before for loops and the playhead, so that they keep their musical place.
    """

    seek_wanted = Signal(str, float)  # side, seconds on that side
    loop_changed = Signal(object)  # (start, end) seconds of Before, or None
    curve_changed = Signal(object, str)  # the tempo curve as a hand left it, and what to merge the step of undo with
    curve_settled = Signal()
    point_chosen = Signal(int)
    moment_chosen = Signal(str)
    moment_moved = Signal(
        str, str, float, bool
    )  # its id, start, end or whole, seconds of Before, whether it was snapped
    moment_bent = Signal(str, float)  # its id and the tension a hand left it with
    end_moved = Signal(float, bool)
    marker_moved = Signal(str, str, float, bool)
    lane_moved = Signal(int, float, float, bool)  # a point, seconds of Before, height, whether it was snapped
    lane_bent = Signal(int, float)
    lane_added = Signal(float, float, bool)
    lane_removed = Signal(int)
    lane_nudged = Signal(int, int)
    moment_key = Signal(str)
    menu_wanted = Signal(str, float, str, QPoint)  # side, seconds on it, the moment there, where on the screen
    beat_moved = Signal(int, float)  # its number, and where a hand left it, seconds of Before

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumHeight(220)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # it fills itself: nothing beneath needs to be drawn
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Before and After ribbons")
        self.setToolTip("")
        self._rate = 44_100
        self._map: TimeMap | None = None
        self._before: Peaks | None = None
        self._after: Peaks | None = None
        self._measured = False
        self._after_seconds = 0.0
        self.scale = TimeScale.fitted(100, 1)
        self._pictures: dict[str, tuple[object, QPixmap]] = {}
        self._still: tuple[object, QPixmap] | None = None
        self.side = "after"
        self.playhead = 0.0  # seconds of the heard side
        self.loop: tuple[float, float] | None = None
        self._pressed: tuple[str, float, float] | None = None
        self._grip: int | None = None
        self._hover: QPointF | None = None
        self.curve, self.beats = CurveLayer(self), BeatLayer(self)
        self.moments, self.end = MomentLayer(self), EndLayer(self)
        self.markers, self.lanes = MarkerLayer(self), AutomationLayer(self)
        self._layers: tuple[Layer, ...] = (self.lanes, self.end, self.moments, self.curve, self.beats, self.markers)
        self._held: Layer | None = None
        self.in_bars = True
        self.frames_per_second: float | None = None
        self.snapping = True
        self.snap_to = "beats"
        self._free = False

    # -- what to show ---------------------------------------------------------------------------------------

    def show_track(self, peaks: "Peaks | None", rate: int) -> None:
        """Show another track (None for an empty window)."""
        self._before, self._rate, self._after, self.loop = peaks, rate, None, None
        self._pictures.clear()
        self.scale = TimeScale.fitted(self._inner_width(), 1.0)
        self.update()

    def show_version(self, time_map: TimeMap, peaks: "Peaks", *, measured: bool) -> None:
        """Show a version by its peaks, measured or what they will roughly be."""
        assert self._before is not None
        self._map, self._after, self._measured = time_map, peaks, measured
        self._after_seconds = self._after.frames / self._rate
        total = max(self._before.frames, self._after.frames) / self._rate
        self.scale = self.scale.resized(self._inner_width(), total)
        self._pictures.pop("after", None)
        self.update()

    @property
    def bars(self) -> BarLines | None:
        """Beats and bars, where they are known."""
        return self.beats.bars

    @property
    def before_seconds(self) -> float:
        """How long Before is; 0 while there is none."""
        return self._before.frames / self._rate if self._before else 0.0

    def show_rulers(self, *, in_bars: bool) -> None:
        """Count in bars, where they are known, or in seconds."""
        self.in_bars = in_bars
        self.update()

    def set_playhead(self, side: str, seconds: float) -> None:
        """Move the playhead, following it where only a part is seen."""
        if side == self.side and abs(seconds - self.playhead) * self.scale.px_per_second < 0.2:
            return
        old = self._playhead_strip()
        self.side, self.playhead = side, seconds
        x = self.scale.x(seconds)
        if not self.scale.fits and not 0 <= x <= self.scale.width and self._pressed is None:
            self._set_scale(self.scale.scrolled(seconds - self.scale.start - 0.05 * self.scale.seconds))
        self.update(old.united(self._playhead_strip()))

    def set_loop(self, loop: tuple[float, float] | None) -> None:
        """Show a loop range (seconds of Before)."""
        self.loop = loop
        self.update()

    # -- zoom and scroll ------------------------------------------------------------------------------------

    def zoom(self, factor: float, x: float | None = None) -> None:
        """Nearer or farther, around a pixel (the playhead, or the middle, if none is given)."""
        if x is None:
            x = self.scale.x(self.playhead)
            x = x if 0 <= x <= self.scale.width else self.scale.width / 2
        self._set_scale(self.scale.zoomed(factor, x))

    def zoom_to_fit(self) -> None:
        """All of both ribbons."""
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
            self.update()

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
        self._held = next((layer for layer in self._layers if layer.press(at)), None)
        if self._held is None:
            self._grip = self._grip_at(event.position())
            self._pressed = (self.side_at(at.y()), at.x(), at.x())

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
                self._move_grip(side, at.x())
            elif abs(at.x() - start) > DRAG_PX:
                self.loop = self._range(side, start, at.x())
        self._show_cursor(event.position())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is not None:
            held, self._held = self._held, None
            held.release()
            self.update()
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
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self._inner(event.position())
        if not (self.curve.add(at) or self.lanes.add(at)):
            super().mouseDoubleClickEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        if self._map is not None:
            at = self._inner(QPointF(event.pos()))
            self.menu_wanted.emit(
                self.side_at(at.y()), self.scale.at(at.x()), self.moments.named_at(at), event.globalPos()
            )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not (
            self.curve.key(event.key())
            or self.lanes.key(event.key())
            or self.moments.key(event.key(), event.modifiers())
        ):
            super().keyPressEvent(event)

    def _show_cursor(self, at: QPointF) -> None:
        """Say what can be taken hold of here."""
        shapes = (layer.cursor(self._inner(at)) for layer in self._layers)
        shape = next((shape for shape in shapes if shape is not None), Qt.CursorShape.ArrowCursor)
        if shape == Qt.CursorShape.ArrowCursor and self._grip_at(at) is not None:
            shape = Qt.CursorShape.SizeHorCursor
        self.setCursor(shape)

    def _inner(self, at: QPointF) -> QPointF:
        return QPointF(at.x() - MARGIN, at.y())

    def leaveEvent(self, event: QEvent) -> None:
        self._hover = None
        self.update()
        super().leaveEvent(event)

    def side_at(self, y: float) -> str:
        """Which ribbon a height belongs to."""
        bands = self.bands()
        return "before" if y < bands.threads.center().y() else "after"

    def _to_before(self, side: str, seconds: float) -> float:
        return (
            seconds if side == "before" or self._map is None else self._map.before_at(seconds * self._rate) / self._rate
        )

    def _to_after(self, seconds: float) -> float:
        return seconds if self._map is None else self._map.after_at(seconds * self._rate) / self._rate

    def clock_at(self, before: float, later: float) -> float:
        """The second of Before at which the song's clock is ``later`` seconds of After on from a place, were nothing else to bend time."""
        if self._map is None:
            return before
        music = self._map.music or self._map
        frame = music.after_at(before * self._rate) + later * self._rate
        return music.before_at(min(max(frame, 0.0), float(music.after_frames))) / self._rate

    def clock_of_after(self, seconds: float) -> float:
        """The second of Before at which the song's clock is at a second of After."""
        return seconds if self._map is None else self._map.clock_at(seconds * self._rate) / self._rate

    def to_after_all(self, seconds: np.ndarray) -> np.ndarray:
        """When the song's clock is at seconds of Before, in After."""
        return seconds if self._map is None else self._map.after_of_all(seconds * self._rate) / self._rate

    def _range(self, side: str, start: float, end: float) -> tuple[float, float] | None:
        a, b = sorted(self.snapped(self._to_before(side, self.scale.at(x))) for x in (start, end))
        return (a, b) if b - a > 0.05 else None

    def snapped(self, seconds: float) -> float:
        """A place of Before moved to a beat or bar close by, unless Shift is held or snapping is off."""
        free = self._free or not self.snapping or self.bars is None
        return seconds if free or self.bars is None else self.bars.snapped(seconds, self.scale, self.snap_to)

    def _grip_at(self, at: QPointF) -> int | None:
        """Which end of the loop lies under the pointer."""
        if self.loop is None:
            return None
        side = self.side_at(at.y())
        for i, seconds in enumerate(self.loop):
            x = self.scale.x(seconds if side == "before" else self._to_after(seconds)) + MARGIN
            if abs(x - at.x()) <= GRIP_PX:
                return i
        return None

    def _move_grip(self, side: str, x: float) -> None:
        assert self.loop is not None
        moved = self.snapped(self._to_before(side, self.scale.at(x)))
        start, end = self.loop
        self.loop = (min(moved, end - 0.1), end) if self._grip == 0 else (start, max(moved, start + 0.1))

    # -- painting -------------------------------------------------------------------------------------------

    def bands(self) -> Bands:
        """Where the parts lie now."""
        return Bands.of(self.width(), self.height())

    def update(self, *region: QRect) -> None:
        """Have all of it painted anew; with a region, only what moves over it while it plays."""
        if not region:
            self._still = None
        super().update(*region)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(0, 0, self._still_picture())
        if self._map is not None and self._before is not None and self._after is not None:
            painter.translate(MARGIN, 0)
            painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))
            self._paint_playhead(painter, self.bands())
            self._paint_hover(painter, self.bands())

    def _still_picture(self) -> QPixmap:
        """All that does not move while it plays, kept until something of it changes."""
        ratio = self.devicePixelRatioF()
        key = (self.size().toTuple(), ratio, colour("ground").rgba())
        if self._still is None or self._still[0] != key:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            with QPainter(picture) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.fillRect(self.rect(), colour("ground"))
                self._paint_still(painter, self.bands())
            self._still = key, picture
        return self._still[1]

    def _paint_still(self, painter: QPainter, bands: Bands) -> None:
        if self._before is None or self._map is None or self._after is None:
            return
        painter.translate(MARGIN, 0)
        self._paint_rulers(painter, bands)
        painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))
        self._paint_ribbon(painter, bands.before, "before", self._before, 1.0)
        self._paint_ribbon(painter, bands.after, "after", self._after, 1.0 if self._measured else 0.5)
        self.moments.paint(painter)
        self.end.paint(painter)
        self.beats.paint(painter)
        self.markers.paint(painter)
        self._paint_loop(painter, bands)
        self._paint_curve(painter)
        self._paint_name(painter, bands.before, "before")
        self._paint_name(painter, bands.after, "after")
        places = thread_places(self.scale, self.bars, *self.before_in_view())
        paint_threads(painter, bands.threads, self.scale, self._map, self._rate, places)
        paint_jumps(painter, bands.threads, self.scale, self._map, self._rate)

    def _paint_rulers(self, painter: QPainter, bands: Bands) -> None:
        painter.setFont(font(11))
        fps = self.frames_per_second
        step = self.scale.step(72)
        marks = [(seconds, seconds, tick_text(seconds, step)) for seconds in self.scale.ticks(72)]
        if fps is not None:
            marks = [(n / fps, n / fps, timecode(n, fps)) for n in self.scale.video_frames(84, fps)]
        if self.bars is not None and self.in_bars:
            marks = self._bar_marks(self.bars)
        for top, token, tick in ((0.0, "before", RULER - 6), (bands.after.bottom(), "after", 0)):
            for before, after, text in marks:
                x = self.scale.x(before if token == "before" else after)
                if not -1 <= x <= self.scale.width + 1:
                    continue
                painter.setPen(colour("line"))
                painter.drawLine(QPointF(x, top + tick), QPointF(x, top + tick + 6))
                painter.setPen(colour(token))
                place = QRectF(x - 36, top + (0 if token == "before" else 6), 72, 16)
                align = Qt.AlignmentFlag.AlignHCenter
                if place.left() < 0:
                    place.moveLeft(-MARGIN + 8)
                    align = Qt.AlignmentFlag.AlignLeft
                painter.drawText(place, align | Qt.AlignmentFlag.AlignVCenter, text)

    def _bar_marks(self, bars: BarLines) -> list[tuple[float, float, str]]:
        """Seconds on both sides and words of what the rulers say: bars, or beats where there is room for them."""
        grid, per_bar = bars.grid, bars.grid.beats_per_bar
        numbers = grid.numbers_between(*self.before_in_view())
        beats = grid.beat_seconds * self.scale.px_per_second >= LABEL_PX
        step = 1 if beats else bars.bars_apart(self.scale, LABEL_PX) * per_bar
        kept = numbers[numbers % step == 0]
        words = [grid.words_of(int(number), beats=beats) for number in kept]
        times = grid.seconds_of(kept).tolist()
        afters = self.to_after_all(np.array(times))
        ahead = (np.diff(afters, prepend=-1.0) > 1e-6) & (
            afters < self._music_seconds() - 1e-6
        )  # not beyond the end of After
        return list(zip(times, np.where(ahead, afters, -1e6).tolist(), words, strict=True))

    def _music_seconds(self) -> float:
        """How long the music of After is."""
        return self._map.after_frames / self._rate if self._map else 0.0

    def before_in_view(self) -> tuple[float, float]:
        """From where to where Before lies in view on either ribbon, seconds."""
        start, end = self.scale.start, self.scale.start + self.scale.seconds
        limit = self._before.frames / self._rate if self._before else 0.0
        low = min(start, self._to_before("after", start))
        return max(0.0, low), min(limit, max(end, self._to_before("after", end)))

    def _paint_ribbon(self, painter: QPainter, band: QRectF, token: str, peaks: "Peaks", strength: float) -> None:
        right = min(self.scale.width, self.scale.x(peaks.frames / self._rate))
        left = max(0.0, self.scale.x(0.0))
        if right > left:
            bed = QRectF(left, band.top(), right - left, band.height())
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("panel"))
            painter.drawRoundedRect(bed, 8, 8)
            painter.drawPixmap(QPointF(0, band.top()), self._picture(token, peaks, band, strength))

    def _paint_name(self, painter: QPainter, band: QRectF, token: str) -> None:
        painter.setFont(font(12, BOLD))
        name = "Before" if token == "before" else "After"
        pill = QRectF(6, band.top() + 6, painter.fontMetrics().horizontalAdvance(name) + 16, 20)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ground", 0.82))
        painter.drawRoundedRect(pill, 10, 10)
        painter.setPen(colour(token))
        painter.drawText(pill, Qt.AlignmentFlag.AlignCenter, name)

    def _picture(self, name: str, peaks: "Peaks", band: QRectF, strength: float) -> QPixmap:
        ratio = self.devicePixelRatioF()
        width, height = int(self.scale.width * ratio), int(band.height() * ratio)
        key = (id(peaks), self.scale, width, height, strength, colour(name).rgba())
        kept = self._pictures.get(name)
        if kept is None or kept[0] != key:
            image = ribbon_image(peaks, self.scale, max(1, width), max(1, height), colour(name), strength)
            pixmap = QPixmap.fromImage(image)
            pixmap.setDevicePixelRatio(ratio)
            kept = (key, pixmap)
            self._pictures[name] = kept
        return kept[1]

    def _places(self) -> tuple[float, float]:
        """Where the playhead is on both ribbons, in pixels."""
        before = self._to_before(self.side, self.playhead)
        after = self.playhead if self.side == "after" else self._to_after(before)
        return self.scale.x(before), self.scale.x(after)

    def _playhead_strip(self) -> QRect:
        xs = self._places()
        return QRectF(min(xs) + MARGIN - 6, 0, abs(xs[0] - xs[1]) + 12, self.height()).toAlignedRect()

    def _paint_playhead(self, painter: QPainter, bands: Bands) -> None:
        xs = self._places()
        rings = self._map is not None and self.side == "after" and self.playhead * self._rate > self._map.after_frames
        for x, band, side in ((xs[0], bands.before, "before"), (xs[1], bands.after, "after")):
            heard = side == self.side
            if rings and not heard:
                continue
            pen = QPen(colour("ink") if heard else colour("ink_soft"), 2.0 if heard else 1.0)
            painter.setPen(pen)
            painter.drawLine(QPointF(x, band.top()), QPointF(x, band.bottom()))
        if not rings:
            painter.setPen(QPen(colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(thread(*xs, bands.threads))

    def _paint_loop(self, painter: QPainter, bands: Bands) -> None:
        if self.loop is None:
            return
        after = [self._to_after(seconds) for seconds in self.loop]
        shade = QColor(colour("focus", 0.16))
        for (start, end), band in ((self.loop, bands.before), (after, bands.after)):
            a, b = self.scale.x(start), self.scale.x(end)
            painter.fillRect(QRectF(a, band.top() - 4, b - a, band.height() + 8), shade)
            painter.setPen(QPen(colour("focus"), 2))
            for x in (a, b):
                painter.drawLine(QPointF(x, band.top() - 4), QPointF(x, band.bottom() + 4))

    def _paint_curve(self, painter: QPainter) -> None:
        painter.setClipRect(QRectF(-MARGIN, 0, self.scale.width + 2 * MARGIN, self.height()))
        self.curve.paint(painter)
        self.moments.paint_handles(painter)
        self.lanes.paint(painter)
        painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))

    def _bar_text(self, before: float) -> str:
        """Bar and beat at a second of Before, where they are known."""
        return f"Bar {self.bars.grid.words_at(before)}   ·   " if self.bars else ""

    def _tempo_text(self, before: float, after: float) -> str:
        """Speed and tempo at a place, where a curve changes them."""
        if not self.curve.curve or self._map is None:
            return ""
        speed = self._map.speed_at(after * self._rate)
        if self.bars is None:
            return f"   ·   {speed_text(speed)}"
        return f"   ·   {speed_text(speed)}, {number(self.bars.grid.bpm_at(before) * speed, 1)} BPM"

    def _paint_hover(self, painter: QPainter, bands: Bands) -> None:
        """Both times of the place under the pointer, and its thread."""
        if self._hover is None or self._pressed is not None:
            return
        side = self.side_at(self._hover.y())
        seconds = self.scale.at(self._hover.x() - MARGIN)
        limit = (self._before.frames / self._rate) if side == "before" and self._before else self._after_seconds
        if seconds > limit:
            return
        before = self._to_before(side, seconds)
        after = seconds if side == "after" else self._to_after(before)
        tail = self._map is not None and after * self._rate > self._map.after_frames + 1
        text = (
            f"After {clock(after, 2)} · the room rings on"
            if tail
            else f"{self._bar_text(before)}Before {clock(before, 2)}   →   After {clock(after, 2)}{self._tempo_text(before, after)}"
        )
        painter.setPen(QPen(colour("focus"), 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if not tail:
            painter.drawPath(thread(self.scale.x(before), self.scale.x(after), bands.threads))
        painter.setFont(font(12, SEMI_BOLD))
        width = painter.fontMetrics().horizontalAdvance(text) + 20
        x = min(max(0.0, self._hover.x() - MARGIN - width / 2), self.scale.width - width)
        bubble = QRectF(x, bands.threads.center().y() - 13, width, 26)
        painter.setBrush(colour("raised"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawRoundedRect(bubble, 8, 8)
        painter.setPen(colour("ink"))
        painter.drawText(bubble, Qt.AlignmentFlag.AlignCenter, text)
