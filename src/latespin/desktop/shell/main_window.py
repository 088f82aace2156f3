"""The main window: puts the parts together and answers what they ask for."""

import base64
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QByteArray, Qt, QTimer, QUrl
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QHBoxLayout,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.demo import demo_session
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.controllers.automation import AutomationController
from latespin.desktop.controllers.autosave import AutosaveController
from latespin.desktop.controllers.batch import BatchController
from latespin.desktop.controllers.beats import BeatsController
from latespin.desktop.controllers.compare import CompareController
from latespin.desktop.controllers.effects import EffectController
from latespin.desktop.controllers.ending import EndingController
from latespin.desktop.controllers.goal_seek import apply, kept_mode, more_allowance, side_effects
from latespin.desktop.controllers.level import LevelController
from latespin.desktop.controllers.markers import MarkerController
from latespin.desktop.controllers.moments import MomentController
from latespin.desktop.controllers.recipes import RecipeController
from latespin.desktop.controllers.tempo import TempoController
from latespin.desktop.panels.panel_stack import PanelStack
from latespin.desktop.session.document import Document
from latespin.desktop.session.housekeeping import Housekeeping
from latespin.desktop.session.loading import load_kernels
from latespin.desktop.session.settings import Settings, save_settings
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.shell.command_handlers import CommandedWindow
from latespin.desktop.shell.commands import COMMANDS, build_menus
from latespin.desktop.shell.confirmations import ask_about_change, ask_for_song, may_leave, may_stop_exports
from latespin.desktop.shell.header import Header
from latespin.desktop.shell.ruler_menus import RulerMenus
from latespin.desktop.shell.stage_bar import StageRow
from latespin.desktop.shell.task_panel import WorkPanel
from latespin.desktop.shell.transport import Transport
from latespin.desktop.shell.version_list import VersionList
from latespin.desktop.shell.welcome import Welcome
from latespin.desktop.theme.theme import STAGES
from latespin.desktop.widgets.message_bar import Notice
from latespin.model.values.units import number
from latespin.model.version import UNTOUCHED, Stages

SPEED_ASKED = ("tempo", "length", "total", "percent")
OF_MOMENTS = ("cover_markers", "next_moment", "previous_moment", "copy", "paste")
OF_MARKERS = ("mark", "mark_end", "unmark_markers", "import_markers", "export_markers")


