"""What lies on the ribbons and can be taken hold of: one hand holds one thing of one layer at a time."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt

if TYPE_CHECKING:
    from latespin.desktop.canvas.waveform_view import WaveformView

GRIP_PX = 7  # to each side of what is taken hold of
GRIP_TALL = 34.0


class Layer:
    """Places are in pixels from the left end of the ribbons. The layer that says it has taken something is dragged until it is dropped."""

    def __init__(self, waveform_view: "WaveformView") -> None:
        self.waveform_view = waveform_view

    def press(self, at: QPointF) -> bool:
        """Take hold of what lies under the pointer, if there is anything."""
        return False

    def drag(self, at: QPointF, *, free: bool) -> None:
        """Move what is held; ``free`` of snapping."""

    def release(self) -> None:
        """Let go."""

    def cursor(self, at: QPointF) -> Qt.CursorShape | None:
        """What the pointer looks like over something that can be taken."""
        return None
