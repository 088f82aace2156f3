"""The marked range, seconds of Before: marking it, and moving an end of it."""

from PySide6.QtCore import QPointF

from latespin.desktop.canvas.canvas_geometry import CanvasGeometry
from latespin.desktop.canvas.layers.layer import GRIP_PX

Range = tuple[float, float]
SHORTEST_MARKED, SHORTEST_DRAGGED = 0.05, 0.1  # seconds


def range_between(a: float, b: float) -> Range | None:
    """The range between two places; None where they are too close."""
    start, end = sorted((a, b))
    return (start, end) if end - start > SHORTEST_MARKED else None


def end_at(marked: Range | None, geometry: CanvasGeometry, at: QPointF) -> int | None:
    """Which end lies under the pointer, 0 or 1, on either side."""
    if marked is None:
        return None
    before = geometry.side_at(at.y()) == "before"
    xs = (geometry.scale.x(seconds if before else geometry.to_after(seconds)) for seconds in marked)
    return next((i for i, x in enumerate(xs) if abs(x - at.x()) <= GRIP_PX), None)


def with_end_at(marked: Range, which: int, seconds: float) -> Range:
    """The range with one end moved, as far as the other allows."""
    start, end = marked
    return (
        (min(seconds, end - SHORTEST_DRAGGED), end) if which == 0 else (start, max(seconds, start + SHORTEST_DRAGGED))
    )
