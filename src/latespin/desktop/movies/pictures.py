"""The pictures of a video, one after the other: a card that stays, or one whose ribbons move."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import numpy as np
from PySide6.QtCore import QRect
from PySide6.QtGui import QImage, QPainter

from latespin.desktop.movies.card import Card, paint_card
from latespin.desktop.movies.ribbons import Ribbons, RibbonSource
from latespin.jobs import Work, step

STILL_RATE, MOVING_RATE = Fraction(5), Fraction(30)


@dataclass(frozen=True, eq=False)
class CardPictures:
    """The pictures of a card, ``size`` pixels wide and high, both even. ribbons : what moves at its foot, if anything does."""

    card: Card
    size: tuple[int, int]
    ribbons: RibbonSource | None = None

    @property
    def rate(self) -> Fraction:
        """Pictures per second."""
        return STILL_RATE if self.ribbons is None else MOVING_RATE

    def frames(self, seconds: float, work: Work) -> Iterator[Any]:
        """All pictures of a video ``seconds`` long, as PyAV frames in yuv420p. Raises Cancelled."""
        count = max(1, round(seconds * self.rate))
        ground, band = self.drawn()
        coder = _Planes(ground)
        moving = _Moving(self, ground, band) if self.ribbons is not None else None
        still = coder.frame()
        for number in range(count):
            step(work, number / count)
            if moving is None:
                yield still
            else:
                coder.put(moving.at(number / float(self.rate)), band.top())
                yield coder.frame()

    def drawn(self) -> tuple[QImage, QRect]:
        """The card without its ribbons, and their band, as wide as the card and on even rows."""
        width, height = self.size
        ground = QImage(width, height, QImage.Format.Format_RGB32)
        painter = QPainter(ground)
        layout = paint_card(painter, self.card, width, height, ribbons=self.ribbons is not None)
        painter.end()
        top, bottom = (round(edge / 2) * 2 for edge in (layout.ribbons.top(), layout.ribbons.bottom()))
        return ground, QRect(0, top, width, max(2, bottom - top))


class Preview:
    """The picture of any moment, to be looked at."""

    def __init__(self, pictures: CardPictures) -> None:
        self._image, self._band = pictures.drawn()
        self._moving = _Moving(pictures, self._image, self._band) if pictures.ribbons is not None else None

    def at(self, seconds: float) -> QImage:
        """The picture of a moment; it changes with the next one asked for."""
        if self._moving is not None:
            painter = QPainter(self._image)
            painter.drawImage(self._band.topLeft(), self._moving.at(seconds))
            painter.end()
        return self._image


class _Moving:
    """The band of the ribbons."""

    def __init__(self, pictures: CardPictures, ground: QImage, band: QRect) -> None:
        assert pictures.ribbons is not None
        self._ground = ground.copy(band)
        self._image = QImage(band.size(), QImage.Format.Format_RGB32)
        self._ribbons = Ribbons(pictures.ribbons, pictures.card.palette, self._ground.rect().toRectF())

    def at(self, seconds: float) -> QImage:
        """The band at a moment; it changes with the next one asked for."""
        painter = QPainter(self._image)
        painter.drawImage(0, 0, self._ground)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._ribbons.paint(painter, seconds)
        painter.end()
        return self._image


class _Planes:
    """A picture in the planes of video, of which bands of rows can be changed."""

    def __init__(self, image: QImage) -> None:
        import av

        self._reformer = av.video.reformatter.VideoReformatter()
        self._height, self._width = image.height(), image.width()
        self._planes = self._coded(image)

    def _coded(self, image: QImage) -> np.ndarray:
        """``[3/2 height, width]``: a plane of light, and below it two of colour."""
        import av

        pixels = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine() // 4, 4)
        frame = av.VideoFrame.from_numpy_buffer(np.ascontiguousarray(pixels[:, : image.width()]), format="bgra")
        of = av.video.reformatter
        coded = self._reformer.reformat(
            frame, format="yuv420p", dst_colorspace=of.Colorspace.ITU709, dst_color_range=of.ColorRange.MPEG,
            interpolation=of.Interpolation.FAST_BILINEAR,
        )  # fmt: skip
        return np.asarray(coded.to_ndarray())

    def put(self, image: QImage, top: int) -> None:
        """Change the rows from an even one on; ``image`` is as wide, and of even height."""
        rows, height = image.height(), self._height
        coded = self._coded(image)
        self._planes[top : top + rows] = coded[:rows]
        colours = self._planes[height:].reshape(2, height // 2, self._width // 2)
        colours[:, top // 2 : (top + rows) // 2] = coded[rows:].reshape(2, rows // 2, self._width // 2)

    def frame(self) -> Any:
        """The picture as it is now."""
        import av

        made = av.VideoFrame.from_numpy_buffer(self._planes.copy(), format="yuv420p")
        made.colorspace, made.color_range = av.video.reformatter.Colorspace.ITU709, av.video.reformatter.ColorRange.MPEG
        return made
