"""A line over a part of the canvas, in which its name is typed."""

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtWidgets import QLineEdit, QWidget

from latespin.desktop.translation import tr

LEAST_WIDTH, TALL = 120, 24


class NameEditor(QLineEdit):
    """Return takes the name, Escape and leaving the line do not.  named : the number of what is named, and the text."""

    named = Signal(int, str)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._over = parent
        self._number = 0
        self.setStyleSheet("padding: 0px 5px;")
        self.setAccessibleName(tr("Name"))
        self.returnPressed.connect(self._take)
        self.hide()

    def edit(self, number: int, text: str, over: QRectF) -> None:
        """Ask for a name over a rectangle of the parent."""
        self._number = number
        wide = max(LEAST_WIDTH, round(over.width()))
        left = min(round(over.left()), self._over.width() - wide)
        self.setGeometry(max(0, left), round(over.top()), wide, TALL)
        self.setText(text)
        self.selectAll()
        self.show()
        self.setFocus()

    def _take(self) -> None:
        text = self.text()
        self.hide()
        self._over.setFocus()
        self.named.emit(self._number, text)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.FocusOut:
            self.hide()
        if event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:  # type: ignore[attr-defined]
            self.hide()
            self._over.setFocus()
            return True
        return super().event(event)
