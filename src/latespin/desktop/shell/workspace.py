"""The page of a song: its versions on the left; its waveforms, the stages and the open panel on the right."""

from PySide6.QtWidgets import QHBoxLayout, QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.panel_stack import PanelStack
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.hint_bar import HintBar
from latespin.desktop.shell.panel_area import PanelArea
from latespin.desktop.shell.stage_bar import StageBar
from latespin.desktop.shell.version_list import VersionList
from latespin.desktop.widgets.controls import column_of


class Workspace(QWidget):
    """Lays its parts out; they follow the document by themselves or are told by the window."""

    def __init__(self, document: Document, settings: Settings) -> None:
        super().__init__()
        self.version_list, self.panels = VersionList(document), PanelStack(document)
        self.waveform_view, self.stage_row = WaveformView(), StageBar()
        panel = column_of(HintBar(self.panels, document, settings), PanelArea(self.panels))
        panel.setContentsMargins(12, 0, 12, 0)
        right = column_of()
        right.addWidget(self.waveform_view, 1)
        right.addWidget(self.stage_row)
        right.addLayout(panel)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.version_list)
        row.addLayout(right, 1)
