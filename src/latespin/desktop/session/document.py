"""The document: the open session, its undo history, the decoded track, and its analysis."""

import dataclasses
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from latespin.demo import demo_session
from latespin.desktop.session.edited_session import EditedSession
from latespin.desktop.session.loading import FIRST_RECIPE, FoundSession, LoadedTrack, find_session, load_track
from latespin.desktop.session.measuring import Measuring
from latespin.desktop.session.session_io import (
    SessionFiles,
    is_as_saved,
    is_changed,
    opened,
    reference_to,
    write_session,
)
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr
from latespin.dsp.arrays import amplitude
from latespin.errors import LateSpinError
from latespin.media.files.guard import Sources
from latespin.model.arranging.arrangement import Arrangement, arrange
from latespin.model.arranging.placement import Problem
from latespin.model.documents import version_edits
from latespin.model.documents.documents import Session
from latespin.model.documents.history import History
from latespin.model.moments.endings import NoEnding
from latespin.model.timing.beat_grid import grid_of
from latespin.model.timing.positions import Layout, layout_of
from latespin.model.timing.song_sections import Sections, detected_sections, placed
from latespin.model.timing.time_map import TimeMap
from latespin.model.version import Stages, Version
from latespin.paths import resolved

if TYPE_CHECKING:  # loaded when they are used: the first window does not wait for them
    from latespin.analysis.results import Reading
    from latespin.analysis.tone import Spectrum
    from latespin.media.audio.peaks import Peaks
    from latespin.render.mastering.level import LevelPlan
    from latespin.render.mastering.measure import Measured

ARRANGED = 40
READ_AFTER_MS = 150  # of a song that is opened: its first picture is painted by then, without waiting for Python's lock
FIRST_VERSION = Version(id="first", name="Slowed + reverb")


