"""Says in large letters that only a part of the sound is heard."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import BOLD, font, theme
from latespin.desktop.translation import tr
from latespin.model.effects.declaration import effect_title


class SoloBanner(QWidget):
    """Shown while a part of an effect is heard alone; ``ended`` asks for the whole."""

    ended = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setObjectName("solo")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 3, 16, 3)
        row.setSpacing(16)
        self.label = QLabel()
        self.label.setFont(font(16, BOLD))
        note = QLabel(tr("Only while you listen: exports have the whole sound."))
        end = QPushButton(tr("End solo"))
        end.setToolTip(tr("Hear the whole version again."))
        end.setStyleSheet("QPushButton { padding: 3px 12px; }")
        end.clicked.connect(self.ended)
        row.addWidget(self.label)
        row.addWidget(note, 1)
        row.addWidget(end)
        self.hide()

    def show_solo(self, solo: tuple[str, int] | None) -> None:
        """Say which part of which effect is heard alone; None hides the banner."""
        effect = self._document.stages.colour.find(solo[0]) if solo else None
        if solo is not None and effect is not None:
            t = theme()
            self.setStyleSheet(f"#solo {{ background: {t.warning}; }} #solo QLabel {{ color: {t.ground}; }}")
            self.label.setText(tr("Solo: {0} of {1}").format(tr(effect.parts[solo[1]]), tr(effect_title(effect))))
        self.setVisible(effect is not None)
