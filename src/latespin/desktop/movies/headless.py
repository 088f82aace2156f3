"""Cards for videos without a window, for the command line."""

import os
from pathlib import Path

from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from latespin.desktop.movies.card import Card
from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.desktop.theme.theme import load_fonts
from latespin.errors import Unreadable
from latespin.media.track import Track


def card_pictures(
    track: Track, version: str, picture: Path | None, size: tuple[int, int], ribbons: RibbonSource | None
) -> CardPictures:
    """The pictures of a card for a song, or of a picture file. Raises Unreadable."""
    start_drawing()
    cover = read_picture(track.tags.cover)[0] if track.tags.cover else QImage()
    image, problem = read_picture(picture) if picture is not None else (QImage(), "")
    if problem:
        raise Unreadable(problem)
    return CardPictures(Card(track.title, track.tags.first("artist"), version, cover, image), size, ribbons)


def start_drawing() -> None:
    """Fonts need an application, which needs no screen."""
    if QApplication.instance() is None:
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
        _kept.append(QApplication([]))
        load_fonts()


_kept: list[QApplication] = []  # it ends with the process