class Document(EditedSession):
    """The edited session with its track. Main thread only; signals say what to draw again."""

    track_changed = Signal()
    measured_changed = Signal()
    reading_changed = Signal()
    problem = Signal(str)
    notice = Signal(str)
    song_wanted = Signal(object)
    song_differs = Signal(object)
    sound_tracks_found = Signal()

    def __init__(self, work: WorkQueue, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.work = work
        self.loaded: LoadedTrack | None = None
        self.path: Path | None = None
        self._file_digest: str | None = None
        self.reading: Reading | None = None
        self.tone_before: Spectrum | None = None
        self._found_at: Path | None = None
        self._layout: tuple[tuple[object, ...], Layout] | None = None
        self._expected: tuple[Arrangement, float, Peaks] | None = None
        self._arranged: dict[int, tuple[Stages, Layout, Arrangement]] = {}
        self._reading: Task | None = None
        self._read_soon = QTimer(self, singleShot=True, interval=READ_AFTER_MS)
        self._read_soon.timeout.connect(self.read)
        self._opening: Task | None = None
        self._tried: Stages | None = None
        self._measuring = Measuring(
            work, lambda: self.loaded.readers if self.loaded else None, self._to_measure, self.problem.emit, self
        )
        self._measuring.changed.connect(self.measured_changed)
        self.session_changed.connect(self._follow_grid)
        self.session_changed.connect(lambda: self._measuring.follow(self.stages))

    @property
    def layout(self) -> Layout | None:
        """The layout of the song."""
        if self.loaded is None:
            return None
        key = self.loaded.track, self.grid, self.reading, self.session.sections
        if self._layout is None or any(a is not b for a, b in zip(self._layout[0], key, strict=True)):
            track, sections = self.loaded.track, placed(self.session.sections, self.grid)
            self._layout = key, layout_of(track.frames, track.rate, self.grid, self.reading, sections)
        return self._layout[1]

    @property
    def sections(self) -> Sections:
        """The sections of the song: as corrected in this session, otherwise as read."""
        return self.session.sections or detected_sections(self.reading, self.grid)

    def _follow_grid(self) -> None:
        """Read and measure again the versions that depend on bars, after the bars moved."""
        loaded, layout = self.loaded, self.layout
        if loaded is not None and layout is not None and loaded.readers.layout != layout:
            self.loaded = dataclasses.replace(loaded, readers=loaded.readers.laid_out(layout))
            self._measuring.forget_bars()

    # -- opening and saving -------------------------------------------------------------------------------

    def open_song(self, path: Path) -> None:
        """Open a song in a new session, in the background."""
        self._submit_opening(path, lambda work: load_track(path, work), self.begin_with_song)

    def open_session(self, path: Path) -> None:
        """Open a saved session and its song, in the background."""
        self._submit_opening(path, lambda work: find_session(path, work), self._take_found)

    def adopt(self, found: FoundSession, song: Path) -> None:
        """Open a found session with a song chosen by the person."""

        def done(loaded: LoadedTrack) -> None:
            self.begin(found.session, found.path, loaded, found.digest)

        self._submit_opening(song, lambda work: load_track(song, work, found.session.sound_track), done)

    def use_sound_track(self, number: int) -> None:
        """Take another sound track of the song's video for the song, in the background. Versions stay; undo begins anew."""
        assert self.loaded is not None
        path = self.loaded.track.path

        def done(loaded: LoadedTrack) -> None:
            edited = self.modified
            self.begin(self.session, self.path, loaded, self._file_digest)
            if edited:
                self.take_for_unsaved()

        self._submit_opening(path, lambda work: load_track(path, work, number), done)

    def _submit_opening(self, path: Path, function: Any, done: Any) -> None:
        """Open something in place of whatever is being opened. done : takes what ``function`` gives."""
        if self._opening:
            self._opening.cancel()
        self._opening = self.work.submit(
            Task(tr("Opening {0}").format(path.name), "open", function, on_done=done, on_failed=self.problem.emit)
        )

    def _take_found(self, found: FoundSession) -> None:
        """Begin with a session that was read, or ask about its song where that is missing or another one."""
        if found.song is None or found.loaded is None:
            self.song_wanted.emit(found)
        elif found.session.track and found.loaded.track.sha256 != found.session.track.sha256:
            self.song_differs.emit(found)
        else:
            self._found_at = found.path
            demo = resolved(found.path) == resolved(demo_session())  # a starting point, not to be saved over
            self.begin(found.session, None if demo else found.path, found.loaded, found.digest)

    def begin_with_song(self, loaded: LoadedTrack) -> None:
        """A new session on a song, with a first version made from the first recipe."""
        from latespin.render.recipes import find_recipe

        version = replace(FIRST_VERSION, stages=find_recipe(FIRST_RECIPE).stages)
        self.begin(Session(track=reference_to(loaded), versions=(version,), chosen=version.id), None, loaded)

    def begin(self, session: Session, path: Path | None, loaded: LoadedTrack, digest: str | None = None) -> None:
        """Take over an opened session and its track. A track that has moved or changed is an unsaved change.

        digest : of the session's file as it was read.
        """
        session = version_edits.with_valid_choice(session)
        folder = (path or self._found_at or resolved(loaded.track.path)).parent
        in_memory = opened(session, loaded, folder)
        self._saved = in_memory if is_as_saved(session, path, loaded) else session
        self._history = History(in_memory)
        self.path, self.loaded, self._file_digest = path, loaded, digest
        self._measuring.restart()
        self.reading = self._read_grid = self.tone_before = None
        self._read_soon.start()
        self.track_changed.emit()
        self.session_changed.emit()
        for warning in loaded.track.warnings:
            self.notice.emit(warning)
        if loaded.track.sound_tracks > 1:
            self.sound_tracks_found.emit()

    def read(self, *, anew: bool = False) -> None:
        """Find out the track's beats, key and sections in the background. anew : not as kept from before."""
        self._read_soon.stop()
        if self._reading is not None:
            self._reading.cancel()
        if self.loaded is None:
            return
        track = self.loaded.track

        def function(work: Task) -> "Reading":
            from latespin.media.storage.analysis_cache import read_track

            return read_track(track, work, anew=anew)

        def done(reading: "Reading") -> None:
            if self.loaded is not None and self.loaded.track is track:
                self.reading, self._read_grid = reading, grid_of(reading)
                task.shown = False  # what it found is seen everywhere; the list of work need not say it
                self.reading_changed.emit()
                self.session_changed.emit()

        title = tr("Reading {0}").format(track.title)
        task = Task(title, "read", function, on_done=done, on_failed=self.problem.emit)
        self._reading = self.work.submit(task)

    @property
    def is_reading(self) -> bool:
        """Whether the track is still being read."""
        return self._read_soon.isActive() or (self._reading is not None and self._reading.active)

    def save(self, path: Path) -> bool:
        """Write the session; paths beside or below its folder are kept relative. False where it failed."""
        try:
            digest = write_session(self.session, self.grid, path)
        except LateSpinError as error:
            self.problem.emit(str(error))
            return False
        self._saved, self.path, self._file_digest = self.session, path, digest
        self.session_changed.emit()
        return True

    @property
    def sources(self) -> Sources:
        """The files the session is made from at the time of asking; for background work that writes."""
        return SessionFiles(lambda: self.session)

    def changed_elsewhere(self, path: Path) -> bool:
        """True if another program has written the session's file since it was opened or saved here."""
        return path == self.path and self._file_digest is not None and is_changed(path, self._file_digest)

    def collect(self, path: Path) -> None:
        """Write the session with copies of all its files beside it, in the background."""
        session = replace(self.session, grid=self.grid)

        def function(work: Task) -> tuple[int, list[str]]:
            from latespin.media.storage.bundle import collect

            return collect(session, path, work, overwrite=True)

        def done(result: tuple[int, list[str]]) -> None:
            copied, missing = result
            message = tr("{0} is written; files copied beside it: {1}.").format(path.name, copied)
            if missing:
                message += tr(" Not there, and so not copied: {0}.").format(", ".join(missing))
            self.notice.emit(message)

        self.work.submit(
            Task(tr("Collecting {0}").format(path.name), "collect", function, on_done=done, on_failed=self.problem.emit)
        )

    def take_for_unsaved(self) -> None:
        """Take the session for one that has changes which are not in its file."""
        self._saved = Session()
        self.session_changed.emit()

    def forget_changes(self) -> None:
        """Take the session as it is for saved."""
        self._saved = self.session

    # -- what is known of it ------------------------------------------------------------------------------

    def time_map(self, stages: Stages | None = None) -> TimeMap | None:
        """The time map of a version (the chosen one) of the track."""
        made = self.arrangement(stages)
        return made.map if made else None

    def arrangement(self, stages: Stages | None = None) -> Arrangement | None:
        """The arrangement of a version (by default the chosen one)."""
        layout = self.layout
        if layout is None:
            return None
        wanted = stages or self.stages
        kept = self._arranged.get(id(wanted))
        if kept is None or kept[0] is not wanted or kept[1] is not layout:
            kept = wanted, layout, arrange(replace(wanted, level=Stages().level), layout)
            self._arranged = dict([*self._arranged.items()][-ARRANGED:]) | {id(wanted): kept}
        return kept[2]

    def peaks(self) -> "Peaks | None":
        """The chosen version's peaks as measured, or what they will roughly be until it has been."""
        measured, made = self.measured(), self.arrangement()
        if measured is not None or made is None or self.loaded is None:
            return measured.peaks if measured else None
        from latespin.media.audio.peaks import expected_peaks
        from latespin.render.timeline.tail_lengths import tail_after

        gain = amplitude(self.plan().gain_db)
        if self._expected is None or self._expected[0] is not made or self._expected[1] != gain:
            tail = tail_after(self.stages, made, self.loaded.readers.context(self.stages))
            self._expected = made, gain, expected_peaks(self.loaded.peaks, made.map, gain, tail)
        return self._expected[2]

    def title_words(self) -> str:
        """What a title says the chosen version does."""
        from latespin.render.export.tags import version_words

        assert self.loaded is not None
        return version_words(self.loaded.readers, self.stages)

    def tail_seconds(self) -> float:
        """The length of the chosen version's tail, seconds."""
        from latespin.render.timeline.tail_lengths import tail_after

        made = self.arrangement()
        assert self.loaded is not None
        assert made is not None
        context = self.loaded.readers.context(self.stages)
        return tail_after(self.stages, made, context) / context.rate

    def problems(self) -> tuple[Problem, ...]:
        """Problems of the chosen version's moments and ending."""
        made = self.arrangement()
        if made is None:
            return ()
        assert self.loaded is not None
        from latespin.render.effects.problems import version_problems

        return version_problems(self.stages, made, self.loaded.readers.context(self.stages))

    def measured(self, stages: Stages | None = None) -> "Measured | None":
        """The measurements of a version (by default the chosen one), if there are any."""
        return self._measuring.get(stages or self.stages)

    def plan(self, stages: Stages | None = None) -> "LevelPlan":
        """The Level plan: measured, or an estimate until then."""
        from latespin.render.mastering.level import LevelPlan, estimate_plan

        stages = stages or self.stages
        measured = self.measured(stages)
        if measured:
            return measured.plan
        if self.loaded is None:
            return LevelPlan()
        known = self._measuring.before_level(stages)
        before = self.loaded.facts.loudness.integrated_lufs
        if known is None:
            return estimate_plan(self.loaded.facts, stages.level, before)
        return estimate_plan(known.before_level, stages.level, before, known.tone)

    def heard_lufs(self) -> tuple[float, float]:
        """Loudness heard of Before and After, measured or expected."""
        if self.loaded is None:
            return -math.inf, -math.inf
        measured = self.measured()
        if measured:
            return self.loaded.facts.heard_lufs, measured.facts.heard_lufs
        known = self._measuring.before_level(self.stages)
        facts = known.before_level if known else self.loaded.facts
        return self.loaded.facts.heard_lufs, facts.heard_lufs + self.plan().gain_db

    @property
    def playing(self) -> bool:
        """True if a change must be heard at once, so that measuring waits longer."""
        return self._measuring.playing

    @playing.setter
    def playing(self, on: bool) -> None:
        self._measuring.playing = on

    def _to_measure(self) -> list[Stages]:
        if not self.version:
            return []
        others = [v.stages for v in self.session.versions if v.id != self.session.chosen]
        tried = [self._tried] if self._tried is not None else []
        return [*tried, self.stages, *self.with_a_stage_switched(), *others]

    def try_stages(self, stages: Stages | None) -> None:
        """Measure other stages than the version's, which are being listened to, first of all; None for none."""
        self._tried = stages
        self._measuring.later()

    def with_a_stage_switched(self) -> list[Stages]:
        """The chosen version with a stage switched off or on."""
        chosen, found = self.stages, []
        parts = ["time", "colour"]
        parts += ["moments"] if chosen.moments.placed else []
        parts += ["ending"] if not isinstance(chosen.ending.way, NoEnding) else []
        for part in parts:
            stage = getattr(chosen, part)
            found.append(replace(chosen, **{part: replace(stage, on=not stage.on)}))
        return found

    def quietest_lufs(self) -> float:
        """The least loudness heard of Before, After, and After with a stage switched."""
        switched = [m.facts.heard_lufs for s in self.with_a_stage_switched() if (m := self.measured(s))]
        return min(*self.heard_lufs(), *switched)
