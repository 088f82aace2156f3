"""A label that never makes its window wider: what does not fit is cut, and told by the tooltip."""

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel

LEAST_WIDTH = 48


class ElidedLabel(QLabel):
    """One line of plain text, cut at its right end."""

    def minimumSizeHint(self) -> QSize:
        return QSize(LEAST_WIDTH, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        room = self.contentsRect()
        shown = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, room.width())
        self.setToolTip(self.text() if shown != self.text() else "")
        painter = QPainter(self)
        self.style().drawItemText(
            painter,
            room,
            int(self.alignment() | Qt.AlignmentFlag.AlignVCenter),
            self.palette(),
            self.isEnabled(),
            shown,
            self.foregroundRole(),
        )
