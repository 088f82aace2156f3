"""The video dialog: which picture, which shape, and where to, with a preview that moves."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.dialogs.part_chooser import PartChooser
from latespin.desktop.movies.card import Card
from latespin.desktop.movies.image_files import PICTURE_FILTER, read_picture
from latespin.desktop.movies.pictures import CardPictures, Preview
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.theme.theme import BOLD, colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.errors import LateSpinError
from latespin.media.files.atomic import check_target
from latespin.media.video.clip import Clip
from latespin.model.text.describe import say_version, title_suffix
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
from latespin.paths import resolved
from latespin.render.export.video import OwnPictures
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

OWN, CARD, PICTURE = "own", "card", "picture"
SHAPES = {
    "16:9": ("16 : 9", "Wide, as screens are"), "1:1": ("1 : 1", "Square, for feeds"), "9:16": ("9 : 16", "Tall, as telephones are held"),
}  # fmt: skip
SIZES = (720, 1080, 1440, 2160)
FORMAT_WORDS = {".mp4": "MP4: H.264 and AAC, plays everywhere", ".webm": "WebM: VP9 and Opus, open"}
OWN_FORMATS = {".mp4": "MP4", ".mov": "MOV", ".mkv": "MKV", ".webm": "WebM"}
PREVIEW = QSize(480, 440)
PREVIEW_MS = 50


@dataclass(frozen=True)
class VideoOrder:
    """One video to be made. card : what is drawn, ``size`` pixels wide and high; None for the pictures of the song's own video."""

    version: Version
    target: Path
    overwrite: bool
    excerpt: Excerpt | ExcerptSearch | None
    card: Card | None
    size: tuple[int, int]
    moving: bool
    own: OwnPictures


