"""The video dialog: which picture, which shape, and where to, with a preview that moves."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QWidget,
)
from shiboken6 import isValid

from latespin.desktop.dialogs.writing_dialog import WritingDialog
from latespin.desktop.movies.card import SHAPES, Card, card_size
from latespin.desktop.movies.image_files import PICTURE_FILTER, read_picture
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.preview_pane import PREVIEW, PreviewPane
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton
from latespin.errors import LateSpinError
from latespin.integration.desktop_wishes import motion_is_reduced
from latespin.media.video.clip import Clip
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
from latespin.render.export.video import OwnPictures, check_video_target
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

OWN, CARD, PICTURE = "own", "card", "picture"
SHAPE_WORDS = {
    "16:9": ("16 : 9", "Wide, for screens"), "1:1": ("1 : 1", "Square, for feeds"), "9:16": ("9 : 16", "Tall, for phones"),
}  # fmt: skip
SIZES = (720, 1080, 1440, 2160)
FORMAT_WORDS = {".mp4": "MP4: H.264 and AAC, plays everywhere", ".webm": "WebM: VP9 and Opus, open"}
MORE_FORMATS = {".mov": "MOV: for editing programs", ".mkv": "Matroska: holds pictures of any kind"}


@dataclass(frozen=True)
class Shown:
    """What a song's file shows. clip : its moving pictures, if it has any; ``still`` is one of them.  cover : may be null."""

    clip: Clip | None
    still: QImage
    cover: QImage


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


