"""A label that never makes its window wider: what does not fit is cut, and told by the tooltip."""

from PySide6.QtCore import QEvent, QSize, Qt
from PySide6.QtGui import QHelpEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QToolTip

LEAST_WIDTH = 48


class ElidedLabel(QLabel):
    """One line of plain text, cut at its right end."""

    def minimumSizeHint(self) -> QSize:
        return QSize(LEAST_WIDTH, super().minimumSizeHint().height())

    def shown(self) -> str:
        """As much of the text as has room."""
        return self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.contentsRect().width())

    def event(self, event: QEvent) -> bool:
        """Tell the whole text where it is cut."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip and self.shown() != self.text():
            QToolTip.showText(event.globalPos(), self.text(), self)
            return True
        return super().event(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        flags = int(self.alignment() | Qt.AlignmentFlag.AlignVCenter)
        self.style().drawItemText(
            QPainter(self),
            self.contentsRect(),
            flags,
            self.palette(),
            self.isEnabled(),
            self.shown(),
            self.foregroundRole(),
        )