class VideoDialog(QDialog):
    """What a video shows, its shape and its file. ``order`` is the video decided on."""

    def __init__(
        self, document: Document, settings: Settings, marked: tuple[float, float] | None, clip: Clip | None, parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(parent)
        assert document.loaded is not None
        assert document.version is not None
        self._document, self._settings, self._marked, self._clip = document, settings, marked, clip
        self._track, self._version = document.loaded.track, document.version
        self._sources = document.session.files()
        self._cover = read_picture(self._track.tags.cover)[0] if self._track.tags.cover else QImage()
        self._picture, self._picture_problem = QImage(), ""
        self.setWindowTitle(tr("Export a video"))
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(16)
        head = QLabel(tr("Video of “{0}”").format(self._version.name))
        head.setFont(font(18, BOLD))
        column.addWidget(head)
        column.addWidget(quiet_label(say_version(document.stages), 13))
        both = QHBoxLayout()
        both.setSpacing(24)
        self.preview = PreviewPane()
        both.addWidget(self.preview, 0, Qt.AlignmentFlag.AlignTop)
        both.addLayout(self._form(), 1)
        column.addLayout(both)
        self._problem = QLabel()
        self._problem.setProperty("warning", True)
        self._problem.setWordWrap(True)
        column.addWidget(self._problem)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.accept_button = self.buttons.addButton(tr("Export video"), QDialogButtonBox.ButtonRole.AcceptRole)
        self.accept_button.setDefault(True)
        self.buttons.button(QDialogButtonBox.StandardButton.Cancel).setAutoDefault(False)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        column.addWidget(self.buttons)
        self._follow_picture()

    # -- building --------------------------------------------------------------------------------------------------

    def _form(self) -> QFormLayout:
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(12)
        self._add_picture(form)
        self._add_words(form)
        self.shape = SegmentedButton("Shape", SHAPES, "after")
        self._shape = self._settings.movie_shape if self._settings.movie_shape in SHAPES else "16:9"
        self.shape.choose(self._shape)
        self.shape.chosen.connect(self._take_shape)
        self.lines = QComboBox()
        self.lines.setAccessibleName(tr("Size"))
        for size in SIZES:
            self.lines.addItem(f"{size}p", size)
        self.lines.setCurrentIndex(max(0, self.lines.findData(self._settings.movie_size)))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.shape)
        row.addWidget(self.lines, 1)
        self._shape_label = QLabel(tr("S&hape"))
        self._shape_label.setBuddy(self.lines)
        form.addRow(self._shape_label, row)
        self.part = PartChooser(self._document, self._marked)
        self.part.changed.connect(self._refresh)
        label = QLabel(tr("&What"))
        label.setBuddy(self.part)
        form.addRow(label, self.part)
        self._add_file(form)
        return form

    def _add_picture(self, form: QFormLayout) -> None:
        self.picture = QComboBox()
        if self._clip is not None:
            self.picture.addItem(tr("The song’s own video"), OWN)
        self.picture.addItem(tr("A card with title and cover"), CARD)
        self.picture.addItem(tr("A picture of my own …"), PICTURE)
        self.picture.currentIndexChanged.connect(self._follow_picture)
        form.addRow(tr("&Picture"), self.picture)
        self.moving = QCheckBox(tr("Ribbons that move with the sound"))
        self.moving.setChecked(self._settings.movie_moving)
        self.moving.toggled.connect(self._refresh)
        form.addRow("", self.moving)
        self.follow = QCheckBox(tr("Pictures follow where time jumps or runs backwards"))
        self.follow.setChecked(True)
        self.follow.setToolTip(tr("Otherwise they run on as they were, and are not encoded again."))
        form.addRow("", self.follow)

    def _add_words(self, form: QFormLayout) -> None:
        suffix = title_suffix(self._document.stages, {p.id for p in self._document.problems() if p.left_out})
        self.title = QLineEdit(self._track.title)
        self.artist = QLineEdit(self._track.tags.first("artist"))
        self.words = QLineEdit(suffix)
        for label, line in ((tr("&Title"), self.title), (tr("&Artist"), self.artist), (tr("&Version"), self.words)):
            line.textChanged.connect(self._refresh)
            form.addRow(label, line)

    def _add_file(self, form: QFormLayout) -> None:
        self.format = QComboBox()
        words = OWN_FORMATS if self._clip is not None else FORMAT_WORDS
        for suffix, says in (FORMAT_WORDS | {k: v for k, v in words.items() if k not in FORMAT_WORDS}).items():
            self.format.addItem(tr(says), suffix)
        preferred = self._clip.path.suffix.lower() if self._clip is not None else self._settings.movie_suffix
        self.format.setCurrentIndex(max(0, self.format.findData(preferred)))
        self.format.currentIndexChanged.connect(self._refresh)
        form.addRow(tr("F&ormat"), self.format)
        self.name = QLineEdit(safe_name(f"{self._track.title} - {self._version.name}"))
        self.name.textChanged.connect(self._refresh)
        form.addRow(tr("File &name"), self.name)
        kept = self._settings.export_folder
        self.folder = QLineEdit(kept if kept and Path(kept).is_dir() else str(resolved(self._track.path).parent))
        self.folder.textChanged.connect(self._refresh)
        browse = QPushButton(tr("Choose …"))
        browse.setAutoDefault(False)
        browse.clicked.connect(self._browse)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.folder, 1)
        row.addWidget(browse)
        label = QLabel(tr("Fol&der"))
        label.setBuddy(self.folder)
        form.addRow(label, row)
        self.overwrite = QCheckBox(tr("&Replace a file that is already there"))
        self.overwrite.toggled.connect(self._refresh)
        form.addRow("", self.overwrite)

    # -- choosing --------------------------------------------------------------------------------------------------

    def _browse(self) -> None:
        chosen = QFileDialog.getExistingDirectory(self, tr("Folder for the video"), self.folder.text())
        if chosen:
            self.folder.setText(chosen)

    def _take_shape(self, key: str) -> None:
        self._shape = key
        self._refresh()

    def _follow_picture(self) -> None:
        if self.picture.currentData() == PICTURE and self._picture.isNull():
            name, _ = QFileDialog.getOpenFileName(self, tr("Choose a picture"), self.folder.text(), PICTURE_FILTER)
            if name:
                self.take_picture(Path(name))
            else:
                self.picture.setCurrentIndex(self.picture.findData(CARD))
                return
        self._refresh()

    def take_picture(self, path: Path) -> None:
        """Show a picture file."""
        self._picture, self._picture_problem = read_picture(path)
        self.picture.setCurrentIndex(self.picture.findData(PICTURE))
        self._refresh()

    @property
    def card(self) -> Card | None:
        """What is drawn; None for the song's own video."""
        kind = self.picture.currentData()
        if kind == OWN:
            return None
        picture = self._picture if kind == PICTURE else QImage()
        return Card(
            self.title.text().strip(), self.artist.text().strip(), self.words.text().strip(), self._cover, picture
        )

    def _size(self, short: int) -> tuple[int, int]:
        """Pixels wide and high for a shorter side."""
        wide = round(short * 16 / 9 / 2) * 2
        return {"16:9": (wide, short), "1:1": (short, short), "9:16": (short, wide)}[self._shape]

    def order(self) -> VideoOrder:
        """The video to be made."""
        name = safe_name(self.name.text()) + str(self.format.currentData())
        return VideoOrder(
            self._version, Path(self.folder.text()).expanduser() / name, self.overwrite.isChecked(),
            self.part.part(self._version.stages), self.card, self._size(int(self.lines.currentData())), self.moving.isChecked(),
            OwnPictures(follow=self.follow.isChecked()),
        )  # fmt: skip

    def _refresh(self) -> None:
        own = self.picture.currentData() == OWN
        for field in (self.title, self.artist, self.words, self.moving, self.shape, self.lines):
            field.setEnabled(not own)
        self.follow.setVisible(self._clip is not None)
        self.follow.setEnabled(own)
        problem = self._first_problem()
        self._problem.setText(problem)
        self._problem.setVisible(bool(problem))
        self.accept_button.setEnabled(not problem)
        self.preview.show_pictures(self._preview())

    def _preview(self) -> CardPictures | None:
        card = self.card
        if card is None:
            return None
        width, height = self._size(720)
        scale = min(PREVIEW.width() / width, PREVIEW.height() / height)
        size = round(width * scale / 2) * 2, round(height * scale / 2) * 2
        return CardPictures(card, size, self.ribbons() if self.moving.isChecked() else None)

    def ribbons(self) -> RibbonSource | None:
        """What the ribbons show."""
        document = self._document
        made, peaks = document.arrangement(), document.peaks()
        if made is None or peaks is None or document.loaded is None:
            return None
        return RibbonSource(document.loaded.peaks, peaks, made.map, document.grid)

    def _first_problem(self) -> str:
        if self._picture_problem and self.picture.currentData() == PICTURE:
            return self._picture_problem
        if not self.name.text().strip():
            return tr("Give the file a name.")
        order = self.order()
        try:
            check_target(order.target, overwrite=order.overwrite, sources=self._sources)
        except (LateSpinError, OSError) as error:
            return str(error)
        return ""

    def accept(self) -> None:
        """Remember the choices and close."""
        settings = self._settings
        settings.export_folder, settings.movie_shape = self.folder.text(), self._shape
        settings.movie_size, settings.movie_moving = int(self.lines.currentData()), self.moving.isChecked()
        if self._clip is None:
            settings.movie_suffix = str(self.format.currentData())
        super().accept()


