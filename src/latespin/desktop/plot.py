"""What every picture of numbers has: a panel to stand on, and dotted lines for levels."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen
from PySide6.QtWidgets import QWidget

from latespin.desktop.theme import colour, font
from latespin.model.units import number

LEVELS_DB = (0, -20, -40, -60)


def paint_panel(painter: QPainter, picture: QWidget) -> QRectF:
    """The rounded panel of a picture, its edge stronger with the keyboard's focus; gives the panel's place."""
    body = QRectF(picture.rect()).adjusted(1, 1, -1, -1)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(colour("focus"), 2) if picture.hasFocus() else QPen(colour("line"), 1))
    painter.setBrush(colour("panel"))
    painter.drawRoundedRect(body, 8, 8)
    return body


def paint_levels(painter: QPainter, area: QRectF, y_of: Callable[[float], float]) -> None:
    """Dotted lines over ``area`` at round levels in dB, their numbers to the left of it."""
    painter.setFont(font(11))
    for level in LEVELS_DB:
        y = y_of(level)
        painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        painter.setPen(colour("ink_soft"))
        place = QRectF(0, y - 8, area.left() - 5, 16)
        painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, number(level, 0))
