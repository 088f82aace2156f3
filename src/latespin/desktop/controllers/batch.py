"""Exporting many songs: inspects songs and writes files in the background, and keeps the dialog current."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, QTimer, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.model.arranging.relocation import made_on
from latespin.model.text.describe import say_version
from latespin.model.values.units import number
from latespin.paths import resolved

if TYPE_CHECKING:  # imported where they are used: the first window does not wait for them
    from latespin.desktop.dialogs.batch import BatchDialog
    from latespin.render.batch.jobs import Job
    from latespin.render.batch.plan import BatchItem, Choice
    from latespin.render.batch.run import BatchRun
    from latespin.render.batch.song_summary import SongSummary

REFRESH_MS, PLAN_MS = 150, 120
STATES = {
    "waiting": "Waiting", "running": "", "done": "Written", "failed": "Failed", "cancelled": "Stopped", "kept": "Written before",
}  # fmt: skip
VERSION, RECIPE = "version:", "recipe:"


class BatchController(QObject):
    """One dialog, made when it is first asked for; its songs and ticks stay while the window is open."""

    message = Signal(str, bool)

    def __init__(self, document: Document, settings: Settings, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._settings, self._window = document, settings, parent
        self.dialog: BatchDialog | None = None
        self._surveys: dict[str, SongSummary | str | None] = {}  # looked at, or why it could not be, or not yet
        self.orders: list[BatchItem] = []
        self.run: BatchRun | None = None
        self._making: Task | None = None
        self._planning: Task | None = None
        self._looking: tuple[Task, list[Job]] | None = None
        self._soon = QTimer(self, singleShot=True, interval=PLAN_MS)
        self._soon.timeout.connect(self._plan)
        self._timer = QTimer(self, interval=REFRESH_MS)
        self._timer.timeout.connect(self._follow)

    @command("batch", "Export &many songs …", menu="&File", keys="Ctrl+Shift+E", group=2)
    def open(self) -> None:
        """Show the dialog."""
        from latespin.desktop.dialogs.batch import BatchDialog

        if self.dialog is None:
            self.dialog = dialog = BatchDialog(self._settings, self._window)
            dialog.wanted.connect(lambda name: run(self, name))
            dialog.changed.connect(self._soon.start)
            dialog.songs_given.connect(self.add_songs)
            settings = self._settings
            dialog.folder.setText(settings.set_folder or str(Path.home()))
            dialog.pattern.setText(settings.set_pattern)
        if self._making is None or not self._making.active:
            self._offer()
            loaded = self._document.loaded
            if loaded is not None and not self._surveys:
                self.add_songs([loaded.track.path])
        self._plan()
        self.dialog.show()
        self.dialog.raise_()

    def _offer(self) -> None:
        from latespin.render.recipes import all_recipes

        assert self.dialog is not None
        ticked = self.dialog.ticked() if self.dialog.choices.count() else [VERSION + self._document.session.chosen]
        versions = self._document.session.versions
        found = [(VERSION + v.id, v.name, say_version(v.stages), VERSION + v.id in ticked) for v in versions]
        found += [
            (RECIPE + r.name, tr("Recipe: {0}").format(tr(r.title)), tr(r.summary), RECIPE + r.name in ticked)
            for r in all_recipes()
        ]
        self.dialog.offer(found)

    # -- songs -----------------------------------------------------------------------------------------------------

    def open_with(self, places: list[Path]) -> None:
        """Show the dialog, with songs and the songs in folders."""
        self.open()
        self.add_songs(places)

    def add_songs(self, places: list[Path]) -> None:
        """Add songs and the songs in folders, and look at them; folders are gone through in the background."""
        if not places or self._busy:
            return

        def function(_: Task) -> list[str]:
            from latespin.render.batch.run import songs_in

            return [str(resolved(path)) for path in songs_in(places)]

        def done(paths: list[str]) -> None:
            for path in paths:
                self._surveys.setdefault(path, None)
            self._look()
            self._show_songs()

        task = Task(tr("Finding songs"), "plan", function, on_done=done, on_failed=self._say, shown=False)
        self._document.work.submit(task)

    def _look(self) -> None:
        """Look at the songs that have not been looked at, several at a time."""
        if self._looking is not None and self._looking[0].active:
            return
        from latespin.render.batch.local_workers import LocalWorkers
        from latespin.render.batch.run import survey_jobs
        from latespin.render.batch.worker_pool import run_jobs

        wanted = [Path(path) for path, known in self._surveys.items() if known is None]
        if not wanted:
            return
        jobs = survey_jobs(wanted)

        def done(_: object) -> None:
            for job in jobs:
                if job.argument in self._surveys:
                    self._surveys[job.argument] = job.result if job.state == "done" else job.message or None
            self._show_songs()
            self._plan()
            self._look()

        def function(work: Task) -> bool:
            run_jobs(
                jobs,
                LocalWorkers(),
                lambda _: work.report(sum(j.fraction for j in jobs) / len(jobs)),
                work.cancelled,
            )
            return True

        task = Task(
            tr("Looking at the songs"),
            "survey",
            function,
            on_done=done,
        )
        self._looking = self._document.work.submit(task), jobs

    def _show_songs(self) -> None:
        if self.dialog is None:
            return
        rows = []
        for path, known in self._surveys.items():
            wrong = known if isinstance(known, str) else ""
            title = Path(path).name if known is None or isinstance(known, str) else known.title
            rows.append((path, f"{title} …" if known is None else title, wrong))
        self.dialog.show_songs(rows)

    @command("remove_songs")
    def remove_songs(self) -> None:
        assert self.dialog is not None
        if not self._busy:
            for item in self.dialog.songs.selectedItems():
                self._surveys.pop(str(item.data(Qt.ItemDataRole.UserRole)), None)
            self._show_songs()
            self._plan()

    # -- the plan --------------------------------------------------------------------------------------------------

    @property
    def _busy(self) -> bool:
        return self._making is not None and self._making.active

    def _choices(self) -> "list[Choice]":
        from latespin.render.batch.plan import Choice, choices_of
        from latespin.render.recipes import load_recipe

        assert self.dialog is not None
        found: list[Choice] = []
        for key in self.dialog.ticked():
            if key.startswith(VERSION):
                version = self._document.session.version(key.removeprefix(VERSION))
                if version:
                    layout = self._document.layout
                    found.append(Choice(version.name, version.stages, made_on=made_on(layout) if layout else None))
            else:
                found += choices_of([load_recipe(key.removeprefix(RECIPE))])
        return found

    def _songs(self) -> "list[SongSummary]":
        """The analysis of each song; for the session's own song with the corrected beats and sections."""
        loaded, grid, sections = self._document.loaded, self._document.grid, self._document.session.sections
        known = [song for song in self._surveys.values() if song is not None and not isinstance(song, str)]
        return [
            song.corrected(grid, sections) if loaded is not None and song.sha256 == loaded.track.content_id else song
            for song in known
        ]

    def _plan(self) -> None:
        """Work out what would be written, in the background."""
        dialog = self.dialog
        if dialog is None or self._busy:
            return
        if self._planning is not None:
            self._planning.cancel()
        self.run, self.orders = None, []
        folder, pattern, kind = self._folder, dialog.pattern.text(), dialog.kind
        suffix, encoding = kind.suffix, kind.encoding
        songs, choices, overwrite = self._songs(), self._choices(), dialog.overwrite.isChecked()
        excerpt, tags = dialog.part.part(self._document.stages), dialog.tags

        def function(work: Task) -> "list[BatchItem] | None":
            from latespin.render.batch.plan import plan_set
            from latespin.render.batch.run import going_on

            found = plan_set(
                songs,
                choices,
                folder,
                pattern,
                suffix,
                encoding,
                overwrite=overwrite,
                excerpt=excerpt,
                tags=tags,
                sources=self._document.sources,
            )
            return None if work.cancelled() else going_on(found, folder)

        def done(orders: "list[BatchItem] | None") -> None:
            if orders is not None and task is self._planning and not self._busy:
                self.orders = orders
                self._say(self._words())
                self._show_plan(folder)

        def failed(text: str) -> None:
            if task is self._planning:
                self._say(text)
                self._show_plan(folder)

        task = Task(tr("Planning the export"), "plan", function, on_done=done, on_failed=failed, shown=False)
        self._planning = self._document.work.submit(task)
        self._enable()

    def _show_plan(self, folder: Path) -> None:
        assert self.dialog is not None
        self.dialog.show_orders(self.orders, folder)
        self.dialog.progress.setValue(0)
        self._enable()

    def _words(self) -> str:
        if not self._surveys:
            return tr("Drop songs or a folder of songs.")
        if not self.orders:
            waiting = any(known is None for known in self._surveys.values())
            return tr("Looking at the songs …") if waiting else tr("Tick at least one version or recipe.")
        conflicts = sum(bool(order.conflict) for order in self.orders)
        total = sum(order.bytes for order in self.orders)
        message = tr("{0} files, about {1} MB.").format(len(self.orders), number(total / 1e6, 0))
        return (
            tr("{0} {1} cannot be written as planned: see the last column.").format(message, conflicts)
            if conflicts
            else message
        )

    def _say(self, text: str) -> None:
        if self.dialog is not None:
            self.dialog.says.setText(text)

    def _enable(self) -> None:
        assert self.dialog is not None
        buttons, busy = self.dialog.buttons, self._busy
        waiting = any(known is None for known in self._surveys.values())
        clean = bool(self.orders) and not any(order.conflict for order in self.orders)
        ended = self.run is not None and not busy
        again = ended and any(job.state in ("failed", "cancelled") for job in self.run.jobs)  # type: ignore[union-attr]
        buttons["start_batch"].setEnabled(clean and not busy and not waiting and self.run is None)
        buttons["stop_batch"].setEnabled(busy)
        buttons["stop_one"].setEnabled(busy)
        buttons["retry_batch"].setEnabled(again)

    # -- making ----------------------------------------------------------------------------------------------------

    @command("start_batch")
    def start(self) -> None:
        dialog = self.dialog
        assert dialog is not None
        folder, orders, songs = self._folder, self.orders, self._songs()
        self._settings.set_folder, self._settings.set_pattern = str(folder), dialog.pattern.text()
        overwrite, credit = dialog.overwrite.isChecked(), dialog.credit.text().strip()

        def begin() -> "BatchRun":
            from latespin.render.batch.run import BatchRun, make_folder

            make_folder(folder)
            return BatchRun(orders, songs, folder, overwrite=overwrite, credit=credit)

        self._make(begin)

    @command("retry_batch")
    def retry(self) -> None:
        run = self.run
        assert run is not None
        for job in run.jobs:
            run.retry(job)
        self._make(lambda: run)

    def _make(self, begin: "Callable[[], BatchRun]") -> None:
        """Make the files of a run in the background; ``begin`` gives it there, since it looks at what has been written before."""
        from latespin.render.batch.local_workers import LocalWorkers, cores

        folder, count = self._folder, len(self.orders)
        unread = [(path, known) for path, known in self._surveys.items() if isinstance(known, str)]

        def function(work: Task) -> str:
            from latespin.render.batch.report import Line

            self.run = run = begin()
            run.run(LocalWorkers(), lambda _: work.report(run.fraction), work.cancelled)
            return str(run.report([Line("failed", path, message=why) for path, why in unread])[0])

        def done(report: str) -> None:
            assert self.run is not None
            states = [job.state for job in self.run.jobs]
            failed, stopped = states.count("failed"), states.count("cancelled")
            message = tr("{0} of {1} files are written to {2}. The report is {3}.").format(
                states.count("done"), len(states), folder, Path(report).name
            )
            if failed or stopped:
                counts = [f"{n} {tr(what)}" for n, what in ((failed, "failed"), (stopped, "were stopped")) if n]
                message += tr(" {0}: choose “Try again” to make them once more.").format(", ".join(counts))
            self._ended(message, bool(failed))

        task = Task(
            tr("Export of {0} files").format(count),
            "set",
            function,
            on_done=done,
            on_failed=lambda text: self._ended(text, True),
        )
        self._making = self._document.work.submit(task)
        self._say(tr("Making {0} files, {1} at a time …").format(count, cores()))
        self._timer.start()
        self._enable()

    @property
    def _folder(self) -> Path:
        assert self.dialog is not None
        return Path(self.dialog.folder.text()).expanduser()

    def _ended(self, message: str, problem: bool) -> None:
        self._timer.stop()
        self._show_states()
        self._enable()
        self._say(message)
        self.message.emit(message, problem)

    @command("stop_batch")
    def stop(self) -> None:
        if self._making is not None:
            self._making.cancel()

    @command("stop_one")
    def stop_one(self) -> None:
        assert self.dialog is not None
        if self.run is not None:
            for row in self.dialog.rows_chosen():
                self.run.jobs[row].cancel()

    def _follow(self) -> None:
        """Show how far it is; a set that was stopped before it began says nothing by itself."""
        self._show_states()
        if self._making is not None and self._making.state == "cancelled":
            self._ended(tr("The export was stopped before it began."), False)

    def _show_states(self) -> None:
        """State of each file."""
        if self.run is None or self.dialog is None:
            return
        for row, line in enumerate(self.run.lines()):
            text, job = STATES[line.state], self.run.jobs[row]
            if line.state == "running":
                text = f"{100 * job.fraction:.0f} %"
            elif line.outcome is not None:
                lufs = line.outcome.integrated_lufs
                level = (
                    tr(", {0} LUFS, {1} dBTP").format(number(lufs, 1), number(line.outcome.true_peak_dbtp or 0.0, 1))
                    if lufs is not None
                    else ""
                )
                text = f"{text}{level}. {' '.join(line.outcome.notes)}".strip()
            elif line.message:
                text = f"{text}: {line.message}"
            self.dialog.show_state(row, text, wrong=line.state in ("failed", "cancelled"))
        self.dialog.progress.setValue(round(1000 * self.run.fraction))
