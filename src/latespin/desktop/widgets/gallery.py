"""A gallery of choices: cards with a title and a sentence."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QGridLayout, QSizePolicy, QWidget

from latespin.desktop.theme.theme import BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.wrapping import paint_wrapped

HEIGHT = 58


class GalleryCard(QAbstractButton):
    """One entry."""

    def __init__(self, title: str, summary: str, token: str) -> None:
        super().__init__()
        self._title, self._summary, self._token = tr(title), tr(summary), token
        self.setAccessibleName(self._title)
        self.setAccessibleDescription(self._summary)
        self.setToolTip(self._summary)
        self.setFixedHeight(HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(150, HEIGHT)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        lively = self.underMouse() or self.hasFocus()
        painter.setPen(QPen(colour("focus") if self.hasFocus() else colour(self._token if lively else "line"), 1))
        painter.setBrush(colour("panel"))
        painter.drawRoundedRect(body, 8, 8)
        inner = body.adjusted(10, 5, -8, -4)
        painter.setFont(font(12, BOLD))
        painter.setPen(colour(self._token))
        painter.drawText(inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, self._title)
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        paint_wrapped(painter, inner.adjusted(0, 17, 0, 0), self._summary)


class Gallery(QWidget):
    """chosen : the key of the entry that was clicked."""

    chosen = Signal(str)

    def __init__(self, entries: list[tuple[str, str, str]], token: str, columns: int) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        self.cards: dict[str, GalleryCard] = {}
        for i, (key, title, summary) in enumerate(entries):
            card = self.cards[key] = GalleryCard(title, summary, token)
            card.clicked.connect(lambda _=False, k=key: self.chosen.emit(k))
            grid.addWidget(card, i // columns, i % columns)
        grid.setRowStretch(len(entries) // columns + 1, 1)
        for column in range(columns):
            grid.setColumnStretch(column, 1)
