"""What the window's menus and keys do: a method for each command, ``do_`` and its name. The window itself is in ``window.py``."""

from pathlib import Path

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QFileDialog, QMainWindow

from latespin.desktop.session.loading import OPEN_FILTER
from latespin.desktop.shell.confirmations import ask_about_other_save, may_leave
from latespin.desktop.theme.theme import apply_theme

SESSION_SUFFIX = ".latespin"


class CommandedWindow(QMainWindow):
    """The commands; what they work on is put together by the window that is made of it."""

    def open_file(self, path: Path) -> None:
        """Open a song or a session, after asking what becomes of unsaved work."""
        if not may_leave(self):
            return
        if path.suffix.lower() == SESSION_SUFFIX:
            self.document.open_session(path)
        else:
            self.document.open_song(path)

    def do_open(self) -> None:
        folder = str(Path(self.settings.recent[0]).parent) if self.settings.recent else ""
        name, _ = QFileDialog.getOpenFileName(self, "Open a song or a session", folder, OPEN_FILTER)
        if name:
            self.open_file(Path(name))

    def do_save(self) -> None:
        self.save()

    def do_save_as(self) -> None:
        self.save(ask=True)

    def save(self, *, ask: bool = False) -> bool:
        """Save the session, asking for a place where there is none; False where it was not saved."""
        path = self.document.path
        if path is None or ask:
            loaded = self.document.loaded
            start = str(loaded.track.path.with_suffix(SESSION_SUFFIX)) if loaded else ""
            name, _ = QFileDialog.getSaveFileName(
                self, "Save the session", str(path or start), f"Sessions (*{SESSION_SUFFIX})"
            )
            if not name:
                return False
            path = Path(name)
            if path.suffix.lower() != SESSION_SUFFIX:
                path = path.with_name(path.name + SESSION_SUFFIX)
        if self.document.changed_elsewhere(path):
            apply = ask_about_other_save(self, path)
            if apply != "replace":
                return self.save(ask=True) if apply == "another" else False
        if self.document.save(path):
            self.settings.remember_file(path)
            self._show_recent()
            self.notice.say(f"Saved {path}", problem=False)
            return True
        return False

    def do_export(self) -> None:
        from latespin.desktop.dialogs.export import ExportDialog

        if self.document.loaded is None or self.document.version is None:
            return
        dialog = ExportDialog(self.document, self.settings, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.accepted.connect(lambda: self._export(dialog))
        dialog.open()

    def _export(self, dialog: object) -> None:
        from latespin.desktop.controllers.export import export_task

        assert self.document.loaded is not None
        for order in dialog.orders():  # type: ignore[attr-defined]
            exported = lambda o=order: self.version_list.mark_exported(o.version)  # noqa: E731
            self.work.submit(export_task(self.document.loaded.readers, order, self.document.sources, exported))

    def do_collect(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Collect the session and its files", "", f"Sessions (*{SESSION_SUFFIX})"
        )
        if name:
            path = Path(name)
            self.document.collect(
                path if path.suffix.lower() == SESSION_SUFFIX else path.with_name(path.name + SESSION_SUFFIX)
            )

    def do_set(self) -> None:
        self.batch_controller.open()

    def do_compare(self) -> None:
        self.compare_controller.open()

    def do_recipes(self) -> None:
        self.recipe_controller.open()

    def do_keep_recipe(self) -> None:
        self.recipe_controller.open(1)

    def do_quit(self) -> None:
        self.close()

    def do_undo(self) -> None:
        self.document.undo()

    def do_redo(self) -> None:
        self.document.redo()

    def do_duplicate(self) -> None:
        self.document.duplicate_version()

    def do_rename(self) -> None:
        card = self.version_list.cards.get(self.document.session.chosen)
        if card:
            card.rename()

    def do_move_up(self) -> None:
        self.document.move_version(self.document.session.chosen, -1)

    def do_move_down(self) -> None:
        self.document.move_version(self.document.session.chosen, 1)

    def do_delete(self) -> None:
        self.document.delete_version(self.document.session.chosen)

    def do_play(self) -> None:
        if self.playback:
            self.playback.toggle()

    def do_start(self) -> None:
        if self.playback:
            at = self._marked[0] if self._marked and self.transport.loop.isChecked() else 0.0
            self.playback.seek("before", at)

    def do_loudest(self) -> None:
        if self.playback and self.document.loaded:
            self.playback.seek("before", self.document.loaded.facts.loudest_seconds)

    def _jump_section(self, forward: bool) -> None:
        reading = self.document.reading
        if self.playback and reading and reading.sections:
            here, _ = self._before_place()
            starts = [part.start for part in reading.sections]
            ahead = [start for start in starts if start > here + 0.05]
            behind = [start for start in starts if start < here - 1.0]
            self.playback.seek("before", (ahead[0] if ahead else here) if forward else (behind[-1] if behind else 0.0))

    def do_next_section(self) -> None:
        self._jump_section(True)

    def do_last_section(self) -> None:
        self._jump_section(False)

    def do_drums(self) -> None:
        reading = self.document.reading
        if reading is None or reading.drums_enter is None:
            self.notice.say("No place was found where drums come in after an opening without them.", problem=False)
        elif self.playback:
            self.playback.seek("before", reading.drums_enter)

    def do_beats(self) -> None:
        self.open_bench("grid")

    def do_click(self) -> None:
        self._set_clicking(not (self.playback and self.playback.clicking))

    def _set_clicking(self, on: bool) -> None:
        self.actions_by_name["click"].setChecked(on)
        self.panels.grid.click.setChecked(on)
        if self.playback:
            self.playback.set_clicking(on)

    def do_snap(self) -> None:
        self.ruler_menus.switch_snapping()

    def do_bar_rulers(self) -> None:
        self.ruler_menus.switch_bars()

    def do_zoom_bars(self) -> None:
        grid, time_map, loaded = self.document.grid, self.document.time_map(), self.document.loaded
        if grid is None or time_map is None or loaded is None:
            self.notice.say("There are no bars yet. Tap along, or type the track’s BPM.", problem=False)
            return
        here, _ = self._before_place()
        first = int(grid.number_at(here + 1e-3) // grid.beats_per_bar) * grid.beats_per_bar
        start, end = grid.seconds_of(np.array([first, first + 4 * grid.beats_per_bar])).tolist()
        if self.waveform_view.side == "after":
            rate = loaded.track.rate
            start, end = (time_map.after_at(max(0.0, place) * rate) / rate for place in (start, end))
        self.waveform_view.show_range(max(0.0, start), end)

    def do_loop(self) -> None:
        if self._marked is None:
            self.notice.say("Drag along a ribbon to mark the range to loop.", problem=False)
        self._set_looping(not self.transport.loop.isChecked())

    def do_unmark(self) -> None:
        self.mark(None)

    def do_side(self) -> None:
        if self.playback:
            self._set_side("before" if self.playback.side == "after" else "after")

    def do_matched(self) -> None:
        self._set_matched(not self.settings.matched)

    def do_zoom_in(self) -> None:
        self.waveform_view.zoom(1.5)

    def do_zoom_out(self) -> None:
        self.waveform_view.zoom(1.0 / 1.5)

    def do_zoom_fit(self) -> None:
        self.waveform_view.zoom_to_fit()

    def do_evening(self) -> None:
        self._dress("Evening")

    def do_daylight(self) -> None:
        self._dress("Daylight")

    def _dress(self, name: str) -> None:
        self.settings.theme = name
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, name)
        for part in (self.header, self.version_list, self.transport, self.panels):
            part.restyle()
        self.version_list.refresh_ribbons()
        self._refresh()
        self.update()

    def do_about(self) -> None:
        from latespin.desktop.dialogs.about import AboutBox

        box = AboutBox(self)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()
