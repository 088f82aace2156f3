"""Cards for videos without a window, for the command line."""

import os
from pathlib import Path

from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from latespin.desktop.movies.card import Card
from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.theme.theme import load_fonts
from latespin.errors import Unreadable
from latespin.media.track import Track


def card_for(track: Track, version: str, picture: Path | None) -> Card:
    """A card for a version of a song, or of a picture file. Raises Unreadable."""
    start_drawing()
    cover = read_picture(track.tags.cover)[0] if track.tags.cover else QImage()
    image, problem = read_picture(picture) if picture is not None else (QImage(), "")
    if problem:
        raise Unreadable(problem)
    return Card(track.title, track.tags.first("artist"), version, cover, image)


def start_drawing() -> None:
    """Fonts need an application, which needs no screen."""
    if QApplication.instance() is None:
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
        _kept.append(QApplication([]))
        load_fonts()


_kept: list[QApplication] = []  # it ends with the process
