"""Level and match: references measured in the background, and what each stage adds to the loudness."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from latespin.desktop.panels.level_panel import LevelPanel
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.media.audio.decode import SONG_SUFFIXES
from latespin.model.tone_match import Match, Tone, averaged, tone_of
from latespin.model.values.units import parse_length
from latespin.model.version import Level, Stages
from latespin.paths import resolved

if TYPE_CHECKING:
    from latespin.analysis.tone import Spectrum

SONGS = f"Songs ({' '.join('*' + suffix for suffix in SONG_SUFFIXES)});;All files (*)"
KEPT = 12


class LevelController(QObject):
    """Requests of the Level panel become undo steps and background tasks."""

    message = Signal(str, bool)

    def __init__(self, document: Document, panel: LevelPanel, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._panel, self._window = document, panel, parent
        self._added: dict[Stages, dict[str, float]] = {}
        self._adding: tuple[Stages, Task] | None = None
        self._open = False
        self._folder = ""
        panel.wanted.connect(lambda name: run(self, name))
        panel.reference_chosen.connect(self.choose)
        panel.passages_typed.connect(self.measure_again)
        document.measured_changed.connect(self.show)
        document.session_changed.connect(self.show)
        document.track_changed.connect(self._forget)

    def edit(self, on: bool) -> None:
        """Whether the panel is open."""
        self._open = on
        self.show()

    # -- references ------------------------------------------------------------------------------------------------

    @command("add_reference")
    def add(self) -> None:
        """Ask for songs and measure them."""
        names, _ = QFileDialog.getOpenFileNames(self._window, tr("Add reference songs"), self._folder, SONGS)
        for name in names:
            self._folder = str(Path(name).parent)
            self.add_song(Path(name))

    def add_song(self, path: Path) -> None:
        """Measure a song's tone; it then is a reference of the session, and the version's."""
        self._measure(resolved(path), (), None)

    def _measure(self, path: Path, passages: tuple[tuple[float, float], ...], instead: Tone | None) -> None:
        document = self._document
        loaded = document.loaded

        def function(work: Task) -> Tone:
            from latespin.analysis.tone import spectrum_of
            from latespin.media.track import open_track

            track = open_track(path, work)
            return tone_of(spectrum_of(track.sound, track.rate, passages), track.title, str(path))

        def done(tone: Tone) -> None:
            if document.loaded is loaded:
                self._take(tone, instead)

        task = Task(
            tr("Measuring {0}").format(path.name), "reference", function, on_done=done,
            on_failed=lambda text: self.message.emit(f"{path.name}: {text}" if path.name not in text else text, True), shown=False,
        )  # fmt: skip
        document.work.submit(task)
        self._panel.warning.setText(tr("Measuring {0} …").format(path.name))

    def _take(self, tone: Tone, instead: Tone | None) -> None:
        """A measured tone in the session, in place of another where there was one, and of the version."""
        session = self._document.session
        others = [t for t in session.references if t != instead and t.path != tone.path]
        label = tr("Reference {0}").format(tone.title)
        self._with_reference(label, tone, (*others, tone))

    def _with_reference(self, label: str, tone: Tone | None, references: tuple[Tone, ...]) -> None:
        """One step: the session's references and the version's."""
        document, version = self._document, self._document.version
        if version is None:
            return
        level = version.stages.level
        level = replace(level, on=level.on or tone is not None, match=replace(level.match or Match(), reference=tone))
        changed = replace(version, stages=replace(version.stages, level=level))
        versions = tuple(changed if v.id == version.id else v for v in document.session.versions)
        document.edit_session(label, replace(document.session, versions=versions, references=references))

    def choose(self, which: int) -> None:
        """Hold the version against one of the session's references, or none."""
        known = self._document.session.references
        tone = known[which] if 0 <= which < len(known) else None
        if which < len(known):
            self._with_reference(tr("Reference {0}").format(tone.title) if tone else tr("No reference"), tone, known)

    @command("average_references")
    def average(self) -> None:
        """The average tone of all songs measured becomes a reference of its own, and the version's; an earlier average goes."""
        known = self._document.session.references
        songs = tuple(tone for tone in known if tone.path)
        if len(songs) > 1:
            tone = averaged(songs)
            self._with_reference(tr("Average of references"), tone, (*songs, tone))

    @command("remove_reference")
    def remove(self) -> None:
        match = self._document.stages.level.match
        if match is None or match.reference is None:
            return
        known = tuple(t for t in self._document.session.references if t != match.reference)
        self._with_reference(tr("Remove {0}").format(match.reference.title), None, known)

    def measure_again(self, text: str) -> None:
        """Measure the reference at typed passages, or, for *auto*, at those found by themselves."""
        match = self._document.stages.level.match
        reference = match.reference if match else None
        if reference is None:
            return
        try:
            passages = () if text.strip().lower() in ("", "auto") else parse_passages(text)
        except ValueError as error:
            self.message.emit(str(error), True)
            return
        self._measure(Path(reference.path), passages, reference)

    # -- what is known ---------------------------------------------------------------------------------------------

    def _forget(self) -> None:
        self._added.clear()

    @command("show_level")
    def show(self) -> None:
        """Show, and work out, what each stage adds; and the track's tone, once the match is looked at."""
        document = self._document
        if not self._open or document.loaded is None or document.version is None:
            return
        if self._panel.page == "match":
            self._want_tone_before()
        key = replace(document.stages, level=Level())
        measured, added = document.measured(), self._added.get(key)
        if added is None or measured is None:
            self._panel.show_added(None)
            if measured is not None:
                self._want_added(key, measured.before_level.loudness.integrated_lufs)
            return
        by_level = measured.facts.loudness.integrated_lufs - measured.before_level.loudness.integrated_lufs
        self._panel.show_added({**added, "level": by_level})

    def _want_added(self, key: Stages, before_level_lufs: float) -> None:
        if self._adding is not None and self._adding[1].active:
            if self._adding[0] == key:
                return
            self._adding[1].cancel()
        assert self._document.loaded is not None
        readers = self._document.loaded.readers

        def function(work: Task) -> dict[str, float]:
            from latespin.render.mastering.stage_loudness import added_by_stages

            return added_by_stages(readers, key, before_level_lufs, work)

        def done(added: dict[str, float]) -> None:
            while len(self._added) >= KEPT:
                self._added.pop(next(iter(self._added)))
            self._added[key] = added
            self.show()

        task = Task(tr("What each stage adds"), "stages", function, on_done=done, shown=False)
        self._adding = key, self._document.work.submit(task)

    def _want_tone_before(self) -> None:
        document = self._document
        loaded = document.loaded
        if loaded is None or document.tone_before is not None or document.work.active("tone"):
            return

        def function(_: Task) -> "Spectrum | None":
            from latespin.render.mastering.measure import tone_before_match

            return tone_before_match(loaded.track.sound, loaded.facts)

        def done(tone: Any) -> None:
            if document.loaded is loaded:
                document.tone_before = tone
                document.measured_changed.emit()

        document.work.submit(Task(tr("Measuring the track’s tone"), "tone", function, on_done=done, shown=False))


def parse_passages(text: str) -> tuple[tuple[float, float], ...]:
    """``0:32-0:51, 1:04-1:20`` as seconds. Raises ValueError."""
    found = []
    for part in text.replace("–", "-").split(","):
        start, dash, stop = part.partition("-")
        if not dash:
            raise ValueError("Type passages as from-to, such as 0:32-0:51, 1:04-1:20, or “auto”.")
        span = parse_length(start.strip()), parse_length(stop.strip())
        if span[1] <= span[0]:
            raise ValueError(f"The passage {part.strip()} ends before it begins.")
        found.append(span)
    return tuple(found)
