"""The picture of a ribbon, made from peaks with NumPy: a soft envelope with a denser core."""

from typing import TYPE_CHECKING

import numpy as np
from PySide6.QtGui import QColor, QImage

from latespin.desktop.timescale import TimeScale
from latespin.model.timemap import TimeMap

if TYPE_CHECKING:
    from latespin.media.peaks import Peaks

SHAPE = 0.8  # heights grow a little quicker than amplitudes, so that quiet passages can be seen
ENVELOPE_ALPHA, CORE_ALPHA = 0.42, 0.95


def ribbon_image(
    peaks: "Peaks", scale: TimeScale, width: int, height: int, colour: QColor, strength: float = 1.0
) -> QImage:
    """A picture of what ``scale`` shows of ``peaks``, ``width`` × ``height`` pixels, transparent outside.

    strength : 0 to 1, how solid it is (less while it is only expected, not yet measured).
    """
    highest, power = _columns(peaks, scale, width)
    half = height / 2.0
    distance = np.abs(np.arange(height)[:, None] + 0.5 - half)
    envelope = _cover(distance, highest**SHAPE * half) * ENVELOPE_ALPHA
    core = _cover(distance, power**SHAPE * half) * CORE_ALPHA
    alpha = np.maximum(envelope, core) * strength
    pixels = np.empty((height, width, 4), np.uint8)
    for i, part in enumerate((colour.blueF(), colour.greenF(), colour.redF())):
        pixels[..., i] = alpha * part * 255.0
    pixels[..., 3] = alpha * 255.0
    image = QImage(pixels.tobytes(), width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied)
    return image.copy()


def _cover(distance: np.ndarray, reach: np.ndarray) -> np.ndarray:
    """How much of each pixel lies within reach of the middle line."""
    return np.clip(reach[None, :] - distance + 0.5, 0.0, 1.0) * (reach > 0.0)


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


def expected_peaks(before: "Peaks", time_map: TimeMap, gain: float) -> "Peaks":
    """What After's peaks will roughly be: Before's, moved along the time map, with a gain."""
    from latespin.media.peaks import BIN_FRAMES, Peaks

    bins = max(1, -(-time_map.after_frames // BIN_FRAMES))
    middles = (np.arange(bins) + 0.5) * BIN_FRAMES
    source = time_map.before_of_all(middles)
    at = np.clip((source / BIN_FRAMES).astype(np.int64), 0, len(before.highest) - 1)
    return Peaks(
        before.highest[at] * np.float32(gain),
        before.rms[at] * np.float32(gain),
        time_map.after_frames,
        before.rate,
    )
