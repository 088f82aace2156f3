"""A strip of recipes below a short list of versions: one press plays one on this song, another keeps it."""

from functools import partial

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QPushButton, QScrollArea, QVBoxLayout, QWidget

from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label

ROW_HEIGHT, SUMMARY_HEIGHT = 30, 50
RETURN = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
MOST_VERSIONS = 3  # with more, the list needs the room, and its owner knows the recipes


class RecipeStrip(QWidget):
    """``tried`` names the recipe that was pressed; ``kept`` that it becomes a version."""

    tried = Signal(str)
    kept = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rows: dict[str, QPushButton] = {}
        self._summaries: dict[QObject, str] = {}
        self._trying = ""
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(6)
        column.addWidget(quiet_label(tr("Try on this song")))
        holder = QWidget()
        self._column = QVBoxLayout(holder)
        self._column.setContentsMargins(0, 0, 6, 0)
        self._column.setSpacing(2)
        self._column.addStretch()
        self._area = area = QScrollArea()
        area.setWidgetResizable(True)
        area.setWidget(holder)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(area, 1)
        self.summary = quiet_label("", 12)
        self.summary.setWordWrap(True)
        self.summary.setFixedHeight(SUMMARY_HEIGHT)
        self.summary.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.summary)
        self.keep = QPushButton(tr("Keep as a version"))
        self.keep.setToolTip(tr("Go on with what you hear; the next recipe is then tried beside it."))
        self.keep.clicked.connect(self.kept)
        self.keep.installEventFilter(self)
        column.addWidget(self.keep)
        self.show_trying("")

    def offer(self, recipes: list[tuple[str, str, str]]) -> None:
        """The recipes: name, title and summary of each."""
        for row in self.rows.values():
            self._column.removeWidget(row)
            row.deleteLater()
        self.rows.clear()
        self._summaries.clear()
        for place, (name, title, summary) in enumerate(recipes):
            row = QPushButton(tr(title))
            row.setCheckable(True)
            row.setFixedHeight(ROW_HEIGHT)
            row.setProperty("recipe", True)
            row.setAccessibleDescription(tr(summary))
            row.clicked.connect(partial(self._press, name))
            row.installEventFilter(self)
            self.rows[name], self._summaries[row] = row, tr(summary)
            self._column.insertWidget(place, row)
        self.show_trying(self._trying)

    def _press(self, name: str) -> None:
        self.tried.emit(name)
        self.show_trying(self._trying)

    def show_trying(self, name: str) -> None:
        """Which recipe is being tried; empty for none."""
        self._trying = name
        for own, row in self.rows.items():
            row.setChecked(own == name)
        self.keep.setVisible(bool(name))
        if name in self.rows:
            self._area.ensureWidgetVisible(self.rows[name], 0, ROW_HEIGHT)
        self._say("")

    def _say(self, summary: str) -> None:
        trying = self.rows.get(self._trying)
        unasked = self._summaries[trying] if trying is not None else tr("Press a recipe to hear it.")
        self.summary.setText(summary or unasked)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Say what a recipe does while the pointer or the focus is on it. Return presses it; Space plays the song, as everywhere."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.KeyPress
            and event.key() in RETURN
            and isinstance(watched, QPushButton)
        ):
            watched.click()
            return True
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self._say(self._summaries.get(watched, ""))
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self._say("")
        return super().eventFilter(watched, event)
