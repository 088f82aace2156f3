"""The ending on the After waveform, and hearing it."""

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.ending_panel import EndingPanel
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.model.arranging.arrangement import ending_place
from latespin.model.moments.endings import NoEnding, ending_info
from latespin.model.values.kinds import kind_of

BARS_BEFORE = 2


class EndingController(QObject):
    """Carries what a hand does on the waveform to the panel, and what the panel asks to be heard to the window."""

    audition_wanted = Signal(float)  # seconds of Before to play from
    message = Signal(str, bool)

    def __init__(self, document: Document, waveform_view: WaveformView, panel: EndingPanel, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._view = document, waveform_view
        self._editing = False
        panel.audition_wanted.connect(self.audition)
        panel.refused.connect(lambda text: self.message.emit(text, True))
        waveform_view.end.moved.connect(panel.move_to)
        waveform_view.end.drag_finished.connect(document.end_drag)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    def edit(self, on: bool) -> None:
        """True while the panel is open, so that the end can be dragged."""
        self._editing = on
        self.show()

    def show(self) -> None:
        """Draw the end on the waveforms."""
        made, layout = self._document.arrangement(), self._document.layout
        if made is None or layout is None or isinstance(made.close.way, NoEnding) or made.close.place is None:
            self._view.end.show(None, 0.0, 0.0, "", editing=False)
            return
        close, rate = made.close, layout.rate
        until = made.map.after_frames / rate + self._document.tail_seconds()
        place = made.close.place.at(layout.grid)
        title = translated(ending_info(kind_of(close.way))).title
        self._view.end.show(close.at / rate, until, place, title, editing=self._editing)

    def audition(self) -> None:
        """Play from two bars before the end."""
        layout = self._document.layout
        place = ending_place(self._document.stages, layout) if layout else None
        if place is None or layout is None:
            self.message.emit(tr("This version ends as the track does. Choose an ending in its panel (4)."), False)
            return
        bar = layout.grid.bar_seconds if layout.grid else 2.0
        self.audition_wanted.emit(max(0.0, place.at(layout.grid) - BARS_BEFORE * bar))
