"""Small controls of our own: a switch, a row of choices, drawn icons, kinds of labels."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal, SignalInstance
from PySide6.QtGui import QFontMetrics, QIcon, QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.theme.theme import BOLD, SEMI_BOLD, colour, font, theme
from latespin.desktop.translation import tr

CHOICE_PADDING = 30  # pixels beside the words of a choice, chosen ones being wider


class Switch(QAbstractButton):
    """On or off: click, or Return when it has the focus."""

    def __init__(self, name: str, accent: str, tip: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._accent = accent
        self.setCheckable(True)
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedSize(40, 24)

    def sizeHint(self) -> QSize:
        return QSize(40, 24)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(3, 4, 34, 16)
        on = self.isChecked()
        if self.hasFocus():
            painter.setPen(QPen(colour("focus"), 2))
            painter.drawRoundedRect(body.adjusted(-2, -2, 2, 2), 10, 10)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(self._accent) if on else colour("line"))
        painter.drawRoundedRect(body, 8, 8)
        painter.setBrush(colour("ground") if on else colour("ink_soft"))
        painter.drawEllipse(QPointF(body.right() - 8 if on else body.left() + 8, body.center().y()), 5.5, 5.5)


class SegmentedButton(QWidget):
    """A segmented choice of a few words. accents : colours of the first and of the last one."""

    chosen = Signal(str)

    def __init__(self, name: str, choices: dict[str, tuple[str, str]], *accents: str) -> None:
        super().__init__()
        self.setAccessibleName(tr(name))
        self._accents = accents
        self._buttons: dict[str, QPushButton] = {}
        self._group = QButtonGroup(self)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        for i, (key, (declared, tip)) in enumerate(choices.items()):
            text = tr(declared)
            button = QPushButton(text)
            button.setCheckable(True)
            button.setMinimumWidth(QFontMetrics(font(13, SEMI_BOLD)).horizontalAdvance(text) + CHOICE_PADDING)
            button.setAutoDefault(False)
            button.setToolTip(tr(tip))
            button.setAccessibleName(f"{tr(name)}: {text}")
            place = "first" if i == 0 else "last" if i == len(choices) - 1 else "middle"
            button.setProperty("place", place)
            button.clicked.connect(lambda _=False, k=key: self.chosen.emit(k))
            self._buttons[key] = button
            self._group.addButton(button)
            row.addWidget(button)
        self.restyle()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        t = theme()
        self.setStyleSheet(
            f"QPushButton {{ background: {t.panel}; border: 1px solid {t.line}; border-radius: 0; padding: 6px 14px; }}"
            "QPushButton[place='first'] { border-top-left-radius: 8px; border-bottom-left-radius: 8px; }"
            "QPushButton[place='middle'] { border-left: none; }"
            "QPushButton[place='last'] { border-top-right-radius: 8px; border-bottom-right-radius: 8px; border-left: none; }"
            f"QPushButton:checked {{ background: {getattr(t, self._accents[0])}; color: {t.ground}; font-weight: 600; }}"
            f"QPushButton[place='last']:checked {{ background: {getattr(t, self._accents[-1])}; }}"
            f"QPushButton:focus {{ border: 2px solid {t.focus}; padding: 5px 13px; }}"
        )

    def choose(self, key: str) -> None:
        """Show a choice, or none where there is no such one; emits nothing."""
        self._group.setExclusive(key in self._buttons)
        for name, button in self._buttons.items():
            button.setChecked(name == key)
        self._group.setExclusive(True)

    def button(self, key: str) -> QPushButton:
        """The button of a choice."""
        return self._buttons[key]


def quiet_label(text: str = "", size: int = 12, kind: type[QLabel] = QLabel) -> QLabel:
    """A label in soft ink."""
    label = kind(text)
    label.setProperty("soft", True)
    label.setFont(font(size))
    return label


def heading(text: str, size: int = 18) -> QLabel:
    """The heading of a dialog."""
    label = QLabel(text)
    label.setFont(font(size, BOLD))
    return label


class WarningLabel(QLabel):
    """Says what is wrong, and is hidden where nothing is."""

    def __init__(self) -> None:
        super().__init__()
        self.setProperty("warning", True)
        self.setWordWrap(True)
        self.hide()

    def say(self, problem: str) -> None:
        """Show what is wrong; empty where nothing is."""
        self.setText(problem)
        self.setVisible(bool(problem))


SHARPEST = 3  # pixels of a screen for each of ours, on the finest screens


def icon(name: str, token: str = "ink", size: int = 20) -> QIcon:
    """One of our drawn icons in a colour of the theme."""
    pixmap = QPixmap(size * SHARPEST, size * SHARPEST)
    pixmap.setDevicePixelRatio(SHARPEST)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(size / 20.0, size / 20.0)
    painter.setPen(QPen(colour(token), 2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
    painter.setBrush(colour(token))
    _draw(painter, name)
    painter.end()
    return QIcon(pixmap)


def _draw(painter: QPainter, name: str) -> None:
    if name == "play":
        path = QPainterPath(QPointF(6, 4))
        for point in (QPointF(16, 10), QPointF(6, 16)):
            path.lineTo(point)
        path.closeSubpath()
        painter.drawPath(path)
    elif name == "pause":
        painter.drawRect(QRectF(5, 4, 3, 12))
        painter.drawRect(QRectF(12, 4, 3, 12))
    elif name == "start":
        painter.drawLine(QPointF(5, 5), QPointF(5, 15))
        path = QPainterPath(QPointF(15, 5))
        for point in (QPointF(8, 10), QPointF(15, 15)):
            path.lineTo(point)
        path.closeSubpath()
        painter.drawPath(path)
    elif name == "loop":
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawArc(QRectF(4, 4, 12, 12), 40 * 16, 280 * 16)
        painter.drawLine(QPointF(14.6, 6.2), QPointF(14.8, 2.6))
        painter.drawLine(QPointF(14.6, 6.2), QPointF(11.0, 6.6))
    elif name == "loudest":
        for x, h in ((4, 4), (8, 9), (12, 14), (16, 7)):
            painter.drawLine(QPointF(x, 16), QPointF(x, 16 - h))
    elif name == "add":
        painter.drawLine(QPointF(10, 4), QPointF(10, 16))
        painter.drawLine(QPointF(4, 10), QPointF(16, 10))


def run_from(button: QAbstractButton, command: str, wanted: SignalInstance) -> None:
    """Have a button ask for a command, whose name it keeps as a property so that tests can check it."""
    button.setProperty("command", command)
    button.clicked.connect(lambda: wanted.emit(command))


def command_button(command: str, text: str, tip: str, wanted: SignalInstance, *, dense: bool = False) -> QPushButton:
    """A button that asks for a command.  dense : with less room around its text."""
    button = QPushButton(tr(text))
    button.setToolTip(tr(tip))
    if dense:
        button.setStyleSheet("QPushButton { padding: 4px 9px; }")
    run_from(button, command, wanted)
    return button


def column_of(*widgets: QWidget) -> QVBoxLayout:
    """Widgets beneath each other without gaps."""
    column = QVBoxLayout()
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    for widget in widgets:
        column.addWidget(widget)
    return column
