"""The about box: version and licences."""

from importlib import metadata, resources

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

from latespin import __version__
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import heading, quiet_label

ROW = "<tr><td>{} {}</td><td style='padding-left:16px'>{}</td></tr>"
LIBRARIES = (
    ("PySide6", "PySide6-Essentials", "Qt for Python, LGPL-3.0"), ("NumPy", "numpy", "BSD-3-Clause"), ("SciPy", "scipy", "BSD-3-Clause"),
    ("Numba", "numba", "BSD-2-Clause"), ("python-soundfile and libsndfile", "soundfile", "BSD-3-Clause and LGPL-2.1"),
    ("python-soxr and libsoxr", "soxr", "LGPL-2.1"), ("PyAV and FFmpeg", "av", "BSD-3-Clause and LGPL-2.1 or later"),
    ("Mutagen", "mutagen", "GPL-2.0 or later"), ("msgspec", "msgspec", "BSD-3-Clause"), ("Click", "click", "BSD-3-Clause"),
    ("platformdirs", "platformdirs", "MIT"),
)  # fmt: skip


class AboutBox(QDialog):
    """Version, licence, libraries and fonts."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("About Late Spin"))
        self.setMinimumSize(520, 460)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(8)
        column.addWidget(heading(tr("Late Spin {0}").format(__version__), 20))
        column.addWidget(quiet_label(tr("Altered versions of whole songs, at a level you can trust. MIT licence."), 13))
        text = QTextBrowser()
        text.setAccessibleName(tr("Licences and shortcuts"))
        text.setOpenLinks(False)
        text.setHtml(self._html())
        column.addWidget(text, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def _html(self) -> str:
        rows = "".join(ROW.format(title, metadata.version(package), licence) for title, package, licence in LIBRARIES)
        ofl = (resources.files("latespin.desktop.theme") / "fonts" / "OFL.txt").read_text(encoding="utf-8")
        return tr(
            "<p><b>Made with</b></p><table>{0}</table><p><b>Font</b>: Manrope</p><pre style='white-space:pre-wrap'>{1}</pre>"
        ).format(rows, ofl)
