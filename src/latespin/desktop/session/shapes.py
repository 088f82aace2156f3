"""The small shape of a song, kept beside its name among the files opened last."""

from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from latespin.media.audio.peaks import Peaks

COLUMNS = 96
FULL = 255


def shape_of(peaks: "Peaks") -> str:
    """The highest samples and then the mean levels of 96 parts of a song, as hexadecimal digits, two for each number."""
    if not len(peaks.highest):
        return ""
    edges = np.linspace(0, len(peaks.highest), COLUMNS, endpoint=False).astype(int)
    highest = np.maximum.reduceat(peaks.highest, edges)
    level = np.minimum(highest, np.maximum.reduceat(peaks.rms, edges))
    return np.round(FULL * np.clip([highest, level], 0.0, 1.0)).astype(np.uint8).tobytes().hex()


def peaks_of(shape: str) -> "Peaks | None":
    """Peaks to draw a kept shape from; None where it is broken."""
    from latespin.media.audio.peaks import at_a_glance

    try:
        numbers = np.frombuffer(bytes.fromhex(shape), np.uint8) / FULL
    except ValueError:
        return None
    if len(numbers) != 2 * COLUMNS:
        return None
    return at_a_glance(numbers[:COLUMNS], numbers[COLUMNS:])