class PreviewPane(QWidget):
    """The picture of the video, moving as it will."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(PREVIEW)
        self.setAccessibleName(tr("Preview of the video"))
        self._preview: Preview | None = None
        self._still = QImage()
        self._seconds = 0.0
        self._timer = QTimer(self, interval=PREVIEW_MS)
        self._timer.timeout.connect(self._go_on)

    def show_pictures(self, pictures: CardPictures | None) -> None:
        """Preview a card; None where there is none to draw."""
        self._preview = Preview(pictures) if pictures is not None else None
        if pictures is not None and pictures.ribbons is not None:
            self._timer.start()
        else:
            self._timer.stop()
        self.update()

    def show_still(self, image: QImage) -> None:
        """A picture of the song's own video."""
        self._still = image
        self.update()

    def show_moment(self, seconds: float) -> None:
        """Go on from a second of the version."""
        self._seconds = seconds
        self.update()

    def _go_on(self) -> None:
        self._seconds += PREVIEW_MS / 1000
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Draw the picture in the middle."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        image = self._still if self._preview is None else self._preview.at(self._seconds)
        if image.isNull():
            painter.setPen(colour("ink_soft"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("The song’s own pictures"))
            return
        scale = min(self.width() / image.width(), self.height() / image.height())
        place = QRectF(0, 0, image.width() * scale, image.height() * scale)
        place.moveLeft((self.width() - place.width()) / 2)
        painter.drawImage(place, image)
        painter.setPen(colour("line"))
        painter.drawRect(place.adjusted(0.5, 0.5, -0.5, -0.5))
