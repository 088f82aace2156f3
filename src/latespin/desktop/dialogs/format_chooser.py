"""Choosing a file's format, its quality and its sample rate; remembered for each format."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QWidget

from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.language import localised
from latespin.media.audio.formats import BITRATES, FORMATS, LOSSLESS_RATES, Encoding

FORMAT_WORDS = {
    ".flac": "FLAC: lossless, small", ".wav": "WAV: lossless, opens everywhere", ".mp3": "MP3: small, plays everywhere",
    ".m4a": "M4A (AAC, ALAC): phones, tablets", ".ogg": "Ogg Vorbis: small, open", ".opus": "Opus: smallest, open",
}  # fmt: skip
DEPTH_WORDS = {"16": "16 bit, dithered", "24": "24 bit, dithered", "float": "32 bit floating point"}
AS_THE_SONG = 0


class FormatChooser(QWidget):
    """Three lists in a row: format, quality (bits or bitrate) and sample rate."""

    changed = Signal()

    def __init__(self, settings: Settings, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        self.format, self.quality, self.rate = QComboBox(), QComboBox(), QComboBox()
        self.format.setAccessibleName(tr("Format"))
        self.quality.setAccessibleName(tr("Quality"))
        self.rate.setAccessibleName(tr("Sample rate"))
        for field, stretch in ((self.format, 5), (self.quality, 4), (self.rate, 3)):
            field.setMinimumContentsLength(6)
            field.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            row.addWidget(field, stretch)
        for suffix, words in FORMAT_WORDS.items():
            self.format.addItem(tr(words), suffix)
        self.format.setCurrentIndex(max(0, self.format.findData(settings.export_suffix)))
        self._offer()
        self.format.currentIndexChanged.connect(self._offer)
        self.format.currentIndexChanged.connect(self.changed)
        self.quality.currentIndexChanged.connect(self.changed)
        self.rate.currentIndexChanged.connect(self.changed)
        self.setFocusProxy(self.format)

    def _offer(self) -> None:
        """What the format can be, as it was chosen for it last."""
        kind = FORMATS[self.suffix]
        for field in (self.quality, self.rate):
            field.blockSignals(True)
            field.clear()
        for depth in kind.subtypes:
            if depth:
                words = tr(DEPTH_WORDS[depth])
                encoding = Encoding(depth=depth)  # type: ignore[arg-type]
                self.quality.addItem(
                    tr("Lossless (ALAC), {0}").format(words) if "" in kind.subtypes else words, encoding
                )
            else:
                self.quality.addItem(tr("Best, about {0} kbit/s").format(kind.best_kbps), Encoding())
                for kbps in BITRATES:
                    self.quality.addItem(tr("{0} kbit/s").format(kbps), Encoding(kbps=kbps))
        self.rate.addItem(tr("As the song"), AS_THE_SONG)
        for rate in LOSSLESS_RATES:
            if not kind.rates or rate in kind.rates:
                self.rate.addItem(tr("{0} kHz").format(localised(f"{rate / 1000:g}")), rate)
        quality, rate = self._settings.export_encodings.get(self.suffix, ("", AS_THE_SONG))
        self.quality.setCurrentIndex(max(0, self.quality.findText(quality)))
        self.rate.setCurrentIndex(max(0, self.rate.findData(rate)))
        for field in (self.quality, self.rate):
            field.blockSignals(False)

    @property
    def suffix(self) -> str:
        """The ending of the chosen format."""
        return str(self.format.currentData())

    @property
    def encoding(self) -> Encoding:
        """How files are to be written."""
        chosen: Encoding = self.quality.currentData()
        return Encoding(chosen.depth, chosen.kbps, self.rate.currentData() or None)

    def remember(self) -> None:
        """Keep the choice for the next time."""
        self._settings.export_suffix = self.suffix
        kept = self.quality.currentText(), int(self.rate.currentData())
        self._settings.export_encodings = {**self._settings.export_encodings, self.suffix: kept}
