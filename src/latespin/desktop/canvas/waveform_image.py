"""The picture of a waveform, made from peaks with NumPy: a soft envelope with a denser core."""

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPixmap

from latespin.desktop.canvas.time_axis import TimeScale
from latespin.desktop.theme.theme import colour as colour_of

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

SHAPE = 0.8  # heights grow a little quicker than amplitudes, so that quiet passages can be seen
ENVELOPE_ALPHA, CORE_ALPHA = 0.42, 0.95


def draw_waveform(
    peaks: "Peaks", scale: TimeScale, width: int, height: int, colour: QColor, strength: float = 1.0
) -> QImage:
    """A picture of what ``scale`` shows of ``peaks``, ``width`` × ``height`` pixels, transparent outside.

    strength : 0 to 1, how solid it is (less while it is only expected, not yet measured).
    """
    highest, power = _columns(peaks, scale, width)
    half = height / 2.0
    distance = np.abs(np.arange(height, dtype=np.float32)[:, None] + np.float32(0.5 - half))
    alpha = np.maximum(
        _cover(distance, highest**SHAPE * half, 255.0 * ENVELOPE_ALPHA * strength),
        _cover(distance, power**SHAPE * half, 255.0 * CORE_ALPHA * strength),
    )
    pixels = _shades(colour)[alpha.astype(np.uint8)]
    return QImage(pixels.tobytes(), width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied).copy()


def _shades(colour: QColor) -> np.ndarray:
    """The colour at each of 256 opacities, premultiplied, as Qt packs it."""
    alpha = np.arange(256, dtype=np.float64)
    red, green, blue = (
        np.round(alpha * part).astype(np.uint32) for part in (colour.redF(), colour.greenF(), colour.blueF())
    )
    return np.asarray((np.arange(256, dtype=np.uint32) << 24) | (red << 16) | (green << 8) | blue)


def _cover(distance: np.ndarray, reach: np.ndarray, full: float) -> np.ndarray:
    """Coverage of each pixel within a distance of the centre line, up to ``full``."""
    wide = reach.astype(np.float32)[None, :]
    cover = np.clip(wide - distance + np.float32(0.5), 0.0, 1.0)
    cover *= np.where(reach > 0.0, np.float32(full), np.float32(0.0))[None, :]
    return np.asarray(cover)


def _columns(peaks: "Peaks", scale: TimeScale, width: int) -> tuple[np.ndarray, np.ndarray]:
    """Highest sample and mean level of every pixel column; zero beyond the end."""
    count = len(peaks.highest)
    per_second = peaks.rate / 256.0
    edges = (scale.start + np.arange(width + 1) * scale.seconds / width) * per_second
    first = np.clip(np.floor(edges[:-1]).astype(np.int64), 0, max(0, count - 1))
    last = np.clip(np.ceil(edges[1:]).astype(np.int64), first + 1, max(1, count))
    inside = edges[:-1] < count
    if count == 0:
        return np.zeros(width), np.zeros(width)
    # reduceat over [first, last) pairs; the odd results, from one pair to the next, are dropped.
    bounds = np.stack((first, np.minimum(last, count - 1)), axis=1).ravel()
    highest = np.maximum.reduceat(peaks.highest, bounds)[::2]
    square = np.concatenate(([0.0], np.cumsum(peaks.rms.astype(np.float64) ** 2)))
    power = np.sqrt(np.maximum(0.0, square[last] - square[first]) / (last - first))
    return np.minimum(1.0, highest * inside), np.minimum(1.0, power * inside)


class WaveformPictures:
    """Pictures of waveforms, kept until the peaks, the view or the theme change."""

    def __init__(self) -> None:
        self._kept: dict[str, tuple[object, QPixmap]] = {}

    def get(
        self, token: str, peaks: "Peaks", scale: TimeScale, height: float, strength: float, ratio: float
    ) -> QPixmap:
        """The picture of a side. token : its colour.  strength : opacity, 0 to 1.  ratio : device pixels per pixel."""
        width, tall = max(1, int(scale.width * ratio)), max(1, int(height * ratio))
        key = (id(peaks), scale, width, tall, strength, colour_of(token).rgba())
        kept = self._kept.get(token)
        if kept is None or kept[0] != key:
            pixmap = QPixmap.fromImage(draw_waveform(peaks, scale, width, tall, colour_of(token), strength))
            pixmap.setDevicePixelRatio(ratio)
            kept = self._kept[token] = (key, pixmap)
        return kept[1]

    def paint(
        self,
        painter: QPainter,
        band: QRectF,
        token: str,
        peaks: "Peaks",
        scale: TimeScale,
        strength: float,
        ratio: float,
    ) -> None:
        """Draw a side and the ground it lies on. band : where.  The rest : as in :meth:`get`."""
        right = min(scale.width, scale.x(peaks.frames / peaks.rate))
        left = max(0.0, scale.x(0.0))
        if right > left:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour_of("panel"))
            painter.drawRoundedRect(QRectF(left, band.top(), right - left, band.height()), 8, 8)
            painter.drawPixmap(QPointF(0, band.top()), self.get(token, peaks, scale, band.height(), strength, ratio))

    def drop(self, token: str) -> None:
        """Draw a side again when it is next needed."""
        self._kept.pop(token, None)

    def clear(self) -> None:
        """Draw both sides again when they are next needed."""
        self._kept.clear()
