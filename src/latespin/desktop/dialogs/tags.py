"""The tags of files before they are written: what a version's would be, to be changed, and its cover."""

from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QSize
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.dialogs.cover_view import CoverView
from latespin.desktop.movies.card import Card, paint_card
from latespin.desktop.movies.image_files import PICTURE_FILTER, read_picture
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import WarningLabel, heading, quiet_label
from latespin.media.tags import TagEdits, Tags

FIELDS = {
    "title": "&Title", "artist": "&Artist", "album": "A&lbum", "date": "&Year", "tracknumber": "Trac&k", "genre": "&Genre",
    "comment": "&Comment", "credits": "C&redits", "bpm": "&BPM", "initialkey": "Ke&y",
}  # fmt: skip
COVER_SIDE, JPEG_QUALITY = 1400, 92


class TagsDialog(QDialog):
    """Fields with the tags as they would be. ``edits`` is what was changed.

    fields : the names of those that can be changed.  patterns : whether values may have fields in braces, for many songs.
    """

    def __init__(
        self, tags: Tags, edits: TagEdits, card: Card | None, fields: tuple[str, ...] = tuple(FIELDS), *, parent: QWidget | None = None, patterns: str = ""
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._tags, self._card, self._cover = tags, card, edits.cover
        self.setWindowTitle(tr("Tags"))
        self.setMinimumWidth(640)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(16)
        column.addWidget(heading(tr("Tags of the file")))
        if patterns:
            says = quiet_label(patterns, 12)
            says.setWordWrap(True)
            column.addWidget(says)
        both = QHBoxLayout()
        both.setSpacing(24)
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(10)
        self.lines: dict[str, QLineEdit] = {}
        changed = dict(edits.text)
        for name in fields:
            line = QLineEdit(changed.get(name, tags.first(name)))
            line.setPlaceholderText(tr("as it is") if patterns else "")
            line.setCursorPosition(0)
            self.lines[name] = line
            form.addRow(tr(FIELDS[name]), line)
        both.addLayout(form, 1)
        if card is not None:
            both.addLayout(self._cover_column())
        column.addLayout(both)
        self._problem = WarningLabel()
        column.addWidget(self._problem)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        again = buttons.addButton(tr("Reset"), QDialogButtonBox.ButtonRole.ResetRole)
        again.clicked.connect(self.reset)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        self._show_cover()

    def _cover_column(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(8)
        self.cover = CoverView()
        self.cover.dropped.connect(self.take_cover)
        column.addWidget(self.cover)
        for text, tip, function in (
            (tr("Choose a cover …"), tr("Use a picture file as the cover."), self._choose_cover),
            (tr("Draw a cover"), tr("Use a card with title, artist and version."), self.draw_cover),
            (tr("No cover"), tr("Write the file without a cover."), self.remove_cover),
        ):
            button = QPushButton(text)
            button.setToolTip(tip)
            button.setAutoDefault(False)
            button.clicked.connect(function)
            column.addWidget(button)
        column.addStretch()
        return column

    def _choose_cover(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Choose a cover"), "", PICTURE_FILTER)
        if name:
            self.take_cover(Path(name))

    def take_cover(self, path: Path) -> None:
        """Use a picture file as the cover, made smaller where it is large."""
        image, problem = read_picture(path, COVER_SIDE)
        self._problem.say(problem)
        if not problem:
            self._cover = _as_jpeg(image)
            self._show_cover()

    def draw_cover(self) -> None:
        """Use a card as the cover, without the cover there is."""
        assert self._card is not None
        image = QImage(QSize(COVER_SIDE, COVER_SIDE), QImage.Format.Format_RGB32)
        painter = QPainter(image)
        paint_card(painter, self._words(self._card), COVER_SIDE, COVER_SIDE)
        painter.end()
        self._cover = _as_jpeg(image)
        self._show_cover()

    def _words(self, card: Card) -> Card:
        """What a drawn cover says: the song's title and the version below it, or the title as it was changed."""
        title, artist = (self.lines[name].text().strip() if name in self.lines else "" for name in ("title", "artist"))
        if title and title != self._tags.first("title"):
            return Card(title, artist or card.artist)
        return Card(card.title, artist or card.artist, card.version)

    def remove_cover(self) -> None:
        """Write no cover."""
        self._cover = b"", ""
        self._show_cover()

    def reset(self) -> None:
        """Everything as it would be without changes."""
        for name, line in self.lines.items():
            line.setText(self._tags.first(name))
        self._cover = None
        self._show_cover()

    def _show_cover(self) -> None:
        if self._card is None:
            return
        self.cover.show_picture(self._cover[0] if self._cover is not None else self._tags.cover)

    @property
    def edits(self) -> TagEdits:
        """What was changed."""
        text = {name: line.text().strip() for name, line in self.lines.items()}
        return TagEdits(
            tuple((name, value) for name, value in text.items() if value != self._tags.first(name)), self._cover
        )


def _as_jpeg(image: QImage) -> tuple[bytes, str]:
    data, buffer = QByteArray(), QBuffer()
    buffer.setBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "JPG", JPEG_QUALITY)  # type: ignore[call-overload]
    return bytes(buffer.data().data()), "image/jpeg"
