"""The range of a version to export (all of it, the marked range, or a passage the program finds) and its fades."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.session.marked_excerpt import excerpt_of
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.errors import Unusable
from latespin.language import localised
from latespin.model.values.units import clock, number
from latespin.model.version import Stages
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

WHOLE, MARKED, LOUDEST, TYPICAL = "whole", "marked", "loudest", "typical"
LENGTHS = {"15": ("15 s", "About 15 seconds"), "30": ("30 s", "About 30 seconds"), "60": ("60 s", "About a minute")}
FADES = (0.0, 0.1, 0.5, 1.0, 2.0, 5.0)


class PartChooser(QWidget):
    """A list of ranges, the length of passages, and fades. document : None for many songs.  marked : the marked range in seconds of the song, or None."""

    changed = Signal()

    def __init__(
        self, document: Document | None, marked: tuple[float, float] | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._document, self._marked, self._length = document, marked, "30"
        self.what = QComboBox()
        self.what.setAccessibleName(tr("Range"))
        self.what.addItem(tr("The whole version"), WHOLE)
        if marked is not None:
            self.what.addItem(tr("The marked range"), MARKED)
        self.what.addItem(tr("The loudest passage"), LOUDEST)
        self.what.addItem(tr("The most typical passage"), TYPICAL)
        self.lengths = SegmentedButton("Length of the passage", LENGTHS, "after")
        self.lengths.choose(self._length)
        self.lengths.chosen.connect(self._take_length)
        self.fade = QComboBox()
        for seconds in FADES:
            self.fade.addItem(tr("{0} s").format(localised(f"{seconds:g}")) if seconds else tr("None"), seconds)
        self.fade.setCurrentIndex(FADES.index(0.5))
        self.fade.setAccessibleName(tr("Fades at both ends"))
        self.fade.setToolTip(tr("How long the excerpt fades in and out."))
        self._fades = QLabel(tr("Fa&des"))
        self._fades.setBuddy(self.fade)
        self.says = quiet_label("", 12)
        self.says.setWordWrap(True)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.what, 1)
        row.addWidget(self.lengths)
        row.addWidget(self._fades)
        row.addWidget(self.fade)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(row)
        column.addWidget(self.says)
        self.setFocusProxy(self.what)
        self.what.currentIndexChanged.connect(self._follow)
        self.fade.currentIndexChanged.connect(self._follow)
        self._show()

    def _take_length(self, key: str) -> None:
        self._length = key
        self._follow()

    def _follow(self) -> None:
        self._show()
        self.changed.emit()

    def _show(self) -> None:
        what = self.what.currentData()
        self.lengths.setVisible(what in (LOUDEST, TYPICAL))
        self.fade.setVisible(what != WHOLE)
        self._fades.setVisible(what != WHOLE)
        self.says.setText(self._in_words())
        self.says.setVisible(what != WHOLE)

    def part(self, stages: Stages) -> Excerpt | ExcerptSearch | None:
        """The part of a version; None for all of it."""
        what, fade = self.what.currentData(), float(self.fade.currentData())
        if what == WHOLE:
            return None
        if what == MARKED:
            return self._of_marked(stages, fade)
        return ExcerptSearch(what, float(self._length), fade, fade)

    def _of_marked(self, stages: Stages, fade: float) -> Excerpt | None:
        if self._document is None or self._marked is None:
            return None
        return excerpt_of(self._document, stages, self._marked, fade)

    def _in_words(self) -> str:
        """Where the part of the chosen version is, as far as that is known."""
        if self._document is None:
            return _found_later()
        stages, measured = self._document.stages, self._document.measured()
        try:
            found = self.part(stages)
            if isinstance(found, ExcerptSearch):
                arrangement, layout = self._document.arrangement(), self._document.layout
                if measured is None or arrangement is None or layout is None:
                    return _found_later()
                found = found.found(measured.facts.loudness, arrangement, layout)
        except Unusable as error:
            return str(error)
        if found is None:
            return ""
        length = number(found.stop - found.start, 1)
        return tr("{0} to {1} of the version, {2} s").format(clock(found.start, 1), clock(found.stop, 1), length)


def _found_later() -> str:
    return tr("It is found once the version is rendered, on bar lines where the song has them.")
