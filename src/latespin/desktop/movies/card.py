"""A card: title, artist, version and cover on a ground of its own, at any size and shape."""

from dataclasses import dataclass, field

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QImage, QLinearGradient, QPainter, QPainterPath

from latespin.desktop.movies.palette import Palette, palette_of
from latespin.desktop.theme.theme import font

LONGEST_LINES = 3
SHAPES = {"16:9": (16, 9), "1:1": (1, 1), "9:16": (9, 16)}


def card_size(shape: str, lines: int) -> tuple[int, int]:
    """Pixels wide and high, both even, of a shape whose shorter side has ``lines``."""
    across, down = SHAPES[shape]
    unit = lines / min(across, down)
    return round(across * unit / 2) * 2, round(down * unit / 2) * 2


@dataclass(frozen=True)
class Card:
    """What a card says. cover : may be null.  picture : fills the whole card instead, where there is one."""

    title: str
    artist: str = ""
    version: str = ""
    cover: QImage = field(default_factory=QImage)
    picture: QImage = field(default_factory=QImage)

    @property
    def palette(self) -> Palette:
        """Its colours."""
        return palette_of(self.cover if self.picture.isNull() else self.picture)


@dataclass(frozen=True)
class CardLayout:
    """Where things are on a card. ribbons : the band at its foot, empty on a card that does not move."""

    cover: QRectF
    text: QRectF
    ribbons: QRectF
    centred: bool

    @classmethod
    def of(cls, width: int, height: int, *, covered: bool, ribbons: bool) -> "CardLayout":
        """The layout for a size in pixels."""
        margin = 0.08 * min(width, height)
        foot = (0.30 if width > height else 0.22) * height if ribbons else 0.0
        band = QRectF(0.0, height - margin - foot, width, foot)
        room = QRectF(
            margin,
            margin,
            width - 2 * margin,
            (band.top() if ribbons else height - margin) - margin - 0.5 * margin * ribbons,
        )
        if not covered:
            return cls(QRectF(), room, band, width <= height)
        if width > height:
            side = min(room.height(), 0.40 * width)
            cover = QRectF(room.left(), room.center().y() - side / 2, side, side)
            left = cover.right() + margin
            return cls(cover, QRectF(left, room.top(), room.right() - left, room.height()), band, False)
        side = min(room.width(), 0.62 * room.height())
        cover = QRectF(width / 2 - side / 2, room.top(), side, side)
        top = cover.bottom() + 0.6 * margin
        return cls(cover, QRectF(room.left(), top, room.width(), room.bottom() - top), band, True)


def paint_card(painter: QPainter, card: Card, width: int, height: int, *, ribbons: bool = False) -> CardLayout:
    """Draw a card of that size in pixels; the ribbons' band stays empty."""
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
    palette = card.palette
    layout = CardLayout.of(width, height, covered=not card.cover.isNull(), ribbons=ribbons)
    if not card.picture.isNull():
        _paint_picture(painter, card.picture, QRectF(0, 0, width, height))
        if ribbons:
            _paint_shade(painter, palette.ground, width, height, layout.ribbons)
        return layout
    shade = QLinearGradient(0, 0, 0.4 * width, height)
    shade.setColorAt(0.0, palette.panel)
    shade.setColorAt(1.0, palette.ground)
    painter.fillRect(QRectF(0, 0, width, height), shade)
    if not card.cover.isNull():
        _paint_cover(painter, card.cover, layout.cover)
    _paint_text(painter, card, palette, layout, min(width, height))
    return layout


def _paint_picture(painter: QPainter, picture: QImage, where: QRectF) -> None:
    """A picture that fills a rectangle, what is too much cut off on both sides."""
    scale = max(where.width() / picture.width(), where.height() / picture.height())
    taken = QRectF(0, 0, where.width() / scale, where.height() / scale)
    taken.moveCenter(QPointF(picture.width() / 2, picture.height() / 2))
    painter.drawImage(where, picture, taken)


def _paint_shade(painter: QPainter, ground: QColor, width: int, height: int, band: QRectF) -> None:
    """Darken a picture behind the ribbons."""
    shade = QLinearGradient(0, band.top() - 0.5 * band.height(), 0, band.top() + 0.25 * band.height())
    clear, dark = QColor(ground), QColor(ground)
    clear.setAlphaF(0.0)
    dark.setAlphaF(0.86)
    shade.setColorAt(0.0, clear)
    shade.setColorAt(1.0, dark)
    painter.fillRect(QRectF(0, 0, width, height), shade)


def _paint_cover(painter: QPainter, cover: QImage, where: QRectF) -> None:
    path = QPainterPath()
    path.addRoundedRect(where, 0.03 * where.width(), 0.03 * where.width())
    painter.save()
    painter.setClipPath(path)
    _paint_picture(painter, cover, where)
    painter.restore()


def _paint_text(painter: QPainter, card: Card, palette: Palette, layout: CardLayout, unit: int) -> None:
    """Title, artist and version below one another, in the middle of their room."""
    side = Qt.AlignmentFlag.AlignHCenter if layout.centred else Qt.AlignmentFlag.AlignLeft
    flags = int(side | Qt.AlignmentFlag.AlignTop) | int(Qt.TextFlag.TextWordWrap)
    lines = [
        (card.title, 0.092, QFont.Weight.Bold, palette.ink, 0.0),
        (card.artist, 0.046, QFont.Weight.Medium, palette.ink_soft, 0.018),
        (card.version, 0.046, QFont.Weight.DemiBold, palette.after, 0.036),
    ]
    placed: list[tuple[str, QFont, QColor, float, QRectF]] = []
    height = 0.0
    for shrink in (1.0, 0.85, 0.7, 0.55, 0.45):
        placed, height = [], 0.0
        for text, size, weight, colour, gap in lines:
            if text:
                face = font(round(size * unit * shrink), weight)
                face.setPixelSize(max(6, round(size * unit * shrink)))
                box = QFontMetricsF(face).boundingRect(QRectF(0, 0, layout.text.width(), 1e5), flags, text)
                height += gap * unit * shrink if placed else 0.0
                placed.append((text, face, colour, height, box))
                height += box.height()
        title = placed[0][4].height() / QFontMetricsF(placed[0][1]).lineSpacing() if placed else 0.0
        fits = all(box.width() <= layout.text.width() + 1 for *_, box in placed)
        if height <= layout.text.height() and title <= LONGEST_LINES + 0.1 and fits:
            break
    top = layout.text.top() + max(0.0, (layout.text.height() - height) / 2)
    for text, face, colour, at, box in placed:
        painter.setFont(face)
        painter.setPen(colour)
        painter.drawText(QRectF(layout.text.left(), top + at, layout.text.width(), box.height() + 2), flags, text)