class Window(CommandedWindow):
    """One session in one window."""

    def __init__(self, settings: Settings, device_maker: object = None) -> None:
        super().__init__()
        self.settings = settings
        self._device_maker = device_maker
        self.work = WorkQueue(self)
        self.document = Document(self.work, self)
        self.playback: "Playback | None" = None  # type: ignore[name-defined]  # noqa: F821, UP037
        self._bench = "time"
        self._marked: tuple[float, float] | None = None
        self._shown_peaks: object = None
        self._asked_loudness = False
        self._build()
        self._connect()
        self.ruler_menus.show()
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        if settings.geometry:
            self.restoreGeometry(QByteArray(base64.b64decode(settings.geometry)))
        self._refresh()

    # -- building -----------------------------------------------------------------------------------------------

    def _build(self) -> None:
        self.notice = Notice()
        self.header, self.version_list = Header(self.document), VersionList(self.document)
        self.waveform_view, self.stage_row = WaveformView(), StageRow()
        self.panels, self.transport = PanelStack(self.document), Transport()
        self.panel = WorkPanel(self.work)
        panel = QVBoxLayout()
        panel.setContentsMargins(12, 0, 12, 0)
        panel.addWidget(self.panels)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addWidget(self.waveform_view, 1)
        right.addWidget(self.stage_row)
        right.addLayout(panel)
        middle = QHBoxLayout()
        middle.setContentsMargins(0, 0, 0, 0)
        middle.setSpacing(0)
        middle.addWidget(self.version_list)
        middle.addLayout(right, 1)
        self.workspace = QWidget()
        self.workspace.setLayout(middle)
        self.welcome = Welcome()
        centre = QWidget()
        column = QVBoxLayout(centre)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for widget in (self.notice, self.header):
            column.addWidget(widget)
        self.pages = QStackedWidget()
        for page in (self.welcome, self.workspace):
            self.pages.addWidget(page)
        column.addWidget(self.pages, 1)
        column.addWidget(self.panel)
        column.addWidget(self.transport)
        self.setCentralWidget(centre)
        handlers: dict[str, Callable[[], None]] = {command.ident: self._handler(command.ident) for command in COMMANDS}
        self.actions_by_name, menus = build_menus(self, handlers)
        self.recent_menu = menus["&File"].addMenu("Open &recent")
        menus["&File"].insertMenu(self.actions_by_name["save"], self.recent_menu)
        self._show_recent()
        menus["&Moments"].insertMenu(self.actions_by_name["audition"], self.panels.moments.kinds_menu(self))
        self.ruler_menus = RulerMenus(self.settings, self.waveform_view, self.panels.grid, self.actions_by_name, self)
        menus["&Beats"].insertMenu(self.actions_by_name["as_read"], self.ruler_menus.snaps)
        menus["V&iew"].insertMenu(self.actions_by_name["evening"], self.ruler_menus.rates)

    def _handler(self, name: str) -> Callable[[], None]:
        """What a command calls: a method of the window, or what putting beats right knows."""
        own = getattr(self, f"do_{name}", None)
        work = {**dict.fromkeys(OF_MARKERS, "marker_controller"), **dict.fromkeys(OF_MOMENTS, "moment_controller")}.get(
            name, "beats_controller"
        )
        return own or (lambda: getattr(self, work).do(name))

    def _connect(self) -> None:
        document, transport = self.document, self.transport
        self.welcome.open_wanted.connect(self.do_open)
        self.welcome.demo_wanted.connect(lambda: self.open_file(demo_session()))
        self.welcome.recent_wanted.connect(lambda name: self.open_file(Path(name)))
        self.work.changed.connect(self._show_opening)
        document.session_changed.connect(self._refresh)
        document.measured_changed.connect(self._refresh)
        document.measured_changed.connect(self._say_missed_loudness)
        document.track_changed.connect(self._show_track)
        document.problem.connect(lambda text: self.notice.say(text, problem=True))
        document.notice.connect(lambda text: self.notice.say(text, problem=False))
        document.song_wanted.connect(lambda found: ask_for_song(self, found))
        document.song_differs.connect(lambda found: ask_about_change(self, found))
        self.header.asked.connect(self._ask_for_result)
        self.panels.time.way_typed.connect(self._ask_for_result)
        self.tempo_controller = TempoController(document, self.waveform_view, self.panels.time, self.work, self)
        self.tempo_controller.passage_found.connect(self._loop_and_play)
        self.beats_controller = BeatsController(
            document, self.waveform_view, self.panels.grid, self._before_place, self
        )
        self.beats_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.beats_controller.wanted.connect(lambda name: self._handler(name)())
        self.moment_controller = MomentController(
            document, self.waveform_view, self.panels.moments, self._before_place, lambda: self._marked, self
        )
        self.moment_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.moment_controller.audition_wanted.connect(self._loop_and_play)
        self.moment_controller.bench_wanted.connect(self.open_bench)
        self.moment_controller.seek_wanted.connect(self._seek)
        self.moment_controller.mark_wanted.connect(lambda: self.marker_controller.do("mark"))
        self.marker_controller = MarkerController(
            document, self.waveform_view, self.panels.moments, self._before_place, lambda: self._marked, self
        )
        self.marker_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.marker_controller.wanted.connect(lambda name: self._handler(name)())
        self.marker_controller.seek_wanted.connect(lambda seconds: self._seek("before", seconds))
        self.marker_controller.bench_wanted.connect(self.open_bench)
        self.effect_controller = EffectController(
            document, self.panels.colour, self._before_place, lambda: self._marked, self
        )
        self.automation_controller = AutomationController(
            document, self.waveform_view, self.panels.colour, self._before_place, lambda: self._marked, self
        )
        self.effect_controller.chosen_changed.connect(self.automation_controller.show)
        self.automation_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.effect_controller.audition_wanted.connect(self._audition)
        self.effect_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.autosave_controller = AutosaveController(document, self)
        self.housekeeping = Housekeeping(self.work, self)
        self.recipe_controller = RecipeController(document, self)
        self.recipe_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.recipe_controller.tried.connect(self._try_stages)
        self.recipe_controller.listed.connect(self._offer_recipes)
        self.compare_controller = CompareController(document, self)
        self.compare_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.compare_controller.wanted.connect(lambda programme: self.playback and self.playback.compare(programme))
        self.compare_controller.play_wanted.connect(self.do_play)
        self.batch_controller = BatchController(document, self.settings, self)
        self.batch_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.level_controller = LevelController(document, self.panels.level, self)
        self.level_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.ending_controller = EndingController(document, self.waveform_view, self.panels.ending, self)
        self.ending_controller.message.connect(lambda text, problem: self.notice.say(text, problem=problem))
        self.ending_controller.audition_wanted.connect(self._play_from)
        self.panels.grid.asked.connect(self._ask_for_result)
        self.header.beats_wanted.connect(self.do_beats)
        document.reading_changed.connect(self._refresh)
        self.version_list.new_wanted.connect(self._add_version)
        self.version_list.export_wanted.connect(self.do_export)
        self.stage_row.chosen.connect(self.open_bench)
        self.stage_row.switched.connect(self._switch_stage)
        self.waveform_view.seek_wanted.connect(self._seek)
        self.waveform_view.loop_changed.connect(self.mark)
        transport.play_wanted.connect(self.do_play)
        transport.start_wanted.connect(self.do_start)
        transport.loudest_wanted.connect(self.do_loudest)
        transport.loop_wanted.connect(self._set_looping)
        transport.side_wanted.connect(self._set_side)
        transport.matched_wanted.connect(self._set_matched)
        transport.volume_wanted.connect(self._set_volume)

    def finish_loading(self) -> None:
        """Load what the first window did not wait for (after it has been painted)."""
        self._offer_recipes()
        self.work.submit(Task("Loading", "load", lambda _: load_kernels(), shown=False))

    def _offer_recipes(self) -> None:
        from latespin.render.recipes import all_recipes

        self.version_list.offer_recipes([(r.name, r.title, r.summary) for r in all_recipes()])

    def _try_stages(self, stages: Stages | None) -> None:
        """Hear other stages than the version's on After, or the version again."""
        if self.playback and self.playback.player:
            self.document.try_stages(stages)
            if stages is not None:
                self._set_side("after")
            self.playback.try_stages(stages)
            if stages is not None and not self.playback.player.playing:
                self.playback.player.play()

    def _start_playback(self) -> None:
        from latespin.desktop.session.playback import Playback

        playback = Playback(self.document, self._device_maker, self)  # type: ignore[arg-type]
        self.playback = playback
        playback.clicking = self.actions_by_name["click"].isChecked()
        playback.place_changed.connect(self._show_place)
        playback.playing_changed.connect(self.transport.show_playing)
        playback.meters_changed.connect(self.transport.meters.show_meters)
        playback.guarded.connect(self.transport.lamp.show_reduction)
        playback.device_changed.connect(self.transport.show_device)
        playback.side_changed.connect(self.transport.side.choose)
        self._set_matched(self.settings.matched)
        self.transport.volume.setValue(round(self.settings.volume_percent))
        self._set_volume(self.settings.volume_percent)

    # -- showing ------------------------------------------------------------------------------------------------

    def _show_track(self) -> None:
        loaded = self.document.loaded
        if loaded is None:
            return
        if self.playback is None:
            self._start_playback()
            assert self.playback is not None
            self.playback.load()
        self._marked = None
        self.tempo_controller.show_marked(None)
        self.actions_by_name["loop"].setChecked(False)
        self.transport.loop.setChecked(False)
        self._shown_peaks = None
        self.waveform_view.show_track(loaded.peaks, loaded.track.rate)
        self.settings.remember_file(self.document.path or loaded.track.path)
        self._show_recent()

    def _refresh(self) -> None:
        document = self.document
        loaded = document.loaded
        self.stage_row.show_stages(document.stages, self._bench, document.layout, document.problems())
        self.pages.setCurrentWidget(self.welcome if loaded is None else self.workspace)
        self.transport.setEnabled(loaded is not None)
        for command in COMMANDS:
            self.actions_by_name[command.ident].setEnabled(not command.song or loaded is not None)
        self._refresh_undo()
        self._refresh_title()
        self.tempo_controller.show_curve(self._bench)
        for name in ("evening", "daylight"):
            self.actions_by_name[name].setChecked(self.settings.theme.lower() == name)
        self.actions_by_name["matched"].setChecked(self.settings.matched)
        time_map = document.time_map()
        if loaded is not None and time_map is not None:
            peaks = document.peaks()
            shown = (time_map, peaks)
            if peaks is not None and shown != self._shown_peaks:
                self._shown_peaks = shown
                self.waveform_view.show_version(time_map, peaks, measured=document.measured() is not None)

    def _show_opening(self) -> None:
        if self.document.loaded is None:
            opening = [task for task in self.work.active("open") if task.shown]
            self.welcome.show_state(self.settings.recent, f"{opening[-1].title} …" if opening else "")

    def _refresh_undo(self) -> None:
        for name, word, label in (
            ("undo", "Undo", self.document.undo_label),
            ("redo", "Redo", self.document.redo_label),
        ):
            action = self.actions_by_name[name]
            action.setText(f"&{word} {label}".strip())
            action.setEnabled(bool(label))

    def _refresh_title(self) -> None:
        document = self.document
        name = document.path.stem if document.path else document.loaded.track.title if document.loaded else ""
        self.setWindowTitle(f"{name}[*] – Late Spin" if name else "Late Spin")
        self.setWindowModified(document.modified)

    def _show_place(self, side: str, seconds: float) -> None:
        self.waveform_view.set_playhead(side, seconds)
        time_map, loaded = self.document.time_map(), self.document.loaded
        if time_map is None or loaded is None:
            return
        rate = loaded.track.rate
        self._show_colour(side, seconds)
        before = time_map.before_at(seconds * rate) if side == "after" else seconds * rate
        self.panels.time.curve.show_place(self.document, before / loaded.track.frames)
        self.compare_controller.follow(before / rate)
        grid = self.document.grid
        bar = grid.words_at((time_map.clock_at(seconds * rate) if side == "after" else before) / rate) if grid else ""
        self.transport.show_place(before / rate, seconds if side == "after" else time_map.after_at(before) / rate, bar)

    def _show_colour(self, side: str, seconds: float) -> None:
        """Move the chosen colour's picture on."""
        player, time_map = self.playback.player if self.playback else None, self.document.time_map()
        if self._bench == "colour" and player is not None and time_map is not None:
            frame = seconds * player.rate if side == "after" else time_map.after_at(seconds * player.rate)
            self.panels.colour.show_place(round(frame), player.gain_history(self.panels.colour.chosen))

    def _show_recent(self) -> None:
        self.recent_menu.clear()
        for name in self.settings.recent:
            action = QAction(name.replace("&", "&&"), self.recent_menu)
            action.triggered.connect(lambda _=False, n=name: self.open_file(Path(n)))
            self.recent_menu.addAction(action)
        self.recent_menu.setEnabled(bool(self.settings.recent))
        self._show_opening()

    def open_bench(self, name: str) -> None:
        """Show a stage's bench."""
        self._bench = name
        self.panels.open(name)
        self.stage_row.show_stages(self.document.stages, name, self.document.layout, self.document.problems())
        self.tempo_controller.show_curve(name)
        self.beats_controller.edit(name == "grid")
        self.moment_controller.edit(name == "moments")
        self.ending_controller.edit(name == "ending")
        self.automation_controller.edit(name == "colour")
        self.level_controller.edit(name == "level")

    # -- asked for by the parts ---------------------------------------------------------------------------------

    def _ask_for_result(self, asked: str, text: str) -> None:
        before = self.document.stages
        try:
            apply(self.document, asked, text, self._marked)
        except ValueError as error:
            self.notice.say(str(error), problem=True)
            return
        cost = side_effects(before, self.document.stages) if asked in SPEED_ASKED else None
        if asked == "key":
            cost = kept_mode(self.document, text)
        if cost is not None:
            says, spared, words = cost
            self.notice.say(says, problem=False, choice=(words, lambda: self.document.edit_stages(words, spared)))
        self._asked_loudness = asked == "loudness"

    def _say_missed_loudness(self) -> None:
        """A loudness that was typed and cannot be had as things are: what that is, and what could be done."""
        measured, stages = self.document.measured(), self.document.stages
        if not self._asked_loudness or measured is None or stages.level.target_lufs is None:
            return
        self._asked_loudness = False
        if not measured.plan.note:
            return
        level = more_allowance(stages.level, measured.facts.loudness.integrated_lufs, stages.level.target_lufs)
        if level is None:
            self.notice.say(measured.plan.note, problem=False)
            return
        words = f"Allow {number(level.allowance_db, 1)} dB"
        self.notice.say(
            measured.plan.note, problem=False,
            choice=(words, lambda: self.document.edit_stages("Level: limiter allowance", replace(stages, level=level))),
        )  # fmt: skip

    def _before_place(self) -> tuple[float, bool]:
        """The playhead in seconds of Before, as exactly as the player knows it, and whether it plays."""
        player = self.playback.player if self.playback else None
        if player is None:
            return 0.0, False
        programme, frame = player.place()
        place = programme.to_before(frame) if programme else float(frame)
        return place / player.rate, player.playing

    def _loop_and_play(self, start: float, end: float) -> None:
        """Loop a range of Before, in seconds, and play it on the side being heard."""
        self.mark((start, end))
        if self.playback and self.playback.player:
            self.playback.seek("before", start)
            self.playback.player.play()

    def _audition(self, sound: object) -> None:
        """Hear a sound of its own, or the song again."""
        if self.playback:
            self.playback.audition(sound)

    def _play_from(self, seconds: float) -> None:
        """Play After from a second of Before on, going round nothing."""
        self.mark(None)
        self._set_side("after")
        if self.playback and self.playback.player:
            self.playback.seek("before", seconds)
            self.playback.player.play()

    def do_audition(self) -> None:
        if self._bench == "ending":
            self.ending_controller.audition()
        else:
            self.moment_controller.do("audition")

    def do_delete_moment(self) -> None:
        self.moment_controller.do("delete")

    def _add_version(self, recipe: str) -> None:
        if not recipe:
            level = replace(UNTOUCHED.level, on=True)
            self.document.add_version("As it is", replace(UNTOUCHED, level=level))
            return
        from latespin.render.recipes import find_recipe

        found = find_recipe(recipe)
        self.document.add_version(found.title, found.on(self.document.layout).stages)

    def _switch_stage(self, name: str, on: bool) -> None:
        stages: Stages = self.document.stages
        stage = replace(getattr(stages, name), on=on)
        self.document.edit_stages(f"Switch {name} {'on' if on else 'off'}", replace(stages, **{name: stage}))

    def _seek(self, side: str, seconds: float) -> None:
        if self.playback:
            self.playback.seek(side, seconds)

    def mark(self, loop: tuple[float, float] | None) -> None:
        self._marked = loop
        self._set_looping(loop is not None)

    def _set_looping(self, on: bool) -> None:
        on = on and self._marked is not None
        self.transport.loop.setChecked(on)
        self.actions_by_name["loop"].setChecked(on)
        self.waveform_view.set_loop(self._marked)
        self.tempo_controller.show_marked(self._marked)
        if self.playback:
            self.playback.set_loop(self._marked if on else None)

    def _set_side(self, side: str) -> None:
        if self.playback:
            self.playback.set_side(side)  # type: ignore[arg-type]

    def _set_matched(self, on: bool) -> None:
        self.settings.matched = on
        self.transport.matched.setChecked(on)
        self.actions_by_name["matched"].setChecked(on)
        if self.playback:
            self.playback.set_matched(on)

    def _set_volume(self, percent: float) -> None:
        self.settings.volume_percent = percent
        if self.playback:
            self.playback.set_volume((percent / 100.0) ** 2)

    # -- events -------------------------------------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Return presses the button that has the focus; digits open benches, with Shift they switch stages off and on."""
        focused = self.focusWidget()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and isinstance(focused, QAbstractButton):
            focused.click()
            return
        number = event.key() - Qt.Key.Key_0
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            number = {
                Qt.Key.Key_Exclam: 1,
                Qt.Key.Key_At: 2,
                Qt.Key.Key_NumberSign: 3,
                Qt.Key.Key_Dollar: 4,
                Qt.Key.Key_Percent: 5,
            }.get(Qt.Key(event.key()), number)
        if 1 <= number <= len(STAGES) and self.document.loaded:
            name = STAGES[number - 1]
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                self._switch_stage(name, not getattr(self.document.stages, name).on)
            else:
                self.open_bench(name)
        else:
            super().keyPressEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(url.toLocalFile()) for url in event.mimeData().urls() if QUrl(url).isLocalFile()]
        if files:
            event.acceptProposedAction()
            QTimer.singleShot(0, self, lambda: self.open_file(files[0]))
        if len(files) > 1:
            self.notice.say(f"One song at a time: opening {files[0].name}.", problem=False)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not may_leave(self) or not may_stop_exports(self):
            event.ignore()
            return
        self.settings.geometry = base64.b64encode(self.saveGeometry().data()).decode("ascii")
        save_settings(self.settings)
        if self.playback:
            self.playback.close()
        self.work.close()
        self.autosave_controller.close()
        event.accept()
