"""Where the panels are seen: as high as the open one wants, and scrolled where a small screen has less room."""

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QScrollArea, QSizePolicy

from latespin.desktop.panels.panel_stack import PanelStack

LEAST = QSize(320, 120)


class PanelArea(QScrollArea):
    """Scrolls to whatever gets the keyboard."""

    def __init__(self, panels: PanelStack) -> None:
        super().__init__()
        self._panels = panels
        self.setWidget(panels)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        panels.opened.connect(self._fit)
        self._fit()

    def sizeHint(self) -> QSize:
        """As high as the open panel, with a scroll bar where it is wider than there is room."""
        scrolls = self._panels.minimumSizeHint().width() > self.width()
        bar = self.horizontalScrollBar().sizeHint().height() if scrolls else 0
        return QSize(LEAST.width(), self._panels.minimumHeight() + bar)

    def minimumSizeHint(self) -> QSize:
        return LEAST

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self._fit()
        # Qt asks panels with wrapped text for a height of their own, which they do not get.
        fits = self.height() >= self.sizeHint().height()
        policy = Qt.ScrollBarPolicy.ScrollBarAlwaysOff if fits else Qt.ScrollBarPolicy.ScrollBarAsNeeded
        self.setVerticalScrollBarPolicy(policy)

    def _fit(self) -> None:
        self.setMaximumHeight(self.sizeHint().height())
        self.updateGeometry()
