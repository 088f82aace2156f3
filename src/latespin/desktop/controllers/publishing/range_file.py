"""Dragging the marked range out of the window: it is written beside the other exports, and hangs from the pointer when it is there."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.session.document import Document
from latespin.desktop.session.marked_excerpt import excerpt_of
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.desktop.widgets.file_drag import drag_file
from latespin.errors import LateSpinError
from latespin.model.values.file_names import safe_name
from latespin.model.version import Version
from latespin.paths import exists

FADE_SECONDS = 0.005  # enough that nothing clicks where the range was cut


class RangeFileController(QObject):
    """marked : the range, seconds of the song, or None.  exported : a version part of which has been written."""

    exported = Signal(object)
    message = Signal(str, bool)

    def __init__(
        self, document: Document, settings: Settings, view: WaveformView,
        marked: Callable[[], tuple[float, float] | None], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._settings, self._view, self._marked = document, settings, view, marked
        view.range_handle.dragged_out.connect(self.write)

    def write(self) -> None:
        """Write the range of the chosen version, as the last export was written, and let it be dragged."""
        from latespin.desktop.controllers.publishing.export import export_task
        from latespin.desktop.dialogs.export import ExportOrder
        from latespin.desktop.dialogs.format_chooser import FormatChooser
        from latespin.render.export.export import check_export_target

        document, marked, version = self._document, self._marked(), self._document.version
        if document.loaded is None or version is None or marked is None:
            return
        part = excerpt_of(document, version.stages, marked, FADE_SECONDS)
        kind = FormatChooser(self._settings)
        order = ExportOrder(
            version, self._target(version, marked, kind.suffix), kind.encoding, overwrite=False, excerpt=part
        )
        try:
            check_export_target(order.target, order.encoding, overwrite=False, sources=document.sources)
        except (LateSpinError, OSError) as error:
            self.message.emit(str(error), True)
            return
        task = export_task(
            document.loaded.readers, order, document.sources, lambda: self._written(version, order.target)
        )
        document.work.submit(task)
        self.message.emit(
            tr("{0} is being written. Keep the button pressed, or drag it from the list below.").format(
                order.target.name
            ),
            False,
        )

    def _target(self, version: Version, marked: tuple[float, float], suffix: str) -> Path:
        """A file that is not there yet, beside the last export or the song."""
        assert self._document.loaded is not None
        track = self._document.loaded.track
        folder = self._settings.folder_for(track.path)
        start, end = (f"{round(seconds) // 60}m{round(seconds) % 60:02d}s" for seconds in marked)
        stem = safe_name(f"{track.title} - {version.name} {start}–{end}")
        targets = (folder / f"{stem}{number}{suffix}" for number in ("", *(f" {i}" for i in range(2, 1000))))
        return next((target for target in targets if not exists(target)), folder / f"{stem}{suffix}")

    def _written(self, version: Version, file: Path) -> None:
        self.exported.emit(version)
        QTimer.singleShot(0, self, lambda: self._hang(file))  # dragging takes events until the button is released

    def _hang(self, file: Path) -> None:
        """Let the file hang from the pointer, if the handle is still held."""
        if self._view.range_handle.held:
            drag_file(self._view, file)
            self._view.let_go()
