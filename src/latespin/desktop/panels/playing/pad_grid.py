"""Sixteen pads, played with the mouse, the typing keys and control surfaces."""

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QContextMenuEvent,
    QFocusEvent,
    QFont,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.model.playing.surface_map import PADS, Pad

COLUMNS, GAP = 4, 6
NAME_SIZES = (13, 12, 11, 10, 9)  # pixels
TYPED = "1234QWERASDFZXCV"  # the typing keys of the pads, as they lie on a keyboard for English
PANEL_KEY = Qt.Key.Key_P
LEFT_ALONE = (Qt.Key.Key_Space, Qt.Key.Key_Escape, PANEL_KEY, Qt.Key.Key_Tab, Qt.Key.Key_Backtab)


class PadGrid(QWidget):
    """``pressed`` and ``released`` carry a pad's number; ``menu_wanted`` a number and a point on the screen."""

    ACCESS_ROLE = QAccessible.Role.Grouping

    pressed = Signal(int)
    released = Signal(int)
    menu_wanted = Signal(int, QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(4 * 88, 4 * 44)
        self.setAccessibleName(tr("Pads"))
        self.setToolTip(
            tr(
                "Hold a pad while the song plays. Click here, then use the typing keys shown. A right click changes what a pad plays."
            )
        )
        self.pads: tuple[Pad, ...] = ()
        self.held: frozenset[int] = frozenset()
        self._typed: dict[int, int] = {}
        self._clicked: int | None = None

    def show_pads(self, pads: tuple[Pad, ...]) -> None:
        """Write on the pads what they play."""
        self.pads = pads
        self.update()

    def show_held(self, held: frozenset[int]) -> None:
        """Light the pads that are held."""
        if held != self.held:
            self.held = held
            self.update()

    def pad_rect(self, number: int) -> QRectF:
        """Where a pad lies."""
        rows = PADS // COLUMNS
        wide = (self.width() - GAP * (COLUMNS - 1) - 6) / COLUMNS
        tall = (self.height() - GAP * (rows - 1) - 6) / rows
        row, column = divmod(number, COLUMNS)
        return QRectF(3 + column * (wide + GAP), 3 + row * (tall + GAP), wide, tall)

    def _pad_at(self, at: QPointF) -> int | None:
        return next((number for number in range(len(self.pads)) if self.pad_rect(number).contains(at)), None)

    # -- mouse and keys ----------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        number = self._pad_at(event.position())
        if event.button() == Qt.MouseButton.LeftButton and number is not None:
            self._clicked = number
            self.pressed.emit(number)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self._clicked is not None:
            self.released.emit(self._clicked)
            self._clicked = None

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        number = self._pad_at(QPointF(event.pos()))
        if number is not None:
            self.menu_wanted.emit(number, event.globalPos())

    def event(self, event: QEvent) -> bool:
        """Keys without Ctrl or Alt belong to the pads, even where they are shortcuts elsewhere."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent) and _plain(event):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not _plain(event):
            super().keyPressEvent(event)
            return
        number = TYPED.find(chr(event.key())) if 0 < event.key() < 128 else -1
        if not event.isAutoRepeat() and 0 <= number < len(self.pads):
            self._typed[event.key()] = number
            self.pressed.emit(number)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.isAutoRepeat():
            return
        number = self._typed.pop(event.key(), None)
        if number is None:
            super().keyReleaseEvent(event)
        else:
            self.released.emit(number)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Keys that are let go elsewhere are not seen here: their pads are let go."""
        for number in self._typed.values():
            self.released.emit(number)
        self._typed.clear()
        super().focusOutEvent(event)

    # -- painting ------------------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for number, pad in enumerate(self.pads):
            self._draw(painter, number, pad)
        if self.hasFocus():
            painter.setPen(QPen(colour("focus"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 10, 10)

    def _draw(self, painter: QPainter, number: int, pad: Pad) -> None:
        rect, held = self.pad_rect(number).adjusted(2, 2, -2, -2), number in self.held
        painter.setPen(QPen(colour("after") if held else colour("line"), 1))
        painter.setBrush(colour("after") if held else colour("panel"))
        painter.drawRoundedRect(rect, 8, 8)
        painter.setPen(colour("ground") if held else colour("ink"))
        words, name = rect.adjusted(10, 4, -12, -4), tr(pad.name)
        painter.setFont(_fitting(name, words.width()))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        painter.drawText(words, int(flags), name)
        painter.setPen(colour("ground") if held else colour("ink_soft"))
        painter.setFont(font(11))
        painter.drawText(
            rect.adjusted(8, 4, -8, -4), int(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight), TYPED[number]
        )
        marks = [tr("latched")] if pad.latched else []
        marks += [tr("what comes")] if pad.coming else []
        if marks:
            width = QFontMetricsF(painter.font()).horizontalAdvance(" · ".join(marks))
            painter.drawText(QPointF(rect.right() - 8 - width, rect.bottom() - 6), " · ".join(marks))


def _plain(event: QKeyEvent) -> bool:
    """Whether a key is one for the pads."""
    with_others = event.modifiers() & ~(Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier)
    return not with_others and event.key() not in LEFT_ALONE


def _fitting(name: str, room: float) -> QFont:
    """The largest font in which no word of a pad's name is wider than its room, or the smallest one."""
    fonts = [font(size, SEMI_BOLD) for size in NAME_SIZES]
    longest = (max(map(QFontMetricsF(made).horizontalAdvance, name.split() or [""])) for made in fonts)
    return next((made for made, width in zip(fonts, longest, strict=True) if width <= room), fonts[-1])
