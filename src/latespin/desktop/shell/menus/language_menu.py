"""The menu of languages: the desktop’s, or one of those there are, from the next start on."""

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import LANGUAGES, tr


class LanguageMenu(QObject):
    """``menu`` shows which language is remembered; ``message`` says when a choice takes effect."""

    message = Signal(str, bool)

    def __init__(self, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._settings = settings
        self.menu = QMenu(tr("&Language"), parent)
        group = QActionGroup(self.menu)
        for code, text in (("", tr("As the &desktop")), *LANGUAGES.items()):
            action = QAction(text, group)
            action.setCheckable(True)
            action.setChecked(code == settings.language)
            action.triggered.connect(lambda _=False, key=code: self.choose(key))
            self.menu.addAction(action)

    def choose(self, code: str) -> None:
        """Speak a language from the next start on."""
        self._settings.language = code
        self.message.emit(tr("Late Spin speaks the chosen language from its next start on."), False)
