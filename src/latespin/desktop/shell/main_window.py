"""The main window: builds its parts, those that a song needs right after the first picture, and connects them."""

import base64
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QByteArray, Qt, QTimer, QUrl
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent
from PySide6.QtWidgets import QAbstractButton, QMainWindow, QStackedWidget, QWidget

from latespin.demo import demo_session
from latespin.desktop.session.commands import CommandTable
from latespin.desktop.session.document import Document
from latespin.desktop.session.loading import load_kernels, prepare_kernels
from latespin.desktop.session.settings import Settings, save_settings
from latespin.desktop.session.shapes import shape_of
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.shell.commands.menus import add_menus, fill_menus
from latespin.desktop.shell.commands.play_commands import PlayCommands
from latespin.desktop.shell.confirmations import ask_about_change, ask_for_song, may_stop_exports
from latespin.desktop.shell.header import Header
from latespin.desktop.shell.solo_banner import SoloBanner
from latespin.desktop.shell.task_panel import TaskPanel
from latespin.desktop.shell.transport import Transport
from latespin.desktop.shell.welcome.opening import Opening
from latespin.desktop.shell.welcome.page import Welcome
from latespin.desktop.theme.theme import STAGES, undressed
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import column_of
from latespin.desktop.widgets.message_bar import Notice

if TYPE_CHECKING:  # loaded with the first song: the first window does not wait for it
    from latespin.desktop.session.audio_output import DeviceMaker
    from latespin.desktop.session.playback import Playback

SHIFTED_DIGITS = {
    Qt.Key.Key_Exclam: 1, Qt.Key.Key_At: 2, Qt.Key.Key_NumberSign: 3, Qt.Key.Key_Dollar: 4, Qt.Key.Key_Percent: 5,
}  # fmt: skip


