"""Text on at most two lines; what does not fit ends in an ellipsis."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QFontMetrics, QPainter


def two_lines(text: str, metrics: QFontMetrics, width: float) -> tuple[str, str]:
    """The first line, of whole words, and the second, shortened to fit."""
    words, first = text.split(" "), ""
    while words and metrics.horizontalAdvance(f"{first} {words[0]}".strip()) <= width:
        first = f"{first} {words.pop(0)}".strip()
    return first, metrics.elidedText(" ".join(words), Qt.TextElideMode.ElideRight, int(width))


def paint_wrapped(painter: QPainter, place: QRectF, text: str) -> None:
    """Draw text from the top of a place, in the painter's font and pen."""
    metrics = painter.fontMetrics()
    first, second = two_lines(text, metrics, place.width())
    flags = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft
    painter.drawText(place, flags, first)
    painter.drawText(place.adjusted(0, metrics.lineSpacing(), 0, metrics.lineSpacing()), flags, second)
