"""The basis of all plots: a panel with dotted level lines."""

from collections.abc import Callable, Sequence

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen
from PySide6.QtWidgets import QWidget

from latespin.desktop.theme.theme import colour, font
from latespin.dsp.arrays import Floats
from latespin.model.values.units import number

LOW_HZ, HIGH_HZ = 20.0, 20_000.0
LEVELS_DB = (0, -20, -40, -60)


def paint_panel(painter: QPainter, picture: QWidget) -> QRectF:
    """The rounded panel of a picture, its edge stronger with the keyboard's focus; gives the panel's place."""
    body = QRectF(picture.rect()).adjusted(1, 1, -1, -1)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(colour("focus"), 2) if picture.hasFocus() else QPen(colour("line"), 1))
    painter.setBrush(colour("panel"))
    painter.drawRoundedRect(body, 8, 8)
    return body


def x_of_hz(area: QRectF, hz: Floats) -> Floats:
    """Horizontal positions of frequencies in an area, 20 Hz to 20 kHz, on a logarithmic axis."""
    return np.asarray(area.left() + area.width() * np.log(hz / LOW_HZ) / np.log(HIGH_HZ / LOW_HZ))


def paint_frequencies(painter: QPainter, area: QRectF, named: Sequence[tuple[float, str]]) -> None:
    """Dotted lines down an area at named frequencies, their names below it."""
    painter.setFont(font(11))
    for hz, text in named:
        x = float(x_of_hz(area, np.array([hz]))[0])
        painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
        painter.setPen(colour("ink_soft"))
        painter.drawText(QRectF(x - 30, area.bottom() + 2, 60, 15), Qt.AlignmentFlag.AlignCenter, text)


def paint_gains(painter: QPainter, area: QRectF, gains: Sequence[int], y_of: Callable[[float], float]) -> None:
    """Lines across an area at gains in dB, 0 drawn through, their numbers to the left of it."""
    painter.setFont(font(11))
    for gain in gains:
        y = y_of(float(gain))
        painter.setPen(QPen(colour("line"), 1, Qt.PenStyle.SolidLine if gain == 0 else Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        painter.setPen(colour("ink_soft"))
        text = f"{gain:+d}".replace("-", "−") if gain else "0"
        place = QRectF(0, y - 8, area.left() - 5, 16)
        painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)


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