class Window(QMainWindow):
    """One session in one window."""

    def __init__(self, settings: Settings, device_maker: "DeviceMaker | None" = None) -> None:
        super().__init__()
        self.settings = settings
        self.work = WorkQueue(self)
        self.document = Document(self.work, self)
        self.play = PlayCommands(self.document, settings, device_maker, self)
        self._shown_peaks: object = None
        self._whole = False
        self._build_frame()
        self.opening = Opening(self.welcome, self.document, settings, device_maker)
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        if settings.geometry:
            self.restoreGeometry(QByteArray(base64.b64decode(settings.geometry)))
        self._refresh_title()
        self._show_matched(settings.matched)
        self.opening.show()

    @property
    def playback(self) -> "Playback | None":
        """The playback, once a song is open."""
        return self.play.playback

    def run(self, command: str) -> None:
        """Run a command by its name."""
        self.commands.run(command)

    # -- building ---------------------------------------------------------------------------------------------------

    def _build_frame(self) -> None:
        self.menus = add_menus(self.menuBar())
        self.notice, self.solo_banner = Notice(), SoloBanner(self.document)
        self.header, self.transport, self.task_panel = Header(self.document), Transport(), TaskPanel(self.work)
        self.welcome, self.pages = Welcome(), QStackedWidget()
        self.pages.addWidget(self.welcome)
        self.transport.setEnabled(False)
        centre = QWidget()
        column = column_of(self.notice, self.header)
        centre.setLayout(column)
        column.addWidget(self.pages, 1)
        column.addWidget(self.task_panel)
        column.addWidget(self.solo_banner)
        column.addWidget(self.transport)
        self.setCentralWidget(centre)

    def finish_building(self) -> None:
        """Build what the first picture does not show. A second call does nothing."""
        if self._whole:
            return
        self._whole = True
        with undressed():
            self._build_workspace()
            self._build_commands()
        self._connect_document()
        self._connect_play()
        self._connect_widgets()
        self.rulers.show()
        self._refresh()
        self.workspace.resize(self.pages.size())
        self.workspace.grab()  # dressed and laid out now, not while the first song is loading

    def _build_workspace(self) -> None:
        from latespin.desktop.shell.workspace import Workspace

        self.workspace = Workspace(self.document, self.settings)
        self.version_list, self.panels = self.workspace.version_list, self.workspace.panels
        self.waveform_view, self.stage_row = self.workspace.waveform_view, self.workspace.stage_row
        self.pages.addWidget(self.workspace)

    def _build_commands(self) -> None:
        from latespin.desktop.session.housekeeping import Housekeeping
        from latespin.desktop.shell.commands.clipboard_commands import ClipboardCommands
        from latespin.desktop.shell.commands.file_commands import FileCommands
        from latespin.desktop.shell.commands.panel_commands import PanelCommands
        from latespin.desktop.shell.commands.version_commands import VersionCommands
        from latespin.desktop.shell.commands.view_commands import ViewCommands
        from latespin.desktop.shell.controllers import Controllers
        from latespin.desktop.shell.finder.finder_commands import FinderCommands
        from latespin.desktop.shell.menus.device_menu import DeviceMenu
        from latespin.desktop.shell.menus.language_menu import LanguageMenu
        from latespin.desktop.shell.menus.ruler_menus import RulerMenus

        document, settings = self.document, self.settings
        self.files = FileCommands(document, settings, lambda: self.play.marked, self)
        self.versions = VersionCommands(document, self.version_list, settings, self)
        self.devices, self.languages = DeviceMenu(document, self.play, settings, self), LanguageMenu(settings, self)
        self.rulers = RulerMenus(settings, self.waveform_view, self)
        self.view = ViewCommands(document, settings, self.waveform_view, self.rulers, self.play.place, self)
        self.controllers = Controllers(document, settings, self.waveform_view, self.panels, self.play, self)
        self.panel_commands = PanelCommands(self.panels, self.controllers, self)
        moments = self.controllers.moments
        self.clipboard = ClipboardCommands(document, self.panel_commands, self.panels.colour, moments, self)
        moments.command_wanted.connect(self.run)
        self.finder = FinderCommands(self)
        own = (self.files, self.versions, self.clipboard, self.play, self.panel_commands, self.finder, self.view)
        self.commands = CommandTable(*own, *self.controllers.sources)
        menus, self.actions_by_name = self.menus, fill_menus(self, self.menus, self.commands)
        self.recent_menu = menus["&File"].addMenu(tr("Open &recent"))
        menus["&File"].insertMenu(self.actions_by_name["save"], self.recent_menu)
        self._show_recent()
        menus["&Moments"].insertMenu(self.actions_by_name["audition"], self.panels.moments.kinds_menu(self))
        menus["&Beats"].insertMenu(self.actions_by_name["as_read"], self.rulers.snaps)
        menus["V&iew"].insertMenu(self.actions_by_name["evening"], self.rulers.rates)
        menus["&Play"].addMenu(self.devices.menu)
        menus["V&iew"].addMenu(self.languages.menu)
        self.housekeeping = Housekeeping(self.work, self)

    def _connect_document(self) -> None:
        document = self.document
        document.session_changed.connect(self._refresh)
        document.measured_changed.connect(self._refresh)
        document.reading_changed.connect(self._refresh)
        document.track_changed.connect(self._show_track)
        document.problem.connect(lambda text: self.notice.say(text, problem=True))
        document.notice.connect(lambda text: self.notice.say(text, problem=False))
        document.song_wanted.connect(lambda found: ask_for_song(self, document, found))
        document.song_differs.connect(lambda found: ask_about_change(self, document, found))

    def _connect_play(self) -> None:
        play, transport = self.play, self.transport
        play.started.connect(self._show_playback)
        play.marked_changed.connect(self._show_marked)
        play.matched_changed.connect(self._show_matched)
        play.clicking_changed.connect(self._show_clicking)
        transport.play_wanted.connect(play.play)
        transport.start_wanted.connect(play.to_start)
        transport.loudest_wanted.connect(play.to_loudest)
        transport.loop_wanted.connect(play.set_looping)
        transport.side_wanted.connect(play.set_side)
        transport.matched_wanted.connect(play.set_matched)
        transport.volume_wanted.connect(play.set_volume)
        self.waveform_view.seek_wanted.connect(play.seek)
        self.waveform_view.loop_changed.connect(play.mark)
        self.panels.colour.solo_wanted.connect(play.set_solo)
        self.solo_banner.ended.connect(lambda: play.set_solo(None))
        self.controllers.connect_play(play)

    def _connect_widgets(self) -> None:
        own = (self.files, self.play, self.view, self.devices, self.languages, self.clipboard)
        for source in (*own, *self.controllers.speaking):
            source.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        results = self.controllers.results
        results.refused.connect(lambda text: self.notice.say(text, problem=True))
        for source in (self.files, results):
            source.offered.connect(self._offer)
        for widget in (self.header, self.panels.grid):
            widget.asked.connect(results.ask)
        self.panels.time.way_typed.connect(results.ask)
        self.controllers.wanted.connect(self.run)
        self.controllers.panel_wanted.connect(self.open_panel)
        self.controllers.recipes.listed.connect(self.versions.offer_recipes)
        self.panel_commands.opened.connect(self.open_panel)
        self.welcome.open_wanted.connect(self.files.open)
        self.welcome.demo_wanted.connect(lambda: self.files.open_file(demo_session()))
        self.welcome.recent_wanted.connect(lambda name: self.files.open_file(Path(name)))
        self.files.recent_changed.connect(self._show_recent)
        for source in (self.files, self.controllers.range_file):
            source.exported.connect(self.version_list.mark_exported)
        self.files.quit_wanted.connect(self.close)
        self.files.many_given.connect(self.controllers.batch.open_with)
        self.view.theme_changed.connect(self._restyle)
        self.rulers.changed.connect(self._show_rulers)
        self.header.beats_wanted.connect(lambda: self.open_panel("grid"))
        self.version_list.new_wanted.connect(self.versions.add)
        self.versions.hear_wanted.connect(self.play.hear)
        self.version_list.export_wanted.connect(self.files.export)
        self.stage_row.chosen.connect(self.open_panel)
        self.stage_row.switched.connect(self.versions.switch_stage)

    def finish_loading(self) -> None:
        """Build and load what the first picture did not wait for."""
        self.finish_building()
        self.versions.offer_recipes()
        self.work.submit(Task(tr("Loading"), "load", lambda _: load_kernels(), shown=False))
        self.work.submit(Task(tr("Preparing the sound, once on this machine"), "prepare", prepare_kernels, shown=False))

    # -- showing ----------------------------------------------------------------------------------------------------

    def _show_playback(self, playback: "Playback") -> None:
        transport = self.transport
        playback.place_changed.connect(self._show_place)
        playback.playing_changed.connect(transport.show_playing)
        playback.meters_changed.connect(transport.meters.show_meters)
        playback.guarded.connect(transport.lamp.show_reduction)
        playback.device_changed.connect(transport.show_device)
        playback.side_changed.connect(transport.side.choose)
        playback.solo_changed.connect(self.panels.colour.show_solo)
        playback.solo_changed.connect(self.solo_banner.show_solo)
        transport.volume.setValue(round(self.settings.volume_percent))

    def _show_track(self) -> None:
        loaded = self.document.loaded
        if loaded is None:
            return
        self.play.start_playback()
        self.play.mark(None)
        self.opening.leave_to(self.play)
        self._shown_peaks = None
        self.waveform_view.show_track(loaded.peaks, loaded.track.rate)
        self.settings.remember_file(self.document.path or loaded.track.path, shape_of(loaded.peaks))
        self._show_recent()

    def _refresh(self) -> None:
        document, loaded = self.document, self.document.loaded
        self._show_stages()
        self.pages.setCurrentWidget(self.welcome if loaded is None else self.workspace)
        self.transport.setEnabled(loaded is not None)
        for command in self.commands.commands:
            if command.menu:
                self.actions_by_name[command.ident].setEnabled(not command.song or loaded is not None)
        self._refresh_undo()
        self._refresh_title()
        self.controllers.tempo.show_curve(self.panel_commands.panel)
        for name in ("evening", "daylight"):
            self.actions_by_name[name].setChecked(self.settings.theme.lower() == name)
        self._show_matched(self.settings.matched)
        time_map, peaks = document.time_map(), document.peaks()
        if time_map is not None and peaks is not None and (time_map, peaks) != self._shown_peaks:
            self._shown_peaks = time_map, peaks
            self.waveform_view.show_version(time_map, peaks, measured=document.measured() is not None)

    def _show_stages(self) -> None:
        document = self.document
        self.stage_row.show_stages(document.stages, self.panel_commands.panel, document.layout, document.problems())

    def _refresh_undo(self) -> None:
        labels = {"undo": (tr("&Undo"), self.document.undo_label), "redo": (tr("&Redo"), self.document.redo_label)}
        for name, (words, label) in labels.items():
            self.actions_by_name[name].setText(f"{words} {label}".strip())
            self.actions_by_name[name].setEnabled(bool(label))

    def _refresh_title(self) -> None:
        document = self.document
        name = document.path.stem if document.path else document.loaded.track.title if document.loaded else ""
        self.setWindowTitle(tr("{0}[*] – Late Spin").format(name) if name else tr("Late Spin"))
        self.setWindowModified(document.modified)

    def _show_place(self, side: str, seconds: float) -> None:
        self.waveform_view.set_playhead(side, seconds)
        time_map, loaded = self.document.time_map(), self.document.loaded
        if time_map is None or loaded is None:
            return
        rate = loaded.track.rate
        self._show_effect_at(side, seconds)
        before = time_map.before_at(seconds * rate) if side == "after" else seconds * rate
        self.panels.time.curve.show_place(self.document, before / loaded.track.frames)
        self.controllers.tempo.show_place(before / rate)
        self.controllers.compare.follow(before / rate)
        grid = self.document.grid
        bar = grid.words_at((time_map.clock_at(seconds * rate) if side == "after" else before) / rate) if grid else ""
        self.transport.show_place(before / rate, seconds if side == "after" else time_map.after_at(before) / rate, bar)

    def _show_effect_at(self, side: str, seconds: float) -> None:
        """Move the plot of the chosen effect on."""
        player, made = self.play.player, self.document.arrangement()
        if self.panel_commands.panel == "colour" and player is not None and made is not None:
            after = seconds * player.rate if side == "after" else made.map.after_at(seconds * player.rate)
            self.panels.colour.show_place(
                round(made.song_frame_at(after)), player.gain_history(self.panels.colour.chosen)
            )

    def _show_marked(self, marked: tuple[float, float] | None, looping: bool) -> None:
        self.transport.loop.setChecked(looping)
        self.actions_by_name["loop"].setChecked(looping)
        self.waveform_view.set_loop(marked)
        self.controllers.tempo.show_marked(marked)

    def _show_matched(self, on: bool) -> None:
        self.transport.matched.setChecked(on)
        if self._whole:
            self.actions_by_name["matched"].setChecked(on)

    def _show_clicking(self, on: bool) -> None:
        self.actions_by_name["click"].setChecked(on)
        self.panels.grid.click.setChecked(on)

    def _show_rulers(self) -> None:
        self.panels.grid.snap.setChecked(self.settings.snapping)
        self.actions_by_name["snap"].setChecked(self.settings.snapping)
        self.actions_by_name["bar_rulers"].setChecked(self.settings.rulers_in_bars)

    def _show_recent(self) -> None:
        self.recent_menu.clear()
        for name in self.settings.recent:
            action = QAction(name.replace("&", "&&"), self.recent_menu)
            action.triggered.connect(lambda _=False, n=name: self.files.open_file(Path(n)))
            self.recent_menu.addAction(action)
        self.recent_menu.setEnabled(bool(self.settings.recent))
        self.opening.show()

    def _offer(self, sentence: str, words: str, do: object) -> None:
        """Show a sentence, with a button where there is something to do about it."""
        self.notice.say(sentence, problem=False, choice=(words, do) if callable(do) else None)

    def _restyle(self) -> None:
        for part in (self.header, self.version_list, self.transport, self.panels):
            part.restyle()
        self.version_list.refresh_waveforms()
        self._refresh()
        self.update()

    def open_panel(self, name: str) -> None:
        """Show a stage's panel, or ``grid`` for beats and bars."""
        self.panel_commands.show(name)
        self._show_stages()

    # -- events -----------------------------------------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return presses the focused button; digits open panels, with Shift they switch stages on and off."""
        focused = self.focusWidget()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and isinstance(focused, QAbstractButton):
            focused.click()
            return
        shifted = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        digit = event.key() - Qt.Key.Key_0
        if shifted:
            digit = SHIFTED_DIGITS.get(Qt.Key(event.key()), digit)
        if not (1 <= digit <= len(STAGES) and self.document.loaded):
            super().keyPressEvent(event)
        elif shifted:
            name = STAGES[digit - 1]
            self.versions.switch_stage(name, not getattr(self.document.stages, name).on)
        else:
            self.open_panel(STAGES[digit - 1])

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(url.toLocalFile()) for url in event.mimeData().urls() if QUrl(url).isLocalFile()]
        if files:
            event.acceptProposedAction()
            QTimer.singleShot(0, self, lambda: self.files.take_dropped(files))

    def closeEvent(self, event: QCloseEvent) -> None:
        self.finish_building()
        self.controllers.playing.finish()
        running = len(self.work.active("export")) + len(self.work.active("set"))
        if not self.files.may_leave() or not may_stop_exports(self, running):
            event.ignore()
            return
        self.settings.geometry = base64.b64encode(self.saveGeometry().data()).decode("ascii")
        save_settings(self.settings)
        self.play.close()
        self.opening.listening.end()
        self.work.close()
        self.controllers.close()
        event.accept()
