"""An octave and a half of piano keys, played with the mouse and the typing keys."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr

LOWEST = 60  # middle C, as MIDI counts
WHITE, BLACK = (0, 2, 4, 5, 7, 9, 11), (1, 3, 6, 8, 10)
NOTES = 18
TYPED = "AWSEDFTGYHUJKOLP;'"  # the typing keys of the notes, as they lie on a keyboard for English


class Keyboard(QWidget):
    """``pressed`` and ``released`` carry notes as MIDI counts; Page Up and Page Down move them by octaves."""

    ACCESS_ROLE = QAccessible.Role.Grouping
    pressed = Signal(int)
    released = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(76)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Keyboard"))
        self.setToolTip(
            tr("Plays the pad. Click here, then use the typing keys shown; Page Up and Page Down move by octaves.")
        )
        self.held: set[int] = set()
        self._typed: dict[int, int] = {}
        self._clicked: int | None = None
        self._octave = 0

    def key_rect(self, step: int) -> QRectF:
        """Where a key lies, ``step`` semitones above the lowest."""
        whites = [i for i in range(NOTES) if i % 12 in WHITE]
        wide, tall = self.width() / len(whites), float(self.height())
        if step % 12 in WHITE:
            return QRectF(whites.index(step) * wide, 0.0, wide, tall)
        return QRectF((whites.index(step - 1) + 1) * wide - 0.3 * wide, 0.0, 0.6 * wide, 0.6 * tall)

    def _step_at(self, at: QPointF) -> int | None:
        order = sorted(range(NOTES), key=lambda step: step % 12 in WHITE)
        return next((step for step in order if self.key_rect(step).contains(at)), None)

    def _press(self, note: int) -> None:
        self.held.add(note)
        self.pressed.emit(note)
        self.update()

    def _release(self, note: int) -> None:
        if note in self.held:
            self.held.discard(note)
            self.released.emit(note)
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
            super().keyPressEvent(event)
        elif event.key() in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self._octave = min(2, max(-3, self._octave + (1 if event.key() == Qt.Key.Key_PageUp else -1)))
            self.update()
        elif 0 < event.key() < 128 and chr(event.key()) in TYPED:
            if not event.isAutoRepeat():
                note = LOWEST + 12 * self._octave + TYPED.index(chr(event.key()))
                self._typed[event.key()] = note
                self._press(note)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if not event.isAutoRepeat() and event.key() in self._typed:
            self._release(self._typed.pop(event.key()))
        else:
            super().keyReleaseEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        step = self._step_at(event.position())
        if step is not None:
            self._clicked = LOWEST + 12 * self._octave + step
            self._press(self._clicked)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._clicked is not None:
            self._release(self._clicked)
            self._clicked = None

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """No note hangs when the keys are released elsewhere."""
        self._typed.clear()
        for note in list(self.held):
            self._release(note)
        super().focusOutEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for black in (False, True):
            for step in (i for i in range(NOTES) if (i % 12 in BLACK) == black):
                self._paint_key(painter, step, black=black)
        if self.hasFocus():
            painter.setPen(QPen(colour("focus"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)

    def _paint_key(self, painter: QPainter, step: int, *, black: bool) -> None:
        rect = self.key_rect(step).adjusted(0.5, 0.5, -0.5, -0.5)
        down = LOWEST + 12 * self._octave + step in self.held
        painter.setPen(QPen(colour("line"), 1))
        painter.setBrush(colour("colour") if down else colour("ground" if black else "ink", 1.0 if black else 0.85))
        painter.drawRoundedRect(rect, 4, 4)
        painter.setFont(font(11, SEMI_BOLD))
        painter.setPen(colour("ground") if down or not black else colour("ink_soft"))
        painter.drawText(
            rect.adjusted(0, 0, 0, -3), Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom, TYPED[step]
        )
