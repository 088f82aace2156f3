"""A value shown as text that can be typed into."""

from PySide6.QtCore import QEvent, Qt, Signal
from PySide6.QtWidgets import QLineEdit, QPushButton, QStackedLayout, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, font, theme
from latespin.desktop.translation import tr
from latespin.model.values.units import NO_VALUE


class InlineEdit(QWidget):
    """A value that reads as text and is typed into when it is pressed (or only read). ``typed`` carries the text."""

    typed = Signal(str)

    def __init__(self, name: str, tip: str, *, typable: bool = True, token: str = "after") -> None:
        super().__init__()
        self._token = token
        self._stack = QStackedLayout(self)
        self._button = QPushButton(NO_VALUE)
        self._button.setFont(font(15, SEMI_BOLD))
        self._button.setEnabled(typable)
        self._button.setAccessibleName(name)
        self._button.setToolTip(tip)
        self._button.setCursor(Qt.CursorShape.IBeamCursor if typable else Qt.CursorShape.ArrowCursor)
        self._button.clicked.connect(self._edit)
        self._line = QLineEdit()
        self._line.setFont(font(14, SEMI_BOLD))
        self._line.setAccessibleName(tr("Wanted: {0}").format(name))
        self._line.returnPressed.connect(self._accept)
        self._line.installEventFilter(self)
        self._stack.addWidget(self._button)
        self._stack.addWidget(self._line)
        self.setFixedHeight(28)
        self.restyle()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        t = theme()
        self._button.setStyleSheet(
            f"QPushButton {{ color: {getattr(t, self._token)}; background: transparent; border: 1px solid transparent; border-bottom: 1px dashed {t.line};"
            "border-radius: 4px; padding: 2px 6px; text-align: left; }"
            f"QPushButton:hover:enabled {{ background: {t.raised}; }} QPushButton:focus {{ border: 2px solid {t.focus}; padding: 1px 5px; }}"
            f"QPushButton:disabled {{ color: {getattr(t, self._token)}; border-bottom-color: transparent; }}"
        )
        self._line.setStyleSheet("padding: 1px 6px;")

    def show_text(self, text: str, *, settled: bool = True) -> None:
        """Show a value; an estimate gets a ≈."""
        self._button.setText(text if settled or text == NO_VALUE else f"≈ {text}")

    def text(self) -> str:
        """The text shown."""
        return self._button.text()

    def _edit(self) -> None:
        self._line.setText(self._button.text().removeprefix("≈ "))
        self._stack.setCurrentIndex(1)
        self._line.setFocus()
        self._line.selectAll()

    def _accept(self) -> None:
        text = self._line.text()
        self._stack.setCurrentIndex(0)
        self._button.setFocus()
        self.typed.emit(text)

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if watched is self._line:
            escaped = event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape  # type: ignore[attr-defined]
            if event.type() == QEvent.Type.FocusOut or escaped:
                self._stack.setCurrentIndex(0)
                return escaped
        return super().eventFilter(watched, event)  # type: ignore[arg-type]