class VideoDialog(WritingDialog):
    """What a video shows, its shape and its file. ``order`` is the video decided on."""

    def __init__(
        self, document: Document, settings: Settings, marked: tuple[float, float] | None, shown: Shown, parent: QWidget | None = None
    ) -> None:  # fmt: skip
        super().__init__(document, settings, tr("Export a video"), parent)
        self.add_heading(tr("Video of “{0}”").format(self.version.name))
        self._clip, self._cover = shown.clip, shown.cover
        self._picture, self._picture_problem = QImage(), ""
        both = QHBoxLayout()
        both.setSpacing(24)
        self.preview = PreviewPane(shown.still)
        both.addWidget(self.preview, 0, Qt.AlignmentFlag.AlignTop)
        both.addLayout(self._form(marked), 1)
        self.column.addLayout(both)
        self.add_end(tr("Export video"))
        self.picture.setFocus()  # not the preview, which comes first
        self._follow_picture()
        wish = Task(
            tr("Looking at the desktop’s settings"),
            "desktop",
            lambda _: motion_is_reduced(),
            self._follow_wish,
            shown=False,
        )
        document.work.submit(wish)

    # -- building --------------------------------------------------------------------------------------------------

    def _form(self, marked: tuple[float, float] | None) -> QFormLayout:
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(12)
        self._add_picture(form)
        self._add_words(form)
        self._add_shape(form)
        self.add_part(form, marked)
        self._add_format(form)
        self.add_file(form, tr("File &name"))
        self.overwrite = QCheckBox(tr("&Replace a file that is already there"))
        self.overwrite.toggled.connect(self.refresh)
        form.addRow("", self.overwrite)
        return form

    def _add_picture(self, form: QFormLayout) -> None:
        self.picture = QComboBox()
        if self._clip is not None:
            self.picture.addItem(tr("The song’s own video"), OWN)
        self.picture.addItem(tr("A card with title and cover"), CARD)
        self.picture.addItem(tr("A picture of my own"), PICTURE)
        self.picture.currentIndexChanged.connect(self._follow_picture)
        self.another = QPushButton(tr("Choose …"))
        self.another.setAccessibleName(tr("Choose a picture"))
        self.another.setAutoDefault(False)
        self.another.clicked.connect(self._ask_for_picture)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.picture, 1)
        row.addWidget(self.another)
        label = QLabel(tr("&Picture"))
        label.setBuddy(self.picture)
        form.addRow(label, row)
        self.moving = QCheckBox(tr("Ribbons that move with the sound"))
        self.moving.setChecked(self.settings.movie_moving)
        self.moving.toggled.connect(self.refresh)
        form.addRow("", self.moving)
        self.follow = QCheckBox(tr("Pictures follow where time jumps or runs backwards"))
        self.follow.setChecked(True)
        self.follow.setToolTip(tr("Otherwise they run on as they were, and are not encoded again."))
        form.addRow("", self.follow)

    def _add_words(self, form: QFormLayout) -> None:
        self.title = QLineEdit(self.track.title)
        self.artist = QLineEdit(self.track.tags.first("artist"))
        self.words = QLineEdit(self.document.title_words())
        for label, line in ((tr("&Title"), self.title), (tr("&Artist"), self.artist), (tr("&Version"), self.words)):
            line.textChanged.connect(self.refresh)
            form.addRow(label, line)

    def _add_shape(self, form: QFormLayout) -> None:
        self.shape = SegmentedButton("Shape", SHAPE_WORDS, "after")
        self._shape = self.settings.movie_shape if self.settings.movie_shape in SHAPES else next(iter(SHAPES))
        self.shape.choose(self._shape)
        self.shape.chosen.connect(self._take_shape)
        self.lines = QComboBox()
        self.lines.setAccessibleName(tr("Size"))
        for size in SIZES:
            self.lines.addItem(f"{size}p", size)
        self.lines.setCurrentIndex(max(0, self.lines.findData(self.settings.movie_size)))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.shape)
        row.addWidget(self.lines, 1)
        label = QLabel(tr("S&hape"))
        label.setBuddy(self.lines)
        form.addRow(label, row)

    def _add_format(self, form: QFormLayout) -> None:
        self.format = QComboBox()
        for suffix, words in (FORMAT_WORDS if self._clip is None else FORMAT_WORDS | MORE_FORMATS).items():
            self.format.addItem(tr(words), suffix)
        preferred = self._clip.path.suffix.lower() if self._clip is not None else self.settings.movie_suffix
        self.format.setCurrentIndex(max(0, self.format.findData(preferred)))
        self.format.currentIndexChanged.connect(self.refresh)
        form.addRow(tr("F&ormat"), self.format)

    # -- choosing --------------------------------------------------------------------------------------------------

    def _take_shape(self, key: str) -> None:
        self._shape = key
        self.refresh()

    def _follow_picture(self) -> None:
        if self.picture.currentData() == PICTURE and self._picture.isNull() and not self._picture_problem:
            self._ask_for_picture()
        self.refresh()

    def _ask_for_picture(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Choose a picture"), self.folder.text(), PICTURE_FILTER)
        if name:
            self.take_picture(Path(name))
        elif self._picture.isNull():
            self.picture.setCurrentIndex(self.picture.findData(CARD))

    def take_picture(self, path: Path) -> None:
        """Show a picture file, once it has been read in the background."""
        self._picture_problem = tr("Reading {0} …").format(path.name)
        self.picture.setCurrentIndex(self.picture.findData(PICTURE))

        def done(read: tuple[QImage, str]) -> None:
            self._picture, self._picture_problem = read
            self.refresh()

        task = Task(tr("Reading a picture"), "look", lambda _: read_picture(path), on_done=done, shown=False)
        self.finished.connect(task.cancel)
        self.document.work.submit(task)
        self.refresh()

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

    def order(self) -> VideoOrder:
        """The video to be made."""
        name = safe_name(self.name.text()) + str(self.format.currentData())
        return VideoOrder(
            self.version, Path(self.folder.text()).expanduser() / name, self.overwrite.isChecked(), self.part.part(self.version.stages),
            self.card, card_size(self._shape, int(self.lines.currentData())), self.moving.isChecked(),
            OwnPictures(follow=self.follow.isChecked()),
        )  # fmt: skip

    def refresh(self) -> None:
        own = self.picture.currentData() == OWN
        for field in (self.title, self.artist, self.words, self.moving, self.shape, self.lines):
            field.setEnabled(not own)
        self.follow.setVisible(self._clip is not None)
        self.follow.setEnabled(own)
        self.another.setVisible(self.picture.currentData() == PICTURE)
        super().refresh()
        self.preview.show_pictures(self._preview())

    def _preview(self) -> CardPictures | None:
        card = self.card
        if card is None:
            return None
        across, down = SHAPES[self._shape]
        short = min(PREVIEW.width() / across, PREVIEW.height() / down) * min(across, down)
        return CardPictures(
            card, card_size(self._shape, int(short)), self.ribbons() if self.moving.isChecked() else None
        )

    def _follow_wish(self, still: bool) -> None:
        if still and isValid(self):  # the dialog may be gone by now
            self.preview.set_moving(False)

    def ribbons(self) -> RibbonSource | None:
        """What the ribbons show."""
        document = self.document
        made, peaks = document.arrangement(), document.peaks()
        if made is None or peaks is None or document.loaded is None:
            return None
        return RibbonSource(document.loaded.peaks, peaks, made.map, document.grid)

    def first_problem(self) -> str:
        if self._picture_problem and self.picture.currentData() == PICTURE:
            return self._picture_problem
        if not self.name.text().strip():
            return tr("Give the file a name.")
        order = self.order()
        try:
            check_video_target(order.target, overwrite=order.overwrite, sources=self.sources)
        except (LateSpinError, OSError) as error:
            return str(error)
        return ""

    def accept(self) -> None:
        """Remember the choices and close."""
        settings = self.settings
        settings.movie_shape, settings.movie_size = self._shape, int(self.lines.currentData())
        settings.movie_moving = self.moving.isChecked()
        if self._clip is None:
            settings.movie_suffix = str(self.format.currentData())
        super().accept()
