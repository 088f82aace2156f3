"""Before and After, tied together: two ribbons on one time scale with threads between them."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from latespin.desktop.barlines import HANDLE_PX, LABEL_PX, BarLines, paint_handles, paint_sections, paint_ticks
from latespin.desktop.curveline import CurveLine
from latespin.desktop.ribbonpicture import expected_peaks, ribbon_image
from latespin.desktop.theme import BOLD, SEMI_BOLD, colour, font
from latespin.desktop.timescale import TimeScale, tick_text
from latespin.model.curve import Curve, added, removed
from latespin.model.sentence import speed_text
from latespin.model.timemap import TimeMap
from latespin.model.units import clock, number

if TYPE_CHECKING:
    from latespin.media.peaks import Peaks

RULER = 22
MARGIN = 12
THREAD_PX = 14.0
GRIP_PX = 7
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


class Ribbons(QWidget):
    """Shows a track and a version of it; says where the person points.

    Times are seconds: of Before for loops and the playhead, so that they keep their musical place.
    """

    seek_wanted = Signal(str, float)  # side, seconds on that side
    loop_changed = Signal(object)  # (start, end) seconds of Before, or None
    curve_changed = Signal(object, str)  # the tempo curve as a hand left it, and what to merge the step of undo with
    curve_settled = Signal()
    point_chosen = Signal(int)
    beat_moved = Signal(int, float)  # its number, and where a hand left it, seconds of Before

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumHeight(220)
        self.setMouseTracking(True)
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
        self.side = "after"
        self.playhead = 0.0  # seconds of the heard side
        self.loop: tuple[float, float] | None = None
        self._pressed: tuple[str, float, float] | None = None
        self._grip: int | None = None
        self._hover: QPointF | None = None
        self._curve: Curve = ()
        self._speed = 1.0
        self.editing_curve = False
        self.point = 0
        self._held_point: int | None = None
        self._held_octaves: float | None = None
        self.bars: BarLines | None = None
        self.in_bars = True
        self.snapping = True
        self.editing_grid = False
        self._held_beat: int | None = None
        self._free = False

    # -- what to show ---------------------------------------------------------------------------------------

    def show_track(self, peaks: "Peaks | None", rate: int) -> None:
        """Show another track (None for an empty window)."""
        self._before, self._rate, self._after, self.loop = peaks, rate, None, None
        self._pictures.clear()
        self.scale = TimeScale.fitted(self._inner_width(), 1.0)
        self.update()

    def show_version(self, time_map: TimeMap, peaks: "Peaks | None", gain: float) -> None:
        """Show a version; without measured peaks, what they will roughly be."""
        assert self._before is not None
        self._map = time_map
        self._measured = peaks is not None
        self._after = peaks or expected_peaks(self._before, time_map, gain)
        self._after_seconds = self._after.frames / self._rate
        total = max(self._before.frames, self._after.frames) / self._rate
        self.scale = self.scale.resized(self._inner_width(), total)
        self._pictures.pop("after", None)
        self.update()

    def show_curve(self, curve: Curve, speed: float, *, editing: bool) -> None:
        """Show a tempo curve over Before, its points where it is being edited."""
        if (curve, speed, editing) != (self._curve, self._speed, self.editing_curve):
            self._curve, self._speed, self.editing_curve = curve, speed, editing
            self.point = min(self.point, max(0, len(curve) - 1))
            self.update()

    def show_grid(self, bars: BarLines | None, *, editing: bool) -> None:
        """Show beats and bars; while they are being put right, with something to take hold of."""
        if (bars, editing) != (self.bars, self.editing_grid):
            self.bars, self.editing_grid = bars, editing
            self.update()

    def show_rulers(self, *, in_bars: bool) -> None:
        """Count in bars, where they are known, or in seconds."""
        self.in_bars = in_bars
        self.update()

    def _curve_line(self) -> CurveLine | None:
        if self._before is None:
            return None
        seconds = self._before.frames / self._rate
        return CurveLine(self._curve, self._speed, seconds, self._bands().before, self.scale, self._held_octaves)

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
        if self._take_point(event.position()) or self._take_beat(event.position()):
            return
        x = event.position().x() - MARGIN
        self._grip = self._grip_at(event.position())
        self._pressed = (self._side_at(event.position().y()), x, x)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._hover = event.position()
        if self._held_point is not None:
            line = self._curve_line()
            assert line is not None
            self.curve_changed.emit(line.dragged(self._held_point, self._inner(event.position())), "curve")
            return
        x = event.position().x() - MARGIN
        if self._held_beat is not None:
            self.beat_moved.emit(self._held_beat, self.scale.at(x))
            return
        self._free = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if self._pressed is not None:
            side, start, _ = self._pressed
            self._pressed = (side, start, x)
            if self._grip is not None and self.loop is not None:
                self._move_grip(side, x)
            elif abs(x - start) > DRAG_PX:
                self.loop = self._range(side, start, x)
        self._show_cursor(event.position())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held_point is not None:
            self._held_point = self._held_octaves = None
            self.update()
            self.curve_settled.emit()
            return
        if self._held_beat is not None:
            self._held_beat = None
            self.curve_settled.emit()
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
        line, at = self._curve_line(), event.position()
        if line is None or not self.editing_curve or not line.band.contains(at):
            super().mouseDoubleClickEvent(event)
            return
        if line.under(self._inner(at)) is None:
            place = line.place_of(at.x() - MARGIN)
            curve = added(self._curve, place, line.factor_of(at.y()))
            self._choose_point(next(i for i, point in enumerate(curve) if point.place == place))
            self.curve_changed.emit(curve, "")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        line, key = self._curve_line(), event.key()
        steps = {Qt.Key.Key_Up: 1.01, Qt.Key.Key_Down: 1 / 1.01}
        if line is None or not self.editing_curve or not self._curve:
            super().keyPressEvent(event)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.curve_changed.emit(removed(self._curve, self.point), "")
        elif key in steps:
            self.curve_changed.emit(line.nudged(self.point, steps[Qt.Key(key)]), "curve key")
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            by = 1 if key == Qt.Key.Key_Right else -1
            self._choose_point((self.point + by) % len(self._curve))
        else:
            super().keyPressEvent(event)

    def _take_point(self, at: QPointF) -> bool:
        """Take hold of the curve's point under the pointer, if there is one."""
        line = self._curve_line() if self.editing_curve else None
        self._held_point = line.under(self._inner(at)) if line else None
        if line is not None and self._held_point is not None:
            self._held_octaves = line.octaves
            self._choose_point(self._held_point)
        return self._held_point is not None

    def _beat_at(self, at: QPointF) -> int | None:
        """The number of the beat whose handle is under the pointer."""
        band = self._bands().before
        if self.bars is None or not self.editing_grid or not band.bottom() - 30 <= at.y() <= band.bottom() + 4:
            return None
        number = self.bars.nearest(self.scale.at(at.x() - MARGIN), GRIP_PX / self.scale.px_per_second)
        seen = self.bars.beats_seen(self.scale, 0.0, self.bars.seconds, HANDLE_PX)
        return number if number is not None and number in seen else None

    def _take_beat(self, at: QPointF) -> bool:
        """Take hold of the beat under the pointer, if there is one."""
        self._held_beat = self._beat_at(at)
        return self._held_beat is not None

    def _show_cursor(self, at: QPointF) -> None:
        """Say what can be taken hold of here."""
        line = self._curve_line() if self.editing_curve else None
        shape = Qt.CursorShape.ArrowCursor
        if line is not None and line.under(self._inner(at)) is not None:
            shape = Qt.CursorShape.SizeAllCursor
        elif self._grip_at(at) is not None or self._beat_at(at) is not None:
            shape = Qt.CursorShape.SizeHorCursor
        self.setCursor(shape)

    def _choose_point(self, which: int) -> None:
        self.point = which
        self.point_chosen.emit(which)
        self.update()

    def _inner(self, at: QPointF) -> QPointF:
        return QPointF(at.x() - MARGIN, at.y())

    def leaveEvent(self, event: QEvent) -> None:
        self._hover = None
        self.update()
        super().leaveEvent(event)

    def _side_at(self, y: float) -> str:
        bands = self._bands()
        return "before" if y < bands.threads.center().y() else "after"

    def _to_before(self, side: str, seconds: float) -> float:
        return (
            seconds if side == "before" or self._map is None else self._map.before_at(seconds * self._rate) / self._rate
        )

    def _to_after(self, seconds: float) -> float:
        return seconds if self._map is None else self._map.after_at(seconds * self._rate) / self._rate

    def _range(self, side: str, start: float, end: float) -> tuple[float, float] | None:
        a, b = sorted(self._snapped(self._to_before(side, self.scale.at(x))) for x in (start, end))
        return (a, b) if b - a > 0.05 else None

    def _snapped(self, seconds: float) -> float:
        """A place of Before moved to a beat or bar close by, unless Shift is held or snapping is off."""
        free = self._free or not self.snapping or self.bars is None
        return seconds if free or self.bars is None else self.bars.snapped(seconds, self.scale)

    def _grip_at(self, at: QPointF) -> int | None:
        """Which end of the loop lies under the pointer."""
        if self.loop is None:
            return None
        side = self._side_at(at.y())
        for i, seconds in enumerate(self.loop):
            x = self.scale.x(seconds if side == "before" else self._to_after(seconds)) + MARGIN
            if abs(x - at.x()) <= GRIP_PX:
                return i
        return None

    def _move_grip(self, side: str, x: float) -> None:
        assert self.loop is not None
        moved = self._snapped(self._to_before(side, self.scale.at(x)))
        start, end = self.loop
        self.loop = (min(moved, end - 0.1), end) if self._grip == 0 else (start, max(moved, start + 0.1))

    # -- painting -------------------------------------------------------------------------------------------

    def _bands(self) -> Bands:
        return Bands.of(self.width(), self.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour("ground"))
        bands = self._bands()
        if self._before is None or self._map is None or self._after is None:
            return
        painter.translate(MARGIN, 0)
        self._paint_rulers(painter, bands)
        painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))
        self._paint_ribbon(painter, bands.before, "before", self._before, 1.0)
        self._paint_ribbon(painter, bands.after, "after", self._after, 1.0 if self._measured else 0.5)
        self._paint_beats(painter, bands)
        self._paint_loop(painter, bands)
        self._paint_curve(painter)
        self._paint_name(painter, bands.before, "before")
        self._paint_name(painter, bands.after, "after")
        self._paint_threads(painter, bands)
        self._paint_playhead(painter, bands)
        self._paint_hover(painter, bands)

    def _paint_rulers(self, painter: QPainter, bands: Bands) -> None:
        painter.setFont(font(11))
        step = self.scale.step(72)
        marks = [(seconds, seconds, tick_text(seconds, step)) for seconds in self.scale.ticks(72)]
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
        numbers = grid.numbers_between(*self._before_in_view())
        beats = grid.beat_seconds * self.scale.px_per_second >= LABEL_PX
        step = 1 if beats else bars.bars_apart(self.scale, LABEL_PX) * per_bar
        kept = numbers[numbers % step == 0]
        words = [grid.words_of(int(number), beats=beats) for number in kept]
        times = grid.seconds_of(kept).tolist()
        return [(seconds, self._to_after(seconds), text) for seconds, text in zip(times, words, strict=True)]

    def _before_in_view(self) -> tuple[float, float]:
        """From where to where Before lies in view on either ribbon, seconds."""
        start, end = self.scale.start, self.scale.start + self.scale.seconds
        limit = self._before.frames / self._rate if self._before else 0.0
        low = min(start, self._to_before("after", start))
        return max(0.0, low), min(limit, max(end, self._to_before("after", end)))

    def _paint_beats(self, painter: QPainter, bands: Bands) -> None:
        bars = self.bars
        if bars is None:
            return
        if bars.reading is not None:
            paint_sections(painter, bands.before, self.scale, bars.reading)
        numbers = bars.beats_seen(self.scale, *self._before_in_view())
        times = bars.grid.seconds_of(numbers)
        strong, sure = bars.strengths(numbers, times), bars.sure(times)
        before = np.array([self.scale.x(t) for t in times.tolist()])
        after = np.array([self.scale.x(self._to_after(t)) for t in times.tolist()])
        paint_ticks(painter, bands.before, before, strong, sure, "before", up=True)
        paint_ticks(painter, bands.after, after, strong, sure, "after", up=False)
        if self.editing_grid:
            paint_handles(painter, bands.before, self.scale, bars)

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

    def _thread(self, before_x: float, after_x: float, band: QRectF) -> QPainterPath:
        path = QPainterPath(QPointF(before_x, band.top() + 1))
        middle = band.height() * 0.5
        path.cubicTo(before_x, band.top() + middle, after_x, band.bottom() - middle, after_x, band.bottom() - 1)
        return path

    def _paint_threads(self, painter: QPainter, bands: Bands) -> None:
        assert self._before is not None
        gradient = QLinearGradient(0, bands.threads.top(), 0, bands.threads.bottom())
        gradient.setColorAt(0.0, colour("before"))
        gradient.setColorAt(1.0, colour("after"))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for seconds, strong in self._thread_places():
            before_x, after_x = self.scale.x(seconds), self.scale.x(self._to_after(seconds))
            painter.setOpacity(0.9 if strong else 0.42)
            painter.setPen(QPen(gradient, 1.5 if strong else 1.0))
            painter.drawPath(self._thread(before_x, after_x, bands.threads))
        painter.setOpacity(1.0)

    def _thread_places(self) -> list[tuple[float, bool]]:
        """Seconds of Before from which threads lead to After, and which of them stand out: bar lines where they are known."""
        start, end = self._before_in_view()
        if self.bars is None:
            step = self.scale.step(THREAD_PX)
            return [(n * step, n % 5 == 0) for n in range(max(0, int(start / step) - 1), int(end / step) + 1)]
        grid = self.bars.grid
        step = self.bars.bars_apart(self.scale, THREAD_PX) * grid.beats_per_bar
        numbers = grid.numbers_between(start, end)
        numbers = numbers[numbers % step == 0]
        return [(t, int(n) % (4 * step) == 0) for t, n in zip(grid.seconds_of(numbers).tolist(), numbers, strict=True)]

    def _places(self) -> tuple[float, float]:
        """Where the playhead is on both ribbons, in pixels."""
        before = self._to_before(self.side, self.playhead)
        after = self.playhead if self.side == "after" else self._to_after(before)
        return self.scale.x(before), self.scale.x(after)

    def _playhead_strip(self) -> "QRect":  # type: ignore[name-defined]  # noqa: F821
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
            painter.drawPath(self._thread(*xs, bands.threads))

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
        line = self._curve_line()
        if line is not None:
            painter.setClipRect(QRectF(-MARGIN, 0, self.scale.width + 2 * MARGIN, self.height()))
            line.paint(painter, self.point, editable=self.editing_curve)
            painter.setClipRect(QRectF(-1, 0, self.scale.width + 2, self.height()))

    def _bar_text(self, before: float) -> str:
        """Bar and beat at a second of Before, where they are known."""
        return f"Bar {self.bars.grid.words_at(before)}   ·   " if self.bars else ""

    def _tempo_text(self, before: float, after: float) -> str:
        """Speed and tempo at a place, where a curve changes them."""
        if not self._curve or self._map is None:
            return ""
        speed = self._map.speed_at(after * self._rate)
        if self.bars is None:
            return f"   ·   {speed_text(speed)}"
        return f"   ·   {speed_text(speed)}, {number(self.bars.grid.bpm_at(before) * speed, 1)} BPM"

    def _paint_hover(self, painter: QPainter, bands: Bands) -> None:
        """Both times of the place under the pointer, and its thread."""
        if self._hover is None or self._pressed is not None:
            return
        side = self._side_at(self._hover.y())
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
            painter.drawPath(self._thread(self.scale.x(before), self.scale.x(after), bands.threads))
        painter.setFont(font(12, SEMI_BOLD))
        width = painter.fontMetrics().horizontalAdvance(text) + 20
        x = min(max(0.0, self._hover.x() - MARGIN - width / 2), self.scale.width - width)
        bubble = QRectF(x, bands.threads.center().y() - 13, width, 26)
        painter.setBrush(colour("raised"))
        painter.setPen(QPen(colour("line"), 1))
        painter.drawRoundedRect(bubble, 8, 8)
        painter.setPen(colour("ink"))
        painter.drawText(bubble, Qt.AlignmentFlag.AlignCenter, text)
