"""Correcting sections: what is done on their bands, in menus and with keys becomes undo steps."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import QObject, QPoint, Qt, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from latespin.analysis.results import SectionKind
from latespin.desktop.canvas.layers.section_layer import SectionBand
from latespin.desktop.canvas.name_editor import NameEditor
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.timing.positions import Position, snapped_place
from latespin.model.timing.song_sections import (
    KIND_NAMES,
    Sections,
    joined,
    named,
    number_at,
    of_kind,
    say_section,
    split,
    starts_of,
    with_start,
)

SECTIONS = "&Beats"


class SectionController(QObject):
    """``place`` gives the playhead in seconds of Before, and whether the song plays."""

    message = Signal(str, bool)
    range_wanted = Signal(object)  # (start, end), seconds of Before

    def __init__(
        self, document: Document, waveform_view: WaveformView, place: Callable[[], tuple[float, bool]], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._document, self._view, self._place, self._window = document, waveform_view, place, parent
        self._editor = NameEditor(waveform_view)
        self._editor.named.connect(self._rename)
        layer = waveform_view.sections
        layer.moved.connect(self._move)
        layer.drag_finished.connect(document.end_drag)
        layer.rename_wanted.connect(self.edit_name)
        waveform_view.section_menu_wanted.connect(self.open_menu)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    @property
    def sections(self) -> Sections:
        """The sections as they are: corrected, or as detected."""
        return self._document.sections

    def show(self) -> None:
        """Draw the sections on Before."""
        loaded = self._document.loaded
        if loaded is None:
            self._view.sections.show(())
            return
        starts = [*starts_of(self.sections, self._document.grid), loaded.facts.seconds]
        self._view.sections.show(
            tuple(
                SectionBand(
                    starts[i], starts[i + 1], part.name or tr(KIND_NAMES[part.kind]), "" if part.name else part.label, part.kind
                )
                for i, part in enumerate(self.sections)
            )
        )  # fmt: skip

    def _here(self) -> int:
        return number_at(self.sections, self._place()[0], self._document.grid)

    def _put(self, label: str, change: Callable[[Sections, float], Sections], merge: str = "") -> None:
        """One step: the sections become others, unless that cannot be. The change is given the song's seconds, too."""
        loaded = self._document.loaded
        if loaded is None:
            return
        try:
            changed = change(self.sections, loaded.facts.seconds)
        except LateSpinError as error:
            self.message.emit(str(error), False)
            return
        self._document.edit_session(label, replace(self._document.session, sections=changed), merge)

    # -- commands --------------------------------------------------------------------------------------------

    @command("split_section", "S&plit the section here", menu=SECTIONS, keys="Ctrl+Shift+B", group=5)
    def split(self) -> None:
        """Begin a section at the beat nearest to the playhead."""
        seconds, grid = self._place()[0], self._document.grid
        if grid is not None:
            seconds = float(grid.seconds_of(round(float(grid.number_at(seconds)))))
        at = snapped_place(seconds, grid)
        self._put(tr("Split section"), lambda parts, length: split(parts, at, grid, length))

    @command("join_section", "&Join the section with the one before", menu=SECTIONS, group=5)
    def join(self) -> None:
        """Make the section at the playhead part of the one before."""
        self._join(self._here())

    @command("rename_section", "&Rename the section …", menu=SECTIONS, group=5)
    def rename(self) -> None:
        """Type another name for the section at the playhead."""
        self.edit_name(self._here())

    @command("mark_section", "Mar&k the section as the range", menu=SECTIONS, group=5)
    def mark(self) -> None:
        """Mark the section at the playhead, to loop, export or change it."""
        self._mark(self._here())

    @command("sections_as_read", "Use the detected secti&ons", menu=SECTIONS, group=5)
    def as_read(self) -> None:
        """Discard corrections of the sections."""
        self._put(tr("Detected sections"), lambda _, __: ())

    # -- on the bands ----------------------------------------------------------------------------------------

    def _join(self, number: int) -> None:
        self._put(tr("Join sections"), lambda parts, _: joined(parts, number))

    def _mark(self, number: int) -> None:
        bands = self._view.sections.bands
        if number < len(bands):
            self.range_wanted.emit((bands[number].start, bands[number].end))

    def _move(self, number: int, seconds: float, snapped: bool) -> None:
        grid = self._document.grid
        place = snapped_place(seconds, grid) if snapped else Position(seconds=round(seconds, 4))
        self._put(
            tr("Move section"),
            lambda parts, length: with_start(parts, number, place, grid, length),
            f"section {number}",
        )

    def edit_name(self, number: int) -> None:
        """Type another name over the band of a section."""
        if number < len(self.sections):
            rect = self._view.on_widget(self._view.sections.rect(number))
            self._editor.edit(number, say_section(self.sections[number]), rect)

    def _rename(self, number: int, name: str) -> None:
        if number < len(self.sections) and name.strip() != say_section(self.sections[number]):
            self._put(tr("Rename section"), lambda parts, _: named(parts, number, name))

    def open_menu(self, number: int, at: QPoint) -> None:
        """Offer what can be done with a section."""
        menu = self.menu(number)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)

    def menu(self, number: int) -> QMenu:
        """The menu of a section: its kind, and what can be done with it."""
        menu = QMenu(self._window)
        group = QActionGroup(menu)
        for kind, title in KIND_NAMES.items():
            action = QAction(tr(title) if title else tr("No kind"), group)
            action.setCheckable(True)
            action.setChecked(self.sections[number].kind == kind and not self.sections[number].name)
            action.triggered.connect(lambda _=False, kind=kind: self._set_kind(number, kind))
            menu.addAction(action)
        menu.addSeparator()
        menu.addAction(tr("Rename …"), lambda: self.edit_name(number))
        menu.addAction(tr("Split at the playhead"), self.split)
        menu.addAction(tr("Join with the one before"), lambda: self._join(number)).setEnabled(number > 0)
        menu.addAction(tr("Mark as the range"), lambda: self._mark(number))
        menu.addSeparator()
        menu.addAction(tr("Use the detected sections"), self.as_read).setEnabled(bool(self._document.session.sections))
        return menu

    def _set_kind(self, number: int, kind: SectionKind) -> None:
        self._put(tr("Kind of section"), lambda parts, _: of_kind(parts, number, kind))
