"""A value bar: a labelled number with a fill, dragged, typed, wheeled or stepped."""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QLineEdit, QSizePolicy, QToolTip, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font
from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.access import tell_value
from latespin.model.values.parameters import Parameter
from latespin.model.values.units import with_unit

DRAG_PX = 3
FINE = 0.1


class ValueBar(QWidget):
    """Shows and edits one parameter.

    ``changed`` tells every new value with whether it is part of a drag; ``settled`` that a drag has ended.
    Drag (Shift for fine), wheel, arrow keys, Page keys for ten steps, Home or double-click for the default, Return or
    any digit to type.
    """

    ACCESS_ROLE = QAccessible.Role.Slider
    changed = Signal(float)
    settled = Signal()

    def __init__(self, parameter: Parameter, accent: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._declared, self.parameter = parameter, translated(parameter)
        self._accent = accent
        self._value = parameter.default
        self._press: tuple[float, float] | None = None
        self._dragging = False
        self._hovered = False
        self._default = parameter.default
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMinimumWidth(132)
        self._explain()
        self._editor = QLineEdit(self)
        self._editor.setFont(font(15, SEMI_BOLD))
        self._editor.hide()
        self._editor.returnPressed.connect(self._accept)
        self._editor.installEventFilter(self)
        self._describe()

    @property
    def value(self) -> float:
        """The value shown."""
        return self._value

    def set_value(self, value: float) -> None:
        """Show a value; emits nothing."""
        if value != self._value:
            self._value = value
            self._describe()
            self.update()

    def take_limits(self, parameter: Parameter) -> None:
        """Use another parameter of the same unit."""
        if parameter is not self._declared:
            self._declared, self.parameter = parameter, translated(parameter)
            self._explain()
            self._describe()
            self.update()

    def _explain(self) -> None:
        p = self.parameter
        self.setToolTip(
            tr("{0}\n{1} Drag, wheel, arrow keys, or Return to type; double-click for {2}.").format(
                p.sentence, self._limits(), with_unit(p.default, p.unit, p.decimals)
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(168, 52)

    def _limits(self) -> str:
        p = self.parameter
        return tr("{0} to {1}.").format(with_unit(p.low, p.unit, p.decimals), with_unit(p.high, p.unit, p.decimals))

    def _text(self) -> str:
        return self.parameter.text(self._value)

    def _describe(self) -> None:
        self.setAccessibleName(self.parameter.label)
        self.setAccessibleDescription(f"{self._text()}. {self.parameter.sentence}")
        tell_value(self)

    def access_value(self) -> str:
        """The value as it is spoken, with its unit."""
        return self._text()

    def _take(self, value: float) -> None:
        value = self.parameter.clamp(value)
        if value != self._value:
            self._value = value
            self._describe()
            self.update()
            self.changed.emit(value)

    # -- hands ------------------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._press = (event.position().x(), self.parameter.to_fraction(self._value))
            self._dragging = False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._press is None:
            return
        moved = event.position().x() - self._press[0]
        if not self._dragging and abs(moved) < DRAG_PX:
            return
        self._dragging = True
        fine = FINE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        self._take(self.parameter.from_fraction(self._press[1] + fine * moved / max(1, self.width())))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._press is not None and event.button() == Qt.MouseButton.LeftButton:
            if self._dragging:
                self.settled.emit()
            self._press, self._dragging = None, False

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._press = None
        self._take(self._default)
        self.settled.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if not self.hasFocus() and not self._hovered:
            event.ignore()
            return
        fine = FINE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        self._take(self.parameter.stepped(self._value, fine * event.angleDelta().y() / 120.0))
        event.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = Qt.Key
        steps = {
            keys.Key_Right: 1,
            keys.Key_Up: 1,
            keys.Key_Left: -1,
            keys.Key_Down: -1,
            keys.Key_PageUp: 10,
            keys.Key_PageDown: -10,
        }
        if event.key() in steps:
            fine = FINE if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._take(self.parameter.stepped(self._value, fine * steps[Qt.Key(event.key())]))
            self.settled.emit()
        elif event.key() == keys.Key_Home:
            self._take(self._default)
            self.settled.emit()
        elif event.key() in (keys.Key_Return, keys.Key_Enter, keys.Key_F2):
            self._edit(self._text().replace("−", "-"))
        elif event.text() and event.text() in "0123456789-−+.,":
            self._edit(event.text(), select=False)
        else:
            super().keyPressEvent(event)

    # -- typing -----------------------------------------------------------------------------------------------

    def _edit(self, text: str, *, select: bool = True) -> None:
        self._editor.setText(text)
        self._editor.setGeometry(self.rect().adjusted(4, 18, -4, -2))
        self._editor.show()
        self._editor.setFocus()
        if select:
            self._editor.selectAll()

    def _accept(self) -> None:
        try:
            value = self.parameter.parse(self._editor.text())
            if self.parameter.clamp(value) != value:
                raise ValueError(f"It can be {self._limits()}")
        except ValueError as error:
            QToolTip.showText(self._editor.mapToGlobal(self._editor.rect().bottomLeft()), str(error), self._editor)
            self._editor.selectAll()
            return
        self._close_editor()
        self._take(value)
        self.settled.emit()

    def _close_editor(self) -> None:
        self._editor.hide()
        self.setFocus()

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        if watched is self._editor:
            if event.type() == QEvent.Type.FocusOut:
                self._editor.hide()
            elif event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:  # type: ignore[attr-defined]
                self._close_editor()
                return True
        return super().eventFilter(watched, event)  # type: ignore[arg-type]

    # -- looks ------------------------------------------------------------------------------------------------

    def enterEvent(self, event: QEvent) -> None:
        self._hovered = True
        self.update()
        super().enterEvent(event)  # type: ignore[arg-type]

    def leaveEvent(self, event: QEvent) -> None:
        self._hovered = False
        self.update()
        super().leaveEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._editor.setGeometry(self.rect().adjusted(4, 18, -4, -2))
        super().resizeEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self.isEnabled()
        body = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(colour("focus") if self.hasFocus() else colour("line"), 2 if self.hasFocus() else 1))
        painter.setBrush(colour("raised") if self._hovered and live else colour("panel"))
        painter.drawRoundedRect(body, 8, 8)
        self._paint_fill(painter, body, live)
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        painter.drawText(
            body.adjusted(10, 4, -10, 0),
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop,
            self.parameter.label,
        )
        painter.setFont(font(15, SEMI_BOLD))
        painter.setPen(colour("ink") if live else colour("ink_soft"))
        painter.drawText(
            body.adjusted(10, 16, -10, -8),
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
            self._text(),
        )

    def _paint_fill(self, painter: QPainter, body: QRectF, live: bool) -> None:
        """A line along the bottom from the default, or the lower end, to the value."""
        left, right, y = body.left() + 10, body.right() - 10, body.bottom() - 6
        painter.setPen(QPen(colour("line"), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(QPointF(left, y), QPointF(right, y))
        origin = self.parameter.to_fraction(
            1.0
            if self.parameter.unit == "×"
            else 0.0
            if self.parameter.low < 0 < self.parameter.high
            else self.parameter.low
        )
        place = self.parameter.to_fraction(self._value)
        a, b = sorted((left + origin * (right - left), left + place * (right - left)))
        painter.setPen(
            QPen(
                colour(self._accent) if live else colour("ink_soft"),
                3,
                Qt.PenStyle.SolidLine,
                Qt.PenCapStyle.RoundCap,
            )
        )
        painter.drawLine(QPointF(a, y), QPointF(b, y))
        painter.setBrush(colour(self._accent) if live else colour("ink_soft"))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawEllipse(QPointF(left + place * (right - left), y), 4, 4)
