"""Buttons that let each part of an effect be heard alone."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from latespin.desktop.theme.theme import theme
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label

MOST_PARTS = 3


class SoloRow(QWidget):
    """A button for each part of an effect; ``wanted`` carries the part to be heard alone, or −1."""

    wanted = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        row.addWidget(quiet_label(tr("Solo"), 11))
        self.buttons = [self._button(part) for part in range(MOST_PARTS)]
        for button in self.buttons:
            row.addWidget(button)
        row.addStretch()

    def show_parts(self, parts: tuple[str, ...], *, on: bool) -> None:
        """Show the parts an effect has; those of one that is not heard cannot be pressed."""
        for i, button in enumerate(self.buttons):
            button.setVisible(i < len(parts))
            button.setEnabled(on)
            name = tr(parts[i]) if i < len(parts) else ""
            button.setText(name)
            button.setAccessibleName(tr("Solo: {0}").format(name))
        self.setVisible(bool(parts))

    def show_solo(self, part: int) -> None:
        """Press the button of the part that is heard alone."""
        t = theme()
        for i, button in enumerate(self.buttons):
            button.setChecked(i == part)
            button.setStyleSheet(
                f"QPushButton {{ padding: 3px 9px; }} QPushButton:checked {{ background: {t.warning}; color: {t.ground}; }}"
            )

    def _button(self, part: int) -> QPushButton:
        button = QPushButton()
        button.setCheckable(True)
        button.setToolTip(tr("Hear this part alone while you listen. Exports have the whole sound."))
        button.clicked.connect(lambda on: self.wanted.emit(part if on else -1))
        return button
