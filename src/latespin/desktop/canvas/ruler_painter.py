"""The rulers of both sides: seconds, video frames, or bars and beats."""

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from latespin.desktop.canvas.beat_lines import LABEL_PX
from latespin.desktop.canvas.canvas_geometry import RULER, CanvasGeometry
from latespin.desktop.canvas.time_axis import tick_text, timecode
from latespin.desktop.theme.theme import BOLD, colour, font

SECONDS_PX, FRAMES_PX = 72, 84  # least distance between two labels
TICK, LABEL_WIDTH = 6.0, 72.0
HIDDEN = -1e6  # pixels: where a mark that is not in After goes
Mark = tuple[float, float, str]  # seconds of Before, seconds of After, words


def ruler_marks(geometry: CanvasGeometry, *, in_bars: bool, frames_per_second: float | None) -> list[Mark]:
    """The labels of the rulers: bars where they are known and wanted, else video frames, else seconds."""
    scale = geometry.scale
    if geometry.bars is not None and in_bars:
        return bar_marks(geometry)
    if frames_per_second is not None:
        frames = scale.video_frames(FRAMES_PX, frames_per_second)
        return [(n / frames_per_second, n / frames_per_second, timecode(n, frames_per_second)) for n in frames]
    step = scale.step(SECONDS_PX)
    return [(seconds, seconds, tick_text(seconds, step)) for seconds in scale.ticks(SECONDS_PX)]


def bar_marks(geometry: CanvasGeometry) -> list[Mark]:
    """Bars, or beats where there is room for them."""
    bars, scale = geometry.bars, geometry.scale
    assert bars is not None
    grid = bars.grid
    numbers = grid.numbers_between(*geometry.before_in_view())
    beats = grid.beat_seconds * scale.px_per_second >= LABEL_PX
    step = 1 if beats else bars.bars_apart(scale, LABEL_PX) * grid.beats_per_bar
    kept = numbers[numbers % step == 0]
    words = [grid.words_of(int(number), beats=beats) for number in kept]
    times = grid.seconds_of(kept).tolist()
    afters = geometry.to_after_all(np.array(times))
    heard = (np.diff(afters, prepend=-1.0) > 1e-6) & (afters < geometry.music_seconds - 1e-6)
    return list(zip(times, np.where(heard, afters, HIDDEN).tolist(), words, strict=True))


def paint_rulers(painter: QPainter, geometry: CanvasGeometry, marks: list[Mark], margin: float) -> None:
    """Draw the ruler above Before and the one below After. margin : pixels left of the waveforms."""
    painter.setFont(font(11))
    for side, top, tick, below in (
        ("before", 0.0, RULER - TICK, 0.0),
        ("after", geometry.bands.after.bottom(), 0.0, TICK),
    ):
        for before, after, text in marks:
            x = geometry.scale.x(before if side == "before" else after)
            if not -1 <= x <= geometry.scale.width + 1:
                continue
            painter.setPen(colour("line"))
            painter.drawLine(QPointF(x, top + tick), QPointF(x, top + tick + TICK))
            painter.setPen(colour(side))
            place = QRectF(x - LABEL_WIDTH / 2, top + below, LABEL_WIDTH, 16)
            align = Qt.AlignmentFlag.AlignHCenter
            if place.left() < 0:
                place.moveLeft(8 - margin)
                align = Qt.AlignmentFlag.AlignLeft
            painter.drawText(place, align | Qt.AlignmentFlag.AlignVCenter, text)


def paint_name(painter: QPainter, band: QRectF, token: str, name: str) -> None:
    """Write the name of a side into the corner of its waveform."""
    painter.setFont(font(12, BOLD))
    pill = QRectF(6, band.top() + 6, painter.fontMetrics().horizontalAdvance(name) + 16, 20)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour("ground", 0.82))
    painter.drawRoundedRect(pill, 10, 10)
    painter.setPen(colour(token))
    painter.drawText(pill, Qt.AlignmentFlag.AlignCenter, name)
