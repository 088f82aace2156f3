"""The small shape of a song, kept beside its name among the files opened last."""

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

COLUMNS = 96
FULL = 255


def shape_of(peaks: "Peaks") -> str:
    """The highest sample in each of 96 parts of a song, as hexadecimal digits, two for each part."""
    if not len(peaks.highest):
        return ""
    edges = np.linspace(0, len(peaks.highest), COLUMNS, endpoint=False).astype(int)
    highest = np.maximum.reduceat(peaks.highest, edges)
    return np.round(FULL * np.clip(highest, 0.0, 1.0)).astype(np.uint8).tobytes().hex()


def heights_of(shape: str) -> list[float]:
    """The heights of a kept shape, 0 to 1; none where it is broken."""
    try:
        return [value / FULL for value in bytes.fromhex(shape)]
    except ValueError:
        return []
