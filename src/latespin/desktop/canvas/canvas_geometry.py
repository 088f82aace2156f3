"""The geometry of the canvas: pixels, seconds of Before and After, and snapping."""

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QRectF

from latespin.desktop.canvas.beat_lines import BarLines
from latespin.desktop.canvas.time_axis import TimeScale
from latespin.model.timing.time_map import TimeMap

RULER = 22
WAVEFORM_SHARE = 0.38  # of the height between the rulers, for each of the two waveforms


@dataclass(frozen=True)
class Bands:
    """The areas from top to bottom: ruler, Before, connectors, After, ruler."""

    before: QRectF
    threads: QRectF
    after: QRectF

    @classmethod
    def of(cls, width: float, height: float) -> "Bands":
        """The areas of a widget of this size."""
        inner = max(60.0, height - 2 * RULER)
        waveform = inner * WAVEFORM_SHARE
        gap = inner - 2 * waveform
        return cls(
            QRectF(0, RULER, width, waveform),
            QRectF(0, RULER + waveform, width, gap),
            QRectF(0, RULER + waveform + gap, width, waveform),
        )


@dataclass(frozen=True)
class CanvasGeometry:
    """One view of a song and a version of it. Pixels are counted from the left end of the waveforms.

    rate : frames per second of both sides.  before_seconds : length of Before.  snap_to : ``beats``, ``bars`` or
    ``strong``; empty for no snapping.
    """

    scale: TimeScale
    bands: Bands
    rate: int = 44_100
    time_map: TimeMap | None = None
    before_seconds: float = 0.0
    bars: BarLines | None = None
    snap_to: str = "beats"

    def side_at(self, y: float) -> str:
        """The side a height belongs to."""
        return "before" if y < self.bands.threads.center().y() else "after"

    def to_before(self, side: str, seconds: float) -> float:
        """Seconds of Before for a place on either side."""
        if side == "before" or self.time_map is None:
            return seconds
        return self.time_map.before_at(seconds * self.rate) / self.rate

    def to_after(self, seconds: float) -> float:
        """When a second of Before sounds in After."""
        return seconds if self.time_map is None else self.time_map.after_at(seconds * self.rate) / self.rate

    def to_after_all(self, seconds: np.ndarray) -> np.ndarray:
        """When the beat clock reaches seconds of Before, in After."""
        if self.time_map is None:
            return seconds
        return np.asarray(self.time_map.after_of_all(seconds * self.rate) / self.rate)

    def clock_of_after(self, seconds: float) -> float:
        """The second of Before that the beat clock shows at a second of After."""
        return seconds if self.time_map is None else self.time_map.clock_at(seconds * self.rate) / self.rate

    def clock_at(self, before: float, later: float) -> float:
        """The second of Before that the beat clock shows ``later`` seconds of After past ``before``, without the moments."""
        if self.time_map is None:
            return before
        music = self.time_map.music or self.time_map
        frame = music.after_at(before * self.rate) + later * self.rate
        return music.before_at(min(max(frame, 0.0), float(music.after_frames))) / self.rate

    def snapped(self, seconds: float, *, free: bool = False) -> float:
        """A second of Before moved to a beat or bar close by, unless it is ``free`` or snapping is off."""
        if free or not self.snap_to or self.bars is None:
            return seconds
        return self.bars.snapped(seconds, self.scale, self.snap_to)

    def before_in_view(self) -> tuple[float, float]:
        """First and last second of Before in view on either side."""
        start, end = self.scale.start, self.scale.start + self.scale.seconds
        low, high = min(start, self.to_before("after", start)), max(end, self.to_before("after", end))
        return max(0.0, low), min(self.before_seconds, high)

    @property
    def music_seconds(self) -> float:
        """The length of After's music, without its tail."""
        return self.time_map.after_frames / self.rate if self.time_map else 0.0
